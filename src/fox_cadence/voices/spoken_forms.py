"""How figures, units, abbreviations and dates are said, in words, so that what is shown is what is spoken.

Numbers in words are num2words' work, units and months CLDR's (`language_words`); abbreviations, money and
what people say otherwise than CLDR writes stand here by language.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from functools import lru_cache

from fox_cadence.core.languages import primary
from fox_cadence.core.words import words_of
from fox_cadence.voices.language_words import date_phrase, month_name, number_signs, unit_phrase


@dataclass(frozen=True, slots=True)
class SpokenForm:
    """Word `word` of a text (counted from 0) is said as `said`."""

    word: int
    written: str
    said: str


@dataclass(frozen=True)
class _Ways:
    """What a language says otherwise than by CLDR's words for its units and dates.

    `units` and `money` have two forms: for one, and for any other number. `short` are abbreviations. `date`
    is how a date is said, `years` whether years are said in hundreds. `ones` are endings a number that ends
    in one has before a noun: of a masculine and of a feminine one, by the ending it has alone; `feminine`
    are the nouns that take the second.
    """

    money: Mapping[str, tuple[str, str]]
    short: Mapping[str, str]
    units: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    date: str = ""
    ordinal: re.Pattern[str] | None = None
    years: bool = False
    ones: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    feminine: frozenset[str] = frozenset()


_WAYS: Mapping[str, _Ways] = {
    "en": _Ways(
        money={
            "€": ("euro", "euros"), "$": ("dollar", "dollars"), "£": ("pound", "pounds"), "¥": ("yen", "yen"),
        },
        short={
            "Dr.": "Doctor", "Mr.": "Mister", "Mrs.": "Missis", "Ms.": "Miz", "Prof.": "Professor",
            "St.": "Saint", "e.g.": "for example", "i.e.": "that is", "etc.": "et cetera", "vs.": "versus",
            "approx.": "approximately", "No.": "number", "Nr.": "number", "&": "and", "w/": "with",
            "a.m.": "A M", "p.m.": "P M",
        },
        units={"fps": ("frame a second", "frames a second"), "%": ("percent", "percent")},
        date="the {day} of {month}, {year}",
        ordinal=re.compile(r"(\d+)(?:st|nd|rd|th)"),
        years=True,
    ),
    "es": _Ways(
        money={"€": ("euro", "euros"), "$": ("dólar", "dólares"), "£": ("libra", "libras")},
        short={
            "Sr.": "señor", "Sra.": "señora", "Dr.": "doctor", "Dra.": "doctora", "etc.": "etcétera",
            "p.ej.": "por ejemplo", "aprox.": "aproximadamente", "núm.": "número", "&": "y",
        },
        units={"kg": ("kilo", "kilos")},
        date="{day} de {month} de {year}",
        ordinal=re.compile(r"(\d+)[ºª]"),
        ones={"veintiuno": ("veintiún", "veintiuna"), "uno": ("un", "una")},
        feminine=frozenset({"hora", "horas", "libra", "libras", "milla", "millas", "onza", "onzas"}),
    ),
    "fr": _Ways(
        money={"€": ("euro", "euros"), "$": ("dollar", "dollars"), "£": ("livre", "livres")},
        short={
            "Mme": "madame", "Mlle": "mademoiselle", "M.": "monsieur", "Dr": "docteur", "etc.": "et cetera",
            "env.": "environ", "&": "et",
        },
        units={"kg": ("kilo", "kilos")},
        date="{day} {month} {year}",
        ordinal=re.compile(r"(\d+)(?:er|ère|re|e|ème)"),
        ones={"un": ("un", "une")},
        feminine=frozenset(
            {
                "seconde", "secondes", "minute", "minutes", "heure", "heures", "livre", "livres", "once",
                "onces",
            }
        ),
    ),
    "de": _Ways(
        money={"€": ("Euro", "Euro"), "$": ("Dollar", "Dollar"), "£": ("Pfund", "Pfund")},
        short={
            "z.B.": "zum Beispiel", "usw.": "und so weiter", "ca.": "circa", "bzw.": "beziehungsweise",
            "Dr.": "Doktor", "Nr.": "Nummer", "d.h.": "das heißt", "&": "und",
        },
        units={"kg": ("Kilo", "Kilo")},
        date="{day} {month} {year}",
        years=True,
        ones={"eins": ("ein", "eine")},
        feminine=frozenset({"Sekunde", "Minute", "Stunde", "Meile", "Unze"}),
    ),
    "it": _Ways(
        money={"€": ("euro", "euro"), "$": ("dollaro", "dollari"), "£": ("sterlina", "sterline")},
        short={"Sig.": "signor", "Dott.": "dottor", "ecc.": "eccetera", "es.": "esempio", "&": "e"},
        ones={"uno": ("un", "una")},
        feminine=frozenset({"ora", "libbra", "oncia", "sterlina"}),
    ),
    "pt": _Ways(
        money={"€": ("euro", "euros"), "$": ("dólar", "dólares"), "£": ("libra", "libras")},
        short={
            "Sr.": "senhor", "Sra.": "senhora", "Dr.": "doutor", "Dra.": "doutora", "etc.": "et cetera",
            "&": "e",
        },
        date="{day} de {month} de {year}",
        ones={"um": ("um", "uma"), "dois": ("dois", "duas")},
        feminine=frozenset({"hora", "horas", "libra", "libras", "milha", "milhas", "onça", "onças"}),
    ),
}  # fmt: skip

_OPENING, _CLOSING = "\"'“”‘’([«¿¡„", "\"'“”‘’)]»,;:!?…"
_ISO_DATE = re.compile(r"(\d{4})-(\d\d)-(\d\d)")
_TIME = re.compile(r"(\d{1,2}):(\d\d)")
_MOST_DIGITS = 15


@dataclass(frozen=True, slots=True)
class _Tongue:
    """A language as lines are tagged with it, and what it has of its own."""

    language: str
    ways: _Ways | None

    @property
    def tag(self) -> str:
        return primary(self.language)

    def amount(self, core: str) -> float | None:
        """The number a word is, written with the signs of its language."""
        signs = number_signs(self.language)
        plain = core.replace("−", "-")
        thousands, point = re.escape(signs.thousands), re.escape(signs.point)
        if not re.fullmatch(rf"-?\d+(?:{thousands}\d{{3}})*(?:{point}\d+)?", plain):
            return None
        if sum(sign.isdigit() for sign in plain) > _MOST_DIGITS:
            return None
        return float(plain.replace(signs.thousands, "").replace(signs.point, "."))

    def number(self, amount: float, to: str = "cardinal") -> str | None:
        """An amount in words, or None where the language has none for it."""
        from num2words import num2words

        try:
            whole = int(amount) if amount == int(amount) else amount
            said = str(num2words(whole, lang=self.tag, to=to)).replace("\xad", "").replace(",", "")
        except (RuntimeError, ArithmeticError, LookupError, TypeError, ValueError):  # whatever it has not
            return None
        return said.replace(" punto ", " coma ") if self.tag == "es" else said

    def unit(self, sign: str, amount: float) -> str | None:
        """An amount of a unit, with {0} where the number stands."""
        if self.ways is not None and sign in self.ways.units:
            return "{0} " + self.ways.units[sign][0 if amount == 1 else 1]
        return unit_phrase(sign, amount, self.language)

    def noun(self, sign: str, amount: float) -> str | None:
        """What of a unit is said after its number, or None where something is said before it."""
        phrase = self.unit(sign, amount)
        return phrase.removeprefix("{0}").strip() if phrase and phrase.startswith("{0}") else None

    def before(self, number: str, noun: str) -> str:
        """A number as it is said before a noun: un kilómetro, una hora."""
        if self.ways is None or not noun:
            return number
        for ending, (masculine, feminine) in self.ways.ones.items():
            if re.search(rf"(?:^|[\s-]){ending}$", number):
                return number[: -len(ending)] + (
                    feminine if noun.split()[0] in self.ways.feminine else masculine
                )
        return number

    def joined(self, amount: float, phrase: str) -> str | None:
        """A number in its place in a phrase."""
        number = self.number(amount)
        if number is None:
            return None
        return phrase.replace("{0}", self.before(number, phrase.removeprefix("{0}").strip()))


@lru_cache(maxsize=20_000)
def spoken_forms(text: str, language: str) -> tuple[SpokenForm, ...]:
    """The words of a text that are said otherwise than they are written."""
    from num2words import CONVERTER_CLASSES

    tongue = _Tongue(language, _WAYS.get(primary(language)))
    if tongue.ways is None and tongue.tag not in CONVERTER_CLASSES:
        return ()
    words = words_of(text)
    found: list[SpokenForm] = []
    amounts = [tongue.amount(_core(word.text)[1]) for word in words]
    for index, word in enumerate(words):
        before, core, after = _core(word.text)
        previous, amount = amounts[index - 1] if index else None, amounts[index]
        said = _said(core, tongue, previous)
        if said is not None and amount is not None and index + 1 < len(words):
            said = tongue.before(said, tongue.noun(_core(words[index + 1].text)[1].rstrip("."), amount) or "")
        if said is None and core.endswith("."):  # the full stop of the sentence, then
            core, after = core[:-1], "." + after
            said = _said(core, tongue, previous)
        if said is not None and said != core:
            found.append(SpokenForm(index, word.text, f"{before}{said}{after}"))
    return tuple(found)


def _core(word: str) -> tuple[str, str, str]:
    """A word without the punctuation around it, and that; a full stop after a figure ends a sentence."""
    start, end = 0, len(word)
    while start < end and word[start] in _OPENING:
        start += 1
    while end > start and word[end - 1] in _CLOSING:
        end -= 1
    if end - start > 1 and word[end - 1] == "." and (word[end - 2].isdigit() or word[end - 2] in "%°€$£"):
        end -= 1
    return word[:start], word[start:end], word[end:]


def _said(core: str, tongue: _Tongue, before: float | None) -> str | None:
    """A word in words; `before` is the number the word before it is, if it is one."""
    ways = tongue.ways
    amount = tongue.amount(core)
    if amount is not None:
        year = ways is not None and ways.years and re.fullmatch(r"1[1-9]\d\d|20\d\d", core)
        return tongue.number(amount, "year" if year else "cardinal")
    if before is not None and (noun := tongue.noun(core, before)):
        return noun
    if ways is not None and core in ways.short:
        return ways.short[core]
    return _compound(core, tongue)


def _compound(core: str, tongue: _Tongue) -> str | None:
    """Figures with signs in one word: percentages, money, units, ordinals, dates, times."""
    ways = tongue.ways
    if match := re.fullmatch(r"([-−]?\d[\d.,]*)(\D+)", core):
        amount = tongue.amount(match[1])
        phrase = None if amount is None else tongue.unit(match[2], amount)
        if amount is not None and phrase is not None:
            return tongue.joined(amount, phrase)
    if match := _ISO_DATE.fullmatch(core):
        return _date(int(match[1]), int(match[2]), int(match[3]), tongue)
    if ways is None:
        return None
    for sign, names in ways.money.items():
        if sign in (core[:1], core[-1:]) and (amount := tongue.amount(core.strip(sign))) is not None:
            whole, cents = int(amount), round(amount * 100) % 100
            said = tongue.joined(whole, "{0} " + names[0 if amount == 1 else 1])
            return f"{said} {tongue.number(cents)}" if cents else said
    if ways.ordinal and (match := ways.ordinal.fullmatch(core)) and len(match[1]) <= _MOST_DIGITS:
        return tongue.number(int(match[1]), "ordinal")
    if tongue.tag == "en" and (match := _TIME.fullmatch(core)) and int(match[1]) < 24 and int(match[2]) < 60:
        minutes = int(match[2])
        hour = tongue.number(int(match[1]))
        rest = "o'clock" if minutes == 0 else ("oh " if minutes < 10 else "") + (tongue.number(minutes) or "")
        return f"{hour} {rest}" if hour else None
    return None


def _date(year: int, month: int, day: int, tongue: _Tongue) -> str | None:
    """A date in words; with its figures left to the voice where we don't know how they are said in one."""
    try:
        when = date(year, month, day)
    except ValueError:
        return None
    ways, tag = tongue.ways, tongue.tag
    if ways is None or not ways.date:
        return date_phrase(when, tongue.language)
    ordinal = tag == "en" or tag == "de" or (tag == "fr" and day == 1)
    said_day = tongue.number(day, "ordinal" if ordinal else "cardinal")
    said_year = tongue.number(year, "year" if ways.years else "cardinal")
    if not (said_day and said_year):
        return None
    ending = "r" if tag == "de" else ""
    return ways.date.format(day=said_day + ending, month=month_name(month, tongue.language), year=said_year)
