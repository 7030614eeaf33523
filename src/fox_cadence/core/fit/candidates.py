"""Changes that might cure a line, each in a few strengths; remedies.py finds out which of them do."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from fox_cadence.core.delivery import manner_of
from fox_cadence.core.edits import (
    Applied,
    MergeLines,
    SetCaptionText,
    SetHouse,
    SetLineRole,
    SetLineRoom,
    SetPause,
    SetSaid,
    SetSettings,
    SetShotGivesWay,
    SetShotLength,
    SplitLine,
)
from fox_cadence.core.fewer_words import shortened, shortenings
from fox_cadence.core.fit.harm import Kind
from fox_cadence.core.fit.plan import Proposal
from fox_cadence.core.fit.reasons import shot_use
from fox_cadence.core.fit.weights import WEIGHTS
from fox_cadence.core.length_model import Estimate, Estimator, KnownSpeech, rests_of
from fox_cadence.core.marks import written_pauses
from fox_cadence.core.numbers import counted
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot_limits import clip_frames, overlap_frames, shot_limits_frames
from fox_cadence.core.takes import VoicingRequest, natural_request
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.words import words_of

_MARGIN_TICKS = seconds_to_ticks(0.002)
_MOST_OVER_S = 1.5
_FASTEST_OFFERED = 1.35
_MOST_STRETCH = 0.6


def spill_cost(seconds: float) -> float:
    """What a spill adds to the cost of a fit."""
    return WEIGHTS.spill_per_s * seconds + WEIGHTS.spill_per_s2 * seconds**2


@dataclass(frozen=True)
class Strength:
    """One strength of a change. `also` are lines that must fit with it; `estimator` knows words that are not
    voiced."""

    label: str
    edits: Sequence[Applied]
    gain_ticks: int
    text: str | None = None
    estimator: Estimator | None = None
    also: Sequence[str] = ()
    unlocks: bool = False
    estimated: bool = False
    extra_harm: float = 0.0


@dataclass(frozen=True)
class Candidate:
    """A change in its strengths, the weakest first."""

    kind: Kind
    strengths: Sequence[Strength]


@dataclass(frozen=True)
class _Known:
    """An estimator that knows some texts and asks another for the rest."""

    base: Estimator
    texts: Mapping[tuple[str, str], Estimate] = field(default_factory=dict)

    def estimate(self, text: str, voice_id: str, pace: float) -> Estimate:
        return self.texts.get((text, voice_id)) or self.base.estimate(text, voice_id, pace)

    def known(self, request: VoicingRequest) -> KnownSpeech | None:
        return self.base.known(request)

    def version(self, voice_id: str) -> object:
        return self, self.base.version(voice_id)


class Cause:
    """A line that does not fit: what is known of it, and how much room it wants."""

    def __init__(self, timeline: Timeline, proposal: Proposal, position: int, estimator: Estimator) -> None:
        self.timeline, self.proposal, self.position, self.estimator = timeline, proposal, position, estimator
        self.project = timeline.project
        self.span = timeline.lines[position]
        self.plan = proposal.lines[position]
        self.index = self.project.shot_index()
        self.first = self.index[self.span.line.first_shot_id]
        self.last = self.index[self.span.line.last_shot_id]
        self.request = natural_request(self.project, self.span.line)
        lean = self.plan.end_ticks - self.plan.start_ticks
        natural = self.span.natural_ticks
        self.need = self.plan.spill_ticks or max(0, natural - lean) // 2
        self.cost_without_spill = max(
            0.0, proposal.cost - spill_cost(ticks_to_seconds(self.plan.spill_ticks))
        )

    @property
    def frames(self) -> int:
        """Frames that the room must grow by."""
        return max(1, self.project.rate.frames_ceil(self.need))

    def voiced_as(self, text: str, voice_id: str | None = None) -> Estimate:
        """How long other words (or the same in another voice) will last, in proportion to what this take
        lasts."""
        voice = voice_id or self.request.voice_id
        old = self.estimator.estimate(self.span.said, self.request.voice_id, self.request.pace)
        new = self.estimator.estimate(text, voice, self.request.pace)
        if not old.voiced_ticks:
            return new
        share = self.span.speech.voiced_ticks / old.voiced_ticks
        return Estimate(round(new.voiced_ticks * share), new.pauses, new.error)


def candidates(cause: Cause) -> Iterator[Candidate]:
    """Everything that might help, cheap ones first."""
    yield from _from_neighbours(cause)
    yield from _longer_shots(cause)
    yield from _pauses(cause)
    yield from _over_the_cuts(cause)
    yield from _fewer_words(cause)
    yield from _other_lines(cause)
    yield from _other_voices(cause)
    yield from _wider_limits(cause)


def _steps(frames: int) -> list[int]:
    """A number of frames and a little more, should it not be quite enough."""
    return [frames, frames + 1, frames + 3, frames + max(6, frames // 4)]


def _longer_shots(cause: Cause) -> Iterator[Candidate]:
    project = cause.project
    for place in dict.fromkeys((cause.last, cause.first)):
        shot, number = project.shots[place], place + 1
        available = clip_frames(project, shot)
        left = None if available is None else available - shot.length_frames
        if (shot.give_way or project.give_way) == "picture" and not shot.locked:
            edit = SetShotGivesWay(shot_id=shot.id, give_way="halfway")
            _, high = shot_limits_frames(project, place)
            gain = project.rate.ticks(max(0, high - shot.length_frames))
            yield Candidate(Kind.GIVE_WAY, [Strength(f"Let shot {number} give way", [edit], gain)])
        strengths: list[Strength] = []
        for frames in _steps(cause.frames):
            if left is not None and frames > left:
                break
            more = "" if left is None else f"; its clip has {left} left"
            what = f"Unlock shot {number} and give it" if shot.locked else f"Give shot {number} another"
            edit2 = SetShotLength(
                shot_id=shot.id, length_frames=shot.length_frames + frames, unlock=shot.locked
            )
            label = f"{what} {counted(frames, 'frame')}{more}"
            strengths.append(Strength(label, [edit2], project.rate.ticks(frames), unlocks=shot.locked))
        yield Candidate(Kind.LENGTHEN, strengths)


def _from_neighbours(cause: Cause) -> Iterator[Candidate]:
    project, shots = cause.project, cause.project.shots
    for place, giver in ((cause.last, cause.last + 1), (cause.first - 1, cause.first - 1)):
        if not (0 <= giver < len(shots) and place >= 0 and place + 1 < len(shots)):
            continue
        low, _ = shot_limits_frames(project, giver)
        use = shot_use(cause.timeline, giver, low)
        taker = shots[cause.last if giver > cause.last else cause.first]
        if use.could_give < cause.frames or shots[giver].locked:
            continue
        strengths: list[Strength] = []
        for frames in _steps(cause.frames):
            if frames > use.could_give:
                break
            change = frames if giver > place else -frames
            edit = SetShotLength(
                shot_id=shots[place].id, length_frames=shots[place].length_frames + change,
                take_from_next=True,
                unlock=taker.locked,
            )  # fmt: skip
            idle = ticks_to_seconds(use.idle_ticks)
            what = f"Take {frames} frames from shot {giver + 1}, which has {idle:.2f} s idle"
            label = f"{what}, for shot {cause.index[taker.id] + 1}" + (
                " (unlocks it)" if taker.locked else ""
            )
            strengths.append(Strength(label, [edit], project.rate.ticks(frames), unlocks=taker.locked))
        yield Candidate(Kind.TAKE_IDLE, strengths)


def _pauses(cause: Cause) -> Iterator[Candidate]:
    """Close written pauses: the longest first, as far as needed."""
    shortest = cause.project.house.shortest_pause_ticks
    line = cause.span.line
    marks = sorted(written_pauses(line.marks).items(), key=lambda item: -item[1])
    edits: list[Applied] = []
    words: list[str] = []
    gained = 0
    for word, ticks in marks:
        if ticks <= shortest or word >= len(cause.span.words):
            continue
        close_by = min(ticks - shortest, max(0, cause.need + _MARGIN_TICKS - gained))
        if close_by <= 0:
            break
        left = ticks_to_seconds(ticks - close_by)
        edits.append(SetPause(line_id=line.id, after_word=word, seconds=round(left, 3)))
        words.append(f"“{cause.span.words[word].text.strip('.,;:!?…')}” to {left:.2f} s")
        gained += close_by
    if edits and gained >= cause.need:
        label = f"Close the pause after {' and after '.join(words)}"
        yield Candidate(Kind.CLOSE_PAUSE, [Strength(label, edits, gained, estimated=True)])


def _over_the_cuts(cause: Cause) -> Iterator[Candidate]:
    line, need = cause.span.line, cause.need + _MARGIN_TICKS
    over = ticks_to_seconds(need)
    if over > _MOST_OVER_S:
        return
    j_now = None if line.longest_j_cut_ticks is None else ticks_to_seconds(line.longest_j_cut_ticks)
    l_now = None if line.longest_l_cut_ticks is None else ticks_to_seconds(line.longest_l_cut_ticks)
    if cause.first > 0:
        edit = SetLineRoom(
            line_id=line.id,
            j_cut_s=round((j_now or 0) + over + 0.005, 2),
            l_cut_s=l_now,
            give_way=line.give_way,
        )
        label = f"Start it {over:.2f} s before shot {cause.first + 1} (J-cut)"
        yield Candidate(Kind.EARLIER, [Strength(label, [edit], need)])
    if cause.last + 1 < len(cause.project.shots):
        edit = SetLineRoom(
            line_id=line.id,
            j_cut_s=j_now,
            l_cut_s=round((l_now or 0) + over + 0.005, 2),
            give_way=line.give_way,
        )
        label = f"Let it run {over:.2f} s over the cut to shot {cause.last + 2} (L-cut)"
        yield Candidate(Kind.RUN_OVER, [Strength(label, [edit], need)])


def _fewer_words(cause: Cause) -> Iterator[Candidate]:
    line, said = cause.span.line, cause.span.said
    found = shortenings(said, cause.project.language)
    strengths: list[Strength] = []
    for count in range(1, len(found) + 1):
        chosen = found[:count]
        text = shortened(said, chosen)
        guess = cause.voiced_as(text)
        gain = cause.span.natural_ticks - guess.ticks - cause.span.written_ticks
        if gain < cause.need // 2 or not words_of(text):
            continue
        edit: Applied = SetSaid(line_id=line.id, text=text)
        if line.said is None and len(line.caption_ids) == 1:
            edit = SetCaptionText(caption_id=line.caption_ids[0], text=text)
        what = ", ".join(
            f"“{item.before}” → “{item.after}”" if item.after else f"drop “{item.before}”" for item in chosen
        )
        known = _Known(cause.estimator, {(text, cause.request.voice_id): guess})
        strengths.append(
            Strength(
                what[:1].upper() + what[1:],
                [edit],
                gain,
                text=text,
                estimator=known,
                extra_harm=0.3 * (count - 1),
            )
        )
    yield Candidate(Kind.FEWER_WORDS, strengths)


def _other_lines(cause: Cause) -> Iterator[Candidate]:
    """Split at the end of a sentence, the rest over the next shot; or join with the next line, rooms
    together."""
    project, line = cause.project, cause.span.line
    after = cause.last + 1
    taken = {cause.index[other.first_shot_id] for other in project.lines if other.id != line.id}
    if after < len(project.shots) and len(line.caption_ids) <= 1 and line.said is None:
        strengths = []
        for word, sign in sorted(rests_of(cause.span.said).items(), key=lambda item: -item[0]):
            if sign not in ".!?…" and after in taken:
                continue
            new_id = next_id("l", [item.id for item in project.lines])
            edit = SplitLine(line_id=line.id, before_word=word + 1, second_shot_id=project.shots[after].id)
            begins = cause.span.words[word + 1].text.strip(".,;:!?…")
            label = f"Split it before “{begins}”, and say the rest over shot {after + 1}"
            strengths.append(Strength(label, [edit], cause.need, also=(new_id,), estimated=True))
        yield Candidate(Kind.SPLIT, strengths[:3])
    if cause.position + 1 < len(project.lines):
        following = cause.timeline.lines[cause.position + 1]
        if following.line.role_id == line.role_id:
            text = f"{cause.span.said} {following.said}"
            joint = cause.estimator.estimate(text, cause.request.voice_id, cause.request.pace)
            together = Estimate(
                cause.span.speech.voiced_ticks + following.speech.voiced_ticks, joint.pauses, joint.error
            )
            known = _Known(cause.estimator, {(text, cause.request.voice_id): together})
            label = f"Join it with line {cause.position + 2}: one window over both"
            strength = Strength(
                label, [MergeLines(line_id=line.id)], cause.need, estimator=known, estimated=True
            )
            yield Candidate(Kind.MERGE, [strength])


def _other_voices(cause: Cause) -> Iterator[Candidate]:
    for role in cause.project.roles:
        if role.id == cause.span.line.role_id:
            continue
        guess = cause.estimator.estimate(cause.span.said, role.voice_id, manner_of(role.delivery).pace)
        own = cause.voiced_as(cause.span.said)
        gain = own.ticks - guess.ticks
        if gain <= 0:
            continue
        edit = SetLineRole(line_id=cause.span.line.id, role_id=role.id)
        label = f"Let {role.name} say it, about {ticks_to_seconds(gain):.2f} s shorter"
        yield Candidate(Kind.OTHER_VOICE, [Strength(label, [edit], gain, estimated=True)])


def _wider_limits(cause: Cause) -> Iterator[Candidate]:
    yield from _faster_house(cause)
    yield from _stretchier_house(cause)
    yield from _longer_piece(cause)


def _faster_house(cause: Cause) -> Iterator[Candidate]:
    house = cause.project.house
    voiced = sum(length.voiced_ticks for length in cause.plan.lengths)
    if cause.plan.pace < house.fastest_pace - 2e-3 or voiced <= cause.need:
        return
    wanted = cause.span.speech.voiced_ticks / (voiced - cause.need)
    strengths = []
    for extra in (0.005, 0.015, 0.03):
        fastest = round(wanted + extra, 2)
        if house.fastest_pace < fastest <= _FASTEST_OFFERED:
            label = f"Allow the whole piece a pace of ×{fastest:.2f} (now ×{house.fastest_pace:.2f})"
            strengths.append(Strength(label, [SetHouse(fastest_pace=fastest)], cause.need))
    yield Candidate(Kind.WIDER_LIMIT, strengths)


def _stretchier_house(cause: Cause) -> Iterator[Candidate]:
    """Where a shot of the line is as long as the house lets it be, and its clip has more."""
    project = cause.project
    now = project.house.shot_stretch
    for place in dict.fromkeys((cause.last, cause.first)):
        shot, frames = project.shots[place], cause.proposal.shot_frames[place]
        available = clip_frames(project, shot)
        _, high = shot_limits_frames(project, place)
        if shot.locked or shot.longest_frames is not None or frames < high or available == high:
            continue
        strengths = []
        for more in _steps(cause.frames):
            stretch = math.ceil(100 * ((frames + more) / shot.wanted_frames - 1)) / 100
            if now < stretch <= _MOST_STRETCH and (available is None or frames + more <= available):
                label = f"Let the shots of the whole piece stretch by {stretch:.0%} (now {now:.0%})"
                strengths.append(Strength(label, [SetHouse(shot_stretch=stretch)], project.rate.ticks(more)))
        yield Candidate(Kind.WIDER_LIMIT, strengths)


def _longer_piece(cause: Cause) -> Iterator[Candidate]:
    """Where the piece is as long as it may be."""
    project = cause.project
    if project.longest_ticks is None:
        return
    total = project.rate.ticks(sum(cause.proposal.shot_frames) - sum(overlap_frames(project)))
    if total + project.rate.frame_ticks <= project.longest_ticks:
        return
    now = ticks_to_seconds(project.longest_ticks)
    strengths = []
    for frames in _steps(cause.frames):
        longest = math.ceil(100 * (now + ticks_to_seconds(project.rate.ticks(frames)))) / 100
        label = f"Let the piece last {longest:.2f} s (now {now:.2f} s)"
        strengths.append(Strength(label, [SetSettings(longest_s=longest)], project.rate.ticks(frames)))
    yield Candidate(Kind.WIDER_LIMIT, strengths)
