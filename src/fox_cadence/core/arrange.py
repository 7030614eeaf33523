"""Words laid on shots: cues and texts become captions, captions become lines."""

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.marks import Mark
from fox_cadence.core.project import Caption, Clip, Line, Project, Role, SceneText, Shot
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import ShotSpan, shot_spans
from fox_cadence.core.words import words_of

Layout = Literal["order", "section", "single"]
"""How words without times go on the shots: in order as evenly as they go, each section on shots of its own, or one
line a shot."""

STILL_TICKS = seconds_to_ticks(4)
_LEAST_CAPTION_FRAMES = 2


@dataclass(frozen=True, slots=True)
class TimedText:
    """Words to lay on the picture; without times they are laid out by their estimated length.

    `role` is the name of who says them, '' for the narrator. A heading becomes scene text that nobody says.
    """

    text: str
    start_ticks: int | None = None
    end_ticks: int | None = None
    role: str = ""
    heading: bool = False
    marks: tuple[Mark, ...] = ()


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
    project: Project,
    texts: Sequence[TimedText],
    role: Role,
    estimator: Estimator = LETTERS,
    cast: Mapping[str, Role] | None = None,
    layout: Layout = "order",
) -> tuple[Project, tuple[Remark, ...]]:
    """Lay words on the shots of a project that has none yet: a caption and a line for each text.

    Args:
        role: says what nobody is named for.
        cast: the roles that texts name, by name.

    Timed texts go to the shot they share the most time with; untimed ones go to the shots in order, as many to each as
    its share of the time holds. Nothing is lost: what lies past the last shot is put on it and remarked.
    """
    spans = shot_spans(project)
    roles = dict(cast or {})
    remarks: list[Remark] = []
    captions: list[Caption] = []
    lines: list[Line] = []
    spoken = [text for text in texts if not text.heading]
    sections = _sections(texts) if layout == "section" else None
    placed = _placed(project, spoken, remarks, role, estimator, sections, layout == "single")
    in_order = spoken if _untimed(spoken) else _in_time(spoken)
    said_by = [roles.get(text.role, role) for text in in_order]
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
                role_id=said_by[number - 1].id,
                first_shot_id=shot.id,
                last_shot_id=spans[last].shot.id,
                caption_ids=(f"c{number}",),
                wanted_offset_ticks=max(offset, project.house.lead_ticks),
                marks=in_order[number - 1].marks,
            )
        )
    made = project.model_copy(
        update={
            "captions": tuple(captions),
            "lines": tuple(lines),
            "roles": (*project.roles, role, *roles.values()),
            "scene_texts": (*project.scene_texts, *_headings(project, texts, [shot for _, shot, _, _ in placed])),
        }
    )
    return made, tuple(remarks)


def _untimed(texts: Sequence[TimedText]) -> bool:
    return any(text.start_ticks is None for text in texts)


def _in_time(texts: Sequence[TimedText]) -> list[TimedText]:
    return sorted(texts, key=lambda item: (item.start_ticks, item.end_ticks))


def _headings(project: Project, texts: Sequence[TimedText], shots: Sequence[int]) -> list[SceneText]:
    """Scene texts on the shots of the words that follow them; `shots` are those of the spoken texts in order."""
    made: list[SceneText] = []
    seen = 0
    for text in texts:
        if not text.heading:
            seen += 1
            continue
        shot = project.shots[shots[seen] if seen < len(shots) else len(project.shots) - 1]
        taken = [item.id for item in (*project.scene_texts, *made)]
        made.append(SceneText(id=next_id("t", taken), shot_id=shot.id, text=text.text))
    return made


def _sections(texts: Sequence[TimedText]) -> list[int]:
    """How many spoken texts each section has: from one heading to the next."""
    counts = [0]
    for text in texts:
        if text.heading:
            counts.append(0)
        else:
            counts[-1] += 1
    return [count for count in counts if count]


def _placed(
    project: Project,
    texts: Sequence[TimedText],
    remarks: list[Remark],
    role: Role,
    estimator: Estimator,
    sections: Sequence[int] | None,
    single: bool,
) -> list[tuple[str, int, int, int]]:
    """For each text, in order of time: text, index of its shot, in and out frame."""
    if _untimed(texts):
        lengths = [max(1, estimator.estimate(t.text, role.voice_id, 1.0).ticks) for t in texts]
        spans = shot_spans(project)
        rooms = [span.end_frame - span.start_frame for span in spans]
        if single:
            groups = [[n] if n < len(texts) else [] for n in range(len(spans))]
            over = list(range(len(spans), len(texts)))
            groups[-1] += over
            remarks += [
                Remark(f"line {n + 1}", "there is no shot left for it; it was put on the last one") for n in over
            ]
        elif sections and len(sections) <= len(spans):
            groups = _groups_by_section(lengths, rooms, sections)
        else:
            groups = _even_groups(lengths, rooms)
            if sections:
                remarks.append(Remark("sections", "there are more of them than shots; the words were laid in order"))
        return _placed_by_length(spans, groups, lengths, texts)
    rate, spans = project.rate, shot_spans(project)
    total = spans[-1].end_frame
    placed: list[tuple[str, int, int, int]] = []
    for number, text in enumerate(_in_time(texts), 1):
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


def _groups_by_section(lengths: Sequence[int], rooms: Sequence[int], sections: Sequence[int]) -> list[list[int]]:
    """Each section on shots of its own, as many as its share of the words asks for and at least one."""
    edges = [0, *itertools.accumulate(sections)]
    share = np.cumsum([sum(lengths[a:b]) for a, b in itertools.pairwise(edges)]) / sum(lengths)
    room = np.cumsum(rooms) / sum(rooms)
    groups: list[list[int]] = []
    for number, (first, end) in enumerate(itertools.pairwise(edges)):
        begin = len(groups)
        most = len(rooms) - (len(sections) - number - 1)  # the sections after it want one shot each
        until = int(np.argmin(np.abs(room - share[number]))) + 1
        until = len(rooms) if number + 1 == len(sections) else min(max(until, begin + 1), most)
        inside = _even_groups(lengths[first:end], rooms[begin:until])
        groups += [[first + each for each in group] for group in inside]
    return groups


def _placed_by_length(
    spans: Sequence[ShotSpan], groups: Sequence[Sequence[int]], lengths: Sequence[int], texts: Sequence[TimedText]
) -> list[tuple[str, int, int, int]]:
    """The texts of each shot laid over its time in proportion to their lengths."""
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


def _even_groups(lengths: Sequence[int], rooms: Sequence[int]) -> list[list[int]]:
    """Numbers of the texts in each room, in order, so that the sum of length squared over room is least.

    That is the least crowded division; dynamic programming finds it, a room after the other. Rooms may stay empty.
    """
    whole = max(1, sum(lengths))
    before = [0.0, *(given / whole for given in itertools.accumulate(lengths))]
    count = len(lengths)
    cost = [0.0, *[math.inf] * count]
    choices: list[list[int]] = []
    for room in rooms:
        cost, first = _least_after(before, cost, room)
        choices.append(first)
    groups: list[list[int]] = []
    end = count
    for first in reversed(choices):
        begin = first[end]
        groups.append(list(range(begin, end)))
        end = begin
    return groups[::-1]


def _least_after(before: list[float], cost: list[float], room: int) -> tuple[list[float], list[int]]:
    """The least cost of giving the first n texts to all rooms so far, for each n, and which text the last room begins
    with. Every begin is a straight line over the texts given; the lowest of them at each n is kept on a hull.
    """
    slopes, offsets, begins = list[float](), list[float](), list[int]()
    following, first = list[float](), list[int]()
    lowest = 0
    for end, given in enumerate(before):
        if cost[end] != math.inf:
            slope, offset = -2 * given / room, cost[end] + given * given / room
            while len(slopes) > lowest + 1 and _never_lowest(slopes, offsets, slope, offset):
                slopes.pop(), offsets.pop(), begins.pop()
            slopes.append(slope)
            offsets.append(offset)
            begins.append(end)
        while lowest + 1 < len(slopes) and (
            slopes[lowest + 1] * given + offsets[lowest + 1] < slopes[lowest] * given + offsets[lowest]
        ):
            lowest += 1
        following.append(slopes[lowest] * given + offsets[lowest] + given * given / room)
        first.append(begins[lowest])
    return following, first


def _never_lowest(slopes: list[float], offsets: list[float], slope: float, offset: float) -> bool:
    """Whether the last line lies nowhere under both the one before it and the new one."""
    before, last = (
        (offset - offsets[-2]) * (slopes[-2] - slopes[-1]),
        (offsets[-1] - offsets[-2]) * (slopes[-2] - slope),
    )
    return before <= last


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
