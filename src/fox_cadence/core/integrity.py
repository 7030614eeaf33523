"""Whether the objects of a project that comes from elsewhere fit together."""

import re
from collections import Counter
from collections.abc import Iterable, Iterator

from fox_cadence.core.marks import SyncPoint
from fox_cadence.core.project import TABLES, Project
from fox_cadence.core.ticks import TICKS_PER_SECOND

_HASH = re.compile(r"[0-9a-f]{64}")
LONGEST_HOURS = 24
_MOST_TICKS = LONGEST_HOURS * 3600 * TICKS_PER_SECOND


def integrity_errors(project: Project) -> Iterator[str]:
    """What would break where the project is shown: ids that stand twice or name nothing, times beyond all
    measure."""
    for table, kind in TABLES.items():
        ids = [each.id for each in getattr(project, table)]
        yield from (f"{kind} {each!r} stands twice" for each, count in Counter(ids).items() if count > 1)
    shots = project.shot_index()
    captions = {caption.id for caption in project.captions}
    texts = {text.id for text in project.scene_texts}
    roles = {role.id for role in project.roles}
    lying = [(each.id, each.shot_id) for each in project.captions]
    lying += [(each.id, each.shot_id) for each in project.titles]
    for item, shot in (*lying, *((each.id, each.shot_id) for each in project.scene_texts)):
        yield from _unknown(f"{item!r} lies on", "shot", [shot], shots)
    for figure in project.figures:
        yield from _unknown(f"figure {figure.id!r} speaks for", "role", [figure.role_id], roles)
    taken: Counter[str] = Counter()
    for line in project.lines:
        where = f"line {line.id!r} names"
        yield from _unknown(where, "role", [line.role_id], roles)
        yield from _unknown(where, "caption", line.caption_ids, captions)
        yield from _unknown(where, "scene text", [line.scene_text_id] if line.scene_text_id else [], texts)
        yield from _unknown(where, "shot", [line.first_shot_id, line.last_shot_id], shots)
        points = [mark.shot_id for mark in line.marks if isinstance(mark, SyncPoint)]
        yield from _unknown(where, "shot", points, shots)
        if shots.get(line.first_shot_id, 0) > shots.get(line.last_shot_id, len(shots)):
            yield f"line {line.id!r} ends before the shot it begins in"
        if not line.caption_ids and line.scene_text_id is None and line.said is None:
            yield f"line {line.id!r} has no words"
        taken.update(line.caption_ids)
    yield from (f"caption {each!r} belongs to two lines" for each, count in taken.items() if count > 1)
    shown = [each for shot in project.shots for each in shot.media]
    shown += [bed.clip_hash for bed in project.beds]
    shown += [effect.clip_hash for effect in project.effects]
    yield from _unknown("the picture or the sound needs", "clip", shown, project.clips)
    for key, clip in project.clips.items():
        if clip.hash != key or not _HASH.fullmatch(key):
            yield f"clip {key[:12]!r} is not listed under its hash"
    yield from _times(project)


def _unknown(where: str, kind: str, ids: Iterable[str], known: Iterable[str]) -> Iterator[str]:
    there = known if isinstance(known, (set, dict)) else set(known)
    yield from (f"{where} {kind} {each!r}, which is not there" for each in ids if each not in there)


def _times(project: Project) -> Iterator[str]:
    frames = sum(shot.length_frames for shot in project.shots)
    if frames * project.rate.frame_ticks > _MOST_TICKS:
        yield f"it lasts more than {LONGEST_HOURS} hours"
    most_frames = _MOST_TICKS // project.rate.frame_ticks
    for shot in project.shots:
        if (
            not 0 <= shot.source_in_ticks <= _MOST_TICKS
            or max(shot.wanted_frames, shot.transition_frames) > most_frames
        ):
            yield f"shot {shot.id!r} has times beyond measure"
    words = [("caption", each.id, each.in_frames, each.out_frames) for each in project.captions]
    words += [("title", each.id, each.in_frames, each.out_frames) for each in project.titles]
    for kind, item, starts, ends in words:
        if not -most_frames <= starts < ends <= most_frames:
            yield f"{kind} {item!r} ends before it begins, or has times beyond measure"
    for line in project.lines:
        if line.placement is not None:
            ticks = [abs(line.placement.offset_ticks), *(abs(span.ticks) for span in line.placement.spans)]
            if max(ticks) > _MOST_TICKS:
                yield f"line {line.id!r} has times beyond measure"
