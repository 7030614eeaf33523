"""Shots, captions and lines of a timeline as rows. Their times count from the start of their shot."""

from collections.abc import Sequence

from fox_cadence.actions.drafting import drafted_by
from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.delivery import Delivery, unable
from fox_cadence.core.fit.explain import LineSum, Step, explain_now
from fox_cadence.core.fit.plan import LinePlan
from fox_cadence.core.fit.remedies import needs_remedy
from fox_cadence.core.framing import Framing
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.lettering.drawing import drawn_words
from fox_cadence.core.marks import Mark, SyncPoint, sync_points, written_pauses
from fox_cadence.core.outline import svg_data
from fox_cadence.core.overlay import Laid, overlay_by_id
from fox_cadence.core.pass_status import reading_rate_cps
from fox_cadence.core.project import SceneText
from fox_cadence.core.shot import Clip
from fox_cadence.core.standing import spoken_frames
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import CaptionSpan, LineSpan, ShotSpan
from fox_cadence.voices.catalogue import unread, voice_by_id
from fox_cadence.web.answers.lettering import Lettered, place_json, style_json
from fox_cadence.web.answers.picture_shapes import AdjustmentJson, FramingJson, LaidJson
from fox_cadence.web.answers.shapes import CaptionRow, LinePlace, LineRow, Row, ShotRow, StepJson, SumJson
from fox_cadence.web.answers.treatments import treatment_json
from fox_cadence.web.answers.units import seconds

Points = tuple[tuple[float, float], ...]


def adjustment_json(adjustment: Adjustment) -> AdjustmentJson:
    return {
        "exposure": adjustment.exposure,
        "contrast": adjustment.contrast,
        "warmth": adjustment.warmth,
        "tint": adjustment.tint,
        "saturation": adjustment.saturation,
        "sharpness": adjustment.sharpness,
        "vignette": adjustment.vignette,
        "look": adjustment.look,
        "look_share": adjustment.look_share,
    }


def laid_json(laid: Laid, ratio: float) -> LaidJson | None:
    """A picture over a shot, for a frame of a shape (width / height); None for one that is not known here."""
    overlay = overlay_by_id(laid.picture)
    if overlay is None:
        return None
    return {
        "id": laid.id,
        "picture": laid.picture,
        "title": overlay.title,
        "outline": svg_data(overlay.outline(ratio), 4),
        "whole_frame": overlay.whole_frame,
        "x": laid.x,
        "y": laid.y,
        "size": laid.size,
        "turn": laid.turn,
        "colour": laid.colour,
        "opacity": laid.opacity,
        "begins": laid.begins,
        "ends": laid.ends,
    }


def framing_json(framing: Framing) -> FramingJson:
    return {
        "fit": framing.fit,
        "x": framing.x,
        "y": framing.y,
        "zoom": framing.zoom,
        "turns": framing.turns,
        "mirror": framing.mirror,
        "movement": framing.movement,
        "amount": framing.amount,
        "to_x": framing.to_x,
        "to_y": framing.to_y,
        "to_zoom": framing.to_zoom,
        "soft": framing.soft,
        "begins": framing.begins,
        "ends": framing.ends,
        "colour": framing.colour,
    }


def shot_row(
    span: ShotSpan,
    clip: Clip | None,
    available: int | None,
    limits: tuple[int, int],
    rate: FrameRate,
    followed: bool,
    headings: tuple[SceneText, ...],
    repeats_ticks: int,
    bed_points: Points,
    ratio: float,
) -> ShotRow:
    """A shot.

    Args:
        available: frames its clip has from its begin on; None where it has no end.
        limits: shortest and longest length in frames.
        followed: another shot comes after it.
        headings: scene texts that nobody says.
        repeats_ticks: after how much of its clip it begins again; 0 where it does not.
        bed_points: seconds after its start, and by how many dB the bed is turned down there.
        ratio: width of the frame against its height.
    """
    shot = span.shot
    return {
        "id": shot.id,
        "name": shot.name,
        "clip": shot.clip_hash,
        "still": clip is not None and clip.kind == "still",
        "colour": shot.colour,
        "source_in_s": seconds(shot.source_in_ticks),
        "source_in_frames": rate.frames_nearest(shot.source_in_ticks),
        "repeats_s": seconds(repeats_ticks),
        "speed_percent": shot.speed_percent,
        "framing": framing_json(shot.framing),
        "adjustment": adjustment_json(shot.adjustment),
        "laid": [row for each in shot.laid if (row := laid_json(each, ratio)) is not None],
        "clip_s": seconds(clip.length_ticks) if clip is not None and clip.kind == "video" else 0,
        "length": shot.length_frames,
        "transition": shot.transition_frames if followed else 0,
        "transition_kind": shot.transition_kind,
        "transition_colour": shot.transition_colour,
        "locked": shot.locked,
        "shortest": limits[0],
        "longest": limits[1],
        "own_limits": shot.shortest_frames is not None or shot.longest_frames is not None,
        "handle": None if available is None else available - shot.length_frames,
        "on_beat": shot.on_beat,
        "give_way": shot.give_way,
        "headings": [{"id": text.id, "text": text.text} for text in headings],
        "sound": clip is not None and clip.kind == "video" and clip.has_sound,
        "sound_gain_db": shot.sound_gain_db,
        "sound_muted": shot.sound_muted,
        "sound_ducked": shot.sound_ducked,
        "sound_fade_in_s": seconds(shot.sound_fade_in_ticks),
        "sound_fade_out_s": seconds(shot.sound_fade_out_ticks),
        "bed_points": list(bed_points),
    }


def caption_row(
    span: CaptionSpan,
    line: LineSpan | None,
    fast: bool,
    rate: FrameRate,
    shot_start_frame: int,
    lettered: Lettered,
) -> CaptionRow:
    """A caption; `line` is the one that says it, `fast` that it can't be read in its time."""
    caption, text = span.caption, span.caption.text
    spoken = spoken_frames(span, line, rate)
    if len(spoken) != len(drawn_words(text)):
        spoken = ()
    return {
        "id": span.caption.id,
        "shot": span.caption.shot_id,
        "line": span.line_id,
        "in_frame": span.in_frame - shot_start_frame,
        "out_frame": span.out_frame - shot_start_frame,
        "text": text,
        "locked": span.caption.locked,
        "pinned": span.caption.pinned,
        "too_fast": fast,
        "rate_cps": round(reading_rate_cps(span, rate)),
        "drawn": bool(text.strip()),
        "missing": lettered.missing,
        "spoken": tuple((begins - shot_start_frame, ends - shot_start_frame) for begins, ends in spoken),
        "style": lettered.style,
        "own_style": None if caption.style is None else style_json(caption.style),
        "place": place_json(caption.place),
        "breaks": caption.breaks,
        "shift": lettered.shift,
    }


def line_place(line: LineSpan | LinePlan, line_id: str, origin_ticks: int) -> LinePlace:
    """How a line stands or would stand, with times from `origin_ticks` on."""
    return {
        "id": line_id,
        "state": line.state.value,
        "start_s": seconds(line.start_ticks - origin_ticks),
        "end_s": seconds(line.end_ticks - origin_ticks),
        "window_start_s": seconds(line.window.start_ticks - origin_ticks),
        "window_end_s": seconds(line.window.end_ticks - origin_ticks),
        "pace": round(line.pace, 5),
        "late_s": seconds(line.late_ticks),
        "spill_s": seconds(line.spill_ticks),
        "idle_s": seconds(line.idle_ticks),
        "wants_remedy": needs_remedy(line),
    }


def line_row(
    span: LineSpan,
    said_by: tuple[Delivery, str],
    shot_names: str,
    house: HouseLimits,
    origin_ticks: int,
    failed: str,
    room: int,
) -> LineRow:
    """A line with its words.

    Args:
        said_by: its delivery and the id of its voice.
        shot_names: its shots in words.
        origin_ticks: the start of its first shot.
        failed: why its last try to be voiced failed; '' where it did not.
        room: the time it has, in ticks.
    """
    take, line = span.take, span.line
    written = written_pauses(line.marks)
    texts = take.text.split() if take is not None and span.stale else [word.text for word in span.words]

    def at(ticks: int) -> float:
        return seconds(ticks - origin_ticks)

    return {
        **line_place(span, line.id, origin_ticks),
        "role": line.role_id,
        "said": span.said,
        "said_words": [word.text for word in span.words],
        "own_words": line.said is not None,
        "scene_text": line.scene_text_id is not None and not line.caption_ids,
        "captions": line.caption_ids,
        "first_shot": line.first_shot_id,
        "last_shot": line.last_shot_id,
        "locked": line.locked,
        "lane": line.lane,
        "may_overlap": line.may_overlap,
        "give_way": line.give_way,
        "j_cut_s": None if line.longest_j_cut_ticks is None else seconds(line.longest_j_cut_ticks),
        "l_cut_s": None if line.longest_l_cut_ticks is None else seconds(line.longest_l_cut_ticks),
        "natural_s": seconds(span.natural_ticks),
        "known": span.foreseen or (span.take is not None and not span.stale),
        "draft": drafting.name if (drafting := drafted_by(span, said_by[1])) is not None else "",
        "room_s": seconds(room),
        "words": [
            (at(start), at(end), text)
            for (start, end), text in zip(span.word_times_ticks(), texts, strict=False)
        ],
        "rests": [
            {"after": word, "start_s": at(start), "end_s": at(end), "written": word in written}
            for word, start, end in span.rests_ticks()
        ],
        "pauses": [{"after": word, "seconds": seconds(ticks)} for word, ticks in sorted(written.items())],
        "syncs": [
            {"word": point.word, "shot": point.shot_id, "frames": point.frames}
            for point in sync_points(line.marks)
        ],
        "marks": marks_json(line.marks),
        "own_voice": line.voice_id,
        "own_delivery": line.delivery.model_dump() if line.delivery else None,
        "own_treatment": treatment_json(line.treatment),
        "unable": unable_text(*said_by, span.said),
        "failed": failed,
        "take": {
            "hash": take.sound_hash, "at_s": at(span.sound_start_ticks), "text": take.text,
            "id": take.id, "recorded": take.recorded, "cleaned_from": take.cleaned_from,
        } if take else None,
        "sum": sum_json(explain_now(house, span, shot_names)),
    }  # fmt: skip


def marks_json(marks: tuple[Mark, ...]) -> list[Row]:
    """Marks but sync points and pauses, which a line has by themselves."""
    return [mark.model_dump() for mark in marks if not isinstance(mark, SyncPoint) and mark.kind != "pause"]


def unable_text(delivery: Delivery, voice_id: str, said: str = "") -> str:
    """What a voice can't do of a delivery, and which words of a text it can't read, in words."""
    voice = voice_by_id(voice_id)
    if voice is None:
        return ""
    scripts, words = unread(voice, said)
    parts = [
        unable(delivery, has_range=voice.has_range),
        f"{voice.name} {scripts}: {words[:80]}" if scripts else "",
    ]
    return " ".join(part for part in parts if part)


def sum_json(line_sum: LineSum) -> SumJson:
    """The sum that explains a line."""

    def rows(steps: Sequence[Step]) -> list[StepJson]:
        return [{"kind": step.kind, "label": step.label, "seconds": seconds(step.ticks)} for step in steps]

    return {
        "speech": rows(line_sum.speech),
        "room": rows(line_sum.room),
        "length_s": seconds(line_sum.length_ticks),
    }
