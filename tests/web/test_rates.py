"""How often something may be done."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.web import rates
from fox_cadence.web.rates import Rate


@given(
    st.integers(1, 5),
    st.integers(1, 100),
    st.lists(st.tuples(st.integers(0, 50), st.sampled_from("ab")), max_size=40),
)
def test_in_no_stretch_of_time_is_it_done_more_often(
    most: int, within_s: int, tries: list[tuple[int, str]]
) -> None:
    with pytest.MonkeyPatch.context() as patch:
        now = 1000.0
        patch.setattr(rates, "monotonic", lambda: now)
        rate = Rate(most, within_s)
        done: dict[str, list[float]] = {"a": [], "b": []}
        for pause_s, key in tries:
            now += pause_s
            wait_s = rate.wait_s(key)
            assert 0 <= wait_s <= within_s
            if wait_s == 0:
                rate.count(key)
                done[key].append(now)
            else:
                recent = [at for at in done[key] if at >= now - within_s]
                assert len(recent) >= most
        for times in done.values():
            for at in times:
                assert sum(at <= other < at + within_s for other in times) <= most


def test_who_has_waited_as_long_as_was_said_may_go_on(monkeypatch: pytest.MonkeyPatch) -> None:
    now = 50.0
    monkeypatch.setattr(rates, "monotonic", lambda: now)
    rate = Rate(2, 60)
    for _ in range(2):
        assert rate.wait_s("a") == 0
        rate.count("a")
        now += 10
    wait_s = rate.wait_s("a")
    assert wait_s == 40
    assert rate.wait_s("b") == 0
    now += wait_s + 0.001
    assert rate.wait_s("a") == 0
