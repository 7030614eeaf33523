"""Timelines and proposals as the JSON that feeds the sheet, the player and the desk. Times in seconds and frames."""

from typing import Any

from fox_cadence.actions.exporting import screen
from fox_cadence.actions.fitting import Fitted
from fox_cadence.core.fit.explain import LineSum, explain_now
from fox_cadence.core.lettering import STYLES, CaptionDrawing
from fox_cadence.core.mix import plan_mix
from fox_cadence.core.project import shot_limits_frames
from fox_cadence.core.standing import count_states, standing, too_fast
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.store.projects import Head

Json = dict[str, Any]


def _s(ticks: int) -> float:
    return round(ticks_to_seconds(ticks), 6)


def timeline_json(head: Head, timeline: Timeline, exported: int) -> Json:
    """Everything the page of a project shows."""
    project = timeline.project
    rate = project.rate
    shown = {item.caption_id: item for item in screen(timeline).captions}
    fast = {span.caption.id for span in too_fast(timeline)}
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
        "longest_s": _s(project.longest_ticks) if project.longest_ticks is not None else None,
        "give_way": project.give_way,
        "house": {
            "fastest_pace": project.house.fastest_pace,
            "slowest_pace": project.house.slowest_pace,
            "shot_stretch": project.house.shot_stretch,
            "reading_rate_cps": project.house.reading_rate_cps,
        },
        "style": project.caption_style,
        "styles": [{"id": style.id, "name": style.name} for style in STYLES],
        "passes": [{"name": p.name, "open": p.open_text, "text": p.text} for p in standing(timeline, exported)],
        "states": {state.value: states[state] for state in LineState},
        "shots": [_shot(timeline, position) for position in range(len(timeline.shots))],
        "captions": [
            {
                "id": span.caption.id,
                "shot": span.caption.shot_id,
                "line": span.line_id,
                "in": span.in_frame,
                "out": span.out_frame,
                "text": span.caption.text,
                "locked": span.caption.locked,
                "too_fast": span.caption.id in fast,
                "drawing": drawing_json(shown[span.caption.id].drawing) if span.caption.id in shown else None,
                "lit": shown[span.caption.id].lit if span.caption.id in shown else [],
            }
            for span in timeline.captions
        ],
        "lines": [_line(span) | {"sum": _sum(explain_now(project, span))} for span in timeline.lines],
        "roles": [role.model_dump() for role in project.roles],
        "bed": _bed(timeline),
        "clips": {
            clip.hash: {
                "name": clip.name,
                "kind": clip.kind,
                "length_s": _s(clip.length_ticks),
                "sound": clip.has_sound,
            }
            for clip in project.clips.values()
        },
    }


def _bed(timeline: Timeline) -> Json | None:
    """The bed with the points between which it ducks: [second, dB]."""
    bed, plan = timeline.project.bed, plan_mix(timeline).bed
    if bed is None or plan is None:
        return None
    points = [[sample / SAMPLE_RATE_HZ, db] for sample, db in plan.duck]
    return bed.model_dump(include={"clip_hash", "gain_db", "duck_db"}) | {"points": points}


def _shot(timeline: Timeline, position: int) -> Json:
    span = timeline.shots[position]
    shot, project = span.shot, timeline.project
    low, high = shot_limits_frames(project, shot)
    clip = project.clips.get(shot.clip_hash or "")
    handle = None
    if clip is not None and clip.kind == "video":
        handle = (clip.length_ticks - shot.source_in_ticks) // project.rate.frame_ticks - shot.length_frames
    return {
        "id": shot.id,
        "name": shot.name,
        "clip": shot.clip_hash,
        "still": clip is not None and clip.kind == "still",
        "colour": shot.colour,
        "source_in_s": _s(shot.source_in_ticks),
        "source_in_frames": project.rate.frames_nearest(shot.source_in_ticks),
        "start": span.start_frame,
        "end": span.end_frame,
        "locked": shot.locked,
        "shortest": low,
        "longest": high,
        "handle": handle,
        "sound": clip is not None and clip.kind == "video" and clip.has_sound,
        "sound_gain_db": shot.sound_gain_db,
    }


def _line(span: LineSpan) -> Json:
    take = span.take
    return {
        "id": span.line.id,
        "role": span.line.role_id,
        "said": span.said,
        "own_words": span.line.said is not None,
        "scene_text": span.line.scene_text_id is not None and not span.line.caption_ids,
        "captions": span.line.caption_ids,
        "first_shot": span.line.first_shot_id,
        "state": span.state.value,
        "locked": span.line.locked,
        "fitted": span.line.placement is not None,
        "start_s": _s(span.start_ticks),
        "end_s": _s(span.end_ticks),
        "window_start_s": _s(span.window_start_ticks),
        "window_end_s": _s(span.window_end_ticks),
        "natural_s": _s(span.natural_ticks),
        "pace": round(span.pace, 4),
        "pause_s": _s(span.pause_ticks),
        "natural_pause_s": _s(span.natural_pause_ticks),
        "spill_s": _s(span.spill_ticks),
        "idle_s": _s(span.idle_ticks),
        "words": [[_s(start), _s(end)] for start, end in span.word_times_ticks()],
        "take": {"hash": take.sound_hash, "at_s": _s(span.sound_start_ticks), "text": take.text} if take else None,
    }


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


def _sum(line_sum: LineSum) -> Json:
    def rows(steps: Any) -> list[Json]:
        return [{"kind": step.kind, "label": step.label, "seconds": _s(step.ticks)} for step in steps]

    return {"speech": rows(line_sum.speech), "room": rows(line_sum.room), "length_s": _s(line_sum.length_ticks)}


def proposal_json(fitted: Fitted) -> Json:
    """A proposal beside what is there now; `fox-cadence fit --json` prints the same."""
    proposal, timeline = fitted.proposal, fitted.timeline
    total = 0
    shots: list[Json] = []
    for span, frames in zip(timeline.shots, proposal.shot_frames, strict=False):
        shots.append(
            {
                "id": span.shot.id,
                "start_frame": total,
                "end_frame": total + frames,
                "locked": span.shot.locked,
                "change_frames": frames - (span.end_frame - span.start_frame),
            }
        )
        total += frames
    texts = {caption.id: caption.text for caption in timeline.project.captions}
    return {
        "revision": fitted.revision,
        "status": proposal.status.value,
        "reason": proposal.reason,
        "cost": proposal.cost,
        "cost_before_rounding": proposal.exact_cost,
        "worst_violation_s": proposal.violation_s,
        "total_frames": total,
        "lines": [
            {
                "id": plan.line_id,
                "text": plan.text,
                "state": plan.state.value,
                "start_s": _s(plan.start_ticks),
                "end_s": _s(plan.end_ticks),
                "pace": round(plan.pace, 5),
                "pause_s": _s(plan.pause_ticks),
                "window_start_s": _s(plan.window_start_ticks),
                "window_end_s": _s(plan.window_end_ticks),
                "spill_s": _s(plan.spill_ticks),
                "idle_s": _s(plan.idle_ticks),
                "sum": _sum(plan.sum),
            }
            for plan in proposal.lines
        ],
        "shots": shots,
        "captions": [
            {"id": caption_id, "in_frame": start, "out_frame": end, "text": texts[caption_id]}
            for caption_id, start, end in proposal.captions
        ],
    }
