"""Edits of the lexicon."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, ShortText
from fox_cadence.core.edits.marks import checked_sound
from fox_cadence.core.languages import primary
from fox_cadence.core.lexicon import LexiconEntry, fits
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.words import words_of


class SetEntry(EditValue):
    """How a word is said in every line of its language; neither way takes the word out of the lexicon."""

    kind: Literal["lexicon_entry"] = "lexicon_entry"
    written: ShortText
    language: str = Field("", max_length=35)
    ipa: str | None = Field(None, max_length=200)
    spelled: str | None = Field(None, max_length=200)

    def apply(self, project: Project) -> tuple[Project, str]:
        written = " ".join(self.written.split())
        count = len(words_of(written))
        if not count:
            raise EditError(f"“{written}” has no word in it.")
        language = self.language or project.language
        ipa, spelled = checked_sound(self.ipa, self.spelled)
        probe = LexiconEntry(
            id="", language=language, written=written, ipa=ipa, spelled=spelled or (None if ipa else "-")
        )
        left = tuple(
            entry
            for entry in project.lexicon
            if not (entry.key == probe.key and primary(entry.language) == primary(language))
        )
        if ipa is None and spelled is None:
            return project.changed(lexicon=left), f"“{written}” out of the lexicon"
        said = ipa or spelled or ""
        if not fits(count, said):
            raise EditError(
                f"“{written}” has {count} words and “{said}” has {len(said.split())}: give one for each."
            )
        entry_id = next_id("x", [entry.id for entry in project.lexicon])
        made = (*left, probe.changed(id=entry_id))
        return project.changed(lexicon=made), f"“{written}” is said {said}"


class AddEntries(EditValue):
    """Many entries at once, as read from a file; those of the same words are replaced."""

    kind: Literal["lexicon_entries"] = "lexicon_entries"
    entries: list[LexiconEntry] = Field(max_length=5000)

    def apply(self, project: Project) -> tuple[Project, str]:
        made = project
        for entry in self.entries:
            edit = SetEntry(
                written=entry.written, language=entry.language, ipa=entry.ipa, spelled=entry.spelled
            )
            made, _ = edit.apply(made)
        return made, f"{len(self.entries)} pronunciations imported"
