"""What the page is told after each change, put into what it knew, is what it would be told if it knew
nothing."""

import random
import time
from typing import Any

import pytest
from playwright.sync_api import APIRequestContext, FilePayload, Page

STEPS = 45
FEW = "Short words."
MORE = "A good many more words than were there before, so that everything has to make room."

_APPLY = """async (steps) => {
  const { placed, Told } = await import("/static/scripts/timeline.js");
  const wrong = [];
  const told = new Told();
  told.read(steps[0].whole);
  const sorted = (value) => value && typeof value === "object" && !Array.isArray(value)
    ? Object.fromEntries(Object.keys(value).sort().map((key) => [key, sorted(value[key])]))
    : Array.isArray(value) ? value.map(sorted) : value;
  const text = (state) => JSON.stringify(sorted({ ...state, version: "" }));
  const same = (a, b) => text(a) === text(b);
  for (const { what, changes, whole } of steps.slice(1)) {
    if (!("since" in changes)) { wrong.push(`${what}: answered with the whole`); continue; }
    const made = told.read(changes);
    if (!made || !same(made, whole)) wrong.push(what);
    else if (!same(placed(made), placed(whole))) wrong.push(`${what}, put in its place`);
  }
  return wrong;
}"""


class Window:
    """A page's requests: it says which state it knows, and remembers what it is told."""

    def __init__(self, request: APIRequestContext, base: str, project: str, seed: int) -> None:
        self.request, self.base, self.at = request, base, f"{base}/api/projects/{project}"
        self.chance = random.Random(seed)
        self.state: dict[str, Any] = self.ask("GET", "timeline", known="")
        self.steps: list[dict[str, Any]] = [{"what": "first", "whole": self.state, "changes": {}}]

    def ask(self, method: str, path: str, body: Any = None, known: str | None = None) -> dict[str, Any]:
        headers = {"x-known-version": self.state["version"] if known is None else known}
        answer = self.request.fetch(f"{self.at}/{path}", method=method, data=body, headers=headers)
        assert answer.ok, (path, body, answer.text())
        return dict(answer.json())

    def take(self, what: str, changes: dict[str, Any]) -> None:
        """An answer beside the whole that is there now; the next one tells what differs from this."""
        for _ in range(20):
            whole = self.ask("GET", "timeline", known="")
            if changes["version"] == whole["version"]:
                break
            changes = self.ask("GET", "timeline")  # lengths have become known in between
        assert changes["version"] == whole["version"]
        self.steps.append({"what": what, "changes": changes, "whole": whole})
        self.state = whole

    def job(self, path: str, body: Any = None) -> None:
        job = self.request.post(f"{self.at}/{path}", data=body).json()
        for _ in range(600):
            if job["state"] not in ("waiting", "running"):
                break
            time.sleep(0.05)
            job = self.request.get(f"{self.base}/api/jobs/{job['id']}").json()
        assert job["state"] == "done", job

    def edit(self) -> dict[str, Any]:
        """An edit that can be made on what is there, drawn by chance."""
        chance, state = self.chance, self.state
        line, shot, caption = (chance.choice(state[name]) for name in ("lines", "shots", "captions"))
        role = chance.choice(state["roles"])
        words = max(1, len(line["said_words"]) - 1)
        return chance.choice(
            [
                {"kind": "caption_text", "caption_id": caption["id"], "text": chance.choice((FEW, MORE))},
                {"kind": "shot_length", "shot_id": shot["id"], "length_frames": max(20, shot["length"] - 7)},
                {"kind": "said", "line_id": line["id"], "text": chance.choice((FEW, MORE))},
                {
                    "kind": "pause",
                    "line_id": line["id"],
                    "after_word": chance.randrange(words),
                    "seconds": 0.4,
                },
                {"kind": "line_start", "line_id": line["id"], "offset_s": chance.uniform(0.1, 1.5)},
                {"kind": "lock", "what": "shot", "id": shot["id"], "locked": not shot["locked"]},
                {"kind": "house", "fastest_pace": chance.choice((1.1, 1.2, 1.3))},
                {"kind": "settings", "longest_s": chance.choice((45, 60, 90))},
                {"kind": "role", "role_id": role["id"], "gain_db": chance.choice((-3, 0, 3))},
                {"kind": "frame", "width": chance.choice((216, 240)), "height": 384},
                {"kind": "delete_line", "line_id": line["id"]},
                {"kind": "delete_shot", "shot_id": shot["id"]},
                {"kind": "add_caption", "shot_id": shot["id"], "text": "One more."},
                {"kind": "bed", "bed_id": "b1", "gain_db": chance.choice((-20, -10))},
            ]
        )

    def step(self) -> None:
        way = self.chance.random()
        if way < 0.2 and self.state["undo"]:
            self.take("undo", self.ask("POST", "undo", {"based_on": self.state["revision"]}))
        elif way < 0.3 and self.state["redo"]:
            self.take("redo", self.ask("POST", "redo", {"based_on": self.state["revision"]}))
        elif way < 0.35:
            self.words()
        else:
            edit = self.edit()
            body = {"based_on": self.state["revision"], "edit": edit}
            headers = {"x-known-version": self.state["version"]}
            answer = self.request.post(f"{self.at}/edits", data=body, headers=headers)
            assert answer.ok or answer.status == 422, answer.text()  # what can't be is refused in words
            if answer.ok:
                self.take(f"{edit}", answer.json())

    def words(self) -> None:
        how = self.chance.choice(("compare", "anew"))
        form: dict[str, str | float | bool | bytes | FilePayload] = {
            "pasted": f"{FEW}\n\n{MORE}",
            "kind": ".txt",
            "based_on": str(self.state["revision"]),
            "how": how,
        }
        headers = {"x-known-version": self.state["version"]}
        answer = self.request.post(f"{self.at}/words", multipart=form, headers=headers)
        assert answer.ok, answer.text()
        self.take("words brought in", answer.json()["state"])

    def voiced_and_accepted(self) -> None:
        self.job("voice", {})
        self.take("voiced", self.ask("GET", "timeline"))
        proposal = self.ask("POST", "fit", {})
        if proposal["status"] == "solved" and not proposal["outside"]:
            self.job("accept", {"proposal": proposal["key"]})
            self.take("accepted", self.ask("GET", "timeline"))


@pytest.mark.parametrize("seed", [1, 2])
def test_changes_put_into_what_was_known_are_what_is_there(page: Page, seed: int) -> None:
    base, project = page.url.split("/projects/")
    window = Window(page.request, base, project, seed)
    for number in range(STEPS):
        window.step()
        if number == STEPS // 2:
            window.voiced_and_accepted()
    assert len(window.steps) > STEPS // 2
    assert page.evaluate(_APPLY, window.steps) == []


def test_a_state_that_is_forgotten_is_told_whole(page: Page) -> None:
    base, project = page.url.split("/projects/")
    answer = page.request.get(
        f"{base}/api/projects/{project}/timeline", headers={"x-known-version": "no-such"}
    ).json()
    assert "since" not in answer
    assert len(answer["lines"]) == 10
