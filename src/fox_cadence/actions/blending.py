"""Voices mixed of others: kept under a name, and offered wherever voices are."""

from collections.abc import Sequence

from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import InputError
from fox_cadence.voices.blends import NotABlendError, Part, blend, blend_id
from fox_cadence.voices.catalogue import VOICES
from fox_cadence.voices.voice import Voice


def mixed(parts: Sequence[Part], name: str = "") -> Voice:
    """The voice that a mix of others is. Raises InputError where they can't be mixed."""
    try:
        return blend(blend_id(parts), _MIXABLE, name)
    except NotABlendError as error:
        raise InputError(str(error), "blend") from error


_MIXABLE = {voice.id: voice for voice in VOICES}


def keep_blend(workspace: Workspace, parts: Sequence[Part], name: str) -> Voice:
    """Keep a blend under a name, for all projects. Raises InputError."""
    tidy = " ".join(name.split())
    if not tidy:
        raise InputError("give the blend a name", "name")
    found = mixed(parts, tidy)
    if any(voice.name.casefold() == tidy.casefold() for voice in VOICES):
        raise InputError(f"there is a voice called {tidy} already", "name")
    workspace.blends.keep(found.id, tidy)
    workspace.offer_blends()
    return found


def forget_blend(workspace: Workspace, voice_id: str) -> None:
    """No longer offer a blend; a project that uses it can still be voiced."""
    workspace.blends.forget(voice_id)
    workspace.offer_blends()
