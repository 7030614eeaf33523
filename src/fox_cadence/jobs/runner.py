"""Runs jobs: rows that say what is to be done and what came of it, over an executor that carries the work
out."""

import logging
import threading
import time
from collections.abc import Callable
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import Any, Protocol

from fox_cadence.core.edits.base import EditError
from fox_cadence.errors import CancelledError, FoxError, StorageError
from fox_cadence.store.jobs import JobRow, JobState, JobStore
from fox_cadence.store.storage_errors import describe

_log = logging.getLogger(__name__)
_PAUSES_S = (0.2, 1, 5, 20)
_KEPT_EVERY_S = 2.0
"""How far a job is, is kept in its row this often: it is read there only after the application has ended."""


class Watcher(Protocol):
    """What running work is given; a command line gives its own."""

    def report(self, done: int, total: int, note: str = "") -> None:
        """Say how far the work is. Raises CancelledError when the editor has stopped it."""
        ...

    @property
    def cancelled(self) -> bool:
        """Whether the editor has stopped it."""
        ...


class Unwatched:
    """For work that nobody watches."""

    def report(self, done: int, total: int, note: str = "") -> None:
        """Nobody is told."""
        return

    @property
    def cancelled(self) -> bool:
        """Nobody stops it."""
        return False


Work = Callable[[Watcher], dict[str, Any]]


@dataclass(frozen=True, slots=True)
class _Progress:
    state: JobState = "waiting"
    done: int = 0
    total: int = 0
    note: str = ""


class _Running:
    """A job that waits or goes on: how far it is, kept in memory, and whether it shall stop."""

    def __init__(self, store: JobStore, job_id: str) -> None:
        self._store = store
        self.job_id = job_id
        self._kept_at = 0.0
        self._stop = threading.Event()
        self.progress = _Progress()

    def report(self, done: int, total: int, note: str = "") -> None:
        if self._stop.is_set():
            raise CancelledError("Stopped.")
        self.progress = _Progress("running", done, total, note)
        if time.monotonic() - self._kept_at > _KEPT_EVERY_S:
            self._kept_at = time.monotonic()
            self._store.report(self.job_id, done, total, note)

    def stop(self) -> None:
        self._stop.set()

    @property
    def cancelled(self) -> bool:
        return self._stop.is_set()


class JobRunner:
    """Queues jobs and tells how far they are.

    Args:
        executor: carries the work out in this process, where its workspace is; two jobs at a time where none
            is given. What is heavy in a job (engines, media) runs in processes of its own.
    """

    def __init__(self, store: JobStore, executor: Executor | None = None) -> None:
        self._store = store
        self._executor = executor or ThreadPoolExecutor(2, thread_name_prefix="job")
        self._running: dict[str, _Running] = {}

    def submit(self, project_id: str, kind: str, work: Work, request: dict[str, Any] | None = None) -> JobRow:
        """Queue work; it runs soon. What it returns becomes the job's result.

        Args:
            request: what the work does, for `take_up` after an end of the application; None when it can't be.
        """
        job_id = self._store.create(project_id, kind, request)
        self._start(job_id, work)
        return self.get(job_id)

    def get(self, job_id: str) -> JobRow:
        """A job as it is now. Raises NotFoundError."""
        running = self._running.get(job_id)
        return self._as_now(self._store.get(job_id), running)

    def newest(self, project_id: str, kind: str = "") -> JobRow | None:
        """The job of a project that was asked for last, of a kind or of any."""
        found = self._store.newest(project_id, kind)
        return found and self._as_now(found, self._running.get(found.id))

    @staticmethod
    def _as_now(row: JobRow, running: _Running | None) -> JobRow:
        if running is None or row.state not in ("waiting", "running"):
            return row
        now = running.progress
        return replace(row, state=now.state, done=now.done, total=now.total, note=now.note)

    def take_up(self, work_of: Callable[[JobRow], Work | None]) -> list[JobRow]:
        """After a start: end or go on with the jobs that were broken off. Those that go on.

        Only the one process that serves a data folder may do this: to it, every other job is one of the past.
        """
        taken: list[JobRow] = []
        for job in self._store.end_interrupted():
            work = work_of(job)
            if work is None:
                self._store.finish(
                    job.id, "failed", "Broken off because the application ended. Start it again.", {}
                )
            else:
                self._start(job.id, work)
                taken.append(job)
        self._store.forget_old()
        return taken

    def cancel(self, job_id: str) -> None:
        """Ask a job to stop; one that has ended stays as it is."""
        running = self._running.get(job_id)
        if running is not None:
            running.stop()

    def close(self) -> None:
        for running in list(self._running.values()):
            running.stop()
        self._executor.shutdown(wait=True, cancel_futures=True)

    def _start(self, job_id: str, work: Work) -> None:
        running = self._running[job_id] = _Running(self._store, job_id)
        self._executor.submit(self._run, job_id, work, running)

    def _run(self, job_id: str, work: Work, running: _Running) -> None:
        try:
            running.report(0, 0)
            self._end(running, "done", "", work(running))
        except CancelledError:
            self._end(running, "cancelled", "Stopped. What was finished by then is kept.", {})
        except (FoxError, EditError) as error:
            self._end(running, "failed", str(error), {})
        except OSError as error:
            self._end(running, "failed", describe(error), {})
        except Exception as error:
            _log.exception("job %s failed", job_id)
            self._end(running, "failed", f"This failed in a way we did not foresee ({error}).", {})
        finally:
            self._running.pop(job_id, None)

    def _end(self, running: _Running, state: JobState, note: str, result: dict[str, Any]) -> None:
        """Keep how a job ended; where the disk refuses, again until it does not: whoever waits must be
        told."""
        for pause_s in (*_PAUSES_S, None):
            try:
                progress = (running.progress.done, running.progress.total)
                self._store.finish(running.job_id, state, note, result, progress)
                return
            except StorageError:
                if pause_s is None:
                    _log.exception("the end of job %s could not be kept", running.job_id)
                    return
                time.sleep(pause_s)
