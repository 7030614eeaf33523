"""The rows a docket can have."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from fox_cadence.core.frame_size import LEAST_SIDE, MOST_SIDE
from fox_cadence.core.value import Value

Shape = Literal["piece", "portrait", "square", "landscape", "other"]
Quality = Literal["small", "good", "best"]
VideoFile = Literal["mp4", "webm", "gif", "webp"]
Codec = Literal["h264", "h265", "vp9", "av1"]
CaptionsAre = Literal["drawn", "track", "none"]
SoundFile = Literal["wav", "flac", "mp3", "m4a", "opus"]
CaptionFile = Literal["srt", "vtt", "ttml", "txt"]

CODECS: dict[VideoFile, tuple[Codec, ...]] = {
    "mp4": ("h264", "h265", "av1"),
    "webm": ("vp9", "av1"),
    "gif": (),
    "webp": (),
}
"""What each kind of file can hold; the first is taken where none is named."""

MOST_ROWS = 60
LOOK_LONG_SIDE = 480
_NAME = Field(max_length=60, pattern=r"^[a-z0-9][a-z0-9-]*$")


class Stretch(Value):
    """A part of a piece, in frames [from_frame, to_frame); without an end to its end."""

    from_frame: int = Field(0, ge=0)
    to_frame: int | None = Field(None, gt=0)

    @model_validator(mode="after")
    def _something(self) -> "Stretch":
        if self.to_frame is not None and self.to_frame <= self.from_frame:
            raise ValueError("the part ends before it begins")
        return self

    def within(self, total: int) -> tuple[int, int]:
        """Its first frame and the one after its last in a piece of so many frames."""
        end = total if self.to_frame is None else min(self.to_frame, total)
        return min(self.from_frame, end), end


class _Row(Value):
    """`name` is what a row is asked for by; no two of a docket have the same."""

    name: Annotated[str, _NAME]
    wanted: bool = False


class VideoRow(_Row):
    """A video, or a silent loop (GIF, WebP).

    `shape` other than "piece" frames the piece anew; `short_side` is the length of its shorter side in
    pixels, 0 as the piece has it; "other" takes `width` and `height`. `kbps` or `most_mb` go before
    `quality`. A quick `look` is made fast, and small. `poster_frame` is the picture that stands for the file.
    """

    kind: Literal["video"] = "video"
    shape: Shape = "piece"
    short_side: int = Field(0, ge=0, le=MOST_SIDE)
    width: int = Field(0, ge=0, le=MOST_SIDE)
    height: int = Field(0, ge=0, le=MOST_SIDE)
    file: VideoFile = "mp4"
    codec: Codec | None = None
    quality: Quality = "good"
    kbps: int | None = Field(None, ge=50, le=200_000)
    most_mb: float | None = Field(None, gt=0, le=100_000)
    captions: CaptionsAre = "drawn"
    part: Stretch = Stretch()
    poster_frame: int | None = Field(None, ge=0)
    look: bool = False

    @model_validator(mode="after")
    def _can_be_made(self) -> "VideoRow":
        if self.codec is not None and self.codec not in CODECS[self.file]:
            raise ValueError(f"{self.file.upper()} files can't hold {self.codec.upper()}")
        if self.shape == "other":
            for side in (self.width, self.height):
                if side < LEAST_SIDE or side % 2:
                    raise ValueError(
                        f"{self.width} × {self.height} can't be made: both sides must be even numbers of "
                        f"pixels, at least {LEAST_SIDE}"
                    )
        if self.short_side % 2:
            raise ValueError(f"{self.short_side} is not even; video needs even numbers of pixels")
        if self.loop and self.captions == "track":
            raise ValueError(f"a {self.file.upper()} has no room for captions as a track")
        return self

    @property
    def loop(self) -> bool:
        return self.file in ("gif", "webp")

    @property
    def coded(self) -> Codec | None:
        """The codec it is written with; None for a loop."""
        return self.codec or next(iter(CODECS[self.file]), None)

    def size(self, width: int, height: int) -> tuple[int, int]:
        """Its size, of a piece of a size."""
        if self.shape == "other":
            return self.width, self.height
        if self.look:
            scale = min(1.0, LOOK_LONG_SIDE / max(width, height))
            return max(2, round(width * scale / 2) * 2), max(2, round(height * scale / 2) * 2)
        short, long = (float(side) for side in sorted((width, height)))
        if self.shape == "square":
            side = self.short_side or int(short)
            return side, side
        upright = height >= width if self.shape == "piece" else self.shape == "portrait"
        if self.shape != "piece" and short * 16 != long * 9:
            long = short * 16 / 9  # a piece of another shape: as most screens are
        side = self.short_side or int(short)
        other = max(2, round(side * long / short / 2) * 2)
        return (side, other) if upright else (other, side)


class SoundRow(_Row):
    """Sound alone. `of` names what is in each file: "mix", "speech", "bed", "own", "effects", "role:ID" or
    "line:ID". `chapters` marks the headings (M4A and MP3)."""

    kind: Literal["sound"] = "sound"
    file: SoundFile = "wav"
    bits: Literal[16, 24, 32] = 16
    channels: Literal[1, 2] = 2
    kbps: int | None = Field(None, ge=16, le=512)
    of: tuple[str, ...] = Field(("mix",), min_length=1, max_length=200)
    part: Stretch = Stretch()
    chapters: bool = False

    @model_validator(mode="after")
    def _can_be_made(self) -> "SoundRow":
        for each in self.of:
            if each not in ("mix", "speech", "bed", "own", "effects") and not each.startswith(
                ("role:", "line:")
            ):
                raise ValueError(f"nothing is called {each}")
        if self.chapters and self.file not in ("m4a", "mp3"):
            raise ValueError(f"{self.file.upper()} files have no chapters; M4A and MP3 have")
        if self.file != "wav" and self.bits == 32:
            raise ValueError("only WAV has 32 bits of floating point")
        return self


class StemsRow(_Row):
    """WAV files that sum to the mix, sample for sample: speech by role, beds, own sound, effects."""

    kind: Literal["stems"] = "stems"
    bits: Literal[16, 24] = 24
    part: Stretch = Stretch()


class LinesRow(_Row):
    """A file for each line that has a voice, its edges trimmed."""

    kind: Literal["lines"] = "lines"
    file: Literal["wav", "flac", "mp3"] = "wav"


class CaptionsRow(_Row):
    """The captions as files of their own, of other language versions too where `versions` says so."""

    kind: Literal["captions"] = "captions"
    files: tuple[CaptionFile, ...] = Field(("srt", "vtt"), min_length=1)
    versions: bool = False


class CuesRow(_Row):
    """What is said and shown when, as a table (CSV)."""

    kind: Literal["cues"] = "cues"


class ScriptRow(_Row):
    """The script as a document (DOCX)."""

    kind: Literal["script"] = "script"


class InterchangeRow(_Row):
    """The timeline for other tools (OTIO, EDL) with the media it names."""

    kind: Literal["interchange"] = "interchange"


class BundleRow(_Row):
    """The whole project in one file."""

    kind: Literal["bundle"] = "bundle"


Row = Annotated[
    VideoRow
    | SoundRow
    | StemsRow
    | LinesRow
    | CaptionsRow
    | CuesRow
    | ScriptRow
    | InterchangeRow
    | BundleRow,
    Field(discriminator="kind"),
]


class Docket(Value):
    """Rows in the order in which they are made, and the pattern of the names of their files."""

    name: str = Field("", max_length=60)
    rows: tuple[Row, ...] = Field((), max_length=MOST_ROWS)
    pattern: str = Field("{piece}-{row}", max_length=120)

    @model_validator(mode="after")
    def _names_differ(self) -> "Docket":
        seen: set[str] = set()
        for row in self.rows:
            if row.name in seen:
                raise ValueError(f"two rows are called {row.name}")
            seen.add(row.name)
        return self

    @property
    def chosen(self) -> tuple[Row, ...]:
        return tuple(row for row in self.rows if row.wanted)

    def wanting(self, names: set[str]) -> "Docket":
        """The same docket with just these rows wanted."""
        return self.changed(rows=tuple(row.changed(wanted=row.name in names) for row in self.rows))
