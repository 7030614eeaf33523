"""Words laid on shots: cues and texts become captions, captions become lines."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from fox_cadence.core.crowding import even_groups, groups_by_section
from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.marks import Mark
from fox_cadence.core.picture_length import (
    STILL_TICKS,
    held_until,
    lengthened,
    needed_ticks,
    plain_shots,
    rooms_for,
)
from fox_cadence.core.project import Caption, Line, Project, Role, SceneText
from fox_cadence.core.shot import Clip, Shot
from fox_cadence.core.ticks import FrameRate, ticks_to_seconds
from fox_cadence.core.timeline import shot_spans
from fox_cadence.core.words import pieces_of, words_of

Layout = Literal["order", "section", "single"]
"""How words without times go on the shots: in order as evenly as they go, each section on shots of its own,
or one line a shot."""

_LEAST_CAPTION_FRAMES = 2


@dataclass(frozen=True, slots=True)
class TimedText:
    """Words to lay on the picture; without times they are laid out by their estimated length.

    `role` is the name of who says them, '' for the narrator. A heading becomes scene text that nobody says.
    `said` are the words that are spoken where they are not all that is shown; a caption with none of them is
    shown only.
    """

    text: str
    start_ticks: int | None = None
    end_ticks: int | None = None
    role: str = ""
    heading: bool = False
    marks: tuple[Mark, ...] = ()
    said: str | None = None

    @property
    def words(self) -> str:
        """What is spoken of it."""
        return self.text if self.said is None else self.said

    @property
    def spoken(self) -> bool:
        return not self.heading and self.said != ""


@dataclass(frozen=True, slots=True)
class Remark:
    """Something the editor should know about what was brought in; `place` says where."""

    place: str
    message: str


def next_id(prefix: str, taken: Sequence[str]) -> str:
    """The first free id of a kind: s1, s2, ... above all in use, so that an id is never used twice."""
    numbers = [
        int(name[len(prefix) :])
        for name in taken
        if name.startswith(prefix) and name[len(prefix) :].isdigit()
    ]
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
        shots.append(
            Shot(
                id=f"s{number}",
                name=name,
                clip_hash=clip.hash,
                length_frames=frames,
                wanted_frames=frames,
                framing=clip.framing,
            )
        )
    return tuple(shots)


def shots_for_words(texts: Sequence[TimedText], rate: FrameRate) -> tuple[Shot, ...]:
    """Plain colours for words that have no picture: one for each section that has words, named after its
    heading.

    They last as long as a still; the words make them longer where they are laid on them.
    """
    names: list[str] = []
    heading = ""
    begun = False
    for text in texts:
        if text.heading:
            heading, begun = text.text, False
        elif not begun:
            names.append(heading or f"Part {len(names) + 1}")
            begun = True
    return plain_shots(names, [STILL_TICKS] * len(names), rate)


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

    Timed texts go to the shot they share the most time with, and the last shot is held until the last of them
    has gone.
    Untimed ones go to the shots in order, as many to each as its share of the time holds, and the shots last
    as long as
    they need. What was made longer is remarked, and so is what lies past a picture that does not give way.
    """
    roles = dict(cast or {})
    remarks: list[Remark] = []
    captions: list[Caption] = []
    lines: list[Line] = []
    spoken = [text for text in texts if not text.heading]
    sections = _sections(texts) if layout == "section" else None
    if _untimed(spoken):
        lengths = [max(1, estimator.estimate(t.words, role.voice_id, 1.0).ticks) for t in spoken]
        groups = _grouped(project, lengths, sections, layout == "single", remarks)
        longer = lengthened(project, [[lengths[n] for n in group] for group in groups])
        project = longer.project
        if longer.text:
            remarks.append(Remark("picture", longer.text))
        placed = _placed_by_length(project, groups, lengths, spoken)
    else:
        project = _held_for(project, spoken, remarks)
        placed = _placed_by_time(project, spoken, remarks)
    spans = shot_spans(project)
    in_order = spoken if _untimed(spoken) else _in_time(spoken)
    said_by = [roles.get(text.role, role) for text in in_order]
    for number, (text, shot_index, start, end) in enumerate(placed, 1):
        span = spans[shot_index]
        start = min(
            max(start, span.start_frame), max(span.start_frame, span.end_frame - _LEAST_CAPTION_FRAMES)
        )
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
        if in_order[number - 1].said == "":
            continue
        offset = project.rate.ticks(start - span.start_frame) + project.house.caption_lead_ticks
        lines.append(
            Line(
                id=f"l{number}",
                role_id=said_by[number - 1].id,
                first_shot_id=shot.id,
                last_shot_id=spans[last].shot.id,
                caption_ids=(f"c{number}",),
                said=in_order[number - 1].said,
                wanted_offset_ticks=max(offset, project.house.lead_ticks),
                marks=in_order[number - 1].marks,
            )
        )
    made = project.changed(
        captions=tuple(captions),
        lines=tuple(lines),
        roles=(*project.roles, role, *roles.values()),
        scene_texts=(*project.scene_texts, *_headings(project, texts, [shot for _, shot, _, _ in placed])),
    )
    return made, tuple(remarks)


def _held_for(project: Project, texts: Sequence[TimedText], remarks: list[Remark]) -> Project:
    """The project with its last shot held until the last timed text has gone, which is remarked."""
    last = max((text.end_ticks or 0 for text in texts), default=0)
    held = held_until(project, project.rate.frames_ceil(last))
    if held is not project:
        late = sum(
            (text.start_ticks or 0) >= project.rate.ticks(shot_spans(project)[-1].end_frame) for text in texts
        )
        had, has = (shot_spans(each)[-1].end_frame * project.rate.frame_ticks for each in (project, held))
        message = (
            f"the last words go at {ticks_to_seconds(last):.2f} s, {late} of them begin after the picture, "
            "which had "
            f"{ticks_to_seconds(had):.2f} s; its last shot is held until {ticks_to_seconds(has):.2f} s"
        )
        remarks.append(Remark("picture", message))
    return held


def _untimed(texts: Sequence[TimedText]) -> bool:
    return any(text.start_ticks is None for text in texts)


def _in_time(texts: Sequence[TimedText]) -> list[TimedText]:
    return sorted(texts, key=lambda item: (item.start_ticks, item.end_ticks))


def _headings(project: Project, texts: Sequence[TimedText], shots: Sequence[int]) -> list[SceneText]:
    """Scene texts on the shots of the words that follow them; `shots` are those of the spoken texts in
    order."""
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


def _grouped(
    project: Project,
    lengths: Sequence[int],
    sections: Sequence[int] | None,
    single: bool,
    remarks: list[Remark],
) -> list[list[int]]:
    """The numbers of the texts without times that go over each shot, by their lengths in ticks."""
    rooms = rooms_for(project, lengths)
    if single:
        groups = [[n] if n < len(lengths) else [] for n in range(len(rooms))]
        over = list(range(len(rooms), len(lengths)))
        groups[-1] += over
        remarks += [
            Remark(f"line {n + 1}", "there is no shot left for it; it was put on the last one") for n in over
        ]
        return groups
    if sections and len(sections) <= len(rooms):
        return groups_by_section(lengths, rooms, sections)
    if sections:
        remarks.append(Remark("sections", "there are more of them than shots; the words were laid in order"))
    return even_groups(lengths, rooms)


def _placed_by_time(
    project: Project, texts: Sequence[TimedText], remarks: list[Remark]
) -> list[tuple[str, int, int, int]]:
    """For each text, in order of time: text, index of its shot, in and out frame."""
    rate, spans = project.rate, shot_spans(project)
    total = spans[-1].end_frame
    placed: list[tuple[str, int, int, int]] = []
    for number, text in enumerate(_in_time(texts), 1):
        start = rate.frames_nearest(text.start_ticks or 0)
        end = max(start + 1, rate.frames_nearest(text.end_ticks or 0))
        if start >= total:
            message = (
                "begins after the picture has ended, which gives way no more; it was put on the last shot"
            )
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
    project: Project, groups: Sequence[Sequence[int]], lengths: Sequence[int], texts: Sequence[TimedText]
) -> list[tuple[str, int, int, int]]:
    """For each text: text, index of its shot, in and out frame; the texts of a shot share its time by their
    lengths.

    Each has at least what it needs where the shot is long enough for all of them; they are squeezed where it
    is not.
    """
    rate, house = project.rate, project.house
    placed: list[tuple[str, int, int, int]] = []
    for index, (span, group) in enumerate(zip(shot_spans(project), groups, strict=True)):
        own = [lengths[number] for number in group]
        room = rate.ticks(span.end_frame - span.start_frame)
        spare = room - needed_ticks(own, house)
        before = [0, *itertools.accumulate(own)]
        ins: list[int] = []
        for number, said in enumerate(before[:-1]):
            if spare < 0:
                at = room * said // before[-1]
            else:
                begins = house.lead_ticks + said + number * house.gap_ticks + spare * said // before[-1]
                at = max(0, begins - house.caption_lead_ticks)
            ins.append(span.start_frame + rate.frames_floor(at))
        for number, start, end in zip(group, ins, [*ins, span.end_frame][1:], strict=True):
            placed.append((texts[number].text, index, start, end))
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
    return project.changed(
        scene_texts=(*project.scene_texts, scene), lines=in_script_order(project, (*project.lines, line))
    )


def in_script_order(project: Project, lines: Sequence[Line]) -> tuple[Line, ...]:
    """Lines by their first shot, then by the in time of their first caption; one that is not shown stays
    behind the line of its shot that stood before it."""
    index = project.shot_index()
    shown = {caption.id: caption for caption in project.captions}
    places: dict[str, tuple[int, int]] = {}
    last: dict[str, int] = {}
    for line in lines:
        first = shown.get(line.caption_ids[0]) if line.caption_ids else None
        at = first.in_frames if first else last.get(line.first_shot_id, 0)
        last[line.first_shot_id] = at
        places[line.id] = (index[line.first_shot_id], at)
    return tuple(sorted(lines, key=lambda line: places[line.id]))


def split_long_text(text: str, most_characters: int = 120) -> list[str]:
    """A paragraph as captions: at sentence ends, then at clause ends, so that none is longer than it must
    be."""
    pieces = [text.strip()]
    for ends in (".!?…。！？", ",;:–—、，；："):
        split: list[str] = []
        for piece in pieces:
            split += _cut_after(piece, ends, most_characters) if len(piece) > most_characters else [piece]
        pieces = split
    return [piece for piece in pieces if words_of(piece)]


def _cut_after(text: str, ends: str, most: int) -> list[str]:
    parts: list[str] = []
    current: list[str] = []
    for word in pieces_of(" ".join(text.split())):
        current.append(word)
        if word.rstrip("\"'”’)」』 ").endswith(tuple(ends)):
            parts.append("".join(current).strip())
            current = []
    if current:
        parts.append("".join(current).strip())
    joined: list[str] = []
    for part in parts:
        if joined and len(joined[-1]) + 1 + len(part) <= most:
            joined[-1] += " " + part
        else:
            joined.append(part)
    return joined
