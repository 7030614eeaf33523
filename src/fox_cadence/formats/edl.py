"""Timelines as edit decision lists in the form of the CMX 3600: an event for each shot, in timecode.

Our own reader and writer, because what it can say is little: one track of pictures, cuts, dissolves, speeds.
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from fox_cadence.core.adjustment import UNADJUSTED
from fox_cadence.core.framing import PLAIN
from fox_cadence.core.interchange import ShotThere, TimelineThere
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import ShotSpan, Timeline
from fox_cadence.errors import InputError

LARGEST_BYTES = 16 << 20
_CODE = r"\d{1,2}[:;.]\d{2}[:;.]\d{2}[:;.]\d{2}"
_EVENT = re.compile(
    rf"(?P<number>\d{{1,6}})\s+(?P<reel>\S+)\s+(?P<track>\S+)\s+(?P<kind>[A-Z]\w*)\s+(?:(?P<frames>\d+)\s+)?"
    rf"(?P<in>{_CODE})\s+(?P<out>{_CODE})\s+(?P<from>{_CODE})\s+(?P<to>{_CODE})\s*"
)
_SPEED = re.compile(rf"M2\s+(?P<reel>\S+)\s+(?P<fps>-?\d+(?:\.\d+)?)\s+(?P<in>{_CODE})")
_NAME = re.compile(r"\*\s*(?P<which>FROM|TO) CLIP NAME:\s*(?P<name>.+)", re.IGNORECASE)
_REEL_LETTERS = 8
_BLACK = frozenset({"BL", "BLK", "BLACK"})


def timecode(frame: int, rate: FrameRate) -> str:
    """Hours, minutes, seconds and frames, with dropped numbers at 30000/1001 and 60000/1001 (SMPTE ST
    12-1)."""
    base, dropped = _base(rate), _dropped(rate)
    if dropped:
        ten, rest = divmod(frame, 600 * base - 9 * dropped)
        frame += 9 * dropped * ten + (
            dropped * ((rest - dropped) // (60 * base - dropped)) if rest > dropped else 0
        )
    seconds, frames = divmod(frame, base)
    sign = ";" if dropped else ":"
    return f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}{sign}{frames:02d}"


def frame_of(code: str, rate: FrameRate, drops: bool) -> int:
    """The frame of a timecode, counted from 00:00:00:00. Raises ValueError for one that is none."""
    hours, minutes, seconds, frames = (int(part) for part in re.split(r"[:;.]", code))
    base = _base(rate)
    if minutes > 59 or seconds > 59 or frames >= base:
        raise ValueError(f"{code} is no timecode at {rate.label} frames a second")
    count = ((hours * 60 + minutes) * 60 + seconds) * base + frames
    if not drops:
        return count
    dropped = _dropped(rate) or 2
    whole = hours * 60 + minutes
    return count - dropped * (whole - whole // 10)


def _base(rate: FrameRate) -> int:
    return -(-rate.numerator // rate.denominator)


def _dropped(rate: FrameRate) -> int:
    """How many numbers a minute leaves out."""
    return _base(rate) // 15 if rate.denominator != 1 and _base(rate) in (30, 60) else 0


def write_edl(timeline: Timeline, media: Mapping[str, str]) -> tuple[str, tuple[str, ...]]:
    """A timeline as the text of a file, and what it can't carry; `media` are the names of the files of clips,
    by hash."""
    project, rate = timeline.project, timeline.project.rate
    lines = [
        f"TITLE: {' '.join(project.name.split())[:70]}",
        f"FCM: {'' if _dropped(rate) else 'NON-'}DROP FRAME",
        "",
    ]
    left: dict[str, None] = {}
    before: ShotSpan | None = None
    for number, span in enumerate(timeline.shots, 1):
        overlap = max(0, before.end_frame - span.start_frame) if before else 0
        following = timeline.shots[number] if number < len(timeline.shots) else None
        end = following.start_frame if following else span.end_frame
        into = _source(span, media, rate)
        length = end - span.start_frame
        if overlap and before is not None:
            out = _source(before, media, rate)
            passed = round((span.start_frame - before.start_frame) * before.shot.speed_percent / 100)
            at = timecode(out.start + passed, rate)
            record = timecode(span.start_frame, rate)
            lines.append(f"{number:03d}  {out.reel:<8} V     C        {at} {at} {record} {record}")
            if before.shot.transition_kind != "dissolve":
                kind = before.shot.transition_kind
                left[f"the transition after shot {number - 1} ({kind}) became a dissolve"] = None
        how = f"D    {overlap:03d}" if overlap else "C       "
        passed = round(length * span.shot.speed_percent / 100) if span.shot.clip_hash else length
        lines.append(
            f"{number:03d}  {into.reel:<8} V     {how} {timecode(into.start, rate)} "
            f"{timecode(into.start + passed, rate)} {timecode(span.start_frame, rate)} {timecode(end, rate)}"
        )
        if into.name and span.shot.speed_percent != 100:
            speed = float(rate.fraction) * span.shot.speed_percent / 100
            lines.append(
                f"M2   {into.reel:<8}       {speed:05.1f}                {timecode(into.start, rate)}"
            )
        lines.append(f"* {'TO' if overlap else 'FROM'} CLIP NAME: {into.name or span.shot.name}")
        if span.shot.framing != PLAIN:
            left["how shots are framed and move"] = None
        if span.shot.adjustment != UNADJUSTED:
            left["adjustments of pictures"] = None
        before = span
    if timeline.captions or timeline.lines:
        left["captions and narration"] = None
    return "\n".join(lines) + "\n", tuple(left)


@dataclass(frozen=True, slots=True)
class _Source:
    reel: str
    name: str
    start: int


def _source(span: ShotSpan, media: Mapping[str, str], rate: FrameRate) -> _Source:
    name = media.get(span.shot.clip_hash or "", "")
    reel = re.sub(r"[^A-Z0-9]", "", name.rsplit(".", 1)[0].upper())[:_REEL_LETTERS] if name else "BL"
    return _Source(reel or "AX", name, rate.frames_nearest(span.shot.source_in_ticks) if name else 0)


@dataclass(slots=True)
class _Event:
    number: str
    reel: str
    kind: str
    transition: int
    source: tuple[int, int]
    record: tuple[int, int]
    name: str = ""
    speed: float | None = None


def read_edl(data: bytes, name: str, rate: FrameRate) -> TimelineThere:
    """A timeline from the bytes of a file, at the rate of the piece; what can't be carried is remarked.

    Raises:
        InputError: there is no event in it that can be read.
    """
    if len(data) > LARGEST_BYTES:
        raise InputError(
            f"it has {len(data) >> 20} MB; a list of edits has {LARGEST_BYTES >> 20} at the most", name
        )
    remarks: list[Remark] = []
    text = data.decode("utf-8", "replace")
    title = next((line[6:].strip() for line in text.splitlines() if line.startswith("TITLE:")), "")
    events = sorted(_events(text, rate, remarks), key=lambda event: event.record)
    shots = list(_shots(events, rate, remarks))
    if not shots:
        raise InputError("there is no event of a picture in it that can be read", name)
    return TimelineThere(title, tuple(shots), rate=rate, remarks=tuple(remarks))


def _events(text: str, rate: FrameRate, remarks: list[Remark]) -> Iterator[_Event]:
    drops = False
    last: _Event | None = None
    sounds = 0
    for number, raw in enumerate(text.splitlines(), 1):
        line = raw.strip().lstrip("\ufeff")
        if line.upper().startswith("FCM:"):
            drops = "NON" not in line.upper()
        elif (found := _EVENT.fullmatch(line)) is not None:
            if last is not None:
                yield last
            last = None
            if not found["track"].upper().startswith(("V", "B")):
                sounds += 1
                continue
            try:
                codes = [
                    frame_of(found[each], rate, drops or ";" in found[each])
                    for each in ("in", "out", "from", "to")
                ]
            except ValueError as error:
                remarks.append(Remark(f"line {number}", f"{error}; the event was left out"))
                continue
            kind = found["kind"].upper()
            if kind[0] not in "CD":
                remarks.append(Remark(f"line {number}", f"the transition {kind} became a dissolve"))
            last = _Event(
                found["number"],
                found["reel"],
                "C" if kind[0] == "C" else "D",
                0 if kind[0] == "C" else int(found["frames"] or 0),
                (codes[0], codes[1]),
                (codes[2], codes[3]),
            )
        elif (speed := _SPEED.match(line)) is not None:
            if last is not None:
                last.speed = float(speed["fps"])
        elif (named := _NAME.fullmatch(line)) is not None:
            if last is not None and (named["which"].upper() == "TO" or not last.name or last.kind == "C"):
                last.name = named["name"].strip()
        elif line and not line.startswith(("*", "TITLE", "M2", "SPLIT", "AUD", ">>>")):
            remarks.append(Remark(f"line {number}", f"“{line[:40]}” is no event and was left out"))
    if last is not None:
        yield last
    if sounds:
        remarks.append(
            Remark("sound", f"{sounds} events of sound were left out; bring in their sound as the bed")
        )


def _shots(events: Sequence[_Event], rate: FrameRate, remarks: list[Remark]) -> Iterator[ShotThere]:
    made: list[ShotThere] = []
    at = events[0].record[0] if events else 0
    for event in events:
        start, end = event.record
        if end <= start:
            continue  # the outgoing half of a dissolve: the shot before it is already there
        if start > at and made:
            made.append(ShotThere(name="Gap", frames=start - at))
        elif start < at:
            remarks.append(
                Remark(f"event {event.number}", "it begins before the one before it ends; that one was cut")
            )
            over = at - start
            if made and made[-1].frames > over:
                made[-1] = replace(made[-1], frames=made[-1].frames - over)
            else:
                continue
        if event.transition and made:
            made[-1] = replace(
                made[-1], frames=made[-1].frames + event.transition, transition_frames=event.transition
            )
        black = event.reel.upper() in _BLACK
        percent = _percent(event, rate, remarks)
        made.append(
            ShotThere(
                name=(event.name or event.reel).rsplit(".", 1)[0],
                frames=end - start,
                media="" if black else event.name or event.reel,
                source_in_ticks=rate.ticks(event.source[0]),
                source_is_clock=True,
                speed_percent=percent,
            )
        )
        at = end
    yield from made


def _percent(event: _Event, rate: FrameRate, remarks: list[Remark]) -> int:
    if event.speed is None:
        return 100
    percent = round(event.speed / float(rate.fraction) * 100)
    if percent and not 25 <= percent <= 400:
        remarks.append(
            Remark(
                f"event {event.number}", f"a speed of {percent} % is not possible here; it plays at its own"
            )
        )
        return 100
    return percent
