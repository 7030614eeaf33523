"""Words whose sound is known, so that those a voice must guess can be shown. English only: the CMU dictionary
that comes with pocketsphinx (134,000 words)."""

from functools import lru_cache
from pathlib import Path

from fox_cadence.core.languages import primary
from fox_cadence.core.words import plain


@lru_cache(maxsize=1)
def _english() -> frozenset[str]:
    from pocketsphinx import get_model_path

    path = Path(get_model_path()) / "en-us" / "cmudict-en-us.dict"
    with path.open(encoding="utf-8") as file:
        return frozenset(line.split(" ", 1)[0].split("(")[0] for line in file)


def is_guessed(word: str, language: str) -> bool | None:
    """Whether a voice must guess a word by its spelling; None where we can't tell."""
    if primary(language) != "en":
        return None
    parts = [part.replace("’", "'") for part in plain(word).replace("–", "-").split("-") if part]
    known = _english()
    return any(
        part not in known
        and part.removesuffix("'s") not in known
        and not any(sign.isdigit() for sign in part)
        for part in parts
    )
