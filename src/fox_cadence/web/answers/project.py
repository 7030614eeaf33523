"""All that the page of a project is told of it, put together in one place."""

from collections.abc import Mapping
from itertools import pairwise

from fox_cadence.actions.estimating import USUAL_WORD_TICKS
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.coverage import coverage
from fox_cadence.core.fit.explain import shot_names
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.mix import duck_points
from fox_cadence.core.pass_status import count_states, pass_statuses, sync_status, too_fast
from fox_cadence.core.project import Index, Project, Role, SceneText, delivery_of, voice_of
from fox_cadence.core.room import room_ticks, starts_after
from fox_cadence.core.shot_limits import clip_frames, repeats_after_ticks, shot_limits_frames
from fox_cadence.core.standing import words_on_screen
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples
from fox_cadence.core.timeline import Timeline
from fox_cadence.store.projects import Head
from fox_cadence.web.answers.figures import figure_row
from fox_cadence.web.answers.kept_rows import KeptRows
from fox_cadence.web.answers.lettering import (
    UNLETTERED,
    Lettered,
    lettered_of,
    lettering_json,
    style_json,
    title_row,
)
from fox_cadence.web.answers.lettering_shapes import TitleRow
from fox_cadence.web.answers.rows import Points, caption_row, line_row, shot_row, unable_text
from fox_cadence.web.answers.shapes import (
    AmountJson,
    CaptionRow,
    ClipJson,
    LineRow,
    ProjectJson,
    RoleRow,
    ShotRow,
    SyncStandingJson,
)
from fox_cadence.web.answers.sounds import bed_json, effect_json, mix_settings_json
from fox_cadence.web.answers.treatments import treatment_json
from fox_cadence.web.answers.units import seconds

SLOW = 1.0
"""A voice that takes longer than what it says is waited for at every hearing, and is called slow."""


def project_json(
    workspace: Workspace, kept: KeptRows, head: Head, project: Project, version: str
) -> ProjectJson:
    """A project of which `head` is the newest revision, as it is there or in another state.

    Args:
        kept: rows of the answers before.
        version: names what is answered.
    """
    timeline = workspace.timeline(project)
    failures = workspace.results.failures(head.project_id)
    open_states = (LineState.UNVOICED, LineState.STALE)
    failed = {
        span.line.id: failures[span.line.id]
        for span in timeline.lines
        if span.line.id in failures and span.state in open_states
    }
    exported = len(workspace.results.docket(head.project_id, "export").get("files", []))
    whole, sections, roles = coverage(timeline, failed)
    states = count_states(timeline)
    hurried = {span.caption.id for span in too_fast(timeline)}
    rate = project.rate
    faces_of = workspace.faces_of(project)
    words = words_on_screen(timeline)
    lettered = lettered_of(timeline, words, faces_of)
    undrawn = sum(bool(each.missing) for each in lettered.values())
    return {
        "version": version,
        "project": head.project_id,
        "revision": head.revision,
        "changed_at": head.made_at,
        "undo": head.undo_label,
        "redo": head.redo_label,
        "name": project.name,
        "width": project.width,
        "height": project.height,
        "rate": {"numerator": rate.numerator, "denominator": rate.denominator, "label": rate.label},
        "total_frames": timeline.total_frames,
        "longest_s": seconds(project.longest_ticks) if project.longest_ticks is not None else None,
        "length_fixed": project.length_fixed,
        "give_way": project.give_way,
        "past_clip_end": project.past_clip_end,
        "language": project.language,
        "beats": [seconds(beat) for beat in project.beats],
        "house": house_json(project.house),
        "sync": _sync(timeline, kept),
        "amount": _amount(timeline),
        "lettering": lettering_json(project.lettering, words),
        "passes": [
            {"name": each.name, "open": each.open_text, "text": each.text}
            for each in pass_statuses(timeline, exported, faces_of, len(hurried), undrawn)
        ],
        "states": {state.value: states[state] for state in LineState},
        "shots": _shots(kept, timeline),
        "captions": _captions(kept, timeline, hurried, lettered),
        "titles": _titles(timeline, lettered),
        "figures": [figure_row(figure) for figure in project.figures],
        "lines": _lines(kept, timeline, failed),
        "roles": [_role(kept, role) for role in project.roles],
        "beds": [bed_json(bed) for bed in project.beds],
        "effects": [effect_json(timeline, each) for each in project.effects],
        "mix": mix_settings_json(project.mix),
        "clips": _clips(project),
        "missing": [
            {"hash": each, "name": project.clips[each].name}
            for each in workspace.library.missing_clips(project.clips)
        ],
        "lexicon": [
            {"id": e.id, "language": e.language, "written": e.written, "ipa": e.ipa, "spelled": e.spelled}
            for e in project.lexicon
        ],
        "deliveries": [
            {"name": each.name, "delivery": each.delivery.model_dump()} for each in project.deliveries
        ],
        "treatments": [made for each in project.treatments if (made := treatment_json(each))],
        "shortlist": list(project.shortlist),
        "foreseeing": workspace.foreseeing(timeline),
        "slow_voices": {voice: round(each, 1) for voice, each in workspace.slowness.items() if each > SLOW},
        "commercial": project.commercial,
        "keep_in_step": project.keep_in_step,
        "character_budget": project.character_budget,
        "coverage": {
            "whole": whole,
            "sections": list(sections),
            "roles": list(roles),
        },
    }


def house_json(house: HouseLimits) -> dict[str, float]:
    """House limits as the edit `house` takes them: times in seconds."""
    return {
        name.replace("_ticks", "_s"): seconds(value) if name.endswith("_ticks") else value
        for name, value in house.model_dump().items()
    }


def _shots(kept: KeptRows, timeline: Timeline) -> list[ShotRow]:
    project = timeline.project
    said = {line.scene_text_id for line in project.lines}
    headings: dict[str, tuple[SceneText, ...]] = {}
    for text in project.scene_texts:
        if text.id not in said:
            headings[text.shot_id] = (*headings.get(text.shot_id, ()), text)
    last = len(project.shots) - 1
    points = _bed_points(timeline)
    inputs = (
        project.house,
        project.give_way,
        project.past_clip_end,
        (project.width, project.height),
        project.rate,
        project.clips,
        headings,
        points,
    )
    known = kept.shots.get(timeline.shots, inputs)
    if known is not None:
        return known
    made = [
        shot_row(
            span, project.clips.get(span.shot.clip_hash or ""), clip_frames(project, span.shot),
            shot_limits_frames(project, position), project.rate, position < last,
            headings.get(span.shot.id, ()),
            repeats_after_ticks(project, span.shot), points.get(span.shot.id, ()),
            project.width / project.height,
        )
        for position, span in enumerate(timeline.shots)
    ]  # fmt: skip
    return kept.shots.keep(timeline.shots, inputs, made)


def _titles(timeline: Timeline, lettered: Mapping[str, Lettered]) -> list[TitleRow]:
    return [title_row(title, lettered.get(title.id, UNLETTERED)) for title in timeline.project.titles]


def _captions(
    kept: KeptRows, timeline: Timeline, hurried: set[str], lettered: Mapping[str, Lettered]
) -> list[CaptionRow]:
    spans = {span.line.id: span for span in timeline.lines}
    starts = {span.shot.id: span.start_frame for span in timeline.shots}
    rate = timeline.project.rate
    found: list[CaptionRow] = []
    for span in timeline.captions:
        caption = span.caption
        line, fast, start = spans.get(span.line_id or ""), caption.id in hurried, starts[caption.shot_id]
        inputs = (line, fast, rate, start, lettered.get(caption.id, UNLETTERED))
        row = kept.captions.get(span, inputs)
        found.append(row or kept.captions.keep(span, inputs, caption_row(span, *inputs)))
    return found


def _lines(kept: KeptRows, timeline: Timeline, failed: dict[str, str]) -> list[LineRow]:
    project = timeline.project
    by_id = Index(project)
    index = project.shot_index()
    house, rate = project.house, project.rate
    found: list[LineRow] = []
    for span, following in zip(timeline.lines, starts_after(timeline.lines), strict=True):
        line = span.line
        room = room_ticks(span, following)
        first, failure = index[line.first_shot_id], failed.get(line.id, "")
        start = timeline.shots[first].start_frame
        inputs = (by_id.roles[line.role_id], first, index[line.last_shot_id], house, start, failure, room)
        row = kept.lines.get(span, inputs)
        if row is None:
            said_by = (delivery_of(line, by_id), voice_of(line, by_id))
            made = line_row(span, said_by, shot_names(index, line), house, rate.ticks(start), failure, room)
            row = kept.lines.keep(span, inputs, made)
        found.append(row)
    return found


def _role(kept: KeptRows, role: Role) -> RoleRow:
    known = kept.roles.get(role)
    if known is not None:
        return known
    made: RoleRow = {
        "id": role.id,
        "name": role.name,
        "voice_id": role.voice_id,
        "pace": role.pace,
        "pitch_semitones": role.pitch_semitones,
        "pitch_range": role.pitch_range,
        "gain_db": role.gain_db,
        "pan": role.pan,
        "colour": role.colour,
        "style": role.style,
        "caption_style": None if role.caption_style is None else style_json(role.caption_style),
        "treatment": treatment_json(role.treatment),
        "unable": unable_text(role.delivery, role.voice_id),
    }
    return kept.roles.keep(role, (), made)


def _bed_points(timeline: Timeline) -> dict[str, Points]:
    """The points between which the first bed ducks, [second, dB], each with the shot it lies in and from its
    start."""
    project = timeline.project
    if not project.beds or not timeline.shots:
        return {}
    first = project.beds[0]
    spoken = [
        (ticks_to_samples(span.start_ticks), ticks_to_samples(span.end_ticks))
        for span in timeline.lines
        if span.take is not None
    ]
    points = iter(duck_points(spoken, first.duck_db, first.duck_in_ms, first.duck_out_ms))
    rate = timeline.project.rate
    found: dict[str, Points] = {}
    point = next(points, None)
    starts = [rate.ticks(span.start_frame) for span in timeline.shots]
    for span, (start, end) in zip(timeline.shots, pairwise([*starts, None]), strict=True):
        own: list[tuple[float, float]] = []
        while point is not None and (end is None or seconds(end) > point[0] / SAMPLE_RATE_HZ):
            own.append((round(point[0] / SAMPLE_RATE_HZ - seconds(start or 0), 6), point[1]))
            point = next(points, None)
        found[span.shot.id] = tuple(own)
    return found


def _clips(project: Project) -> dict[str, ClipJson]:
    return {
        clip.hash: {
            "name": clip.name,
            "kind": clip.kind,
            "length_s": seconds(clip.length_ticks),
            "sound": clip.has_sound,
            "remarks": clip.remarks,
        }
        for clip in project.clips.values()
    }


def _amount(timeline: Timeline) -> AmountJson:
    """How much there is to say, and how much of the piece's longest length is left."""
    project = timeline.project
    left = None if project.longest_ticks is None else project.longest_ticks - timeline.total_ticks
    words = sum(len(span.words) for span in timeline.lines)
    natural = sum(span.natural_ticks for span in timeline.lines)
    per_word = natural // words if words and natural else USUAL_WORD_TICKS
    return {
        "said_characters": sum(len(span.said) for span in timeline.lines),
        "words": words,
        "speech_s": seconds(sum(span.end_ticks - span.start_ticks for span in timeline.lines)),
        "left_s": None if left is None else seconds(left),
        "words_left": None if left is None else max(0, left) // per_word,
    }


def _sync(timeline: Timeline, kept: KeptRows) -> SyncStandingJson:
    found = sync_status(timeline, kept.unshown)
    return {
        "worst_spill_s": seconds(found.worst_spill_ticks),
        "worst_caption_frames": found.worst_caption_frames,
        "slowest": round(found.slowest, 3),
        "fastest": round(found.fastest, 3),
        "idle_s": seconds(found.idle_ticks),
    }
