"""Pronunciation Lexicon Specification 1.0 (W3C Recommendation, 14 October 2008), in and out."""

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr

from fox_cadence.core.ipa import NotIpaError, checked_ipa
from fox_cadence.core.lexicon import LexiconEntry, fits
from fox_cadence.core.words import plain_words, words_of
from fox_cadence.errors import InputError
from fox_cadence.formats.cues import Problem
from fox_cadence.formats.xml_tree import Element, language_of, name_of, parse

MOST_ENTRIES = 5_000


@dataclass(frozen=True, slots=True)
class ReadLexicon:
    entries: tuple[LexiconEntry, ...]
    problems: tuple[Problem, ...]


def read(text: str, language: str) -> ReadLexicon:
    """The entries of a lexicon; `language` stands in where it names none.

    An alias is said as it is written: one that is an entry itself is not looked up again, so that no loop can
    come of it; loops are remarked.

    Raises:
        InputError: it is no lexicon, or holds nothing that can be used.
    """
    root = parse(text, "PLS lexicon")
    if name_of(root) != "lexicon":
        raise InputError("it is no PLS lexicon: it does not begin with <lexicon>")
    tag = language_of(root) or language
    alphabet = str(root.get("alphabet") or "ipa").lower()
    entries: list[LexiconEntry] = []
    problems: list[Problem] = []
    for lexeme in root:
        if name_of(lexeme) != "lexeme":
            continue
        if len(entries) >= MOST_ENTRIES:
            problems.append(
                Problem(f"line {lexeme.sourceline}", f"more than {MOST_ENTRIES:,} entries; the rest left out")
            )
            break
        entries += _entries(lexeme, tag, alphabet, problems)
    problems += _loops(entries)
    if not entries:
        why = f" ({problems[0].place}: {problems[0].message})" if problems else ""
        raise InputError(f"no pronunciation in it can be used{why}")
    return ReadLexicon(tuple(entries), tuple(problems))


def _entries(lexeme: Element, tag: str, alphabet: str, problems: list[Problem]) -> list[LexiconEntry]:
    place = f"line {lexeme.sourceline}"
    words = [" ".join((each.text or "").split()) for each in lexeme if name_of(each) == "grapheme"]
    said = [each for each in lexeme if name_of(each) in ("phoneme", "alias")]
    if not said or not any(words):
        problems.append(Problem(place, "it has no word or no pronunciation; left out"))
        return []
    best = next((each for each in said if each.get("prefer") == "true"), said[0])
    if len(said) > 1:
        problems.append(
            Problem(place, f"“{words[0]}” has several pronunciations; the preferred, or first, was taken")
        )
    value = " ".join((best.text or "").split())
    ipa = spelled = None
    if name_of(best) == "alias":
        spelled = value
    elif str(best.get("alphabet") or alphabet).lower() != "ipa":
        problems.append(Problem(place, f"“{words[0]}” is given in another alphabet than IPA; left out"))
        return []
    else:
        try:
            ipa = checked_ipa(value)
        except NotIpaError as error:
            problems.append(Problem(place, f"{error}; left out"))
            return []
    found: list[LexiconEntry] = []
    for word in words:
        count = len(words_of(word))
        if (
            not count
            or (spelled is not None and not words_of(spelled))
            or not fits(count, ipa or spelled or "")
        ):
            problems.append(
                Problem(place, f"“{word}” and its pronunciation have different numbers of words; left out")
            )
            continue
        found.append(LexiconEntry(id="", language=tag, written=word, ipa=ipa, spelled=spelled))
    return found


def _loops(entries: Sequence[LexiconEntry]) -> list[Problem]:
    """Aliases that lead back to the word they stand for."""
    alias = {entry.key: plain_words(entry.spelled) for entry in entries if entry.spelled}
    found: list[Problem] = []
    for start in alias:
        seen, at = {start}, alias[start]
        while at in alias and at not in seen:
            seen.add(at)
            at = alias[at]
        if at == start and len(seen) > 1:
            found.append(
                Problem(f"“{' '.join(start)}”", "its aliases lead round in a ring; each is said as written")
            )
    return found


def write(entries: Sequence[LexiconEntry], language: str) -> str:
    """The entries of one language as a lexicon."""
    lexemes: list[str] = []
    for entry in entries:
        said = (
            f"<phoneme>{escape(entry.ipa)}</phoneme>"
            if entry.ipa is not None
            else f"<alias>{escape(entry.spelled or '')}</alias>"
        )
        lexemes.append(f"  <lexeme><grapheme>{escape(entry.written)}</grapheme>{said}</lexeme>")
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<lexicon version="1.0" xmlns="http://www.w3.org/2005/01/pronunciation-lexicon" alphabet="ipa" '
        f"xml:lang={quoteattr(language)}>\n" + "\n".join(lexemes) + "\n</lexicon>\n"
    )
