"""Making takes: for every line that has none, for those that are out of date, for those a fit has given a new pace."""

from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Line, Project, SpanLength
from fox_cadence.core.speech import shared_pauses
from fox_cadence.core.takes import SpanTarget, Take, VoicingRequest, natural_request
from fox_cadence.core.ticks import ticks_to_samples
from fox_cadence.core.timeline import LineSpan, is_stale
from fox_cadence.errors import ClashError, EngineError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import wav_bytes
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.takes import make_take

_COMMIT_TRIES = 5


@dataclass(frozen=True, slots=True)
class Failure:
    line_id: str
    text: str
    reason: str


@dataclass(frozen=True, slots=True)
class VoicingResult:
    """How many lines were given a new sound, how many kept or found theirs, and which failed and why."""

    made: int
    kept: int
    failed: tuple[Failure, ...]


def take_for(workspace: Workspace, request: VoicingRequest) -> tuple[Take, bool]:
    """The take of a request and whether it had to be made.

    Raises:
        EngineError: the voice is unknown or the engine failed.
    """
    known = workspace.library.take_by_key(request.key)
    if known is not None:
        return known, False
    voice = voice_by_id(request.voice_id)
    if voice is None:
        raise EngineError(f"There is no voice {request.voice_id!r} on this machine. Choose another in Cast.")
    made, sound = make_take(workspace.engines.of(voice), voice, request)
    take = workspace.library.add_take(made, wav_bytes(sound))
    if not request.targets:
        workspace.lengths.learn(take)
    return take, True


def natural_take(workspace: Workspace, project: Project, line: Line) -> tuple[Take, bool]:
    """The take of a line at natural pace, made if it is not there yet."""
    return take_for(workspace, natural_request(project, line))


def open_lines(workspace: Workspace, project: Project) -> list[Line]:
    """Lines that have no take, or one whose words, voice or delivery have changed since. Locked ones are left."""
    takes = workspace.takes_of(project)
    return [
        line
        for line in project.lines
        if (take := takes.get(line.take_id or "")) is None or (is_stale(project, line, take) and not line.locked)
    ]


def voice_lines(
    workspace: Workspace, project_id: str, line_ids: list[str] | None = None, watcher: Watcher | None = None
) -> VoicingResult:
    """Voice all open lines of a project, or those named, and keep the takes in one undoable step.

    What was made before a cancel or a failure is kept; a failed line is reported and the others go on.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    chosen = open_lines(workspace, project)
    if line_ids is not None:
        chosen = [line for line in project.lines if line.id in line_ids]
    made: dict[str, Take] = {}
    new = 0
    failed: list[Failure] = []
    try:
        for number, line in enumerate(chosen):
            watch.report(number, len(chosen), f"Line {project.lines.index(line) + 1}")
            try:
                made[line.id], is_new = natural_take(workspace, project, line)
                new += is_new
            except EngineError as error:
                failed.append(Failure(line.id, natural_request(project, line).text, str(error)))
        watch.report(len(chosen), len(chosen))
    finally:
        if made:
            _keep(workspace, project_id, made)
    return VoicingResult(new, len(project.lines) - new - len(failed), tuple(failed))


def _keep(workspace: Workspace, project_id: str, made: dict[str, Take]) -> None:
    """Point the lines to their takes, on top of whatever was edited meanwhile; such lines show as stale."""
    for attempt in range(_COMMIT_TRIES):
        head = workspace.head(project_id)
        lines = tuple(line.voiced_by(made[line.id].id) if line.id in made else line for line in head.project.lines)
        if lines == head.project.lines:
            return
        count = sum(a != b for a, b in zip(lines, head.project.lines, strict=True))
        label = f"{count} {'line' if count == 1 else 'lines'} voiced"
        try:
            workspace.projects.commit(
                project_id, head.revision, head.project.model_copy(update={"lines": lines}), label
            )
            return
        except ClashError:
            if attempt == _COMMIT_TRIES - 1:
                raise


def paced_take(workspace: Workspace, project: Project, span: LineSpan, lengths: Sequence[SpanLength]) -> Take:
    """The take of a line made to last just what a fit has planned for each of its spans."""
    request = natural_request(project, span.line)
    shortest = ticks_to_samples(span.shortest_pause_ticks)
    targets = tuple(
        SpanTarget(
            end_word=part.end_word,
            voiced_samples=ticks_to_samples(length.voiced_ticks),
            pauses=shared_pauses(
                [ticks_to_samples(rest) for rest in part.natural_rests], ticks_to_samples(length.pause_ticks), shortest
            ),
        )
        for part, length in zip(span.speech.spans, lengths, strict=True)
    )
    take, _ = take_for(workspace, request.model_copy(update={"targets": targets}))
    return take
