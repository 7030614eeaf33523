"""Sound files and stems of a docket: the mix or any part of it, as loud as it is there."""

import tempfile
from collections.abc import Callable, Iterator, Sequence
from contextlib import ExitStack, suppress
from pathlib import Path

import numpy as np

from fox_cadence.actions.covers import cover_file
from fox_cadence.actions.making import Making
from fox_cadence.actions.making_video import frames_of, marks_of, samples_of
from fox_cadence.actions.mixing import mixer_of, planned
from fox_cadence.core.docket import SoundRow, StemsRow
from fox_cadence.core.docket.contents import is_silent, name_of, plan_of, stems_of
from fox_cadence.core.docket.names import stem
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError, MediaError
from fox_cadence.media.audio import Sound
from fox_cadence.media.ingest import PROXY
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import BLOCK, held_alone
from fox_cadence.media.proxies import read_frame, read_header
from fox_cadence.media.sound_files import (
    SoundForm,
    WavWriter,
    encode_file,
    whole_numbers,
    write_wav_blocks,
)

Samples = Callable[[int, int], Sound]


def make_sound(making: Making, row: SoundRow) -> None:
    """Raises InputError, MediaError."""
    timeline, mixed = making.timeline, making.mixed()
    first, last = frames_of(row.part, timeline)
    start, end = samples_of(timeline, first, last, mixed.total_samples)
    for of in row.of:
        name = making.name(row, f".{row.file}", _extra(making, row, of))
        read = mixed.read if of == "mix" else _alone(making, of)
        with making.whole(name, row) as made:
            if row.file == "wav":
                write_wav_blocks(made, _blocks(read, start, end), row.bits, row.channels)
            else:
                _encode(making, row, made, _blocks(read, start, end), (first, last))


def _extra(making: Making, row: SoundRow, of: str) -> str:
    """What tells the files of a row apart; the mix in a format for listening needs nothing."""
    if of == "mix" and row.file not in ("wav", "flac"):
        return ""
    try:
        return stem(name_of(of, making.timeline))
    except KeyError as error:
        raise InputError("there is no such role or line any more", of) from error


def _alone(making: Making, of: str) -> Samples:
    """A part of the mix by itself."""
    plan = planned(making.workspace, making.timeline)
    roles = {line.id: line.role_id for line in making.timeline.project.lines}
    part = plan_of(plan, of, roles)
    if is_silent(part) and of not in ("speech", "mix"):
        raise InputError("nothing of it is heard in the piece", name_of(of, making.timeline))
    return held_alone(making.mixed(), mixer_of(making.workspace, part))


def _blocks(read: Samples, start: int, end: int) -> Iterator[Sound]:
    for at in range(start, end, BLOCK):
        yield read(at, min(BLOCK, end - at))


def _encode(
    making: Making, row: SoundRow, target: Path, blocks: Iterator[Sound], frames: tuple[int, int]
) -> None:
    timeline = making.timeline
    with tempfile.TemporaryDirectory(dir=making.workspace.scratch) as scratch:
        source = Path(scratch) / "samples.f32"
        with source.open("wb") as file:
            for block in blocks:
                heard = block.mean(axis=1, dtype=np.float32) if row.channels == 1 else block
                file.write(np.ascontiguousarray(heard, dtype="<f4").tobytes())
        cover = _cover(making, Path(scratch), row)
        form = SoundForm(
            file=row.file,
            channels=row.channels,
            bits=row.bits,
            kbps=row.kbps,
            chapters=marks_of(timeline, *frames) if row.chapters else (),
            tags=making.tags(),
            cover=cover,
        )
        run_isolated(
            encode_file,
            source,
            target,
            form,
            progress=making.progress(row, "encoding"),
            cancelled=lambda: making.watch.cancelled,
        )


def _cover(making: Making, scratch: Path, row: SoundRow) -> Path | None:
    """The cover of the work the piece is a part of; else, of what has chapters, the first picture of the
    first clip, where there is one."""
    if making.work is not None and making.work.cover_hash:
        return cover_file(making.workspace, making.work.cover_hash)
    if not row.chapters:
        return None
    for span in making.timeline.shots:
        if span.shot.clip_hash is None:
            continue
        with suppress(OSError, ValueError, LookupError):
            pack = making.workspace.library.clip_file(span.shot.clip_hash, PROXY)
            cover = scratch / "cover.jpg"
            cover.write_bytes(read_frame(pack, read_header(pack), 0))
            return cover
    return None


def make_stems(making: Making, row: StemsRow) -> None:
    """WAV files that sum to the mix of the same bits, sample for sample: what rounding leaves is in the
    first of them.

    Raises:
        InputError: there is nothing to hear.
        MediaError: a stem is louder than a file can hold.
    """
    timeline, mixed = making.timeline, making.mixed()
    first, last = frames_of(row.part, timeline)
    start, end = samples_of(timeline, first, last, mixed.total_samples)
    plan = planned(making.workspace, timeline)
    roles = {line.id: line.role_id for line in timeline.project.lines}
    stems = stems_of(plan, timeline)
    if not stems:
        raise InputError("nothing is to be heard in the piece yet")
    mixers = [mixer_of(making.workspace, plan_of(plan, each.of, roles)) for each in stems]
    told = making.progress(row, "writing stems")
    most = 2 ** (row.bits - 1)
    names, before = ["mix", *(each.name for each in stems)], len(making.files)
    with ExitStack() as stack:
        files = [
            # first the file is closed, then it gets its name
            stack.enter_context(stack.enter_context(making.whole(each, row)).open("wb"))
            for each in _stem_names(making, row, names)
        ]
        writers = [WavWriter(file, row.bits, 2) for file in files]
        for at in range(start, end, BLOCK):
            count = min(BLOCK, end - at)
            whole = whole_numbers(mixed.read(at, count), row.bits)
            parts = [whole_numbers(mixed.as_loud_as_here(mixer, at, count), row.bits) for mixer in mixers[1:]]
            rest = whole - sum(parts)
            if np.abs(rest).max(initial=0) >= most:
                raise MediaError("a stem is louder than the file can hold; turn down what it is masked by")
            for writer, part in zip(writers, (whole, rest, *parts), strict=True):
                writer.write_whole(part)
            told((at + count - start) // SAMPLE_RATE_HZ, (end - start) // SAMPLE_RATE_HZ)
        for writer in writers:
            writer.end()
    making.files[before:] = reversed(making.files[before:])  # what was opened first ends last


def _stem_names(making: Making, row: StemsRow, names: Sequence[str]) -> list[str]:
    """Names of files for names of stems, of which two may be alike."""
    made: list[str] = []
    for number, name in enumerate(names):
        alike = stem(name) in {stem(each) for each in names[:number]}
        made.append(making.name(row, ".wav", stem(f"{name} {number}" if alike else name)))
    return made
