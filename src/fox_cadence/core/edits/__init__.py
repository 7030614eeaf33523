"""What an editor can change: each edit is a value that turns a project into the next one and has a name for
undo."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from fox_cadence.core.edits.base import Applied, EditError
from fox_cadence.core.edits.beds import AddBed, CutBed, DeleteBed, SetBed, SetLevels
from fox_cadence.core.edits.captions import (
    AddCaption,
    CutCaption,
    PinCaption,
    SetCaptionText,
    SetCaptionTimes,
)
from fox_cadence.core.edits.cast import (
    AddRole,
    ApplyDelivery,
    DeleteRole,
    SaveDelivery,
    SetLineDelivery,
    SetRole,
    SetShortlist,
)
from fox_cadence.core.edits.effects import AddEffect, DeleteEffect, HoldEffect, SetEffect
from fox_cadence.core.edits.figures import AddFigure, DeleteFigure, SetFigure
from fox_cadence.core.edits.fill import FillShots
from fox_cadence.core.edits.lettering import (
    BreakLines,
    ForgetStyle,
    KeepStyle,
    PlaceWords,
    SetCalm,
    SetCaptionStyle,
    SplitCaption,
)
from fox_cadence.core.edits.lexicon import AddEntries, SetEntry
from fox_cadence.core.edits.line_places import DuplicateLine, PlaceLine
from fox_cadence.core.edits.lines import (
    AddSceneText,
    DeleteHeading,
    DeleteLine,
    MergeLines,
    SetLane,
    SetLineRole,
    SetLineRoom,
    SetLineStart,
    SetSaid,
    SplitLine,
)
from fox_cadence.core.edits.locks import SetLock
from fox_cadence.core.edits.marks import SetBreath, SetEmphasis, SetPause, SetPronunciation, SetSpan, SetSync
from fox_cadence.core.edits.mix import HearColumn, OwnToBed, SetMix, SetShotSound
from fox_cadence.core.edits.piece import SetFrame, SetLanguage, SetRate
from fox_cadence.core.edits.script_page import (
    InsertLines,
    JoinCaptions,
    JoinLines,
    MoveLines,
    SetHeading,
    ShowLine,
    TypedLine,
)
from fox_cadence.core.edits.settings import SetBeats, SetHouse, SetSettings
from fox_cadence.core.edits.shot_material import (
    LayOver,
    SetAdjustment,
    SetFraming,
    SetLaid,
    SetSpeed,
    SetWindow,
)
from fox_cadence.core.edits.shot_order import DuplicateShot, FreezeFrame, JoinShots, MoveShot, SplitShot
from fox_cadence.core.edits.shots import (
    AddShot,
    DeleteShot,
    SetOnBeat,
    SetShotGivesWay,
    SetShotLength,
    SetShotLimits,
    SetTransition,
)
from fox_cadence.core.edits.takes import DropTake, NameTake
from fox_cadence.core.edits.titles import AddTitle, DeleteTitle, SayTitle, SetTitle, TitleFromHeading
from fox_cadence.core.edits.treatments import ForgetTreatment, KeepTreatment, SetTreatment
from fox_cadence.core.edits.words import ReplaceWords
from fox_cadence.core.project import Project
from fox_cadence.core.sound.effect_places import effects_on_shots

Edit = Annotated[
    SetCaptionText
    | SetCaptionTimes
    | PinCaption
    | AddCaption
    | CutCaption
    | SplitCaption
    | BreakLines
    | SetCaptionStyle
    | PlaceWords
    | KeepStyle
    | ForgetStyle
    | SetCalm
    | AddTitle
    | TitleFromHeading
    | SetTitle
    | DeleteTitle
    | SayTitle
    | AddFigure
    | SetFigure
    | DeleteFigure
    | SetTreatment
    | KeepTreatment
    | ForgetTreatment
    | SetSaid
    | SetLineRole
    | SetLineStart
    | SetLineRoom
    | SetLane
    | AddSceneText
    | DeleteHeading
    | DeleteLine
    | SplitLine
    | MergeLines
    | InsertLines
    | JoinLines
    | JoinCaptions
    | MoveLines
    | ShowLine
    | SetHeading
    | PlaceLine
    | DuplicateLine
    | ReplaceWords
    | SetPause
    | SetSync
    | SetBreath
    | SetEmphasis
    | SetSpan
    | SetPronunciation
    | SetEntry
    | AddEntries
    | NameTake
    | DropTake
    | SetLock
    | SetRole
    | AddRole
    | DeleteRole
    | SetLineDelivery
    | ApplyDelivery
    | SaveDelivery
    | SetShortlist
    | SetShotLength
    | SetShotLimits
    | SetTransition
    | SetShotGivesWay
    | SetOnBeat
    | AddShot
    | DeleteShot
    | MoveShot
    | DuplicateShot
    | SplitShot
    | JoinShots
    | FreezeFrame
    | SetWindow
    | SetSpeed
    | FillShots
    | SetFraming
    | SetAdjustment
    | LayOver
    | SetLaid
    | SetShotSound
    | SetSettings
    | SetFrame
    | SetRate
    | SetLanguage
    | AddBed
    | SetBed
    | DeleteBed
    | SetLevels
    | CutBed
    | AddEffect
    | HoldEffect
    | SetEffect
    | DeleteEffect
    | SetMix
    | HearColumn
    | OwnToBed
    | SetHouse
    | SetBeats,
    Field(discriminator="kind"),
]


def apply_all(project: Project, edits: Sequence[Applied]) -> tuple[Project, str]:
    """Several edits as one step; its name joins theirs."""
    labels: list[str] = []
    before = project
    for edit in edits:
        project, label = edit.apply(project)
        labels.append(label)
    return effects_on_shots(before, project), "; ".join(labels)


__all__ = [
    "AddBed",
    "AddCaption",
    "AddEffect",
    "AddEntries",
    "AddFigure",
    "AddRole",
    "AddSceneText",
    "AddShot",
    "AddTitle",
    "Applied",
    "ApplyDelivery",
    "BreakLines",
    "CutBed",
    "CutCaption",
    "DeleteBed",
    "DeleteEffect",
    "DeleteFigure",
    "DeleteHeading",
    "DeleteLine",
    "DeleteRole",
    "DeleteShot",
    "DeleteTitle",
    "DropTake",
    "DuplicateLine",
    "DuplicateShot",
    "Edit",
    "EditError",
    "FillShots",
    "ForgetStyle",
    "ForgetTreatment",
    "FreezeFrame",
    "HearColumn",
    "HoldEffect",
    "InsertLines",
    "JoinCaptions",
    "JoinLines",
    "JoinShots",
    "KeepStyle",
    "KeepTreatment",
    "LayOver",
    "MergeLines",
    "MoveLines",
    "MoveShot",
    "NameTake",
    "OwnToBed",
    "PinCaption",
    "PlaceLine",
    "PlaceWords",
    "ReplaceWords",
    "SaveDelivery",
    "SayTitle",
    "SetAdjustment",
    "SetBeats",
    "SetBed",
    "SetBreath",
    "SetCalm",
    "SetCaptionStyle",
    "SetCaptionText",
    "SetCaptionTimes",
    "SetEffect",
    "SetEmphasis",
    "SetEntry",
    "SetFigure",
    "SetFrame",
    "SetFraming",
    "SetHeading",
    "SetHouse",
    "SetLaid",
    "SetLane",
    "SetLanguage",
    "SetLevels",
    "SetLineDelivery",
    "SetLineRole",
    "SetLineRoom",
    "SetLineStart",
    "SetLock",
    "SetMix",
    "SetOnBeat",
    "SetPause",
    "SetPronunciation",
    "SetRate",
    "SetRole",
    "SetSaid",
    "SetSettings",
    "SetShortlist",
    "SetShotGivesWay",
    "SetShotLength",
    "SetShotLimits",
    "SetShotSound",
    "SetSpan",
    "SetSpeed",
    "SetSync",
    "SetTitle",
    "SetTransition",
    "SetTreatment",
    "SetWindow",
    "ShowLine",
    "SplitCaption",
    "SplitLine",
    "SplitShot",
    "TitleFromHeading",
    "TypedLine",
    "apply_all",
]  # fmt: skip
