"""Estimates of length from phonemes: counted once, learnt from takes, never in the way."""

from fox_cadence.core.length_model import LETTERS
from fox_cadence.core.phoneme_model import VoiceModel
from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.lengths import SpokenLengths
from fox_cadence.voices.takes import make_take

TEXT = "The tide turns, and the pools fill. Slowly."


class Counter:
    """Phonemes of an engine, with a count of how often it was asked."""

    def __init__(self, broken: bool = False) -> None:
        self.asked: list[list[str]] = []
        self._broken = broken

    def phonemes(self, texts: list[str], voice: str) -> list[list[str]]:
        self.asked.append(texts)
        if self._broken:
            raise EngineError("gone")
        return [["ð_ə t_ˈaɪ_d", "s_l_ˈoʊ_l_i"] for _ in texts]


class Memory:
    def __init__(self) -> None:
        self.models: dict[str, VoiceModel] = {}

    def voice_model(self, voice_id: str) -> VoiceModel | None:
        return self.models.get(voice_id)

    def keep_voice_model(self, voice_id: str, model: VoiceModel) -> None:
        self.models[voice_id] = model


def test_texts_are_counted_once_and_many_in_one_go() -> None:
    counter = Counter()
    lengths = SpokenLengths(counter, Memory())
    lengths.prepare([TEXT, "Stone.", TEXT], "orla")
    lengths.prepare(["Stone."], "orla")
    for _ in range(3):
        lengths.estimate(TEXT, "orla", 1.0)
    assert counter.asked == [[TEXT, "Stone."]]


def test_a_faster_pace_is_shorter_in_proportion_and_pauses_stand_at_sentences() -> None:
    lengths = SpokenLengths(Counter(), Memory())
    usual, fast = (lengths.estimate(TEXT, "orla", pace) for pace in (1.0, 1.25))
    assert abs(fast.ticks * 1.25 / usual.ticks - 1) < 1e-3
    assert list(usual.pauses) == [6]  # after "fill."; the comma is too short to be told from speech
    assert 0 < usual.error < 0.1


def test_without_phonemes_letters_must_do() -> None:
    broken = SpokenLengths(Counter(broken=True), Memory())
    broken.prepare([TEXT], "orla")
    for voice_id, text in (("orla", TEXT), ("nobody", TEXT), ("orla", " … ")):
        assert broken.estimate(text, voice_id, 1.0) == LETTERS.estimate(text, voice_id, 1.0)
    assert broken.estimate(TEXT, "orla", 1.0).error == LETTERS.ERROR


def test_a_take_teaches_its_voice_and_no_other() -> None:
    engine, memory = EspeakEngine(), Memory()
    try:
        lengths = SpokenLengths(engine, memory)
        voice = voice_by_id("orla")
        assert voice is not None
        take = _take(engine, TEXT)
        before = lengths.estimate(TEXT, "orla", 1.0)
        other = lengths.estimate(TEXT, "pell", 1.0)
        for _ in range(12):
            lengths.learn(take)
        after = lengths.estimate(TEXT, "orla", 1.0)
        spoken = (take.end_sample - take.onset_sample) / 48000
        off = [abs(ticks_to_seconds(guess.ticks) - spoken) for guess in (before, after)]
        assert off[1] <= off[0]
        assert off[1] < 0.03 * spoken
        assert lengths.estimate(TEXT, "pell", 1.0) == other
        lengths.save()
        assert set(memory.models) == {"orla"}
        assert SpokenLengths(engine, memory).estimate(TEXT, "orla", 1.0) == after
    finally:
        engine.close()


def test_a_take_that_was_set_to_a_length_teaches_nothing() -> None:
    engine, memory = EspeakEngine(), Memory()
    try:
        lengths = SpokenLengths(engine, memory)
        take = _take(engine, TEXT)
        lengths.learn(take.changed(stretch=0.01))
        lengths.learn(take.changed(voice_id="nobody"))
        written = tuple(pause.changed(written=True) for pause in take.pauses)
        assert written
        lengths.learn(take.changed(pauses=written))
        assert memory.models == {}
    finally:
        engine.close()


def _take(engine: EspeakEngine, text: str) -> Take:
    voice = voice_by_id("orla")
    assert voice is not None
    made, _ = make_take(
        engine, voice, VoicingRequest(text=text, voice_id="orla", pace=1.0, pitch_semitones=0)
    )
    return made
