"""Cast, direction, takes and coverage as JSON for the desk."""

from collections.abc import Collection
from typing import Any

from fox_cadence.actions.choosing import Compared, LineTake
from fox_cadence.core.coverage import Coverage, coverage
from fox_cadence.core.delivery import STYLES, Delivery, style_named, unable
from fox_cadence.core.marks import Mark, SyncPoint
from fox_cadence.core.project import Project
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.word_changes import Proof, Run
from fox_cadence.voices.catalogue import Voice, unread, voice_by_id
from fox_cadence.voices.engines import missing

Json = dict[str, Any]

STYLE_CHOICES = tuple({"id": style.id, "name": style.name, "does": style.does} for style in STYLES)


def marks_json(marks: tuple[Mark, ...]) -> list[Json]:
    """Marks but sync points and pauses, which the timeline has by themselves."""
    return [mark.model_dump() for mark in marks if not isinstance(mark, SyncPoint) and mark.kind != "pause"]


def voice_json(voice: Voice) -> Json:
    inner = {"engine_voice", "phonemes_by", "pitch", "liveliness"}
    return voice.model_dump(exclude=inner) | {"language_name": voice.language_name, "missing": missing(voice.engine)}


def unable_text(delivery: Delivery, voice_id: str, said: str = "") -> str:
    """What a voice can't do of a delivery, and which words of a text it can't read, in words."""
    voice = voice_by_id(voice_id)
    if voice is None:
        return ""
    scripts, words = unread(voice, said)
    parts = [unable(delivery, has_range=voice.has_range), f"{voice.name} {scripts}: {words[:80]}" if scripts else ""]
    return " ".join(part for part in parts if part)


def cast_json(project: Project, timeline: Timeline, failed: Collection[str]) -> Json:
    """What the passes Words and Cast show besides lines."""
    whole, sections, roles = coverage(timeline, failed)
    return {
        "lexicon": [entry.model_dump() for entry in project.lexicon],
        "deliveries": [{"name": each.name, "delivery": each.delivery.model_dump()} for each in project.deliveries],
        "shortlist": list(project.shortlist),
        "commercial": project.commercial,
        "keep_in_step": project.keep_in_step,
        "character_budget": project.character_budget,
        "language": project.language,
        "past_clip_end": project.past_clip_end,
        "coverage": {
            "whole": _coverage(whole),
            "sections": [_coverage(each) for each in sections],
            "roles": [_coverage(each) for each in roles],
        },
    }


def _coverage(found: Coverage) -> Json:
    return {name: getattr(found, name) for name in found.__slots__}


def take_json(take: Take) -> Json:
    voice = voice_by_id(take.voice_id)
    return {
        "id": take.id,
        "hash": take.sound_hash,
        "text": take.text,
        "voice": "recorded" if take.recorded else (voice.name if voice else take.voice_id),
        "recorded": take.recorded,
        "pace": take.pace,
        "seconds": round((take.end_sample - take.onset_sample) / SAMPLE_RATE_HZ, 3),
        "words": [
            [round(word.start_sample / SAMPLE_RATE_HZ, 4), round(word.end_sample / SAMPLE_RATE_HZ, 4), word.text]
            for word in take.words
        ],
    }


def line_take_json(found: LineTake, room_s: float) -> Json:
    seconds = (found.take.end_sample - found.take.onset_sample) / SAMPLE_RATE_HZ
    delivery = found.kept.delivery
    return take_json(found.take) | {
        "name": found.kept.name,
        "made_at": found.made_at,
        "chosen": found.chosen,
        "style": style_named(delivery.style).name if delivery else "",
        "marks": len(found.kept.marks),
        "over_s": round(seconds - room_s, 3),
        "changes": [run_json(run) for run in found.changes],
    }


def run_json(run: Run) -> Json:
    return {"kind": run.kind, "before": run.before, "after": run.after}


def compared_json(found: Compared, place: int) -> Json:
    return {
        "place": place,
        "variant": found.variant.model_dump(),
        "take": take_json(found.take) if found.take else None,
        "reason": found.reason,
    }


def proof_json(proof: Proof) -> Json:
    return {
        "holds": proof.holds,
        "words": proof.words,
        "added": list(proof.added),
        "lost": list(proof.lost),
        "changes": [run_json(run) for run in proof.changes],
    }
