"""A hundred lines voiced, and voiced again, against the bare engine over the same texts in one process."""

import tempfile
import time
from pathlib import Path

from bench.corpus import built
from bench.hearing import project_of
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engine import Utterance
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.voice import Voice

LINES = 100
WARM_UP = "Low water."
VOICES = ("orla", "wren", "holt", "en-maren")


def rows() -> list[str]:
    found = [
        f"| {LINES} lines | bare engine, one process | voicing | of bare (aim 0.8) | again | of first (aim "
        "0.03) |",
        "| --- | --- | --- | --- | --- | --- |",
    ]
    return [*found, *(_row(voice_id) for voice_id in VOICES)]


def _row(voice_id: str) -> str:
    texts = built("en", LINES)
    voice = voice_by_id(voice_id)
    assert voice is not None
    bare = _bare_s(voice, texts)
    # engines of their own: one that has said a text keeps it for a while
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project_id = workspace.projects.create(project_of(voice_id, texts), "Made")
        workspace.engines.of(voice).say(_utterance(voice, WARM_UP))
        began = time.perf_counter()
        result = voice_lines(workspace, project_id)
        first = time.perf_counter() - began
        assert result.made == LINES
        workspace.projects.undo(project_id)
        began = time.perf_counter()
        again = voice_lines(workspace, project_id)
        second = time.perf_counter() - began
        assert (again.made, again.failed) == (0, ())
    once = f"{bare:.1f} s | {first:.1f} s | {first / bare:.2f}"
    return f"| {voice.name} | {once} | {second:.2f} s | {second / first:.3f} |"


def _bare_s(voice: Voice, texts: list[str]) -> float:
    """Seconds the engine itself takes in one process, one text after the other, once it is loaded."""
    engines = Engines()
    try:
        engine = engines.of(voice)
        engine.say(_utterance(voice, WARM_UP))
        began = time.perf_counter()
        for text in texts:
            engine.say(_utterance(voice, text))
        return time.perf_counter() - began
    finally:
        engines.close()


def _utterance(voice: Voice, text: str) -> Utterance:
    return Utterance(text, voice.engine_voice, 1.0, 50, 50)
