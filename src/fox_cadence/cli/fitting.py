"""The fit from a terminal."""

import argparse

from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.web.answers.proposal import proposal_in_the_piece


def add_commands(command: Command) -> None:
    """Add `fit`."""
    fitting = command("fit", _fit)
    fitting.add_argument("project", metavar="PROJECT")
    fitting.add_argument("--accept", action="store_true", help="make the takes and keep the proposal")


def _fit(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        fitted = fit(workspace, options.project)
        data = proposal_in_the_piece(fitted)
        if fitted.proposal.status is not Status.SOLVED:
            answer(options, data, data["reason"])
            return 1
        if options.accept:
            done = accept(workspace, fitted, options.terminal)
            data["accepted_revision"] = done.revision
            data["rounds"] = done.rounds
            data["results"] = [
                {
                    "id": line.line_id,
                    "planned_end_s": ticks_to_seconds(line.planned_end_ticks),
                    "end_s": ticks_to_seconds(line.end_ticks),
                    "stretch": line.stretch,
                    "rounds": line.rounds,
                }
                for line in done.lines
            ]
            worst = max((abs(line.off_ticks) for line in done.lines), default=0)
            data["worst_miss_ms"] = ticks_to_seconds(worst) * 1000
    rows = [
        f"{line['state']:<8} {line['start_s']:7.2f} to {line['end_s']:7.2f}  ×{line['pace']:.3f}  "
        f"{line['text'][:60]}"
        for line in data["lines"]
    ]
    if data["outside"]:
        rows.append(data["reason"])
    answer(options, data, "\n".join(rows))
    return 0
