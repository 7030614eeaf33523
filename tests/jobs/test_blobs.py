"""Files for workers: had by who knows the key, checked, kept, and let go of when there are too many."""

import os
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.errors import MediaError
from fox_cadence.jobs import blobs
from fox_cadence.jobs.blobs import Blob, BlobServer, Source, fetched, swapped
from fox_cadence.store.library import hash_file


@pytest.fixture
def server() -> Iterator[BlobServer]:
    made = BlobServer("127.0.0.1")
    yield made
    made.close()


@pytest.fixture
def wave(tmp_path: Path) -> Path:
    path = tmp_path / "wave.wav"
    path.write_bytes(bytes(range(256)) * 9000)
    return path


@dataclass(frozen=True)
class Shell:
    """Something that has files in it."""

    name: str
    inside: Any


inner = st.recursive(
    st.one_of(st.integers(), st.text(), st.none(), st.builds(Path, st.sampled_from(["/a", "/b.wav"]))),
    lambda each: st.one_of(
        st.lists(each, max_size=3),
        st.tuples(each, each),
        st.dictionaries(st.text(max_size=3), each, max_size=3),
        st.builds(Shell, st.text(max_size=3), each),
    ),
    max_leaves=12,
)


@given(inner)
def test_what_is_swapped_and_swapped_back_is_as_it_was(value: Any) -> None:
    packed = swapped(value, Path, lambda path: Blob(str(path), path.suffix))
    assert "PosixPath" not in repr(packed)
    assert swapped(packed, Blob, lambda blob: Path(blob.content_hash)) == value


@given(inner)
def test_what_has_no_file_in_it_stays_the_very_same(value: Any) -> None:
    if "PosixPath" not in repr(value) and not isinstance(value, dict):
        packed = swapped(value, Path, lambda path: Blob(str(path), path.suffix))
        assert packed == value


def ask(source: Source, name: str, key: str) -> int:
    request = urllib.request.Request(f"{source.address}/{name}", headers={"authorization": key})
    try:
        with urllib.request.urlopen(request, timeout=10) as answer:
            return int(answer.status)
    except urllib.error.HTTPError as error:
        return error.code


def test_a_file_is_had_by_its_hash_and_the_key_alone(server: BlobServer, wave: Path, tmp_path: Path) -> None:
    (tmp_path / "secret").write_text("not offered")
    blob = server.offer(wave)
    key = f"Bearer {server.source.key}"
    assert ask(server.source, blob.content_hash, key) == 200
    for name, given_key in (
        (blob.content_hash, ""),
        (blob.content_hash, "Bearer wrong"),
        (blob.content_hash, "Bearer schlüssel"),
        (hash_file(tmp_path / "secret"), key),
        ("../secret", key),
        (str(tmp_path / "secret"), key),
        ("", key),
    ):
        assert ask(server.source, name, given_key) == 404, (name, given_key)


def test_a_worker_asks_once_and_keeps_what_it_has(server: BlobServer, wave: Path, tmp_path: Path) -> None:
    blob, folder = server.offer(wave), tmp_path / "kept"
    path = fetched(server.source, blob, folder)
    assert (path.name, path.read_bytes()) == (f"{blob.content_hash}.wav", wave.read_bytes())
    server.close()
    assert fetched(Source("http://127.0.0.1:9", ""), blob, folder) == path
    assert [each.name for each in folder.iterdir()] == [path.name]


@pytest.mark.parametrize("gone", [0, 1])
def test_two_of_the_same_content_go_one_by_one(
    server: BlobServer, wave: Path, tmp_path: Path, gone: int
) -> None:
    """Each is there for as long as its work, and what is asked for by one hash may be either."""
    other = tmp_path / "other.wav"
    other.write_bytes(wave.read_bytes())
    blob = server.offer(wave)
    assert server.offer(other) == blob
    (wave, other)[gone].unlink()
    assert hash_file(fetched(server.source, blob, tmp_path / "kept")) == blob.content_hash


def test_what_is_not_what_its_name_says_is_refused(server: BlobServer, wave: Path, tmp_path: Path) -> None:
    blob = server.offer(wave)
    wave.write_bytes(b"something else by now")
    with pytest.raises(MediaError, match="not the one that was asked for"):
        fetched(server.source, blob, tmp_path / "kept")
    assert not list((tmp_path / "kept").iterdir())
    wave.unlink()
    with pytest.raises(MediaError, match="could not be had"):
        fetched(server.source, blob, tmp_path / "kept")
    for name in ("../wave", "", "A" * 64):
        with pytest.raises(MediaError, match="no hash"):
            fetched(server.source, Blob(name, ".wav"), tmp_path / "kept")


def test_what_was_used_longest_ago_goes_first(
    server: BlobServer, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(blobs, "MOST_KEPT_BYTES", 2500)
    folder = tmp_path / "kept"
    found: list[Path] = []
    for number in range(3):
        path = tmp_path / f"{number}.bin"
        path.write_bytes(bytes([number]) * 1000)
        if found:
            os.utime(found[0], (time.time() + number, time.time() + number))  # the first is used again
        found.append(fetched(server.source, server.offer(path), folder))
        os.utime(found[-1], (time.time() - 60 + number, time.time() - 60 + number))
    assert [path.is_file() for path in found] == [True, False, True]


def test_what_a_dead_worker_has_left_goes(server: BlobServer, wave: Path, tmp_path: Path) -> None:
    folder = tmp_path / "kept"
    folder.mkdir()
    for name, age_s in ((".old", 7200), (".now", 0)):
        (folder / name).write_bytes(b"half a file")
        os.utime(folder / name, (time.time() - age_s, time.time() - age_s))
    fetched(server.source, server.offer(wave), folder)
    assert {path.name for path in folder.glob(".*")} == {".now"}
