"""The rendered file: every frame what the plan says, sound at its sample."""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.motion import Moments, at_rest, divided, moments, shown_at
from fox_cadence.core.lettering.styles import STYLES, TITLES, style_by_id
from fox_cadence.core.screen import Screen, ScreenCaption, ScreenShot
from fox_cadence.core.ticks import FRAME_RATES, TICKS_PER_SECOND, FrameRate
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.caption_paint import paint_rgba
from fox_cadence.media.caption_plates import prepare, repair
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.picture import Scaler
from fox_cadence.media.plates import blend
from fox_cadence.media.render import plain_colour, render
from fox_cadence.media.video_forms import VideoForm
from tests.media import files

SIZE = (320, 240)


def caption(text: str, start: int, end: int) -> ScreenCaption:
    drawing = letter(text, STYLES[0], faces_for(STYLES[0], "en"), *SIZE)
    return ScreenCaption(text, drawing, start, end, still(start, end))


def still(start: int, end: int) -> Moments:
    return Moments(((start, 0),), (end, 0), ())


def screen(rate: FrameRate, shots: list[ScreenShot], captions: tuple[ScreenCaption, ...] = ()) -> Screen:
    return Screen(*SIZE, rate, tuple(shots), captions)


def rendered(made: Screen, clips: dict[str, Path], tmp_path: Path) -> tuple[list[np.ndarray], np.ndarray]:
    """Luma of all frames and the sound of the video made of a screen, with a click at half a second."""
    samples = round(made.total_frames / made.rate.fraction * 48000)
    sound = np.zeros((samples, 2), np.float32)
    sound[24000:24200] = 0.8
    wav, target = tmp_path / "s.wav", tmp_path / "out.mp4"
    wav.write_bytes(wav_bytes(sound))
    render(made, clips, wav, target, VideoForm(), lambda done, total: None)
    with av.open(str(target)) as container:
        stream = container.streams.video[0]
        assert stream.average_rate == made.rate.fraction
        frames = [frame.to_ndarray(format="gray") for frame in container.decode(video=0)]
    with av.open(str(target)) as container:
        heard = np.concatenate([frame.to_ndarray()[0] for frame in container.decode(audio=0)])
    return frames, heard


@pytest.mark.parametrize("rate", FRAME_RATES.values(), ids=list(FRAME_RATES))
def test_cuts_and_captions_are_on_their_frames_at_every_rate(rate: FrameRate, tmp_path: Path) -> None:
    made = screen(
        rate,
        [ScreenShot(None, "#204060", 0, 0, 11), ScreenShot(None, "#c0b0a0", 0, 11, 40)],
        (caption("Tide", 15, 31),),
    )
    frames, heard = rendered(made, {}, tmp_path)
    assert len(frames) == 40
    corner = [float(frame[:20, :20].mean()) for frame in frames]
    assert max(corner[:11]) < min(corner[11:]) - 60
    x, y, w, h = made.captions[0].drawing.box
    dark = [float(frame[y : y + h, x : x + w].mean()) for frame in frames]
    assert [n for n in range(11, 40) if dark[n] < dark[11] - 15] == list(range(15, 31))
    assert abs(int(np.argmax(np.abs(heard) > 0.3)) - 24000) <= 48


def test_each_frame_shows_the_clip_frame_that_has_begun(tmp_path: Path) -> None:
    """A clip of 25 frames a second in a piece of 30, from the middle of the clip."""
    path = files.video(tmp_path / "clip.mp4", 2.0, Fraction(25), SIZE)
    source = TICKS_PER_SECOND // 2
    made = screen(FRAME_RATES["30"], [ScreenShot("c", "#000000", source, 0, 30)])
    frames, _ = rendered(made, {"c": path}, tmp_path)
    expected = [int(Fraction(25) * (Fraction(1, 2) + Fraction(number, 30))) for number in range(30)]
    assert [files.frame_number(frame) for frame in frames] == expected


def test_a_clip_that_ends_early_holds_its_last_frame(tmp_path: Path) -> None:
    path = files.video(tmp_path / "clip.mp4", 0.4, Fraction(30), SIZE)
    frames, _ = rendered(screen(FRAME_RATES["30"], [ScreenShot("c", "#0", 0, 0, 40)]), {"c": path}, tmp_path)
    assert len(frames) == 40
    assert [files.frame_number(frame) for frame in frames] == [*range(12), *[11] * 28]


SIDES = (2, 4, 6, 8, 18, 36, 54, 72, 90, 108, 270, 480, 1350, 2158, 2160)
"""Even numbers from 2 to 2,160 with every remainder by 16 that an even number has."""


def test_the_sides_tried_have_every_remainder() -> None:
    assert {side % 16 for side in SIDES} == set(range(0, 16, 2))


@pytest.mark.parametrize(
    ("width", "height"),
    [
        *((side, 2162 - side if side > 1000 else 66) for side in SIDES),
        *((50, side) for side in SIDES),
        (1080, 1350),
        (480, 270),
    ],
)
def test_every_even_size_is_rendered(width: int, height: int, tmp_path: Path) -> None:
    """Clip, plain colour and caption, each in its place and colour."""
    path = files.video(tmp_path / "clip.mp4", 0.2, Fraction(30), (64, 48))
    drawing = letter("Tide", STYLES[0], faces_for(STYLES[0], "en"), width, height)
    shots = (ScreenShot("c", "#000000", 0, 0, 2), ScreenShot(None, "#c0b0a0", 0, 2, 4))
    captions = (ScreenCaption("a", drawing, 0, 2, still(0, 2)),)
    made = Screen(width, height, FRAME_RATES["30"], shots, captions)
    frames, _ = rendered(made, {"c": path}, tmp_path)
    assert len(frames) == 4
    assert {frame.shape for frame in frames} == {(height, width)}
    luma = plain_colour("#c0b0a0", 2, 2)[0][0, 0]
    full_range = (float(luma) - 16) * 255 / 219
    assert abs(float(frames[3].mean()) - full_range) < 4


def test_a_size_that_is_not_even_is_refused_before_a_frame_is_made() -> None:
    with pytest.raises(ValueError, match="even sides"):
        Scaler(65, 64)


def test_a_clip_that_repeats_begins_again_from_where_the_shot_begins_in_it(tmp_path: Path) -> None:
    path = files.video(tmp_path / "clip.mp4", 0.4, Fraction(30), SIZE)
    rate = FRAME_RATES["30"]
    shot = ScreenShot("c", "#0", rate.ticks(2), 0, 25, 0, rate.ticks(10))
    frames, _ = rendered(screen(rate, [shot]), {"c": path}, tmp_path)
    assert [files.frame_number(frame) for frame in frames] == [*range(2, 12), *range(2, 12), *range(2, 7)]


@pytest.mark.parametrize(
    ("percent", "expected"),
    [
        (50, [2 + number // 2 for number in range(16)]),
        (200, [2 + 2 * number for number in range(16)]),
        (75, [2 + number * 3 // 4 for number in range(16)]),
        (0, [2] * 16),
    ],
)
def test_at_another_speed_the_frames_are_chosen_exactly(
    percent: int, expected: list[int], tmp_path: Path
) -> None:
    path = files.video(tmp_path / "clip.mp4", 1.4, Fraction(30), SIZE)
    rate = FRAME_RATES["30"]
    shot = ScreenShot("c", "#0", rate.ticks(2), 0, 16, speed_percent=percent)
    frames, _ = rendered(screen(rate, [shot]), {"c": path}, tmp_path)
    assert [files.frame_number(frame) for frame in frames] == expected


def test_a_clip_at_twice_its_speed_that_repeats_begins_again_where_it_ends(tmp_path: Path) -> None:
    path = files.video(tmp_path / "clip.mp4", 0.4, Fraction(30), SIZE)
    rate = FRAME_RATES["30"]
    shot = ScreenShot("c", "#0", 0, 0, 14, 0, rate.ticks(6), speed_percent=200)
    frames, _ = rendered(screen(rate, [shot]), {"c": path}, tmp_path)
    once = [0, 2, 4, 6, 8, 10]
    assert [files.frame_number(frame) for frame in frames] == [*once, *once, 0, 2]


def test_a_blended_caption_is_the_painted_one() -> None:
    """Blending on the planes gives the colour that painting and converting would give."""
    drawing = caption("Pool", 0, 1).drawing
    rgba = paint_rgba(drawing, at_rest(drawing, 0)).astype(float)
    planes = tuple(plane.copy() for plane in plain_colour("#406080", *SIZE))
    blend(planes, prepare(drawing, at_rest(drawing, 0)))  # type: ignore[arg-type]
    x, y, w, h = drawing.box
    alpha = rgba[..., 3:] / 255
    seen = rgba[..., :3] + np.array([0x40, 0x60, 0x80]) * (1 - alpha)
    luma = 16 + 219 / 255 * (seen @ np.array([0.2126, 0.7152, 0.0722]))
    assert np.max(np.abs(planes[0][y : y + h, x : x + w] - luma)) <= 1.5
    assert np.all(planes[0][:y] == planes[0][0, 0])


def test_a_lit_word_differs_in_colour_only() -> None:
    drawing = replace(caption("Two words", 0, 1).drawing)
    plain, lit = paint_rgba(drawing, at_rest(drawing)), paint_rgba(drawing, at_rest(drawing, 1))
    assert np.array_equal(plain[..., 3], lit[..., 3])
    assert not np.array_equal(plain, lit)


@pytest.mark.parametrize("style", [style.id for style in (*STYLES, *TITLES)])
def test_words_that_are_repaired_look_as_if_they_were_painted_anew(style: str) -> None:
    """Whatever order the states of a caption come in, its plate is the one of the last."""
    look = style_by_id(style)
    drawing = letter("Two words, three or four", look, faces_for(look, "en"), 360, 640)
    spoken = [(4 + 6 * n, 9 + 6 * n) for n in range(5)]
    when = moments(drawing, look, spoken, 0, 60, FRAME_RATES["30"])
    states = [shown_at(drawing, when, frame) for frame in range(1, 60, 2)]
    stills = [part[0] if (part := divided(drawing, how)) else at_rest(drawing) for how in states]
    before = stills[0]
    plate = prepare(drawing, before)
    for how in stills[1:]:
        repair(plate, drawing, before, how)
        before = how
        anew = prepare(drawing, how)
        for one, other in (
            (plate.luma, anew.luma), (plate.luma_through, anew.luma_through),
            (plate.chroma[0], anew.chroma[0]), (plate.chroma_through, anew.chroma_through),
        ):  # fmt: skip
            off = np.abs(one.astype(int) - other.astype(int)) / 256
            assert (off > 2).mean() < 0.006  # curves are cut where what is repainted ends
            assert off.max() < 64
