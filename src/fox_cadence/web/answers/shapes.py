"""The shapes of the JSON that the page of a project reads; its types are made from these
(scripts/page_types.py). What the core has in a shape of its own is sent in that.

Times ending in `_s` are seconds, those ending in `_ticks` ticks, frames are whole. Times of a row are counted
from the start of its shot (of a line: its first shot), so that a change near the beginning of a piece changes
no row after it; the page lays the shots one after the other and places everything in the piece
(static/scripts/timeline.js).
"""

from typing import Any, TypedDict

from fox_cadence.core.coverage import Coverage
from fox_cadence.core.pass_status import PassName
from fox_cadence.store.jobs import JobState
from fox_cadence.web.answers.figures import FigureRow
from fox_cadence.web.answers.lettering_shapes import CaptionStyleJson, LetteringJson, PlaceJson, TitleRow
from fox_cadence.web.answers.picture_shapes import AdjustmentJson, FramingJson, LaidJson
from fox_cadence.web.answers.sound_shapes import BedJson, EffectJson, MixSettingsJson
from fox_cadence.web.answers.treatments import TreatmentJson

Row = dict[str, Any]


class HeadingJson(TypedDict):
    id: str
    text: str


class ShotRow(TypedDict):
    """`length` and `transition` in frames: the next shot begins `transition` frames before this one ends.
    `clip_s` is how long its video is, 0 for stills and colours."""

    id: str
    name: str
    clip: str | None
    still: bool
    colour: str
    source_in_s: float
    source_in_frames: int
    repeats_s: float
    speed_percent: int
    framing: FramingJson
    adjustment: AdjustmentJson
    laid: list[LaidJson]
    clip_s: float
    length: int
    transition: int
    transition_kind: str
    transition_colour: str
    locked: bool
    shortest: int
    longest: int
    own_limits: bool
    handle: int | None
    on_beat: bool
    give_way: str | None
    headings: list[HeadingJson]
    sound: bool
    sound_gain_db: float
    sound_muted: bool
    sound_ducked: bool
    sound_fade_in_s: float
    sound_fade_out_s: float
    bed_points: list[tuple[float, float]]


class CaptionRow(TypedDict):
    """`spoken`: the frames [begin, end) in which each word that is drawn is spoken; none where nobody could
    say which word it is. `style` is a key of the styles of the lettering, `shift` how far it is moved from
    the place of its style (pixels), `breaks` the words before which the editor began a line."""

    id: str
    shot: str
    line: str | None
    in_frame: int
    out_frame: int
    text: str
    locked: bool
    pinned: bool
    too_fast: bool
    rate_cps: int
    drawn: bool
    missing: tuple[str, ...]
    spoken: tuple[tuple[int, int], ...]
    style: str
    own_style: CaptionStyleJson | None
    place: PlaceJson | None
    breaks: tuple[int, ...]
    shift: tuple[float, float]


class StepJson(TypedDict):
    kind: str
    label: str
    seconds: float


class SumJson(TypedDict):
    speech: list[StepJson]
    room: list[StepJson]
    length_s: float


class RestJson(TypedDict):
    after: int
    start_s: float
    end_s: float
    written: bool


class PauseJson(TypedDict):
    after: int
    seconds: float


class SyncJson(TypedDict):
    word: int
    shot: str
    frames: int


class LineTakeJson(TypedDict):
    hash: str
    at_s: float
    text: str
    id: str
    recorded: bool
    cleaned_from: str | None


class LinePlace(TypedDict):
    """How a line stands: as it is, or as a fit would have it."""

    id: str
    state: str
    start_s: float
    end_s: float
    window_start_s: float
    window_end_s: float
    pace: float
    late_s: float
    spill_s: float
    idle_s: float
    wants_remedy: bool


class LineRow(LinePlace):
    role: str
    said: str
    said_words: list[str]
    own_words: bool
    scene_text: bool
    captions: tuple[str, ...]
    first_shot: str
    last_shot: str
    locked: bool
    lane: int
    may_overlap: bool
    give_way: str | None
    j_cut_s: float | None
    l_cut_s: float | None
    natural_s: float
    known: bool
    draft: str
    room_s: float
    words: list[tuple[float, float, str]]
    rests: list[RestJson]
    pauses: list[PauseJson]
    syncs: list[SyncJson]
    marks: list[Row]
    own_voice: str | None
    own_delivery: Row | None
    own_treatment: TreatmentJson | None
    unable: str
    failed: str
    take: LineTakeJson | None
    sum: SumJson


class RoleRow(TypedDict):
    id: str
    name: str
    voice_id: str
    pace: float
    pitch_semitones: float
    pitch_range: float
    gain_db: float
    pan: float
    colour: int
    style: str
    caption_style: CaptionStyleJson | None
    treatment: TreatmentJson | None
    unable: str


class RateJson(TypedDict):
    numerator: int
    denominator: int
    label: str


class PassJson(TypedDict):
    name: PassName
    open: str
    text: str


class SyncStandingJson(TypedDict):
    worst_spill_s: float
    worst_caption_frames: int
    slowest: float
    fastest: float
    idle_s: float


class AmountJson(TypedDict):
    said_characters: int
    words: int
    speech_s: float
    left_s: float | None
    words_left: int | None


class ClipJson(TypedDict):
    name: str
    kind: str
    length_s: float
    sound: bool
    remarks: tuple[str, ...]


class LexiconEntryJson(TypedDict):
    id: str
    language: str
    written: str
    ipa: str | None
    spelled: str | None


class CoveragesJson(TypedDict):
    whole: Coverage
    sections: list[Coverage]
    roles: list[Coverage]


class MissingClipJson(TypedDict):
    hash: str
    name: str


class SavedDeliveryJson(TypedDict):
    name: str
    delivery: Row


class ProjectJson(TypedDict):
    """All that the page shows of a project. `version` names this state of it; see `ChangesJson`."""

    version: str
    project: str
    revision: int
    changed_at: str
    undo: str | None
    redo: str | None
    name: str
    width: int
    height: int
    rate: RateJson
    total_frames: int
    longest_s: float | None
    length_fixed: bool
    give_way: str
    past_clip_end: str
    language: str
    beats: list[float]
    house: dict[str, float]
    sync: SyncStandingJson
    amount: AmountJson
    lettering: LetteringJson
    titles: list[TitleRow]
    figures: list[FigureRow]
    passes: list[PassJson]
    states: dict[str, int]
    shots: list[ShotRow]
    captions: list[CaptionRow]
    lines: list[LineRow]
    roles: list[RoleRow]
    beds: list[BedJson]
    effects: list[EffectJson]
    mix: MixSettingsJson
    clips: dict[str, ClipJson]
    missing: list[MissingClipJson]
    lexicon: list[LexiconEntryJson]
    deliveries: list[SavedDeliveryJson]
    treatments: list[TreatmentJson]
    shortlist: list[str]
    foreseeing: int
    slow_voices: dict[str, float]
    commercial: bool
    keep_in_step: bool
    character_budget: int | None
    coverage: CoveragesJson


class TableChange(TypedDict):
    """Rows of one table that are new or changed, and the ids of all its rows where their order has
    changed."""

    rows: list[Row]
    order: list[str] | None


class ChangesJson(TypedDict):
    """How the state `version` differs from the state `since`: whole values, and rows of the tables."""

    version: str
    since: str
    values: Row
    tables: dict[str, TableChange]


class JobJson(TypedDict):
    id: str
    kind: str
    state: JobState
    done: int
    total: int
    note: str
    result: Row


class VoiceJson(TypedDict):
    id: str
    name: str
    language: str
    language_name: str
    region: str
    gender: str | None
    age: str | None
    character: str
    uses: str
    natural: bool
    engine: str
    has_range: bool
    licence: str
    commercial: bool
    blend: bool
    pitch_hz: int | None
    spread_st: float | None
    letters_s: float | None
    lufs: float | None
    shape: list[float]
    missing: str
