"""Edits of how captions look, move and stand."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, replaced, with_caption
from fox_cadence.core.edits.captions import line_of
from fox_cadence.core.lettering.drawing import drawn_words
from fox_cadence.core.lettering.style import CaptionStyle, Place
from fox_cadence.core.names import tidy_name
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Caption, Project, Title
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.words import words_of


class SetCaptionStyle(EditValue):
    """The style of all captions, of those of a role, or of one; `style` None takes that of a role or caption
    away again. With `own_too` roles and captions with a style of their own lose it."""

    kind: Literal["caption_style"] = "caption_style"
    scope: Literal["all", "role", "caption"] = "all"
    id: str = ""
    style: CaptionStyle | None = None
    own_too: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        name = self.style.name if self.style else "as the others"
        if self.scope == "caption":
            caption = project.caption(self.id)
            label = f"Style of caption {number(project.captions, caption.id)}: {name}"
            return with_caption(project, caption.changed(style=self.style)), label
        if self.scope == "role":
            role = project.role(self.id)
            made = project.changed(roles=replaced(project.roles, role.changed(caption_style=self.style)))
            return made, f"Style of the captions of {role.name}: {name}"
        if self.style is None:
            raise EditError("All captions need a style.")
        made = project.changed(lettering=project.lettering.changed(style=self.style))
        if self.own_too:
            made = made.changed(
                captions=tuple(
                    item if item.style is None else item.changed(style=None) for item in made.captions
                ),
                roles=tuple(
                    role if role.caption_style is None else role.changed(caption_style=None)
                    for role in made.roles
                ),
            )
        return made, f"Caption style: {name}"


class PlaceWords(EditValue):
    """Where captions or titles stand; None is the place of their style."""

    kind: Literal["words_place"] = "words_place"
    ids: tuple[str, ...] = Field(min_length=1, max_length=2_000)
    place: Place | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        ids = set(self.ids)
        captions = tuple(_placed(item, ids, self.place) for item in project.captions)
        titles = tuple(_placed_title(item, ids, self.place) for item in project.titles)
        known = {item.id for item in project.captions} | {item.id for item in project.titles}
        if ids - known:
            raise EditError("That is no longer on the screen.")
        if len(ids) > 1:
            label = f"Place of {counted(len(ids), 'caption')}"
        elif self.ids[0] in {item.id for item in project.captions}:
            label = f"Place of caption {number(project.captions, self.ids[0])}"
        else:
            label = f"Place of title “{project.title(self.ids[0]).text[:30]}”"
        return project.changed(captions=captions, titles=titles), label


def _placed(item: Caption, ids: set[str], place: Place | None) -> Caption:
    return item.changed(place=place) if item.id in ids else item


def _placed_title(item: Title, ids: set[str], place: Place | None) -> Title:
    return item.changed(place=place) if item.id in ids else item


class BreakLines(EditValue):
    """Before which words of a caption a new line begins; none leaves it to the program."""

    kind: Literal["caption_breaks"] = "caption_breaks"
    caption_id: str
    breaks: tuple[int, ...] = Field((), max_length=60)

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        count = len(drawn_words(caption.text))
        if any(not 0 < place < count for place in self.breaks):
            raise EditError("A line can only break before a word other than the first.")
        made = caption.changed(breaks=tuple(sorted(set(self.breaks))))
        return with_caption(project, made), f"Lines of caption {number(project.captions, caption.id)}"


class SplitCaption(EditValue):
    """Split a caption before one of its words; both parts stay with its line. `frames` is when that word is
    spoken, from the start of the caption's shot, where that is known."""

    kind: Literal["split_caption"] = "split_caption"
    caption_id: str
    word: int = Field(ge=1)
    frames: int | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        if caption.locked:
            raise EditError("This caption is locked. Unlock it to split it.")
        words = words_of(caption.text)
        if self.word >= len(words):
            raise EditError("There is no such word to split before.")
        at = words[self.word].start
        shown = caption.out_frames - caption.in_frames
        if shown < 2:
            raise EditError("This caption is too short to be split.")
        wanted = caption.in_frames + shown * at // max(1, len(caption.text))
        cut = min(max(self.frames or wanted, caption.in_frames + 1), caption.out_frames - 1)
        new_id = next_id("c", [item.id for item in project.captions])
        first = caption.changed(text=caption.text[:at].strip(), out_frames=cut, breaks=())
        second = caption.changed(id=new_id, text=caption.text[at:].strip(), in_frames=cut, breaks=())
        place = number(project.captions, caption.id)
        captions = (*project.captions[: place - 1], first, second, *project.captions[place:])
        line = line_of(project, caption.id)
        made = project.changed(captions=captions)
        if line is not None:
            ids = tuple(
                new for old in line.caption_ids for new in ((old, new_id) if old == caption.id else (old,))
            )
            made = made.changed(lines=replaced(made.lines, line.changed(caption_ids=ids)))
        return made, f"Caption {place} split"


class KeepStyle(EditValue):
    """Keep a style under a name in the project; one of the same name is replaced."""

    kind: Literal["keep_style"] = "keep_style"
    style: CaptionStyle

    def apply(self, project: Project) -> tuple[Project, str]:
        name = tidy_name(self.style.name)
        if not name:
            raise EditError("A style needs a name to be kept under.")
        kept = project.lettering.kept
        same = next((style.id for style in kept if style.name.casefold() == name.casefold()), None)
        style_id = same or next_id("own-", [style.id for style in kept])
        style = self.style.changed(id=style_id, name=name)
        others = tuple(each for each in kept if each.id != style_id)
        made = project.lettering.changed(kept=(*others, style))
        return project.changed(lettering=made), f"Style “{name}” kept"


class ForgetStyle(EditValue):
    """No longer keep a style; captions that have it keep their looks."""

    kind: Literal["forget_style"] = "forget_style"
    style_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        gone = next((style for style in project.lettering.kept if style.id == self.style_id), None)
        if gone is None:
            raise EditError("That style is no longer kept here.")
        kept = tuple(style for style in project.lettering.kept if style.id != self.style_id)
        made = project.lettering.changed(kept=kept)
        return project.changed(lettering=made), f"Style “{gone.name}” no longer kept"


class SetCalm(EditValue):
    """Calm lettering: words fade and nothing else of them moves."""

    kind: Literal["calm_lettering"] = "calm_lettering"
    calm: bool

    def apply(self, project: Project) -> tuple[Project, str]:
        made = project.changed(lettering=project.lettering.changed(calm=self.calm))
        return made, "Calm lettering" if self.calm else "Lettering that moves"
