"""Commands about sound."""

import argparse
from pathlib import Path

from fox_cadence.actions.treating import named, treat_file
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli_answers import Command, answer
from fox_cadence.core.treatment import SHIPPED


def add_commands(command: Command) -> None:
    """Add `treat` and `treatments`."""
    treat = command("treat", _treat, "treat the voice in a sound file")
    treat.add_argument("file", type=Path, metavar="FILE")
    treat.add_argument("--with", dest="treatment", required=True, metavar="NAME", help="see `treatments`")
    treat.add_argument("--out", type=Path, required=True, metavar="FILE", help="a WAV to write")
    command("treatments", _treatments, "list the treatments that ship")


def _treat(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        treatment = named(workspace, options.treatment)
    loudness, effects = treat_file(options.file, treatment, options.out)
    stages = [
        {"kind": stage.kind, "most_db": effect.most_db, "mean_db": effect.mean_db}
        for stage, effect in zip(treatment.stages, effects, strict=True)
    ]
    said = {
        "file": str(options.out),
        "treatment": treatment.name,
        "lufs": round(loudness.integrated_lufs, 1),
        "peak_db": round(loudness.true_peak_db, 1),
        "stages": stages,
    }
    rows = [
        f"{each['kind']:<12}" + ("" if each["most_db"] is None else f"down by {each['most_db']} dB at most")
        for each in stages
    ]
    answer(options, said, "\n".join([*rows, f"{options.out}: {said['lufs']} LUFS"]))


def _treatments(options: argparse.Namespace) -> None:
    found = [each.model_dump() for each in SHIPPED]
    rows = [f"{each.name:<16}{', '.join(stage.kind for stage in each.stages)}" for each in SHIPPED]
    answer(options, {"treatments": found}, "\n".join(rows))
