"""In which style the words of a piece are set, and which of their signs have no picture."""

import re
from collections.abc import Callable, Mapping
from typing import TypeAlias

from fox_cadence.core.kept import Kept
from fox_cadence.core.lettering.faces import Faces
from fox_cadence.core.lettering.style import CaptionStyle, calmed
from fox_cadence.core.project import Caption, Line, Project, Title


def style_of(project: Project, caption: Caption, line: Line | None) -> CaptionStyle:
    """The style of a caption: its own, that of the role that says it, or that of the project."""
    style = caption.style
    if style is None and line is not None:
        style = next((role.caption_style for role in project.roles if role.id == line.role_id), None)
    return _as_seen(project, style or project.lettering.style)


def title_style(project: Project, title: Title) -> CaptionStyle:
    """The style of a title."""
    return _as_seen(project, title.style)


_calm: Kept[CaptionStyle, CaptionStyle] = Kept(most=2_000)


def _as_seen(project: Project, style: CaptionStyle) -> CaptionStyle:
    """A style, or what is left of it where lettering is to be calm; always the same object for the same
    style."""
    if not project.lettering.calm:
        return style
    return _calm.get(style) or _calm.keep(style, (), calmed(style))


FacesOf: TypeAlias = Callable[[CaptionStyle], Faces]
"""The typefaces a style is set in."""


OWN = "own:"
"""What the id of a family begins with that is a file of the user's; the hash of its bytes follows."""
_HASH = re.compile(r"[0-9a-f]{64}")


def own_fonts(project: Project) -> set[str]:
    """The font files of the user's that styles of a project ask for, by the hash of their bytes."""
    lettering = project.lettering
    styles = [lettering.style, *lettering.kept, *(title.style for title in project.titles)]
    styles += [role.caption_style for role in project.roles if role.caption_style]
    styles += [caption.style for caption in project.captions if caption.style]
    found = {style.family.removeprefix(OWN) for style in styles if style.family.startswith(OWN)}
    return {each for each in found if _HASH.fullmatch(each)}


def missing_signs(project: Project, faces_of: FacesOf) -> Mapping[str, tuple[str, ...]]:
    """Captions and titles with signs that no typeface has, by id: those signs."""
    saying = {caption_id: line for line in project.lines for caption_id in line.caption_ids}
    found: dict[str, tuple[str, ...]] = {}
    for caption in project.captions:
        style = style_of(project, caption, saying.get(caption.id))
        if signs := faces_of(style).missing(caption.text):
            found[caption.id] = signs
    for title in project.titles:
        if signs := faces_of(title_style(project, title)).missing(title.text):
            found[title.id] = signs
    return found
