"""Commands about voices: which there are, how one sounds, and how long lines will last in it."""

import argparse
from dataclasses import asdict
from pathlib import Path

from fox_cadence.actions.lengths import lengths_of
from fox_cadence.actions.voicing import take_for, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.edits import SetRole
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.store.library import write_safely
from fox_cadence.voices.catalogue import all_voices, voice_by_id
from fox_cadence.web.answers.desk import voice_json


def add_commands(command: Command) -> None:
    """Add `voice`, `voices`, `audition` and `lengths`."""
    voice = command("voice", _voice)
    voice.add_argument("project", metavar="PROJECT")
    voice.add_argument(
        "--voice", metavar="ID", help="voice for every role, as `fox-cadence voices` lists them"
    )
    voices = command("voices", _voices)
    voices.add_argument("--language", metavar="TAG", help="only those of a language, such as en or pt-BR")
    voices.add_argument("--natural", action="store_true", help="only natural ones")
    audition = command("audition", _audition)
    audition.add_argument("text", metavar="TEXT")
    audition.add_argument("--voice", required=True, metavar="ID", help="`voices` lists them")
    audition.add_argument("--out", type=Path, required=True, metavar="FILE.wav")
    lengths = command("lengths", _lengths)
    lengths.add_argument("project", metavar="PROJECT")
    lengths.add_argument("--voice", metavar="ID", help="as if every role had this voice")


def _voice(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        edits = _voice_for_all(workspace, options.project, options.voice) if options.voice else []
        result = voice_lines(workspace, options.project, watcher=options.terminal, edits=edits)
    text = [f"{result.made} made, {result.kept} kept, {len(result.failed)} failed"]
    text += [f"  {failure.text!r}: {failure.reason}" for failure in result.failed]
    answer(options, asdict(result), "\n".join(text))
    return 1 if result.failed else 0


def _voice_for_all(workspace: Workspace, project_id: str, voice_id: str) -> list[SetRole]:
    if voice_by_id(voice_id) is None:
        raise InputError(f"there is no voice {voice_id!r}; `fox-cadence voices` lists them", "--voice")
    return [SetRole(role_id=role.id, voice_id=voice_id) for role in workspace.head(project_id).project.roles]


def _voices(options: argparse.Namespace) -> int:
    with Workspace(options.data):  # looks into its folder of voices
        found = [
            voice
            for voice in all_voices()
            if (options.language is None or voice.language.lower().startswith(options.language.lower()))
            and (voice.natural or not options.natural)
        ]
    rows = [f"{v.id:18} {v.name:12} {v.language:7} {v.gender or '':6} {v.character}" for v in found]
    answer(
        options,
        {"voices": [voice_json(voice) for voice in found]},
        "\n".join(rows) or "no such voice",
    )
    return 0


def _audition(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        voice = voice_by_id(options.voice)
        if voice is None:
            raise InputError(
                f"there is no voice {options.voice!r}; `fox-cadence voices` lists them", "--voice"
            )
        request = VoicingRequest(text=options.text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, _ = take_for(workspace, request)
        sound = workspace.library.take_sound(take.sound_hash).read_bytes()
    write_safely(options.out, sound)
    seconds = round((take.end_sample - take.onset_sample) / SAMPLE_RATE_HZ, 3)
    answer(options, {"file": str(options.out), "seconds": seconds}, f"{options.out}: {seconds:.2f} s")
    return 0


def _lengths(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        if options.voice is not None and voice_by_id(options.voice) is None:
            raise InputError(
                f"there is no voice {options.voice!r}; `fox-cadence voices` lists them", "--voice"
            )
        found = lengths_of(workspace, options.project, options.voice)
    lines = [
        {"id": each.line_id, "known_s": round(ticks_to_seconds(each.ticks), 3), "from": each.source}
        for each in found
    ]
    rows = [
        f"{line['known_s']:7.2f} s  {line['from']:9}  {each.text[:70]}"
        for line, each in zip(lines, found, strict=True)
    ]
    answer(options, {"lines": lines}, "\n".join(rows) or "nothing is said")
    return 0
