"""Small projects and random ones for tests of the core."""

import itertools

from hypothesis import strategies as st

from fox_cadence.core.marks import Mark, PauseMark, SyncPoint
from fox_cadence.core.project import Caption, Index, Line, Project, Role
from fox_cadence.core.shot import Clip, Shot
from fox_cadence.core.takes import Pause, Take, WordTime, natural_request
from fox_cadence.core.ticks import FRAME_RATES, FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.core.words import words_of

WORDS = ["tide", "pool", "a", "crab", "slowly,", "the", "anemone", "rests.", "under", "weed"]


def simple_project(
    texts: list[str], seconds: float = 4.0, rate: FrameRate | None = None, **change: object
) -> Project:
    """A shot, a caption and a line for each text."""
    rate = rate or FrameRate(numerator=30)
    frames = rate.frames_nearest(seconds_to_ticks(seconds))
    project = Project(
        name="Test",
        rate=rate,
        roles=(Role(id="r1", name="narrator", voice_id="orla"),),
        shots=tuple(
            Shot(id=f"s{n}", name=f"Shot {n}", length_frames=frames, wanted_frames=frames)
            for n, _ in enumerate(texts, 1)
        ),
        captions=tuple(
            Caption(id=f"c{n}", shot_id=f"s{n}", in_frames=0, out_frames=frames, text=text)
            for n, text in enumerate(texts, 1)
        ),
        lines=tuple(
            Line(
                id=f"l{n}", role_id="r1", first_shot_id=f"s{n}", last_shot_id=f"s{n}", caption_ids=(f"c{n}",)
            )
            for n, _ in enumerate(texts, 1)
        ),
    )
    return project.changed(**change)


def take_of(
    project: Project, line: Line, length_s: float, pause_s: float = 0.0, index: Index | None = None
) -> Take:
    """A natural take of a line whose speech lasts so long, its words spread evenly.

    It has one natural pause after its middle word if asked, and the written pauses of its marks.
    """
    request = natural_request(project, line, index)
    words = words_of(request.text)
    rests = {mark.after_word: (mark.samples, True) for mark in request.written}
    if pause_s and len(words) > 1:
        rests.setdefault(len(words) // 2 - 1, (round(pause_s * 48000), False))
    natural = sum(length for length, written in rests.values() if not written)
    spoken = max(len(words) * 100, round(length_s * 48000) - natural)
    times: list[WordTime] = []
    pauses: list[Pause] = []
    at = 0
    for n, word in enumerate(words):
        length = spoken * (n + 1) // len(words) - spoken * n // len(words)
        times.append(WordTime(text=word.text, start_sample=at, end_sample=at + length))
        at += length
        if n in rests:
            rest, written = rests[n]
            pauses.append(Pause(start_sample=at, end_sample=at + rest, written=written))
            at += rest
    return Take(
        id=f"take-{line.id}",
        key=request.key,
        text=request.text,
        voice_id=request.voice_id,
        pace=request.pace,
        sound_hash="0" * 64,
        sample_count=at,
        onset_sample=0,
        end_sample=at,
        words=tuple(times),
        pauses=tuple(pauses),
        loudness_lufs=-20,
    )


def voiced(project: Project, lengths_s: list[float], pauses_s: list[float] | None = None) -> Timeline:
    """The timeline of a project whose lines have takes of these lengths."""
    pauses = pauses_s or [0.0] * len(lengths_s)
    index = Index(project)
    takes = {
        f"take-{line.id}": take_of(project, line, length, pause, index)
        for line, length, pause in zip(project.lines, lengths_s, pauses, strict=True)
    }
    lines = tuple(line.changed(take_id=f"take-{line.id}") for line in project.lines)
    return build_timeline(project.changed(lines=lines), takes)


@st.composite
def timelines(draw: st.DrawFn, locks: bool = True, wishes: bool = True) -> Timeline:
    """Random timelines of all frame rates: stills and clips with handles, dissolves, several roles, two
    lanes.

    `locks` adds locked shots; `wishes` adds J-cuts and L-cuts, written pauses, sync points and pinned
    captions. Of the last two there are two at the most: more of them contradict each other, and what has no
    fit shows nothing.
    """
    rate = draw(st.sampled_from(list(FRAME_RATES.values())))
    count = draw(st.integers(1, 7))
    hard = draw(st.sampled_from([0, 0, 1, 1, 2])) if wishes else 0
    clips: dict[str, Clip] = {}
    shots: list[Shot] = []
    captions: list[Caption] = []
    lines: list[Line] = []
    lengths: list[float] = []
    pauses: list[float] = []
    for n in range(1, count + 1):
        seconds = draw(st.floats(1.0, 8.0))
        frames = max(12, rate.frames_nearest(seconds_to_ticks(seconds)))
        clip_hash = None
        if draw(st.booleans()):
            clip_hash = f"{n:064d}"
            handle = draw(st.integers(0, 60))
            clips[clip_hash] = Clip(
                hash=clip_hash, name="x", kind="video", length_ticks=rate.ticks(frames + handle)
            )
        shots.append(
            Shot(
                id=f"s{n}", name="x", clip_hash=clip_hash, length_frames=frames, wanted_frames=frames,
                locked=locks and draw(st.integers(0, 4)) == 0,
                transition_frames=draw(st.sampled_from([0, 0, 0, 3, 5])) if wishes and n < count else 0,
            )
        )  # fmt: skip
        parts = draw(st.integers(0, 2))
        for part in range(parts):
            number = len(lines) + 1
            words = draw(st.lists(st.sampled_from(WORDS), min_size=1, max_size=9))
            half = (part * frames // 2, (part + 1) * frames // parts - 1)
            pinned = hard > 0 and draw(st.integers(0, 5)) == 0
            hard -= pinned
            made = draw(shown(words, f"c{number}", f"s{n}", half, pinned))
            captions += made
            last = min(count, n + (1 if part == 1 and draw(st.booleans()) else 0))
            lane = draw(st.sampled_from([0, 0, 0, 1])) if wishes else 0
            held = draw(marks(len(words_of(" ".join(words))), f"s{last}", frames, hard > 0)) if wishes else ()
            hard -= any(isinstance(mark, SyncPoint) for mark in held)
            lines.append(
                Line(
                    id=f"l{number}", role_id=draw(st.sampled_from(["r1", "r2"])), first_shot_id=f"s{n}",
                    last_shot_id=f"s{last}", caption_ids=tuple(each.id for each in made), lane=lane,
                    may_overlap=lane == 1 and draw(st.booleans()), marks=held,
                    longest_j_cut_ticks=draw(room(0.4)) if wishes else None,
                    longest_l_cut_ticks=draw(room(0.5)) if wishes else None,
                )
            )  # fmt: skip
            lengths.append(draw(st.floats(0.4, 6.0)))
            pauses.append(draw(st.sampled_from([0.0, 0.0, 0.15, 0.3])))
    project = Project(
        name="Random",
        rate=rate,
        clips=clips,
        shots=tuple(shots),
        captions=tuple(captions),
        lines=tuple(lines),
        roles=(Role(id="r1", name="one", voice_id="orla"), Role(id="r2", name="two", voice_id="pell")),
        give_way=draw(st.sampled_from(["picture", "voice", "halfway"])),
    )
    return voiced(project, lengths, pauses)


def room(seconds: float) -> st.SearchStrategy[int]:
    """How long a line may start before or run on after its shot: mostly not at all."""
    return st.sampled_from([0, 0, seconds_to_ticks(seconds)])


@st.composite
def shown(
    draw: st.DrawFn, words: list[str], caption_id: str, shot_id: str, within: tuple[int, int], pinned: bool
) -> list[Caption]:
    """The words of a line in one caption, or shared among two or three, one after the other within some
    frames."""
    first, end = within
    count = draw(st.sampled_from([1, 1, 2, 3]))
    count = max(1, min(count, len(words), (end - first) // 3))
    places = st.lists(
        st.integers(1, max(1, len(words) - 1)), min_size=count - 1, max_size=count - 1, unique=True
    )
    cuts = sorted(draw(places))
    found: list[Caption] = []
    for number, (a, b) in enumerate(itertools.pairwise([0, *cuts, len(words)])):
        start, stop = (first + (end - first) * place // count for place in (number, number + 1))
        found.append(
            Caption(
                id=f"{caption_id}{'abc'[number] if count > 1 else ''}", shot_id=shot_id, in_frames=start,
                out_frames=max(start + 1, stop), text=" ".join(words[a:b]), pinned=pinned and number == 0,
            )
        )  # fmt: skip
    return found


@st.composite
def marks(draw: st.DrawFn, words: int, shot_id: str, frames: int, held: bool = True) -> tuple[Mark, ...]:
    """A written pause now and then, and more seldom, where it may be `held`, a sync point."""
    made: list[Mark] = []
    if words > 1 and draw(st.integers(0, 3)) == 0:
        after = draw(st.integers(0, words - 2))
        made.append(PauseMark(after_word=after, ticks=seconds_to_ticks(draw(st.floats(0, 0.8)))))
    if held and words > 1 and draw(st.integers(0, 6)) == 0:
        word = draw(st.integers(0, words - 1))
        made.append(SyncPoint(word=word, shot_id=shot_id, frames=draw(st.integers(0, max(0, frames // 2)))))
    return tuple(made)
