"""The samples as they ship, with their clips made small: the same to look at, in a fifth of the time."""

import fcntl
import gzip
import hashlib
import io
import json
import shutil
import tempfile
import time
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from pathlib import Path

import av

from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.night_post import NIGHT_POST_ID
from fox_cadence.demo.samples import DATA, INDEX, ensure_samples
from tests.made_by import SRC, digest_of

WIDTH = 216
KEPT = Path(__file__).resolve().parent.parent / "build" / "samples-for-tests"
MAKES_THEM = (
    "demo/data", "demo/samples.py", "actions/preparing.py", "store/migrations", "store/library.py",
    "store/projects.py", "media/ingest.py", "media/proxies.py", "media/audio.py", "core/shot.py",
    "core/takes.py",
)  # fmt: skip
"""What the samples in a data folder are made by: while none of it changes, they are not made again."""
DAY_S = 86_400


def small_samples() -> Path:
    """A data folder with the samples, made once for all workers and all runs, and named by what makes it."""
    KEPT.mkdir(parents=True, exist_ok=True)
    folder = KEPT / digest_of((), [Path(__file__), *(SRC / "fox_cadence" / name for name in MAKES_THEM)])
    with (KEPT / "making.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # whoever comes first makes them, the others wait for it
        for old in KEPT.iterdir():
            if old.is_dir() and old != folder and old.stat().st_mtime < time.time() - DAY_S:
                shutil.rmtree(old)  # a run of an older state may still be at it
        if not folder.is_dir():
            with tempfile.TemporaryDirectory(dir=KEPT) as made:
                small, data = Path(made) / "small", Path(made) / "data"
                small.mkdir()
                make_small(small)
                with Workspace(data) as workspace:
                    ensure_samples(workspace, data=small)
                    workspace.preparing.prepare_all(workspace.library.clips())
                data.rename(folder)
    return folder


def make_small(target: Path) -> None:
    """Write a folder as `demo/data` is, without the sample whose pictures are from the shelf."""
    index = json.loads(gzip.decompress((DATA / INDEX).read_bytes()))
    del index["projects"][NIGHT_POST_ID]
    used = json.dumps(index["projects"])
    index["clips"] = [clip for clip in index["clips"] if clip["hash"] in used]
    shutil.copytree(DATA / "takes", target / "takes")
    for name in ("clips", "posters"):
        (target / name).mkdir()
    names: dict[str, str] = {}
    videos = {clip["hash"]: clip for clip in index["clips"] if clip["kind"] == "video"}
    with ProcessPoolExecutor(2) as pool:
        small = dict(zip(videos, pool.map(_small, map(_file, videos)), strict=True))
    for old, data in small.items():
        names[old] = hashlib.sha256(data).hexdigest()
        (target / "clips" / f"{names[old][:16]}.mp4").write_bytes(data)
        shutil.copyfile(DATA / "posters" / f"{old[:16]}.jpg", target / "posters" / f"{names[old][:16]}.jpg")
        clip = videos[old]
        clip["width"], clip["height"] = WIDTH, WIDTH * clip["height"] // clip["width"]
    for clip in index["clips"]:
        if clip["hash"] not in videos:
            shutil.copyfile(_file(clip["hash"]), target / "clips" / _file(clip["hash"]).name)
    for history in index["projects"].values():
        for revision in history:
            for each in revision["project"]["clips"].values():
                if each["hash"] in videos:
                    each["width"], each["height"] = (
                        videos[each["hash"]]["width"],
                        videos[each["hash"]]["height"],
                    )
    text = json.dumps(index)
    for old, new in names.items():
        text = text.replace(old, new)
    (target / INDEX).write_bytes(gzip.compress(text.encode()))


def _file(content_hash: str) -> Path:
    (found,) = (DATA / "clips").glob(f"{content_hash[:16]}.*")
    return found


def _small(file: Path) -> bytes:
    made = io.BytesIO()
    with av.open(str(file)) as source, av.open(made, "w", format="mp4") as target:
        video = source.streams.video[0]
        rate = Fraction(video.average_rate or 30)
        out = target.add_stream("libx264", rate=rate)
        out.width, out.height, out.pix_fmt = WIDTH, WIDTH * video.height // video.width, "yuv420p"
        out.options = {"preset": "superfast", "crf": "20", "g": "15"}
        context = out.codec_context
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
        sound = target.add_stream_from_template(source.streams.audio[0]) if source.streams.audio else None
        number = 0
        for packet in source.demux():
            if packet.stream.type == "audio":
                if sound is not None and packet.dts is not None:
                    packet.stream = sound
                    target.mux(packet)
                continue
            for frame in packet.decode():
                small = frame.reformat(out.width, out.height, format="yuv420p")
                small.pts, small.time_base, small.pict_type = number, 1 / rate, 0
                number += 1
                target.mux(out.encode(small))
        target.mux(out.encode(None))
    return made.getvalue()
