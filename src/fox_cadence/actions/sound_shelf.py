"""The shelf of sound: what is on it, finding on it, playing it, laying it as a bed or as an effect."""

import tempfile
from collections.abc import Mapping
from pathlib import Path
from typing import Any, Literal

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import AddBed, AddEffect, Applied, SetBed
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.sound.shelf import LONGEST_EFFECT_S, SoundItem
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.store.shelf import KeptClip

_CLIP = "clip:"
_PLAYED = "played-1"
"""With the id of what was played its key; its number goes up when our code plays something else."""


def shipped_sounds(clips: Mapping[str, str] = {}) -> list[SoundItem]:  # never written to
    """What our own code plays; `clips` are those it has played, by the id of the sound."""
    from fox_cadence.played.catalogue import LICENCE, played

    return [
        SoundItem(
            id=each.id,
            title=each.title,
            words=each.words,
            kind=each.kind,
            seconds=each.seconds,
            bpm=each.bpm,
            source="shipped",
            licence=LICENCE,
            clip_hash=clips.get(each.id),
        )
        for each in played().values()
    ]


def sounds(workspace: Workspace, project: Project | None) -> list[SoundItem]:
    """Every sound that can be laid: those of a piece, the user's own, the shipped ones."""
    drawn = workspace.shelf.drawn_as()
    ours = shipped_sounds({item_id: content_hash for content_hash, item_id in drawn.items()})
    own = {each.hash: each for each in workspace.shelf.kept()}
    was_played = {item.clip_hash for item in ours}
    items = [
        _of_clip(clip, own.get(clip.hash), "piece")
        for clip in (project.clips.values() if project else ())
        if clip.kind == "sound" and clip.hash not in was_played
    ]
    there = {item.clip_hash for item in items}
    for each in own.values():
        clip = workspace.library.clip(each.hash)
        if clip is not None and clip.kind == "sound" and each.hash not in there:
            items.append(_of_clip(clip, each, "own"))
    return [*items, *ours]


def _of_clip(clip: Clip, said: KeptClip | None, source: Literal["piece", "own"]) -> SoundItem:
    seconds = ticks_to_seconds(clip.length_ticks)
    return SoundItem(
        id=f"{_CLIP}{clip.hash}",
        title=said.title if said else Path(clip.name).stem,
        words=said.words if said else "",
        kind="effect" if seconds <= LONGEST_EFFECT_S else "bed",
        seconds=round(seconds, 2),
        source=source,
        licence=said.licence if said else "",
        commercial=said.commercial if said else True,
        clip_hash=clip.hash,
        kept=said is not None,
    )


def sound_item(workspace: Workspace, project: Project | None, item_id: str) -> SoundItem:
    """Raises NotFoundError."""
    for item in sounds(workspace, project):
        if item.id == item_id:
            return item
    raise NotFoundError("That sound is no longer on the shelf.")


def clip_of_sound(workspace: Workspace, item: SoundItem) -> Clip:
    """The clip of an item; one that our own code plays is played the first time.

    Raises:
        NotFoundError: its file is no longer there.
    """
    if item.source != "shipped" and item.clip_hash is not None:
        clip = workspace.library.clip(item.clip_hash)
        if clip is None:
            raise NotFoundError("The file of this sound is no longer in the data folder.")
        return clip
    from fox_cadence.played.catalogue import play_to_file

    key = f"{item.id} {_PLAYED}"
    known = workspace.shelf.drawn(key)
    if known is not None and not workspace.library.missing_clips([known]):
        clip = workspace.library.clip(known)
        if clip is not None:
            return clip.changed(name=item.title)
    with tempfile.TemporaryDirectory(dir=workspace.scratch) as scratch:
        path = Path(scratch) / "played.wav"
        play_to_file(item.id, path)
        made = bring_in_clip(workspace, MediaFile(path, f"{item.title}.wav", ours=True), None, faces=False)
    workspace.shelf.keep_drawn(key, made.hash)
    return made.changed(name=item.title)


def lay_sound(workspace: Workspace, project_id: str, item_id: str, use: str, where: Mapping[str, Any]) -> str:
    """Lay a sound of the shelf in one undoable step; the id of the bed or of the effect.

    Args:
        use: `bed` for another bed, `instead` for one that is there (`bed_id` in `where`), `effect`.
        where: what the edit takes besides the sound.

    Raises:
        NotFoundError: there is no such sound.
        InputError: its licence does not allow what the project is for.
        EditError: it can't be laid there.
    """
    project = workspace.head(project_id).project
    item = sound_item(workspace, project, item_id)
    if not item.commercial and project.commercial:
        raise InputError("its licence does not allow commercial use, which this piece is for", item.title)
    clip = clip_of_sound(workspace, item)
    edit = _laying(use, clip.hash, where)
    made: list[str] = []

    def laid(now: Project) -> tuple[Project, str]:
        known = now.changed(clips=now.clips | {clip.hash: now.clips.get(clip.hash, clip)})
        then, label = edit.apply(known)
        made[:] = sorted(_laid_ids(then) - _laid_ids(now))
        return then, label

    workspace.commit_on_top(project_id, laid)
    return made[0] if made else str(where.get("bed_id", ""))


def _laid_ids(project: Project) -> set[str]:
    return {bed.id for bed in project.beds} | {effect.id for effect in project.effects}


def _laying(use: str, clip_hash: str, where: Mapping[str, Any]) -> Applied:
    if use == "effect":
        return AddEffect(clip_hash=clip_hash, **where)
    if use == "instead":
        return SetBed(clip_hash=clip_hash, **where)
    return AddBed(clip_hash=clip_hash, **where)
