"""Timelines as OpenTimelineIO files (.otio), through its own library.

A shot is a clip, a plain colour a generator, words are markers on the track with what they are in our
metadata. A transition lies after the end of the outgoing clip, whose material it runs on in.
"""

import json
from collections.abc import Iterator, Mapping
from typing import Any

import opentimelineio as otio

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.timeline import Timeline

OURS = "fox_cadence"

SHOT_FIELDS = ("framing", "adjustment", "laid")
"""What of a shot only we read: each as JSON in the metadata of its clip."""


def write_otio(timeline: Timeline, media: Mapping[str, str]) -> str:
    """A timeline as the text of a file; `media` are the names of the files of clips, by hash."""
    project = timeline.project
    rate = float(project.rate.fraction)

    def span(start: float, frames: float) -> Any:
        return otio.opentime.TimeRange(
            otio.opentime.RationalTime(start, rate), otio.opentime.RationalTime(frames, rate)
        )

    made = otio.schema.Timeline(project.name, global_start_time=otio.opentime.RationalTime(0, rate))
    made.metadata[OURS] = {
        "width": project.width,
        "height": project.height,
        "rate": [project.rate.numerator, project.rate.denominator],
        "language": project.language,
    }
    track = otio.schema.Track("Picture", kind=otio.schema.TrackKind.Video)
    made.tracks.append(track)
    for place, found in enumerate(timeline.shots):
        shot = found.shot
        following = timeline.shots[place + 1] if place + 1 < len(timeline.shots) else None
        overlap = max(0, found.end_frame - following.start_frame) if following else 0
        clip = project.clips.get(shot.clip_hash or "")
        if clip is None:
            reference = otio.schema.GeneratorReference(
                "plain colour", "SolidColor", None, {"color": shot.colour}
            )
        else:
            length = project.rate.frames_floor(clip.length_ticks) if clip.length_ticks else None
            reference = otio.schema.ExternalReference(
                f"media/{media[clip.hash]}", span(0, length) if length else None
            )
        item = otio.schema.Clip(
            shot.name,
            reference,
            span(
                project.rate.frames_nearest(shot.source_in_ticks),
                found.end_frame - found.start_frame - overlap,
            ),
        )
        if shot.speed_percent == 0:
            item.effects.append(otio.schema.FreezeFrame("frozen"))
        elif shot.speed_percent != 100:
            item.effects.append(otio.schema.LinearTimeWarp("speed", shot.speed_percent / 100))
        item.metadata[OURS] = {name: json.dumps(shot.model_dump(mode="json")[name]) for name in SHOT_FIELDS}
        track.append(item)
        if overlap:
            plain = shot.transition_kind == "dissolve"
            kind = otio.schema.TransitionTypes.SMPTE_Dissolve if plain else otio.schema.TransitionTypes.Custom
            move = otio.schema.Transition(
                shot.transition_kind,
                kind,
                otio.opentime.RationalTime(0, rate),
                otio.opentime.RationalTime(overlap, rate),
            )
            move.metadata[OURS] = {"kind": shot.transition_kind, "colour": shot.transition_colour}
            track.append(move)
    for marker in _markers(timeline, span):
        track.markers.append(marker)
    return str(otio.adapters.write_to_string(made, "otio_json"))


def _markers(timeline: Timeline, span: Any) -> Iterator[Any]:
    """Captions, and lines that are spoken otherwise than they are shown or not shown at all."""
    project, rate = timeline.project, timeline.project.rate
    roles = {role.id: role.name for role in project.roles}
    lines = {found.line.id: found for found in timeline.lines}
    shown_by: dict[str, int] = {}
    for caption in timeline.captions:
        line = lines.get(caption.line_id or "")
        told: dict[str, Any] = {"kind": "caption", "text": caption.caption.text}
        if line is None:
            told["said"] = ""
        else:
            shown_by[line.line.id] = shown_by.get(line.line.id, 0) + 1
            told["role"] = roles[line.line.role_id]
            if line.line.said is not None and shown_by[line.line.id] == 1:
                told["said"] = line.line.said
        yield _marker(
            caption.caption.text, told, span(caption.in_frame, caption.out_frame - caption.in_frame), "GREEN"
        )
    for found in timeline.lines:
        first, end = rate.frames_floor(found.start_ticks), rate.frames_ceil(found.end_ticks)
        told = {
            "kind": "line",
            "text": found.said,
            "role": roles[found.line.role_id],
            "shown": found.line.id in shown_by,
            "words": [
                [word.text, round(start / TICKS_PER_SECOND, 4), round(until / TICKS_PER_SECOND, 4)]
                for word, (start, until) in zip(found.words, found.word_times_ticks(), strict=False)
            ],
        }
        yield _marker(found.said, told, span(first, max(1, end - first)), "ORANGE")


def _marker(name: str, told: dict[str, Any], where: Any, colour: str) -> Any:
    return otio.schema.Marker(name[:120], where, colour, {OURS: told})
