"""Runs every measurement and prints what docs/benchmarks.md holds: `make bench`, or `python -m bench
NAME...`."""

import sys
from collections.abc import Callable

from bench import (
    aac,
    cluster,
    cuts,
    dragging,
    encodings,
    exporting,
    fit,
    hearing,
    homographs,
    known,
    lengths,
    lettering,
    long_import,
    loop,
    natural,
    page,
    pitch,
    playing,
    recordings,
    same_bytes,
    serving,
    sound,
    starting,
    styles,
    typing,
    voicing,
    words,
)

ALL: dict[str, tuple[str, Callable[[], list[str]]]] = {
    "fit": ("The fit", fit.rows),
    "lengths": ("The length model on lines it never saw", lengths.rows),
    "homographs": ("Words said in two ways", homographs.rows),
    "known": ("Lengths before any sound", known.rows),
    "natural": ("Natural voices: how soon, and how near a length", natural.rows),
    "words": ("Times of words against forced alignment", words.rows),
    "recordings": ("Recordings", recordings.rows),
    "encodings": ("Encodings", encodings.rows),
    "long_import": ("Long imports", long_import.rows),
    "hearing": ("From a key press to sound, and a long script", hearing.rows),
    "pitch": ("Pitch, asked and measured", pitch.rows),
    "styles": ("Styles, asked and measured", styles.rows),
    "dragging": ("A drag in the browser", dragging.rows),
    "typing": ("Typing on the script page", typing.rows),
    "voicing": ("A hundred lines voiced", voicing.rows),
    "starting": ("How soon it is there", starting.rows),
    "page": ("How soon the page is there", page.rows),
    "serving": ("The server and its pages", serving.rows),
    "playing": ("Playing in the page", playing.rows),
    "cuts": ("Cuts found in a finished video", cuts.rows),
    "lettering": ("Words on the screen", lettering.rows),
    "sound": ("Sound: mixing, beats, words over a bed, cleaning", sound.rows),
    "exporting": ("Export", exporting.rows),
    "aac": ("AAC by its two coders", aac.rows),
    "same_bytes": ("The same pictures, the same bytes", same_bytes.rows),
    "cluster": ("A batch on a cluster", cluster.rows),
    "loop": ("Plan against the exported video", loop.rows),
}


def main(names: list[str]) -> int:
    unknown = [name for name in names if name not in ALL]
    if unknown:
        print(f"no measurement is called {unknown[0]}; there are {', '.join(ALL)}", file=sys.stderr)
        return 2
    for name in names or ALL:
        title, rows = ALL[name]
        print(f"\n## {title}\n", flush=True)
        for row in rows():
            print(row, flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
