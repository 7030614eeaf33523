"""What the editor has asked for beyond the house limits, each as a wish that can be named and let go."""

from dataclasses import dataclass

from fox_cadence.core.edits import (
    Applied,
    SetLock,
    SetOnBeat,
    SetSettings,
    SetShotGivesWay,
    SetShotLimits,
    SetSync,
    apply_all,
)
from fox_cadence.core.marks import sync_points
from fox_cadence.core.project import Project, said_text
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.words import words_of


@dataclass(frozen=True, slots=True)
class Wish:
    """One wish: how it is named, and the edits that let it go (in this order of readiness to do so:
    `readiness`).

    Wishes with a higher readiness are let go first where there is a choice.
    """

    label: str
    readiness: int
    edits: tuple[Applied, ...]

    def let_go(self, project: Project) -> Project:
        """The project without this wish. Raises EditError where its edits can't be applied."""
        return apply_all(project, self.edits)[0]


def wishes_of(project: Project) -> tuple[Wish, ...]:
    """All wishes that can contradict each other."""
    return (*_length_wishes(project), *_shot_wishes(project), *_line_wishes(project))


def _length_wishes(project: Project) -> list[Wish]:
    found: list[Wish] = []
    if project.longest_ticks is not None:
        seconds = ticks_to_seconds(project.longest_ticks)
        verb = "must last" if project.length_fixed else "may last no longer than"
        found.append(Wish(f"the piece {verb} {seconds:.2f} s", 1, (SetSettings(longest_s=0),)))
    if project.give_way == "picture":
        found.append(Wish("picture leads, so no shot gives way", 3, (SetSettings(give_way="halfway"),)))
    if project.give_way == "voice":
        found.append(Wish("voice leads, so no pace changes", 3, (SetSettings(give_way="halfway"),)))
    return found


def _shot_wishes(project: Project) -> list[Wish]:
    found: list[Wish] = []
    for number, shot in enumerate(project.shots, 1):
        if shot.locked:
            found.append(
                Wish(f"shot {number} is locked", 2, (SetLock(what="shot", id=shot.id, locked=False),))
            )
        if shot.give_way == "picture":
            found.append(
                Wish(
                    f"shot {number} does not give way",
                    3,
                    (SetShotGivesWay(shot_id=shot.id, give_way="halfway"),),
                )
            )
        if shot.shortest_frames is not None or shot.longest_frames is not None:
            found.append(Wish(f"shot {number} has limits of its own", 3, (SetShotLimits(shot_id=shot.id),)))
        if shot.on_beat and number > 1:
            label = f"the cut to shot {number} lies on a beat"
            found.append(Wish(label, 4, (SetOnBeat(shot_id=shot.id, on_beat=False),)))
    return found


def _line_wishes(project: Project) -> list[Wish]:
    found: list[Wish] = []
    for number, caption in enumerate(project.captions, 1):
        if caption.locked:
            edit = SetLock(what="caption", id=caption.id, locked=False)
            found.append(Wish(f"caption {number} is locked", 2, (edit,)))
    places = {shot.id: number for number, shot in enumerate(project.shots, 1)}
    for number, line in enumerate(project.lines, 1):
        if line.locked:
            found.append(
                Wish(f"line {number} is locked", 2, (SetLock(what="line", id=line.id, locked=False),))
            )
            continue
        points = sync_points(line.marks)
        words = words_of(said_text(project, line)) if points else ()
        for point in points:
            if point.word >= len(words) or point.shot_id not in places:
                continue
            word = words[point.word].text.strip(".,;:!?…–—\"'“”‘’()")
            shot = places[point.shot_id]
            where = f"the cut to shot {shot}" if point.frames == 0 else f"frame {point.frames} of shot {shot}"
            label = f"“{word}” of line {number} is held to {where}"
            found.append(Wish(label, 4, (SetSync(line_id=line.id, word=point.word),)))
    return found
