"""Recorded voices: a recording becomes the takes of lines, aligned to their words."""

import itertools
import threading
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from fox_cadence.actions.voicing import keep_takes, natural_take
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.languages import primary
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import KeptTake, Line, Project, kept_take, said_text
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import plain, words_of
from fox_cadence.errors import EngineError, InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound, read_wav, wav_bytes
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.recordings import read_recording
from fox_cadence.voices.alignment import Alignment, DraftWord, align_english, draft_words, stretches_of
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.recorded import ALIGNED_APART, WARPED_APART, Cut, recorded_take
from fox_cadence.voices.script import script_of
from fox_cadence.voices.warping import warped
from fox_cadence.voices.worker_link import WORKERS

_BETWEEN = SAMPLE_RATE_HZ * 4 // 10
_ENGLISH_PHONEMES = "gmw/en-US"
_NEW_LINE_S = 0.6


@dataclass(frozen=True, slots=True)
class RecordedLine:
    """A line that was given its part of a recording, and the words that were probably said otherwise."""

    line_id: str
    seconds: float
    doubtful: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class RecordingResult:
    lines: tuple[RecordedLine, ...]
    checked: bool
    """Whether words that were said otherwise could be told: in English."""


def bring_recording(
    workspace: Workspace,
    project_id: str,
    line_ids: Sequence[str],
    file: Path,
    name: str,
    watcher: Watcher | None = None,
) -> RecordingResult:
    """Give lines their takes out of one recording that says them in order; one undoable step.

    Raises:
        InputError: the recording can't be read, or says other words; nothing was changed.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    lines = [line for line in project.lines if line.id in set(line_ids)]
    if not lines:
        raise InputError("choose the line it contains, or the whole script", name)
    try:
        watch.report(0, 3, f"Reading {name}")
        sound = run_isolated(read_recording, file, cancelled=lambda: watch.cancelled)
        watch.report(1, 3, "Finding the words")
        english = primary(_language(project, lines[0])) == "en"
        found = (_english if english else _by_warping)(workspace, project, lines, sound, watch)
    except (InputError, EngineError) as error:
        raise InputError(str(error), name) from error
    watch.report(2, 3, "Cutting the lines")
    made: dict[str, KeptTake] = {}
    results: list[RecordedLine] = []
    at = 0
    cuts: list[Cut] = []
    for line in lines:
        text = said_text(project, line)
        count = len(words_of(text))
        cuts.append(Cut(text, found.words[at : at + count], found.phonemes))
        at += count
    first = 0
    for number, (line, cut) in enumerate(zip(lines, cuts, strict=True)):
        before = cuts[number - 1].words[-1][1] if number else None
        after = cuts[number + 1].words[0][0] if number + 1 < len(cuts) else None
        take, heard = recorded_take(sound, cut, before, after, ALIGNED_APART if english else WARPED_APART)
        kept = workspace.library.add_take(take, wav_bytes(heard))
        label = f"Recorded, {name}"[:80]
        made[line.id] = kept_take(project, line, kept.id).changed(name=label, delivery=None)
        texts = [word.text for word in words_of(cut.text)]
        doubtful = tuple(texts[each - first] for each in found.doubtful if first <= each < first + len(texts))
        results.append(
            RecordedLine(line.id, (kept.end_sample - kept.onset_sample) / SAMPLE_RATE_HZ, doubtful)
        )
        first += len(texts)
    keep_takes(workspace, project_id, made, label=f"{counted(len(made), 'line')} recorded")
    watch.report(3, 3)
    return RecordingResult(tuple(results), english)


def _language(project: Project, line: Line) -> str:
    voice = voice_by_id(line.voice_id or project.role(line.role_id).voice_id)
    return voice.language if voice else project.language


def _english(
    workspace: Workspace, project: Project, lines: Sequence[Line], sound: Sound, watch: Watcher
) -> Alignment:
    """Words as they are spoken, figures in words, each known by its phonemes."""
    spoken: list[list[str]] = []
    for line in lines:
        text = said_text(project, line)
        script = script_of(text, "en", ())
        edges = [*script.begins, len(script.text)]
        for begin, end in itertools.pairwise(edges):
            parts = [
                plain(part) for word in words_of(script.text[begin:end]) for part in word.text.split("-")
            ]
            spoken.append([part for part in parts if part] or ["um"])
    names = sorted({part for parts in spoken for part in parts})
    clauses = workspace.engines.espeak.phonemes(names, _ENGLISH_PHONEMES)
    ipa = {name: "".join(found).replace("_", "") for name, found in zip(names, clauses, strict=True)}
    made = run_isolated(align_english, sound, spoken, ipa, cancelled=lambda: watch.cancelled)
    assert isinstance(made, Alignment)
    return made


def _by_warping(
    workspace: Workspace, project: Project, lines: Sequence[Line], sound: Sound, watch: Watcher
) -> Alignment:
    """A reading by the lines' own voices warped onto the recording."""
    parts: list[Sound] = []
    moments: list[int] = []
    phonemes: list[tuple[str, int]] = []
    at = 0
    for number, line in enumerate(lines):
        watch.report(1, 3, f"Reading line {number + 1} to compare")
        take, _ = natural_take(workspace, project, line)
        reading = read_wav(workspace.library.take_sound(take.sound_hash))
        for word in take.words:
            moments += [at + word.start_sample, at + word.end_sample]
        phonemes += [(each.ipa, at + each.start_sample) for each in take.phonemes]
        parts += [reading, np.zeros(_BETWEEN, np.float32)]
        at += len(reading) + _BETWEEN
    try:
        whole = [*moments, *(sample for _, sample in phonemes)]
        places = warped(np.concatenate(parts), sound, whole)
    except ValueError as error:
        raise InputError(
            "more than two minutes can't be cut into lines in this language; record in parts"
        ) from error
    words, begins = places[: len(moments)], places[len(moments) :]
    heard = [(ipa, begin) for (ipa, _), begin in zip(phonemes, begins, strict=True)]
    return Alignment(tuple(zip(words[::2], words[1::2], strict=True)), phonemes=tuple(heard))


def draft_of(file: Path, name: str, watcher: Watcher | None = None) -> tuple[str, list[DraftWord]]:
    """Draft words of a recording that has no script (English), a line after each rest, and when each was
    said.

    Two processes listen, each to every other stretch of it.

    Raises:
        InputError: it can't be read, or no word was understood.
        CancelledError: the editor stopped it.
    """
    watch = watcher or Unwatched()
    try:
        watch.report(0, 0, f"Reading {name}")
        sound = run_isolated(read_recording, file, cancelled=lambda: watch.cancelled)
        words = _listened(sound, watch)
    except InputError as error:
        raise InputError(str(error), name) from error
    if not words:
        raise InputError("no word was understood; the draft is made for English speech", name)
    text = ""
    for before, word in zip([None, *words], words, strict=False):
        gap = (word.start - before.end) / SAMPLE_RATE_HZ if before else 0.0
        text += ("\n" if gap >= _NEW_LINE_S else " " if before else "") + word.text
    return text, words


def _listened(sound: Sound, watch: Watcher) -> list[DraftWord]:
    """The words of a recording in order, with progress by stretches."""
    stretches = stretches_of(sound)
    shares = [stretches[number::WORKERS] for number in range(min(WORKERS, len(stretches)))]
    heard = [0] * len(shares)
    lock = threading.Lock()

    def listen(number: int) -> list[DraftWord]:
        def progress(done: int, total: int) -> None:
            with lock:
                heard[number] = done
                watch.report(sum(heard), len(stretches), "Listening for words")

        words: list[DraftWord] = run_isolated(
            draft_words, sound, shares[number], progress=progress, cancelled=lambda: watch.cancelled
        )
        return words

    with ThreadPoolExecutor(WORKERS, thread_name_prefix="listening") as pool:
        parts = list(pool.map(listen, range(len(shares))))
    return sorted((word for part in parts for word in part), key=lambda word: word.start)
