"""The length model on lines it has not seen: as it ships, and once a voice has spoken the other half of
them."""

from bench.clock import quantile
from bench.corpus import WRITTEN
from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.phoneme_model import VoiceModel
from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.lengths import SpokenLengths
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

HEARD = ("wren", "holt", "orla", "pell", "wade", "ines", "bruno")


class _Memory:
    """Models of voices that are gone at the end."""

    def __init__(self) -> None:
        self._models: dict[str, VoiceModel] = {}

    def voice_model(self, voice_id: str) -> VoiceModel | None:
        return self._models.get(voice_id)

    def keep_voice_model(self, voice_id: str, model: VoiceModel) -> None:
        self._models[voice_id] = model


def rows() -> list[str]:
    """A table: for each voice the share by which estimates were off, before and after learning."""
    engines = Engines()
    found = [
        "| voice | lines | as it ships: median | p95 | after 15 takes: median | p95 | the model's own error "
        "|",
        "| --- | --- | --- | --- | --- | --- | --- |",
    ]
    try:
        voices = (voice_by_id(voice_id) for voice_id in HEARD)
        found += [_voice_row(engines, voice) for voice in voices if voice]
        plain = _off(LETTERS, [take for voice_id in HEARD for take in _takes(engines, voice_id)])
    finally:
        engines.close()
    without = f"median {quantile(plain, 0.5):.0%}, p95 {quantile(plain, 0.95):.0%}"
    return [*found, "", f"By letters alone, where there are no phonemes: {without}, all voices together."]


def _takes(engines: Engines, voice_id: str) -> list[Take]:
    voice = voice_by_id(voice_id)
    if voice is None:
        return []
    engine = engines.of(voice)
    requests = (
        VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        for text in WRITTEN[voice.language.split("-")[0]]
    )
    return [make_take(engine, voice, request)[0] for request in requests]


def _voice_row(engines: Engines, voice: Voice) -> str:
    takes = _takes(engines, voice.id)
    shipped = _off(SpokenLengths(engines.espeak, _Memory()), takes)
    learnt: list[float] = []
    own: list[float] = []
    for half in (0, 1):
        lengths = SpokenLengths(engines.espeak, _Memory())
        for take in takes[half::2]:
            lengths.learn(take)
        learnt += _off(lengths, takes[1 - half :: 2])
        own.append(lengths.model(voice).error)
    return (
        f"| {voice.name} ({voice.language}) | {len(takes)} "
        f"| {quantile(shipped, 0.5):.1%} | {quantile(shipped, 0.95):.1%} "
        f"| {quantile(learnt, 0.5):.1%} | {quantile(learnt, 0.95):.1%} | {max(own):.1%} |"
    )


def _off(lengths: Estimator, takes: list[Take]) -> list[float]:
    off = []
    for take in takes:
        spoken = (take.end_sample - take.onset_sample) / 48_000
        guess = lengths.estimate(take.text, take.voice_id, take.pace).ticks / TICKS_PER_SECOND
        off.append(abs(guess / spoken - 1))
    return off
