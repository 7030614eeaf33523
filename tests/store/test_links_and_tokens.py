"""Review links and tokens as they are kept."""

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

import pytest

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.review import Link, Moment, Shown
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.store import reviews as store

SHOWN = Shown(
    piece="Foam", language="en", rate=FrameRate(numerator=30), width=64, height=64, first_frame=0, seconds=2,
    captions=(), chapters=(), transcript=(), shots=(),
)  # fmt: skip


def link(workspace: Workspace, link_id: str = "a", once: bool = False, password: str = "") -> Link:
    return workspace.reviews.add(link_id, "p", 1, "foam.mp4", SHOWN, "", once, password)


def test_a_link_is_found_by_its_secret_with_what_it_shows(workspace: Workspace) -> None:
    made = link(workspace)
    found, shown = workspace.reviews.by_secret(made.secret)
    assert (found, shown) == (made, SHOWN)
    assert len(made.secret) >= 32
    for wrong in ("", made.id, made.secret[:-1], made.secret.swapcase()):
        with pytest.raises(NotFoundError):
            workspace.reviews.by_secret(wrong)


def test_of_two_browsers_at_the_same_moment_one_is_let_in(workspace: Workspace) -> None:
    made = link(workspace, once=True)
    with ThreadPoolExecutor(8) as many:
        tokens = list(many.map(lambda _: workspace.reviews.let_in(made), range(8)))
    (token,) = [each for each in tokens if each]
    assert workspace.reviews.knows("a", token)
    assert not workspace.reviews.knows("b", token)
    assert not workspace.reviews.knows("a", token + "x")


def test_where_there_is_no_password_none_is_right(workspace: Workspace) -> None:
    link(workspace)
    assert not workspace.reviews.is_password("a", "")
    assert not workspace.reviews.is_password("gone", "")
    link(workspace, "b", password="clam beds")
    assert workspace.reviews.is_password("b", "clam beds")
    assert not workspace.reviews.is_password("b", "Clam beds")


def test_the_log_keeps_its_newest_entries(workspace: Workspace, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(store, "MOST_LOGGED", 5)
    link(workspace)
    link(workspace, "b")
    for number in range(12):
        workspace.reviews.log("a", f"entry {number}", "10.0.0.1")
    assert [each.what for each in workspace.reviews.logged("a")] == [f"entry {n}" for n in range(11, 6, -1)]
    assert [each.what for each in workspace.reviews.logged("b")] == ["made"]


def test_notes_come_in_the_order_of_the_film(workspace: Workspace) -> None:
    made = link(workspace)
    for at_s in (3.0, 1.0, 2.0, 1.0):
        moment = Moment(shot_id="s1", frame=round(at_s * 30))
        workspace.reviews.add_note(made, at_s, moment, "Rosa", f"At {at_s}")
    notes = workspace.reviews.notes_on("p")
    assert [note.at_s for note in notes] == [1.0, 1.0, 2.0, 3.0]
    assert notes[0].moment == Moment(shot_id="s1", frame=30)
    answered = workspace.reviews.answer(notes[2].id, "Yes.")
    assert answered.answered_at
    taken_back = workspace.reviews.answer(notes[2].id, "")
    assert (taken_back.answer, taken_back.answered_at) == ("", "")
    assert workspace.reviews.mark(notes[0].id, True).done_at
    assert not workspace.reviews.mark(notes[0].id, False).done_at


def test_a_token_is_known_by_its_name_whatever_its_letters(workspace: Workspace) -> None:
    token = workspace.tokens.make("Nightly", days=2)
    assert workspace.tokens.knows(token)
    assert not workspace.tokens.knows("")
    (kept,) = workspace.tokens.all()
    ends = datetime.fromisoformat(kept.until)
    assert timedelta(days=1, hours=23) < ends - datetime.now(UTC) < timedelta(days=2, hours=1)
    with pytest.raises(InputError, match="NIGHTLY"):
        workspace.tokens.make("NIGHTLY")
    workspace.tokens.revoke("nightly")
    assert not workspace.tokens.knows(token)
    with pytest.raises(NotFoundError):
        workspace.tokens.revoke("nightly")
