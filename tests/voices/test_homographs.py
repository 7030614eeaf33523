"""Words that are written alike and said in two ways."""

from bench.homographs import SENTENCES, wrong
from fox_cadence.core.marks import Pronunciation
from fox_cadence.voices.script import script_of


def test_of_fifty_words_said_in_two_ways_nearly_all_are_said_as_meant() -> None:
    assert len(SENTENCES.strip().splitlines()) == 50
    found = {word for _, word, _ in wrong()}
    assert found <= {"lead", "contract", "minute"}  # what only a reader of the whole sentence would know


def test_what_the_editor_says_goes_before_what_we_think() -> None:
    text = "I object to objects."
    assert [ipa for _, _, ipa in script_of(text, "en-GB", ()).sounds] == ["əbˈdʒɛkt"]
    assert script_of(text, "fr-FR", ()).sounds == ()
    own = Pronunciation(first_word=1, end_word=2, spelled="obbject")
    assert script_of(text, "en-GB", (own,)).sounds == ()
    assert script_of("The object is small.", "en-GB", ()).sounds == ()
