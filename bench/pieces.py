"""Pieces to measure on: as many lines as wanted, each over a shot of its own, some leaning, some spilling."""

import numpy as np

from fox_cadence.core.project import Caption, Line, Project, Role
from fox_cadence.core.shot import Shot
from fox_cadence.core.takes import Pause, Take, WordTime, natural_request
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.core.words import words_of

_WORDS = [
    "tide",
    "pool",
    "a",
    "crab",
    "slowly,",
    "the",
    "anemone",
    "rests.",
    "under",
    "weed",
    "and",
    "then",
    "it",
    "turns",
]


def piece(lines: int, seed: int = 7) -> tuple[Project, dict[str, Take]]:
    """A project and its takes: shots of four seconds, speech from 1.8 to 4.6 s, a pause in every other
    line."""
    chance = np.random.default_rng(seed)
    frames = 120
    texts = [" ".join(chance.choice(_WORDS, int(chance.integers(4, 11)))) for _ in range(lines)]
    numbers = range(1, lines + 1)
    project = Project(
        name="Bench",
        rate=FrameRate(numerator=30),
        roles=(Role(id="r1", name="one", voice_id="orla"), Role(id="r2", name="two", voice_id="pell")),
        shots=tuple(
            Shot(id=f"s{n}", name=str(n), length_frames=frames, wanted_frames=frames) for n in numbers
        ),
        captions=tuple(
            Caption(id=f"c{n}", shot_id=f"s{n}", in_frames=0, out_frames=frames, text=text)
            for n, text in zip(numbers, texts, strict=True)
        ),
        lines=tuple(
            Line(
                id=f"l{n}",
                role_id="r1" if n % 5 else "r2",
                first_shot_id=f"s{n}",
                last_shot_id=f"s{n}",
                caption_ids=(f"c{n}",),
                take_id=f"take-{n}",
            )
            for n in numbers
        ),
    )
    takes: dict[str, Take] = {}
    for line, length, rest in zip(
        project.lines, chance.uniform(1.8, 4.6, lines), chance.choice([0.0, 0.3], lines), strict=True
    ):
        takes[line.take_id or ""] = _take(project, line, texts[len(takes)], float(length), float(rest))
    return project, takes


def _take(project: Project, line: Line, text: str, length_s: float, rest_s: float) -> Take:
    shown = project.changed(lines=(line,), captions=tuple(
        caption for caption in project.captions if caption.id in line.caption_ids
    ))  # fmt: skip
    request = natural_request(shown, line)
    words = words_of(text)
    rest = round(rest_s * 48_000)
    step = (round(length_s * 48_000) - rest) // len(words)
    after = len(words) // 2
    times = [
        (n * step + (rest if n >= after else 0), (n + 1) * step + (rest if n >= after else 0))
        for n in range(len(words))
    ]
    return Take(
        id=line.take_id or "",
        key=request.key,
        text=text,
        voice_id=request.voice_id,
        pace=request.pace,
        sound_hash="0" * 64,
        sample_count=times[-1][1],
        onset_sample=0,
        end_sample=times[-1][1],
        words=tuple(
            WordTime(text=word.text, start_sample=a, end_sample=b)
            for word, (a, b) in zip(words, times, strict=True)
        ),
        pauses=(Pause(start_sample=after * step, end_sample=after * step + rest),) if rest and after else (),
        loudness_lufs=-20,
    )


def timeline(lines: int) -> Timeline:
    return build_timeline(*piece(lines))
