"""Filling a line, a section or the whole piece with pictures from the shelf, and a finished piece from words
alone."""

from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import dataclass

from pydantic import Field

from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.shelf import clip_of, may_use, on_shelf
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits.cast import sections
from fox_cadence.core.edits.fill import FilledShot, FillShots
from fox_cadence.core.fill import FillWish, Material, Part, cut_places, fill, words_within
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import Project
from fox_cadence.core.shelf import ShelfItem, telling_words
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.value import Value
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.store.shelf import WordIndex

_HEADING_SHARE = 0.5
"""What an answer to the words of the heading counts against one to the words that are said."""

_OTHERS = 6
_AT_ONCE = 2

_PATIENCE_S = 3.0
"""How long it waits for lengths that are known; what is not ready then is expected."""


class ShotChoice(Value):
    """A shot as it is proposed: its frames, what it shows, the words said in it, and what else would do."""

    start: int
    end: int
    item: str = Field(max_length=200)
    words: str = ""
    others: tuple[str, ...] = ()


class StretchPlan(Value):
    """The shots of one stretch, which takes the place of those from `first_shot_id` to `last_shot_id`."""

    name: str = ""
    first_shot_id: str
    last_shot_id: str
    shots: tuple[ShotChoice, ...] = Field(min_length=1, max_length=2000)
    cost: float = 0.0


@dataclass(frozen=True, slots=True)
class _Stretch:
    name: str
    first: int
    last: int
    """Places of shots, from 0, both included."""


def plan_fill(
    workspace: Workspace,
    project_id: str,
    wish: FillWish,
    section: int | None = None,
    line_id: str | None = None,
) -> tuple[StretchPlan, ...]:
    """What would fill the shots of a section (from 1), of a line, or of the whole piece; nothing is changed.

    Raises:
        InputError: there is no such section, or nothing that can be filled.
    """
    if wish.longest_s < wish.shortest_s or wish.most < wish.fewest:
        raise InputError(
            "the longest is shorter than the shortest, or the most fewer than the fewest", "wish"
        )
    head = workspace.head(project_id)
    project = head.project
    workspace.settle_lengths(project, _PATIENCE_S)
    timeline = workspace.timeline(project)
    stretches = _stretches(project, section, line_id)
    if not stretches:
        raise InputError("there is no shot that can be filled; locked ones stay as they are")
    drawn_as = workspace.shelf.drawn_as()
    items = [
        item
        for item in on_shelf(workspace, project)
        if may_use(project, item)
        and item.kind not in ("background", "over")
        and item.clip_hash not in drawn_as  # the picture it was drawn from stands for it
    ]
    plans: list[StretchPlan] = []
    before: str | None = None
    with closing(WordIndex(items)) as index:
        for stretch in stretches:
            made = _planned(timeline, stretch, items, index, wish, before, drawn_as)
            before = made.shots[-1].item
            plans.append(made)
    return tuple(plans)


def _stretches(project: Project, section: int | None, line_id: str | None) -> list[_Stretch]:
    """Runs of shots to be filled; locked shots are left out and end a run."""
    places = project.shot_index()
    if line_id is not None:
        line = project.line(line_id)
        runs = [_Stretch("", places[line.first_shot_id], places[line.last_shot_id])]
    else:
        parts = sections(project) or [("", [])]
        starts = [0, *(places[lines[0].first_shot_id] for _, lines in parts[1:])]
        ends = [*(start - 1 for start in starts[1:]), len(project.shots) - 1]
        runs = [_Stretch(name, start, end) for (name, _), start, end in zip(parts, starts, ends, strict=True)]
        if section is not None:
            if not 1 <= section <= len(runs):
                raise InputError(f"there are sections 1 to {len(runs)}, not {section}", "section")
            runs = [runs[section - 1]]
    open_runs: list[_Stretch] = []
    for run in runs:
        first: int | None = None
        for place in range(run.first, run.last + 2):
            locked = place > run.last or project.shots[place].locked
            if not locked and first is None:
                first = place
            if locked and first is not None:
                open_runs.append(_Stretch(run.name, first, place - 1))
                first = None
    return open_runs


def _planned(
    timeline: Timeline,
    stretch: _Stretch,
    items: Sequence[ShelfItem],
    index: WordIndex,
    wish: FillWish,
    before: str | None,
    drawn_as: Mapping[str, str],
) -> StretchPlan:
    project = timeline.project
    rate = project.rate
    spans = timeline.shots
    start, end = spans[stretch.first].start_frame, spans[stretch.last].end_frame
    fades_in = project.shots[stretch.first - 1].transition_frames if stretch.first else 0
    fades_out = project.shots[stretch.last].transition_frames
    under_heading = index.find(" ".join(telling_words(stretch.name, project.language)))

    def answers(first: int, last: int) -> Mapping[str, float]:
        said = index.find(" ".join(telling_words(words_within(timeline, first, last), project.language, 40)))
        found = {item_id: _HEADING_SHARE * rank for item_id, rank in under_heading.items()}
        for item_id, rank in said.items():
            found[item_id] = max(rank, found.get(item_id, 0.0))
        return found

    frames_per_s = float(rate.fraction)
    materials = [
        Material(item.id, None if item.kind == "still" else rate.frames_floor(seconds_to_ticks(item.seconds)))
        for item in items
    ]
    places = [
        place
        for place in cut_places(timeline, start, end, wish.on_beats)
        if start + fades_in < place.frame < end - fades_out
    ]
    after = _shown(project, stretch.last + 1, drawn_as)
    beside = (before or _shown(project, stretch.first - 1, drawn_as), after)
    made = fill((start, end), places, materials, answers, frames_per_s, wish, beside)
    return StretchPlan(
        name=stretch.name,
        first_shot_id=project.shots[stretch.first].id,
        last_shot_id=project.shots[stretch.last].id,
        shots=tuple(_choice(timeline, part) for part in made.parts),
        cost=round(made.cost, 4),
    )


def _shown(project: Project, place: int, drawn_as: Mapping[str, str]) -> str | None:
    """What a shot beside a stretch shows, as the shelf names it."""
    if not 0 <= place < len(project.shots):
        return None
    shown = project.shots[place].clip_hash
    return drawn_as.get(shown, f"clip:{shown}") if shown else None


def _choice(timeline: Timeline, part: Part) -> ShotChoice:
    return ShotChoice(
        start=part.start,
        end=part.end,
        item=part.shows,
        words=words_within(timeline, part.start, part.end),
        others=part.others[:_OTHERS],
    )


class _Quiet:
    """A watcher that passes on that it was stopped, and not how far each of several is."""

    def __init__(self, watcher: Watcher) -> None:
        self._watcher = watcher

    @property
    def cancelled(self) -> bool:
        return self._watcher.cancelled

    def report(self, done: int, total: int, note: str = "") -> None:
        """Says nothing."""


def accept_fill(
    workspace: Workspace, project_id: str, plans: Sequence[StretchPlan], watcher: Watcher | None = None
) -> int:
    """Lay the shots of a plan, in one undoable step; how many there are.

    Raises:
        EditError: the shots have changed since.
        InputError: a clip may not be used, or is gone.
        CancelledError: the editor stopped it; nothing was laid.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    items = {item.id: item for item in on_shelf(workspace, project)}
    wanted = {shot.item for plan in plans for shot in plan.shots}
    if not wanted <= items.keys():
        raise InputError("a clip of this plan is no longer on the shelf; fill again", "fill")
    order = sorted(wanted)
    clips: dict[str, Clip] = {}
    with ThreadPoolExecutor(_AT_ONCE) as pool:
        made = pool.map(lambda each: clip_of(workspace, project, items[each], None, _Quiet(watch)), order)
        for item_id, clip in zip(order, made, strict=True):
            clips[item_id] = clip
            watch.report(len(clips), len(order), "Drawing pictures")

    def filled(now: Project) -> tuple[Project, str]:
        made = now.changed(clips={clip.hash: clip for clip in clips.values()} | now.clips)
        for plan in plans:
            shots = tuple(
                FilledShot(
                    frames=shot.end - shot.start,
                    clip_hash=clips[shot.item].hash,
                    name=items[shot.item].title,
                )
                for shot in plan.shots
            )
            edit = FillShots(first_shot_id=plan.first_shot_id, last_shot_id=plan.last_shot_id, shots=shots)
            made, _ = edit.apply(made)
        count = sum(len(plan.shots) for plan in plans)
        return made, f"Filled with {count} shots from the shelf"

    workspace.commit_on_top(project_id, filled)
    return sum(len(plan.shots) for plan in plans)


def finish_from_words(
    workspace: Workspace, project_id: str, wish: FillWish, watcher: Watcher | None = None
) -> int:
    """Make a piece of words alone one that can be watched: pictures laid under the lengths its words will
    have, fitted, voiced once; how many shots it has.

    Raises:
        InputError: it can't be fitted, or there is nothing to fill.
    """
    shots = accept_fill(workspace, project_id, plan_fill(workspace, project_id, wish), watcher)
    fit_and_voice(workspace, project_id, watcher)
    return shots


def fit_and_voice(workspace: Workspace, project_id: str, watcher: Watcher | None = None) -> None:
    """Fit a piece and voice what is open, each line once. Raises InputError where it can't be fitted."""
    fitted = fit(workspace, project_id)
    if fitted.proposal.status is not Status.SOLVED:
        raise InputError("the words can't be fitted: what is locked leaves no room for them")
    accept(workspace, fitted, watcher)
    voice_lines(workspace, project_id, None, watcher)
