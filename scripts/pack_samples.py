"""Makes the samples and packs them as they ship: `python -m scripts.pack_samples [FOLDER]` (`make samples`).

It draws, voices and fits them in a data folder (FOLDER, where they are made already), encodes their clips
and takes small, and writes `src/fox_cadence/demo/data`. It takes some minutes, and is run when the samples
change.
"""

import gzip
import io
import json
import shutil
import sys
import tempfile
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from PIL import Image

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.bundling import take_ids
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.demo.bajamar import SPANISH_ID
from fox_cadence.demo.hikishio import JAPANESE_ID
from fox_cadence.demo.marrow_bay import PROJECT_ID, make_bay
from fox_cadence.demo.night_post import NIGHT_POST_ID, make_night_post
from fox_cadence.demo.samples import DATA, INDEX
from fox_cadence.media.ingest import PROXY
from fox_cadence.media.proxies import read_frame, read_header

ORDER = (NIGHT_POST_ID, SPANISH_ID, JAPANESE_ID, PROJECT_ID)
"""The first sample last: it is the newest on the list."""

PICTURE = {"preset": "veryslow", "crf": "26", "g": "60"}
MUSIC_BPS, SPEECH_BPS = 80_000, 56_000
SMALL_BYTES = 60_000
"""A sound this small ships as it is: packets of a codec would make it longer."""
POSTER_SIDE = 160


def main() -> None:
    with tempfile.TemporaryDirectory() as made:
        folder = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(made)
        with Workspace(folder) as workspace:
            make_bay(workspace)
            make_night_post(workspace)
            pack(workspace, DATA)
    sizes = {
        each.name: sum(file.stat().st_size for file in each.rglob("*"))
        for each in DATA.iterdir()
        if each.is_dir()
    }
    print(", ".join(f"{name} {size / 1e6:.2f} MB" for name, size in sizes.items()))


def pack(workspace: Workspace, target: Path) -> None:
    """Write the samples of a workspace into a folder, which is emptied first."""
    histories = {each: _history(workspace, each) for each in ORDER}
    projects = [project for history in histories.values() for _, project in history]
    clips = {clip.hash: clip for project in projects for clip in project.clips.values()}
    shutil.rmtree(target, ignore_errors=True)
    for name in ("clips", "posters", "takes"):
        (target / name).mkdir(parents=True)
    with ProcessPoolExecutor(2) as pool:
        originals = {each: workspace.library.original(each) for each in clips}
        shown = {each: pool.submit(_encoded, originals[each], clips[each].kind) for each in clips}
        coded = {each: future.result() for each, future in shown.items()}
    new = _brought_in(clips, coded)
    for old, clip in new.items():
        data, suffix = coded[old]
        (target / "clips" / f"{clip.hash[:16]}{suffix}").write_bytes(data)
        if clip.has_picture:
            poster = _poster(workspace.library.clip_file(old, PROXY))
            (target / "posters" / f"{clip.hash[:16]}.jpg").write_bytes(poster)
    used = {take_id for project in projects for take_id in take_ids(project)}
    takes = sorted(workspace.library.takes(used).values(), key=lambda take: take.id)
    for take in takes:
        sound = workspace.library.take_sound(take.sound_hash)
        (target / "takes" / f"{take.id}.opus").write_bytes(_opus(sound, SPEECH_BPS))
    index = {
        "projects": {
            project_id: [{"label": label, "project": _renamed(project, new)} for label, project in history]
            for project_id, history in histories.items()
        },
        "clips": [clip.model_dump(mode="json") for clip in new.values()],
        "takes": [take.model_dump(mode="json") for take in takes],
        "drawn": _drawn(workspace, new),
        "known_lengths": _known_lengths(workspace),
    }
    (target / INDEX).write_bytes(gzip.compress(json.dumps(index).encode(), mtime=0))


def _history(workspace: Workspace, project_id: str) -> list[tuple[str, Project]]:
    revisions = [each for each in workspace.projects.revisions(project_id) if each.in_force]
    return [(each.label, workspace.projects.at(project_id, each.number)) for each in reversed(revisions)]


def _encoded(original: Path, kind: str) -> tuple[bytes, str]:
    """A clip's file as it ships, and its suffix."""
    small = original.stat().st_size < SMALL_BYTES
    if kind == "sound" and not small:
        return _opus(original, MUSIC_BPS), ".opus"
    if kind != "video":
        return original.read_bytes(), original.suffix
    made = io.BytesIO()
    with av.open(str(original)) as source, av.open(made, "w", format="mp4") as target:
        video = source.streams.video[0]
        rate = Fraction(video.average_rate or 30)
        out = target.add_stream("libx264", rate=rate)
        out.width, out.height, out.pix_fmt, out.options = video.width, video.height, "yuv420p", PICTURE
        context = out.codec_context
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
        sound = target.add_stream_from_template(source.streams.audio[0]) if source.streams.audio else None
        number = 0
        for packet in source.demux():
            if sound is not None and packet.stream.type == "audio" and packet.dts is not None:
                packet.stream = sound
                target.mux(packet)
            if packet.stream.type != "video" or packet.stream is sound:
                continue
            for frame in packet.decode():
                frame.pts, frame.time_base, frame.pict_type = (
                    number,
                    1 / rate,
                    av.video.frame.PictureType.NONE,
                )
                number += 1
                target.mux(out.encode(frame))
        target.mux(out.encode(None))
    return made.getvalue(), ".mp4"


def _opus(file: Path, bits_per_second: int) -> bytes:
    made = io.BytesIO()
    with av.open(str(file)) as source, av.open(made, "w", format="ogg") as target:
        layout = source.streams.audio[0].layout.name
        out = target.add_stream("libopus", rate=SAMPLE_RATE_HZ, layout=layout)
        out.bit_rate = bits_per_second
        resampler = av.AudioResampler(format="flt", layout=layout, rate=SAMPLE_RATE_HZ)
        for frame in source.decode(audio=0):
            frame.pts = None
            for ready in resampler.resample(frame):
                target.mux(out.encode(ready))
        for ready in resampler.resample(None):
            target.mux(out.encode(ready))
        target.mux(out.encode(None))
    return made.getvalue()


def _brought_in(clips: dict[str, Clip], coded: dict[str, tuple[bytes, str]]) -> dict[str, Clip]:
    """The clips as their small files are, by the hash they had before."""
    made: dict[str, Clip] = {}
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder) / "data") as workspace:
        for old, clip in clips.items():
            data, suffix = coded[old]
            file = Path(folder) / f"clip{suffix}"
            file.write_bytes(data)
            new = bring_in_clip(workspace, MediaFile(file, clip.name), faces=False)
            if new.length_ticks != clip.length_ticks:
                print(f"{clip.name} lasts {new.length_ticks - clip.length_ticks} ticks longer than before")
            made[old] = new.changed(name=clip.name, interest=clip.interest)
    return made


def _renamed(project: Project, new: dict[str, Clip]) -> Any:
    text = project.model_dump_json()
    for old, clip in new.items():
        text = text.replace(old, clip.hash)
    renamed = json.loads(text)
    hashes = {clip.hash: clip for clip in new.values()}
    renamed["clips"] = {each: hashes[each].model_dump(mode="json") for each in renamed["clips"]}
    return renamed


def _poster(pack: Path) -> bytes:
    header = read_header(pack)
    image = Image.open(io.BytesIO(read_frame(pack, header, min(15, len(header.ticks) - 1))))
    image.thumbnail((POSTER_SIDE, POSTER_SIDE))
    made = io.BytesIO()
    image.save(made, format="JPEG", quality=80)
    return made.getvalue()


def _drawn(workspace: Workspace, new: dict[str, Clip]) -> dict[str, str]:
    with workspace.database.read() as db:
        rows = db.execute("SELECT key, hash FROM drawn_clip").fetchall()
    return {row["key"]: new[row["hash"]].hash for row in rows if row["hash"] in new}


def _known_lengths(workspace: Workspace) -> dict[str, Any]:
    with workspace.database.read() as db:
        rows = db.execute("SELECT key, document FROM known_length").fetchall()
    return {row["key"]: json.loads(row["document"]) for row in rows}


if __name__ == "__main__":
    main()
