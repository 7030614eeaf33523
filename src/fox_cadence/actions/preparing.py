"""What a clip has beside its file: small frames, its sound, its peaks. Clips that came without them (the
samples, or after files were lost) get them in the background, or at once when they are asked for."""

import tempfile
import threading
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path
from typing import TYPE_CHECKING

from fox_cadence.core.shot import Clip
from fox_cadence.errors import NotFoundError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.ingest import PEAKS, PROXY, SOUND, ingest
from fox_cadence.media.isolated import run_isolated
from fox_cadence.store.library import POSTER, Library

if TYPE_CHECKING:
    from fox_cadence.actions.workspace import Workspace

AT_ONCE = 2
"""Clips that are prepared beside each other."""
NOTE = "Preparing clips"


class Preparing:
    """Prepares the clips of a library. Safe to use from several threads: each clip is read once."""

    def __init__(self, library: Library, scratch: Path) -> None:
        self._library, self._scratch = library, scratch
        self._locks: dict[str, threading.Lock] = {}
        self._lock = threading.Lock()
        self._room = threading.Semaphore(AT_ONCE)

    def waiting(self, clips: Iterable[Clip]) -> list[Clip]:
        """Those of some clips that are still to be prepared, and can be."""
        return [
            clip
            for clip in clips
            if not self._is_ready(clip) and not self._library.missing_clips([clip.hash])
        ]

    def prepare(self, content_hash: str, watcher: Watcher | None = None) -> None:
        """Make what is missing beside a clip; does nothing where all is there, or its file is not.

        Raises:
            MediaError, InputError: its file can't be read any more.
            CancelledError: the editor stopped it.
        """
        clip = self._library.clip(content_hash)
        if clip is None or self._is_ready(clip):
            return
        watch = watcher or Unwatched()
        with self._lock:
            lock = self._locks.setdefault(content_hash, threading.Lock())
        with lock, self._room:
            if self._is_ready(clip):  # another thread was at it
                return
            try:
                original = self._library.original(content_hash)
            except NotFoundError:
                return
            with tempfile.TemporaryDirectory(dir=self._scratch) as made:
                run_isolated(
                    ingest,
                    original,
                    content_hash,
                    clip.name,
                    Path(made),
                    False,
                    cancelled=lambda: watch.cancelled,
                )
                self._library.put_beside(content_hash, Path(made))

    def prepare_all(self, clips: Iterable[Clip], watcher: Watcher | None = None) -> None:
        """Prepare some clips, those with pictures first, and say how far it is. Raises as `prepare`."""
        watch = watcher or Unwatched()
        waiting = sorted(self.waiting(clips), key=lambda clip: not clip.has_picture)
        if not waiting:
            return
        watch.report(0, len(waiting), NOTE)
        with ThreadPoolExecutor(AT_ONCE) as pool:
            made = [pool.submit(self.prepare, clip.hash, watch) for clip in waiting]
            try:
                for done, _ in enumerate(as_completed(made), 1):
                    watch.report(done, len(waiting), NOTE)
            finally:
                for each in made:
                    each.cancel()
        for each in made:
            each.result()

    def poster(self, content_hash: str) -> Path | None:
        """The picture that stands for a clip that is still to be prepared; None where it has its frames, or
        came without one."""
        folder = self._library.clip_folder(content_hash)
        poster = folder / POSTER
        return poster if not (folder / PROXY).is_file() and poster.is_file() else None

    def _is_ready(self, clip: Clip) -> bool:
        folder = self._library.clip_folder(clip.hash)
        needed = (*((PROXY,) if clip.has_picture else ()), *((SOUND, PEAKS) if clip.has_sound else ()))
        return all((folder / name).is_file() for name in needed)


def prepare_in_background(workspace: "Workspace") -> None:
    """Begin to prepare what is still to be prepared, as a job that the page follows."""
    clips = workspace.library.clips()
    if not workspace.preparing.waiting(clips):
        return

    def work(watcher: Watcher) -> dict[str, int]:
        workspace.preparing.prepare_all(clips, watcher)
        return {}

    workspace.jobs.submit("", "clips", work)
