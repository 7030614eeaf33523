"""A data folder opened: its database, library, jobs and voices."""

import contextlib
import fcntl
import os
from collections.abc import Callable, Mapping
from concurrent.futures import Executor, ThreadPoolExecutor
from pathlib import Path
from typing import IO, TYPE_CHECKING

from fox_cadence.actions.at_hand import AtHand
from fox_cadence.actions.preparing import Preparing
from fox_cadence.core.docket import Docket
from fox_cadence.core.fit.plan import Basis
from fox_cadence.core.length_model import Estimator
from fox_cadence.core.lettered import FacesOf
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.project import Index, Project, said_text, voice_of
from fox_cadence.core.takes import Take, VoicingRequest, natural_request
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.core.timeline_builder import KeptSpans, build_timeline, is_stale
from fox_cadence.core.treatment import Treatment
from fox_cadence.errors import ClashError, StorageError
from fox_cadence.jobs.hands import Hands, LocalHands
from fox_cadence.jobs.runner import JobRunner
from fox_cadence.media.fonts import faces_of
from fox_cadence.store.access import Access
from fox_cadence.store.blends import Blends
from fox_cadence.store.cleaning import Cleaning
from fox_cadence.store.database import DATABASE, Database
from fox_cadence.store.deliveries import Deliveries
from fox_cadence.store.jobs import JobStore
from fox_cadence.store.known_lengths import KnownLengthStore
from fox_cadence.store.length_models import LengthModels
from fox_cadence.store.library import Library
from fox_cadence.store.own_fonts import OwnFonts
from fox_cadence.store.own_values import OwnValues
from fox_cadence.store.projects import Head, ProjectStore
from fox_cadence.store.results import Results
from fox_cadence.store.reviews import Reviews
from fox_cadence.store.shelf import ShelfStore
from fox_cadence.store.tokens import Tokens
from fox_cadence.voices.blends import NotABlendError, blend
from fox_cadence.voices.catalogue import VOICES, offer
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.known_lengths import KnownLengths
from fox_cadence.voices.lengths import SpokenLengths
from fox_cadence.voices.own_voices import OwnVoices
from fox_cadence.voices.voice import Voice
from fox_cadence.voices.worker_link import WORKERS

if TYPE_CHECKING:
    from fox_cadence.actions.fitting import Fitted

_COMMIT_TRIES = 5


def unvoiced_requests(project: Project, takes: Mapping[str, Take]) -> list[VoicingRequest]:
    """What the lines of a project that have no take are to be voiced from."""
    unvoiced = [line for line in project.lines if line.take_id not in takes]
    index = Index(project) if unvoiced else None
    return [natural_request(project, line, index) for line in unvoiced]


def _is_open(span: LineSpan) -> bool:
    """Whether a line with a take is still to be foreseen: the take is of something else, or it is the only
    one and at the pace of a fit."""
    if span.foreseen or span.take is None:
        return False
    return span.stale or (span.take.paced and span.line.take_id == span.take.id)


class Workspace:
    """Everything an action needs. Close it, or use it in a `with`.

    `makers` are threads of this process that make takes, whose engines work in processes of their own;
    `hands` carry out what is heavy and can be done anywhere: here, or on a cluster. `slowness` is
    how long each voice took for a second of its newest take; `proposals` are what fits have proposed, and
    `previews` projects as proposals would have them, to be heard before they are accepted.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._held: IO[bytes] | None = None
        self.database = Database(folder / DATABASE)
        self.projects = ProjectStore(self.database)
        self.library = Library(self.database, folder)
        self.job_store = JobStore(self.database)
        self.results = Results(self.database)
        self.jobs = JobRunner(self.job_store)
        self.engines = Engines()
        self.makers: Executor = ThreadPoolExecutor(WORKERS, thread_name_prefix="making")
        self.hands: Hands = LocalHands(self.engines, self.makers, max(2, os.cpu_count() or 1))
        self.own_voices = OwnVoices(Path(os.environ.get("FOX_CADENCE_VOICES") or folder / "voices"))
        self.own_voices.rescan()
        self.foreseen = KnownLengths(self.engines.of, KnownLengthStore(self.database))
        self.lengths = SpokenLengths(self.engines.espeak, LengthModels(self.database), self.foreseen)
        self.deliveries = Deliveries(self.database)
        self.caption_styles = OwnValues(self.database, "caption_style", CaptionStyle)
        self.dockets = OwnValues(self.database, "kept_docket", Docket)
        self.treatments = OwnValues(self.database, "treatment", Treatment)
        self.blends = Blends(self.database)
        self.offer_blends()
        self.shelf = ShelfStore(self.database)
        self.access = Access(self.database)
        self.reviews = Reviews(self.database)
        self.tokens = Tokens(self.database)
        self.cleaning = Cleaning(self.database, self.projects, self.library, folder)
        gone = "This proposal is no longer at hand; fit again."
        self.proposals: AtHand[Fitted] = AtHand(16, gone)
        self.previews: AtHand[Project] = AtHand(4, gone)
        self.newest_trials: AtHand[Basis] = AtHand(8, gone)
        self._spans = KeptSpans()
        self.slowness: dict[str, float] = {}
        self.own_fonts = OwnFonts(self.database, folder / "fonts")
        self.scratch = folder / "scratch"
        self.scratch.mkdir(exist_ok=True)
        self.preparing = Preparing(self.library, self.scratch)
        self.library.prepare = self.preparing.prepare

    def faces_of(self, project: Project) -> FacesOf:
        """The typefaces the words of a project are set in, style by style."""
        return faces_of(project.language, self.own_fonts.folder)

    def __enter__(self) -> "Workspace":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        self.jobs.close()  # ends with the line it is at
        self.engines.close()  # before those who would wait for them: a model may be loading for seconds
        self.hands.close()
        self.makers.shutdown()
        self.foreseen.close()
        try:
            self.lengths.save()
        finally:
            self.database.close()
        if self._held is not None:
            self._held.close()

    def hold(self) -> None:
        """Be the one process that serves this data folder, until it is closed.

        Raises:
            StorageError: another process serves it.
        """
        held = (self.folder / "served.lock").open("ab")
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            held.close()
            raise StorageError(
                f"Fox Cadence already serves {self.folder}. Use its window, or give another folder with "
                "--data."
            ) from error
        self._held = held

    def offer_blends(self) -> None:
        """Have the blends that are kept in the catalogue."""
        mixable = {voice.id: voice for voice in VOICES}
        found: list[Voice] = []
        for voice_id, name in self.blends.all():
            with contextlib.suppress(NotABlendError):  # a newer version kept it
                found.append(blend(voice_id, mixable, name))
        offer(self.folder / "blends", found)

    def takes_of(self, project: Project) -> dict[str, Take]:
        """All takes a project's lines point to, by id."""
        ids = {line.take_id for line in project.lines} | {
            line.placement.take_id for line in project.lines if line.placement
        }
        return self.library.takes(take_id for take_id in ids if take_id)

    def timeline(self, project: Project, estimator: Estimator | None = None) -> Timeline:
        """Resolve a project with its takes; lines without one are estimated."""
        takes = self.takes_of(project)
        self._prepare_estimates(project, takes)
        timeline = build_timeline(project, takes, estimator or self.lengths, self._spans)
        changed = [span.line for span in timeline.lines if _is_open(span)]
        if changed:
            index = Index(project)
            self.foreseen.want(natural_request(project, line, index) for line in changed)
        return timeline

    def foreseeing(self, timeline: Timeline) -> int:
        """How many of a timeline's lines are still to be foreseen."""
        index = Index(timeline.project)
        open_lines = [
            span.line
            for span in timeline.lines
            if _is_open(span) or (span.take is None and not span.foreseen)
        ]
        return self.foreseen.waiting(natural_request(timeline.project, line, index) for line in open_lines)

    def _prepare_estimates(self, project: Project, takes: dict[str, Take]) -> None:
        """Count the phonemes of all unvoiced lines of a voice at once: line by line it would cost ten times
        more."""
        requests = unvoiced_requests(project, takes)
        self.foreseen.want(requests)
        texts: dict[str, list[str]] = {}
        for request in requests:
            if self.foreseen.find(request) is None:
                texts.setdefault(request.voice_id, []).append(request.text)
        for voice_id, said in texts.items():
            self.lengths.prepare(said, voice_id)

    def settle_lengths(self, project: Project, within_s: float | None = None) -> None:
        """Foresee all lines of a project that have no take of what they say, as many as are ready within a
        time."""
        takes, index = self.takes_of(project), Index(project)
        requests = [
            natural_request(project, line, index)
            for line in project.lines
            if (take := takes.get(line.take_id or "")) is None
            or (not take.recorded and (take.paced or is_stale(project, line, take, index)))
        ]
        self.foreseen.settle(requests, self.makers, within_s)

    def foresee(self, before: Project, after: Project) -> None:
        """Begin to count the phonemes of words that have changed: they are wanted as soon as the change is
        kept."""
        known = {id(each) for each in (*before.captions, *before.scene_texts, *before.lines)}
        new = {each.id for each in after.captions if id(each) not in known}
        new |= {each.id for each in after.scene_texts if id(each) not in known}
        lines = [
            line
            for line in after.lines
            if id(line) not in known or line.scene_text_id in new or not new.isdisjoint(line.caption_ids)
        ]
        if not lines:
            return
        index = Index(after)
        texts: dict[str, list[str]] = {}
        for line in lines:
            texts.setdefault(voice_of(line, index), []).append(said_text(after, line, index))
        for voice_id, said in texts.items():
            self.makers.submit(self.lengths.prepare, said, voice_id)

    def head(self, project_id: str) -> Head:
        """The newest state of a project. Raises NotFoundError."""
        return self.projects.head(project_id)

    def commit_on_top(self, project_id: str, change: Callable[[Project], tuple[Project, str]]) -> None:
        """Commit a change on top of whatever was edited while it was made; one that changes nothing is no
        revision.

        Args:
            change: the project as it is now to the changed one and the step's label; called again after a
                clash.

        Raises:
            ClashError: somebody else was faster each time.
        """
        for attempt in range(_COMMIT_TRIES):
            head = self.head(project_id)
            changed, label = change(head.project)
            if changed == head.project:
                return
            try:
                self.projects.commit(project_id, head.revision, changed, label)
                return
            except ClashError:
                if attempt == _COMMIT_TRIES - 1:
                    raise
