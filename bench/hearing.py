"""From a key press to sound, and a long script in: what an editor waits for in the passes Words and Cast."""

import tempfile
import time
from pathlib import Path

from starlette.testclient import TestClient

from bench.clock import quantile
from bench.corpus import built
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetCaptionText
from fox_cadence.core.project import Caption, Line, Project, Role
from fox_cadence.core.shot import Shot
from fox_cadence.core.words import words_of
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engine import Utterance
from fox_cadence.web.app import create_app

VOICES = ("orla", "wren", "holt")
TIMES = 40
SCRIPT_WORDS = 10_000
SHOTS = 200


def rows() -> list[str]:
    found = [
        "| what | median | p95 | bare engine: median | p95 |",
        "| --- | --- | --- | --- | --- |",
        *(_heard(voice_id) for voice_id in VOICES),
        "",
        "| 10,000 words | seconds |",
        "| --- | --- |",
    ]
    return [*found, *_script()]


def project_of(voice_id: str, texts: list[str]) -> Project:
    shots = tuple(
        Shot(id=f"s{n}", name=f"S{n}", length_frames=150, wanted_frames=150) for n, _ in enumerate(texts, 1)
    )
    return Project(
        name="Heard",
        shots=shots,
        roles=(Role(id="r1", name="narrator", voice_id=voice_id),),
        captions=tuple(
            Caption(id=f"c{n}", shot_id=f"s{n}", in_frames=0, out_frames=150, text=text)
            for n, text in enumerate(texts, 1)
        ),
        lines=tuple(
            Line(
                id=f"l{n}", role_id="r1", first_shot_id=f"s{n}", last_shot_id=f"s{n}", caption_ids=(f"c{n}",)
            )
            for n, _ in enumerate(texts, 1)
        ),
    )


def _heard(voice_id: str) -> str:
    """Each time the ten words of a line are changed and the line is asked for, through the server."""
    texts = [" ".join(text.split()[:10]) for text in built("en", 400) if len(text.split()) >= 10][:TIMES]
    voice = voice_by_id(voice_id)
    assert voice is not None
    whole: list[float] = []
    bare: list[float] = []
    with tempfile.TemporaryDirectory() as folder:
        workspace = Workspace(Path(folder))
        project_id = workspace.projects.create(project_of(voice_id, ["Low water."]), "Made")
        with TestClient(create_app(workspace), base_url="http://127.0.0.1:8345") as client:
            client.get(f"/api/projects/{project_id}/lines/l1/sound.wav")  # the voice is loaded
            for text in texts:
                began = time.perf_counter()
                edit = SetCaptionText(caption_id="c1", text=text).model_dump()
                body = {"based_on": workspace.head(project_id).revision, "edit": edit}
                client.post(f"/api/projects/{project_id}/edits", json=body).raise_for_status()
                client.get(f"/api/projects/{project_id}/lines/l1/sound.wav").raise_for_status()
                whole.append(time.perf_counter() - began)
                began = time.perf_counter()
                said = Utterance(text, voice.engine_voice, 1.0, voice.pitch, voice.liveliness)
                workspace.engines.of(voice).say(said)
                bare.append(time.perf_counter() - began)
    each = " | ".join(f"{quantile(times, share):.2f} s" for times in (whole, bare) for share in (0.5, 0.95))
    return f"| ten changed words, {voice.name} | {each} |"


def _script() -> list[str]:
    """A script typed in, looked over, laid on 200 shots, and what the page then asks for."""
    lines: list[str] = []
    count = 0
    for text in built("en", 4000):
        lines.append(text)
        count += len(words_of(text))
        if count >= SCRIPT_WORDS:
            break
    text = "\n".join(lines)
    with tempfile.TemporaryDirectory() as folder:
        workspace = Workspace(Path(folder))
        bare = project_of("wren", ["x"] * SHOTS).changed(captions=(), lines=())
        project_id = workspace.projects.create(bare, "Made")
        with TestClient(create_app(workspace), base_url="http://127.0.0.1:8345") as client:
            address = f"/api/projects/{project_id}"
            steps: list[tuple[str, float, int]] = []
            for name, path, data in (
                ("looked over", "/words/plan", {"pasted": text, "how": "anew"}),
                (
                    "laid out, with all the page shows",
                    "/words",
                    {"pasted": text, "how": "anew", "based_on": "1"},
                ),
            ):
                began = time.perf_counter()
                answer = client.post(address + path, data=data)
                answer.raise_for_status()
                steps.append((name, time.perf_counter() - began, len(answer.content)))
    shown = f"{len(lines)} lines, {count:,} words"
    return [
        f"| {name} ({shown}, {size / 1e6:.1f} MB answered) | {seconds:.2f} |" for name, seconds, size in steps
    ]
