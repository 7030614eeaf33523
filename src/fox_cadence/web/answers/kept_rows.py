"""What answers are made of, kept from one to the next."""

from dataclasses import dataclass, field

from fox_cadence.core.kept import Kept
from fox_cadence.core.project import Role
from fox_cadence.core.timeline import CaptionSpan, LineSpan, ShotSpan
from fox_cadence.web.answers.shapes import CaptionRow, LineRow, RoleRow, ShotRow


@dataclass
class KeptRows:
    """Rows of the tables by what they were made of: an edit changes one object of a project, the others are
    the very objects they were, so that looking whether a row is still right costs next to nothing."""

    shots: Kept[tuple[ShotSpan, ...], list[ShotRow]] = field(default_factory=lambda: Kept(most=64))
    captions: Kept[CaptionSpan, CaptionRow] = field(default_factory=Kept)
    lines: Kept[LineSpan, LineRow] = field(default_factory=Kept)
    roles: Kept[Role, RoleRow] = field(default_factory=Kept)
    unshown: Kept[CaptionSpan, int] = field(default_factory=Kept)
