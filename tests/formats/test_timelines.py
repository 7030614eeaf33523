"""Timelines of other tools: ours come back as they went, theirs are taken as far as they can be."""

import json
from typing import Any

import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.framing import Framing
from fox_cadence.core.overlay import Laid
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import FRAME_RATES, TICKS_PER_SECOND, FrameRate
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.errors import InputError
from fox_cadence.formats.edl import frame_of, read_edl, timecode, write_edl
from fox_cadence.formats.otio_read import read_otio
from fox_cadence.formats.otio_write import write_otio
from tests.builders import simple_project

RATE = FrameRate(numerator=30)
HASH = "a" * 64


def piece() -> Project:
    project = simple_project(["The sea leaves.", "It comes back.", "Night."])
    clip = Clip(
        hash=HASH, name="sea.mp4", kind="video", width=64, height=64, length_ticks=60 * TICKS_PER_SECOND
    )
    one, two, *rest = project.shots
    shots = (
        one.changed(
            clip_hash=HASH, source_in_ticks=RATE.ticks(45), transition_frames=12, transition_kind="wipe"
        ),
        two.changed(
            clip_hash=HASH,
            speed_percent=50,
            framing=Framing(zoom=2),
            adjustment=Adjustment(look="kelp", exposure=0.5),
            laid=(Laid(id="o1", picture="ring"),),
        ),
        *rest,
    )
    return project.changed(clips={HASH: clip}, shots=shots)


def test_our_own_timeline_comes_back_as_it_went() -> None:
    project = piece()
    timeline = build_timeline(project, {})
    there = read_otio(write_otio(timeline, {HASH: "sea.mp4"}).encode(), "piece.otio")
    assert (there.name, there.rate, there.size) == (
        project.name,
        project.rate,
        (project.width, project.height),
    )
    assert there.remarks == ()
    assert [(shot.name, shot.frames) for shot in there.shots] == [
        (shot.name, shot.length_frames) for shot in project.shots
    ]
    assert [shot.media for shot in there.shots[:3]] == ["sea.mp4", "sea.mp4", ""]
    assert there.shots[0].source_in_ticks == RATE.ticks(45)
    assert (there.shots[0].transition_frames, there.shots[0].transition_kind) == (12, "wipe")
    assert there.shots[1].speed_percent == 50
    second = project.shots[1]
    assert (there.shots[1].framing, there.shots[1].adjustment, there.shots[1].laid) == (
        second.framing, second.adjustment, second.laid,
    )  # fmt: skip
    assert there.shots[2].colour == project.shots[2].colour
    assert [words.text for words in there.words] == [caption.text for caption in project.captions]
    frames = [(RATE.frames_nearest(w.start_ticks), RATE.frames_nearest(w.end_ticks)) for w in there.words]
    assert frames == [(caption.in_frame, caption.out_frame) for caption in timeline.captions]


def foreign(*items: Any, **more: Any) -> bytes:
    timeline = otio.schema.Timeline("Theirs")
    track = otio.schema.Track("V1", kind=otio.schema.TrackKind.Video)
    track.extend(items)
    timeline.tracks.append(track)
    for extra in more.get("tracks", ()):
        timeline.tracks.append(extra)
    return str(otio.adapters.write_to_string(timeline, "otio_json")).encode()


def span(start: float, frames: float, rate: float = 30) -> Any:
    return otio.opentime.TimeRange(
        otio.opentime.RationalTime(start, rate), otio.opentime.RationalTime(frames, rate)
    )


def clip(name: str, start: float = 0, frames: float = 60, available: Any = None) -> Any:
    url = f"file:///D:/rushes/{name}.mov"
    return otio.schema.Clip(name, otio.schema.ExternalReference(url, available), span(start, frames))


def test_gaps_speeds_stacks_and_what_is_unknown_are_taken_as_far_as_they_can_be() -> None:
    fast, odd = clip("fast"), clip("odd")
    fast.effects.append(otio.schema.LinearTimeWarp("", 2.0))
    odd.effects.append(otio.schema.LinearTimeWarp("", -1.0))
    odd.effects.append(otio.schema.Effect("Sparkle"))
    inner = otio.schema.Track("inner", kind=otio.schema.TrackKind.Video)
    inner.extend([clip("deep"), clip("deeper")])
    stack = otio.schema.Stack("nest", [inner, otio.schema.Track("over")], span(0, 90))
    data = foreign(clip("one"), otio.schema.Gap(source_range=span(0, 30)), fast, odd, stack)
    document = json.loads(data)
    children = document["tracks"]["children"][0]["children"]
    children[0]["media_reference"] = {"OTIO_SCHEMA": "Cloud.2"}
    children[0]["media_references"] = {"DEFAULT_MEDIA": {"OTIO_SCHEMA": "Cloud.2"}}
    children.insert(1, {"OTIO_SCHEMA": "Hologram.7", "name": "ghost"})
    lasting = {"OTIO_SCHEMA": "Hologram.7", "name": "spirit", "source_range": children[2]["source_range"]}
    children.insert(2, lasting)
    there = read_otio(json.dumps(document).encode(), "theirs.otio")
    assert [(shot.media, shot.frames, shot.speed_percent) for shot in there.shots] == [
        ("one", 60, 100),
        ("", 30, 100),
        ("", 30, 100),
        ("fast.mov", 60, 200),
        ("odd.mov", 60, 100),
        ("deep.mov", 60, 100),
        ("deeper.mov", 30, 100),
    ]
    said = " ".join(f"{remark.place}: {remark.message}" for remark in there.remarks)
    for part in ("ghost", "spirit", "Sparkle", "-100 %", "stacked"):
        assert part in said
    assert there.rate == RATE


def test_a_transition_of_another_tool_lies_around_its_cut() -> None:
    move = otio.schema.Transition(
        "", "SMPTE_Dissolve", otio.opentime.RationalTime(6, 30), otio.opentime.RationalTime(9, 30)
    )
    there = read_otio(foreign(clip("one", 0, 60), move, clip("two", 100, 60, span(0, 300))), "x.otio")
    one, two = there.shots
    assert (one.frames, one.transition_frames) == (69, 15)
    assert (two.frames, RATE.frames_nearest(two.source_in_ticks)) == (66, 94)
    assert one.frames + two.frames - one.transition_frames == 120
    tight = read_otio(foreign(clip("one", 0, 60), move, clip("two", 2, 60, span(0, 300))), "x.otio")
    assert tight.shots[0].frames + tight.shots[1].frames - tight.shots[0].transition_frames == 120
    assert any("too little" in remark.message for remark in tight.remarks)


def test_what_somebody_else_wrote_into_our_metadata_is_not_believed() -> None:
    timeline = build_timeline(piece(), {})
    text = write_otio(timeline, {HASH: "sea.mp4"}).replace('\\"zoom\\": 2.0', '\\"zoom\\": 9999.0')
    there = read_otio(text.encode(), "piece.otio")
    assert there.shots[1].framing is None
    assert any("shown plainly" in remark.message for remark in there.remarks)


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"", "no timeline"),
        (b"{", "no timeline"),
        (b"[]", "no timeline"),
        (b'{"OTIO_SCHEMA": "Clip.2"}', "no timeline"),
        (b"\xff\xfe\x00", "no timeline"),
        (otio.adapters.write_to_string(otio.schema.Timeline("empty"), "otio_json").encode(), "no track"),
        (foreign(), "no shots"),
    ],
)
def test_what_is_no_timeline_is_said_so(data: bytes, word: str) -> None:
    with pytest.raises(InputError, match=word):
        read_otio(data, "theirs.otio")


# lists of edits


@given(st.sampled_from(list(FRAME_RATES.values())), st.integers(0, 3_000_000))
def test_timecodes_are_read_as_they_are_written(rate: FrameRate, frame: int) -> None:
    code = timecode(frame, rate)
    assert frame_of(code, rate, ";" in code) == frame


def test_dropped_numbers_keep_the_clock() -> None:
    rate = FRAME_RATES["29.97"]
    assert timecode(1799, rate) == "00:00:59;29"
    assert timecode(1800, rate) == "00:01:00;02"
    assert timecode(17982, rate) == "00:10:00;00"  # ten minutes leave out 18 numbers
    with pytest.raises(ValueError, match="no timecode"):
        frame_of("00:00:00:30", RATE, False)


def test_our_own_list_of_edits_comes_back() -> None:
    project = piece()
    timeline = build_timeline(project, {})
    text, left_out = write_edl(timeline, {HASH: "sea.mp4"})
    there = read_edl(text.encode(), "piece.edl", RATE)
    assert there.remarks == ()
    assert sum(shot.frames for shot in there.shots) - 12 == timeline.total_frames
    one, two, *_ = there.shots
    assert (one.media, one.transition_frames, RATE.frames_nearest(one.source_in_ticks)) == ("sea.mp4", 12, 45)
    assert (two.media, two.speed_percent) == ("sea.mp4", 50)
    assert there.shots[2].media == ""
    said = " ".join(left_out)
    for part in ("wipe", "framed", "captions"):
        assert part in said


THEIRS = """TITLE: THEIRS
FCM: DROP FRAME
001  TAPE7    V     C        01:00:00;00 01:00:02;00 00:00:00;00 00:00:02;00
* FROM CLIP NAME: boats.mov
002  TAPE8    AA    C        01:00:00;00 01:00:02;00 00:00:00;00 00:00:02;00
003  NOWHERE  V     C        00:00:01;00 00:00:03;00 00:00:03;00 00:00:05;00
004  TAPE7    V     W001 020 00:00:01;00 00:00:03;00 00:00:05;00 00:00:07;00
005  TAPE7    V     C        00:00:99;00 00:00:03;00 00:00:07;00 00:00:09;00
M2   TAPE7          999.0                00:00:01;00
and this is no event
"""


def test_a_list_of_another_tool_is_taken_as_far_as_it_can_be() -> None:
    rate = FRAME_RATES["29.97"]
    there = read_edl(THEIRS.encode(), "theirs.edl", rate)
    assert [(shot.media, shot.frames) for shot in there.shots] == [
        ("boats.mov", 60),
        ("", 30),
        ("NOWHERE", 80),
        ("TAPE7", 60),
    ]
    assert there.shots[2].transition_frames == 20
    said = " ".join(f"{remark.place}: {remark.message}" for remark in there.remarks)
    for part in ("line 8", "W001", "1 events of sound", "no event and"):
        assert part in said
    with pytest.raises(InputError, match="no event"):
        read_edl(b"TITLE: NOTHING\n", "x.edl", rate)
