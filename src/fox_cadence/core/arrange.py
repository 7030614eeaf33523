"""Words laid on shots: cues and texts become captions, captions become lines."""

from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.project import Caption, Clip, Line, Project, Role, SceneText, Shot
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import shot_spans
from fox_cadence.core.words import words_of

STILL_TICKS = seconds_to_ticks(4)
_LEAST_CAPTION_FRAMES = 2


@dataclass(frozen=True, slots=True)
class TimedText:
    """Words to lay on the picture; without times they are laid out by their estimated length."""

    text: str
    start_ticks: int | None = None
    end_ticks: int | None = None


@dataclass(frozen=True, slots=True)
class Remark:
    """Something the editor should know about what was brought in; `place` says where."""

    place: str
    message: str


def next_id(prefix: str, taken: Sequence[str]) -> str:
    """The first free id of a kind: s1, s2, ... above all in use, so that an id is never used twice."""
    numbers = [int(name[len(prefix) :]) for name in taken if name.startswith(prefix) and name[len(prefix) :].isdigit()]
    return f"{prefix}{max(numbers, default=0) + 1}"


def shots_from_clips(clips: Sequence[Clip], rate: FrameRate) -> tuple[Shot, ...]:
    """A shot for each picture in order: videos at their whole length, stills held for four seconds."""
    shots: list[Shot] = []
    for number, clip in enumerate(clips, 1):
        if clip.kind == "still":
            frames = rate.frames_nearest(STILL_TICKS)
        else:
            frames = max(1, rate.frames_floor(clip.length_ticks + rate.frame_ticks // 100))
        name = clip.name.rsplit(".", 1)[0]
        shots.append(Shot(id=f"s{number}", name=name, clip_hash=clip.hash, length_frames=frames, wanted_frames=frames))
    return tuple(shots)


def lay_words(
    project: Project, texts: Sequence[TimedText], role: Role, estimator: Estimator = LETTERS
) -> tuple[Project, tuple[Remark, ...]]:
    """Lay words on the shots of a project that has none yet: a caption and a line for each text.

    Timed texts go to the shot they share the most time with; untimed ones go to the shots in order, as many to each as
    its share of the time holds. Nothing is lost: what lies past the last shot is put on it and remarked.
    """
    spans = shot_spans(project)
    remarks: list[Remark] = []
    captions: list[Caption] = []
    lines: list[Line] = []
    placed = _placed(project, texts, remarks, role, estimator)
    for number, (text, shot_index, start, end) in enumerate(placed, 1):
        span = spans[shot_index]
        start = min(max(start, span.start_frame), max(span.start_frame, span.end_frame - _LEAST_CAPTION_FRAMES))
        end = max(end, start + _LEAST_CAPTION_FRAMES)
        last = shot_index
        while last + 1 < len(spans) and end > (spans[last].end_frame + spans[last + 1].end_frame) // 2:
            last += 1  # the words run on over most of the next shot
        end = min(end, spans[-1].end_frame) if start < spans[-1].end_frame - 1 else end
        shot = span.shot
        captions.append(
            Caption(
                id=f"c{number}",
                shot_id=shot.id,
                in_frames=start - span.start_frame,
                out_frames=end - span.start_frame,
                text=text,
            )
        )
        offset = project.rate.ticks(start - span.start_frame) + project.house.caption_lead_ticks
        lines.append(
            Line(
                id=f"l{number}",
                role_id=role.id,
                first_shot_id=shot.id,
                last_shot_id=spans[last].shot.id,
                caption_ids=(f"c{number}",),
                wanted_offset_ticks=max(offset, project.house.lead_ticks),
            )
        )
    made = project.model_copy(
        update={"captions": tuple(captions), "lines": tuple(lines), "roles": (*project.roles, role)}
    )
    return made, tuple(remarks)


def _placed(
    project: Project, texts: Sequence[TimedText], remarks: list[Remark], role: Role, estimator: Estimator
) -> list[tuple[str, int, int, int]]:
    """For each text, in order of time: text, index of its shot, in and out frame."""
    if any(text.start_ticks is None for text in texts):
        return _placed_by_length(
            project, [max(1, estimator.estimate(t.text, role.voice_id, 1.0).ticks) for t in texts], texts
        )
    rate, spans = project.rate, shot_spans(project)
    total = spans[-1].end_frame
    placed: list[tuple[str, int, int, int]] = []
    for number, text in enumerate(sorted(texts, key=lambda item: (item.start_ticks, item.end_ticks)), 1):
        start = rate.frames_nearest(text.start_ticks or 0)
        end = max(start + 1, rate.frames_nearest(text.end_ticks or 0))
        if start >= total:
            message = "begins after the picture has ended; it was put on the last shot"
            remarks.append(Remark(f"caption {number}", message))
            placed.append((text.text, len(spans) - 1, start, end))
            continue
        shared = [min(end, span.end_frame) - max(start, span.start_frame) for span in spans]
        holder = max(range(len(spans)), key=lambda index: (shared[index], -index))
        first = next(index for index in range(len(spans)) if shared[index] > 0)
        if shared[first] * 3 < shared[holder]:  # a few frames over a cut are no reason to start a shot early
            first = holder
        placed.append((text.text, first, start, end))
    return placed


def _placed_by_length(
    project: Project, lengths: Sequence[int], texts: Sequence[TimedText]
) -> list[tuple[str, int, int, int]]:
    """Divide texts among the shots so that words and picture run out together."""
    rate, spans = project.rate, shot_spans(project)
    total = sum(lengths)
    picture = rate.ticks(spans[-1].end_frame)
    groups: list[list[int]] = [[] for _ in spans]
    seen = 0
    at_least = 0
    for number, length in enumerate(lengths):
        middle = picture * (2 * seen + length) // (2 * total)
        index = next((i for i, span in enumerate(spans) if middle < rate.ticks(span.end_frame)), len(spans) - 1)
        index = max(index, at_least)
        groups[index].append(number)
        at_least, seen = index, seen + length
    placed: list[tuple[str, int, int, int]] = []
    for index, (span, group) in enumerate(zip(spans, groups, strict=True)):
        frames = span.end_frame - span.start_frame
        whole = sum(lengths[number] for number in group)
        at = 0
        for number in group:
            start = span.start_frame + frames * at // whole
            at += lengths[number]
            placed.append((texts[number].text, index, start, span.start_frame + frames * at // whole))
    return placed


def add_scene_line(project: Project, shot_id: str, text: str, role_id: str) -> Project:
    """A scene text on a shot and the line that speaks it, put in its place in the script."""
    scene_id = next_id("t", [item.id for item in project.scene_texts])
    line = Line(
        id=next_id("l", [item.id for item in project.lines]),
        role_id=role_id,
        first_shot_id=shot_id,
        last_shot_id=shot_id,
        scene_text_id=scene_id,
    )
    scene = SceneText(id=scene_id, shot_id=shot_id, text=text)
    return project.model_copy(
        update={"scene_texts": (*project.scene_texts, scene), "lines": in_script_order(project, (*project.lines, line))}
    )


def in_script_order(project: Project, lines: Sequence[Line]) -> tuple[Line, ...]:
    """Lines by their first shot, then by the in time of their first caption, else as they stood."""
    index = project.shot_index()
    shown = {caption.id: caption for caption in project.captions}

    def place(line: Line) -> tuple[int, int]:
        first = shown.get(line.caption_ids[0]) if line.caption_ids else None
        return index[line.first_shot_id], first.in_frames if first else 0

    return tuple(sorted(lines, key=place))


def split_long_text(text: str, most_characters: int = 120) -> list[str]:
    """A paragraph as captions: at sentence ends, then at clause ends, so that none is longer than it must be."""
    pieces = [text.strip()]
    for ends in (".!?…", ",;:–—"):
        split: list[str] = []
        for piece in pieces:
            split += _cut_after(piece, ends, most_characters) if len(piece) > most_characters else [piece]
        pieces = split
    return [piece for piece in pieces if words_of(piece)]


def _cut_after(text: str, ends: str, most: int) -> list[str]:
    parts: list[str] = []
    current: list[str] = []
    for word in text.split():
        current.append(word)
        if word.rstrip("\"'”’)").endswith(tuple(ends)):
            parts.append(" ".join(current))
            current = []
    if current:
        parts.append(" ".join(current))
    joined: list[str] = []
    for part in parts:
        if joined and len(joined[-1]) + 1 + len(part) <= most:
            joined[-1] += " " + part
        else:
            joined.append(part)
    return joined
