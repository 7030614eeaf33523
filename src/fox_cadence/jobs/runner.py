"""Runs jobs on threads of this process. The work itself (engines, media) runs in processes of its own."""

import logging
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Protocol

from fox_cadence.core.edits.base import EditError
from fox_cadence.errors import CancelledError, FoxError, StorageError
from fox_cadence.store.jobs import JobRow, JobStore
from fox_cadence.store.trouble import in_words

_log = logging.getLogger(__name__)
_PAUSES_S = (0.2, 1, 5, 20)


class JobContext:
    """What running work is given: to report progress, and to learn that it should stop."""

    def __init__(self, store: JobStore, job_id: str, stop: threading.Event) -> None:
        self._store = store
        self._job_id = job_id
        self._stop = stop

    def report(self, done: int, total: int, note: str = "") -> None:
        """Say how far the work is. Raises CancelledError when the editor has stopped it."""
        if self._stop.is_set():
            raise CancelledError("Stopped.")
        self._store.report(self._job_id, done, total, note)

    @property
    def cancelled(self) -> bool:
        return self._stop.is_set()


class Watcher(Protocol):
    """The part of a job context that the actions need; a command line gives its own."""

    def report(self, done: int, total: int, note: str = "") -> None: ...

    @property
    def cancelled(self) -> bool: ...


class Unwatched:
    """For work that nobody watches."""

    def report(self, done: int, total: int, note: str = "") -> None:
        return

    @property
    def cancelled(self) -> bool:
        return False


Work = Callable[[JobContext], dict[str, Any]]


class JobRunner:
    """The executor: two jobs at a time, as many as this kind of machine has cores."""

    def __init__(self, store: JobStore, workers: int = 2) -> None:
        self._store = store
        self._pool = ThreadPoolExecutor(workers, thread_name_prefix="job")
        self._stops: dict[str, threading.Event] = {}

    def submit(self, project_id: str, kind: str, work: Work, request: dict[str, Any] | None = None) -> JobRow:
        """Queue work; it runs soon. What it returns becomes the job's result.

        Args:
            request: what the work does, for `take_up` after an end of the application; None when it can't be.
        """
        job_id = self._store.create(project_id, kind, request)
        self._start(job_id, work)
        return self._store.get(job_id)

    def take_up(self, work_of: Callable[[JobRow], Work | None]) -> list[JobRow]:
        """After a start: end or go on with the jobs that were broken off. Those that go on.

        Only the one process that serves a data folder may do this: to it, every other job is one of the past.
        """
        taken: list[JobRow] = []
        for job in self._store.end_interrupted():
            work = work_of(job)
            if work is None:
                self._store.finish(job.id, "failed", "Broken off because the application ended. Start it again.", {})
            else:
                self._start(job.id, work)
                taken.append(job)
        self._store.forget_old()
        return taken

    def cancel(self, job_id: str) -> None:
        """Ask a job to stop; one that has ended stays as it is."""
        stop = self._stops.get(job_id)
        if stop is not None:
            stop.set()

    def close(self) -> None:
        for stop in list(self._stops.values()):
            stop.set()
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _start(self, job_id: str, work: Work) -> None:
        stop = self._stops[job_id] = threading.Event()
        self._pool.submit(self._run, job_id, work, stop)

    def _run(self, job_id: str, work: Work, stop: threading.Event) -> None:
        try:
            context = JobContext(self._store, job_id, stop)
            context.report(0, 0)
            result = work(context)
            self._end(job_id, "done", "", result)
        except CancelledError:
            self._end(job_id, "cancelled", "Stopped. What was finished by then is kept.", {})
        except FoxError as error:
            self._end(job_id, "failed", str(error), {})
        except EditError as error:
            self._end(job_id, "failed", str(error), {})
        except OSError as error:
            self._end(job_id, "failed", in_words(error), {})
        except Exception as error:
            _log.exception("job %s failed", job_id)
            self._end(job_id, "failed", f"This failed in a way we did not foresee ({error}).", {})
        finally:
            self._stops.pop(job_id, None)

    def _end(self, job_id: str, state: str, note: str, result: dict[str, Any]) -> None:
        """Keep how a job ended; where the disk refuses, again until it does not: whoever waits must be told."""
        for pause_s in (*_PAUSES_S, None):
            try:
                self._store.finish(job_id, state, note, result)
                return
            except StorageError:
                if pause_s is None:
                    _log.exception("the end of job %s could not be kept", job_id)
                    return
                time.sleep(pause_s)
