"""Proposals, their reasons and their remedies as JSON; `fox-cadence fit --json` prints the first."""

from typing import Any

from fox_cadence.actions.fitting import Fitted
from fox_cadence.core.fit.changes import changes
from fox_cadence.core.fit.plan import LinePlan, planned_words
from fox_cadence.core.fit.reasons import Reasons, caption_reason, shot_use
from fox_cadence.core.fit.remedies import Remedy, needs_remedy
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.shot_limits import shot_limits_frames
from fox_cadence.web.timeline_view import seconds, sum_json

Json = dict[str, Any]


def proposal_json(fitted: Fitted) -> Json:
    """A proposal beside what is there now."""
    proposal, timeline = fitted.proposal, fitted.timeline
    solved = proposal.status is Status.SOLVED
    conflict = fitted.conflict
    return {
        "revision": fitted.revision,
        "status": proposal.status.value,
        "reason": conflict.reason if conflict is not None else proposal.reason,
        "conflict": [wish.label for wish in conflict.wishes] if conflict else [],
        "outside": list(proposal.outside),
        "let_go": [wish.label for wish in conflict.let_go] if conflict else [],
        "let_go_edits": [edit.model_dump() for wish in conflict.let_go for edit in wish.edits] if conflict else [],
        "cost": proposal.cost,
        "cost_before_rounding": proposal.exact_cost,
        "misses": [
            {"rule": miss.rule, "object": miss.object_id, "amount": miss.amount, "unit": miss.unit}
            for miss in proposal.misses
        ],
        "total_frames": _shots(fitted)[-1]["end_frame"] if solved else 0,
        "lines": [_line(plan) for plan in proposal.lines],
        "shots": _shots(fitted),
        "captions": _captions(fitted),
        "changes": [
            {"kind": change.kind, "id": change.object_id, "text": change.text, "seconds": seconds(change.size_ticks)}
            for change in (changes(timeline, proposal) if solved else ())
        ],
        "keep": {"line_ids": sorted(fitted.keep.line_ids), "shot_ids": sorted(fitted.keep.shot_ids)},
    }


def trial_json(fitted: Fitted, chosen_line: str) -> Json:
    """A proposal for as long as a drag lasts: what the sheet draws of it, and the sum of the chosen line."""
    proposal = fitted.proposal
    solved = proposal.status is Status.SOLVED
    return {
        "revision": fitted.revision,
        "status": proposal.status.value,
        "reason": proposal.reason,
        "total_frames": _shots(fitted)[-1]["end_frame"] if solved else 0,
        "lines": [_line(plan, with_sum=plan.line_id == chosen_line) for plan in proposal.lines],
        "shots": _shots(fitted),
        "captions": [{"id": i, "in_frame": start, "out_frame": end} for i, start, end in proposal.captions],
        "changes": [],
    }


def _shots(fitted: Fitted) -> list[Json]:
    found: list[Json] = []
    at = 0
    for span, frames in zip(fitted.timeline.shots, fitted.proposal.shot_frames, strict=False):
        last = len(found) + 1 == len(fitted.timeline.shots)
        found.append(
            {
                "id": span.shot.id,
                "start_frame": at,
                "end_frame": at + frames,
                "locked": span.shot.locked,
                "change_frames": frames - (span.end_frame - span.start_frame),
            }
        )
        at += frames - (0 if last else span.shot.transition_frames)
    return found


def _line(plan: LinePlan, with_sum: bool = True) -> Json:
    return {
        "id": plan.line_id,
        "text": plan.text,
        "state": plan.state.value,
        "start_s": seconds(plan.start_ticks),
        "end_s": seconds(plan.end_ticks),
        "pace": round(plan.pace, 5),
        "pause_s": seconds(plan.pause_ticks + plan.written_ticks),
        "window_start_s": seconds(plan.window.start_ticks),
        "window_end_s": seconds(plan.window.end_ticks),
        "early_s": seconds(plan.early_ticks),
        "late_s": seconds(plan.late_ticks),
        "spill_s": seconds(plan.spill_ticks),
        "idle_s": seconds(plan.idle_ticks),
        "sum": sum_json(plan.sum) if with_sum else None,
        "wants_remedy": needs_remedy(plan),
    }


def _captions(fitted: Fitted) -> list[Json]:
    proposal, timeline = fitted.proposal, fitted.timeline
    if proposal.status is not Status.SOLVED:
        return []
    words = planned_words(timeline, proposal.lines)
    found: list[Json] = []
    for position, (span, (caption_id, start, end)) in enumerate(zip(timeline.captions, proposal.captions, strict=True)):
        times = words.get(span.line_id or "", ())
        spoken = 0 < span.words[1] <= len(times) and span.words[1] > span.words[0]
        last = times[span.words[1] - 1][1] if spoken else None
        found.append(
            {
                "id": caption_id,
                "in_frame": start,
                "out_frame": end,
                "text": span.caption.text,
                "why": caption_reason(timeline, proposal, position, last),
            }
        )
    return found


def line_why(fitted: Fitted, position: int) -> list[Json]:
    """The rules that bind a line."""
    basis = fitted.proposal.basis
    if basis is None:
        return []
    found = Reasons(fitted.timeline, basis).of_line(position)
    return [{"text": reason.text, "press": round(reason.press, 3)} for reason in found]


def shot_why(fitted: Fitted, position: int) -> Json:
    """Who uses the time of a shot, what it could give, and the rules that bind it."""
    timeline, basis = fitted.timeline, fitted.proposal.basis
    low, _ = shot_limits_frames(timeline.project, position)
    use = shot_use(timeline, position, low)
    reasons = Reasons(timeline, basis).of_shot(position) if basis is not None else ()
    return {
        "spoken": [{"line": line, "seconds": seconds(ticks)} for line, ticks in use.spoken],
        "idle_s": seconds(use.idle_ticks),
        "handle_before": use.handle_before,
        "handle_after": use.handle_after,
        "could_give": use.could_give,
        "why": [{"text": reason.text, "press": round(reason.press, 3)} for reason in reasons],
    }


def remedy_json(remedy: Remedy) -> Json:
    return {
        "kind": remedy.kind.value,
        "label": remedy.label,
        "gain_s": seconds(remedy.gain_ticks),
        "text": remedy.text,
        "estimated": remedy.estimated,
        "effects": remedy.effects,
        "state": remedy.state.value,
        "pace": round(remedy.pace, 3),
        "edits": [edit.model_dump() for edit in remedy.edits],
    }
