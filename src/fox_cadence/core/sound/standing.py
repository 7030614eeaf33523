"""How a mix stands: numbers that say whether words are understood, and warnings with what would cure them."""

from dataclasses import dataclass

from fox_cadence.core.edits import CutBed, HearColumn, SetBed, SetMix
from fox_cadence.core.edits.base import Applied
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import ticks_to_seconds

BURIED_DB = 6.0
"""Words that stand less over all that sounds with them may be lost: over the densest of three beds they need
6 dB for an ESTOI of 0.90, over the others 1 or 2 dB (docs/benchmarks.md)."""
_SHORT_S = 1.0
_HELD_DB = 3.0
_OFF_LU = 0.5


@dataclass(frozen=True, slots=True)
class Cure:
    """What would help, and the edits that do it."""

    text: str
    edits: tuple[Applied, ...]


@dataclass(frozen=True, slots=True)
class MixWarning:
    """Something in the mix that should be looked at, from a second of the piece on."""

    text: str
    at_s: float
    cures: tuple[Cure, ...] = ()


@dataclass(frozen=True, slots=True)
class LineOver:
    """How far a line stands over what sounds with it, in decibels; None where nothing does."""

    line_id: str
    start_s: float
    over_db: float | None


@dataclass(frozen=True, slots=True)
class MixMeasured:
    """What was measured of a mix: its loudness, by how many decibels its peaks are held down for a hundredth
    of its time, and how each line stands over the rest."""

    lufs: float
    held_db: float
    lines: tuple[LineOver, ...]
    clipped: tuple[str, ...] = ()


def warnings_of(project: Project, total_ticks: int, measured: MixMeasured) -> tuple[MixWarning, ...]:
    """What is wrong with a mix, the worst first."""
    found = [*_buried(project, measured), *_loudness(project, measured), *_early_ends(project, total_ticks)]
    found += [
        MixWarning(f"Clip {project.clips[each].name} is recorded too loud: its peaks are cut off", 0.0)
        for each in measured.clipped
        if each in project.clips
    ]
    return (*_unheard(project), *found)


def _unheard(project: Project) -> list[MixWarning]:
    names = [*project.mix.solo, *project.mix.muted]
    if not names:
        return []
    cure = Cure("Hear everything", tuple(HearColumn(column=name) for name in dict.fromkeys(names)))
    how = "Only a part is heard, as something is solo" if project.mix.solo else "Something is muted"
    return [MixWarning(f"{how}: what is exported lacks it too", 0.0, (cure,))]


def _buried(project: Project, measured: MixMeasured) -> list[MixWarning]:
    numbers = {line.id: number + 1 for number, line in enumerate(project.lines)}
    found = []
    for line in measured.lines:
        if line.over_db is None or line.over_db >= BURIED_DB or line.line_id not in numbers:
            continue
        more = BURIED_DB + 3 - line.over_db
        cures = [
            Cure(
                f"Duck the bed by {min(40.0, bed.duck_db + more):.0f} dB",
                (SetBed(bed_id=bed.id, duck_db=min(40.0, round(bed.duck_db + more))),),
            )
            for bed in project.beds[:1]
        ]
        cures.append(Cure("Speech louder by 3 dB", (SetMix(speech_db=min(12.0, project.mix.speech_db + 3)),)))
        text = f"Line {numbers[line.line_id]} stands only {line.over_db:.0f} dB over what sounds with it"
        found.append(MixWarning(text, line.start_s, tuple(cures)))
    return found


def _loudness(project: Project, measured: MixMeasured) -> list[MixWarning]:
    aim = project.mix.aim_lufs
    found = []
    if measured.held_db > _HELD_DB:
        softer = max(-40.0, aim - 2)
        text = f"To be as loud as {aim:g} LUFS, peaks are held down by {measured.held_db:.0f} dB in places"
        cure = Cure(f"Aim at {softer:g} LUFS", (SetMix(aim_lufs=softer),))
        found.append(MixWarning(text, 0.0, (cure,)))
    if measured.lufs > -69 and abs(measured.lufs - aim) > _OFF_LU:
        found.append(MixWarning(f"The whole is at {measured.lufs:.1f} LUFS, not at {aim:g}", 0.0))
    return found


def _early_ends(project: Project, total_ticks: int) -> list[MixWarning]:
    """Beds that were cut, and end before the piece does."""
    found = []
    for bed in project.beds:
        if not bed.stretches:
            continue
        end = bed.start_ticks + bed.stretches_ticks
        short = ticks_to_seconds(bed.end_ticks(total_ticks) - end)
        if short > _SHORT_S:
            cure = Cure("Play it as it is, not cut", (_uncut(bed.id),))
            text = f"The bed ends {short:.1f} s before it should: the piece was shorter when it was cut"
            found.append(MixWarning(text, ticks_to_seconds(end), (cure,)))
        elif short < -_SHORT_S:
            cure = Cure("Play it as it is, not cut", (_uncut(bed.id),))
            text = "The bed is cut off before its ending: the piece was longer when it was cut"
            found.append(MixWarning(text, ticks_to_seconds(bed.end_ticks(total_ticks)), (cure,)))
    return found


def _uncut(bed_id: str) -> Applied:
    return CutBed(bed_id=bed_id)
