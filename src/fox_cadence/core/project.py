"""The objects of a project, as docs/architecture.md names them: frozen values, defined here (clips and shots
in `shot.py`) and nowhere else.

Times inside a shot are counted from the start of that shot, so that a change of one shot carries everything
after it along. `timeline.py` turns them into times of the piece.
"""

from collections.abc import Mapping
from typing import Any, TypeVar

from pydantic import Field, model_validator

from fox_cadence.core.delivery import Delivery, SavedDelivery
from fox_cadence.core.figures.figure import Figure
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.lettering.style import CaptionStyle, Lettering, Place
from fox_cadence.core.lettering.styles import STYLES, TITLES, style_by_id
from fox_cadence.core.lexicon import Lexicon, LexiconEntry
from fox_cadence.core.marks import Mark, SyncPoint
from fox_cadence.core.shot import Clip, GiveWay, PastClipEnd, Shot
from fox_cadence.core.sound.bed import MOST_BEDS, Bed
from fox_cadence.core.sound.effect import MOST_EFFECTS, SpotEffect
from fox_cadence.core.sound.settings import MixSettings
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.treatment import Treatment
from fox_cadence.core.value import Value
from fox_cadence.core.version_of import VersionOf


class Caption(Value):
    """Words on the screen; both times in frames from the start of its shot, the out time exclusive.

    It follows its words, unless it is pinned (it keeps its place in its shot and its words follow it) or
    locked (it keeps its place in the piece). `style` and `place` stand in for those of its role or of the
    project; `breaks` are the words before which the editor has begun a new line.
    """

    id: str
    shot_id: str
    in_frames: int
    out_frames: int
    text: str
    locked: bool = False
    pinned: bool = False
    style: CaptionStyle | None = None
    place: Place | None = None
    breaks: tuple[int, ...] = Field((), max_length=60)

    @property
    def leads(self) -> bool:
        """The words follow the caption."""
        return self.locked or self.pinned


class Title(Value):
    """Words on the screen that are no caption; both times in frames from the start of its shot, the out time
    exclusive. Lines of its text are lines on the screen."""

    id: str
    shot_id: str
    in_frames: int
    out_frames: int
    text: str
    style: CaptionStyle = TITLES[0]
    place: Place | None = None


class SceneText(Value):
    """Words that belong to a shot and are spoken, not shown."""

    id: str
    shot_id: str
    text: str


class SpanLength(Value):
    """How long a span lasts: voiced part, all natural pauses, all written ones (ticks)."""

    voiced_ticks: int
    pause_ticks: int = 0
    written_ticks: int = 0

    @property
    def ticks(self) -> int:
        """All of it, pauses included."""
        return self.voiced_ticks + self.pause_ticks + self.written_ticks


class Placement(Value):
    """Where a fit has put a line: its first sound from the start of its first shot, and the lengths of its
    spans. `key` is that of the request the line had then: of other words the lengths mean nothing."""

    offset_ticks: int
    spans: tuple[SpanLength, ...]
    take_id: str | None = None
    key: str = ""

    @property
    def length_ticks(self) -> int:
        """From its first sound to the end of its last span."""
        return sum(span.ticks for span in self.spans)


MOST_KEPT_TAKES = 60
"""Of one line; the oldest go first."""


class KeptTake(Value):
    """A take a line keeps, chosen or not, with the name the editor gave it and what it was made from.

    A take made before takes were kept with their direction has neither voice nor delivery.
    """

    take_id: str
    name: str = ""
    voice_id: str | None = None
    delivery: Delivery | None = None
    marks: tuple[Mark, ...] = ()


class Line(Value):
    """A stretch of text spoken in one go by one voice.

    `said` is None while the line says what its captions show. `take_id` is the take at the natural pace;
    `placement.take_id` is the one made at the pace of the accepted fit; where nothing was voiced before that,
    `take_id` itself is. Lines of lane 1 may sound over those
    of lane 0 where `may_overlap` says so. `longest_j_cut_ticks` and `longest_l_cut_ticks` stand in for the
    house's where set, `voice_id`, `delivery` and `treatment` for the role's.
    """

    id: str
    role_id: str
    first_shot_id: str
    last_shot_id: str
    caption_ids: tuple[str, ...] = ()
    scene_text_id: str | None = None
    said: str | None = None
    wanted_offset_ticks: int | None = None
    locked: bool = False
    give_way: GiveWay | None = None
    take_id: str | None = None
    placement: Placement | None = None
    marks: tuple[Mark, ...] = ()
    lane: int = Field(0, ge=0, le=1)
    may_overlap: bool = False
    longest_j_cut_ticks: int | None = None
    longest_l_cut_ticks: int | None = None
    voice_id: str | None = None
    delivery: Delivery | None = None
    takes: tuple[KeptTake, ...] = ()
    treatment: Treatment | None = None

    def voiced_by(self, take: KeptTake) -> "Line":
        """The line with this take at the natural pace, which is kept beside those it had.

        Where it is another one, the words, the voice or the delivery have changed: the line keeps its start,
        but what was made at the pace of the accepted fit must not play any more.
        """
        kept = self.keeping(take)
        if take.take_id == self.take_id:
            return kept
        placement = self.placement and self.placement.changed(take_id=None)
        return kept.changed(take_id=take.take_id, placement=placement)

    def keeping(self, take: KeptTake) -> "Line":
        """The line with a take among those it keeps, the newest last; one it has keeps its name."""
        known = {kept.take_id for kept in self.takes}
        if take.take_id in known:
            return self
        first = (KeptTake(take_id=self.take_id),) if self.take_id and self.take_id not in known else ()
        return self.changed(takes=(*self.takes, *first, take)[-MOST_KEPT_TAKES:])


ROLE_COLOURS = 6
"""How many colours there are to tell roles apart on the sheet."""


class Role(Value):
    """A voice of the cast under its role name, with its delivery; `pan` is where it stands from the left
    (-1) to the right (1)."""

    id: str
    name: str
    voice_id: str
    pace: float = Field(1.0, ge=0.5, le=2)
    pitch_semitones: float = Field(0.0, ge=-12, le=12)
    gain_db: float = Field(0.0, ge=-24, le=12)
    pan: float = Field(0.0, ge=-1, le=1)
    colour: int = 0
    style: str = "plain"
    pitch_range: float = Field(1.0, ge=0.2, le=2)
    caption_style: CaptionStyle | None = None
    treatment: Treatment | None = None

    @property
    def delivery(self) -> Delivery:
        """How the role speaks where a line has no delivery of its own."""
        return Delivery(
            style=self.style,
            pace=self.pace,
            pitch_semitones=self.pitch_semitones,
            pitch_range=self.pitch_range,
            gain_db=self.gain_db,
        )


class Project(Value):
    """One video in the making. Sequences are in the order of time.

    `longest_ticks` is the longest length allowed, or with `length_fixed` the length it must have. `beats` are
    the beats of the bed in ticks of the piece. `shortlist` are ids of voices; with `commercial` only voices
    whose licence allows commercial use are offered; with `keep_in_step` speech is made anew when words
    change. `character_budget` is how many characters may be said in all.
    """

    schema_version: int = 1
    name: str
    width: int = Field(1080, ge=16, le=7680)
    height: int = Field(1920, ge=16, le=7680)
    rate: FrameRate = FrameRate(numerator=30)
    language: str = "en"
    longest_ticks: int | None = None
    length_fixed: bool = False
    beats: tuple[int, ...] = ()
    give_way: GiveWay = "halfway"
    past_clip_end: PastClipEnd = "hold"
    house: HouseLimits = HouseLimits()
    lettering: Lettering = Lettering(style=STYLES[0])
    clips: dict[str, Clip] = Field(default_factory=dict)
    shots: tuple[Shot, ...] = ()
    captions: tuple[Caption, ...] = ()
    titles: tuple[Title, ...] = ()
    scene_texts: tuple[SceneText, ...] = ()
    roles: tuple[Role, ...] = ()
    figures: tuple[Figure, ...] = Field((), max_length=12)
    lines: tuple[Line, ...] = ()
    beds: tuple[Bed, ...] = Field((), max_length=MOST_BEDS)
    effects: tuple[SpotEffect, ...] = Field((), max_length=MOST_EFFECTS)
    mix: MixSettings = MixSettings()
    lexicon: tuple[LexiconEntry, ...] = ()
    deliveries: tuple[SavedDelivery, ...] = ()
    treatments: tuple[Treatment, ...] = Field((), max_length=100)
    shortlist: tuple[str, ...] = ()
    commercial: bool = False
    keep_in_step: bool = False
    character_budget: int | None = None
    version_of: VersionOf | None = None

    @model_validator(mode="before")
    @classmethod
    def _of_earlier_versions(cls, data: Any) -> Any:
        """Projects of earlier versions have only the name of a style, and one bed at most."""
        if isinstance(data, dict) and isinstance(data.get("caption_style"), str):
            named = style_by_id(data["caption_style"])
            data = {key: value for key, value in data.items() if key != "caption_style"}
            data.setdefault("lettering", {"style": named.model_dump()})
        if isinstance(data, dict) and "bed" in data:
            only = data["bed"]
            data = {key: value for key, value in data.items() if key != "bed"}
            data.setdefault("beds", () if only is None else (only,))
        return data

    def shot(self, shot_id: str) -> Shot:
        """Raises NotInProjectError."""
        return _find(self.shots, shot_id, "shot")

    def caption(self, caption_id: str) -> Caption:
        """Raises NotInProjectError."""
        return _find(self.captions, caption_id, "caption")

    def line(self, line_id: str) -> Line:
        """Raises NotInProjectError."""
        return _find(self.lines, line_id, "line")

    def title(self, title_id: str) -> Title:
        """Raises NotInProjectError."""
        return _find(self.titles, title_id, "title")

    def figure(self, figure_id: str) -> Figure:
        """Raises NotInProjectError."""
        return _find(self.figures, figure_id, "figure")

    def role(self, role_id: str) -> Role:
        """Raises NotInProjectError."""
        return _find(self.roles, role_id, "role")

    def bed(self, bed_id: str) -> Bed:
        """Raises NotInProjectError."""
        return _find(self.beds, bed_id, "bed")

    def effect(self, effect_id: str) -> SpotEffect:
        """Raises NotInProjectError."""
        return _find(self.effects, effect_id, "effect")

    def shot_index(self) -> Mapping[str, int]:
        """The place of each shot by its id, counted from 0."""
        return {shot.id: index for index, shot in enumerate(self.shots)}


TABLES: Mapping[str, str] = {
    "shots": "shot",
    "captions": "caption",
    "titles": "title",
    "scene_texts": "scene text",
    "roles": "role",
    "figures": "figure",
    "beds": "bed",
    "effects": "effect",
    "lines": "line",
}
"""The sequences of a project whose objects have ids, and what one of them is called."""


class NotInProjectError(LookupError):
    """An id names no object of this project. Carries the kind and the id."""

    def __init__(self, kind: str, object_id: str) -> None:
        super().__init__(f"no {kind} {object_id!r} in this project")
        self.kind = kind
        self.object_id = object_id


T = TypeVar("T", Shot, Caption, Title, Line, Role, Figure, Bed, SpotEffect)


def _find(items: tuple[T, ...], object_id: str, kind: str) -> T:
    for item in items:
        if item.id == object_id:
            return item
    raise NotInProjectError(kind, object_id)


class Index:
    """The objects of a project by id: made once where many are looked up."""

    def __init__(self, project: Project) -> None:
        self.captions = {caption.id: caption for caption in project.captions}
        self.scene_texts = {text.id: text for text in project.scene_texts}
        self.roles = {role.id: role for role in project.roles}
        self.deliveries = {role.id: role.delivery for role in project.roles}
        self.lexicon = Lexicon(project.lexicon, project.language)


def said_text(project: Project, line: Line, index: Index | None = None) -> str:
    """The words a line speaks: its own wording, else its captions one after the other, else its scene
    text."""
    if line.said is not None:
        return line.said
    index = index or Index(project)
    if line.scene_text_id is not None and not line.caption_ids:
        return index.scene_texts[line.scene_text_id].text
    return " ".join(" ".join(index.captions[caption_id].text.split()) for caption_id in line.caption_ids)


def voice_of(line: Line, index: Index) -> str:
    """The id of the voice that says a line: its own, or its role's."""
    return line.voice_id or index.roles[line.role_id].voice_id


def delivery_of(line: Line, index: Index) -> Delivery:
    """How a line is said: its own delivery, or its role's."""
    return line.delivery or index.deliveries[line.role_id]


def treatment_of(line: Line, index: Index) -> Treatment | None:
    """How the voice of a line is treated: in a way of its own, or its role's; None where not at all."""
    own = line.treatment if line.treatment is not None else index.roles[line.role_id].treatment
    return own if own is not None and own.stages else None


def kept_take(project: Project, line: Line, take_id: str, index: Index | None = None) -> KeptTake:
    """A take of a line as it is made now, with all it is made from."""
    index = index or Index(project)
    return KeptTake(
        take_id=take_id,
        voice_id=voice_of(line, index),
        delivery=delivery_of(line, index),
        marks=tuple(mark for mark in line.marks if not isinstance(mark, SyncPoint)),
    )
