"""A project in one file and out of it elsewhere; every bundle that is damaged or means harm."""

import contextlib
import io
import json
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from fox_cadence.actions.bring_in import MediaFile
from fox_cadence.actions.bundling import bring_in_bundle, write_bundle
from fox_cadence.actions.exporting import export
from fox_cadence.actions.making_video import screen
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.projects import copy_project, point_to
from fox_cadence.actions.undo import back_to
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from fox_cadence.errors import FoxError, InputError
from tests.builders import simple_project


def test_a_bundle_brings_the_same_sound_and_the_same_cuts_to_another_machine(
    demo: Workspace, tmp_path: Path
) -> None:
    path = write_bundle(demo, "marrow-bay", tmp_path / "out")
    assert [file.name for file in (tmp_path / "out").iterdir()] == [path.name]
    there = demo.timeline(demo.head("marrow-bay").project)
    with Workspace(tmp_path / "elsewhere") as other:
        made = bring_in_bundle(other, path, path.name)
        assert made.remarks == ()
        project = other.head(made.project_id).project
        assert project == demo.head("marrow-bay").project
        here = other.timeline(project)
        sounds = [mix(workspace, each).read(0, 10**9) for workspace, each in ((other, here), (demo, there))]
        assert np.array_equal(sounds[0], sounds[1])
        assert screen(other, here) == screen(demo, there)
        assert other.takes_of(project) == demo.takes_of(project)
        again = bring_in_bundle(other, path, path.name)  # what is there is not taken in twice
        assert again.project_id != made.project_id
        assert len(list((other.folder / "clips").iterdir())) == len(project.clips)
        names = [
            file.name for file in export(other, made.project_id, tmp_path / "x", usual(video=False)).paths
        ]
        assert len(names) == 5  # captions twice, two sounds, and the notes: lines without a voice


@pytest.fixture(scope="module")
def small_path(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A bundle of two voiced lines on plain colours."""
    with Workspace(tmp_path_factory.mktemp("small")) as workspace:
        project_id = workspace.projects.create(simple_project(["One pool.", "Another."]), "Made")
        voice_lines(workspace, project_id)
        return write_bundle(workspace, project_id, workspace.folder / "out")


@pytest.fixture
def small(small_path: Path) -> bytes:
    return small_path.read_bytes()


Parts = dict[str, bytes]


def changed(bundle: bytes, change: Callable[[Parts], Any]) -> bytes:
    with zipfile.ZipFile(io.BytesIO(bundle)) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    change(parts)
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    return made.getvalue()


def in_json(name: str, change: Callable[[Any], Any]) -> Callable[[Parts], None]:
    def apply(parts: Parts) -> None:
        document = json.loads(parts[name])
        made = change(document)
        parts[name] = json.dumps(document if made is None else made).encode()

    return apply


def brought_in(workspace: Workspace, data: bytes) -> Any:
    path = workspace.scratch / "given.zip"
    path.write_bytes(data)
    return bring_in_bundle(workspace, path, "given.zip")


def linked(bundle: bytes) -> bytes:
    made = io.BytesIO(bundle)
    with zipfile.ZipFile(made, "a") as archive:
        link = zipfile.ZipInfo("media/link")
        link.external_attr = 0o120777 << 16
        archive.writestr(link, "/etc/passwd")
    return made.getvalue()


def doubled(bundle: bytes) -> bytes:
    made = io.BytesIO(bundle)
    with zipfile.ZipFile(made, "a") as archive, pytest.warns(UserWarning, match="Duplicate"):
        archive.writestr("project.json", "{}")
    return made.getvalue()


def add(name: str) -> Callable[[bytes], bytes]:
    return lambda bundle: changed(bundle, lambda parts: parts.update({name: b"x"}))


def with_json(name: str, change: Callable[[Any], Any]) -> Callable[[bytes], bytes]:
    return lambda bundle: changed(bundle, in_json(name, change))


HARMFUL: dict[str, tuple[Callable[[bytes], bytes], str]] = {
    "empty": (lambda _: b"", "no ZIP archive"),
    "text": (lambda _: b"once upon a tide", "no ZIP archive"),
    "cut short": (lambda bundle: bundle[: len(bundle) // 2], "cut short"),
    "another archive": (
        lambda _: changed(linked(b""), lambda parts: parts.clear()),
        "bundle.json is missing",
    ),
    "path upwards": (add("../outside"), "leads out"),
    "path from the root": (add("/etc/outside"), "leads out"),
    "path of another system": (add("..\\outside"), "leads out"),
    "path with a drive": (add("c:/outside"), "leads out"),
    "link": (linked, "a link"),
    "member twice": (doubled, "twice"),
    "no version": (with_json("bundle.json", lambda m: m.pop("version") and m), "no version"),
    "another format": (with_json("bundle.json", lambda m: m.update(format="zoo")), "no bundle"),
    "manifest a list": (with_json("bundle.json", lambda m: [m]), "no bundle"),
    "project no JSON": (
        lambda b: changed(b, lambda parts: parts.update({"project.json": b"{"})),
        "project.json",
    ),
    "project deep": (
        lambda b: changed(b, lambda p: p.update({"project.json": b"[" * 100_000})),
        "project.json",
    ),
    "shot of no length": (
        with_json("project.json", lambda p: p["shots"][0].update(length_frames=0)),
        "length_frames",
    ),
    "role gone": (with_json("project.json", lambda p: p.update(roles=[])), "role 'r1'"),
    "words outside": (
        with_json("takes.json", lambda t: t[0]["words"][0].update(start_sample=10**9)),
        "outside its sound",
    ),
    "take of other words": (
        with_json("takes.json", lambda t: t[0]["request"].update(text="Another thing.")),
        "not what it says",
    ),
}


@pytest.mark.parametrize("case", HARMFUL, ids=str)
def test_a_bundle_that_is_damaged_or_means_harm_is_refused_and_leaves_nothing(
    workspace: Workspace, small: bytes, case: str
) -> None:
    make, said = HARMFUL[case]
    with pytest.raises(InputError, match=said) as refused:
        brought_in(workspace, make(small))
    assert "given.zip" in str(refused.value)
    assert workspace.projects.list() == []
    assert list((workspace.folder / "takes").rglob("*.wav")) == []
    assert [path.name for path in workspace.scratch.iterdir()] == ["given.zip"]


def test_a_bomb_is_refused_before_it_is_unpacked(
    workspace: Workspace, small: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("fox_cadence.formats.bundle.MOST_JSON_BYTES", 1000)
    with pytest.raises(InputError, match="more than"):
        brought_in(workspace, changed(small, lambda parts: parts.update({"takes.json": b" " * 100_000})))
    monkeypatch.setattr("fox_cadence.formats.bundle.MOST_BYTES", 1000)
    with pytest.raises(InputError, match="unpack to more"):
        brought_in(workspace, small)


def test_what_a_newer_version_wrote_is_kept_and_what_is_missing_is_remarked(
    workspace: Workspace, small: bytes, tmp_path: Path
) -> None:
    def newer(parts: Parts) -> None:
        in_json("bundle.json", lambda m: m.update(version=2))(parts)
        in_json("project.json", lambda p: p["shots"][0].update(feathers=3))(parts)
        parts["wings/left.bin"] = b"x"
        del parts[next(name for name in parts if name.endswith(".wav"))]

    made = brought_in(workspace, changed(small, newer))
    places = [remark.place for remark in made.remarks]
    assert places == ["wings/left.bin", "bundle", "takes"]
    assert workspace.head(made.project_id).project.model_dump()["shots"][0]["feathers"] == 3
    out = write_bundle(workspace, made.project_id, tmp_path)
    with zipfile.ZipFile(out) as archive:
        assert json.loads(archive.read("project.json"))["shots"][0]["feathers"] == 3
    assert voice_lines(workspace, made.project_id).made == 1


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(at=st.floats(0, 1), bits=st.binary(min_size=1, max_size=8), gone=st.integers(0, 40))
def test_a_bundle_with_any_bytes_changed_comes_in_or_is_refused_in_words(
    workspace: Workspace, small_path: Path, at: float, bits: bytes, gone: int
) -> None:
    whole = small_path.read_bytes()
    place = int(at * len(whole))
    with contextlib.suppress(InputError):
        made = brought_in(workspace, whole[:place] + bits + whole[place + gone :])
        project = workspace.head(made.project_id).project
        assert len(workspace.timeline(project).lines) == len(project.lines)


def test_a_copy_and_going_back_leave_everything_as_it_was(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One pool.", "Another."]), "Made")
    voice_lines(workspace, project_id)
    first = copy_project(workspace, project_id)
    second = copy_project(workspace, project_id)
    names = [workspace.head(each).project.name for each in (project_id, first, second)]
    assert names == ["Test", "Test (2)", "Test (3)"]
    assert workspace.head(first).project.lines == workspace.head(project_id).project.lines
    assert back_to(workspace, project_id, 1, 2) == 3
    head = workspace.head(project_id)
    assert head.project == workspace.projects.at(project_id, 1)
    assert head.undo_label == "Back to 1, Made"
    assert back_to(workspace, project_id, 3, 3) == 3
    workspace.projects.undo(project_id)
    assert workspace.head(project_id).revision == 2


def test_media_that_vanished_is_pointed_to_again_by_its_content(demo: Workspace, tmp_path: Path) -> None:
    clip = next(iter(demo.head("marrow-bay").project.clips.values()))
    original = demo.library.original(clip.hash)
    moved = tmp_path / "elsewhere.mp4"
    original.rename(moved)
    assert demo.library.missing_clips(demo.head("marrow-bay").project.clips) == [clip.hash]
    with pytest.raises(FoxError, match="vanished from the data folder"):
        export(demo, "marrow-bay", tmp_path / "out", usual(sound=False, captions=False))
    other = tmp_path / "other.mp4"
    other.write_bytes(moved.read_bytes() + b"x")
    with pytest.raises(InputError, match=f"this is not {clip.name}"):
        point_to(demo, "marrow-bay", clip.hash, MediaFile(other, "other.mp4"))
    point_to(demo, "marrow-bay", clip.hash, MediaFile(moved, "elsewhere.mp4"))
    assert demo.library.missing_clips(demo.head("marrow-bay").project.clips) == []
