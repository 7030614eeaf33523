"""A piece heard before its voices have made it."""

import numpy as np

from fox_cadence.actions.drafting import QUICK_ENGINES, in_draft, stand_in
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.ticks import ticks_to_samples
from fox_cadence.voices.catalogue import VOICES, voice_by_id
from tests.builders import simple_project


def test_a_quick_voice_of_the_same_kind_stands_in_for_every_slow_one() -> None:
    for voice in VOICES:
        found = stand_in(voice)
        if voice.engine in QUICK_ENGINES:
            assert found is None
        elif voice.language != "ja":  # nobody quick reads Japanese
            assert found is not None, voice.id
            assert found.engine in QUICK_ENGINES
            assert found.language.split("-")[0] == voice.language.split("-")[0]
            assert found.gender == voice.gender
    wren = stand_in(voice_by_id("en-maren"))
    assert wren is not None
    assert wren.id == "wren"


def test_a_draft_is_as_long_as_the_finish_will_be_and_changes_nothing(workspace: Workspace) -> None:
    project = simple_project(["The tide goes out.", "A crab waits, and waits."], 4.0)
    roles = (project.roles[0].changed(voice_id="en-finch"),)
    project_id = workspace.projects.create(project.changed(roles=roles), "Made")
    head = workspace.head(project_id)
    workspace.settle_lengths(head.project)
    timeline = workspace.timeline(head.project)
    drafted = in_draft(workspace, timeline)
    for span, draft in zip(timeline.lines, drafted.lines, strict=True):
        assert span.take is None
        assert draft.take is not None
        assert draft.take.voice_id != "en-finch"
        heard = draft.take.end_sample - draft.take.onset_sample
        assert abs(heard - ticks_to_samples(span.end_ticks - span.start_ticks)) < 48  # a millisecond
    assert workspace.head(project_id) == head
    silent, spoken = mix(workspace, timeline), mix(workspace, drafted)
    assert not np.any(silent.read(0, silent.total_samples))
    assert np.abs(spoken.read(0, spoken.total_samples)).max() > 0.05


def test_what_has_its_sound_and_what_is_quick_is_no_draft(workspace: Workspace) -> None:
    project = simple_project(["The tide goes out."], 4.0)  # Orla is quick
    timeline = workspace.timeline(project)
    assert in_draft(workspace, timeline) is timeline
