from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.shot import Clip
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.jobs import hands
from fox_cadence.store.library import write_safely


def test_a_file_is_written_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target = tmp_path / "deep" / "file"
    write_safely(target, b"first")
    monkeypatch.setattr("os.replace", _full_disk)
    with pytest.raises(OSError, match="No space"):
        write_safely(target, b"second")
    assert target.read_bytes() == b"first"
    assert [path.name for path in target.parent.iterdir()] == ["file"]


def _full_disk(*_: object) -> None:
    raise OSError(28, "No space left on device")


def _refuse(original: Path, content_hash: str, folder: Path) -> Clip:
    (folder / "half").write_bytes(b"half done")
    raise InputError("can't be read")


def test_a_clip_that_was_refused_leaves_no_file_and_no_row(workspace: Workspace, tmp_path: Path) -> None:
    source = tmp_path / "a.mp4"
    source.write_bytes(b"x")
    with pytest.raises(InputError):
        workspace.library.add_clip(source, "a.mp4", ".mp4", _refuse)
    assert list((workspace.folder / "clips").iterdir()) == []


def test_missing_files_are_said_so(demo: Workspace) -> None:
    timeline = demo.timeline(demo.head("marrow-bay").project)
    take = next(span.take for span in timeline.lines if span.take)
    path = demo.library.take_sound(take.sound_hash)
    path.unlink()
    with pytest.raises(NotFoundError, match="voice the line again"):
        demo.library.take_sound(take.sound_hash)
    assert demo.library.take_by_key(take.key) is None


@pytest.fixture
def count_calls(monkeypatch: pytest.MonkeyPatch) -> Callable[[object, str], list[int]]:
    def counted(target: object, name: str) -> list[int]:
        calls: list[int] = []
        real = getattr(target, name)

        def counting(*arguments: Any, **named: Any) -> Any:
            calls.append(1)
            return real(*arguments, **named)

        monkeypatch.setattr(target, name, counting)
        return calls

    return counted


def test_a_take_is_never_made_twice(demo: Workspace, count_calls: Callable[[object, str], list[int]]) -> None:
    said = count_calls(hands, "make")
    assert voice_lines(demo, "marrow-bay").made == 1
    first = len(said)
    assert first >= 1
    demo.projects.undo("marrow-bay")
    again = voice_lines(demo, "marrow-bay")
    assert (again.made, again.kept, again.failed) == (0, 10, ())
    assert len(said) == first
