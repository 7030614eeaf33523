"""The words of a line as an engine is to have them: pronunciations and spoken forms in their places."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.languages import primary
from fox_cadence.core.marks import Pronunciation
from fox_cadence.core.words import SIGNS, words_of
from fox_cadence.voices.homographs import said_otherwise
from fox_cadence.voices.spoken_forms import spoken_forms


@dataclass(frozen=True, slots=True)
class Script:
    """Text for an engine. Word n of the line begins at character `begins[n]` of it; `sounds` are parts said
    as IPA."""

    text: str
    begins: tuple[int, ...]
    letters: tuple[int, ...]
    sounds: tuple[tuple[int, int, str], ...]

    def word_at(self, character: int) -> int:
        """The word of the line a character of the text belongs to."""
        return max(0, bisect_right(self.begins, character) - 1)


def script_of(text: str, language: str, pronunciations: Sequence[Pronunciation]) -> Script:
    """Put what is said in the place of what is written; a word's punctuation stays."""
    words = words_of(text)
    said = {form.word: form.said for form in spoken_forms(text, language)}
    english = primary(language) == "en"
    ipa = said_otherwise([word.text for word in words]) if english else dict[int, str]()
    for mark in pronunciations:
        parts = (mark.ipa or mark.spelled or "").split()
        count = mark.end_word - mark.first_word
        if mark.end_word > len(words) or (count > 1 and count != len(parts)):
            continue  # it was made for other words
        each = [" ".join(parts)] if count == 1 else parts
        for place, part in zip(range(mark.first_word, mark.end_word), each, strict=True):
            said.pop(place, None)
            ipa.pop(place, None)
            if mark.ipa is not None:
                ipa[place] = part
            else:
                said[place] = _in_place(words[place].text, part)
    made = text[: words[0].start] if words else text
    begins, letters, sounds = list[int](), list[int](), list[tuple[int, int, str]]()
    following = [*(word.start for word in words[1:]), len(text)]
    for index, (word, until) in enumerate(zip(words, following, strict=False)):
        spoken = said.get(index, word.text)
        begins.append(len(made))
        letters.append(len(spoken))
        if index in ipa:
            core = word.text.strip(SIGNS) or word.text
            start = len(made) + word.text.index(core)
            sounds.append((start, start + len(core), ipa[index]))
        made += spoken + text[word.end_exclusive : until]
    return Script(made, tuple(begins), tuple(letters), tuple(sounds))


def _in_place(written: str, said: str) -> str:
    """What is said with the punctuation of what is written."""
    core = written.strip(SIGNS) or written
    before, _, after = written.partition(core)
    return f"{before}{said}{after}"
