"""Proxies: every frame of a clip as a small JPEG in one pack, so that any frame can be shown at once,
exactly.

A pack is `FOXPACK1`, the length of the header (4 bytes, little-endian), the header as JSON
(`width`, `height`, `ticks`, `offsets`, `sizes`; offsets from the end of the header), and the JPEGs.
"""

import json
import struct
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import av

MAGIC = b"FOXPACK1"
LONG_SIDE = 480
MOST_RATE = 31
QUALITY = "4"


@dataclass(frozen=True)
class PackHeader:
    """What a pack holds; `ticks` are the times of the frames from the start of the clip."""

    width: int
    height: int
    ticks: tuple[int, ...]
    offsets: tuple[int, ...]
    sizes: tuple[int, ...]
    data_start: int

    def index_at(self, ticks: int) -> int:
        """The frame on the screen at a time of the clip: the last one that has begun."""
        return max(0, bisect_right(self.ticks, ticks) - 1)


def proxy_size(width: int, height: int) -> tuple[int, int]:
    """Even size of a proxy, its long side at most 480."""
    scale = min(1.0, LONG_SIDE / max(width, height))
    return max(2, round(width * scale / 2) * 2), max(2, round(height * scale / 2) * 2)


class PackWriter:
    """Collects frames into a pack."""

    def __init__(self, width: int, height: int) -> None:
        import av

        self.width, self.height = proxy_size(width, height)
        self._parts: list[bytes] = []
        self._ticks: list[int] = []
        self._encoder: Any = None
        self._reformatter = av.video.reformatter.VideoReformatter()

    def add(self, ticks: int, frame: "av.VideoFrame") -> None:
        """Add a frame, made small, that is shown from `ticks` on; in order."""
        import av

        small = self._reformatter.reformat(
            frame,
            width=self.width,
            height=self.height,
            format="yuvj420p",
            dst_color_range="JPEG",
            interpolation="BILINEAR",
        )
        if self._encoder is None:
            self._encoder = av.CodecContext.create("mjpeg", "w")
            self._encoder.width, self._encoder.height = self.width, self.height
            self._encoder.pix_fmt = "yuvj420p"
            self._encoder.time_base = Fraction(1, 30)
            self._encoder.options = {"qmin": QUALITY, "qmax": QUALITY}
        small.pts = len(self._parts)
        small.time_base = Fraction(1, 30)
        self._parts.append(b"".join(bytes(packet) for packet in self._encoder.encode(small)))
        self._ticks.append(ticks)

    def write(self, path: Path) -> None:
        """Write the pack: its header, then the frames. Raises OSError."""
        offsets: list[int] = []
        at = 0
        for part in self._parts:
            offsets.append(at)
            at += len(part)
        header = json.dumps(
            {
                "width": self.width,
                "height": self.height,
                "ticks": self._ticks,
                "offsets": offsets,
                "sizes": [len(part) for part in self._parts],
            }
        ).encode()
        with path.open("wb") as file:
            file.write(MAGIC + struct.pack("<I", len(header)) + header)
            for part in self._parts:
                file.write(part)


def read_header(path: Path) -> PackHeader:
    """Sizes, times and places of the frames of a pack. Raises OSError."""
    with path.open("rb") as file:
        start = file.read(len(MAGIC) + 4)
        length = struct.unpack("<I", start[len(MAGIC) :])[0]
        header = json.loads(file.read(length))
    return PackHeader(
        width=header["width"],
        height=header["height"],
        ticks=tuple(header["ticks"]),
        offsets=tuple(header["offsets"]),
        sizes=tuple(header["sizes"]),
        data_start=len(start) + length,
    )


def frames_from(path: Path, ticks: int) -> "Iterator[tuple[int, av.VideoFrame]]":
    """The small frames of a clip with their times, from the one on the screen at a time of the clip on."""
    import av

    header = read_header(path)
    decoder = av.CodecContext.create("mjpeg", "r")
    with path.open("rb") as file:
        for index in range(header.index_at(ticks), len(header.ticks)):
            file.seek(header.data_start + header.offsets[index])
            for frame in decoder.decode(av.Packet(file.read(header.sizes[index]))):
                yield header.ticks[index], frame


def read_frame(path: Path, header: PackHeader, index: int) -> bytes:
    """One frame of a pack as a JPEG."""
    with path.open("rb") as file:
        file.seek(header.data_start + header.offsets[index])
        return file.read(header.sizes[index])
