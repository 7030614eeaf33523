"""Review links: a finished video shown to somebody else, and what they say of it."""

import secrets
import shutil
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from fox_cadence.actions.export_jobs import export_folder, row_of
from fox_cadence.actions.making_words import caption_cues
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import VideoRow
from fox_cadence.core.names import tidy_name
from fox_cadence.core.review import Link, Shown, ShownCue, Standing, frame_now, moment_at, standing
from fox_cadence.core.review.shown import shots_of, shown_of
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.store.database import now
from fox_cadence.store.library import same_file
from fox_cadence.store.reviews import Note

SHORTEST_PASSWORD = 6
LONGEST_NOTE, LONGEST_NAME = 2000, 60
_WATCHED = (".mp4", ".webm")


@dataclass(frozen=True, slots=True)
class Made:
    """A link, and how it stands."""

    link: Link
    standing: Standing

    @property
    def path(self) -> str:
        """Of its page."""
        return f"/review/{self.link.secret}"


@dataclass(frozen=True, slots=True)
class NoteNow:
    """A note, and the frame of the piece as it is now it belongs to; None where its shot is gone."""

    note: Note
    frame: int | None


# for the editor


def make_link(
    workspace: Workspace,
    project_id: str,
    file: str,
    until: datetime | None = None,
    once: bool = False,
    password: str = "",
) -> Made:
    """A page for somebody else with a video that was made of a project.

    Args:
        file: its name, as the docket has it.
        until: when the page ends; aware of its time zone.

    Raises:
        NotFoundError: no such video was made.
        InputError: the date has passed, or the password is too short.
    """
    if until is not None and until <= datetime.now(UTC):
        raise InputError("it has passed already; give a later one or none", "until")
    if password and len(password) < SHORTEST_PASSWORD:
        raise InputError(f"it must have at least {SHORTEST_PASSWORD} characters", "password")
    made = workspace.results.docket(project_id, "export")
    found = next((each for each in made.get("files", []) if each["name"] == file), None)
    source = export_folder(workspace, project_id) / file
    if found is None or not file.endswith(_WATCHED) or not source.is_file():
        raise NotFoundError("There is no finished video of this name. Make one, then it can be shown.")
    revision = found.get("revision", made["revision"])
    row = row_of(made, found)
    row = row if isinstance(row, VideoRow) else VideoRow(name="video")  # of an earlier version
    shown = _shown(workspace, project_id, revision, row)
    link_id = secrets.token_hex(6)
    same_file(source, _folder(workspace, link_id) / file)
    ends = until.astimezone(UTC).isoformat(timespec="milliseconds") if until else ""
    link = workspace.reviews.add(link_id, project_id, revision, file, shown, ends, once, password)
    return Made(link, "open")


def _shown(workspace: Workspace, project_id: str, revision: int, row: VideoRow) -> Shown:
    timeline = workspace.timeline(workspace.projects.at(project_id, revision))
    project = timeline.project
    cues = tuple(
        ShownCue(
            start_s=ticks_to_seconds(cue.start_ticks or 0),
            end_s=ticks_to_seconds(cue.end_ticks or 0),
            text=cue.text,
        )
        for cue in caption_cues(timeline, workspace.faces_of(project))
    )
    size = row.size(project.width, project.height)
    return shown_of(timeline, cues, size, *row.part.within(timeline.total_frames))


def links_of(workspace: Workspace, project_id: str) -> list[Made]:
    """The links of a project, the newest first, as they stand now."""
    return [
        Made(link, standing(link, now(), known=True)) for link in workspace.reviews.of_project(project_id)
    ]


def link_in(workspace: Workspace, project_id: str, link_id: str) -> Link:
    """A link of a project. Raises NotFoundError."""
    link = workspace.reviews.link(link_id)
    if link.project_id != project_id:
        raise NotFoundError("There is no such review link.")
    return link


def revoke(workspace: Workspace, project_id: str, link_id: str) -> Link:
    """A link opens nothing any more; its notes stay."""
    link = workspace.reviews.revoke(link_in(workspace, project_id, link_id).id)
    shutil.rmtree(_folder(workspace, link_id), ignore_errors=True)
    return link


def notes_of(workspace: Workspace, project_id: str) -> list[NoteNow]:
    """All notes on a project, each where it belongs in the piece as it is now."""
    notes = workspace.reviews.notes_on(project_id)
    if not notes:
        return []
    timeline = workspace.timeline(workspace.head(project_id).project)
    shots = {shot.id: shot for shot in shots_of(timeline)}
    return [NoteNow(note, frame_now(note.moment, shots) if note.moment else None) for note in notes]


def note_in(workspace: Workspace, project_id: str, note_id: str) -> Note:
    """A note on a project. Raises NotFoundError."""
    note = workspace.reviews.note(note_id)
    link_in(workspace, project_id, note.link_id)
    return note


def answer_note(workspace: Workspace, project_id: str, note_id: str, text: str) -> Note:
    """Answer a note; the page of its link shows it."""
    note = note_in(workspace, project_id, note_id)
    answered = workspace.reviews.answer(note_id, _text(text, "answer", may_be_empty=True))
    workspace.reviews.log(note.link_id, "a note was answered")
    return answered


def mark_note(workspace: Workspace, project_id: str, note_id: str, done: bool) -> Note:
    """Say whether what a note asks for is done."""
    note_in(workspace, project_id, note_id)
    return workspace.reviews.mark(note_id, done)


def drop_ended(workspace: Workspace) -> None:
    """Remove the videos of links that have ended; links, notes and logs stay."""
    for link in workspace.reviews.all():
        if standing(link, now(), known=True) != "open":
            shutil.rmtree(_folder(workspace, link.id), ignore_errors=True)


def _folder(workspace: Workspace, link_id: str) -> Path:
    return workspace.folder / "reviews" / link_id


# for the one who looks


@dataclass(frozen=True, slots=True)
class Look:
    """A link somebody asks for: how it stands for them, and whether they must come in by the door first."""

    link: Link
    shown: Shown
    standing: Standing
    door: bool


def look(workspace: Workspace, secret: str, token: str) -> Look:
    """What an address opens for a browser that keeps a token ('' for none). Raises NotFoundError."""
    link, shown = workspace.reviews.by_secret(secret)
    known = bool(token) and workspace.reviews.knows(link.id, token)
    stands: Standing = standing(link, now(), known)
    if not workspace.projects.exists(link.project_id, deleted=False):
        stands = "revoked"
    return Look(link, shown, stands, (link.password or link.once) and not known)


def video_of(workspace: Workspace, link: Link) -> Path:
    """The video a link shows. Raises NotFoundError."""
    path = _folder(workspace, link.id) / link.file
    if not path.is_file():
        raise NotFoundError("This video is no longer there.")
    return path


def leave_note(workspace: Workspace, look: Look, at_s: float, author: str, text: str, address: str) -> Note:
    """Keep what somebody says of a moment of the video.

    Raises:
        InputError: there are no words, too many, or the page takes no more notes.
    """
    words = _text(text, "note")
    name = tidy_name(author)[:LONGEST_NAME]
    if not name:
        raise InputError("say who you are", "name")
    moment_s = min(max(0.0, at_s), look.shown.seconds)
    moment = moment_at(look.shown.shots, look.shown.frame_at(moment_s))
    note = workspace.reviews.add_note(look.link, round(moment_s, 3), moment, name, words)
    workspace.reviews.log(look.link.id, f"a note was left by {name}", address)
    return note


def _text(text: str, place: str, may_be_empty: bool = False) -> str:
    kept = "\n".join(tidy_name(line) for line in text.strip().splitlines())
    if not kept and not may_be_empty:
        raise InputError("it has no words", place)
    if len(kept) > LONGEST_NOTE:
        raise InputError(f"it may have {LONGEST_NOTE} characters at most", place)
    return kept
