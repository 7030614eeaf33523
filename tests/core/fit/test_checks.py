"""The checks of a result are no formality: each rule is seen when a result breaks it."""

from collections.abc import Callable
from dataclasses import replace

import pytest

from fox_cadence.core.edits import Applied, PinCaption, SetLock, SetPause, SetSettings, SetSync, apply_all
from fox_cadence.core.fit.checks import Miss, PlannedLine, misses
from fox_cadence.core.fit.plan import planned_words, project_with_shots
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from tests.builders import simple_project, voiced

TEXTS = ["one two three four", "five six seven", "eight nine"]
HALF, TENTH = seconds_to_ticks(0.5), seconds_to_ticks(0.1)


class Result:
    """A fit of three lines, taken apart so that a test can break it."""

    def __init__(self, *edits: Applied, lengths: tuple[float, ...] = (2.2, 1.5, 1.0)) -> None:
        project, _ = apply_all(simple_project(TEXTS, 3.0), edits)
        self.timeline: Timeline = voiced(project, list(lengths), [0.3, 0.0, 0.0])
        proposal = propose(self.timeline)
        words = planned_words(self.timeline, proposal.lines)
        self.frames = list(proposal.shot_frames)
        self.lines = [
            PlannedLine(plan.start_ticks, plan.lengths, plan.window, tuple(words[plan.line_id]))
            for plan in proposal.lines
        ]
        self.captions = list(proposal.captions)

    @property
    def project(self) -> Project:
        return project_with_shots(self.timeline.project, tuple(self.frames))

    def misses(self) -> tuple[Miss, ...]:
        return misses(self.timeline, self.project, self.lines, self.captions)

    def rules(self) -> set[tuple[str, str]]:
        return {(miss.rule, miss.object_id) for miss in self.misses()}

    def move(self, line: int, ticks: int) -> None:
        plan = self.lines[line]
        words = tuple((start + ticks, end + ticks) for start, end in plan.words)
        self.lines[line] = replace(plan, start_ticks=plan.start_ticks + ticks, words=words)

    def lengthen(self, line: int, **change: int) -> None:
        plan = self.lines[line]
        first = plan.lengths[0]
        made = first.changed(**{name: getattr(first, name) + by for name, by in change.items()})
        self.lines[line] = replace(plan, lengths=(made, *plan.lengths[1:]))

    def retime(self, caption: int, start: int, end: int) -> None:
        caption_id, now_start, now_end = self.captions[caption]
        self.captions[caption] = (caption_id, now_start + start, now_end + end)


def test_a_result_as_it_is_breaks_nothing() -> None:
    for edits in (
        (),
        (SetLock(what="shot", id="s2", locked=True),),
        (SetSync(line_id="l2", word=1, shot_id="s2", frames=30),),
    ):
        assert Result(*edits).misses() == ()


def frames(result: Result, shot: int, by: int) -> None:
    result.frames[shot] += by


BROKEN: list[tuple[str, tuple[Applied, ...], Callable[[Result], None], tuple[str, str]]] = [
    ("too long", (), lambda r: frames(r, 1, 40), ("shot length", "s2")),
    ("too short", (), lambda r: frames(r, 1, -40), ("shot length", "s2")),
    (
        "locked",
        (SetLock(what="shot", id="s2", locked=True),),
        lambda r: frames(r, 1, 1),
        ("locked shot", "s2"),
    ),
    (
        "moved",
        (SetLock(what="shot", id="s2", locked=True),),
        lambda r: frames(r, 0, 1),
        ("locked shot", "s2"),
    ),
    ("over", (SetSettings(longest_s=9),), lambda r: frames(r, 2, 9), ("total length", "Test")),
    (
        "under",
        (SetSettings(longest_s=9, length_fixed=True),),
        lambda r: frames(r, 2, -9),
        ("total length", "Test"),
    ),
    ("early", (), lambda r: r.move(0, -HALF), ("window start", "l1")),
    ("near", (), lambda r: r.move(1, -2 * HALF), ("gap", "l2")),
    ("slow", (), lambda r: r.lengthen(0, voiced_ticks=HALF), ("pace", "l1")),
    ("fast", (), lambda r: r.lengthen(0, voiced_ticks=-HALF), ("pace", "l1")),
    ("long rest", (), lambda r: r.lengthen(0, pause_ticks=HALF), ("pauses", "l1")),
    (
        "no rest",
        (),
        lambda r: r.lengthen(0, pause_ticks=-r.lines[0].lengths[0].pause_ticks),
        ("pauses", "l1"),
    ),
    (
        "written",
        (SetPause(line_id="l2", after_word=0, seconds=0.2),),
        lambda r: r.lengthen(1, written_ticks=TENTH),
        ("written pauses", "l2"),
    ),
    (
        "line",
        (SetLock(what="line", id="l2", locked=True),),
        lambda r: r.move(1, TENTH),
        ("locked line", "l2"),
    ),
    (
        "word",
        (SetSync(line_id="l2", word=1, shot_id="s2", frames=30),),
        lambda r: r.move(1, TENTH),
        ("sync point", "l2:1"),
    ),
    ("late in", (), lambda r: r.retime(1, 20, 0), ("caption covers its first word", "c2")),
    ("early out", (), lambda r: r.retime(0, 0, -30), ("caption covers its last word", "c1")),
    ("over the next", (), lambda r: r.retime(0, 0, 60), ("captions one at a time", "c1")),
    (
        "caption",
        (SetLock(what="caption", id="c2", locked=True),),
        lambda r: r.retime(1, 1, 0),
        ("locked caption", "c2"),
    ),
]


@pytest.mark.parametrize(
    ("edits", "damage", "rule"), [row[1:] for row in BROKEN], ids=[row[0] for row in BROKEN]
)
def test_what_is_broken_is_seen(
    edits: tuple[Applied, ...], damage: Callable[[Result], None], rule: tuple[str, str]
) -> None:
    result = Result(*edits)
    assert rule not in result.rules()
    damage(result)
    assert rule in result.rules()


def test_a_gap_of_one_frame_and_a_caption_too_short_to_read_are_seen() -> None:
    result = Result(lengths=(1.0, 1.0, 1.0))
    result.captions = [("c1", 0, 40), ("c2", 41, 160), ("c3", 180, 200)]
    assert ("caption gap", "c1") in result.rules()
    result.captions = [("c1", 3, 36), ("c2", 91, 102), ("c3", 183, 216)]
    assert ("caption can be read", "c2") in result.rules()


def test_what_the_editor_has_placed_is_the_editor_s() -> None:
    result = Result(PinCaption(caption_id="c1", pinned=True), PinCaption(caption_id="c2", pinned=True))
    result.captions = [("c1", 0, 120), ("c2", 60, 170), result.captions[2]]
    assert not {rule for rule, _ in result.rules()} & {
        "captions one at a time",
        "caption covers its last word",
    }


def test_how_much_is_missed_is_measured() -> None:
    result = Result(SetLock(what="shot", id="s2", locked=True))
    frames(result, 0, 3)
    (miss,) = (miss for miss in result.misses() if miss.rule == "locked shot")
    assert (miss.amount, miss.unit) == (6, "frames")  # both its cuts are three frames off
    result = Result()
    result.move(0, -HALF)
    (miss,) = (miss for miss in result.misses() if miss.rule == "window start")
    assert miss.unit == "ticks"
    assert 0 < miss.amount <= HALF


def test_a_caption_is_not_late_where_no_frame_was_left_before_its_word() -> None:
    result = Result()
    result.lines[1] = replace(result.lines[1], words=tuple((0, TENTH) for _ in result.lines[1].words))
    late = ("caption covers its first word", "c2")
    result.captions[:2] = [("c1", 0, 1), ("c2", 1, 60)]
    assert late not in result.rules()
    result.captions[:2] = [("c1", 0, 2), ("c2", 2, 60)]
    assert late in result.rules()
