"""Values change into new ones; a misspelt field is refused, one of a newer version is kept."""

import pytest

from fox_cadence.core.shot import Shot


def test_a_changed_value_is_a_new_one_and_keeps_what_a_newer_version_wrote() -> None:
    shot = Shot.model_validate(
        {"id": "s1", "name": "One", "length_frames": 3, "wanted_frames": 3, "gleam": "fill"}
    )
    longer = shot.changed(length_frames=5)
    assert (shot.length_frames, longer.length_frames, longer.model_extra) == (3, 5, {"gleam": "fill"})


@pytest.mark.parametrize("field", ["lenght_frames", "gleam", "model_extra"])
def test_a_field_that_does_not_exist_is_refused(field: str) -> None:
    shot = Shot(id="s1", name="One", length_frames=3, wanted_frames=3)
    with pytest.raises(TypeError, match=f"Shot has no field {field}"):
        shot.changed(**{field: 5})
