"""Mixes: the whole of a piece, kept while nothing changes, and any part of it at once."""

import threading
from dataclasses import replace

from cachetools import LRUCache

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.mix import SPEECH_LUFS, MixPlan, plan_mix
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound, read_wav
from fox_cadence.media.ingest import SOUND
from fox_cadence.media.mixdown import Mix, mix_down, part_at_once
from fox_cadence.media.mixing import Loaders, Mixer
from fox_cadence.media.sound_reader import SoundReader, WavFile

LONGEST_MIX_S = 4 * 3600
"""A finished mix lies in a file: four hours take 5.5 GB of the disk while they are worked on."""
_MOST_MIXES = 4
_MOST_SAMPLES = 2 * LONGEST_MIX_S * SAMPLE_RATE_HZ


class _Mixes:
    """The newest mixes. One is made at a time, and only once.

    A plan names its sounds by their content, so that it says all there is to say of its mix.
    """

    def __init__(self) -> None:
        self._kept: LRUCache[MixPlan, Mix] = LRUCache(
            _MOST_SAMPLES, getsizeof=lambda mix: min(_MOST_SAMPLES, max(1, mix.total_samples))
        )
        self._making = threading.Lock()
        self._lock = threading.Lock()
        self._gains: LRUCache[str, float] = LRUCache(32)

    def known(self, plan: MixPlan) -> Mix | None:
        with self._lock:
            return self._kept.get(plan)

    def get(self, workspace: Workspace, plan: MixPlan, watch: Watcher) -> Mix:
        with self._making:

            def told(done: int, total: int) -> None:
                watch.report(done * 100 // max(1, total), 100, "Mixing the sound")

            made = self.known(plan)
            if made is None:
                made = mix_down(mixer_of(workspace, plan), workspace.scratch, told)
            with self._lock:
                self._kept[plan] = made
                while len(self._kept) > _MOST_MIXES:
                    self._kept.popitem()
                self._gains[_like(plan)] = made.gain_db
        return made

    def expected_gain_db(self, plan: MixPlan) -> float:
        """The gain of the mix that was last asked for of the same piece to the same loudness, or what speech
        alone would have."""
        with self._lock:
            return self._gains.get(_like(plan), plan.settings.aim_lufs - SPEECH_LUFS)


def _like(plan: MixPlan) -> str:
    """What a piece keeps while it is worked on: its beds, and how loud it is to be."""
    beds = " ".join(part.clip_hash[:12] for part in plan.beds)
    return f"{plan.settings.aim_lufs} {bool(plan.speech)} {beds}"


_mixes = _Mixes()


def mixer_of(workspace: Workspace, plan: MixPlan) -> Mixer:
    """What lays the sounds of a plan."""

    def take(sound_hash: str) -> Sound:
        return read_wav(workspace.library.take_sound(sound_hash))

    def clip(content_hash: str) -> SoundReader:
        return WavFile(workspace.library.clip_file(content_hash, SOUND))

    return Mixer(plan, Loaders(take, clip))


def planned(workspace: Workspace, timeline: Timeline) -> MixPlan:
    """What is to be mixed.

    Raises:
        InputError: the piece is too long to be mixed.
    """
    seconds = ticks_to_seconds(timeline.total_ticks)
    if seconds > LONGEST_MIX_S:
        raise InputError(
            f"The piece lasts {seconds / 3600:.1f} hours; up to {LONGEST_MIX_S // 3600} can be played as a "
            "whole and exported. Each line can still be heard by itself."
        )
    measured = timeline.project.changed(clips=workspace.library.measured(timeline.project.clips))
    return plan_mix(replace(timeline, project=measured))


def mix(workspace: Workspace, timeline: Timeline, watch: Watcher | None = None) -> Mix:
    """The mix of a timeline; the last few are kept.

    Raises:
        InputError: the piece is too long to be mixed.
        NotFoundError: a sound has vanished.
        CancelledError: the editor stopped it.
    """
    return _mixes.get(workspace, planned(workspace, timeline), watch or Unwatched())


def part(workspace: Workspace, timeline: Timeline, start: int, count: int) -> Sound:
    """Samples of a piece at once: of its mix where that is there, else laid by themselves with the gain that
    the whole is expected to have.

    Raises:
        InputError: the piece is too long to be mixed.
        NotFoundError: a sound has vanished.
    """
    plan = planned(workspace, timeline)
    known = _mixes.known(plan)
    if known is not None:
        return known.read(start, count)
    return part_at_once(mixer_of(workspace, plan), start, count, _mixes.expected_gain_db(plan))
