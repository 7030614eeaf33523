import itertools

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.crowding import even_groups
from fox_cadence.core.outside import outside_of
from fox_cadence.core.project import Project, Role, said_text
from fox_cadence.core.script_layout import Layout, TimedText, lay_words, next_id, shots_from_clips
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import FRAME_RATES, FrameRate, seconds_to_ticks
from fox_cadence.core.timeline_builder import build_timeline

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
    assert remarks[0].place == "picture"
    assert "1 of them begin after the picture" in remarks[0].message
    timeline = build_timeline(project, {})
    assert [(span.in_frame, span.out_frame) for span in timeline.captions] == [(0, 30), (150, 180)]
    assert timeline.total_frames == 180


def test_a_picture_that_does_not_give_way_stays_and_what_lies_after_it_is_remarked() -> None:
    held = picture([2]).changed(give_way="picture")
    project, remarks = lay_words(held, [at("one", 0, 1), at("too late", 5, 6)], ROLE)
    assert project.shots == held.shots
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


def test_names_become_roles_and_headings_stand_on_the_shot_of_what_follows() -> None:
    limpet = Role(id="r2", name="limpet", voice_id="pell")
    texts = [
        TimedText("Low tide", heading=True),
        TimedText("The sea leaves twice a day."),
        TimedText("The pools", heading=True),
        TimedText("Home is a groove and I ground it.", role="limpet"),
        TimedText("The end", heading=True),
    ]
    project, remarks = lay_words(picture([3, 3, 2]), texts, ROLE, cast={"limpet": limpet})
    assert remarks == ()
    assert [line.role_id for line in project.lines] == ["r1", "r2"]
    assert project.roles == (ROLE, limpet)
    spoken_on = [line.first_shot_id for line in project.lines]
    assert [(text.text, text.shot_id) for text in project.scene_texts] == [
        ("Low tide", spoken_on[0]),
        ("The pools", spoken_on[1]),
        ("The end", "s3"),
    ]
    assert {line.scene_text_id for line in project.lines} == {None}


def test_names_stay_with_their_words_when_those_are_put_in_order_of_time() -> None:
    limpet = Role(id="r2", name="limpet", voice_id="pell")
    late = TimedText("later", seconds_to_ticks(4), seconds_to_ticks(5), role="limpet")
    project, _ = lay_words(picture([3, 3]), [late, at("sooner", 1, 2)], ROLE, cast={"limpet": limpet})
    assert [(said_text(project, line), line.role_id) for line in project.lines] == [
        ("sooner", "r1"),
        ("later", "r2"),
    ]


@given(
    st.lists(st.integers(1, 50), min_size=1, max_size=6), st.lists(st.integers(1, 9), min_size=1, max_size=4)
)
def test_words_without_times_crowd_no_shot_more_than_they_must(lengths: list[int], rooms: list[int]) -> None:
    def crowding(ends: tuple[int, ...]) -> float:
        return sum(
            sum(lengths[a:b]) ** 2 / room
            for (a, b), room in zip(itertools.pairwise((0, *ends)), rooms, strict=True)
        )

    groups = even_groups(lengths, rooms)
    assert [number for group in groups for number in group] == list(range(len(lengths)))
    ends = tuple(itertools.accumulate(len(group) for group in groups))
    every = (
        (*cuts, len(lengths))
        for cuts in itertools.combinations_with_replacement(range(len(lengths) + 1), len(rooms) - 1)
    )
    assert crowding(ends) <= min(crowding(each) for each in every) + 1e-9


def test_as_many_texts_as_shots_stand_one_on_each() -> None:
    texts = [
        TimedText(words)
        for words in ("A long line of words to say first.", "Then fewer.", "Few.", "And then one more.")
    ]
    project, _ = lay_words(picture([4, 4, 4, 4]), texts, ROLE)
    assert [line.first_shot_id for line in project.lines] == ["s1", "s2", "s3", "s4"]


def test_timed_words_hold_the_picture_no_longer_than_the_piece_may_last() -> None:
    limited = picture([2]).changed(longest_ticks=seconds_to_ticks(4))
    project, remarks = lay_words(limited, [at("one", 0, 1), at("too late", 5, 6)], ROLE)
    assert build_timeline(project, {}).total_frames == 120
    assert [remark.place for remark in remarks] == ["picture", "caption 2"]


def spoken_s(project: Project) -> float:
    return sum(span.natural_ticks for span in build_timeline(project, {}).lines) / seconds_to_ticks(1)


@given(
    st.lists(st.sampled_from(["a tide", "the whole pool holds its breath", "crab"]), min_size=1, max_size=60),
    st.lists(st.tuples(st.booleans(), st.floats(0.5, 4)), min_size=1, max_size=4),
    st.sampled_from(["order", "section", "single"]),
)
def test_the_picture_lasts_as_long_as_words_without_times_need(
    texts: list[str], shown: list[tuple[bool, float]], layout: Layout
) -> None:
    """No line ends after the piece, no caption lies on another, and a picture that had room enough stays as
    it was."""
    clips = [
        Clip(
            hash=f"{n:064d}",
            name=f"{n}.mp4",
            kind="still" if still else "video",
            length_ticks=0 if still else seconds_to_ticks(length),
        )
        for n, (still, length) in enumerate(shown)
    ]
    rate = FrameRate(numerator=30)
    before = Project(
        name="x", rate=rate, clips={c.hash: c for c in clips}, shots=shots_from_clips(clips, rate)
    )
    project, remarks = lay_words(before, [TimedText(text) for text in texts], ROLE, layout=layout)
    timeline = build_timeline(project, {})
    assert outside_of(timeline) == ()
    for one, other in itertools.pairwise(timeline.captions):
        assert one.out_frame <= other.in_frame
    longer = [shot.id for shot, was in zip(project.shots, before.shots, strict=True) if shot != was]
    assert bool(longer) == any(remark.place == "picture" for remark in remarks)
    assert all(
        shot.length_frames >= was.length_frames for shot, was in zip(project.shots, before.shots, strict=True)
    )


def test_a_script_of_500_lines_on_one_still_lasts_as_long_as_it_is_spoken() -> None:
    still = Clip(hash="f" * 64, name="still.png", kind="still")
    rate = FrameRate(numerator=30)
    project = Project(name="x", rate=rate, clips={still.hash: still}, shots=shots_from_clips([still], rate))
    texts = [TimedText(f"Line {n} of the tide goes on about the pool.") for n in range(500)]
    made, remarks = lay_words(project, texts, ROLE)
    total = build_timeline(made, {}).total_ticks / seconds_to_ticks(1)
    assert spoken_s(made) < total < spoken_s(made) * 1.2
    assert "the picture had 4.0 s" in remarks[0].message


def test_stills_give_what_is_missing_before_clips_do() -> None:
    still = Clip(hash="f" * 64, name="still.png", kind="still")
    clip = Clip(hash="e" * 64, name="wave.mp4", kind="video", length_ticks=seconds_to_ticks(6))
    rate = FrameRate(numerator=30)
    project = Project(
        name="x",
        rate=rate,
        clips={c.hash: c for c in (clip, still)},
        shots=shots_from_clips([clip, still], rate),
    )
    made, _ = lay_words(project, [TimedText("The whole pool holds its breath.")] * 12, ROLE)
    assert made.shots[0].length_frames <= project.shots[0].length_frames + 45  # less than a line over
    assert made.shots[1].length_frames > 3 * project.shots[1].length_frames


def test_a_longest_length_and_a_locked_shot_are_kept_and_what_is_missing_is_said() -> None:
    long = picture([3, 3]).changed(longest_ticks=seconds_to_ticks(7))
    locked = long.shots[0].changed(locked=True)
    made, remarks = lay_words(
        long.changed(shots=(locked, long.shots[1])), [TimedText("The whole pool is still.")] * 20, ROLE
    )
    assert made.shots[0] == locked
    assert build_timeline(made, {}).total_frames == 7 * 30
    assert "are still missing: the shots may not last longer" in remarks[0].message
