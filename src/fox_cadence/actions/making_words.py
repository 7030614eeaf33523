"""The words of a piece as files: captions in open formats and every language version, a table of what is said
and shown when, the script as a document."""

from collections.abc import Callable, Mapping

from fox_cadence.actions.making import Making
from fox_cadence.actions.versions import first_of, versions_of
from fox_cadence.core.docket import CaptionsRow, CuesRow, ScriptRow
from fox_cadence.core.docket.rows import CaptionFile
from fox_cadence.core.lettered import FacesOf
from fox_cadence.core.standing import drawn, words_on_screen
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.formats import Cue, cue_sheet, docx, srt, ttml, webvtt

WRITERS: Mapping[CaptionFile, Callable[[list[Cue], str], bytes]] = {
    "srt": lambda cues, _: srt.write(cues).encode(),
    "vtt": lambda cues, _: webvtt.write(cues).encode(),
    "ttml": ttml.write,
    "txt": lambda cues, _: "".join(f"{' '.join(cue.text.split())}\n" for cue in cues).encode(),
}


def caption_cues(timeline: Timeline, faces_of: FacesOf) -> list[Cue]:
    """The captions as they are shown, in the order of time, lines broken as on the screen.

    What of a caption lies after the end of the piece is not in them; `export_notes` says so.
    """
    rate, end = timeline.project.rate, timeline.total_frames
    size = timeline.project.width, timeline.project.height
    broken = {
        each.id: "\n".join(drawn(each.text, each.style, faces_of, size, each.breaks).lines)
        for each in words_on_screen(timeline)
        if not each.is_title
    }
    spans = sorted(timeline.captions, key=lambda span: (span.in_frame, span.out_frame))
    return [
        Cue(broken[span.caption.id], rate.ticks(span.in_frame), rate.ticks(min(span.out_frame, end)))
        for span in spans
        if span.caption.id in broken and span.in_frame < end
    ]


def make_captions(making: Making, row: CaptionsRow) -> None:
    _captions_of(making, row, making.timeline, "")
    if not row.versions:
        return
    workspace = making.workspace
    first = first_of(workspace, making.project_id)
    for each in (first, *versions_of(workspace, first)):
        if each == making.project_id:
            continue
        project = workspace.head(each).project
        _captions_of(making, row, workspace.timeline(project), project.language)


def _captions_of(making: Making, row: CaptionsRow, timeline: Timeline, language: str) -> None:
    cues = caption_cues(timeline, making.workspace.faces_of(timeline.project))
    for kind in row.files:
        data = WRITERS[kind](cues, timeline.project.language)
        making.write(making.name(row, f".{kind}", language), data, row)


def make_cues(making: Making, row: CuesRow) -> None:
    """A row for every line and every caption, in the order of time."""
    timeline = making.timeline
    project = timeline.project
    roles = {role.id: role.name for role in project.roles}
    rows = [
        cue_sheet.Entry(
            "line",
            ticks_to_seconds(span.start_ticks),
            ticks_to_seconds(span.end_ticks),
            roles[span.line.role_id],
            span.said,
            span.take is not None,
        )
        for span in timeline.lines
    ]
    frame = float(1 / project.rate.fraction)
    rows += [
        cue_sheet.Entry("caption", span.in_frame * frame, span.out_frame * frame, "", span.caption.text, True)
        for span in timeline.captions
    ]
    rows += [
        cue_sheet.Entry("shot", span.start_frame * frame, span.end_frame * frame, "", span.shot.name, True)
        for span in timeline.shots
    ]
    making.write(making.name(row, ".csv"), cue_sheet.write(rows), row)


def make_script(making: Making, row: ScriptRow) -> None:
    """Headings, and under each who says what."""
    project = making.timeline.project
    roles = {role.id: role.name for role in project.roles}
    said = {line.scene_text_id for line in project.lines}
    blocks: list[tuple[str, str]] = []
    for shot in project.shots:
        blocks += [
            ("", text.text) for text in project.scene_texts if text.shot_id == shot.id and text.id not in said
        ]
        blocks += [
            (roles[span.line.role_id], span.said)
            for span in making.timeline.lines
            if span.line.first_shot_id == shot.id
        ]
    making.write(making.name(row, ".docx"), docx.write(project.name, blocks, len(project.roles) > 1), row)
