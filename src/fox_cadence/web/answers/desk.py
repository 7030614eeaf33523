"""Voices, takes and proofs for the desk."""

from fox_cadence.actions.takes import LineTake
from fox_cadence.core.delivery import STYLES, style_named
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.word_changes import Proof, Run
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import missing
from fox_cadence.voices.voice import Voice
from fox_cadence.web.answers.shapes import Row, VoiceJson

STYLE_CHOICES = tuple({"id": style.id, "name": style.name, "does": style.does} for style in STYLES)


def voice_json(voice: Voice) -> VoiceJson:
    found = voice.measured
    return {
        "id": voice.id,
        "name": voice.name,
        "language": voice.language,
        "language_name": voice.language_name,
        "region": voice.region,
        "gender": voice.gender,
        "age": voice.age,
        "character": voice.character,
        "uses": voice.uses,
        "natural": voice.natural,
        "engine": voice.engine,
        "has_range": voice.has_range,
        "licence": voice.licence,
        "commercial": voice.commercial,
        "blend": bool(voice.blend_of),
        "pitch_hz": found.pitch_hz if found else None,
        "spread_st": found.spread_st if found else None,
        "letters_s": found.letters_s if found else None,
        "lufs": found.lufs if found else None,
        "shape": list(found.shape) if found else [],
        "missing": missing(voice.engine),
    }


def take_json(take: Take) -> Row:
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
            [
                round(word.start_sample / SAMPLE_RATE_HZ, 4),
                round(word.end_sample / SAMPLE_RATE_HZ, 4),
                word.text,
            ]
            for word in take.words
        ],
    }


def line_take_json(found: LineTake, room_s: float) -> Row:
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


def run_json(run: Run) -> Row:
    return {"kind": run.kind, "before": run.before, "after": run.after}


def way_json(found: Row, take: Take | None) -> Row:
    """A way a line was said in, as the job has it, with its take."""
    return {
        "place": found["place"],
        "variant": found["variant"],
        "take": take_json(take) if take else None,
        "reason": found["reason"],
    }


def proof_json(proof: Proof) -> Row:
    return {
        "holds": proof.holds,
        "words": proof.words,
        "added": list(proof.added),
        "lost": list(proof.lost),
        "changes": [run_json(run) for run in proof.changes],
    }
