"""A new project with the ways of another one: its cast, deliveries, treatments, styles, lexicon, mix and
house limits."""

from fox_cadence.core.languages import primary
from fox_cadence.core.project import Project

_WAYS = (
    "house", "give_way", "past_clip_end", "lettering", "lexicon", "deliveries", "shortlist", "commercial",
    "keep_in_step", "character_budget", "mix", "treatments",
)  # fmt: skip


def begun_like(project: Project, like: Project) -> Project:
    """A project with the ways of another one; with its roles and figures too where both are in one
    language."""
    kept = {name: getattr(like, name) for name in _WAYS}
    if primary(project.language) == primary(like.language) and like.roles:
        kept["roles"] = like.roles
        kept["figures"] = like.figures
    return project.changed(**kept)
