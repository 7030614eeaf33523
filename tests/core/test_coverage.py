from fox_cadence.core.coverage import coverage
from fox_cadence.core.project import Role, SceneText
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, voiced


def test_what_wants_a_sound_is_counted_for_all_for_sections_and_for_roles() -> None:
    texts = ["said", "changed since", "never said", "spoken by somebody", "locked as it is"]
    project = simple_project(texts, 4.0, scene_texts=(SceneText(id="x1", shot_id="s3", text="The pools"),))
    project = project.changed(roles=(*project.roles, Role(id="r2", name="limpet", voice_id="pell")))
    timeline = voiced(project, [1.0, 1.1, 1.2, 1.3, 1.4])
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    spoken = timeline.lines[3].take
    assert spoken is not None
    takes[spoken.id] = spoken.changed(recorded=True)
    lines = list(timeline.project.lines)
    lines[2] = lines[2].changed(take_id=None)
    lines[3] = lines[3].changed(role_id="r2")
    lines[4] = lines[4].changed(locked=True)
    captions = tuple(
        caption.changed(text=f"{caption.text} not") if number in (1, 3, 4) else caption
        for number, caption in enumerate(project.captions)
    )
    made = build_timeline(timeline.project.changed(lines=tuple(lines), captions=captions), takes)
    whole, sections, roles = coverage(made, failed={"l3", "l1"})
    assert whole.name == "The whole piece"
    assert (whole.lines, whole.unvoiced, whole.stale, whole.failed, whole.recorded) == (5, 1, 1, 1, 1)
    assert (whole.open_ids, whole.missing_ids, whole.stale_ids) == (("l2", "l3"), ("l3",), ("l2",))
    assert whole.spoken_before == ("l4",)
    wanted = ticks_to_seconds(made.lines[1].natural_ticks + made.lines[2].natural_ticks)
    assert whole.seconds_open == round(wanted, 2)
    assert [(each.name, each.lines, each.open_ids, each.failed) for each in sections] == [
        ("Before the first heading", 2, ("l2",), 0),
        ("The pools", 3, ("l3",), 1),
    ]
    assert [(each.name, each.lines, each.recorded) for each in roles] == [
        ("narrator", 4, 0),
        ("limpet", 1, 1),
    ]
    assert roles[0].failed == 1


def test_a_piece_without_headings_has_no_sections() -> None:
    whole, sections, roles = coverage(build_timeline(simple_project(["one", "two"]), {}))
    assert (sections, [each.name for each in roles], whole.unvoiced) == ([], ["narrator"], 2)
