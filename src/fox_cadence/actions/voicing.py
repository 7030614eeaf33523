"""Making takes: for every line that has none, for those that are out of date, for those a fit has given a new
pace."""

from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait
from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, apply_all
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Index, KeptTake, Line, Project, SpanLength, kept_take
from fox_cadence.core.speech import shared_pauses
from fox_cadence.core.takes import SpanTarget, Take, VoicingRequest, natural_request
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples
from fox_cadence.core.timeline import LineSpan
from fox_cadence.core.timeline_builder import is_stale
from fox_cadence.errors import CancelledError, EngineError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import read_wav, wav_bytes
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.making import MadeTake, make
from fox_cadence.voices.recorded import RECORDED, brought_to_lengths
from fox_cadence.voices.voice import Voice


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
    return keep_take(workspace, make(workspace.engines, voice_named(request.voice_id), request)), True


def voice_named(voice_id: str) -> Voice:
    """A voice of the catalogue. Raises EngineError when this machine has none of that id."""
    voice = voice_by_id(voice_id)
    if voice is None:
        raise EngineError(f"There is no voice {voice_id!r} on this machine. Choose another in Cast.")
    return voice


def keep_take(workspace: Workspace, made: MadeTake) -> Take:
    """A take that was made, kept with its sound; what is learnt from it is how fast its voice is and how it
    speaks."""
    workspace.slowness[made.take.voice_id] = made.seconds * SAMPLE_RATE_HZ / max(1, len(made.sound))
    take = workspace.library.add_take(made.take, wav_bytes(made.sound))
    if take.request is None or not take.request.targets:
        workspace.lengths.learn(take)
    return take


def natural_take(workspace: Workspace, project: Project, line: Line) -> tuple[Take, bool]:
    """The take of a line at natural pace, made if it is not there yet."""
    return take_for(workspace, natural_request(project, line))


def open_lines(workspace: Workspace, project: Project) -> list[Line]:
    """Lines that have no take, or one whose words, voice or delivery have changed since.

    Locked ones are left, and those a person spoke: a voice takes the place of a person only where it is asked
    to.
    """
    takes = workspace.takes_of(project)
    index = Index(project)
    return [
        line
        for line in project.lines
        if (take := takes.get(line.take_id or "")) is None
        or (not take.recorded and not line.locked and is_stale(project, line, take, index))
    ]


def voice_lines(
    workspace: Workspace,
    project_id: str,
    line_ids: list[str] | None = None,
    watcher: Watcher | None = None,
    edits: Sequence[Applied] = (),
) -> VoicingResult:
    """Voice all open lines of a project, or those named in the order they are named, and keep the takes in
    one undoable step.

    What was made before a cancel or a failure is kept; a failed line is reported and the others go on. With
    `edits` these are made first, in the same step: a role that is recast and its lines said anew are one
    undo.

    Raises:
        EditError: an edit can't be made; nothing was changed.
    """
    watch = watcher or Unwatched()
    project, _ = apply_all(workspace.head(project_id).project, edits)
    chosen = open_lines(workspace, project)
    if line_ids is not None:
        by_id = {line.id: line for line in project.lines}
        chosen = [by_id[line_id] for line_id in dict.fromkeys(line_ids) if line_id in by_id]
    index = Index(project)
    made: dict[str, KeptTake] = {}
    new = 0
    failed: list[Failure] = []
    asked = _by_request(workspace, project, chosen, index)
    try:
        for lines, found in _all_takes(workspace, asked, watch):
            if isinstance(found, EngineError):
                text = natural_request(project, lines[0], index).text
                failed += [Failure(line.id, text, str(found)) for line in lines]
            else:
                take, is_new = found
                made |= {line.id: kept_take(project, line, take.id, index) for line in lines}
                new += is_new
        watch.report(len(asked), len(asked))
    finally:
        if made or edits:
            keep_takes(workspace, project_id, made, edits)
        reasons = {each.line_id: each.reason for each in failed}
        workspace.results.keep_failures(project_id, {*made, *reasons}, reasons)
    return VoicingResult(new, len(project.lines) - new - len(failed), tuple(failed))


Asked = list[tuple[VoicingRequest, list[Line]]]


def _by_request(workspace: Workspace, project: Project, lines: Sequence[Line], index: Index) -> Asked:
    """What is to be voiced, each with the lines that say it: those that say the same share a take.

    A line that a fit has placed before it had any sound of what it says is made at the lengths of that fit,
    so that it is voiced once.
    """
    spans: dict[str, LineSpan] = {}
    if any(line.placement is not None for line in lines):
        spans = {span.line.id: span for span in workspace.timeline(project).lines}
    found: dict[str, tuple[VoicingRequest, list[Line]]] = {}
    for line in lines:
        request = natural_request(project, line, index)
        span = spans.get(line.id)
        if span is not None and _planned(span, request):
            request = request.changed(targets=_targets(span, span.lengths))
        found.setdefault(request.key, (request, []))[1].append(line)
    return list(found.values())


def _planned(span: LineSpan, request: VoicingRequest) -> bool:
    """Whether a fit has planned a line that is unvoiced or out of date, at other lengths than it would have
    by itself."""
    placement = span.line.placement
    return (
        (span.take is None or span.stale)
        and span.foreseen
        and placement is not None
        and placement.key == request.key
        and span.lengths == placement.spans
        and span.lengths != span.speech.natural
    )


def _all_takes(
    workspace: Workspace, asked: Asked, watch: Watcher
) -> Iterator[tuple[list[Line], tuple[Take, bool] | EngineError]]:
    """The take of each request: those there are at once, the others two made at a time, as they are ready.

    A stop waits for those being made.
    """
    running: dict[Future[MadeTake], list[Line]] = {}
    waiting = list(reversed(asked))
    done = 0
    try:
        while waiting or running:
            watch.report(done, len(asked), "Voicing")
            while waiting and len(running) < workspace.hands.voices_at_once:
                request, lines = waiting.pop()
                known = workspace.library.take_by_key(request.key)
                if known is not None:
                    done += 1
                    yield lines, (known, False)
                    continue
                try:
                    voice = voice_named(request.voice_id)
                except EngineError as error:
                    done += 1
                    yield lines, error
                    continue
                running[workspace.hands.voice(voice, request)] = lines
            ready, _ = wait(running, return_when=FIRST_COMPLETED)
            for future in ready:
                done += 1
                yield running.pop(future), _kept_or_error(workspace, future)
    except CancelledError:
        for future, lines in running.items():  # they are made by now or soon, and are worth keeping
            yield lines, _kept_or_error(workspace, future)
        raise


def _kept_or_error(workspace: Workspace, future: "Future[MadeTake]") -> tuple[Take, bool] | EngineError:
    try:
        return keep_take(workspace, future.result()), True
    except EngineError as error:
        return error


def keep_takes(
    workspace: Workspace,
    project_id: str,
    made: Mapping[str, KeptTake],
    edits: Sequence[Applied] = (),
    label: str = "",
) -> None:
    """Point lines to their takes, on top of whatever was edited meanwhile; such lines show as stale."""

    def pointed(now: Project) -> tuple[Project, str]:
        project, named = apply_all(now, edits)
        lines = tuple(line.voiced_by(made[line.id]) if line.id in made else line for line in project.lines)
        count = sum(a != b for a, b in zip(lines, project.lines, strict=True))
        voiced = f"{counted(count, 'line')} voiced" if count else ""
        return project.changed(lines=lines), label or ", ".join(part for part in (named, voiced) if part)

    workspace.commit_on_top(project_id, pointed)


def paced_take(workspace: Workspace, project: Project, span: LineSpan, lengths: Sequence[SpanLength]) -> Take:
    """The take of a line made to last just what a fit has planned for each of its spans.

    Raises:
        EngineError: its voice failed.
    """
    ((_, found),) = paced_takes(workspace, project, [(span, lengths)], Unwatched())
    if isinstance(found, EngineError):
        raise found
    return found


def paced_takes(
    workspace: Workspace,
    project: Project,
    wanted: Sequence[tuple[LineSpan, Sequence[SpanLength]]],
    watch: Watcher,
) -> Iterator[tuple[str, Take | EngineError]]:
    """The takes of lines made to last just what a fit has planned for each of their spans, two at a time: the
    id of each line and its take, or why there is none, as they are ready."""
    asked: dict[str, tuple[VoicingRequest, list[Line]]] = {}
    for span, lengths in wanted:
        targets = _targets(span, lengths)
        if span.take is not None and not span.stale and span.take.recorded:
            yield span.line.id, _recorded_paced(workspace, project, span, targets)
            continue
        request = natural_request(project, span.line).changed(targets=targets)
        asked.setdefault(request.key, (request, []))[1].append(span.line)
    for lines, found in _all_takes(workspace, list(asked.values()), watch):
        for line in lines:
            yield line.id, found if isinstance(found, EngineError) else found[0]


def _targets(span: LineSpan, lengths: Sequence[SpanLength]) -> tuple[SpanTarget, ...]:
    shortest = ticks_to_samples(span.shortest_pause_ticks)
    return tuple(
        SpanTarget(
            end_word=part.end_word,
            voiced_samples=ticks_to_samples(length.voiced_ticks),
            pauses=shared_pauses(
                [ticks_to_samples(rest) for rest in part.natural_rests],
                ticks_to_samples(length.pause_ticks),
                shortest,
            ),
        )
        for part, length in zip(span.speech.spans, lengths, strict=True)
    )


def _recorded_paced(
    workspace: Workspace, project: Project, span: LineSpan, targets: tuple[SpanTarget, ...]
) -> Take:
    """A recorded take brought to the lengths of a fit: stretched, because nobody can be asked to say it
    again."""
    takes = workspace.library.takes([span.line.take_id or ""])
    natural = takes[span.line.take_id or ""]
    asked = natural_request(project, span.line)
    request = VoicingRequest(
        text=natural.text,
        voice_id=f"{RECORDED} {natural.id}",
        pace=1.0,
        pitch_semitones=0.0,
        written=asked.written,
        targets=targets,
    )
    known = workspace.library.take_by_key(request.key)
    if known is not None:
        return known
    sound = read_wav(workspace.library.take_sound(natural.sound_hash))
    made, heard = brought_to_lengths(natural, sound, request)
    return workspace.library.add_take(made, wav_bytes(heard))
