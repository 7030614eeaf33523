"""The second sample, "Bajamar en Marrow Bay": the first one in Spanish, over the same shots."""

from fox_cadence.core.lexicon import LexiconEntry
from fox_cadence.core.project import Project, Role
from fox_cadence.core.version_of import Counterpart, VersionOf
from fox_cadence.core.versions import units

SPANISH_ID = "bajamar"

_SAID = {
    "1": "Dos veces al día, el mar se va de Marrow Bay.",
    "2": "Lo que olvida, lo guarda en pozas.",
    "3": "Una anémona se cierra como un puño.",
    "4": "Un ermitaño se prueba una concha, luego otra, y vuelve a la primera.",
    "5": "Mi casa es un surco. Lo hice yo.",
    "6": "Dale la vuelta a una estrella y se endereza. Despacio.",
    "7": "Algo nos mira.",
    "8": "Bajo las algas, toda la poza aguanta la respiración.",
    "9": "Luego el mar vuelve por sus cosas.",
    "10": "¿De quién es este surco?",
}
"""What is said, by the number of the caption or scene text in the first sample."""


def in_spanish(project: Project, first_id: str) -> Project:
    """A version of the project with its words, its cast and its lexicon in Spanish; nothing is voiced."""
    stood = tuple(Counterpart(unit_id=unit.id, words=unit.text) for unit in units(project))
    return project.changed(
        version_of=VersionOf(project_id=first_id, counterparts=stood),
        name="Bajamar en Marrow Bay",
        language="es",
        give_way="halfway",
        captions=tuple(caption.changed(text=_SAID[caption.id[1:]]) for caption in project.captions),
        titles=tuple(title.changed(text="Bajamar\nen Marrow Bay") for title in project.titles),
        scene_texts=tuple(text.changed(text=_SAID[text.id[1:]]) for text in project.scene_texts),
        roles=(
            Role(id="r1", name="narradora", voice_id="es-alba", colour=0),
            Role(id="r2", name="lapa", voice_id="es-dario", colour=1),
        ),
        lexicon=(
            LexiconEntry(id="x1", language="es", written="Marrow", spelled="márou"),
            LexiconEntry(id="x2", language="es", written="Bay", spelled="béi"),
        ),
    )
