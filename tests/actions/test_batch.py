"""Batches: what is there is kept, one piece's trouble is that piece's, and what was broken off goes on."""

import io
import json
import os
import time
from pathlib import Path
from typing import Any

import av
import mutagen
import pytest
from PIL import Image

from fox_cadence.actions.batch import KEPT_AS, items_of, run_batch
from fox_cadence.actions.bring_in import NewProject, new_project
from fox_cadence.actions.covers import cover_file, keep_cover
from fox_cadence.actions.docket import keep_for_all
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.export_jobs import export_folder
from fox_cadence.actions.jobs import resume
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.versions import make_version
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.batch import Batch, Outcome, Piece
from fox_cadence.core.docket.shipped import PLAIN
from fox_cadence.core.docket.work import Work
from fox_cadence.core.edits import SetShotLength
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import CancelledError, InputError, NotFoundError
from fox_cadence.store.cleaning import COVERS_S
from tests.media import files

WORDS = b"The sea leaves twice a day.\n\nIt comes back for its things.\n"


def piece(workspace: Workspace, name: str, series: str = "") -> str:
    wanted = NewProject(name, 128, 224, FrameRate(numerator=25))
    made = new_project(workspace, wanted, [], Source("s.txt", WORDS)).project_id
    if series:
        workspace.projects.put_into(made, series)
    return made


def batch(*projects: str, **more: Any) -> Batch:
    wanted: dict[str, Any] = {"products": ("look", "captions", "cues")}
    return Batch(piece=tuple(Piece(project=each) for each in projects), **wanted | more)


def made(workspace: Workspace, what: Batch, beside: Path | None = None, **more: Any) -> list[Outcome]:
    return run_batch(workspace, what, items_of(workspace, what, beside), **more)


def states(rows: list[Outcome]) -> list[tuple[str, str, str]]:
    return sorted((row.piece, row.product, row.state) for row in rows)


def test_pieces_are_voiced_made_and_kept_until_they_change(workspace: Workspace, tmp_path: Path) -> None:
    tide, foam = piece(workspace, "Tide"), piece(workspace, "Foam")
    what = batch(tide, foam, out="finished", prove=True)
    rows = made(workspace, what, tmp_path)
    assert {row.state for row in rows} == {"made"}
    captions = next(row for row in rows if row.piece == "Tide" and row.product == "captions")
    assert captions.in_sync is True
    video = tmp_path / "finished" / "foam" / "foam-look.mp4"
    with av.open(str(video)) as opened:
        assert opened.streams.audio
        assert opened.duration > 2e6
    before = video.stat().st_ino
    assert {row.state for row in made(workspace, what, tmp_path)} == {"kept"}
    head = workspace.head(tide)
    longer = SetShotLength(shot_id=head.project.shots[0].id, length_frames=300)
    make_edits(workspace, tide, head, [longer])
    (export_folder(workspace, foam) / "foam-cues.csv").unlink()
    assert states(made(workspace, what, tmp_path)) == [
        ("Foam", "captions", "kept"), ("Foam", "cues", "made"), ("Foam", "look", "kept"),
        ("Tide", "captions", "made"), ("Tide", "cues", "made"), ("Tide", "look", "made"),
    ]  # fmt: skip
    assert video.stat().st_ino == before
    assert {row.state for row in made(workspace, what, tmp_path, again=True)} == {"made"}
    assert video.stat().st_ino != before


def test_what_is_kept_is_proven_when_a_proof_is_asked_for(workspace: Workspace, tmp_path: Path) -> None:
    what = batch(piece(workspace, "Tide"), products=("captions", "cues"))
    assert [row.in_sync for row in made(workspace, what)] == [None, None]
    proving = what.model_copy(update={"prove": True})
    rows = made(workspace, proving)
    assert [(row.product, row.state, row.in_sync) for row in rows] == [
        ("captions", "kept", True),
        ("cues", "kept", None),
    ]
    report = next(export_folder(workspace, rows[0].project).glob("*-proof.html"))
    report.unlink()
    assert made(workspace, proving)[0].in_sync is True
    assert not report.exists()  # it is not looked into twice


def test_what_is_made_again_has_no_proof_any_more(workspace: Workspace) -> None:
    what = batch(piece(workspace, "Tide"), products=("captions",), prove=True)
    (row,) = made(workspace, what)
    assert row.in_sync is True
    folder = export_folder(workspace, row.project)
    assert [path.suffix for path in sorted(folder.glob("*-proof.*"))] == [".html", ".json"] * 2  # SRT, WebVTT
    unproven = what.model_copy(update={"prove": False})
    assert made(workspace, unproven)[0].in_sync is True  # it is the file that was proven
    assert made(workspace, unproven, again=True)[0].in_sync is None
    assert not list(folder.glob("*-proof.*"))


def test_one_piece_s_trouble_is_that_piece_s(workspace: Workspace, tmp_path: Path) -> None:
    empty = new_project(
        workspace, NewProject("Empty", 128, 224, FrameRate(numerator=25)), [], Source("s.txt", b"A.")
    ).project_id
    workspace.commit_on_top(
        empty, lambda now: (now.changed(shots=(), captions=(), lines=(), scene_texts=()), "Emptied")
    )
    rows = made(workspace, batch(empty, piece(workspace, "Tide"), products=("cues", "captions")))
    assert states(rows)[0] == ("Empty", "captions", "failed")
    assert "no shot" in rows[0].reason
    assert states(rows)[2:] == [("Tide", "captions", "made"), ("Tide", "cues", "made")]


def test_languages_are_versions_and_a_series_is_all_in_it(workspace: Workspace) -> None:
    tide = piece(workspace, "Tide", "Pools")
    piece(workspace, "Foam", "pools")
    piece(workspace, "Lamp")
    spanish = make_version(workspace, tide, "es").project_id
    both = Batch(products=("cues",), piece=(Piece(project=tide, languages=("es", "en")),))
    assert [item.project_id for item in items_of(workspace, both)] == [spanish, tide]
    series = Batch(products=("cues",), piece=(Piece(series="Pools"),))
    assert [item.name for item in items_of(workspace, series)] == ["Foam", "Tide"]
    for wrong in (
        Batch(products=("cues",), piece=(Piece(project=tide, languages=("de",)),)),
        Batch(products=("cues",), piece=(Piece(series="Nowhere"),)),
        Batch(products=("cues",), piece=(Piece(project="gone"),)),
        Batch(docket="Unknown", piece=(Piece(project=tide),)),
    ):
        with pytest.raises(NotFoundError):
            items_of(workspace, wrong)
    with pytest.raises(InputError):
        items_of(workspace, Batch(products=("hologram",), piece=(Piece(project=tide),)))


def test_a_kept_docket_says_what_is_made(workspace: Workspace) -> None:
    keep_for_all(workspace, "Words", PLAIN.wanting({"ttml", "script"}))
    rows = made(workspace, batch(piece(workspace, "Tide"), docket="Words", products=()))
    assert states(rows) == [("Tide", "script", "made"), ("Tide", "ttml", "made")]


def test_the_parts_of_a_work_say_what_they_are_parts_of(workspace: Workspace, tmp_path: Path) -> None:
    work = Work(title="Marrow Bay", author="Rosa", description="On pools.", category="Nature")
    first, second = piece(workspace, "Low tide"), piece(workspace, "High tide")
    made(workspace, batch(first, second, out="b", products=("mp3", "m4a", "look"), work=work), tmp_path)
    mp3 = mutagen.File(tmp_path / "b" / "high-tide" / "high-tide.mp3", easy=True)
    assert (mp3["title"], mp3["album"], mp3["artist"]) == (["High tide"], ["Marrow Bay"], ["Rosa"])
    assert (mp3["tracknumber"], mp3["genre"]) == (["2/2"], ["Nature"])
    m4a = mutagen.File(tmp_path / "b" / "low-tide" / "low-tide.m4a", easy=True)
    assert (m4a["album"], m4a["tracknumber"]) == (["Marrow Bay"], ["1/2"])
    assert (m4a["genre"], m4a["comment"]) == (["Nature"], ["On pools."])
    with av.open(str(tmp_path / "b" / "low-tide" / "low-tide-look.mp4")) as opened:
        assert opened.metadata["album"] == "Marrow Bay"


def test_a_cover_of_a_work_stands_for_its_sound_files(workspace: Workspace, tmp_path: Path) -> None:
    picture = files.still(tmp_path / "pool.png", size=(2000, 1000))
    work = Work(title="Marrow Bay", cover="pool.png")
    what = batch(piece(workspace, "Tide"), out="b", products=("mp3", "m4a", "captions"), work=work)
    assert {row.state for row in made(workspace, what, tmp_path)} == {"made"}
    tags = mutagen.File(tmp_path / "b" / "tide" / "tide.mp3").tags
    (cover,) = tags.getall("APIC")
    assert Image.open(io.BytesIO(cover.data)).size == (1400, 700)
    (cover,) = mutagen.File(tmp_path / "b" / "tide" / "tide.m4a")["covr"]
    assert Image.open(io.BytesIO(cover)).size == (1400, 700)
    assert {row.state for row in made(workspace, what, tmp_path)} == {"kept"}
    files.still(picture, size=(900, 900))
    assert {row.state for row in made(workspace, what, tmp_path)} == {"made"}  # it is another cover


def test_a_cover_that_is_none_is_refused_before_the_work_begins(workspace: Workspace, tmp_path: Path) -> None:
    (tmp_path / "pool.png").write_text("no picture")
    for name, why in (("pool.png", "pool.png"), ("sea.png", "there is no such file")):
        what = batch(piece(workspace, "Tide"), products=("mp3",), work=Work(title="Bay", cover=name))
        with pytest.raises(InputError, match=why):
            items_of(workspace, what, tmp_path)
    with pytest.raises(InputError, match="from a terminal"):  # the page can name no file of this machine
        items_of(workspace, what)
    gone = batch(piece(workspace, "Tide"), products=("mp3",), work=Work(title="Bay", cover_hash="0" * 64))
    with pytest.raises(NotFoundError, match="Choose it again"):
        items_of(workspace, gone)


def test_a_cover_is_kept_for_as_long_as_something_was_made_with_it(
    workspace: Workspace, tmp_path: Path
) -> None:
    used, other, new = (
        keep_cover(workspace, files.still(tmp_path / f"{n}.png", colour=(90, n, 40))) for n in (1, 99, 200)
    )
    for each in (used, other):
        long_ago = time.time() - COVERS_S - 1
        os.utime(cover_file(workspace, each), (long_ago, long_ago))
    made(
        workspace, batch(piece(workspace, "Tide"), products=("mp3",), work=Work(title="Bay", cover_hash=used))
    )
    workspace.cleaning.sweep(older_than_s=0)
    assert cover_file(workspace, used).is_file()
    assert cover_file(workspace, new).is_file()  # it may stand in a docket that was written down
    with pytest.raises(NotFoundError):
        cover_file(workspace, other)


class StoppedLater:
    """A watcher whose editor stops it once something was made."""

    def __init__(self) -> None:
        self.cancelled = False

    def report(self, done: int, total: int, note: str = "") -> None:
        if self.cancelled:
            raise CancelledError("Stopped.")


def test_what_was_finished_before_a_stop_is_kept(workspace: Workspace) -> None:
    what = batch(*(piece(workspace, f"Tide {n}") for n in range(6)), products=("cues", "mp3"))
    watcher = StoppedLater()

    def told(rows: list[Outcome]) -> None:
        watcher.cancelled = any(row.state == "made" for row in rows)

    with pytest.raises(CancelledError):
        made(workspace, what, watcher=watcher, told=told)
    again = states(made(workspace, what))
    assert {state for _, _, state in again} == {"kept", "made"}


def test_a_batch_is_taken_up_again_after_a_restart(tmp_path: Path) -> None:
    with Workspace(tmp_path / "data") as workspace:
        what = batch(piece(workspace, "Tide"), products=("cues",))
        # as a crash leaves it: asked for, and never ended
        request = {"batch": what.model_dump()}
        job_id = workspace.job_store.create("", "batch", json.loads(json.dumps(request)))
    with Workspace(tmp_path / "data") as workspace:
        assert [job.id for job in resume(workspace)] == [job_id]
        workspace.jobs._executor.shutdown(wait=True)
        assert workspace.jobs.get(job_id).state == "done"
        table = workspace.results.docket("", KEPT_AS)
    assert [(row["piece"], row["state"]) for row in table["rows"]] == [("Tide", "made")]
