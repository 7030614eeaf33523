from fox_cadence.core.numbers import counted, numbered


def test_one_is_one_and_more_are_more() -> None:
    assert [counted(count, "shot") for count in (0, 1, 2)] == ["0 shots", "1 shot", "2 shots"]


def test_the_first_are_named_and_the_others_counted() -> None:
    assert numbered("line", [4], 3) == "line 4"
    assert numbered("line", [1, 4, 9], 3) == "lines 1, 4, 9"
    assert numbered("line", [1, 4, 9, 12, 13], 3) == "lines 1, 4, 9 and 2 more"
