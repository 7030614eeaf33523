"""The shelf: what is on it, finding on it, laying from it, and keeping a clip on it for all projects."""

import tempfile
from collections.abc import Mapping, Sequence
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING, Protocol, TypeVar

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import AddShot
from fox_cadence.core.names import tidy_name
from fox_cadence.core.overlay import OVERLAYS
from fox_cadence.core.project import Project
from fox_cadence.core.shelf import ShelfItem, Source, shape_of
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.isolated import run_isolated
from fox_cadence.store.shelf import KeptClip, Worded, WordIndex

if TYPE_CHECKING:
    from fox_cadence.drawn.backgrounds import Colours

LONGEST_WORDS = 500
OVER = "over-"
_CLIP = "clip:"
_NEARER = 0.5
"""By how much of the best answer a clip of the piece or the user's own goes before shipped ones."""


def shipped() -> list[ShelfItem]:
    """What our own code draws."""
    # it paints with a library that every start would wait for
    from fox_cadence.drawn.catalogue import LICENCE, catalogue

    return [
        ShelfItem(
            id=item.id,
            title=item.title,
            subject=item.subject,
            words=item.words,
            kind=item.kind,
            seconds=item.seconds,
            source="shipped",
            licence=LICENCE,
        )
        for item in catalogue().values()
    ] + [
        ShelfItem(
            id=f"{OVER}{overlay.id}",
            title=overlay.title,
            subject="over a shot",
            words=f"over {overlay.words}",
            kind="over",
            source="shipped",
            licence=LICENCE,
        )
        for overlay in OVERLAYS
    ]


def on_shelf(workspace: Workspace, project: Project | None) -> list[ShelfItem]:
    """Everything that can be laid: the clips of a piece, the user's own, the shipped ones."""
    ours = {item.id: item for item in shipped()}
    own = {each.hash: each for each in workspace.shelf.kept()}
    said = {
        content_hash: KeptClip(content_hash, item.title, item.words, item.licence, item.commercial)
        for content_hash, item_id in workspace.shelf.drawn_as().items()
        if (item := ours.get(item_id)) is not None
    } | own
    items = [
        _of_clip(clip, said.get(clip.hash), "piece", clip.hash in own)
        for clip in (project.clips.values() if project else ())
        if clip.has_picture
    ]
    there = {item.clip_hash for item in items}
    for each in own.values():
        clip = workspace.library.clip(each.hash)
        if clip is not None and clip.has_picture and each.hash not in there:
            items.append(_of_clip(clip, each, "own", kept=True))
    return [*items, *ours.values()]


def _of_clip(clip: Clip, said: KeptClip | None, source: Source, kept: bool) -> ShelfItem:
    return ShelfItem(
        id=f"{_CLIP}{clip.hash}",
        title=said.title if said else Path(clip.name).stem,
        words=said.words if said else "",
        kind="still" if clip.kind == "still" else "clip",
        seconds=round(ticks_to_seconds(clip.length_ticks), 2),
        shape=shape_of(clip.width, clip.height),
        source=source,
        licence=said.licence if said else "",
        commercial=said.commercial if said else True,
        clip_hash=clip.hash,
        sound=clip.has_sound,
        kept=kept,
    )


class Findable(Worded, Protocol):
    """Something on a shelf, of pictures or of sounds."""

    @property
    def source(self) -> Source: ...


F = TypeVar("F", bound=Findable)
F_contra = TypeVar("F_contra", contravariant=True)


class LookedFor(Protocol[F_contra]):
    """What is looked for: words, and what has to hold beside them."""

    @property
    def words(self) -> str: ...

    def holds(self, item: F_contra) -> bool: ...


def found(items: Sequence[F], wish: LookedFor[F]) -> list[F]:
    """The items that are looked for; with words the best answers first."""
    right = [item for item in items if wish.holds(item)]
    if not wish.words.strip():
        return right
    with closing(WordIndex(right)) as index:
        ranks = index.find(wish.words, begun=True)
    answers = [item for item in right if item.id in ranks]
    return sorted(answers, key=lambda item: -ranks[item.id] - (_NEARER if item.source != "shipped" else 0))


def may_use(project: Project, item: ShelfItem) -> bool:
    """Whether its licence allows an item what a project is for."""
    return item.commercial or not project.commercial


def item_of(workspace: Workspace, project: Project | None, item_id: str) -> ShelfItem:
    """Raises NotFoundError."""
    for item in on_shelf(workspace, project):
        if item.id == item_id:
            return item
    raise NotFoundError("That is no longer on the shelf.")


def clip_of(
    workspace: Workspace,
    project: Project,
    item: ShelfItem,
    colours: "Colours | None" = None,
    watcher: Watcher | None = None,
) -> Clip:
    """The clip of an item for the frame of a project; what is not there yet is drawn.

    Raises:
        InputError: its licence does not allow what the project is for.
        CancelledError: the editor stopped it.
    """
    if not may_use(project, item):
        raise InputError("its licence does not allow commercial use, which this piece is for", item.title)
    if item.kind == "over":
        raise InputError("it is laid over a shot, not between shots", item.title)
    if item.clip_hash is not None:
        clip = project.clips.get(item.clip_hash) or workspace.library.clip(item.clip_hash)
        if clip is None:
            raise NotFoundError("The file of this clip is no longer in the data folder.")
        return clip
    return _drawn(workspace, project, item, colours, watcher or Unwatched())


def _drawn(
    workspace: Workspace, project: Project, item: ShelfItem, colours: "Colours | None", watch: Watcher
) -> Clip:
    from fox_cadence.drawn.files import draw_item, size_for

    size = size_for(project.width, project.height)
    rate = project.rate.fraction
    key = f"{item.id} {size[0]}x{size[1]} {rate} {' '.join(colours or ())}".strip()
    known = workspace.shelf.drawn(key)
    if known is not None and not workspace.library.missing_clips([known]):
        clip = workspace.library.clip(known)
        if clip is not None:
            return clip.changed(name=item.title)
    with tempfile.TemporaryDirectory(dir=workspace.scratch) as scratch:
        suffix = ".png" if item.kind == "still" else ".mp4"
        path = Path(scratch) / f"drawn{suffix}"
        run_isolated(
            draw_item,
            item.id,
            colours,
            size,
            rate,
            path,
            progress=lambda done, total: watch.report(done, total, f"Drawing {item.title}"),
            cancelled=lambda: watch.cancelled,
        )
        clip = bring_in_clip(
            workspace, MediaFile(path, f"{item.title}{suffix}", ours=True), watch, faces=False
        )
    workspace.shelf.keep_drawn(key, clip.hash)
    return clip.changed(name=item.title)


def lay(
    workspace: Workspace,
    project_id: str,
    item_id: str,
    where: Mapping[str, str | None],
    colours: "Colours | None" = None,
    watcher: Watcher | None = None,
) -> str:
    """Lay an item between shots; the id of the new shot.

    Args:
        where: `after_shot_id` or `before_shot_id`; neither is the end.

    Raises:
        NotFoundError: there is no such item.
        InputError: its licence does not allow it.
        EditError: the shot it was to come after or before is gone.
    """
    project = workspace.head(project_id).project
    item = item_of(workspace, project, item_id)
    clip = clip_of(workspace, project, item, colours, watcher)

    made: list[str] = []

    def laid(now: Project) -> tuple[Project, str]:
        known = now.changed(clips=now.clips | {clip.hash: now.clips.get(clip.hash, clip)})
        then, label = AddShot(clip_hash=clip.hash, name=item.title, **where).apply(known)
        made[:] = {shot.id for shot in then.shots} - {shot.id for shot in now.shots}
        return then, label

    workspace.commit_on_top(project_id, laid)
    return made[0]


def keep(
    workspace: Workspace, content_hash: str, title: str, words: str, licence: str, commercial: bool
) -> None:
    """Put a clip on the user's own shelf, or say something else of it.

    Raises:
        InputError: it has no title, or its words are too many.
        NotFoundError: there is no such picture.
    """
    clip = workspace.library.clip(content_hash)
    if clip is None or not (clip.has_picture or clip.kind == "sound"):
        raise NotFoundError("There is no such clip.")
    kept = KeptClip(content_hash, tidy_name(title), words.strip(), licence.strip(), commercial)
    if not kept.title:
        raise InputError("give it a title", "title")
    if max(len(kept.title), len(kept.words), len(kept.licence)) > LONGEST_WORDS:
        raise InputError(f"{LONGEST_WORDS} characters is the most", "words")
    workspace.shelf.keep(kept)
