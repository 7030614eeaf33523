"""Direction of a line looked over: how each word is said, what the lexicon changes, punctuation for the
ear."""

from dataclasses import dataclass

from fox_cadence.actions.voicing import take_for
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.ear_punctuation import Suggestion, suggestions, with_commas
from fox_cadence.core.edits.lexicon import AddEntries, SetEntry
from fox_cadence.core.edits.marks import SetPronunciation
from fox_cadence.core.ipa import checked_ipa
from fox_cadence.core.languages import language_name, primary
from fox_cadence.core.lexicon import Lexicon, LexiconEntry
from fox_cadence.core.marks import Pronunciation, over_words
from fox_cadence.core.project import Index, Line, Project, said_text, voice_of
from fox_cadence.core.takes import Take, VoicingRequest, natural_request
from fox_cadence.core.word_changes import Proof, prove
from fox_cadence.core.words import SIGNS, words_of
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.formats import Problem, pls, ssml
from fox_cadence.formats.decoding import decode
from fox_cadence.voices.catalogue import phonemes_by, voice_by_id
from fox_cadence.voices.known_words import is_guessed
from fox_cadence.voices.spoken_forms import spoken_forms


@dataclass(frozen=True, slots=True)
class ToldWord:
    """A word of a line: how it is said where that is not as it is written, by what ('line', 'lexicon',
    'figures'), and whether the voice must guess it (None: we can't tell)."""

    text: str
    said: str | None
    by: str
    guessed: bool | None


def told_words(project: Project, line: Line) -> list[ToldWord]:
    """How each word of a line will be said, in the language of the voice that says it."""
    index = Index(project)
    text = said_text(project, line, index)
    voice = voice_by_id(voice_of(line, index))
    language = voice.language if voice else project.language
    words = words_of(text)
    said: dict[int, tuple[str, str]] = {
        form.word: (form.said, "figures") for form in spoken_forms(text, language)
    }
    own = over_words(line.marks, Pronunciation)
    for mark, by in (
        *((mark, "lexicon") for mark in index.lexicon.pronunciations(text, own)),
        *((mark, "line") for mark in own),
    ):
        shown = f"/{mark.ipa}/" if mark.ipa else mark.spelled or ""
        for place in range(mark.first_word, min(mark.end_word, len(words))):
            said[place] = (shown, by)
    return [
        ToldWord(
            word.text,
            said[place][0] if place in said else None,
            said[place][1] if place in said else "",
            False if place in said else is_guessed(word.text, language),
        )
        for place, word in enumerate(words)
    ]


def hear_pronunciation(
    workspace: Workspace,
    project_id: str,
    line_id: str,
    first: int,
    end: int,
    ipa: str | None,
    spelled: str | None,
) -> tuple[Take, int, int]:
    """A line with words pronounced some way, voiced for the hearing; and from which sample to which they are
    heard.

    Raises:
        EditError: the pronunciation can't be.
        EngineError: the voice could not say it.
    """
    project = workspace.head(project_id).project
    if ipa or spelled:
        edit = SetPronunciation(line_id=line_id, first_word=first, end_word=end, ipa=ipa, spelled=spelled)
        project, _ = edit.apply(project)
    take, _ = take_for(workspace, natural_request(project, project.line(line_id)))
    if not 0 <= first < end <= len(take.words):
        raise NotFoundError("These words are no longer in the line.")
    return take, take.words[first].start_sample, take.words[end - 1].end_sample


def said_in(workspace: Workspace, project_id: str, line_id: str, first: int, end: int, language: str) -> str:
    """How another language says words of a line, in IPA, one for each word.

    Raises:
        InputError: nobody here knows how that language is said.
    """
    project = workspace.head(project_id).project
    words = words_of(said_text(project, project.line(line_id)))[first:end]
    if not words:
        raise NotFoundError("These words are no longer in the line.")
    by = phonemes_by(language)
    if by is None or primary(language) == "ja":  # espeak-ng reads only its kana
        raise InputError(f"how {language_name(language)} is said is not known here", "language")
    found = workspace.engines.espeak.phonemes([word.text.strip(SIGNS) for word in words], by)
    parts = ["".join(clauses).replace("_", "").replace(" ", "") for clauses in found]
    return checked_ipa(" ".join(parts))


@dataclass(frozen=True, slots=True)
class EntryUse:
    """How often an entry of the lexicon applies, and in which lines."""

    entry_id: str
    count: int
    line_ids: tuple[str, ...]


def lexicon_use(project: Project) -> list[EntryUse]:
    """What each entry changes now."""
    index = Index(project)
    lexicon = Lexicon(project.lexicon, project.language)
    counts: dict[str, list[str]] = {entry.id: [] for entry in project.lexicon}
    for line in project.lines:
        own = over_words(line.marks, Pronunciation)
        for entry, first, end in lexicon.matches(said_text(project, line, index)):
            if not any(mark.first_word < end and first < mark.end_word for mark in own):
                counts[entry.id].append(line.id)
    return [EntryUse(entry_id, len(lines), tuple(dict.fromkeys(lines))) for entry_id, lines in counts.items()]


def hear_entry(workspace: Workspace, project_id: str, edit: SetEntry) -> Take:
    """A word as it would be said with an entry of the lexicon (without a pronunciation: by the voice alone),
    by the voice of the first line that has the word, else of the first role."""
    project = workspace.head(project_id).project
    if not project.roles:
        raise InputError("the cast is empty; add a role to hear it", "lexicon")
    changed, _ = edit.apply(project)
    index = Index(changed)
    probe = Lexicon([LexiconEntry(id="", language="", written=edit.written, spelled="-")], "")
    line = next((each for each in changed.lines if probe.matches(said_text(changed, each, index))), None)
    request = VoicingRequest(
        text=edit.written,
        voice_id=voice_of(line, index) if line else project.roles[0].voice_id,
        pace=1.0,
        pitch_semitones=0.0,
        pronunciations=tuple(index.lexicon.pronunciations(edit.written, ())),
    )
    take, _ = take_for(workspace, request)
    return take


def bring_lexicon(
    workspace: Workspace, project_id: str, name: str, data: bytes
) -> tuple[int, tuple[Problem, ...]]:
    """Bring a PLS file in, as one step on top of whatever is there; its entries replace those of the same
    words.

    Returns:
        How many entries it has, and what of it could not be read.

    Raises:
        InputError: it can't be read; names the file.
    """
    found = read_lexicon(name, data, workspace.head(project_id).project.language)
    workspace.commit_on_top(project_id, AddEntries(entries=list(found.entries)).apply)
    return len(found.entries), found.problems


def read_lexicon(name: str, data: bytes, language: str) -> pls.ReadLexicon:
    """A PLS file. Raises InputError naming it."""
    text, remark = decode(data)
    try:
        found = pls.read(text, language)
    except InputError as error:
        raise InputError(str(error), name) from error
    problems = (*((Problem("whole file", remark),) if remark else ()), *found.problems)
    return pls.ReadLexicon(found.entries, problems)


def lexicon_file(project: Project) -> str:
    """The lexicon of a project as PLS."""
    return pls.write(project.lexicon, project.language)


def script_file(project: Project) -> str:
    """All lines with their marks as SSML."""
    index = Index(project)
    lines = [
        ssml.SpokenLine(
            index.roles[line.role_id].name,
            (text := said_text(project, line, index)),
            (*line.marks, *index.lexicon.pronunciations(text, over_words(line.marks, Pronunciation))),
        )
        for line in project.lines
    ]
    return ssml.write(lines, project.language)


@dataclass(frozen=True, slots=True)
class Repunctuated:
    """A text for the ear: what our rules suggest (where they made it), and the proof that no word has
    changed."""

    text: str
    suggested: tuple[Suggestion, ...]
    proof: Proof


def repunctuate(project: Project, line: Line, text: str | None = None) -> Repunctuated:
    """A repunctuated line: as typed, or with the commas our rules miss."""
    said = said_text(project, line)
    if text is not None:
        return Repunctuated(text.strip(), (), prove(said, text))
    voice = voice_by_id(voice_of(line, Index(project)))
    found = suggestions(said, voice.language if voice else project.language)
    made = with_commas(said, [each.after_word for each in found])
    return Repunctuated(made, tuple(found), prove(said, made))
