"""Words brought in again after they changed elsewhere: what differs from the script of a project, line by
line."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

from fox_cadence.core.edits import AddCaption, AddSceneText, DeleteLine, SetCaptionText, SetLineRole, SetSaid
from fox_cadence.core.edits.base import with_line, with_lines
from fox_cadence.core.edits.captions import in_time_order
from fox_cadence.core.marks import Mark, sync_points
from fox_cadence.core.project import Caption, Index, Line, Project, Role, SceneText, said_text
from fox_cadence.core.script_layout import TimedText, next_id
from fox_cadence.core.words import plain_words

Kind = Literal["same", "punctuation", "changed", "new", "gone"]

_ALIKE = 0.45
"""The share of words two texts must have in common to be one line that was changed, not one gone and one new.
"""


@dataclass(frozen=True, slots=True)
class Step:
    """What becomes of a line that says `before` and will say `after`. A new one has no line, one that goes no
    text."""

    kind: Kind
    line_id: str | None
    before: str
    after: str
    text: TimedText | None = None


def compare_script(project: Project, texts: Sequence[TimedText]) -> list[Step]:
    """The steps from the lines of a project to the spoken texts of a script, in the order of both."""
    index = Index(project)
    lines = [(line, said_text(project, line, index)) for line in project.lines]
    spoken = [text for text in texts if text.spoken]
    old, new = [plain_words(said) for _, said in lines], [plain_words(text.words) for text in spoken]
    steps: list[Step] = []
    for tag, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag == "equal":
            for (line, said), text in zip(lines[a:b], spoken[c:d], strict=True):
                kind: Kind = (
                    "same" if " ".join(said.split()) == " ".join(text.words.split()) else "punctuation"
                )
                steps.append(Step(kind, line.id, said, text.words, text))
        else:
            steps += _block(lines[a:b], spoken[c:d])
    return steps


def _block(lines: Sequence[tuple[Line, str]], texts: Sequence[TimedText]) -> list[Step]:
    """Lines and texts that differ: each text goes with the first line after the last one used that is
    alike."""
    steps: list[Step] = []
    at = 0
    for text in texts:
        words = plain_words(text.words)
        found = next((n for n in range(at, len(lines)) if _alike(plain_words(lines[n][1]), words)), None)
        if found is None:
            steps.append(Step("new", None, "", text.words, text))
            continue
        steps += [Step("gone", line.id, said, "") for line, said in lines[at:found]]
        steps.append(Step("changed", lines[found][0].id, lines[found][1], text.words, text))
        at = found + 1
    return [*steps, *(Step("gone", line.id, said, "") for line, said in lines[at:])]


def _alike(one: tuple[str, ...], other: tuple[str, ...]) -> bool:
    return SequenceMatcher(None, one, other, autojunk=False).ratio() >= _ALIKE


def apply_script(
    project: Project, steps: Sequence[Step], texts: Sequence[TimedText], roles: Mapping[str, Role]
) -> Project:
    """Carry the steps out; what stays keeps its take, its marks and its place.

    Args:
        texts: the whole script, for its headings; a script without any leaves those there are.
        roles: those the texts name, by name; a text that names nobody leaves its line to who says it.
    """
    made = project
    shot_id = project.shots[0].id
    shown = sum(bool(line.caption_ids) for line in project.lines) * 2 >= len(project.lines)
    order: list[str] = []
    crowded: set[str] = set()
    for step in steps:
        if step.text is None:
            made, _ = DeleteLine(line_id=step.line_id or "").apply(made)
            continue
        if step.line_id is None:
            made, line_id = _added(made, shot_id, step.text.text, shown)
            if step.text.said is not None:
                made, _ = SetSaid(line_id=line_id, text=step.after).apply(made)
            crowded.add(shot_id)
        else:
            line_id = step.line_id
            if step.kind != "same":
                made = _reworded(made, made.line(line_id), step.after)
        order.append(line_id)
        line = made.line(line_id)
        shot_id = line.last_shot_id
        role = roles.get(step.text.role)
        if role is not None and role.id != line.role_id:
            made, _ = SetLineRole(line_id=line_id, role_id=role.id).apply(made)
        if step.text.marks:
            made = _marked(made, line_id, step.text.marks)
    by_id = {line.id: line for line in made.lines}
    made = with_lines(made, [by_id[line_id] for line_id in order])
    for each in crowded:
        made = _in_their_order(made, each)
    return _with_headings(made, texts, order)


def _added(project: Project, shot_id: str, text: str, shown: bool) -> tuple[Project, str]:
    """A line on a shot, shown or only said; and its id."""
    edit = AddCaption(shot_id=shot_id, text=text) if shown else AddSceneText(shot_id=shot_id, text=text)
    made, _ = edit.apply(project)
    known = {line.id for line in project.lines}
    return made, next(line.id for line in made.lines if line.id not in known)


def _marked(project: Project, line_id: str, marks: Sequence[Mark]) -> Project:
    """A line with the marks of the script; words held to the picture stay held, a script knows nothing of
    it."""
    line = project.line(line_id)
    return with_line(project, line.changed(marks=(*marks, *sync_points(line.marks))))


def _in_their_order(project: Project, shot_id: str) -> Project:
    """The captions of the lines that begin on a shot in the order of the script: laid over it anew, by their
    letters, where they stand otherwise. Where one of them is locked nothing is moved."""
    captions = {caption.id: caption for caption in project.captions}
    here = [line for line in project.lines if line.first_shot_id == shot_id]
    shown = [
        captions[each] for line in here for each in line.caption_ids if captions[each].shot_id == shot_id
    ]
    if any(line.locked for line in here) or any(caption.locked or caption.pinned for caption in shown):
        return project
    starts = [caption.in_frames for caption in shown]
    if all(one < other for one, other in itertools.pairwise(starts)):
        return project
    length = project.shot(shot_id).length_frames
    whole = sum(len(caption.text) for caption in shown)
    placed: dict[str, Caption] = {}
    at = 0
    for caption in shown:
        start = length * at // max(1, whole)
        at += len(caption.text)
        end = max(start + 1, length * at // max(1, whole))
        placed[caption.id] = caption.changed(in_frames=start, out_frames=end)
    moved = tuple(placed.get(caption.id, caption) for caption in project.captions)
    lines = [
        line.changed(placement=None, wanted_offset_ticks=_start(project, line, placed))
        if line in here and set(line.caption_ids) & set(placed)
        else line
        for line in project.lines
    ]
    return with_lines(project.changed(captions=in_time_order(project, moved)), lines)


def _start(project: Project, line: Line, placed: Mapping[str, Caption]) -> int:
    first = placed.get(line.caption_ids[0])
    frames = first.in_frames if first else 0
    return project.rate.ticks(frames) + project.house.lead_ticks


def _with_headings(project: Project, texts: Sequence[TimedText], order: Sequence[str]) -> Project:
    """The headings of a script on the shots of the lines after them; those that stand there with the same
    text stay."""
    if not any(text.heading for text in texts):
        return project
    said = {line.scene_text_id for line in project.lines}
    kept = [text for text in project.scene_texts if text.id in said]
    old = [text for text in project.scene_texts if text.id not in said]
    seen = 0
    for text in texts:
        if not text.heading:
            seen += text.spoken
            continue
        line_id = order[min(seen, len(order) - 1)] if order else None
        shot_id = project.line(line_id).first_shot_id if line_id else project.shots[0].id
        same = next((each for each in old if (each.text, each.shot_id) == (text.text, shot_id)), None)
        if same is None:
            taken = [each.id for each in (*project.scene_texts, *kept)]
            same = SceneText(id=next_id("t", taken), shot_id=shot_id, text=text.text)
        kept.append(same)
    return project.changed(scene_texts=tuple(kept))


def _reworded(project: Project, line: Line, text: str) -> Project:
    if line.said is None and len(line.caption_ids) == 1:
        made, _ = SetCaptionText(caption_id=line.caption_ids[0], text=text).apply(project)
    else:
        made, _ = SetSaid(line_id=line.id, text=text).apply(project)
    return made
