"""How figures, units, abbreviations and dates are said, in words, so that what is shown is what is spoken.

Numbers in words are num2words' work; what counts as a number, a unit or an abbreviation is told by language
here. Languages without a table leave such signs to the voice.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from num2words import CONVERTER_CLASSES, num2words

from fox_cadence.core.languages import primary
from fox_cadence.core.words import words_of


@dataclass(frozen=True, slots=True)
class SpokenForm:
    """Word `word` of a text (counted from 0) is said as `said`."""

    word: int
    written: str
    said: str


@dataclass(frozen=True)
class _Ways:
    """How a language writes and says things. Units and signs have two forms: for one, and for any other
    number.

    `ones` are endings a number that ends in one has before a noun: of a masculine and of a feminine one, by
    the ending it has alone; `feminine` are the nouns that take the second.
    """

    thousands: str
    point: str
    percent: str
    degrees: str
    units: Mapping[str, tuple[str, str]]
    money: Mapping[str, tuple[str, str]]
    short: Mapping[str, str]
    months: tuple[str, ...] = ()
    date: str = ""
    ordinal: re.Pattern[str] | None = None
    years: bool = False
    ones: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    feminine: frozenset[str] = frozenset()


def _months(names: str) -> tuple[str, ...]:
    return tuple(names.split())


_MONTHS_EN = _months("January February March April May June July August September October November December")
_MONTHS_ES = _months(
    "enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre"
)
_MONTHS_FR = _months("janvier février mars avril mai juin juillet août septembre octobre novembre décembre")
_MONTHS_DE = _months("Januar Februar März April Mai Juni Juli August September Oktober November Dezember")

_WAYS: Mapping[str, _Ways] = {
    "en": _Ways(
        ",", ".", "percent", "degrees",
        {
            "km": ("kilometre", "kilometres"), "m": ("metre", "metres"), "cm": ("centimetre", "centimetres"),
            "mm": ("millimetre", "millimetres"), "kg": ("kilogram", "kilograms"), "g": ("gram", "grams"),
            "l": ("litre", "litres"), "ml": ("millilitre", "millilitres"), "s": ("second", "seconds"),
            "min": ("minute", "minutes"), "h": ("hour", "hours"), "ft": ("foot", "feet"),
            "mi": ("mile", "miles"),
            "lb": ("pound", "pounds"), "oz": ("ounce", "ounces"), "°C": ("degree Celsius", "degrees Celsius"),
            "°F": ("degree Fahrenheit", "degrees Fahrenheit"),
            "km/h": ("kilometre an hour", "kilometres an hour"),
            "mph": ("mile an hour", "miles an hour"), "fps": ("frame a second", "frames a second"),
            "Hz": ("hertz", "hertz"), "kHz": ("kilohertz", "kilohertz"), "MB": ("megabyte", "megabytes"),
            "GB": ("gigabyte", "gigabytes"),
        },
        {"€": ("euro", "euros"), "$": ("dollar", "dollars"), "£": ("pound", "pounds"), "¥": ("yen", "yen")},
        {
            "Dr.": "Doctor", "Mr.": "Mister", "Mrs.": "Missis", "Ms.": "Miz", "Prof.": "Professor",
            "St.": "Saint",
            "e.g.": "for example", "i.e.": "that is", "etc.": "et cetera", "vs.": "versus",
            "approx.": "approximately",
            "No.": "number", "Nr.": "number", "&": "and", "w/": "with", "a.m.": "A M", "p.m.": "P M",
        },
        _MONTHS_EN, "the {day} of {month}, {year}", re.compile(r"(\d+)(?:st|nd|rd|th)"), years=True,
    ),
    "es": _Ways(
        ".", ",", "por ciento", "grados",
        {
            "km": ("kilómetro", "kilómetros"), "m": ("metro", "metros"), "cm": ("centímetro", "centímetros"),
            "mm": ("milímetro", "milímetros"), "kg": ("kilo", "kilos"), "g": ("gramo", "gramos"),
            "l": ("litro", "litros"), "s": ("segundo", "segundos"), "min": ("minuto", "minutos"),
            "h": ("hora", "horas"), "°C": ("grado centígrado", "grados centígrados"),
            "km/h": ("kilómetro por hora", "kilómetros por hora"),
        },
        {"€": ("euro", "euros"), "$": ("dólar", "dólares"), "£": ("libra", "libras")},
        {"Sr.": "señor", "Sra.": "señora", "Dr.": "doctor", "Dra.": "doctora", "etc.": "etcétera",
         "p.ej.": "por ejemplo", "aprox.": "aproximadamente", "núm.": "número", "&": "y"},
        _MONTHS_ES, "{day} de {month} de {year}", re.compile(r"(\d+)[ºª]"),
        ones={"veintiuno": ("veintiún", "veintiuna"), "uno": ("un", "una")},
        feminine=frozenset({"hora", "horas", "libra", "libras"}),
    ),
    "fr": _Ways(
        " ", ",", "pour cent", "degrés",
        {
            "km": ("kilomètre", "kilomètres"), "m": ("mètre", "mètres"), "cm": ("centimètre", "centimètres"),
            "mm": ("millimètre", "millimètres"), "kg": ("kilo", "kilos"), "g": ("gramme", "grammes"),
            "l": ("litre", "litres"), "s": ("seconde", "secondes"), "min": ("minute", "minutes"),
            "h": ("heure", "heures"), "°C": ("degré", "degrés"),
            "km/h": ("kilomètre à l'heure", "kilomètres à l'heure"),
        },
        {"€": ("euro", "euros"), "$": ("dollar", "dollars"), "£": ("livre", "livres")},
        {"Mme": "madame", "Mlle": "mademoiselle", "M.": "monsieur", "Dr": "docteur", "etc.": "et cetera",
         "env.": "environ", "&": "et"},
        _MONTHS_FR, "{day} {month} {year}", re.compile(r"(\d+)(?:er|ère|re|e|ème)"),
        ones={"un": ("un", "une")},
        feminine=frozenset(
            {"seconde", "secondes", "minute", "minutes", "heure", "heures", "livre", "livres"}
        ),
    ),
    "de": _Ways(
        ".", ",", "Prozent", "Grad",
        {
            "km": ("Kilometer", "Kilometer"), "m": ("Meter", "Meter"), "cm": ("Zentimeter", "Zentimeter"),
            "mm": ("Millimeter", "Millimeter"), "kg": ("Kilo", "Kilo"), "g": ("Gramm", "Gramm"),
            "l": ("Liter", "Liter"), "s": ("Sekunde", "Sekunden"), "min": ("Minute", "Minuten"),
            "h": ("Stunde", "Stunden"), "°C": ("Grad", "Grad"),
            "km/h": ("Kilometer pro Stunde", "Kilometer pro Stunde"),
        },
        {"€": ("Euro", "Euro"), "$": ("Dollar", "Dollar"), "£": ("Pfund", "Pfund")},
        {"z.B.": "zum Beispiel", "usw.": "und so weiter", "ca.": "circa", "bzw.": "beziehungsweise",
         "Dr.": "Doktor", "Nr.": "Nummer", "d.h.": "das heißt", "&": "und"},
        _MONTHS_DE, "{day} {month} {year}", None, years=True,
        ones={"eins": ("ein", "eine")}, feminine=frozenset({"Sekunde", "Minute", "Stunde"}),
    ),
}  # fmt: skip

_OPENING, _CLOSING = "\"'“”‘’([«¿¡„", "\"'“”‘’)]»,;:!?…"
_ISO_DATE = re.compile(r"(\d{4})-(\d\d)-(\d\d)")
_TIME = re.compile(r"(\d{1,2}):(\d\d)")
_MOST_DIGITS = 15


@lru_cache(maxsize=20_000)
def spoken_forms(text: str, language: str) -> tuple[SpokenForm, ...]:
    """The words of a text that are said otherwise than they are written."""
    tag = primary(language)
    ways = _WAYS.get(tag)
    if ways is None and tag not in CONVERTER_CLASSES:
        return ()
    words = words_of(text)
    found: list[SpokenForm] = []
    amounts = [_amount(_core(word.text)[1], ways) for word in words]
    for index, word in enumerate(words):
        before, core, after = _core(word.text)
        said = _said(core, tag, ways, amounts[index - 1] if index else None)
        noun = _core(words[index + 1].text)[1].rstrip(".") if index + 1 < len(words) else ""
        if said is not None and ways is not None and amounts[index] is not None and noun in ways.units:
            said = _before(said, ways.units[noun][0 if amounts[index] == 1 else 1], ways)
        if said is None and core.endswith("."):  # the full stop of the sentence, then
            core, after = core[:-1], "." + after
            said = _said(core, tag, ways, amounts[index - 1] if index else None)
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


def _amount(core: str, ways: _Ways | None) -> float | None:
    """The number a word is, written with the signs of its language."""
    thousands, point = (ways.thousands, ways.point) if ways else (",", ".")
    plain = core.replace("−", "-")
    if not re.fullmatch(rf"-?\d+(?:{re.escape(thousands)}\d{{3}})*(?:{re.escape(point)}\d+)?", plain):
        return None
    if sum(sign.isdigit() for sign in plain) > _MOST_DIGITS:
        return None
    return float(plain.replace(thousands, "").replace(point, "."))


def _number(amount: float, tag: str, to: str = "cardinal") -> str | None:
    try:
        whole = int(amount) if amount == int(amount) else amount
        said = str(num2words(whole, lang=tag, to=to)).replace("\xad", "").replace(",", "")
        return said.replace(" punto ", " coma ") if tag == "es" else said
    except (RuntimeError, ArithmeticError, LookupError, TypeError, ValueError):  # whatever a language has not
        return None


def _said(core: str, tag: str, ways: _Ways | None, before: float | None) -> str | None:
    amount = _amount(core, ways)
    if amount is not None:
        year = ways is not None and ways.years and re.fullmatch(r"1[1-9]\d\d|20\d\d", core)
        return _number(amount, tag, "year" if year else "cardinal")
    if ways is None:
        return None
    if before is not None and core in ways.units:
        return ways.units[core][0 if before == 1 else 1]
    if core in ways.short:
        return ways.short[core]
    return _compound(core, tag, ways)


def _compound(core: str, tag: str, ways: _Ways) -> str | None:
    """Figures with signs in one word: percentages, money, units, ordinals, dates, times."""
    if core.endswith("%") and (amount := _amount(core[:-1], ways)) is not None:
        return _joined(_number(amount, tag), ways.percent, ways)
    if core.endswith("°") and (amount := _amount(core[:-1], ways)) is not None:
        return _joined(_number(amount, tag), ways.degrees, ways)
    for sign, names in ways.money.items():
        if sign in (core[:1], core[-1:]) and (amount := _amount(core.strip(sign), ways)) is not None:
            whole, cents = int(amount), round(amount * 100) % 100
            said = _joined(_number(whole, tag), names[0 if amount == 1 else 1], ways)
            return f"{said} {_number(cents, tag)}" if cents else said
    if match := re.fullmatch(r"(-?[\d.,]+)(\D+)", core):
        amount, unit = _amount(match[1], ways), match[2]
        if amount is not None and unit in ways.units:
            return _joined(_number(amount, tag), ways.units[unit][0 if amount == 1 else 1], ways)
    if ways.ordinal and (match := ways.ordinal.fullmatch(core)) and len(match[1]) <= _MOST_DIGITS:
        return _number(int(match[1]), tag, "ordinal")
    if match := _ISO_DATE.fullmatch(core):
        return _date(int(match[1]), int(match[2]), int(match[3]), tag, ways)
    if tag == "en" and (match := _TIME.fullmatch(core)) and int(match[1]) < 24 and int(match[2]) < 60:
        minutes = int(match[2])
        hour = _number(int(match[1]), tag)
        rest = "o'clock" if minutes == 0 else ("oh " if minutes < 10 else "") + (_number(minutes, tag) or "")
        return f"{hour} {rest}" if hour else None
    return None


def _date(year: int, month: int, day: int, tag: str, ways: _Ways) -> str | None:
    if not (1 <= month <= 12 and 1 <= day <= 31 and ways.date):
        return None
    said_day = _number(day, tag, "ordinal" if tag == "en" or (tag == "fr" and day == 1) else "cardinal")
    said_year = _number(year, tag, "year" if ways.years else "cardinal")
    if tag == "de":
        said_day = (_number(day, tag, "ordinal") or "") + "r"
    if not (said_day and said_year):
        return None
    return ways.date.format(day=said_day, month=ways.months[month - 1], year=said_year)


def _joined(number: str | None, noun: str, ways: _Ways) -> str | None:
    return f"{_before(number, noun, ways)} {noun}" if number else None


def _before(number: str, noun: str, ways: _Ways) -> str:
    """A number as it is said before a noun: un kilómetro, una hora."""
    for ending, (masculine, feminine) in ways.ones.items():
        if re.search(rf"(?:^|[\s-]){ending}$", number):
            return number[: -len(ending)] + (feminine if noun.split()[0] in ways.feminine else masculine)
    return number
