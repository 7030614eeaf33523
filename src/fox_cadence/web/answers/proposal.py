"""Proposals, their reasons and their remedies."""

from typing import Any

from fox_cadence.actions.fitting import Fitted
from fox_cadence.core.fit.changes import changes
from fox_cadence.core.fit.plan import planned_words
from fox_cadence.core.fit.reasons import Reasons, caption_reason, shot_use
from fox_cadence.core.fit.remedies import Remedy
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.shot_limits import shot_limits_frames
from fox_cadence.core.timeline import ShotSpan, Timeline
from fox_cadence.web.answers.proposal_shapes import (
    CaptionThen,
    ChangeJson,
    LineThen,
    MissJson,
    ProposalJson,
    ShotThen,
)
from fox_cadence.web.answers.rows import line_place, sum_json
from fox_cadence.web.answers.shapes import LinePlace, Row
from fox_cadence.web.answers.units import seconds

_SEEN_S = 2e-4
"""A trial does not tell of what would move by less: at the sheet's largest scale it is a fiftieth of a pixel.
"""


def proposal_json(fitted: Fitted, key: str = "") -> ProposalJson:
    """A proposal beside what is there now; `key` names it."""
    proposal = fitted.proposal
    starts = _starts(fitted.shots_then())
    made = _without_rows(fitted, key)
    conflict = fitted.conflict
    if conflict is not None:
        made["reason"] = conflict.reason
        made["conflict"] = [wish.label for wish in conflict.wishes]
        made["let_go"] = [wish.label for wish in conflict.let_go]
        made["let_go_edits"] = [edit.model_dump() for wish in conflict.let_go for edit in wish.edits]
    if proposal.status is Status.SOLVED:
        rate = fitted.project.rate
        origins = [rate.ticks(starts[line.first_shot_id]) for line in fitted.project.lines]
        made["then"] = {
            "shots": _shots(fitted),
            "captions": _captions(fitted, starts),
            "lines": [
                {**line_place(plan, plan.line_id, origin), "sum": sum_json(plan.sum)}
                for plan, origin in zip(proposal.lines, origins, strict=True)
            ],
        }
        made["changes"] = _changes(fitted)
        made["misses"] = _misses(fitted)
    return made


def trial_json(fitted: Fitted, now: Timeline, chosen_line: str) -> ProposalJson:
    """A proposal for as long as a drag lasts: only what would stand otherwise than it does in `now`, the
    timeline the page shows, and the sum of the chosen line."""
    proposal = fitted.proposal
    made = _without_rows(fitted, "")
    if proposal.status is not Status.SOLVED:
        return made
    rate = fitted.project.rate
    then = _starts(fitted.shots_then())
    starts = _starts(now.shots)
    lengths = {span.shot.id: span.end_frame - span.start_frame for span in now.shots}
    spans = {span.line.id: span for span in now.lines}
    shown = {
        span.caption.id: (
            span.in_frame - starts[span.caption.shot_id],
            span.out_frame - starts[span.caption.shot_id],
        )
        for span in now.captions
    }
    lines: list[LineThen] = []
    for line, plan in zip(fitted.project.lines, proposal.lines, strict=True):
        place = line_place(plan, line.id, rate.ticks(then[line.first_shot_id]))
        if line.id == chosen_line:
            lines.append({**place, "sum": sum_json(plan.sum)})
        elif _differs(place, line_place(spans[line.id], line.id, rate.ticks(starts[line.first_shot_id]))):
            lines.append({**place, "sum": None})
    captions = [
        each
        for each in _caption_frames(fitted, then)
        if shown[each["id"]] != (each["in_frame"], each["out_frame"])
    ]
    shots = [each for each in _shots(fitted) if lengths[each["id"]] != each["length"]]
    made["then"] = {"shots": shots, "captions": captions, "lines": lines}
    return made


def _without_rows(fitted: Fitted, key: str) -> ProposalJson:
    proposal = fitted.proposal
    return {
        "key": key,
        "revision": fitted.revision,
        "status": proposal.status.value,
        "reason": proposal.reason,
        "conflict": [],
        "outside": list(proposal.outside),
        "let_go": [],
        "let_go_edits": [],
        "then": {"shots": [], "captions": [], "lines": []},
        "changes": [],
        "misses": [],
    }


def proposal_in_the_piece(fitted: Fitted) -> Row:
    """A proposal for a terminal: as the pages have it, with all times counted from the start of the piece."""
    proposal, rate = fitted.proposal, fitted.project.rate
    made: Row = {**proposal_json(fitted)}
    del made["then"], made["key"]
    spans = {span.shot.id: span for span in fitted.shots_then()}
    now = {span.shot.id: span.end_frame - span.start_frame for span in fitted.timeline.shots}
    captions = _captions(fitted, _starts(fitted.shots_then())) if proposal.status is Status.SOLVED else []
    shot_of = {caption.id: caption.shot_id for caption in fitted.project.captions}
    return made | {
        "cost": proposal.cost,
        "cost_before_rounding": proposal.exact_cost,
        "keep": {"line_ids": sorted(fitted.keep.line_ids), "shot_ids": sorted(fitted.keep.shot_ids)},
        "total_frames": max((span.end_frame for span in spans.values()), default=0),
        "total_s": seconds(rate.ticks(max((span.end_frame for span in spans.values()), default=0))),
        "lines": [
            {
                **line_place(plan, plan.line_id, 0),
                "text": plan.text,
                "natural_s": seconds(sum(length.ticks for length in plan.natural)),
                "early_s": seconds(plan.early_ticks),
                "pause_s": seconds(plan.pause_ticks + plan.written_ticks),
                "sum": sum_json(plan.sum),
            }
            for plan in proposal.lines
        ],
        "shots": [
            {
                "id": span.shot.id,
                "start_frame": span.start_frame,
                "end_frame": span.end_frame,
                "locked": span.shot.locked,
                "change_frames": span.end_frame - span.start_frame - now[span.shot.id],
            }
            for span in spans.values()
        ],
        "captions": [
            {
                **caption,
                "in_frame": caption["in_frame"] + spans[shot_of[caption["id"]]].start_frame,
                "out_frame": caption["out_frame"] + spans[shot_of[caption["id"]]].start_frame,
            }
            for caption in captions
        ],
    }


def _starts(shots: tuple[ShotSpan, ...]) -> dict[str, int]:
    return {span.shot.id: span.start_frame for span in shots}


def _differs(place: LinePlace, other: LinePlace) -> bool:
    """Whether a line would be drawn otherwise."""
    if place["state"] != other["state"] or place["wants_remedy"] != other["wants_remedy"]:
        return True
    return any(
        abs(a - b) > _SEEN_S
        for a, b in (
            (place["start_s"], other["start_s"]),
            (place["end_s"], other["end_s"]),
            (place["window_start_s"], other["window_start_s"]),
            (place["window_end_s"], other["window_end_s"]),
            (place["late_s"], other["late_s"]),
            (place["spill_s"], other["spill_s"]),
            (place["idle_s"], other["idle_s"]),
            (place["pace"], other["pace"]),
        )
    )


def _shots(fitted: Fitted) -> list[ShotThen]:
    return [
        {"id": shot.id, "length": frames}
        for shot, frames in zip(fitted.project.shots, fitted.proposal.shot_frames, strict=False)
    ]


def _caption_frames(fitted: Fitted, starts: dict[str, int]) -> list[CaptionThen]:
    shot_of = {caption.id: caption.shot_id for caption in fitted.project.captions}
    return [
        {"id": i, "in_frame": first - starts[shot_of[i]], "out_frame": last - starts[shot_of[i]]}
        for i, first, last in fitted.proposal.captions
    ]


def _captions(fitted: Fitted, starts: dict[str, int]) -> list[CaptionThen]:
    proposal, timeline = fitted.proposal, fitted.timeline
    words = planned_words(timeline, proposal.lines)
    found: list[CaptionThen] = []
    for position, (span, caption) in enumerate(
        zip(timeline.captions, _caption_frames(fitted, starts), strict=True)
    ):
        times = words.get(span.line_id or "", ())
        spoken = 0 < span.words[1] <= len(times) and span.words[1] > span.words[0]
        last = times[span.words[1] - 1][1] if spoken else None
        found.append({**caption, "why": caption_reason(timeline, proposal, position, last)})
    return found


def _changes(fitted: Fitted) -> list[ChangeJson]:
    return [
        {
            "kind": change.kind,
            "id": change.object_id,
            "text": change.text,
            "seconds": seconds(change.size_ticks),
        }
        for change in changes(fitted.timeline, fitted.proposal)
    ]


def _misses(fitted: Fitted) -> list[MissJson]:
    return [
        {"rule": miss.rule, "object": miss.object_id, "amount": miss.amount, "unit": miss.unit}
        for miss in fitted.proposal.misses
    ]


def line_why(fitted: Fitted, position: int) -> list[Row]:
    """The rules that bind a line."""
    basis = fitted.proposal.basis
    if basis is None:
        return []
    found = Reasons(fitted.timeline, basis).of_line(position)
    return [{"text": reason.text, "press": round(reason.press, 3)} for reason in found]


def shot_why(fitted: Fitted, position: int) -> Row:
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


def remedy_json(remedy: Remedy) -> dict[str, Any]:
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
