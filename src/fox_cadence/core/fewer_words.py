"""Saying it in fewer words: a short list of rules, each of which an editor can check at a glance.

Nothing is changed here: a shortening is an offer with the words before and after. The rules are applied in
the order of the table, the least harmful first.
"""

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Shortening:
    """One place of a text that can be said shorter: characters [start, end) become `after`."""

    rule: str
    start: int
    end: int
    before: str
    after: str


Rule = Callable[[str, str], Iterator[Shortening]]

_CONTRACTIONS = {
    "it is": "it's", "that is": "that's", "there is": "there's", "what is": "what's", "who is": "who's",
    "he is": "he's", "she is": "she's", "you are": "you're", "we are": "we're", "they are": "they're", "i am": "I'm",
    "i have": "I've", "you have": "you've", "we have": "we've", "they have": "they've", "i will": "I'll",
    "you will": "you'll", "we will": "we'll", "they will": "they'll", "it will": "it'll", "do not": "don't",
    "does not": "doesn't", "did not": "didn't", "is not": "isn't", "are not": "aren't", "was not": "wasn't",
    "were not": "weren't", "can not": "can't", "cannot": "can't", "could not": "couldn't", "will not": "won't",
    "would not": "wouldn't", "should not": "shouldn't", "has not": "hasn't", "have not": "haven't", "had not": "hadn't",
    "let us": "let's",
}  # fmt: skip

_LONGER_WAYS = {
    "en": {
        "in order to": "to", "due to the fact that": "because", "at this point in time": "now", "a number of": "some",
        "the majority of": "most", "in the event that": "if", "as well as": "and", "is able to": "can",
        "are able to": "can", "in spite of": "despite", "until such time as": "until", "each and every": "every",
    },
    "es": {"con el fin de": "para", "debido a que": "porque", "en este momento": "ahora", "a pesar de que": "aunque"},
    "fr": {"dans le but de": "pour", "en raison du fait que": "parce que", "à l'heure actuelle": "maintenant"},
    "de": {"aufgrund der Tatsache, dass": "weil", "zum jetzigen Zeitpunkt": "jetzt", "in der Lage sein": "können"},
}  # fmt: skip

_FILLERS = {
    "en": "really|very|just|quite|actually|basically|simply|literally|perhaps|rather|certainly|sort of|kind of|at all|"
    "in the world",
    "es": "realmente|muy|simplemente|básicamente|bastante",
    "fr": "vraiment|très|simplement|tout à fait|plutôt",
    "de": "wirklich|sehr|einfach|eigentlich|ziemlich|eben|halt",
}

_ASIDES = {
    "en": "you know|of course|in fact|indeed|by the way|as it were|after all|I think|it seems",
    "es": "en realidad|de hecho|por supuesto|al fin y al cabo",
    "fr": "en fait|bien sûr|quand même|après tout",
    "de": "natürlich|schließlich|im Grunde",
}
"""Left out only where commas set them off: without them they may be part of the sentence."""

_NUMBER_WORD = (
    "one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|seventeen|"
    "eighteen|nineteen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety"
)


def _table(rule: str, table: dict[str, str], text: str) -> Iterator[Shortening]:
    for long, short in table.items():
        for match in re.finditer(rf"(?<!\w){re.escape(long)}(?!\w)", text, re.IGNORECASE):
            after = short[:1].upper() + short[1:] if match.group()[:1].isupper() else short
            yield Shortening(rule, match.start(), match.end(), match.group(), after)


def _doubled(text: str, language: str) -> Iterator[Shortening]:
    for match in re.finditer(r"(?<!\w)(\w+)([,\s]+)(\1)(?!\w)", text, re.IGNORECASE):
        yield Shortening("doubled word", match.start(), match.end(), match.group(), match.group(1))


def _long_ways(text: str, language: str) -> Iterator[Shortening]:
    yield from _table("longer way to say it", _LONGER_WAYS.get(language, {}), text)


def _contractions(text: str, language: str) -> Iterator[Shortening]:
    if language == "en":
        for item in _table("contraction", _CONTRACTIONS, text):
            # “it is.” has no short form
            if item.after.endswith("n't") or re.match(r"\s+\w", text[item.end :]):
                yield item


def _numbers(text: str, language: str) -> Iterator[Shortening]:
    if language != "en":
        return
    pattern = rf"(?<!\w)(hundred|thousand)\s+and(?=\s+(?:{_NUMBER_WORD})(?!\w))"
    for match in re.finditer(pattern, text, re.IGNORECASE):
        yield Shortening("spoken number", match.start(), match.end(), match.group(), match.group(1))


def _fillers(text: str, language: str) -> Iterator[Shortening]:
    words = _FILLERS.get(language)
    if not words:
        return
    for match in re.finditer(rf"(?<!\w)({words})(?!\w)", text, re.IGNORECASE):
        yield Shortening("filler", *_with_space(text, match.start(), match.end()), match.group(), "")


def _asides(text: str, language: str) -> Iterator[Shortening]:
    words = _ASIDES.get(language)
    if not words:
        return
    for match in re.finditer(rf"(^|[.!?…]\s+|,\s*)({words})(,|(?=[.!?…]))", text, re.IGNORECASE):
        yield Shortening("aside", *_with_space(text, match.end(1), match.end(3)), match.group(2), "")


def _with_space(text: str, start: int, end: int) -> tuple[int, int]:
    """A place to be left out, with one of the spaces around it and, in the middle of a sentence, its first
    comma."""
    before = text[:start].rstrip()
    if before.endswith(",") and (
        text[end - 1 : end] == "," or text[end : end + 1] in {".", "!", "?", "…", ""}
    ):
        return len(before) - 1, end
    if start > 0 and text[start - 1].isspace():
        return start - 1, end
    return start, end + 1 if text[end : end + 1].isspace() else end


RULES: tuple[Rule, ...] = (_doubled, _long_ways, _contractions, _numbers, _fillers, _asides)


def shortenings(text: str, language: str) -> tuple[Shortening, ...]:
    """Every place that can be said shorter, the least harmful rule first, places of a rule from left to
    right."""
    tag = language.split("-")[0]
    found: list[Shortening] = []
    taken: list[tuple[int, int]] = []
    for rule in RULES:
        for item in sorted(rule(text, tag), key=lambda each: (each.start, -each.end)):
            if not any(item.start < end and start < item.end for start, end in taken):
                found.append(item)
                taken.append((item.start, item.end))
    return tuple(found)


def shortened(text: str, chosen: Sequence[Shortening]) -> str:
    """The text with those places shortened, its first letter and spaces mended."""
    made = text
    for item in sorted(chosen, key=lambda each: each.start, reverse=True):
        made = made[: item.start] + item.after + made[item.end :]
    made = re.sub(r"[ \t]{2,}", " ", made)
    made = re.sub(r"\s+([.,;:!?…])", r"\1", made)
    made = re.sub(r"([.!?…])\s*,", r"\1", made).strip(" ,")
    return re.sub(r"(^|[.!?…]\s+)(\w)", lambda match: match.group(1) + match.group(2).upper(), made)
