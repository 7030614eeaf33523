"""Makes the table of the natural voices from the files they are published as.

The 54 voices of the model (Apache-2.0) are each 510 rows of 256 numbers, one row for every length of a text
in symbols. The rows change smoothly, so 41 of them in half precision are kept and the others interpolated:
1.1 MB instead of 28. The files are in the npm package kokoro-js 1.2.1:

    npm pack kokoro-js@1.2.1 && tar xzf kokoro-js-1.2.1.tgz
    python -m scripts.voice_table package/voices
"""

import sys
from pathlib import Path
from typing import Any

import numpy as np

TARGET = Path(__file__).resolve().parent.parent / "src/fox_cadence/voices/data/natural_voices.npz"
ROWS, WIDTH = 510, 256
KEPT = np.unique(np.concatenate([np.arange(4), np.rint(np.geomspace(4, ROWS - 1, 38)).astype(int)]))


def main(arguments: list[str]) -> int:
    if len(arguments) != 1:
        print(__doc__, file=sys.stderr)
        return 2
    found: dict[str, np.ndarray] = {}
    worst = 0.0
    for path in sorted(Path(arguments[0]).glob("*.bin")):
        whole = np.fromfile(path, "<f4").reshape(ROWS, WIDTH)
        kept = whole[KEPT].astype(np.float16)
        again = np.stack(
            [np.interp(np.arange(ROWS), KEPT, kept[:, n].astype(np.float64)) for n in range(WIDTH)], 1
        )
        off = np.linalg.norm(again - whole, axis=1) / np.linalg.norm(whole, axis=1)
        worst = max(worst, float(off.max()))
        found[path.stem] = kept
    TARGET.parent.mkdir(parents=True, exist_ok=True)
    arrays: dict[str, Any] = {"rows": KEPT.astype(np.int16), **found}
    np.savez_compressed(TARGET, **arrays)
    print(f"{len(found)} voices, {TARGET.stat().st_size / 1e6:.2f} MB, rows off by at most {worst:.2%}")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
