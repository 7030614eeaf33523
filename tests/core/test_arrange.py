from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.arrange import TimedText, lay_words, next_id, shots_from_clips
from fox_cadence.core.project import Clip, Project, Role, said_text
from fox_cadence.core.ticks import FRAME_RATES, FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import build_timeline

ROLE = Role(id="r1", name="narrator", voice_id="orla")


def picture(seconds: list[float], rate: FrameRate | None = None) -> Project:
    clips = [
        Clip(hash=f"{n:064d}", name=f"clip {n}.mp4", kind="video", length_ticks=seconds_to_ticks(length))
        for n, length in enumerate(seconds)
    ]
    rate = rate or FrameRate(numerator=30)
    return Project(name="x", rate=rate, clips={c.hash: c for c in clips}, shots=shots_from_clips(clips, rate))


def at(text: str, start: float, end: float) -> TimedText:
    return TimedText(text, seconds_to_ticks(start), seconds_to_ticks(end))


def test_videos_keep_their_length_and_stills_are_held() -> None:
    still = Clip(hash="f" * 64, name="still.png", kind="still")
    video = Clip(hash="e" * 64, name="wave.mp4", kind="video", length_ticks=seconds_to_ticks(2.5))
    shots = shots_from_clips([video, still], FrameRate(numerator=30))
    assert [(shot.name, shot.length_frames) for shot in shots] == [("wave", 75), ("still", 120)]


def test_timed_words_go_to_the_shot_they_share_most_time_with() -> None:
    project, remarks = lay_words(
        picture([3, 3, 3]), [at("first", 0.5, 2), at("barely early", 2.9, 5), at("long", 4.5, 8.9)], ROLE
    )
    assert [line.first_shot_id for line in project.lines] == ["s1", "s2", "s2"]
    assert project.lines[2].last_shot_id == "s3"
    assert remarks == ()


def test_timed_words_keep_their_frames() -> None:
    project, _ = lay_words(picture([3, 3]), [at("one", 0.5, 2.0), at("two", 3.5, 5.5)], ROLE)
    spans = build_timeline(project, {}).captions
    assert [(span.in_frame, span.out_frame) for span in spans] == [(15, 60), (105, 165)]


def test_words_after_the_picture_are_kept_and_remarked() -> None:
    project, remarks = lay_words(picture([2]), [at("one", 0, 1), at("too late", 5, 6)], ROLE)
    assert [said_text(project, line) for line in project.lines] == ["one", "too late"]
    assert remarks[0].place == "caption 2"


@given(
    st.lists(st.sampled_from(["a tide", "the whole pool holds its breath", "crab"]), min_size=1, max_size=20),
    st.lists(st.floats(0.5, 9), min_size=1, max_size=6),
    st.sampled_from(list(FRAME_RATES.values())),
)
def test_untimed_words_are_all_laid_in_order_without_overlap(
    texts: list[str], seconds: list[float], rate: FrameRate
) -> None:
    project, _ = lay_words(picture(seconds, rate), [TimedText(text) for text in texts], ROLE)
    assert [said_text(project, line) for line in project.lines] == texts
    index = project.shot_index()
    shots = [index[line.first_shot_id] for line in project.lines]
    assert shots == sorted(shots)


def test_ids_are_never_used_twice() -> None:
    assert next_id("s", []) == "s1"
    assert next_id("s", ["s1", "s7", "x9"]) == "s8"
