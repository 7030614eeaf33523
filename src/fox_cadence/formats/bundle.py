"""A project in one file: a ZIP archive of JSON, media files and takes. docs/bundle.md has the format.

An archive is checked before anything is unpacked, and hostile in every respect: names, sizes, links,
encryption, repeated members. Each file is unpacked under a name of ours and must have the hash that its name
in the archive says.
"""

import errno
import hashlib
import json
import re
import stat
import struct
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fox_cadence.errors import InputError

FORMAT = "fox-cadence bundle"
VERSION = 1
SUFFIX = ".cadence.zip"

MANIFEST, PROJECT, TAKES = "bundle.json", "project.json", "takes.json"
MOST_MEMBERS = 50_000
MOST_JSON_BYTES = 200_000_000
MOST_BYTES = 64 << 30
_BLOCK = 1 << 20
_MEDIA = re.compile(r"media/([0-9a-f]{64})(\.[a-z0-9]{1,7})?")
_SOUND = re.compile(r"takes/([0-9a-f]{64})\.wav")
_FONT = re.compile(r"fonts/([0-9a-f]{64})")
_DAMAGED = (
    zipfile.BadZipFile, EOFError, RuntimeError, ValueError, OverflowError, zlib.error,
    struct.error,
)  # fmt: skip
"""What the library answers when an archive is not what it should be."""
_STORED_AS_THEY_ARE = zipfile.ZIP_STORED  # media are packed already


@dataclass(frozen=True, slots=True)
class Packed:
    """What goes into a bundle: documents as JSON text, files by the hash of their bytes."""

    project: str
    takes: str
    media: Mapping[str, Path]
    """Suffix included, such as `.mp4`, by the hash."""
    sounds: Mapping[str, Path]
    fonts: Mapping[str, Path]


def write(path: Path, packed: Packed, made_by: str) -> Iterator[int]:
    """Write a bundle; yields how many of its files are in it so far."""
    manifest = {"format": FORMAT, "version": VERSION, "made_by": made_by}
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
        archive.writestr(MANIFEST, json.dumps(manifest, indent=1))
        archive.writestr(PROJECT, packed.project)
        archive.writestr(TAKES, packed.takes)
        done = 0
        for content_hash, file in packed.media.items():
            archive.write(file, f"media/{content_hash}{file.suffix}", _STORED_AS_THEY_ARE)
            yield (done := done + 1)
        for sound_hash, file in packed.sounds.items():
            archive.write(file, f"takes/{sound_hash}.wav")
            yield (done := done + 1)
        for font_hash, file in packed.fonts.items():
            archive.write(file, f"fonts/{font_hash}")
            yield (done := done + 1)


class Bundle:
    """A bundle opened for reading, its table of contents checked.

    `media` gives the suffix of each media file by its hash, `sounds` and `fonts` are hashes of files,
    `unknown` the members that this version has no use for, `version` that of the format.
    """

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive = archive
        members = archive.infolist()
        _check(members)
        names = {member.filename for member in members}
        for needed in (MANIFEST, PROJECT, TAKES):
            if needed not in names:
                raise InputError(f"it is no bundle of Fox Cadence: {needed} is missing in it")
        self.media = {m[1]: m[2] or "" for name in names if (m := _MEDIA.fullmatch(name))}
        self.sounds = {m[1] for name in names if (m := _SOUND.fullmatch(name))}
        self.fonts = {m[1] for name in names if (m := _FONT.fullmatch(name))}
        known = (MANIFEST, PROJECT, TAKES)
        self.unknown = sorted(
            name
            for name in names
            if name not in known and not any(kind.fullmatch(name) for kind in (_MEDIA, _SOUND, _FONT))
        )
        self.bytes = sum(member.file_size for member in members)
        manifest = self.json(MANIFEST)
        if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
            raise InputError("it is no bundle of Fox Cadence", MANIFEST)
        version = manifest.get("version")
        if not isinstance(version, int) or version < 1:
            raise InputError(f"{version!r} is no version", MANIFEST)
        self.version = version

    def text(self, name: str) -> bytes:
        """The bytes of one of the documents. Raises InputError where it is too large or damaged."""
        if self._archive.getinfo(name).file_size > MOST_JSON_BYTES:
            raise InputError(f"it has more than {MOST_JSON_BYTES >> 20} MiB", name)
        with _damage(name), self._archive.open(name) as file:
            data = file.read(MOST_JSON_BYTES + 1)
        if len(data) > MOST_JSON_BYTES:
            raise InputError(f"it unpacks to more than {MOST_JSON_BYTES >> 20} MiB", name)
        return data

    def json(self, name: str) -> Any:
        try:
            return json.loads(self.text(name))
        except (ValueError, RecursionError) as error:
            raise InputError("it is no JSON that can be read", name) from error

    def media_to(self, content_hash: str, target: Path) -> None:
        """Unpack a media file. Raises InputError where its bytes are not those its name says."""
        self._unpack(f"media/{content_hash}{self.media[content_hash]}", content_hash, target)

    def sound_to(self, sound_hash: str, target: Path) -> None:
        """Unpack the sound of a take, as `media_to`."""
        self._unpack(f"takes/{sound_hash}.wav", sound_hash, target)

    def font_to(self, font_hash: str, target: Path) -> None:
        """Unpack a font file, as `media_to`."""
        self._unpack(f"fonts/{font_hash}", font_hash, target)

    def _unpack(self, name: str, wanted_hash: str, target: Path) -> None:
        digest = hashlib.sha256()
        left = self._archive.getinfo(name).file_size
        with _damage(name), self._archive.open(name) as file, target.open("wb") as out:
            while block := file.read(_BLOCK):
                left -= len(block)
                if left < 0:
                    raise InputError("it unpacks to more than the archive says", name)
                digest.update(block)
                out.write(block)
        if digest.hexdigest() != wanted_hash:
            raise InputError("its bytes are not those that were packed", name)


@contextmanager
def open_bundle(path: Path) -> Iterator[Bundle]:
    """Open a bundle.

    Raises:
        InputError: it is none, or something in it could do harm; nothing was unpacked.
    """
    try:
        archive = zipfile.ZipFile(path)
    except _DAMAGED as error:
        raise InputError("it is no bundle of Fox Cadence (no ZIP archive), or was cut short") from error
    with archive:
        yield Bundle(archive)


@contextmanager
def _damage(name: str) -> Iterator[None]:
    try:
        yield
    except _DAMAGED as error:
        raise InputError("it is damaged in the archive", name) from error
    except OSError as error:
        # a place before the beginning of the file; a full disk is another matter
        if error.errno != errno.EINVAL:
            raise
        raise InputError("it is damaged in the archive", name) from error


def _check(members: list[zipfile.ZipInfo]) -> None:
    if len(members) > MOST_MEMBERS:
        raise InputError(f"it holds {len(members):,} files; {MOST_MEMBERS:,} is the most")
    if sum(member.file_size for member in members) > MOST_BYTES:
        raise InputError(f"it would unpack to more than {MOST_BYTES >> 30} GiB")
    seen: set[str] = set()
    for member in members:
        name = member.filename
        if name in seen:
            raise InputError("it stands in the archive twice", name)
        seen.add(name)
        if (
            name.startswith(("/", "\\"))
            or ".." in re.split(r"[/\\]", name)
            or ":" in name
            or "\x00" in member.orig_filename
        ):
            raise InputError(f"the archive holds a path that leads out of it: {name!r}")
        if stat.S_ISLNK(member.external_attr >> 16):
            raise InputError("the archive holds a link", name)
        if member.flag_bits & 1:
            raise InputError("the archive is encrypted", name)
