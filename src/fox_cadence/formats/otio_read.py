"""Timelines from OpenTimelineIO files (.otio), through its own library: one track of pictures, with the words
that our own files carry as markers. What can't be taken is remarked, and the rest is."""

import json
from collections.abc import Iterator, Mapping
from dataclasses import replace
from fractions import Fraction
from typing import Any

import opentimelineio as otio
from pydantic import TypeAdapter, ValidationError

from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.framing import Framing
from fox_cadence.core.interchange import ShotThere, TimelineThere, WordsThere
from fox_cadence.core.overlay import Laid
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.ticks import FRAME_RATES, TICKS_PER_SECOND, FrameRate
from fox_cadence.core.transition import TRANSITIONS, TransitionKind
from fox_cadence.errors import InputError
from fox_cadence.formats.otio_write import OURS, SHOT_FIELDS

LARGEST_BYTES = 64 << 20
MOST_SHOTS = 20_000
_FIELDS: dict[str, TypeAdapter[Any]] = {
    "framing": TypeAdapter(Framing),
    "adjustment": TypeAdapter(Adjustment),
    "laid": TypeAdapter(tuple[Laid, ...]),
}
_VALUES = frozenset({"RationalTime", "TimeRange", "TimeTransform", "V2d", "Box2d"})
_NO_FILE = (ValueError, KeyError, TypeError, RuntimeError, RecursionError)
_DEEPEST = 40
_SLOWEST, _FASTEST = 25, 400


def read_otio(data: bytes, name: str) -> TimelineThere:
    """A timeline from the bytes of a file; what can't be carried is remarked, and the rest is taken.

    Raises:
        InputError: it is no such file, or there is no picture in it.
    """
    if len(data) > LARGEST_BYTES:
        raise InputError(
            f"it has {len(data) >> 20} MB; a timeline has {LARGEST_BYTES >> 20} at the most", name
        )
    remarks: list[Remark] = []
    try:
        known = _known_only(json.loads(data), remarks)
        read = otio.adapters.read_from_string(json.dumps(known), "otio_json")
    except (otio.exceptions.OTIOError, *_NO_FILE) as error:
        why = (str(error) or type(error).__name__).splitlines()[0][:120]
        raise InputError(f"it is no timeline that can be read ({why})", name) from error
    if isinstance(read, otio.schema.SerializableCollection):
        read = next((each for each in read if isinstance(each, otio.schema.Timeline)), None)
    if not isinstance(read, otio.schema.Timeline):
        raise InputError("there is no timeline in it", name)
    return _Reading(read, name, remarks).whole()


def _known_only(value: Any, remarks: list[Remark]) -> Any:
    """A document without things of kinds that the library does not know, which it would refuse whole: in a
    track a gap stands for what says how long it is."""
    if isinstance(value, list):
        kept = [_stand_in(each, remarks) for each in value]
        return [_known_only(each, remarks) for each in kept if each is not None]
    if isinstance(value, dict):
        return {
            key: {"OTIO_SCHEMA": "MissingReference.1"} if _is_unknown(inner) else _known_only(inner, remarks)
            for key, inner in value.items()
        }
    return value


def _stand_in(value: Any, remarks: list[Remark]) -> Any:
    if not _is_unknown(value):
        return value
    schema, name = value["OTIO_SCHEMA"], str(value.get("name") or "something without a name")
    if isinstance(value.get("source_range"), dict):
        remarks.append(Remark(name, f"{schema} is not known; a plain colour stands for it"))
        return {"OTIO_SCHEMA": "Gap.1", "name": name, "source_range": value["source_range"]}
    remarks.append(Remark(name, f"{schema} is not known and does not say how long it is; it was left out"))
    return None


def _is_unknown(value: Any) -> bool:
    if not isinstance(value, dict) or "OTIO_SCHEMA" not in value:
        return False
    schema = str(value["OTIO_SCHEMA"]).rsplit(".", 1)[0]
    return schema not in _VALUES and schema not in otio.core.type_version_map()


class _Reading:
    def __init__(self, timeline: Any, file_name: str, remarks: list[Remark]) -> None:
        self._timeline = timeline
        self._file_name = file_name
        self._remarks = remarks
        ours = timeline.metadata.get(OURS, {})
        self._ours: Mapping[str, Any] = ours if hasattr(ours, "get") else {}
        self._rate = self._told_rate()

    def whole(self) -> TimelineThere:
        tracks = [
            each
            for each in self._timeline.tracks
            if isinstance(each, otio.schema.Track) and each.kind == otio.schema.TrackKind.Video
        ]
        others = len(self._timeline.tracks) - len(tracks)
        if not tracks:
            raise InputError("it has no track with pictures", self._file_name)
        if others:
            self._say("sound", f"{others} other tracks were left out; bring in their sound as the bed")
        if len(tracks) > 1:
            self._say("tracks", f"only the first of {len(tracks)} tracks of pictures was taken")
        shots = list(self._shots(tracks[0], 0))
        if not shots:
            raise InputError("it has no shots", self._file_name)
        return TimelineThere(
            name=str(self._timeline.name or ""),
            shots=tuple(shots[:MOST_SHOTS]),
            words=tuple(self._words(tracks[0])),
            rate=self._rate,
            size=self._size(),
            remarks=tuple(self._remarks),
        )

    def _say(self, place: str, message: str) -> None:
        self._remarks.append(Remark(place, message))

    def _told_rate(self) -> FrameRate | None:
        told = self._ours.get("rate")
        if told is not None:
            try:
                return FrameRate(numerator=int(told[0]), denominator=int(told[1]))
            except (ValueError, TypeError, IndexError):
                self._say("rate", "it says a rate that is none")
        start = self._timeline.global_start_time
        rates = [float(start.rate)] if start is not None else []
        rates += [
            float(clip.source_range.duration.rate)
            for clip in self._timeline.find_clips()
            if clip.source_range is not None
        ][:1]
        for found in rates:
            for rate in FRAME_RATES.values():
                if abs(float(rate.fraction) - found) < 0.01:
                    return rate
        return None

    def _size(self) -> tuple[int, int] | None:
        try:
            return int(self._ours["width"]), int(self._ours["height"])
        except (KeyError, TypeError, ValueError):
            return None

    @property
    def _used_rate(self) -> FrameRate:
        return self._rate or FrameRate(numerator=30)

    def _frames(self, time: Any) -> int:
        return round(Fraction(time.to_seconds()) * self._used_rate.fraction)

    def _shots(self, track: Any, deep: int) -> Iterator[ShotThere]:
        made: list[ShotThere] = []
        earlier = 0
        for place, item in enumerate(track):
            where = str(getattr(item, "name", "") or f"item {place + 1}")
            if isinstance(item, otio.schema.Transition):
                if made:
                    made[-1] = self._with_transition(made[-1], item, where)
                    earlier = max(0, self._frames(item.in_offset))
                continue
            frames = self._length(item, where)
            if frames is None:
                continue
            if isinstance(item, otio.schema.Gap):
                made.append(ShotThere(name="Gap", frames=frames))
            elif isinstance(item, otio.schema.Clip):
                made.append(self._shot(item, where, frames))
            else:
                made += self._nested(item, where, frames, deep)
            if earlier and len(made) > 1:
                self._begun_earlier(made, earlier)
            earlier = 0
        yield from made

    def _begun_earlier(self, made: list[ShotThere], frames: int) -> None:
        """The newest shot with material from before its cut, which the transition into it shows."""
        shot = made[-1]
        step = self._used_rate.frame_ticks * shot.speed_percent // 100
        there = frames if not shot.media or not step else min(frames, shot.source_in_ticks // step)
        begins = max(0, shot.source_in_ticks - there * step)
        made[-1] = replace(shot, frames=shot.frames + there, source_in_ticks=begins)
        if there < frames:
            before = made[-2]
            made[-2] = replace(before, transition_frames=max(0, before.transition_frames - frames + there))
            self._say(shot.name, "it has too little material for its transition, which was made shorter")

    def _length(self, item: Any, where: str) -> int | None:
        try:
            frames = self._frames(item.duration())
        except (
            otio.exceptions.OTIOError,
            AttributeError,
            TypeError,
            ValueError,
            RuntimeError,
        ):
            self._say(
                where, "it is of a kind that is not known, or does not say how long it is; it was left out"
            )
            return None
        if frames < 1:
            self._say(where, "it lasts no frame and was left out")
            return None
        return frames

    def _nested(self, item: Any, where: str, frames: int, deep: int) -> list[ShotThere]:
        """Of a track in a track its shots, cut to its length; of a stack its first track of pictures."""
        inner = item
        if isinstance(item, otio.schema.Stack):
            inner = next((each for each in item if isinstance(each, otio.schema.Track)), None)
            if inner is None or len(item) > 1:
                self._say(where, "of what is stacked in it only the first track was taken")
        if inner is None or not isinstance(inner, otio.schema.Track) or deep > _DEEPEST:
            self._say(where, "what is nested in it could not be taken; a plain colour stands for it")
            return [ShotThere(name=where, frames=frames)]
        found: list[ShotThere] = []
        left = frames
        for shot in self._shots(inner, deep + 1):
            if left < 1:
                break
            found.append(replace(shot, frames=min(shot.frames, left), transition_frames=0))
            left -= found[-1].frames
        return found + ([ShotThere(name=where, frames=left)] if left else [])

    def _shot(self, item: Any, where: str, frames: int) -> ShotThere:
        media, colour = self._media(item, where)
        start = item.source_range.start_time if item.source_range is not None else None
        begins = 0.0 if start is None else start.to_seconds()
        reference = item.media_reference
        available = getattr(reference, "available_range", None)
        clock = available is None and begins > 0
        if available is not None:
            begins -= available.start_time.to_seconds()
        return ShotThere(
            name=where,
            frames=frames,
            media=media,
            colour=colour,
            source_in_ticks=max(0, round(begins * TICKS_PER_SECOND)),
            source_is_clock=clock,
            speed_percent=self._speed(item, where),
            **self._ours_of(item, where),
        )

    def _ours_of(self, item: Any, where: str) -> dict[str, Any]:
        """How the shot is framed, adjusted and laid over, where we wrote it."""
        told = item.metadata.get(OURS, {})
        if not hasattr(told, "get") or not all(isinstance(told.get(name), str) for name in SHOT_FIELDS):
            return {}
        try:
            return {name: _FIELDS[name].validate_json(told[name]) for name in SHOT_FIELDS}
        except ValidationError:
            self._say(where, "how it is framed, adjusted and laid over can't be read; it is shown plainly")
            return {}

    def _media(self, item: Any, where: str) -> tuple[str, str]:
        reference = item.media_reference
        if isinstance(reference, otio.schema.ExternalReference):
            url = str(reference.target_url or "")
            return otio.url_utils.filepath_from_url(url).replace("\\", "/").rsplit("/", 1)[-1], "#000000"
        if isinstance(reference, otio.schema.GeneratorReference):
            colour = str(reference.parameters.get("color", "#000000"))
            is_colour = (
                len(colour) == 7
                and colour[0] == "#"
                and all(c in "0123456789abcdefABCDEF" for c in colour[1:])
            )
            return "", colour if is_colour else "#000000"
        if not isinstance(reference, otio.schema.MissingReference) and reference is not None:
            self._say(
                where, "its media is named in a way that is not known; a file of its name is looked for"
            )
        return where, "#000000"

    def _speed(self, item: Any, where: str) -> int:
        percent = 100
        for effect in item.effects:
            if isinstance(effect, otio.schema.FreezeFrame):
                percent = 0
            elif isinstance(effect, otio.schema.LinearTimeWarp):
                percent = round(float(effect.time_scalar) * 100)
                if not _SLOWEST <= percent <= _FASTEST:
                    self._say(where, f"a speed of {percent} % is not possible here; it plays at its own")
                    percent = 100
            else:
                self._say(
                    where, f"the effect {effect.name or effect.effect_name or 'without a name'} was left out"
                )
        return percent

    def _with_transition(self, shot: ShotThere, item: Any, where: str) -> ShotThere:
        """Ours runs on after the cut, and what begins before it is put before the incoming shot."""
        before, after = self._frames(item.in_offset), self._frames(item.out_offset)
        told = item.metadata.get(OURS, {})
        said = told.get("kind") if hasattr(told, "get") else None
        kind: TransitionKind = next((each for each in TRANSITIONS if each == said), "dissolve")
        usual = (otio.schema.TransitionTypes.SMPTE_Dissolve, otio.schema.TransitionTypes.Custom)
        if item.transition_type not in usual:
            self._say(where, f"the transition {item.transition_type} became a dissolve")
        frames = max(0, before) + max(0, after)
        return replace(
            shot, frames=shot.frames + max(0, after), transition_frames=frames, transition_kind=kind
        )

    def _words(self, track: Any) -> Iterator[WordsThere]:
        for marker in track.markers:
            told = marker.metadata.get(OURS, {})
            told = told if hasattr(told, "get") else {}
            kind = told.get("kind")
            text = str(told.get("text") or marker.name or "").strip()
            if not text or (kind == "line" and told.get("shown")):
                continue
            if kind not in ("caption", "line"):
                self._say(f"marker {text[:40]}", "it is none of our words and was left out")
                continue
            start = round(marker.marked_range.start_time.to_seconds() * TICKS_PER_SECOND)
            length = round(marker.marked_range.duration.to_seconds() * TICKS_PER_SECOND)
            said = told.get("said")
            yield WordsThere(
                text=text,
                start_ticks=max(0, start),
                end_ticks=max(0, start) + max(1, length),
                role=str(told.get("role") or ""),
                said=None if said is None else str(said),
            )
