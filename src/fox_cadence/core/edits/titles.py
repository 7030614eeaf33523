"""Edits of titles: words on the screen that are no caption."""

from typing import Literal

from fox_cadence.core.edits.base import EditError, EditValue, FilledText, Text, replaced, shot_start
from fox_cadence.core.edits.lines import AddSceneText
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.lettering.styles import TITLES
from fox_cadence.core.project import Project, Title
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.ticks import seconds_to_ticks

SHOWN_S = 2.5
"""How long a new title stands where the shot is long enough."""
_LEAST_FRAMES = 2


class AddTitle(EditValue):
    """A title on a shot, from a frame of it on."""

    kind: Literal["add_title"] = "add_title"
    shot_id: str
    text: FilledText
    style: CaptionStyle = TITLES[0]
    in_frames: int = 0

    def apply(self, project: Project) -> tuple[Project, str]:
        made = _with_title(project, self.shot_id, self.text, self.style, self.in_frames)
        return made, f"Title “{_short(self.text)}”"


def _with_title(
    project: Project, shot_id: str, text: str, style: CaptionStyle, in_frames: int = 0
) -> Project:
    shot = project.shot(shot_id)
    words = "\n".join(" ".join(line.split()) for line in text.splitlines() if line.strip())
    if not words:
        raise EditError("A title needs words.")
    start = min(max(0, in_frames), max(0, shot.length_frames - _LEAST_FRAMES))
    wanted = max(_LEAST_FRAMES, project.rate.frames_nearest(seconds_to_ticks(SHOWN_S)))
    title = Title(
        id=next_id("n", [item.id for item in project.titles]),
        shot_id=shot_id,
        in_frames=start,
        out_frames=max(start + _LEAST_FRAMES, min(start + wanted, shot.length_frames)),
        text=words,
        style=style,
    )
    return project.changed(titles=in_order(project, (*project.titles, title)))


def in_order(project: Project, titles: tuple[Title, ...]) -> tuple[Title, ...]:
    """Titles by their shot, then by their in time."""
    index = project.shot_index()
    return tuple(sorted(titles, key=lambda item: (index[item.shot_id], item.in_frames)))


class TitleFromHeading(EditValue):
    """A heading shown as a title on its shot."""

    kind: Literal["title_from_heading"] = "title_from_heading"
    heading_id: str
    style: CaptionStyle = TITLES[0]

    def apply(self, project: Project) -> tuple[Project, str]:
        said = {line.scene_text_id for line in project.lines}
        heading = next((item for item in project.scene_texts if item.id == self.heading_id), None)
        if heading is None or heading.id in said:
            raise EditError("That heading is no longer in the project.")
        made = _with_title(project, heading.shot_id, heading.text, self.style)
        return made, f"Title from heading “{_short(heading.text)}”"


class SetTitle(EditValue):
    """Words, style or times of a title; what is None stays. Frames are of the piece."""

    kind: Literal["title"] = "title"
    title_id: str
    text: Text | None = None
    style: CaptionStyle | None = None
    in_frame: int | None = None
    out_frame: int | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        title = project.title(self.title_id)
        change: dict[str, object] = {}
        if self.text is not None:
            words = "\n".join(" ".join(line.split()) for line in self.text.splitlines() if line.strip())
            if not words:
                raise EditError("A title needs words; delete it instead.")
            change["text"] = words
        if self.style is not None:
            change["style"] = self.style
        start = shot_start(project, title.shot_id)
        last = project.shots[-1]
        total = shot_start(project, last.id) + last.length_frames
        for name, frame in (("in_frames", self.in_frame), ("out_frames", self.out_frame)):
            if frame is not None:
                if not 0 <= frame <= total:
                    raise EditError(f"The piece runs from frame 0 to {total}.")
                change[name] = frame - start
        made = title.changed(**change)
        if made.out_frames <= made.in_frames:
            raise EditError("A title must go out after it comes in.")
        titles = in_order(project, replaced(project.titles, made))
        return project.changed(titles=titles), f"Title “{_short(made.text)}”"


class DeleteTitle(EditValue):
    kind: Literal["delete_title"] = "delete_title"
    title_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        title = project.title(self.title_id)
        titles = tuple(item for item in project.titles if item.id != title.id)
        return project.changed(titles=titles), f"Title “{_short(title.text)}” deleted"


class SayTitle(EditValue):
    """A line that says a title, on its shot."""

    kind: Literal["say_title"] = "say_title"
    title_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        title = project.title(self.title_id)
        words = " ".join(title.text.split())
        made, _ = AddSceneText(shot_id=title.shot_id, text=words).apply(project)
        return made, f"Title “{_short(title.text)}” is said"


def _short(text: str) -> str:
    plain = " ".join(text.split())
    return plain if len(plain) <= 40 else f"{plain[:39]}…"
