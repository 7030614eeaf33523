"""Moving pictures in files of stills (animated WebP and PNG) made into a video, because what decodes videos
reads only their first picture or none. Runs in the isolated process."""

from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import check_size

if TYPE_CHECKING:
    from PIL import Image

_HEAD = 4096
_ANIMATED = 0x02
"""In the flags of the extended WebP header (developers.google.com/speed/webp/docs/riff_container)."""

_STEP_MS = 20
"""How long a player shows the last picture of the video."""

_LEAST_MS, _USUAL_MS = 2 * _STEP_MS, 100
_MOST_FRAMES = 5000
SUFFIX = ".mkv"


def is_moving_still(path: Path) -> bool:
    """Whether a file is a WebP or a PNG of more than one picture."""
    with path.open("rb") as file:
        head = file.read(_HEAD)
    if head[:4] == b"RIFF" and head[8:16] == b"WEBPVP8X":
        return bool(head[20] & _ANIMATED)
    return (
        head[:8] == b"\x89PNG\r\n\x1a\n" and b"acTL" in head
    )  # before its first picture (PNG, third edition)


def as_video(path: Path, target: Path, progress: Progress) -> None:
    """Write the pictures of a file one after the other, each as long as it says, on black.

    Raises:
        InputError: it can't be read, or has too many pictures.
    """
    import av
    from PIL import Image, ImageSequence, UnidentifiedImageError

    try:
        with Image.open(path, formats=("WEBP", "PNG")) as image:
            check_size(*image.size)
            count = getattr(image, "n_frames", 1)
            if count > _MOST_FRAMES:
                raise InputError(f"it has {count:,} pictures; {_MOST_FRAMES:,} is the most")
            with av.open(str(target), "w", format="matroska") as output:
                stream = output.add_stream("libx264", rate=round(1000 / _STEP_MS))
                stream.width, stream.height, stream.pix_fmt = *image.size, "yuv444p"
                stream.options = {"preset": "veryfast", "crf": "8"}
                context = stream.codec_context  # BT.709 in limited range
                context.color_primaries, context.color_trc, context.colorspace, context.color_range = (
                    1,
                    1,
                    1,
                    1,
                )
                stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
                at = 0
                pixels = np.zeros((image.size[1], image.size[0], 3), np.uint8)
                for number, frame in enumerate(ImageSequence.Iterator(image)):
                    frame.load()  # of a WebP it is known only then
                    lasts = round(float(frame.info.get("duration") or _USUAL_MS))
                    pixels = _on_black(frame)
                    _write(output, stream, pixels, at)
                    at += max(_LEAST_MS, lasts)
                    progress(number + 1, count)
                _write(output, stream, pixels, at - _STEP_MS)  # the last one lasts as long as it says
                output.mux(stream.encode(None))
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError) as error:
        raise InputError("this is not a video, still or sound that can be read") from error


def _on_black(frame: "Image.Image") -> NDArray[np.uint8]:
    from PIL import Image

    whole = Image.new("RGBA", frame.size, (0, 0, 0, 255))
    whole.alpha_composite(frame.convert("RGBA"))
    return np.asarray(whole.convert("RGB"))


def _write(output: Any, stream: Any, pixels: NDArray[np.uint8], at_ms: int) -> None:
    import av

    picture = av.VideoFrame.from_ndarray(pixels, format="rgb24")
    picture = picture.reformat(format="yuv444p", dst_colorspace="ITU709", dst_color_range="MPEG")
    picture.pts, picture.time_base = at_ms, Fraction(1, 1000)
    output.mux(stream.encode(picture))
