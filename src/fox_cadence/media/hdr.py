"""Pictures of high dynamic range brought to BT.709, as the export has it.

PQ (SMPTE ST 2084) and HLG (ITU-R BT.2100) are decoded to light, the light above reference white (203 cd/m²,
ITU-R BT.2408) is rolled off by the curve of ITU-R BT.2390-8 (5.4.1), BT.2020 primaries are brought to BT.709
(ITU-R BT.2087) and the result is coded for BT.1886 (gamma 2.4). All of it is one table of colours that
libavfilter looks up.
"""

import tempfile
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    import av

Values = NDArray[np.float64]

PQ, HLG = 16, 18  # transfer characteristics of ITU-T H.273
NAMES = {PQ: "PQ", HLG: "HLG"}
WHITE_NITS = 203.0
PEAK_NITS = 1000.0
_SIZE = 33
_M1, _M2 = 2610 / 16384, 2523 / 4096 * 128
_C1, _C2, _C3 = 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
_TO_709 = np.array([[1.6605, -0.5876, -0.0728], [-0.1246, 1.1329, -0.0083], [-0.0182, -0.1006, 1.1187]])
_LUMA_2020 = np.array([0.2627, 0.6780, 0.0593])


def is_hdr(transfer: int) -> bool:
    return transfer in NAMES


def pq_to_nits(code: Values) -> Values:
    """Light in cd/m² of PQ code values 0..1 (ST 2084, the EOTF)."""
    power = np.power(np.clip(code, 0, 1), 1 / _M2)
    return np.asarray(10000 * np.power(np.maximum(power - _C1, 0) / (_C2 - _C3 * power), 1 / _M1))


def nits_to_pq(nits: Values) -> Values:
    """PQ code values of light in cd/m²."""
    power = np.power(np.clip(nits, 0, 10000) / 10000, _M1)
    return np.asarray(np.power((_C1 + _C2 * power) / (1 + _C3 * power), _M2))


def hlg_to_nits(code: Values) -> Values:
    """Light in cd/m² of HLG code values, last axis R, G, B, on a display of 1000 cd/m² (BT.2100: gamma
    1.2)."""
    a = 0.17883277
    b, c = 1 - 4 * a, 0.5 - a * np.log(4 * a)
    scene = np.where(code <= 0.5, code**2 / 3, (np.exp((code - c) / a) + b) / 12)
    luma = scene @ _LUMA_2020
    return np.asarray(PEAK_NITS * scene * np.power(np.maximum(luma, 1e-9), 0.2)[..., np.newaxis])


def rolled_off(nits: Values) -> Values:
    """Light up to 1000 cd/m² brought to reference white at most: as it is in the dark, softer towards the
    top."""
    top = nits_to_pq(np.array(PEAK_NITS))
    most = float(nits_to_pq(np.array(WHITE_NITS)) / top)
    knee = 1.5 * most - 0.5
    e1 = np.minimum(nits_to_pq(nits) / top, 1)
    t = np.clip((e1 - knee) / (1 - knee), 0, 1)
    spline = (
        (2 * t**3 - 3 * t**2 + 1) * knee + (t**3 - 2 * t**2 + t) * (1 - knee) + (-2 * t**3 + 3 * t**2) * most
    )
    return pq_to_nits(np.where(e1 < knee, e1, spline) * top)


def to_709(code: Values, transfer: int) -> Values:
    """Coded BT.2020 R, G, B (last axis) as coded BT.709, 0..1."""
    nits = pq_to_nits(code) if transfer == PQ else hlg_to_nits(code)
    brightest = np.max(nits, axis=-1, keepdims=True)
    # one factor for all three keeps the hue
    shown = nits * rolled_off(brightest) / np.maximum(brightest, 1e-9)
    linear = np.clip(shown @ _TO_709.T / WHITE_NITS, 0, 1)
    return np.asarray(np.power(linear, 1 / 2.4))


@lru_cache(maxsize=2)
def _table(transfer: int) -> str:
    """The table as a file in the .cube format: red runs fastest."""
    steps = np.linspace(0, 1, _SIZE)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    made = to_709(np.stack([red, green, blue], axis=-1).reshape(-1, 3), transfer)
    rows = "\n".join(f"{r:.6f} {g:.6f} {b:.6f}" for r, g, b in made)
    with tempfile.NamedTemporaryFile("w", suffix=".cube", prefix=f"fox{transfer}-", delete=False) as file:
        file.write(f"LUT_3D_SIZE {_SIZE}\n{rows}\n")
    return file.name


class ToneMap:
    """Brings frames of one stream to BT.709; others pass as they are."""

    def __init__(self) -> None:
        self._graphs: dict[tuple[int, int, int], tuple[Any, Any, Any]] = {}

    def __call__(self, frame: "av.VideoFrame") -> "av.VideoFrame":
        transfer = int(frame.color_trc or 0)
        if not is_hdr(transfer):
            return frame
        coded = frame.reformat(format="gbrp16le", src_colorspace="BT2020", dst_color_range="JPEG")
        graph, source, sink = self._graph(coded.width, coded.height, transfer)
        coded.pts, coded.time_base = 0, frame.time_base
        source.push(coded)
        made: av.VideoFrame = sink.pull()
        del graph
        plain = made.reformat(
            format="yuv444p", src_color_range="JPEG", dst_colorspace="ITU709", dst_color_range="MPEG"
        )
        plain.pts, plain.time_base = frame.pts, frame.time_base
        plain.color_trc, plain.color_primaries = 1, 1
        return plain

    def _graph(self, width: int, height: int, transfer: int) -> tuple[Any, Any, Any]:
        import av

        key = (width, height, transfer)
        if key not in self._graphs:
            table = Path(_table(transfer))
            graph = av.filter.Graph()
            source = graph.add(
                "buffer", f"width={width}:height={height}:pix_fmt=gbrp16le:time_base=1/1000:range=pc"
            )
            look = graph.add("lut3d", f"file={table}:interp=tetrahedral")
            sink = graph.add("buffersink")
            source.link_to(look)
            look.link_to(sink)
            graph.configure()
            self._graphs[key] = (graph, source, sink)
        return self._graphs[key]
