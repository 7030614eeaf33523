"""Clips and takes: rows in the database and files named by the hash of their content.

A file is safely on disk before the row that points to it is committed.
"""

import hashlib
import os
import secrets
import shutil
import tempfile
import threading
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from cachetools import LRUCache

from fox_cadence.core.shot import Clip
from fox_cadence.core.takes import Take
from fox_cadence.errors import NotFoundError
from fox_cadence.media.audio import METER, measure_loudness, read_wav
from fox_cadence.media.ingest import SOUND
from fox_cadence.store.database import Database, now

_BLOCK = 1 << 20
POSTER = "poster.jpg"
"""A picture of a clip that came with it, shown until its small frames are there."""
_MOST_TAKES = 50_000
"""Takes never change, and reading one from JSON takes a while."""


def hash_file(path: Path) -> str:
    """SHA-256 of a file's bytes, in hexadecimal. Raises OSError."""
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while block := file.read(_BLOCK):
            digest.update(block)
    return digest.hexdigest()


def write_safely(path: Path, data: bytes) -> None:
    """Write a file so that it is there whole or not at all, also after a power cut."""
    with whole_file(path) as made:
        made.write_bytes(data)


@contextmanager
def whole_file(target: Path) -> Iterator[Path]:
    """A path beside `target` to write to; what was written takes its name when the block ends well, and then
    only.

    Each call has a path of its own: two that write the same file do not disturb each other, the last one
    stays.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    made = target.with_name(f".{secrets.token_hex(4)}-{target.name}.part")
    try:
        yield made
        with made.open("rb") as file:
            os.fsync(file.fileno())
        os.replace(made, target)
    finally:
        made.unlink(missing_ok=True)
    _sync_folder(target.parent)


def same_file(source: Path, target: Path) -> None:
    """Have a file under another name too, which stays when the first is replaced.

    It costs nothing where the disk can have one under two names.

    Raises:
        OSError: it can't be written there.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    if target.exists() and os.path.samefile(source, target):
        return
    target.unlink(missing_ok=True)
    try:
        os.link(source, target)
    except OSError:
        with whole_file(target) as path:
            shutil.copyfile(source, path)


def _sync_folder(path: Path) -> None:
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _loudness_of(wav: Path) -> float:
    return round(measure_loudness(read_wav(wav), true_peak=False).integrated_lufs, 2)


class Library:
    """Where clips and takes of all projects are kept."""

    def __init__(self, database: Database, folder: Path) -> None:
        self._database = database
        self._clips = folder / "clips"
        self._takes = folder / "takes"
        self._known_takes: LRUCache[str, Take] = LRUCache(_MOST_TAKES)
        self._takes_lock = threading.Lock()
        self.prepare: Callable[[str], None] | None = None
        """Makes the files beside a clip's original that are not there yet (actions/preparing.py)."""
        for path in (self._clips, self._takes):
            path.mkdir(parents=True, exist_ok=True)

    def clip(self, content_hash: str) -> Clip | None:
        """The clip of that content, None where it was never brought in."""
        with self._database.read() as db:
            row = db.execute("SELECT document FROM clip WHERE hash = ?", (content_hash,)).fetchone()
        return self._clip_measured(Clip.model_validate_json(row["document"])) if row else None

    def _clip_measured(self, clip: Clip) -> Clip:
        """A clip whose loudness an older version measured, measured again and kept so; others as they are."""
        path = self._clips / clip.hash / SOUND
        if clip.meter >= METER or not clip.has_sound or not path.is_file():
            return clip
        made = clip.changed(loudness_lufs=_loudness_of(path), meter=METER)
        with self._database.write() as db:
            db.execute("UPDATE clip SET document = ? WHERE hash = ?", (made.model_dump_json(), clip.hash))
        return made

    def measured(self, clips: Mapping[str, Clip]) -> dict[str, Clip]:
        """The clips of a project with the loudness they have, where an older version kept another one with
        it."""
        return {
            content_hash: clip.changed(loudness_lufs=known.loudness_lufs, meter=known.meter)
            if clip.meter < METER and (known := self.clip(content_hash)) is not None
            else clip
            for content_hash, clip in clips.items()
        }

    def clips(self) -> list[Clip]:
        """All clips there are, the first that came in first."""
        with self._database.read() as db:
            rows = db.execute("SELECT document FROM clip ORDER BY made_at, rowid").fetchall()
        return [Clip.model_validate_json(row["document"]) for row in rows]

    def put_beside(self, content_hash: str, folder: Path) -> None:
        """Have the files of a folder beside a clip's original; those that stand there already stay."""
        for file in folder.iterdir():
            target = self._clips / content_hash / file.name
            if not target.is_file():
                with whole_file(target) as made:
                    shutil.copyfile(file, made)

    def clip_folder(self, content_hash: str) -> Path:
        """Where the files of a clip are, whether it is there or not."""
        return self._clips / content_hash

    def forget(self) -> None:
        """Read takes from the database again: some were put aside or brought back."""
        with self._takes_lock:
            self._known_takes.clear()

    def clip_file(self, content_hash: str, name: str) -> Path:
        """A file of a clip beside its original, such as its proxy; made now where it was not made yet.

        Raises:
            NotFoundError: it is missing, and can't be made.
        """
        path = self._clips / content_hash / name
        if not path.is_file() and self.prepare is not None:
            self.prepare(content_hash)
        if not path.is_file():
            raise NotFoundError(f"A file of the clip {content_hash[:12]} is missing: {name}.")
        return path

    def original(self, content_hash: str) -> Path:
        """The file as it was brought in. Raises NotFoundError when it, or its clip, is missing."""
        with self._database.read() as db:
            row = db.execute("SELECT suffix, document FROM clip WHERE hash = ?", (content_hash,)).fetchone()
        if row is None:
            raise NotFoundError(f"There is no clip {content_hash[:12]}.")
        path = self.clip_folder(content_hash) / f"original{row['suffix']}"
        if not path.is_file():
            name = Clip.model_validate_json(row["document"]).name
            raise NotFoundError(
                f"The media file {name} has vanished from the data folder. Point to it in Picture."
            )
        return path

    def missing_clips(self, hashes: Iterable[str]) -> list[str]:
        """Those of some clips whose original file has vanished from the disk."""
        missing: list[str] = []
        for content_hash in hashes:
            try:
                self.original(content_hash)
            except NotFoundError:
                missing.append(content_hash)
        return missing

    def add_clip(
        self,
        source: Path,
        name: str,
        suffix: str,
        ingest: Callable[[Path, str, Path], Clip],
        move: bool = False,
    ) -> Clip:
        """Take a media file in under the hash of its bytes. A file that is already there is not read again.

        Args:
            ingest: (original, hash, folder) reads it and writes what belongs to it into the folder.
            move: the file is moved here instead of copied.
        """
        content_hash = hash_file(source)
        known = self.clip(content_hash)
        if known is not None and not self.missing_clips([content_hash]):
            return known.changed(name=name)
        folder = Path(tempfile.mkdtemp(dir=self._clips, prefix=".new-"))
        try:
            original = folder / ("original" + suffix)
            if move:
                shutil.move(source, original)
            else:
                shutil.copyfile(source, original)
            clip = ingest(original, content_hash, folder)
            for file in folder.iterdir():
                with file.open("rb") as handle:
                    os.fsync(handle.fileno())
            final = self._clips / content_hash
            shutil.rmtree(final, ignore_errors=True)
            folder.rename(final)
            _sync_folder(self._clips)
        except BaseException:
            shutil.rmtree(folder, ignore_errors=True)
            raise
        with self._database.write() as db:
            db.execute(
                "INSERT OR REPLACE INTO clip VALUES (?, ?, ?, ?)",
                (content_hash, now(), suffix, clip.model_dump_json()),
            )
        return clip

    def place_clip(self, clip: Clip, original: Path, poster: Path | None) -> None:
        """Take a clip in whose file is known to be good, without what belongs to it; one that is there stays
        as it is. `prepare` makes the rest when it is asked for."""
        if self.clip(clip.hash) is not None and not self.missing_clips([clip.hash]):
            return
        folder = self._clips / clip.hash
        if poster is not None:
            write_safely(folder / POSTER, poster.read_bytes())
        write_safely(folder / f"original{original.suffix}", original.read_bytes())
        with self._database.write() as db:
            db.execute(
                "INSERT OR REPLACE INTO clip VALUES (?, ?, ?, ?)",
                (clip.hash, now(), original.suffix, clip.model_dump_json()),
            )

    def take_by_key(self, key: str) -> Take | None:
        """The take of a voicing request, if it was made before and its sound is still there."""
        with self._database.read() as db:
            row = db.execute("SELECT document FROM take WHERE key = ?", (key,)).fetchone()
        if row is None:
            return None
        take = self._take_measured(Take.model_validate_json(row["document"]))
        return take if self.sound_path(take.sound_hash).is_file() else None

    def takes(self, ids: Iterable[str]) -> dict[str, Take]:
        """Takes by id; those that are not there, or whose sound has vanished, are left out."""
        wanted = set(ids)
        with self._takes_lock:
            found = {
                take_id: take for take_id in wanted if (take := self._known_takes.get(take_id)) is not None
            }
        missing = sorted(wanted - found.keys())
        read: list[Take] = []
        with self._database.read() as db:
            for start in range(0, len(missing), 500):
                part = missing[start : start + 500]
                marks = ",".join("?" * len(part))
                rows = db.execute(f"SELECT document FROM take WHERE id IN ({marks})", part)
                read += [Take.model_validate_json(row["document"]) for row in rows]
        new = {take.id: self._take_measured(take) for take in read}
        with self._takes_lock:
            self._known_takes.update(new)
        folder = str(self._takes)  # as text: a page asks for hundreds, and a Path takes ten times as long
        return {
            take_id: take
            for take_id, take in (found | new).items()
            if os.path.isfile(f"{folder}/{take.sound_hash[:2]}/{take.sound_hash}.wav")
        }

    def _take_measured(self, take: Take) -> Take:
        """A take whose loudness an older version measured, measured again and kept so; others as they are."""
        path = self.sound_path(take.sound_hash)
        if take.meter >= METER or not path.is_file():
            return take
        made = take.changed(loudness_lufs=_loudness_of(path), meter=METER)
        with self._database.write() as db:
            db.execute("UPDATE take SET document = ? WHERE key = ?", (made.model_dump_json(), take.key))
        return made

    def take_made_at(self, take_id: str) -> str:
        """When a take was made, ISO 8601; empty for one that is not there."""
        with self._database.read() as db:
            row = db.execute("SELECT made_at FROM take WHERE id = ?", (take_id,)).fetchone()
        return str(row["made_at"]) if row else ""

    def add_take(self, take: Take, wav: bytes) -> Take:
        """Keep a take and its sound; the take with its id and sound hash."""
        sound_hash = hashlib.sha256(wav).hexdigest()
        kept = take.changed(id=take.key[:20], sound_hash=sound_hash)
        path = self.sound_path(sound_hash)
        if not path.is_file():
            write_safely(path, wav)
        with self._database.write() as db:
            db.execute(
                "INSERT OR REPLACE INTO take VALUES (?, ?, ?, ?, ?)",
                (kept.key, kept.id, sound_hash, now(), kept.model_dump_json()),
            )
        return kept

    def take_in(self, take: Take, sound: Path) -> None:
        """Keep a take that was made elsewhere, with its sound file; one of this machine's own stays as it
        is."""
        path = self.sound_path(take.sound_hash)
        if not path.is_file():
            write_safely(path, sound.read_bytes())
        with self._database.write() as db:
            db.execute(
                "INSERT OR IGNORE INTO take VALUES (?, ?, ?, ?, ?)",
                (take.key, take.id, take.sound_hash, now(), take.model_dump_json()),
            )

    def take_sound(self, sound_hash: str) -> Path:
        """The WAV file of a take. Raises NotFoundError when it is missing."""
        path = self.sound_path(sound_hash)
        if not path.is_file():
            raise NotFoundError("The sound of this take is missing; voice the line again.")
        return path

    def sound_path(self, sound_hash: str) -> Path:
        """Where the WAV file of a take lies, whether it is there or not."""
        return self._takes / sound_hash[:2] / f"{sound_hash}.wav"
