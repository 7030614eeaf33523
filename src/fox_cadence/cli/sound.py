"""Commands about sound."""

import argparse
from pathlib import Path

from fox_cadence.actions.cleaning import clean_file
from fox_cadence.actions.mix_standing import mix_standing
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.music import beats_of_file
from fox_cadence.actions.sound_shelf import shipped_sounds
from fox_cadence.actions.treating import named, treat_file
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.sound.settings import COLUMNS
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import SHIPPED
from fox_cadence.errors import InputError
from fox_cadence.media.ingest import loudness_of_file
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import write_wav
from fox_cadence.store.library import whole_file


def add_commands(command: Command) -> None:
    """Add `treat`, `treatments`, `clean`, `beats`, `beds`, `effects` and `mix`."""
    treat = command("treat", _treat)
    treat.add_argument("file", type=Path, metavar="FILE")
    treat.add_argument("--with", dest="treatment", required=True, metavar="NAME", help="see `treatments`")
    treat.add_argument("--out", type=Path, required=True, metavar="FILE", help="a WAV to write")
    command("treatments", _treatments)
    clean = command("clean", _clean)
    clean.add_argument("file", type=Path, metavar="FILE")
    clean.add_argument("--out", type=Path, required=True, metavar="FILE", help="a WAV to write")
    clean.add_argument(
        "--noise-db", type=float, default=24.0, metavar="DB", help="noise down by at most (0 to 60)"
    )
    clean.add_argument(
        "--room-db", type=float, default=0.0, metavar="DB", help="the room down by at most (0 to 60)"
    )
    clean.add_argument("--even", action="store_true", help="bring soft and loud words nearer to each other")
    beats = command("beats", _beats)
    beats.add_argument("file", type=Path, metavar="FILE")
    command("beds", _beds)
    command("effects", _effects)
    mix = command("mix", _mix)
    mix.add_argument("project", metavar="PROJECT")
    mix.add_argument("--out", type=Path, required=True, metavar="FILE", help="a WAV to write")
    mix.add_argument("--only", choices=COLUMNS, help="one column of it, as loud as it is in the whole")


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


def _clean(options: argparse.Namespace) -> None:
    try:
        cleaning = Cleaning(noise_db=options.noise_db, room_db=options.room_db, even=options.even)
    except ValueError as error:
        raise InputError("give decibels from 0 to 60", "--noise-db") from error
    loudness, quieter = clean_file(options.file, cleaning, options.out)
    said = {
        "file": str(options.out),
        "lufs": round(loudness.integrated_lufs, 1),
        "peak_db": round(loudness.true_peak_db, 1),
        "quieter_db": quieter,
    }
    answer(options, said, f"{options.out}: {said['lufs']} LUFS, the quiet in it {quieter} dB quieter")


def _beats(options: argparse.Namespace) -> None:
    found = beats_of_file(options.file)
    said = {
        "tempo_bpm": found.tempo_bpm,
        "beats": [round(each, 4) for each in found.beats_s],
        "bars": [round(each, 4) for each in found.bars_s],
        "certainty": found.certainty,
    }
    text = f"{found.tempo_bpm:g} beats a minute, {len(found.beats_s)} beats, {len(found.bars_s)} bars"
    text = f"{text}, certainty {found.certainty:.2f}" if found.beats_s else "no beats were found"
    answer(options, said, text)


def _beds(options: argparse.Namespace) -> None:
    _listed(options, "bed", "beds")


def _effects(options: argparse.Namespace) -> None:
    _listed(options, "effect", "effects")


def _listed(options: argparse.Namespace, kind: str, name: str) -> None:
    items = [item for item in shipped_sounds() if item.kind == kind]
    said = [
        {
            "id": item.id,
            "title": item.title,
            "words": item.words.split(),
            "seconds": item.seconds,
            "tempo_bpm": item.bpm,
            "licence": item.licence,
        }
        for item in items
    ]
    rows = [f"{item.id:<24}{item.seconds:>6.1f} s  {item.title}: {item.words}" for item in items]
    answer(options, {name: said}, "\n".join(rows))


def _mix(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        timeline = workspace.timeline(workspace.head(options.project).project)
        made = mix(workspace, timeline)
        with whole_file(options.out) as target:
            write_wav(target, made.blocks(options.only))
        standing = mix_standing(workspace, timeline)
    loudness = run_isolated(loudness_of_file, options.out.resolve())
    said = {
        "file": str(options.out),
        "seconds": round(made.total_samples / SAMPLE_RATE_HZ, 3),
        "lufs": None if loudness is None else round(loudness.integrated_lufs, 2),
        "peak_db": None if loudness is None else round(loudness.true_peak_db, 2),
        "speech_over_bed_db": standing.over_db,
        "understood": standing.understood,
        "warnings": [{"text": each.text, "at_s": round(each.at_s, 2)} for each in standing.warnings],
    }
    rows = [f"{options.out}: {said['lufs']} LUFS, true peak {said['peak_db']} dBTP"]
    if standing.over_db is not None:
        rows.append(f"speech {standing.over_db} dB over the rest, ESTOI {standing.understood}")
    rows += [f"{each.at_s:.1f} s: {each.text}" for each in standing.warnings]
    answer(options, said, "\n".join(rows))
