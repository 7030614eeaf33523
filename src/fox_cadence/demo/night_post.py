"""A sample whose pictures all come from the shelf: "The night post", made of nothing but its words."""

from fox_cadence.actions.bring_in import narrator
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.filling import finish_from_words
from fox_cadence.actions.music import cut_bed
from fox_cadence.actions.script_import import Choices, Source, laid, read_source, texts_of, with_roles
from fox_cadence.actions.sound_shelf import lay_sound
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import AddFigure, Edit, SetFigure, SetTreatment, TitleFromHeading
from fox_cadence.core.fill import FillWish
from fox_cadence.core.lettering.styles import style_by_id
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import shots_for_words
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.treatment import shipped
from fox_cadence.jobs.runner import Watcher
from fox_cadence.voices.catalogue import voice_by_id

NIGHT_POST_ID = "night-post"
SIZE = (720, 720)
VOICE = "wren"
WISH = FillWish(shortest_s=2, longest_s=4, fewest=2, most=4)

SCRIPT = """# The last collection

When the town goes dark, the post train leaves the station.
In one of its bags lies a letter without a stamp.

# Over the hills

It crosses the mountains under the stars.
The moon keeps it company, all the way to the sea.

# Before breakfast

At sunrise somebody opens a door, and there it is.
She reads it twice over a cup of coffee.
Then she takes her pen, and writes an answer.
"""


def make_night_post(
    workspace: Workspace, watcher: Watcher | None = None, size: tuple[int, int] = SIZE
) -> str:
    """The sample's id; drawn, fitted and voiced the first time, left as the editor has it afterwards."""
    if workspace.projects.exists(NIGHT_POST_ID):
        return NIGHT_POST_ID
    choices = Choices(False, False)
    read = read_source(Source("night post.md", SCRIPT.encode(), None, "", choices), "en")[0]
    texts = texts_of(read, choices)
    rate = FrameRate(numerator=30)
    voice = voice_by_id(VOICE)
    assert voice is not None
    project = Project(
        name="The night post",
        width=size[0],
        height=size[1],
        rate=rate,
        shots=shots_for_words(texts, rate),
        roles=(narrator(voice),),
    )
    project, roles = with_roles(project, texts)
    project, _ = laid(workspace, project, texts, roles, "section")
    workspace.projects.create(project, "Sample made", NIGHT_POST_ID)
    finish_from_words(workspace, NIGHT_POST_ID, WISH, watcher)
    head = workspace.head(NIGHT_POST_ID)
    said = {line.scene_text_id for line in head.project.lines}
    headings = [text.id for text in head.project.scene_texts if text.id not in said]
    chapter = style_by_id("chapter")
    made: list[Edit] = [TitleFromHeading(heading_id=each, style=chapter) for each in headings]
    made.append(AddFigure(role_id=head.project.roles[0].id, character="juniper"))
    made.append(SetFigure(figure_id="g1", x=0.86, y=0.16, size=0.28, facing="left"))  # clear of the words
    lay_sound(workspace, NIGHT_POST_ID, "bed-lantern-walk", "bed", {})
    cut_bed(workspace, NIGHT_POST_ID, "b1")
    head = workspace.head(NIGHT_POST_ID)
    made.append(SetTreatment(role_id=head.project.roles[0].id, treatment=shipped("Close")))
    make_edits(workspace, NIGHT_POST_ID, head, made, "Titles from the headings, and a figure that tells it")
    return NIGHT_POST_ID
