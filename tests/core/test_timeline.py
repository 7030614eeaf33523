import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.core.fit.proposal import apply_proposal, propose
from fox_cadence.core.marks import PauseMark
from fox_cadence.core.pass_status import pass_statuses, too_fast
from fox_cadence.core.project import Placement, Project, Role, SpanLength
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import Take, natural_request
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.core.timeline_builder import KeptSpans, build_timeline
from tests.builders import simple_project, take_of, timelines, voiced


def states(timeline: Timeline) -> list[LineState]:
    return [span.state for span in timeline.lines]


def test_each_state_has_its_cause() -> None:
    project = simple_project(["sits here", "spills over", "floats long", "has no voice"], 3.0)
    timeline = voiced(project, [1.6, 3.4, 0.6, 1.0])
    lines = (*timeline.project.lines[:3], project.lines[3])
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    timeline = build_timeline(timeline.project.changed(lines=lines), takes)
    assert states(timeline) == [LineState.SITS, LineState.SPILLS, LineState.FLOATS, LineState.UNVOICED]


def test_a_line_leans_once_a_fit_has_changed_its_pace() -> None:
    timeline = voiced(simple_project(["a line that is a little long"], 3.0, give_way="picture"), [3.0])
    proposal = propose(timeline)
    assert proposal.lines[0].state is LineState.LEANS
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    project = apply_proposal(timeline.project, proposal, {})
    paced = takes["take-l1"].changed(
        id="paced", end_sample=round((proposal.lines[0].end_ticks - proposal.lines[0].start_ticks) / 14700)
    )
    placement = project.lines[0].placement
    assert placement is not None
    line = project.lines[0].changed(placement=placement.changed(take_id="paced"))
    fitted = build_timeline(project.changed(lines=(line,)), takes | {"paced": paced})
    assert states(fitted) == [LineState.LEANS]
    assert fitted.lines[0].end_ticks == proposal.lines[0].end_ticks


def test_words_voice_and_delivery_each_make_a_line_stale_and_pace_of_a_fit_does_not() -> None:
    timeline = voiced(simple_project(["the tide turns"]), [2.5])
    project = timeline.project
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    role = project.roles[0]
    caption = project.captions[0].changed(text="the tide returns")
    for change in (
        {"captions": (caption,)},
        {"roles": (role.changed(voice_id="pell"),)},
        {"roles": (role.changed(pace=0.9),)},
        {"roles": (role.changed(pitch_semitones=2.0),)},
    ):
        assert states(build_timeline(project.changed(**change), takes)) == [LineState.STALE]
    louder = {"roles": (role.changed(gain_db=3.0, name="someone"),)}
    assert states(build_timeline(project.changed(**louder), takes)) == [LineState.SITS]


def test_lines_that_have_not_been_fitted_never_sound_together() -> None:
    project = simple_project(["one two", "three four"], 3.0)
    lines = tuple(line.changed(first_shot_id="s1", last_shot_id="s1") for line in project.lines)
    timeline = voiced(project.changed(lines=lines), [2.0, 2.0])
    assert timeline.lines[1].start_ticks >= timeline.lines[0].end_ticks + project.house.gap_ticks


def test_the_gap_is_longer_where_the_voice_changes() -> None:
    project = simple_project(["one two", "three four"], 3.0)
    roles = (*project.roles, Role(id="r2", name="other", voice_id="pell"))
    lines = (project.lines[0], project.lines[1].changed(role_id="r2", first_shot_id="s1"))
    timeline = voiced(project.changed(roles=roles, lines=lines), [2.0, 1.0])
    gap = timeline.lines[1].start_ticks - timeline.lines[0].end_ticks
    assert gap == project.house.voice_change_gap_ticks


def test_passes_name_what_is_open() -> None:
    project = simple_project(["sits here", "spills all the way over"], 2.0)
    timeline = voiced(project, [1.0, 4.0])
    passes = {each.name: each for each in pass_statuses(timeline, 0)}
    assert passes["fit"].open_text == "1 spills, 1 past the end"
    assert passes["export"].open_text == "1 spilling, 1 past the end"
    assert passes["words"].open_text == ""
    unvoiced = {each.name: each for each in pass_statuses(build_timeline(project, {}), 0)}
    assert unvoiced["words"].open_text == "2 unvoiced"


def test_a_caption_too_short_to_be_read_is_found() -> None:
    project = simple_project(["a caption with far too many words to read in half a second"], 0.6)
    assert len(too_fast(build_timeline(project, {}))) == 1


def test_word_times_follow_the_take_to_where_it_plays() -> None:
    timeline = voiced(simple_project(["one two three four"]), [2.0])
    times = timeline.lines[0].word_times_ticks()
    assert times[0][0] == timeline.lines[0].start_ticks
    assert times[-1][1] == timeline.lines[0].end_ticks
    assert take_of(timeline.project, timeline.lines[0].line, 1.0).length_ticks == seconds_to_ticks(1.0)


def test_a_placed_line_never_sounds_before_the_one_before_it_has_ended() -> None:
    """Also where a fit has put it there: what was voiced since may last longer."""
    project = simple_project(["one two three four", "five"], 6.0)
    one = project.lines[0].changed(take_id="take-l1")
    placed = Placement(
        offset_ticks=seconds_to_ticks(2), spans=(SpanLength(voiced_ticks=seconds_to_ticks(1)),)
    )
    other = project.lines[1].changed(
        first_shot_id="s1", last_shot_id="s1", take_id="take-l2", placement=placed
    )
    project = project.changed(lines=(one, other))
    takes = {take.id: take for take in (take_of(project, one, 3.0), take_of(project, other, 1.0))}
    first, second = build_timeline(project, takes).lines
    assert first.end_ticks > seconds_to_ticks(2)
    assert second.start_ticks >= first.end_ticks


@settings(max_examples=60)
@given(timelines(), st.data())
def test_a_timeline_made_of_kept_spans_is_the_one_made_anew(timeline: Timeline, data: st.DataObject) -> None:
    """Whatever came before: shots that grow and shrink, words that change, lines that go and come back."""
    takes = {span.take.id: span.take for span in timeline.lines if span.take is not None}
    kept, first = KeptSpans(), timeline.project
    project = first
    for _ in range(data.draw(st.integers(1, 5))):
        what = data.draw(st.sampled_from(["shot", "words", "take", "back", "rules"]))
        if what == "shot":
            chosen = data.draw(st.sampled_from(project.shots))
            longer = chosen.changed(
                length_frames=max(12, chosen.length_frames + data.draw(st.integers(-9, 9)))
            )
            project = project.changed(shots=tuple(longer if s.id == chosen.id else s for s in project.shots))
        elif what == "words" and project.captions:
            place = data.draw(st.integers(0, len(project.captions) - 1))
            captions = list(project.captions)
            captions[place] = captions[place].changed(
                text=data.draw(st.sampled_from(["One pool.", "a b c d"]))
            )
            project = project.changed(captions=tuple(captions))
        elif what == "take" and project.lines:
            place = data.draw(st.integers(0, len(project.lines) - 1))
            lines = list(project.lines)
            lines[place] = lines[place].changed(take_id=None)
            project = project.changed(lines=tuple(lines))
        elif what == "rules":
            project = project.changed(house=project.house.changed(gap_ticks=data.draw(st.integers(0, 10**8))))
        else:
            project = first
        assert build_timeline(project, takes, kept=kept) == build_timeline(project, takes)


def test_lines_whose_shots_have_moved_are_moved_along_and_not_worked_out_again() -> None:
    project = simple_project([f"line number {n}" for n in range(6)], 3.0)
    timeline = voiced(project, [1.2, 2.6, 1.9, 2.2, 0.9, 2.0], [0.2] * 6)
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    kept = KeptSpans()
    before = build_timeline(timeline.project, takes, kept=kept)
    longer = before.project.shots[0].changed(length_frames=113)
    after = build_timeline(
        before.project.changed(shots=(longer, *before.project.shots[1:])), takes, kept=kept
    )
    assert after == build_timeline(after.project, takes)
    ticks = project.rate.ticks(23)
    for was, now in zip(before.lines[2:], after.lines[2:], strict=True):
        assert (now.start_ticks - was.start_ticks, now.end_ticks - was.end_ticks) == (ticks, ticks)
        assert now.window.start_ticks - was.window.start_ticks == ticks
        assert now.window.end_ticks - was.window.end_ticks == ticks
        assert now.window.late_ticks == was.window.late_ticks
        assert now.speech is was.speech
    assert now.word_times_ticks()[0][0] - was.word_times_ticks()[0][0] == ticks
    again = build_timeline(before.project, takes, kept=kept)
    assert again == before


def test_the_words_of_a_part_are_those_of_the_sound_or_as_expected() -> None:
    project = simple_project(["one two three four"], 4.0)
    heard = voiced(project, [2.0], [0.2]).lines[0]
    take = heard.take
    assert take is not None
    times = heard.word_times_ticks()
    assert heard.words_time_ticks(0, 4) == (times[0][0], times[3][1])
    assert heard.words_time_ticks(1, 3) == (times[1][0], times[2][1])
    assert heard.words_time_ticks(3, 4) == times[3]
    assert heard.words_time_ticks(2, 5) is None
    guessed = build_timeline(project, {}).lines[0]
    expected = guessed.word_times_ticks()
    assert guessed.words_time_ticks(1, 4) == (expected[1][0], expected[3][1])
    assert guessed.words_time_ticks(0, 5) is None


def test_a_take_whose_pauses_alone_are_others_still_tells_how_its_words_are_said() -> None:
    project = simple_project(["one two three four"], 4.0)
    timeline = voiced(project, [2.0])
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    pause = PauseMark(after_word=1, ticks=seconds_to_ticks(0.5))
    paused = timeline.project.changed(lines=(timeline.project.lines[0].changed(marks=(pause,)),))
    span = build_timeline(paused, takes).lines[0]
    assert span.stale
    assert span.speech.voiced_ticks == timeline.lines[0].speech.voiced_ticks
    other = paused.changed(captions=(project.captions[0].changed(text="five six seven eight nine ten"),))
    assert build_timeline(other, takes).lines[0].speech.voiced_ticks != span.speech.voiced_ticks
    faster = paused.changed(roles=(project.roles[0].changed(pace=1.5),))
    assert build_timeline(faster, takes).lines[0].speech.voiced_ticks != span.speech.voiced_ticks


def _with_take(project: Project, take: Take) -> LineSpan:
    line = project.lines[0].changed(take_id=take.id)
    made = project.changed(lines=(line, *project.lines[1:]))
    return build_timeline(made, {take.id: take}).lines[0]


@pytest.mark.parametrize("with_request", [True, False])
def test_a_line_out_of_date_lasts_as_its_old_sound_and_is_judged_by_what_it_would_say(
    with_request: bool,
) -> None:
    before = simple_project(["One two three four."])
    take = take_of(before, before.lines[0], 2.0)
    if with_request:  # takes of the first release have none
        take = take.changed(request=natural_request(before, before.lines[0]))
    other = simple_project(["Quite another thing is said here, and it is much longer."])
    span = _with_take(other, take)
    assert span.stale
    assert span.end_ticks - span.start_ticks == take.length_ticks
    estimate = build_timeline(other, {}).lines[0].natural_ticks
    assert span.natural_ticks == estimate != take.length_ticks


@pytest.mark.parametrize("with_request", [True, False])
def test_a_line_with_another_pause_only_is_judged_by_the_sound_it_has(with_request: bool) -> None:
    before = simple_project(["One two three four."])
    take = take_of(before, before.lines[0], 2.0)
    if with_request:
        take = take.changed(request=natural_request(before, before.lines[0]))
    pause = PauseMark(after_word=1, ticks=seconds_to_ticks(0.5))
    paused = before.changed(lines=(before.lines[0].changed(marks=(pause,)),))
    span = _with_take(paused, take)
    assert span.stale
    assert span.natural_ticks == take.length_ticks + seconds_to_ticks(0.5)
    other_voice = paused.changed(roles=(paused.roles[0].changed(voice_id="pell"),))
    guess = build_timeline(other_voice, {}).lines[0].natural_ticks
    assert _with_take(other_voice, take).natural_ticks == guess


@given(timelines())
def test_rests_stand_between_their_words_and_are_as_long_as_the_lengths_say(timeline: Timeline) -> None:
    for span in timeline.lines:
        times, rests = span.word_times_ticks(), span.rests_ticks()
        for word, start, end in rests:
            assert times[word][1] <= start <= end
            assert word + 1 == len(times) or end <= times[word + 1][0]
        held = sum(length.pause_ticks + length.written_ticks for length in span.lengths)
        off = abs(sum(end - start for _, start, end in rests) - held)
        assert off <= 14_700 * max(1, len(rests))  # a sample each
