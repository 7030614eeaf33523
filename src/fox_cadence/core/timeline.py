"""A project resolved into the times of the piece: what the sheet, the player and every export read."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from fox_cadence.core.project import Caption, Line, Project, SpanLength, Title
from fox_cadence.core.shot import Shot
from fox_cadence.core.shot_limits import overlap_frames
from fox_cadence.core.speech import LineSpeech, word_times
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import samples_to_ticks
from fox_cadence.core.words import Word


@dataclass(frozen=True, slots=True)
class ShotSpan:
    """A shot and the frames it is on the screen, the end exclusive; dissolves make neighbours overlap."""

    shot: Shot
    start_frame: int
    end_frame: int


@dataclass(frozen=True, slots=True)
class CaptionSpan:
    """A caption and the frames it is on the screen, the out frame exclusive; `words` are those of its line it
    shows."""

    caption: Caption
    line_id: str | None
    in_frame: int
    out_frame: int
    words: tuple[int, int]


@dataclass(frozen=True, slots=True)
class TitleSpan:
    """A title and the frames it is on the screen, the out frame exclusive; never past the end of the
    piece."""

    title: Title
    in_frame: int
    out_frame: int


@dataclass(frozen=True, slots=True)
class Window:
    """The time a line may use, in ticks of the piece, and how far it may start before and run on after it."""

    start_ticks: int
    end_ticks: int
    early_ticks: int
    late_ticks: int


@dataclass(frozen=True)
class LineSpan:
    """A line with its place in the piece. Times in ticks from the start of the piece.

    `start_ticks` and `end_ticks` are the first and last sound. `speech` is how it is spoken at natural pace
    (expected while it has no take of these words; `foreseen` where that is known for sure), `lengths` how
    long its spans last now. `take` is the sound that plays, None while unvoiced; a stale one was made from
    other words, another voice or another delivery. What follows from these is worked out once: most spans
    are the same from one timeline to the next.
    """

    line: Line
    said: str
    words: tuple[Word, ...]
    state: LineState
    start_ticks: int
    end_ticks: int
    window: Window
    speech: LineSpeech
    lengths: tuple[SpanLength, ...]
    shortest_pause_ticks: int
    idle_ticks: int
    take: Take | None
    stale: bool
    foreseen: bool = False

    @cached_property
    def natural_ticks(self) -> int:
        """Its length at natural pace with its pauses as written."""
        return sum(length.ticks for length in self.speech.natural)

    @cached_property
    def natural_pause_ticks(self) -> int:
        """Its natural pauses at natural pace; written ones are not among them."""
        return sum(length.pause_ticks for length in self.speech.natural)

    @cached_property
    def pause_ticks(self) -> int:
        """All natural pauses as they are now."""
        return sum(length.pause_ticks for length in self.lengths)

    @cached_property
    def written_ticks(self) -> int:
        """All pauses the editor has written."""
        return sum(length.written_ticks for length in self.lengths)

    @cached_property
    def pace(self) -> float:
        """How much faster it speaks than at natural pace, pauses left out; 1 where nothing is voiced."""
        voiced = sum(length.voiced_ticks for length in self.lengths)
        return self.speech.voiced_ticks / voiced if voiced else 1.0

    @cached_property
    def early_ticks(self) -> int:
        """By how much it starts before its window, on purpose and within the limit."""
        return max(0, min(self.window.start_ticks - self.start_ticks, self.window.early_ticks))

    @cached_property
    def late_ticks(self) -> int:
        """By how much it runs on after its window, on purpose and within the limit."""
        return max(0, min(self.end_ticks - self.window.end_ticks, self.window.late_ticks))

    @cached_property
    def spill_ticks(self) -> int:
        """By how much it runs past its window and all it may be late."""
        return max(0, self.end_ticks - self.window.end_ticks - self.window.late_ticks)

    @cached_property
    def heard_lengths(self) -> tuple[SpanLength, ...]:
        """Its lengths as it sounds now; what an old sound lasts more or less is put on the first span."""
        rest = self.end_ticks - self.start_ticks - sum(length.ticks for length in self.lengths)
        if rest == 0:
            return self.lengths
        first, *others = self.lengths
        return (first.changed(voiced_ticks=max(1, first.voiced_ticks + rest)), *others)

    @cached_property
    def sound_start_ticks(self) -> int:
        """Where its sound file begins in the piece: before its first word by the silence in front."""
        onset = samples_to_ticks(self.take.onset_sample) if self.take else 0
        return self.start_ticks - onset

    def word_times_ticks(self) -> tuple[tuple[int, int], ...]:
        """Start and end of each word in the piece: of the sound that plays, else as expected."""
        return self._word_times

    @cached_property
    def _word_times(self) -> tuple[tuple[int, int], ...]:
        if self.take is not None:
            origin = self.sound_start_ticks
            return tuple(
                (origin + samples_to_ticks(word.start_sample), origin + samples_to_ticks(word.end_sample))
                for word in self.take.words
            )
        return word_times(self.speech, self.lengths, self.start_ticks, self.shortest_pause_ticks)[
            : len(self.words)
        ]

    def words_time_ticks(self, first: int, end: int) -> tuple[int, int] | None:
        """When the words [first, end) begin and end; None where the sound has not so many."""
        if self.take is not None:
            if end > len(self.take.words):
                return None
            origin, words = self.sound_start_ticks, self.take.words
            return (
                origin + samples_to_ticks(words[first].start_sample),
                origin + samples_to_ticks(words[end - 1].end_sample),
            )
        times = self.word_times_ticks()
        return (times[first][0], times[end - 1][1]) if end <= len(times) else None

    def rests_ticks(self) -> tuple[tuple[int, int, int], ...]:
        """Every rest between two words of the sound that plays: the word it follows, its begin and its
        end."""
        times = self.word_times_ticks()
        return tuple(
            (word, end, begin)
            for word, ((_, end), (begin, _)) in enumerate(itertools.pairwise(times))
            if begin > end
        )


@dataclass(frozen=True)
class Timeline:
    """Everything of a project with its times in the piece."""

    project: Project
    shots: tuple[ShotSpan, ...]
    captions: tuple[CaptionSpan, ...]
    lines: tuple[LineSpan, ...]

    @cached_property
    def titles(self) -> tuple[TitleSpan, ...]:
        """Its titles; they go with their shots."""
        starts = {span.shot.id: span.start_frame for span in self.shots}
        total = self.total_frames
        return tuple(
            TitleSpan(
                title,
                max(0, starts[title.shot_id] + title.in_frames),
                min(total, starts[title.shot_id] + title.out_frames),
            )
            for title in self.project.titles
        )

    @property
    def total_frames(self) -> int:
        """Length of the piece."""
        return self.shots[-1].end_frame if self.shots else 0

    @property
    def total_ticks(self) -> int:
        """Length of the piece."""
        return self.project.rate.ticks(self.total_frames)


def shot_spans(project: Project, lengths: Sequence[int] | None = None) -> tuple[ShotSpan, ...]:
    """The shots one after the other, as long as they are or with other lengths (frames)."""
    spans: list[ShotSpan] = []
    at = 0
    frames = lengths if lengths is not None else [shot.length_frames for shot in project.shots]
    for shot, length, overlap in zip(project.shots, frames, overlap_frames(project), strict=True):
        spans.append(ShotSpan(shot, at, at + length))
        at += length - overlap
    return tuple(spans)


def window_of(
    project: Project, line: Line, shots: dict[str, ShotSpan], captions: Mapping[str, Caption]
) -> Window:
    """The time a line may use: from its first shot to its last, less lead and tail.

    A caption that leads narrows it: the words must fall within the time it is shown, and neither start early
    nor run on late. Nor does a line run on past the end of the piece, which is that of the last of `shots`.
    """
    frame, house = project.rate.frame_ticks, project.house
    start = shots[line.first_shot_id].start_frame * frame + house.lead_ticks
    end = shots[line.last_shot_id].end_frame * frame - house.tail_ticks
    early = house.longest_j_cut_ticks if line.longest_j_cut_ticks is None else line.longest_j_cut_ticks
    late = house.longest_l_cut_ticks if line.longest_l_cut_ticks is None else line.longest_l_cut_ticks
    if line.caption_ids:
        first, last = captions[line.caption_ids[0]], captions[line.caption_ids[-1]]
        if first.leads:
            start = max(start, (shots[first.shot_id].start_frame + first.in_frames) * frame)
            early = 0
        if last.leads:
            end = min(end, (shots[last.shot_id].start_frame + last.out_frames) * frame)
            late = 0
    if late:
        late = max(0, min(late, next(reversed(shots.values())).end_frame * frame - end))
    return Window(start, end, early, late)


def next_starts(lines: list[tuple[int, int]]) -> list[int | None]:
    """For each line, given as lane and start in script order, the start of the next line of its lane."""
    found: list[int | None] = []
    newest: dict[int, int] = {}
    for lane, start in reversed(lines):
        found.append(newest.get(lane))
        newest[lane] = start
    return found[::-1]
