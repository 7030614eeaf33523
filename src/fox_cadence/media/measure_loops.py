"""Finds where a finished loop cuts and where captions stand in it, as media/measure.py does in a video; with
another reader than the one that wrote it. Runs in the isolated process."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from PIL import Image, ImageSequence, UnidentifiedImageError

from fox_cadence.core.docket.sizes import LOOP_RATE
from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress
from fox_cadence.media.loops import LONGEST_S
from fox_cadence.media.measure import Findings
from fox_cadence.media.picture import check_size
from fox_cadence.media.sight import Sight, SoughtCaption, planes_seen


def find_in_loop(
    file: Path, captions: list[SoughtCaption], rate: Fraction, step: int, progress: Progress
) -> Findings:
    """Look at every picture of a GIF or an animated WebP, each for as long as the file says that it stands.

    Args:
        rate: of the piece, in whose frames everything is told.
        step: how many frames of it a picture of the loop stands for.

    Raises:
        InputError: it can't be read, or is longer than any loop of ours.
    """
    sight = Sight(captions)
    ends_ms = 0
    try:
        with Image.open(file, formats=("GIF", "WEBP")) as image:
            check_size(*image.size)
            width, height = image.size
            count = getattr(image, "n_frames", 1)
            if count > LONGEST_S * LOOP_RATE:
                raise InputError(f"it has {count:,} pictures, and no loop has as many", file.name)
            for number, picture in enumerate(ImageSequence.Iterator(image), 1):
                picture.load()  # of a WebP it is known only then how long it stands
                ends_ms += int(picture.info.get("duration", 0))
                if ends_ms > (LONGEST_S + 1) * 1000:
                    raise InputError("it lasts longer than any loop", file.name)
                frame = av.VideoFrame.from_ndarray(np.asarray(picture.convert("RGB")), format="rgb24")
                planes = planes_seen(
                    frame.reformat(format="yuv420p", dst_colorspace="ITU709", dst_color_range="MPEG")
                )
                # a writer may leave out pictures like the one before, which stands for longer then
                while sight.frames < round(ends_ms * rate / (1000 * step)):
                    sight.see(planes)
                progress(number, count)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError) as error:
        raise InputError("this is no loop that can be read", file.name) from error
    return Findings(
        frames=sight.frames * step,
        width=width,
        height=height,
        rate=float(rate / step),
        audio_start_s=0.0,
        cuts=tuple(cut * step for cut in sight.cuts),
        captions={
            caption_id: tuple((start * step, end * step) for start, end in runs)
            for caption_id, runs in sight.captions.items()
        },
        speech=(),
    )
