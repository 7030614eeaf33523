"""Makes the font files and the emoji of src/fox_cadence/fonts from their packages on the npm registry.

Needs `npm` and the development requirements; run by hand when a family is added:

    python -m scripts.make_fonts

The families are static TrueType files of @expo-google-fonts (each under the SIL Open Font Licence). Those of
Japanese, Korean and Chinese are cut down to the signs of the national standards named below, so that no file
is over 4 MB. The emoji are the drawings of @twemoji/svg (CC-BY 4.0), as coloured outlines in one file.
"""

import gzip
import json
import re
import subprocess
import tarfile
import tempfile
from collections.abc import Iterator
from pathlib import Path

from fontTools import subset
from fontTools.misc.transform import Transform
from fontTools.pens.recordingPen import RecordingPen
from fontTools.pens.transformPen import TransformPen
from fontTools.svgLib.path import parse_path
from fontTools.svgLib.path.shapes import PathBuilder
from fontTools.ttLib import TTFont
from lxml import etree
from PIL.ImageColor import getrgb

TARGET = Path(__file__).resolve().parent.parent / "src/fox_cadence/fonts"
FONTS = "@expo-google-fonts/"

FILES: dict[str, tuple[str, ...]] = {
    "anton": ("400Regular",),
    "archivo-black": ("400Regular",),
    "bangers": ("400Regular",),
    "bebas-neue": ("400Regular",),
    "caveat": ("700Bold",),
    "dm-serif-display": ("400Regular",),
    "fredoka": ("500Medium", "700Bold"),
    "lilita-one": ("400Regular",),
    "literata": ("400Regular", "700Bold"),
    "noto-sans": ("400Regular", "700Bold"),
    "noto-sans-arabic": ("400Regular", "700Bold"),
    "noto-sans-bengali": ("400Regular", "700Bold"),
    "noto-sans-devanagari": ("400Regular", "700Bold"),
    "noto-sans-hebrew": ("400Regular", "700Bold"),
    "noto-sans-jp": ("700Bold",),
    "noto-sans-kr": ("700Bold",),
    "noto-sans-sc": ("700Bold",),
    "noto-sans-tamil": ("400Regular", "700Bold"),
    "noto-sans-tc": ("700Bold",),
    "noto-sans-thai": ("400Regular", "700Bold"),
    "oswald": ("400Regular", "600SemiBold"),
    "pacifico": ("400Regular",),
    "playfair-display": ("500Medium", "800ExtraBold"),
    "rubik": ("500Medium", "800ExtraBold"),
    "unbounded": ("400Regular", "700Bold"),
}
"""Which weights of which family."""

SETS = {
    "noto-sans-jp": ("iso2022_jp", "shift_jis"),
    "noto-sans-sc": ("gb2312",),
    "noto-sans-tc": ("big5",),
}
"""Which signs are kept: those a codec of Python knows (JIS X 0208, GB 2312, the first level of Big5)."""
HANGUL = set(range(0x3131, 0x3190)) | set(range(0xAC00, 0xD7A4))
"""All modern syllables; Chinese signs in a Korean text come from another file."""

_BIG5_LEVEL_1_ENDS = 0xC67E


def main() -> None:
    """Make everything anew."""
    with tempfile.TemporaryDirectory() as folder:
        for family, weights in FILES.items():
            package = _package(f"{FONTS}{family}", Path(folder))
            (TARGET / f"OFL-{family}.txt").write_bytes((package / "LICENSE_FONT").read_bytes())
            for weight in weights:
                (made,) = (package / weight).glob("*.ttf")
                target = TARGET / made.name
                target.write_bytes(made.read_bytes())
                if family in SETS:
                    cut_down(target, _signs(SETS[family]))
                if family == "noto-sans-kr":
                    cut_down(target, _signs(()) | HANGUL)
                print(target.name, target.stat().st_size)
        package = _package("@twemoji/svg", Path(folder))
        drawings = {path.stem: drawing for path in sorted(package.glob("*.svg")) if (drawing := read(path))}
        packed = json.dumps(drawings, separators=(",", ":")).encode()
        (TARGET / "emoji.json.gz").write_bytes(gzip.compress(packed, 9, mtime=0))
        print("emoji", len(drawings), (TARGET / "emoji.json.gz").stat().st_size)


def _package(name: str, folder: Path) -> Path:
    packed = subprocess.run(
        ["npm", "pack", "--silent", name], cwd=folder, check=True, capture_output=True, text=True
    ).stdout.split()[-1]
    target = folder / packed.removesuffix(".tgz")
    with tarfile.open(folder / packed) as archive:
        archive.extractall(target, filter="data")
    return target / "package"


def _signs(codecs: tuple[str, ...]) -> set[int]:
    found: set[int] = set(range(0x20, 0x250)) | set(range(0x2000, 0x2070)) | set(range(0x3000, 0x3130))
    found |= set(range(0xFF00, 0xFFF0))
    for code in range(0x80, 0x10000):
        sign = chr(code)
        for codec in codecs:
            try:
                coded = sign.encode(codec)
            except UnicodeEncodeError:
                continue
            if codec != "big5" or int.from_bytes(coded, "big") <= _BIG5_LEVEL_1_ENDS:
                found.add(code)
    return found


def cut_down(path: Path, signs: set[int]) -> None:
    """Leave only some signs in a font file; its features for them stay, hints and vertical setting go."""
    options = subset.Options()
    options.hinting = False
    options.layout_features = [
        feature for feature in options.layout_features if feature not in ("vert", "vrt2")
    ]
    with TTFont(path) as font:
        cutter = subset.Subsetter(options)
        cutter.populate(unicodes=signs)
        cutter.subset(font)
        font.save(path)


def read(path: Path) -> list[list[str | float]]:
    """The coloured outlines of an SVG drawing, the lowest first: colour, opacity, path data in its own units,
    and "evenodd" where it is filled so."""
    root = etree.parse(path).getroot()
    return list(_shapes(root, Transform(), {"fill": "#000000", "opacity": "1"}))


def _shapes(element: etree._Element, placed: Transform, outer: dict[str, str]) -> Iterator[list[str | float]]:
    own = {key: element.get(key, outer.get(key, "")) for key in ("fill", "fill-rule")}
    opacity = element.get("opacity", element.get("fill-opacity", "1"))
    own["opacity"] = str(float(outer["opacity"]) * float(opacity))
    here = placed.transform(_transform(element.attrib.pop("transform", "")))
    name = etree.QName(element).localname
    if name in ("path", "circle", "ellipse", "rect") and own["fill"] != "none":
        builder = PathBuilder()
        builder.add_path_from_element(element)
        for data in builder.paths:
            pen = RecordingPen()
            parse_path(data, TransformPen(pen, here))
            red, green, blue = getrgb(own["fill"])[:3]
            colour = f"#{red:02x}{green:02x}{blue:02x}"
            shape: list[str | float] = [colour, float(own["opacity"]), _data(pen.value)]
            yield shape + (["evenodd"] if own["fill-rule"] == "evenodd" else [])
    elif name in ("svg", "g"):
        for child in element:
            if isinstance(child.tag, str):
                yield from _shapes(child, here, own)


def _transform(text: str) -> Transform:
    found = Transform()
    for kind, values in re.findall(r"(\w+)\(([^)]*)\)", text):
        v = [float(each) for each in re.split(r"[ ,]+", values.strip())]
        if kind == "matrix":
            found = found.transform(tuple(v))
        elif kind == "rotate":
            x, y = v[1:] if len(v) == 3 else (0.0, 0.0)
            found = found.translate(x, y).rotate(v[0] * 3.141592653589793 / 180).translate(-x, -y)
        else:
            raise ValueError(f"a transform {kind!r} is not known here")
    return found


def _data(commands: list[tuple[str, tuple[tuple[float, float], ...]]]) -> str:
    names = {"moveTo": "M", "lineTo": "L", "curveTo": "C", "qCurveTo": "Q", "closePath": "Z", "endPath": ""}
    parts: list[str] = []
    for name, points in commands:
        if (name == "curveTo" and len(points) != 3) or (name == "qCurveTo" and len(points) != 2):
            raise ValueError("a curve of more than one piece")
        values = " ".join(f"{value:.3f}".rstrip("0").rstrip(".") for point in points for value in point)
        parts.append(names[name] + values)
    return "".join(parts)


if __name__ == "__main__":
    main()
