"""What is known of lines before their sound: kept, asked once, never in the way."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

from fox_cadence.core.length_model import KnownSpeech
from fox_cadence.core.takes import VoicingRequest, WrittenPause
from fox_cadence.errors import EngineError
from fox_cadence.store.database import Database
from fox_cadence.store.known_lengths import KnownLengthStore
from fox_cadence.voices.engine import Abilities, Engine, Outline, Speech, Utterance
from fox_cadence.voices.known_lengths import KnownLengths
from fox_cadence.voices.voice import Voice

ASKED = VoicingRequest(text="One two three.", voice_id="en-maren", pace=1.0, pitch_semitones=0.0)


class Foreseer:
    """Knows every line: three words of half a second with a rest of 0.2 s after the first."""

    def __init__(self) -> None:
        self.asked: list[str] = []

    def abilities(self) -> Abilities:
        return Abilities(pitch=True, pace_min=0.5, pace_max=2, directed=True)

    def foresee(self, utterance: Utterance) -> Outline | None:
        self.asked.append(utterance.text)
        if "broken" in utterance.text:
            raise EngineError("no")
        runs = ((100, 600), (800, 1800))
        return Outline(1000, runs, ((0, 100), (4, 800), (8, 1300)), (("a", 100), ("m", 800), ("a", 1300)))

    def say(self, utterance: Utterance) -> Speech:
        raise AssertionError("nothing is said to know a length")

    def close(self) -> None: ...


@pytest.fixture
def store(tmp_path: Path) -> KnownLengthStore:
    return KnownLengthStore(Database(tmp_path / "test.sqlite"))


def lengths(engine: Foreseer, store: KnownLengthStore) -> KnownLengths:
    def engine_of(voice: Voice) -> Engine:
        return engine

    return KnownLengths(engine_of, store)


def test_a_line_is_asked_once_whatever_pauses_are_written_in_it_and_is_known_after_a_restart(
    store: KnownLengthStore,
) -> None:
    engine = Foreseer()
    with ThreadPoolExecutor(2) as makers:
        known = lengths(engine, store)
        assert known.find(ASKED) is None
        known.settle([ASKED, ASKED.changed(written=(WrittenPause(after_word=0, samples=9),))], makers)
        found = known.find(ASKED)
        assert found is not None
        assert engine.asked == ["One two three."]
        second = 705_600_000
        assert (found.end, found.rests) == (second * 17 // 10, ((second // 2, second * 7 // 10),))
        assert found.estimate().ticks == found.end
        assert found.estimate().pauses == {0: second // 5}
        known.close()
        again = lengths(engine, store)
        again.settle([ASKED], makers)
        assert again.find(ASKED) == found
        assert len(engine.asked) == 1


def test_what_can_not_be_foreseen_is_not_asked_again_and_stops_nothing(store: KnownLengthStore) -> None:
    engine = Foreseer()
    known = lengths(engine, store)
    known.begin()
    broken = ASKED.changed(text="A broken one.")
    with ThreadPoolExecutor(1) as makers:
        known.settle([broken, ASKED], makers)
    assert known.find(broken) is None
    assert known.find(ASKED) is not None
    known.want([broken])
    assert known.waiting([broken]) == 0
    known.close()


def test_what_is_wanted_comes_by_itself(store: KnownLengthStore) -> None:
    engine = Foreseer()
    known = lengths(engine, store)
    others = [ASKED.changed(text=f"Line {number} here.") for number in range(30)]
    known.want(others)
    assert known.waiting(others) == 0  # nobody has begun
    known.begin()
    known.want(others)
    while known.waiting(others):
        pass
    assert all(known.find(each) is not None for each in others)
    known.close()
    assert isinstance(store.find(others[3].key), KnownSpeech)
