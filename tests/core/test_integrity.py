from typing import Any

import pytest

from fox_cadence.core.edits import Applied, SetCaptionText, SetSaid, SetShotLength, apply_all
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import Project
from tests.builders import simple_project


def test_a_project_of_ours_has_no_fault() -> None:
    assert list(integrity_errors(simple_project(["One pool.", "Another."]))) == []


@pytest.mark.parametrize(
    ("where", "value", "said"),
    [
        (("shots", 1, "id"), "s1", "twice"),
        (("lines", 0, "role_id"), "r9", "role 'r9'"),
        (("lines", 0, "caption_ids"), ["c9"], "caption 'c9'"),
        (("lines", 0, "caption_ids"), ["c2"], "belongs to two lines"),
        (("lines", 0, "last_shot_id"), "s9", "shot 's9'"),
        (("lines", 1, "last_shot_id"), "s1", "ends before"),
        (("lines", 0, "caption_ids"), [], "no words"),
        (("captions", 0, "shot_id"), "s9", "shot 's9'"),
        (("captions", 0, "out_frames"), 0, "ends before it begins"),
        (("captions", 0, "out_frames"), 10**12, "beyond measure"),
        (("shots", 0, "clip_hash"), "../../etc", "clip"),
        (("shots", 0, "length_frames"), 10**9, "hours"),
        (("shots", 0, "source_in_ticks"), -5, "beyond measure"),
        (("clips",), {"../up": {"hash": "../up", "name": "x", "kind": "still"}}, "hash"),
        (("beds",), [{"clip_hash": "a" * 64}], "clip"),
        (("effects",), [{"id": "e1", "clip_hash": "a" * 64, "shot_id": "s1"}], "clip"),
    ],
)
def test_what_would_break_the_page_is_named(where: tuple[Any, ...], value: Any, said: str) -> None:
    document = simple_project(["One pool.", "Another."]).model_dump(mode="json")
    at: Any = document
    for part in where[:-1]:
        at = at[part]
    at[where[-1]] = value
    assert any(said in fault for fault in integrity_errors(Project.model_validate(document)))


def test_fields_of_a_newer_version_survive_edits() -> None:
    document = simple_project(["One pool.", "Another."]).model_dump(mode="json")
    document["wings"] = {"span": 3}
    for name in ("shots", "captions", "lines", "roles"):
        document[name][0]["feathers"] = [1, 2]
    project = Project.model_validate(document)
    edits: list[Applied] = [
        SetCaptionText(caption_id="c1", text="One tide pool."),
        SetSaid(line_id="l1", text="A pool."),
        SetShotLength(shot_id="s1", length_frames=99),
    ]
    changed = apply_all(project, edits)[0].model_dump(mode="json")
    assert changed["wings"] == {"span": 3}
    for name in ("shots", "captions", "lines", "roles"):
        assert changed[name][0]["feathers"] == [1, 2]
    assert Project.model_validate(changed).model_dump(mode="json") == changed
