"""Voices mixed of others: the model's voices are tables of styles, and a mean of two or three is a voice.

The id of a blend tells what it is mixed of, `mix-en-maren-60-en-quill-40`, so that a project that uses one
needs nothing else.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fox_cadence.voices.voice import NATURAL_USES, Voice

_ID = re.compile(r"mix((?:-[a-z]{2,3}-[a-z]+-[1-9]\d?){2,3})")
_PART = re.compile(r"-([a-z]{2,3}-[a-z]+)-(\d{1,2})")
MOST_PARTS = 3


class NotABlendError(ValueError):
    """What was given can't be mixed; says why."""


@dataclass(frozen=True, slots=True)
class Part:
    """A voice of a blend and its share in percent."""

    voice_id: str
    percent: int


def blend_id(parts: Sequence[Part]) -> str:
    """The id of a blend, the largest share first: it speaks the language of that voice.

    Raises:
        NotABlendError: there are not two or three different voices whose shares make a hundred.
    """
    if not 2 <= len(parts) <= MOST_PARTS or len({part.voice_id for part in parts}) != len(parts):
        raise NotABlendError(f"A blend is made of two or {MOST_PARTS} different voices.")
    if any(not 1 <= part.percent <= 99 for part in parts) or sum(part.percent for part in parts) != 100:
        raise NotABlendError("The shares of a blend make 100 percent, none less than 1.")
    ordered = sorted(parts, key=lambda part: -part.percent)
    made = "mix" + "".join(f"-{part.voice_id}-{part.percent}" for part in ordered)
    if not _ID.fullmatch(made):
        raise NotABlendError("Only natural voices that share one model can be blended.")
    return made


def blend(voice_id: str, voices: Mapping[str, Voice], name: str = "") -> Voice:
    """The voice that an id of a blend tells.

    Args:
        voices: all that can be mixed, by id.

    Raises:
        NotABlendError: it is no such id, or its voices can't be mixed.
    """
    found = _ID.fullmatch(voice_id)
    if not found:
        raise NotABlendError("This is no blend.")
    parts = [Part(part, int(percent)) for part, percent in _PART.findall(found[1])]
    if blend_id(parts) != voice_id:
        raise NotABlendError("The largest share of a blend stands first.")
    mixed = [voices.get(part.voice_id) for part in parts]
    known = [voice for voice in mixed if voice is not None and voice.engine == "kokoro"]
    if len(known) != len(parts):
        raise NotABlendError("Only natural voices that share one model can be blended.")
    first = known[0]
    told = " and ".join(f"{part.percent} % {voice.name}" for part, voice in zip(parts, known, strict=True))
    recipe = "+".join(
        f"{voice.engine_voice.removeprefix('kokoro:')}*{part.percent}"
        for part, voice in zip(parts, known, strict=True)
    )
    genders = {voice.gender for voice in known}
    return Voice(
        id=voice_id,
        name=name or " + ".join(voice.name for voice in known),
        language=first.language,
        region=first.region,
        gender=first.gender if len(genders) == 1 else None,
        age=None,
        character=f"a blend: {told}",
        uses=NATURAL_USES,
        natural=True,
        engine="kokoro",
        engine_voice=f"kokoro:{recipe}",
        phonemes_by=first.phonemes_by,
        licence=first.licence,
        commercial=all(voice.commercial for voice in known),
        blend_of=tuple((part.voice_id, part.percent / 100) for part in parts),
    )
