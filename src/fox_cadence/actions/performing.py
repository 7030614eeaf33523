"""Other performances of a line: sung on a tune, said by a voice with the timing of its recording, or its
recording at another tempo. Each is a take of its own beside those the line has."""

import hashlib
import math
from dataclasses import dataclass

import numpy as np

from fox_cadence.actions.music import beats_of, in_piece, music_of
from fox_cadence.actions.voicing import keep_takes, natural_take
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetLineStart
from fox_cadence.core.edits.base import Applied, with_line
from fox_cadence.core.project import KeptTake, Line, Project, kept_take
from fox_cadence.core.sound.singing import Tune, as_recorded, sung
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.value import Value
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import METER, Sound, measure_loudness, read_wav, wav_bytes
from fox_cadence.media.key import key_of
from fox_cadence.media.throat import median_hz, retimed

Moments = tuple[tuple[int, int], ...]

_USUAL_BPM = 92.0
_MOST_S = 120.0
_MIDDLE_C_HZ = 261.626


@dataclass(frozen=True, slots=True)
class SungLine:
    """How a line is sung: the tempo, the tonic as a pitch class from c, and whether both are those of a
    bed."""

    tempo_bpm: float
    tonic: int
    with_bed: bool


def sing_line(
    workspace: Workspace, project_id: str, line_id: str, tune: Tune, watcher: Watcher | None = None
) -> SungLine:
    """Have a line sung by its own voice: in the key and on the beats of the first bed that has any, else in
    the middle of the voice. One undoable step.

    Raises:
        InputError: it would last too long.
        EngineError: its voice failed.
        NotInProjectError: there is no such line.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 3, "Saying the line")
    project = workspace.head(project_id).project
    line = project.line(line_id)
    take, _ = natural_take(workspace, project, line)
    watch.report(1, 3, "Looking for key and beats")
    sound = read_wav(workspace.library.take_sound(take.sound_hash))
    tempo, tonic, beats = _music(workspace, project)
    plan = sung(take, tune, 60 / tempo)
    if plan.moments[-1][1] > _MOST_S * SAMPLE_RATE_HZ:
        raise InputError(
            f"it would last more than {_MOST_S:.0f} s; take a quicker tune, or fewer words", "tune"
        )
    tonic_hz = _near(
        _MIDDLE_C_HZ * 2 ** (tonic / 12), median_hz(sound), [note.semitones for note in tune.notes]
    )
    notes = [(start, end, tonic_hz * 2 ** (step / 12)) for start, end, step in plan.notes]
    watch.report(2, 3, "Singing it")
    made = retimed(sound, plan.moments, notes)
    new = _kept(workspace, take, made, plan.moments, f"sung {tune.id} {tune.notes} {tempo} {tonic}")
    kept = {line.id: _named(project, line, new, f"Sung: {tune.name}")}
    edits = _on_a_beat(workspace, project, line, new, plan.first_vowel, beats)
    watch.report(3, 3)
    keep_takes(workspace, project_id, kept, edits, label=f"Line sung, {tune.name}")
    return SungLine(tempo, tonic, bool(beats))


def say_as_recorded(
    workspace: Workspace, project_id: str, line_id: str, voice_id: str, watcher: Watcher | None = None
) -> Take:
    """Have a voice say a line that plays a recording, each word where the person said it. One undoable step.

    Raises:
        InputError: the line plays no recording, or that says other words.
        EngineError: the voice failed.
        NotInProjectError: there is no such line.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 2, "Saying the line")
    project = workspace.head(project_id).project
    line = project.line(line_id)
    recorded = _recorded(workspace, line)
    if recorded is None:
        raise InputError("this line plays no recording; bring one in under Cast first", "line")
    other = line.changed(voice_id=voice_id, take_id=None, placement=None)
    take, _ = natural_take(workspace, with_line(project, other), other)
    try:
        moments = as_recorded(take, recorded)
    except ValueError as error:
        raise InputError(str(error), "line") from error
    watch.report(1, 2, "Putting its words where they were said")
    made = retimed(read_wav(workspace.library.take_sound(take.sound_hash)), moments)
    watch.report(2, 2)
    new = _kept(workspace, take, made, moments, f"as recorded {recorded.key}")
    keep_takes(workspace, project_id, {line.id: _named(project, line, new, "Said as it was recorded")})
    return new


def at_tempo(
    workspace: Workspace, project_id: str, line_id: str, percent: float, watcher: Watcher | None = None
) -> Take:
    """Have the recording of a line play slower or quicker than it does, at its pitch. One undoable step.

    Args:
        percent: of the tempo it has.

    Raises:
        InputError: the line plays no recording.
        NotInProjectError: there is no such line.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 1, "Giving the recording another tempo")
    project = workspace.head(project_id).project
    line = project.line(line_id)
    take = _recorded(workspace, line)
    if take is None:
        raise InputError("a voice says this line: its pace is a part of its delivery, under Cast", "line")
    onset, length = take.onset_sample, take.end_sample - take.onset_sample
    moments = ((onset, onset), (take.end_sample, onset + round(length * 100 / percent)))
    made = retimed(read_wav(workspace.library.take_sound(take.sound_hash)), moments)
    watch.report(1, 1)
    new = _kept(workspace, take, made, moments, f"tempo {percent:g}")
    named = _named(project, line, new, f"At {percent:g} % of the tempo")
    keep_takes(workspace, project_id, {line.id: named}, label=f"Recording at {percent:g} %")
    return new


def _recorded(workspace: Workspace, line: Line) -> Take | None:
    """The recording a line plays."""
    take = workspace.library.takes([line.take_id or ""]).get(line.take_id or "")
    return take if take is not None and take.recorded else None


def _music(workspace: Workspace, project: Project) -> tuple[float, int, list[float]]:
    """Tempo, tonic and beats in the piece of the first bed in which beats were found."""
    total = workspace.timeline(project).total_ticks
    for bed in project.beds:
        found = beats_of(workspace, bed.clip_hash)
        if found.beats_s and found.certainty > 0.5:
            tempo = found.tempo_bpm if found.tempo_bpm <= 132 else found.tempo_bpm / 2
            return (
                tempo,
                key_of(music_of(workspace, bed.clip_hash)),
                in_piece(bed, project, total, found.beats_s),
            )
    return _USUAL_BPM, 0, []


def _near(tonic_hz: float, voice_hz: float, steps: list[int]) -> float:
    """The tonic in the octave in which the middle of the tune lies nearest to the middle of the voice."""
    if voice_hz <= 0:
        return tonic_hz
    middle = tonic_hz * 2 ** (float(np.median(steps)) / 12)
    return tonic_hz * 2.0 ** round(math.log2(voice_hz / middle))


def _on_a_beat(
    workspace: Workspace, project: Project, line: Line, take: Take, first_vowel: int, beats: list[float]
) -> list[Applied]:
    """The start of the line with which its first vowel is on the beat nearest to where it would be."""
    if not beats or line.locked:
        return []
    timeline = workspace.timeline(project)
    span = next(each for each in timeline.lines if each.line.id == line.id)
    lead = (first_vowel - take.onset_sample) / SAMPLE_RATE_HZ
    now = ticks_to_seconds(span.start_ticks)
    beat = min(beats, key=lambda each: abs(each - now - lead))
    shot = next(each for each in timeline.shots if each.shot.id == line.first_shot_id)
    origin = ticks_to_seconds(project.rate.ticks(shot.start_frame))
    return [SetLineStart(line_id=line.id, offset_s=max(-60.0, beat - lead - origin))]


def _kept(workspace: Workspace, take: Take, sound: Sound, moments: Moments, how: str) -> Take:
    """A take with its words, pauses and sounds at their new places. It is stretched by a fit as a recording
    is, for a voice can't be asked for it again."""
    was, now = [each[0] for each in moments], [each[1] for each in moments]

    def at(sample: int) -> int:
        if sample > was[-1]:
            return sample + now[-1] - was[-1]
        return round(float(np.interp(sample, was, now)))

    def moved(each: Value) -> dict[str, int]:
        return {
            name: at(getattr(each, name)) for name in ("start_sample", "end_sample") if hasattr(each, name)
        }

    new = take.changed(
        key=hashlib.sha256(f"{how} {take.key}".encode()).hexdigest(),
        sample_count=len(sound),
        onset_sample=at(take.onset_sample),
        end_sample=at(take.end_sample),
        words=tuple(word.changed(**moved(word)) for word in take.words),
        pauses=tuple(pause.changed(**moved(pause)) for pause in take.pauses),
        phonemes=tuple(each.changed(**moved(each)) for each in take.phonemes),
        loudness_lufs=round(measure_loudness(sound, true_peak=False).integrated_lufs, 2),
        meter=METER,
        request=None,
        recorded=True,
        pace=1.0,
    )
    return workspace.library.add_take(new, wav_bytes(sound))


def _named(project: Project, line: Line, take: Take, name: str) -> KeptTake:
    return kept_take(project, line, take.id).changed(name=name, delivery=None)
