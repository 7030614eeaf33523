"""A voice: what people choose it by, and what its engine must be told."""

from pydantic import BaseModel, ConfigDict

from fox_cadence.core.languages import language_name
from fox_cadence.voices.espeak_voices import Age, Gender
from fox_cadence.voices.measured import Measured, blended, measured

MACHINE_USES = "drafts, timing, other languages"
NATURAL_USES = "narration, stories, explainers"


class Voice(BaseModel):
    """A voice of the catalogue.

    `natural`: it sounds like a person rather than a machine. `commercial`: its licence is known to allow
    commercial use. `has_range`: the up and down of its pitch can be set. `engine_voice`, `pitch` and
    `liveliness` (0 to 99) are for the engine only; `phonemes_by` is the espeak-ng voice that counts its
    phonemes. `blend_of` are the natural voices it is mixed of, with their shares.
    """

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    language: str
    region: str
    gender: Gender | None
    age: Age | None
    character: str
    uses: str = MACHINE_USES
    natural: bool = False
    engine: str = "espeak-ng"
    engine_voice: str
    phonemes_by: str
    pitch: int = 50
    liveliness: int = 50
    has_range: bool = True
    licence: str = "GPL-3.0-or-later engine; commercial use allowed"
    commercial: bool = True
    blend_of: tuple[tuple[str, float], ...] = ()

    @property
    def language_name(self) -> str:
        return language_name(self.language)

    @property
    def measured(self) -> Measured | None:
        """What was measured of it; of a blend, what its parts come to."""
        if not self.blend_of:
            return measured().get(self.id)
        return blended([(measured()[part], share) for part, share in self.blend_of if part in measured()])
