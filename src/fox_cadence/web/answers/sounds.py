"""Beds, spot effects and the mix as the pages are told of them."""

from fox_cadence.actions.mix_standing import MixStanding
from fox_cadence.actions.music import beats_of, in_piece
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.mix import bed_parts
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.sound.effect import SpotEffect
from fox_cadence.core.sound.effect_places import effect_ticks, held_to
from fox_cadence.core.sound.settings import MixSettings
from fox_cadence.core.sound.shelf import SoundItem
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples
from fox_cadence.core.timeline import Timeline
from fox_cadence.web.answers.sound_shapes import (
    BedBeatsJson,
    BedJson,
    EffectJson,
    MixSettingsJson,
    SoundItemJson,
    SoundJson,
)
from fox_cadence.web.answers.units import seconds


def _seconds(ticks: int | None) -> float | None:
    return None if ticks is None else seconds(ticks)


def bed_json(bed: Bed) -> BedJson:
    return {
        "id": bed.id,
        "clip_hash": bed.clip_hash,
        "gain_db": bed.gain_db,
        "duck_db": bed.duck_db,
        "duck_in_ms": bed.duck_in_ms,
        "duck_out_ms": bed.duck_out_ms,
        "fade_in_s": seconds(bed.fade_in_ticks),
        "fade_out_s": seconds(bed.fade_out_ticks),
        "start_s": seconds(bed.start_ticks),
        "length_s": _seconds(bed.length_ticks),
        "source_in_s": seconds(bed.source_in_ticks),
        "source_out_s": _seconds(bed.source_out_ticks),
        "loop_in_s": _seconds(bed.loop_in_ticks),
        "loop_out_s": _seconds(bed.loop_out_ticks),
        "levels": [(seconds(point.at_ticks), point.gain_db) for point in bed.levels],
        "cut_s": seconds(bed.stretches_ticks) if bed.stretches else None,
        "cut_for_s": _seconds(bed.cut_for_ticks),
    }


def effect_json(timeline: Timeline, effect: SpotEffect) -> EffectJson:
    held = held_to(timeline, effect)
    return {
        "id": effect.id,
        "clip_hash": effect.clip_hash,
        "start_s": seconds(effect_ticks(timeline, effect)),
        "held": held,
        "shot": effect.shot_id,
        "line": effect.line_id,
        "word": effect.word,
        "title": effect.title_id,
        "offset_s": seconds(effect.shot_offset_ticks if held == "cut" else effect.offset_ticks),
        "gain_db": effect.gain_db,
        "fade_in_s": seconds(effect.fade_in_ticks),
        "fade_out_s": seconds(effect.fade_out_ticks),
    }


def mix_settings_json(settings: MixSettings) -> MixSettingsJson:
    return {
        "aim_lufs": settings.aim_lufs,
        "peak_db": settings.peak_db,
        "speech_db": settings.speech_db,
        "bed_db": settings.bed_db,
        "own_db": settings.own_db,
        "effects_db": settings.effects_db,
        "muted": list(settings.muted),
        "solo": list(settings.solo),
    }


def sound_json(workspace: Workspace, timeline: Timeline, revision: int, standing: MixStanding) -> SoundJson:
    """All that the surface of Sound shows of a mix."""
    return {
        "revision": revision,
        "lufs": standing.lufs,
        "peak_db": standing.peak_db,
        "short_term": list(standing.short_term_lufs),
        "over_db": standing.over_db,
        "understood": standing.understood,
        "lines_over": {line.line_id: line.over_db for line in standing.lines},
        "warnings": [
            {
                "text": each.text,
                "at_s": round(each.at_s, 3),
                "cures": [
                    {"text": cure.text, "edits": [edit.model_dump() for edit in cure.edits]}
                    for cure in each.cures
                    for cure in each.cures
                ],
            }
            for each in standing.warnings
        ],
        "beds": _beds_heard(workspace, timeline),
    }


def _beds_heard(workspace: Workspace, timeline: Timeline) -> list[BedBeatsJson]:
    project = timeline.project
    spoken = [
        (ticks_to_samples(span.start_ticks), ticks_to_samples(span.end_ticks))
        for span in timeline.lines
        if span.take is not None
    ]
    found: list[BedBeatsJson] = []
    for part in bed_parts(project, ticks_to_samples(timeline.total_ticks), spoken):
        bed = project.bed(part.bed_id)
        music = beats_of(workspace, bed.clip_hash)
        total = timeline.total_ticks
        found.append(
            {
                "bed": bed.id,
                "tempo_bpm": music.tempo_bpm,
                "metre": music.metre,
                "certainty": music.certainty,
                "beats": [round(each, 3) for each in in_piece(bed, project, total, music.beats_s)],
                "bars": [round(each, 3) for each in in_piece(bed, project, total, music.bars_s)],
                "runs": [
                    (
                        round((part.at_sample + run.at_sample) / SAMPLE_RATE_HZ, 4),
                        round(run.source_sample / SAMPLE_RATE_HZ, 4),
                        round(min(run.count, part.count - run.at_sample) / SAMPLE_RATE_HZ, 4),
                    )
                    for run in part.runs
                    if run.at_sample < part.count
                ],
                "duck": [(round(at / SAMPLE_RATE_HZ, 4), gain) for at, gain in part.duck],
            }
        )
    return found


def sound_item_json(item: SoundItem, used: bool) -> SoundItemJson:
    return {
        "id": item.id,
        "title": item.title,
        "words": item.words,
        "kind": item.kind,
        "seconds": item.seconds,
        "bpm": item.bpm,
        "source": item.source,
        "licence": item.licence,
        "commercial": item.commercial,
        "clip": item.clip_hash,
        "kept": item.kept,
        "used": used,
    }
