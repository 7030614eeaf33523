"""Batches: several projects, languages and shapes made by one docket, with a table of what became of each.

A row that was made of the same revision in the same way is kept: a batch that was broken off goes on where it
was, by itself after a restart, or when it is begun again from a terminal.
"""

import logging
import threading
from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from types import MappingProxyType
from typing import Any

from fox_cadence.actions.covers import cover_file, keep_cover
from fox_cadence.actions.docket import docket_of, kept_docket, rows_named
from fox_cadence.actions.export_jobs import export_folder, export_rows, prove_if_not_yet
from fox_cadence.actions.versions import first_of, versions_of
from fox_cadence.actions.voicing import open_lines, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.batch import Batch, Outcome, Piece
from fox_cadence.core.docket import Docket, Row
from fox_cadence.core.docket.names import stem
from fox_cadence.core.docket.work import Part
from fox_cadence.core.edits import EditError
from fox_cadence.core.languages import language_name
from fox_cadence.errors import CancelledError, FoxError, InputError, NotFoundError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.store.library import same_file
from fox_cadence.store.storage_errors import describe

_log = logging.getLogger(__name__)
_MOST_AT_ONCE = 16
KEPT_AS = "batch"

Told = Callable[[list[Outcome]], None]


@dataclass(frozen=True, slots=True)
class Item:
    """A piece in one language, and what is made of it. `folder` is where its files are put too; None where
    they only stay with the project."""

    project_id: str
    name: str
    language: str
    docket: Docket
    work: Part | None
    folder: Path | None


def items_of(workspace: Workspace, batch: Batch, beside: Path | None = None) -> list[Item]:
    """The pieces of a batch, each with its docket.

    Args:
        beside: the folder in which the docket is, and what it names by a relative path; None where it is in
            none, and can name no file.

    Raises:
        NotFoundError: there is no such project, series, version or docket, or a cover is gone.
        InputError: there is no such product, or a cover is no picture.
    """
    found = [each for piece in batch.piece for each in _projects(workspace, piece)]
    ids = list(dict.fromkeys(found))
    kept = kept_docket(workspace, batch.docket) if batch.docket else None
    out = (beside or Path()) / batch.out if batch.out else None
    cover = _cover(workspace, batch, beside)
    taken: set[str] = set()
    items: list[Item] = []
    for number, project_id in enumerate(ids, 1):
        project = workspace.head(project_id).project
        docket = kept or docket_of(workspace, project_id)
        if batch.products:
            docket = rows_named(docket, batch.products)
        if not docket.chosen:
            raise InputError("nothing is wanted in it", f"docket {docket.name}")
        work = None
        if batch.work:
            said = batch.work.model_dump() | {"cover_hash": cover}
            work = Part(**said, number=number, count=len(ids))
        names = (stem(project.name), f"{stem(project.name)}-{project.language}", project_id)
        name = next(each for each in names if each not in taken)
        taken.add(name)
        items.append(
            Item(project_id, project.name, project.language, docket, work, out / name if out else None)
        )
    return items


def _cover(workspace: Workspace, batch: Batch, beside: Path | None) -> str:
    """The hash of the cover of the work; '' for none."""
    if batch.work is None:
        return ""
    if not batch.work.cover:
        if batch.work.cover_hash:
            cover_file(workspace, batch.work.cover_hash)  # says so where it is gone
        return batch.work.cover_hash
    if beside is None:
        raise InputError("a cover is a file beside a docket; begin such a batch from a terminal", "cover")
    return keep_cover(workspace, beside / batch.work.cover)


def _projects(workspace: Workspace, piece: Piece) -> list[str]:
    if piece.series:
        listed = sorted(workspace.projects.list(), key=lambda each: each.name.casefold())
        ids = [each.project_id for each in listed if each.series.casefold() == piece.series.casefold()]
        if not ids:
            raise NotFoundError(f"No project is in a series called “{piece.series}”.")
    else:
        ids = [piece.project]
    if not piece.languages:
        for each in ids:
            workspace.head(each)
        return ids
    return [_in_language(workspace, each, language) for each in ids for language in piece.languages]


def _in_language(workspace: Workspace, project_id: str, language: str) -> str:
    first = first_of(workspace, project_id)
    for each in (project_id, first, *versions_of(workspace, first)):
        if workspace.head(each).project.language == language:
            return each
    name = workspace.head(project_id).project.name
    raise NotFoundError(f"“{name}” has no version in {language_name(language)} ({language}).")


def run_batch(
    workspace: Workspace,
    batch: Batch,
    items: list[Item],
    watcher: Watcher | None = None,
    told: Told | None = None,
    again: bool = False,
) -> list[Outcome]:
    """Make what a batch asks for; one piece's trouble is that piece's.

    Args:
        told: the whole table, each time a row has changed.
        again: what is there is made again.

    Raises:
        CancelledError: the editor stopped it; what was finished by then is kept.
    """
    table = _Table(items, told)
    table.tell()
    watch = _Shared(watcher or Unwatched(), table)
    at_once = max(1, min(_MOST_AT_ONCE, workspace.hands.at_once + 1, len(items)))
    with ThreadPoolExecutor(at_once, thread_name_prefix="piece") as pieces:
        tasks = [pieces.submit(_make, workspace, batch, item, watch, table, again) for item in items]
        for task in tasks:
            task.result()
    return table.rows


def _make(
    workspace: Workspace, batch: Batch, item: Item, watch: "_Shared", table: "_Table", again: bool
) -> None:
    """Make one piece. Raises CancelledError only."""
    try:
        watch.report(0, 0)
        if batch.voice:
            _voice(workspace, item, watch)
        revision = workspace.head(item.project_id).revision
        before = workspace.results.docket(item.project_id, "export")
        open_rows = [
            row for row in item.docket.chosen if again or not _is_there(before, row, revision, item.work)
        ]
        kept = {
            row.name: _delivered(workspace, item, before, row.name)
            for row in item.docket.chosen
            if row not in open_rows
        }
        if batch.prove:
            prove_if_not_yet(workspace, item.project_id, list(kept), watch)
        proven = workspace.results.docket(item.project_id, "proofs")
        for name, files in kept.items():
            table.set(item, name, "kept", files, proven)
        if open_rows:
            _export(workspace, batch, item, open_rows, watch, table)
    except CancelledError:
        raise
    except (FoxError, EditError) as error:
        table.fail(item, str(error))
    except OSError as error:
        table.fail(item, describe(error))
    except Exception as error:
        _log.exception("the batch failed at %s", item.project_id)
        table.fail(item, f"This failed in a way we did not foresee ({error}).")
    finally:
        table.end(item)


def _voice(workspace: Workspace, item: Item, watch: "_Shared") -> None:
    if open_lines(workspace, workspace.head(item.project_id).project):
        result = voice_lines(workspace, item.project_id, watcher=watch)
        if result.failed:
            raise InputError(result.failed[0].reason, f"“{result.failed[0].text}”")


def _export(
    workspace: Workspace,
    batch: Batch,
    item: Item,
    rows: list[Row],
    watch: "_Shared",
    table: "_Table",
) -> None:
    docket = item.docket.wanting({row.name for row in rows})
    request = {
        "docket": docket.model_dump(),
        "prove": batch.prove,
        "segmented": True,
        "work": item.work.model_dump() if item.work else None,
    }
    names = [row.name for row in rows]

    def told(made: Mapping[str, Any], proven: Mapping[str, Any] = MappingProxyType({})) -> None:
        reasons = {each["product"]: each["reason"] for each in made["failed"]}
        for name in names:
            if name in reasons:
                table.set(item, name, "failed", (), {}, reasons[name])
            elif name in made["done"]:
                table.set(item, name, "made", _delivered(workspace, item, made, name), proven)

    made = export_rows(workspace, item.project_id, request, watch, told)
    told(made, workspace.results.docket(item.project_id, "proofs"))


def _is_there(made: Mapping[str, Any], row: Row, revision: int, work: Part | None) -> bool:
    """Whether a row was made of this revision in this way, and its files are still where they were put."""
    files = [file for file in made.get("files", []) if file.get("product") == row.name]
    before = dict(made.get("rows", {}).get(row.name, {})) | {"wanted": row.wanted}  # as JSON has it
    return (
        bool(files)
        and before == row.model_dump(mode="json")
        and made.get("works", {}).get(row.name) == (work.model_dump() if work else None)
        and all(file.get("revision") == revision for file in files)
        and all(_same(Path(made["folder"]) / file["name"], file["bytes"]) for file in files)
    )


def _same(path: Path, size: int) -> bool:
    return path.is_file() and path.stat().st_size == size


def _delivered(
    workspace: Workspace, item: Item, made: Mapping[str, Any], product: str
) -> tuple[Mapping[str, Any], ...]:
    """The files of a row, put into the folder of the batch where it has one."""
    found: list[Mapping[str, Any]] = []
    for file in made.get("files", []):
        if file.get("product") != product:
            continue
        source = export_folder(workspace, item.project_id) / file["name"]
        target = item.folder / file["name"] if item.folder else source
        if target != source:
            same_file(source, target)
        told = {name: file.get(name) for name in ("name", "kind", "bytes", "duration_s")}
        found.append(told | {"path": str(target)})
    return tuple(found)


class _Table:
    """What became of each product of each piece; safe to use from several threads."""

    def __init__(self, items: list[Item], told: Told | None) -> None:
        self._lock = threading.Lock()
        self._told = told
        self._ended: set[str] = set()
        self.pieces = len(items)
        self._rows = {
            (item.project_id, row.name): Outcome(
                project=item.project_id,
                piece=item.name,
                language=item.language,
                product=row.name,
                state="waiting",
            )
            for item in items
            for row in item.docket.chosen
        }

    @property
    def rows(self) -> list[Outcome]:
        with self._lock:
            return list(self._rows.values())

    @property
    def ended(self) -> int:
        return len(self._ended)

    def set(
        self,
        item: Item,
        product: str,
        state: Any,
        files: tuple[Mapping[str, Any], ...],
        proofs: Mapping[str, Any],
        reason: str = "",
    ) -> None:
        """A row stands in another way; its proof counts where it is of these files."""
        proof = proofs.get(product, {})
        of_these = proof.get("name") in {file["name"] for file in files}
        change = {
            "state": state,
            "files": files,
            "reason": reason,
            "in_sync": proof["in_sync"] if of_these else None,
        }
        with self._lock:
            key = (item.project_id, product)
            self._rows[key] = self._rows[key].model_copy(update=change)
        self.tell()

    def fail(self, item: Item, reason: str) -> None:
        """What is not there yet of a piece can't be made."""
        for row in self.rows:
            if row.project == item.project_id and row.state == "waiting":
                self.set(item, row.product, "failed", (), {}, reason)

    def end(self, item: Item) -> None:
        with self._lock:
            self._ended.add(item.project_id)

    def tell(self) -> None:
        if self._told is not None:
            self._told(self.rows)


class _Shared:
    """Watches all pieces at once: how many are done is what is told."""

    def __init__(self, watcher: Watcher, table: _Table) -> None:
        self._watcher, self._table = watcher, table

    def report(self, done: int, total: int, note: str = "") -> None:
        """Raises CancelledError when the editor has stopped it."""
        self._watcher.report(self._table.ended, self._table.pieces, note)

    @property
    def cancelled(self) -> bool:
        return self._watcher.cancelled


def carry_on(workspace: Workspace, _: str, request: Mapping[str, Any], watcher: Watcher) -> dict[str, Any]:
    """A batch as a job: its `batch` as values. The table is kept as it grows."""
    batch = Batch.model_validate(request["batch"])

    def told(rows: list[Outcome]) -> None:
        workspace.results.keep_docket("", KEPT_AS, table_json(rows))

    rows = run_batch(workspace, batch, items_of(workspace, batch), watcher, told)
    told(rows)
    return table_json(rows)


def table_json(rows: list[Outcome]) -> dict[str, Any]:
    """The table, with how many of its rows stand in each way."""
    states = [row.state for row in rows]
    return {
        "rows": [row.model_dump(mode="json") for row in rows],
        "counts": {state: states.count(state) for state in ("made", "kept", "failed", "waiting")},
        "not_in_sync": sum(row.in_sync is False for row in rows),
    }
