"""Who says a text, where a script names them before it: `LIMPET: Home is a groove.`"""

import re

_PREFIX = re.compile(r"^\s*(?P<name>[^\W\d_][^:：\n]{0,38}?)\s*[:：]\s*(?P<rest>.*)$", re.DOTALL)
_MOST_WORDS = 4


def split_speaker(text: str) -> tuple[str, str]:
    """The role named before a text, in small letters, and the text without it; '' where none is named.

    A name is at most four words all in capitals, so that `Note: bring boots` stays a sentence. Scripts
    without capitals name no role this way.
    """
    found = _PREFIX.match(text)
    if found is None:
        return "", text
    name = " ".join(found["name"].split())
    if name != name.upper() or name == name.lower() or len(name.split()) > _MOST_WORDS:
        return "", text
    return name.lower(), found["rest"].strip()
