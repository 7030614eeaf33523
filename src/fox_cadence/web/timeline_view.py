"""A timeline as the JSON that feeds the sheet, the player and the desk. Times in seconds and frames."""

from functools import partial
from typing import Any

from fox_cadence.core.delivery import Delivery
from fox_cadence.core.finding import Place
from fox_cadence.core.fit.explain import LineSum, explain_now, shot_names
from fox_cadence.core.lettering import STYLES, CaptionDrawing, drawn_words, missing_signs
from fox_cadence.core.marks import sync_points, written_pauses
from fox_cadence.core.mix import plan_mix
from fox_cadence.core.project import Clip, HouseLimits, Index, Project, SceneText, delivery_of, voice_of
from fox_cadence.core.screen import lit_words
from fox_cadence.core.shot_limits import clip_frames, repeats_after_ticks, shot_limits_frames
from fox_cadence.core.standing import count_states, standing, sync_standing, too_fast
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, FrameRate, ticks_to_seconds
from fox_cadence.core.timeline import CaptionSpan, LineSpan, ShotSpan, Timeline
from fox_cadence.core.words import words_of
from fox_cadence.media.fonts import caption_face
from fox_cadence.store.projects import Head
from fox_cadence.web.direction_view import marks_json, unable_text
from fox_cadence.web.memo import Memo

Json = dict[str, Any]


_memo = Memo()


def seconds(ticks: int) -> float:
    return round(ticks_to_seconds(ticks), 6)


def timeline_json(head: Head, timeline: Timeline, exported: int) -> Json:
    """Everything the page of a project shows."""
    project = timeline.project
    rate = project.rate
    states = count_states(timeline)
    return {
        "project": head.project_id,
        "revision": head.revision,
        "changed_at": head.made_at,
        "undo": head.undo_label,
        "redo": head.redo_label,
        "name": project.name,
        "width": project.width,
        "height": project.height,
        "rate": {"numerator": rate.numerator, "denominator": rate.denominator, "label": rate.label},
        "total_frames": timeline.total_frames,
        "longest_s": seconds(project.longest_ticks) if project.longest_ticks is not None else None,
        "give_way": project.give_way,
        "length_fixed": project.length_fixed,
        "beats": [seconds(beat) for beat in project.beats],
        "house": house_json(project.house),
        "sync": _sync(timeline),
        "amount": amount_json(timeline),
        "style": project.caption_style,
        "styles": [{"id": style.id, "name": style.name} for style in STYLES],
        "passes": [
            {"name": p.name, "open": p.open_text, "text": p.text} for p in standing(timeline, exported, caption_face())
        ],
        "states": {state.value: states[state] for state in LineState},
        "shots": _shots(head.project_id, timeline),
        "captions": _captions(head.project_id, timeline),
        "lines": _lines(head.project_id, timeline),
        "roles": [role.model_dump() | {"unable": unable_text(role.delivery, role.voice_id)} for role in project.roles],
        "bed": _bed(timeline),
        "clips": {
            clip.hash: {
                "name": clip.name,
                "kind": clip.kind,
                "length_s": seconds(clip.length_ticks),
                "sound": clip.has_sound,
                "remarks": clip.remarks,
            }
            for clip in project.clips.values()
        },
    }


def amount_json(timeline: Timeline) -> Json:
    """How much there is to show and to say, and how much of the piece's longest length is left."""
    project = timeline.project
    left = None if project.longest_ticks is None else seconds(project.longest_ticks - timeline.total_ticks)
    return {
        "shown_characters": sum(len(" ".join(caption.text.split())) for caption in project.captions),
        "said_characters": sum(len(span.said) for span in timeline.lines),
        "words": sum(len(words_of(span.said)) for span in timeline.lines),
        "speech_s": seconds(sum(span.end_ticks - span.start_ticks for span in timeline.lines)),
        "left_s": left,
    }


_AROUND = 24


def place_json(project: Project, place: Place) -> Json:
    """A place words were found at, with what stands before and after it, and the line to go to."""
    if place.kind == "line":
        line_id: str | None = place.object_id
    else:
        line_id = next(
            (
                line.id
                for line in project.lines
                if place.object_id in line.caption_ids or place.object_id == line.scene_text_id
            ),
            None,
        )
    ids = {
        "caption": [item.id for item in project.captions],
        "line": [item.id for item in project.lines],
        "scene_text": [item.id for item in project.scene_texts],
    }[place.kind]
    name = {"caption": "Caption", "line": "Said in line", "scene_text": "Scene text"}[place.kind]
    return {
        "where": f"{name} {ids.index(place.object_id) + 1}",
        "line": line_id,
        "before": place.text[max(0, place.start - _AROUND) : place.start],
        "match": place.text[place.start : place.end],
        "after": place.text[place.end : place.end + _AROUND],
    }


def _bed(timeline: Timeline) -> Json | None:
    """The bed with the points between which it ducks: [second, dB]."""
    bed, plan = timeline.project.bed, plan_mix(timeline).bed
    if bed is None or plan is None:
        return None
    points = [[sample / SAMPLE_RATE_HZ, db] for sample, db in plan.duck]
    return bed.model_dump(include={"clip_hash", "gain_db", "duck_db"}) | {"points": points}


def house_json(house: HouseLimits) -> Json:
    """House limits as the edit `house` takes them: times in seconds."""
    return {
        name.replace("_ticks", "_s"): seconds(value) if name.endswith("_ticks") else value
        for name, value in house.model_dump().items()
    }


def _sync(timeline: Timeline) -> Json:
    found = sync_standing(timeline)
    return {
        "worst_spill_s": seconds(found.worst_spill_ticks),
        "worst_caption_frames": found.worst_caption_frames,
        "slowest": round(found.slowest, 3),
        "fastest": round(found.fastest, 3),
        "idle_s": seconds(found.idle_ticks),
    }


def _shots(project_id: str, timeline: Timeline) -> list[Json]:
    project = timeline.project
    said = {line.scene_text_id for line in project.lines}
    headings: dict[str, tuple[SceneText, ...]] = {}
    for text in project.scene_texts:
        if text.id not in said:
            headings[text.shot_id] = (*headings.get(text.shot_id, ()), text)
    last = len(project.shots) - 1
    found: list[Json] = []
    for position, span in enumerate(timeline.shots):
        clip = project.clips.get(span.shot.clip_hash or "")
        inputs = (
            span, clip, clip_frames(project, span.shot), shot_limits_frames(project, position), project.rate,
            position < last, headings.get(span.shot.id, ()), repeats_after_ticks(project, span.shot),
        )  # fmt: skip
        found.append(_memo.get((project_id, "shot", span.shot.id), inputs, partial(_shot, *inputs)))
    return found


def _captions(project_id: str, timeline: Timeline) -> list[Json]:
    spans = {span.line.id: span for span in timeline.lines}
    fast = {span.caption.id for span in too_fast(timeline)}
    found: list[Json] = []
    for span in timeline.captions:
        inputs = (span, spans.get(span.line_id or ""), span.caption.id in fast, timeline.project.rate)
        found.append(_memo.get((project_id, "caption", span.caption.id), inputs, partial(_caption, *inputs)))
    return found


def _lines(project_id: str, timeline: Timeline) -> list[Json]:
    project = timeline.project
    by_id = Index(project)
    index = project.shot_index()
    found: list[Json] = []
    for span in timeline.lines:
        said_by = (delivery_of(span.line, by_id), voice_of(span.line, by_id))
        inputs = (span, said_by, shot_names(index, span.line), project.house)
        found.append(_memo.get((project_id, "line", span.line.id), inputs, partial(_line, *inputs)))
    return found


def _caption(span: CaptionSpan, line: LineSpan | None, fast: bool, rate: FrameRate) -> Json:
    text = span.caption.text
    return {
        "id": span.caption.id,
        "shot": span.caption.shot_id,
        "line": span.line_id,
        "in": span.in_frame,
        "out": span.out_frame,
        "text": text,
        "locked": span.caption.locked,
        "pinned": span.caption.pinned,
        "too_fast": fast,
        "drawn": bool(text.strip()),
        "missing": missing_signs(text, caption_face()),
        "lit": lit_words(span, line, len(drawn_words(text)), rate),
    }


def _shot(
    span: ShotSpan,
    clip: Clip | None,
    available: int | None,
    limits: tuple[int, int],
    rate: FrameRate,
    followed: bool,
    headings: tuple[SceneText, ...],
    repeats_ticks: int,
) -> Json:
    shot = span.shot
    low, high = limits
    return {
        "id": shot.id,
        "name": shot.name,
        "clip": shot.clip_hash,
        "still": clip is not None and clip.kind == "still",
        "colour": shot.colour,
        "source_in_s": seconds(shot.source_in_ticks),
        "repeats_s": seconds(repeats_ticks),
        "source_in_frames": rate.frames_nearest(shot.source_in_ticks),
        "start": span.start_frame,
        "end": span.end_frame,
        "locked": shot.locked,
        "shortest": low,
        "longest": high,
        "own_limits": shot.shortest_frames is not None or shot.longest_frames is not None,
        "handle": None if available is None else available - shot.length_frames,
        "transition": shot.transition_frames if followed else 0,
        "on_beat": shot.on_beat,
        "give_way": shot.give_way,
        "headings": [{"id": text.id, "text": text.text} for text in headings],
        "sound": clip is not None and clip.kind == "video" and clip.has_sound,
        "sound_gain_db": shot.sound_gain_db,
    }


def _line(span: LineSpan, said_by: tuple[Delivery, str], names: str, house: HouseLimits) -> Json:
    take, line = span.take, span.line
    written = written_pauses(line.marks)
    times = span.word_times_ticks()
    texts = take.text.split() if take is not None and span.stale else [word.text for word in span.words]
    return {
        "id": line.id,
        "role": line.role_id,
        "said": span.said,
        "said_words": [word.text for word in span.words],
        "own_words": line.said is not None,
        "scene_text": line.scene_text_id is not None and not line.caption_ids,
        "captions": line.caption_ids,
        "first_shot": line.first_shot_id,
        "last_shot": line.last_shot_id,
        "state": span.state.value,
        "locked": line.locked,
        "lane": line.lane,
        "may_overlap": line.may_overlap,
        "give_way": line.give_way,
        "j_cut_s": None if line.longest_j_cut_ticks is None else seconds(line.longest_j_cut_ticks),
        "l_cut_s": None if line.longest_l_cut_ticks is None else seconds(line.longest_l_cut_ticks),
        "fitted": line.placement is not None,
        "start_s": seconds(span.start_ticks),
        "end_s": seconds(span.end_ticks),
        "window_start_s": seconds(span.window.start_ticks),
        "window_end_s": seconds(span.window.end_ticks),
        "natural_s": seconds(span.natural_ticks),
        "pace": round(span.pace, 4),
        "pause_s": seconds(span.pause_ticks + span.written_ticks),
        "early_s": seconds(span.early_ticks),
        "late_s": seconds(span.late_ticks),
        "spill_s": seconds(span.spill_ticks),
        "idle_s": seconds(span.idle_ticks),
        "words": [[seconds(start), seconds(end), text] for (start, end), text in zip(times, texts, strict=False)],
        "rests": [
            {"after": word, "start_s": seconds(start), "end_s": seconds(end), "written": word in written}
            for word, start, end in span.rests_ticks()
        ],
        "pauses": [{"after": word, "seconds": seconds(ticks)} for word, ticks in sorted(written.items())],
        "syncs": [
            {"word": point.word, "shot": point.shot_id, "frames": point.frames} for point in sync_points(line.marks)
        ],
        "marks": marks_json(line.marks),
        "own_voice": line.voice_id,
        "own_delivery": line.delivery.model_dump() if line.delivery else None,
        "unable": unable_text(*said_by, span.said),
        "take": {
            "hash": take.sound_hash, "at_s": seconds(span.sound_start_ticks), "text": take.text,
            "recorded": take.recorded,
        } if take else None,
        "sum": sum_json(explain_now(house, span, names)),
    }  # fmt: skip


def drawing_json(drawing: CaptionDrawing) -> Json:
    """A caption drawing for SVG: the plate, the outlines of each word, and how they are inked."""
    plate = drawing.plate
    return {
        "width": drawing.width,
        "height": drawing.height,
        "plate": {
            "x": round(plate.x, 2), "y": round(plate.y, 2), "width": round(plate.width, 2),
            "height": round(plate.height, 2), "radius": round(plate.radius, 2), "colour": plate.colour,
            "opacity": plate.opacity,
        } if plate else None,
        "words": [word.svg for word in drawing.words],
        "fill": drawing.fill,
        "lit": drawing.lit,
        "stroke": drawing.stroke,
        "stroke_width": round(drawing.stroke_width, 2),
        "missing": drawing.missing,
    }  # fmt: skip


def sum_json(line_sum: LineSum) -> Json:
    def rows(steps: Any) -> list[Json]:
        return [{"kind": step.kind, "label": step.label, "seconds": seconds(step.ticks)} for step in steps]

    return {"speech": rows(line_sum.speech), "room": rows(line_sum.room), "length_s": seconds(line_sum.length_ticks)}
