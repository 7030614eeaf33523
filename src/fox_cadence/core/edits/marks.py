"""Edits of the marks inside a line."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, with_line
from fox_cadence.core.ipa import NotIpaError, checked_ipa
from fox_cadence.core.languages import is_language, language_name
from fox_cadence.core.lexicon import fits
from fox_cadence.core.marks import (
    Breath,
    Emphasis,
    EmphasisLevel,
    Mark,
    PauseMark,
    Pronunciation,
    SpanMark,
    SyncPoint,
    cut_out,
    shifted,
    words_under,
)
from fox_cadence.core.project import Line, Project, said_text
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of


def _word(project: Project, line: Line, word: int) -> str:
    words = words_of(said_text(project, line))
    if word >= len(words):
        raise EditError(
            f"Line {number(project.lines, line.id)} has {len(words)} words; there is no word {word + 1}."
        )
    return words[word].text.strip(".,;:!?…–—\"'“”‘’()")


def _with_marks(project: Project, line: Line, marks: list[Mark]) -> Project:
    return with_line(project, line.changed(marks=tuple(marks)))


class SetPause(EditValue):
    """A pause of just this length after a word; None takes the mark away and leaves the pause to the
    voice."""

    kind: Literal["pause"] = "pause"
    line_id: str
    after_word: int = Field(ge=0)
    seconds: float | None = Field(None, ge=0, le=10)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        word = _word(project, line, self.after_word)
        if self.after_word + 1 >= len(words_of(said_text(project, line))):
            raise EditError(
                "A pause stands between two words; after the last one there is nothing to hold up."
            )
        marks = [m for m in line.marks if not (isinstance(m, PauseMark) and m.after_word == self.after_word)]
        place = number(project.lines, line.id)
        if self.seconds is None:
            return _with_marks(project, line, marks), f"Line {place}: no written pause after “{word}”"
        marks.append(PauseMark(after_word=self.after_word, ticks=seconds_to_ticks(self.seconds)))
        return _with_marks(
            project, line, marks
        ), f"Line {place}: pause of {self.seconds:.2f} s after “{word}”"


class SetSync(EditValue):
    """Hold a word to a frame of a shot (0 is the cut it begins with); no shot lets the word go."""

    kind: Literal["sync"] = "sync"
    line_id: str
    word: int = Field(ge=0)
    shot_id: str | None = None
    frames: int = Field(0, ge=0)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        word = _word(project, line, self.word)
        place = number(project.lines, line.id)
        marks = [m for m in line.marks if not (isinstance(m, SyncPoint) and m.word == self.word)]
        if self.shot_id is None:
            return _with_marks(project, line, marks), f"Line {place}: “{word}” released"
        shot = project.shot(self.shot_id)
        if self.frames >= shot.length_frames:
            raise EditError(
                f"Shot {number(project.shots, shot.id)} has {shot.length_frames} frames, not {self.frames}."
            )
        if line.locked:
            raise EditError(f"Line {place} is locked. Unlock it to hold a word of it to the picture.")
        marks.append(SyncPoint(word=self.word, shot_id=shot.id, frames=self.frames))
        where = (
            f"the cut to shot {number(project.shots, shot.id)}"
            if self.frames == 0
            else (f"frame {self.frames} of shot {number(project.shots, shot.id)}")
        )
        return _with_marks(project, line, marks), f"Line {place}: “{word}” on {where}"


class SetBreath(EditValue):
    """Let the speaker breathe in after a word, or no more."""

    kind: Literal["breath"] = "breath"
    line_id: str
    after_word: int = Field(ge=0)
    breathes: bool = True

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        word = _word(project, line, self.after_word)
        if self.after_word + 1 >= len(words_of(said_text(project, line))):
            raise EditError(
                "A breath stands between two words; after the last one there is nothing to breathe for."
            )
        marks = [m for m in line.marks if not (isinstance(m, Breath) and m.after_word == self.after_word)]
        place = number(project.lines, line.id)
        if not self.breathes:
            return _with_marks(project, line, marks), f"Line {place}: no breath after “{word}”"
        return (
            _with_marks(project, line, [*marks, Breath(after_word=self.after_word)]),
            f"Line {place}: breath after “{word}”",
        )


class _OverWords(EditValue):
    """An edit of a mark over the words [first_word, end_word) of a line."""

    line_id: str
    first_word: int = Field(ge=0)
    end_word: int = Field(ge=1)

    def _words(self, project: Project) -> tuple[Line, str, str]:
        """The line, its number as the editor counts, and the words.

        Raises:
            EditError: the words are not there.
        """
        line = project.line(self.line_id)
        if self.end_word <= self.first_word:
            raise EditError("Choose at least one word.")
        _word(project, line, self.end_word - 1)
        words = [word.text for word in words_of(said_text(project, line))[self.first_word : self.end_word]]
        shown = " ".join(words) if len(words) < 4 else f"{words[0]} … {words[-1]}"
        return line, f"Line {number(project.lines, line.id)}", shown

    def _without(self, line: Line, kind: type[Emphasis] | type[SpanMark] | type[Pronunciation]) -> list[Mark]:
        """The marks of a line, those of a kind taken off these words; what stands outside of them stays."""
        kept: list[Mark] = []
        for mark in line.marks:
            first, end = words_under(mark)
            if not isinstance(mark, kind) or end <= self.first_word or first >= self.end_word:
                kept.append(mark)
                continue
            for low, high in ((first, self.first_word), (self.end_word, end)):
                if low < high:
                    kept += shifted(cut_out([mark], low, high), low)
        return kept


class SetEmphasis(_OverWords):
    """Weigh words more or less; None takes the emphasis off them."""

    kind: Literal["emphasis"] = "emphasis"
    level: EmphasisLevel | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        line, place, words = self._words(project)
        marks = self._without(line, Emphasis)
        if self.level is None:
            return _with_marks(project, line, marks), f"{place}: no emphasis on “{words}”"
        marks.append(Emphasis(first_word=self.first_word, end_word=self.end_word, level=self.level))
        return _with_marks(project, line, marks), f"{place}: {self.level} emphasis on “{words}”"


class SetSpan(_OverWords):
    """Pace, pitch and loudness of words against the rest of their line; all of them plain takes the mark
    off."""

    kind: Literal["span"] = "span"
    pace: float = Field(1.0, ge=0.5, le=2)
    pitch_semitones: float = Field(0.0, ge=-12, le=12)
    gain_db: float = Field(0.0, ge=-24, le=12)

    def apply(self, project: Project) -> tuple[Project, str]:
        line, place, words = self._words(project)
        marks = self._without(line, SpanMark)
        if (self.pace, self.pitch_semitones, self.gain_db) == (1, 0, 0):
            return _with_marks(project, line, marks), f"{place}: “{words}” as the rest"
        marks.append(
            SpanMark(
                first_word=self.first_word,
                end_word=self.end_word,
                pace=self.pace,
                pitch_semitones=self.pitch_semitones,
                gain_db=self.gain_db,
            )
        )
        return _with_marks(project, line, marks), f"{place}: “{words}” with its own pace, pitch and loudness"


class SetPronunciation(_OverWords):
    """How words are said, in IPA or spelled as they sound; neither leaves them to the lexicon and the voice.
    With `language` the IPA is how that language says them."""

    kind: Literal["pronunciation"] = "pronunciation"
    ipa: str | None = Field(None, max_length=200)
    spelled: str | None = Field(None, max_length=200)
    language: str | None = Field(None, max_length=20)

    def apply(self, project: Project) -> tuple[Project, str]:
        line, place, words = self._words(project)
        if self.language and not (self.ipa and is_language(self.language)):
            raise EditError("Words said as in another language need its tag, and their sounds in IPA.")
        marks = [
            mark
            for mark in line.marks
            if not (
                isinstance(mark, Pronunciation)
                and mark.first_word < self.end_word
                and self.first_word < mark.end_word
            )
        ]
        ipa, spelled = checked_sound(self.ipa, self.spelled)
        if ipa is None and spelled is None:
            return _with_marks(project, line, marks), f"{place}: “{words}” said as the voice says it"
        said = ipa or spelled or ""
        if not fits(self.end_word - self.first_word, said):
            raise EditError(
                f"“{words}” are {self.end_word - self.first_word} words and “{said}” has "
                f"{len(said.split())}: "
                "give one for each, so that each keeps its time."
            )
        marks.append(
            Pronunciation(
                first_word=self.first_word,
                end_word=self.end_word,
                ipa=ipa,
                spelled=spelled,
                language=self.language or None,
            )
        )
        how = f"in {language_name(self.language)}" if self.language else f"as {said}"
        return _with_marks(project, line, marks), f"{place}: “{words}” said {how}"


def checked_sound(ipa: str | None, spelled: str | None) -> tuple[str | None, str | None]:
    """A pronunciation as it is kept: IPA checked, spelling with single spaces; empty ones are none.

    Raises:
        EditError: both are given, a sign is no IPA, or nothing of the spelling can be spoken.
    """
    found_ipa, found_spelled = (ipa or "").strip(), " ".join((spelled or "").split())
    if found_ipa and found_spelled:
        raise EditError("Give the pronunciation in one way: in IPA, or spelled as it sounds.")
    if found_ipa:
        try:
            return checked_ipa(found_ipa), None
        except NotIpaError as error:
            raise EditError(f"{error}. Take it out, or spell the word as it sounds instead.") from error
    if found_spelled and not words_of(found_spelled):
        raise EditError(f"“{found_spelled}” has nothing that can be spoken.")
    return None, found_spelled or None
