"""Adding to a project that is there: pictures as shots or only to its shelf, music as the bed."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal, TypeAlias

from fox_cadence.actions.bring_in import MediaFile, bring_in_all, clip_remarks
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import AddBed, AddShot, Applied, apply_all
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.shot import Clip
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Watcher

Use: TypeAlias = Literal["shots", "bed", "sound", "shelf"]
"""What files are brought in as. From `shots` and `shelf` a sound alone becomes a bed; `sound` only brings it
in."""


_HEARD = ("bed", "sound")


@dataclass(frozen=True, slots=True)
class Added:
    """What was added: how many pictures, as shots or to the shelf, whether there is a new bed, the hashes of
    looks, and what the editor should know of the files."""

    shots: int
    bed: bool
    looks: tuple[str, ...]
    remarks: tuple[Remark, ...]

    def as_json(self) -> dict[str, Any]:
        remarks = [{"place": remark.place, "message": remark.message} for remark in self.remarks]
        return {"shots": self.shots, "bed": self.bed, "looks": self.looks, "remarks": remarks}


def add_media(
    workspace: Workspace,
    project_id: str,
    files: Sequence[MediaFile],
    after_shot_id: str | None = None,
    use: Use = "shots",
    watcher: Watcher | None = None,
    before_shot_id: str | None = None,
) -> Added:
    """Bring files into a project: pictures become shots after a shot, before one or at the end, in their
    order; a sound a bed.

    One undoable step, made on top of whatever was edited meanwhile.

    Args:
        use: as a `bed` the sound of the first file is wanted, also where it has a picture; `sound` and
            `shelf` have clips that nothing plays or shows yet.

    Raises:
        InputError: none of the files can be used; names each with its reason.
        EditError: the shot they were to come after or before is gone.
    """
    workspace.head(project_id)
    clips, refused = bring_in_all(workspace, list(files), watcher)
    sounds = [clip for clip in clips if clip.has_sound and (use in _HEARD or clip.kind == "sound")]
    pictures = [] if use in _HEARD else [clip for clip in clips if clip.has_picture]
    looks = [] if use in _HEARD else [clip for clip in clips if clip.kind == "look"]
    if not pictures and not sounds and not looks:
        why = "; ".join(f"{remark.place}: {remark.message}" for remark in refused)
        raise InputError(f"none of the files could be used: {why or 'they have no sound'}")
    remarks = [*refused, *clip_remarks(clips)]
    beds = [] if use == "sound" else sounds[:1]
    if beds:
        remarks += [
            Remark(clip.name, "the first one is the bed; this one is at hand under Sound")
            for clip in sounds[1:]
        ]

    # after the same shot each: the last one first
    placed = [] if use == "shelf" else pictures if after_shot_id is None else list(reversed(pictures))
    edits: list[Applied] = [
        AddShot(after_shot_id=after_shot_id, before_shot_id=before_shot_id, clip_hash=clip.hash)
        for clip in placed
    ]
    edits += [AddBed(clip_hash=clip.hash) for clip in beds]

    def added(now: Project) -> tuple[Project, str]:
        known = now.clips | {clip.hash: clip for clip in (*pictures, *sounds, *looks)}
        return apply_all(now.changed(clips=known), edits)[0], _label(pictures, sounds, looks, use)

    workspace.commit_on_top(project_id, added)
    return Added(len(pictures), bool(beds), tuple(clip.hash for clip in looks), tuple(remarks))


def _label(pictures: Sequence[Clip], sounds: Sequence[Clip], looks: Sequence[Clip], use: Use) -> str:
    what = counted(len(pictures), "clip" if use == "shelf" else "shot")
    shots = f"{what} {'on the shelf' if use == 'shelf' else 'added'}" if pictures else ""
    bed = f"{'sound' if use == 'sound' else 'bed'} {sounds[0].name}" if sounds else ""
    brought = f"look {looks[0].name}" if looks else ""
    return ", ".join(part for part in (shots, bed, brought) if part)
