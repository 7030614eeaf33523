"""Number signs, units and dates of a language in words, from CLDR (by babel)."""

from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import TYPE_CHECKING

from fox_cadence.core.languages import primary

if TYPE_CHECKING:
    from babel import Locale

_UNITS = {
    "km": "length-kilometer", "m": "length-meter", "cm": "length-centimeter", "mm": "length-millimeter",
    "ft": "length-foot", "mi": "length-mile", "kg": "mass-kilogram", "g": "mass-gram", "lb": "mass-pound",
    "oz": "mass-ounce", "l": "volume-liter", "ml": "volume-milliliter", "s": "duration-second",
    "min": "duration-minute", "h": "duration-hour", "°C": "temperature-celsius",
    "°F": "temperature-fahrenheit", "km/h": "speed-kilometer-per-hour", "mph": "speed-mile-per-hour",
    "Hz": "frequency-hertz", "kHz": "frequency-kilohertz", "MB": "digital-megabyte", "GB": "digital-gigabyte",
    "%": "concentr-percent", "°": "angle-degree",
}  # fmt: skip
"""Units by the sign that every language writes; their own signs are CLDR's short forms."""

_TAGS = {"cmn": "zh", "en": "en-GB"}
"""Tags that CLDR has under another name, and English without a region, which is written as in London."""


@dataclass(frozen=True, slots=True)
class NumberSigns:
    """The sign between groups of three digits, and the one before a fraction."""

    thousands: str
    point: str


@lru_cache(maxsize=64)
def _locale(language: str) -> "Locale | None":
    from babel import Locale
    from babel.core import UnknownLocaleError

    tag = primary(language)
    for wanted in (_TAGS.get(language, language), _TAGS.get(tag, tag)):
        try:
            return Locale.parse(wanted, sep="-")
        except (UnknownLocaleError, ValueError):
            continue
    return None


@lru_cache(maxsize=64)
def number_signs(language: str) -> NumberSigns:
    """How a language writes 1,234.5; as English does where CLDR does not know it."""
    from babel.numbers import get_decimal_symbol, get_group_symbol

    locale = _locale(language)
    if locale is None:
        return NumberSigns(",", ".")
    return NumberSigns(get_group_symbol(locale), get_decimal_symbol(locale))


@lru_cache(maxsize=64)
def _signs(language: str) -> dict[str, str]:
    """Units of a language by the signs they are written with there."""
    from babel.units import format_unit

    locale = _locale(language)
    if locale is None:
        return {}
    own = {
        format_unit(5, unit, "short", "0", locale=locale).replace("5", "").strip(): unit
        for unit in _UNITS.values()
    }
    return {sign: unit for sign, unit in own.items() if sign and " " not in sign} | _UNITS


@lru_cache(maxsize=4096)
def unit_phrase(sign: str, amount: float, language: str) -> str | None:
    """An amount of a unit in words, with {0} where the number stands: “{0} kilometres”.

    None for signs that are no unit of the language, and where the language has no words for it.
    """
    from babel.numbers import format_decimal
    from babel.units import format_unit

    locale, unit = _locale(language), _signs(language).get(sign)
    if locale is None or unit is None:
        return None
    phrase = format_unit(amount, unit, "long", "0.######", locale=locale).replace("\xa0", " ")
    written = format_decimal(amount, "0.######", locale=locale)
    said = phrase.replace(written, "{0}", 1)
    if "{0}" not in said or any(sign in said for sign in "%٪/°"):
        return None
    return said


def date_phrase(day: date, language: str) -> str | None:
    """A date as the language writes it in full, the month in words and the numbers in figures."""
    from babel.dates import format_date

    locale = _locale(language)
    return None if locale is None else format_date(day, "long", locale=locale)


def month_name(month: int, language: str) -> str:
    """The name of a month (1 to 12) as it stands within a date.

    Raises:
        LookupError: CLDR does not know the language.
    """
    locale = _locale(language)
    if locale is None:
        raise LookupError(language)
    return str(locale.months["format"]["wide"][month])
