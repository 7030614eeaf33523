"""Hearing a change before it is made."""

from collections.abc import Sequence

import numpy as np

from fox_cadence.actions.fitting import Keep, try_edits
from fox_cadence.actions.voicing import natural_take, paced_take
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied
from fox_cadence.core.fit.plan import LinePlan
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.mix import SPEECH_LUFS
from fox_cadence.core.project import NotInProjectError, Project
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, seconds_to_ticks, ticks_to_samples
from fox_cadence.core.timeline import LineSpan
from fox_cadence.errors import InputError
from fox_cadence.media.audio import Sound, read_wav

_AROUND_TICKS = seconds_to_ticks(1)
_HEARD_LUFS = SPEECH_LUFS + 3


def hear_edits(
    workspace: Workspace, project_id: str, based_on: int, edits: Sequence[Applied], keep: Keep, line_id: str
) -> Sound:
    """The speech around a line as a fit with these edits would have it, a second before it to a second after
    it.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        EditError: an edit can't be made.
        EngineError: a line could not be voiced.
        InputError: no fit is possible with the edits.
    """
    fitted = try_edits(workspace, project_id, based_on, edits, keep)
    if fitted.proposal.status is not Status.SOLVED:
        raise InputError(
            "With this change no times satisfy all locks and limits, so there is nothing to hear."
        )
    pairs = list(zip(fitted.timeline.lines, fitted.proposal.lines, strict=True))
    chosen = next((plan for _, plan in pairs if plan.line_id == line_id), None)
    if chosen is None:
        raise NotInProjectError("line", line_id)
    begin, end = chosen.start_ticks - _AROUND_TICKS, chosen.end_ticks + _AROUND_TICKS
    heard = np.zeros(ticks_to_samples(end - begin), np.float32)
    for span, plan in pairs:
        if plan.end_ticks <= begin or plan.start_ticks >= end:
            continue
        take = _take(workspace, fitted.project, span, plan)
        sound = read_wav(workspace.library.take_sound(take.sound_hash))
        gain = 10 ** ((_HEARD_LUFS - take.loudness_lufs) / 20)
        _lay(heard, sound * np.float32(gain), ticks_to_samples(plan.start_ticks - begin) - take.onset_sample)
    fade = SAMPLE_RATE_HZ // 50
    ramp = np.linspace(0, 1, fade, dtype=np.float32)
    heard[:fade] *= ramp
    heard[-fade:] *= ramp[::-1]
    return heard


def _take(workspace: Workspace, project: Project, span: LineSpan, plan: LinePlan) -> Take:
    natural = (
        span.take
        if span.take is not None and not span.stale
        else natural_take(workspace, project, span.line)[0]
    )
    if plan.lengths == plan.natural and natural.length_ticks == plan.end_ticks - plan.start_ticks:
        return natural
    return paced_take(workspace, project, span, plan.lengths)


def _lay(target: Sound, sound: Sound, at: int) -> None:
    start, end = max(0, at), min(len(target), at + len(sound))
    if end > start:
        target[start:end] += sound[start - at : end - at]
