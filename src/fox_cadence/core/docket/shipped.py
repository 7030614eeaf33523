"""The docket every project begins with: each product once, the usual ones wanted."""

from fox_cadence.core.docket.rows import (
    BundleRow,
    CaptionsRow,
    CuesRow,
    Docket,
    InterchangeRow,
    LinesRow,
    Row,
    ScriptRow,
    SoundRow,
    StemsRow,
    VideoRow,
)

_LOOP_SIDE = 270

ROWS: tuple[Row, ...] = (
    VideoRow(name="video", wanted=True),
    VideoRow(name="portrait", shape="portrait"),
    VideoRow(name="square", shape="square"),
    VideoRow(name="landscape", shape="landscape"),
    VideoRow(name="look", look=True),
    VideoRow(name="webm", file="webm"),
    VideoRow(name="gif", file="gif", short_side=_LOOP_SIDE),
    SoundRow(name="sound", of=("mix", "speech"), wanted=True),
    SoundRow(name="mp3", file="mp3"),
    SoundRow(name="m4a", file="m4a"),
    SoundRow(name="chapters", file="m4a", chapters=True),
    StemsRow(name="stems"),
    LinesRow(name="lines"),
    CaptionsRow(name="captions", wanted=True),
    CaptionsRow(name="ttml", files=("ttml",)),
    CuesRow(name="cues"),
    ScriptRow(name="script"),
    InterchangeRow(name="interchange"),
    BundleRow(name="bundle"),
)

PLAIN = Docket(rows=ROWS)


def usual(video: bool = True, sound: bool = True, captions: bool = True, look: bool = False) -> Docket:
    """The docket every project begins with, with what is usually wanted of it."""
    wanted = {"video": video, "sound": sound, "captions": captions, "look": look}
    return PLAIN.wanting({name for name, each in wanted.items() if each})
