"""Where spot effects fall in a piece, and how they are carried along when it changes."""

from fox_cadence.core.marks import SyncPoint, carried
from fox_cadence.core.project import Project
from fox_cadence.core.sound.effect import SpotEffect
from fox_cadence.core.timeline import Timeline, shot_spans


def effect_ticks(timeline: Timeline, effect: SpotEffect) -> int:
    """When an effect begins, in ticks of the piece; below 0 its first sound is cut off."""
    held = _held_ticks(timeline, effect)
    if held is not None:
        return held + effect.offset_ticks
    rate = timeline.project.rate
    for span in timeline.shots:
        if span.shot.id == effect.shot_id:
            return rate.ticks(span.start_frame) + effect.shot_offset_ticks
    return effect.shot_offset_ticks


def _held_ticks(timeline: Timeline, effect: SpotEffect) -> int | None:
    if effect.title_id is not None:
        for title in timeline.titles:
            if title.title.id == effect.title_id:
                return timeline.project.rate.ticks(title.in_frame)
    if effect.line_id is not None:
        for span in timeline.lines:
            if span.line.id == effect.line_id and effect.word < len(span.words):
                return span.word_times_ticks()[effect.word][0]
    return None


def held_to(timeline: Timeline, effect: SpotEffect) -> str:
    """What an effect stays with: `word`, `title` or `cut`."""
    if _held_ticks(timeline, effect) is None:
        return "cut"
    return "title" if effect.title_id is not None else "word"


def effects_carried(
    effects: tuple[SpotEffect, ...], line_id: str, old: list[str], new: list[str]
) -> tuple[SpotEffect, ...]:
    """The effects of a piece in which the words of a line have become others: those on its words go along,
    and where a word is gone stay with their shot."""
    made: list[SpotEffect] = []
    for effect in effects:
        if effect.line_id == line_id:
            kept = carried((SyncPoint(word=effect.word, shot_id=effect.shot_id),), old, new)
            there = kept[0].word if kept and isinstance(kept[0], SyncPoint) else None
            effect = effect.changed(line_id=None if there is None else line_id, word=there or 0)
        made.append(effect)
    return tuple(made)


def effects_on_shots(before: Project, after: Project) -> Project:
    """A piece whose effects lie on shots it still has: those of a shot that is gone go to the one that is on
    the screen at their time, the last where there is none."""
    there = {shot.id for shot in after.shots}
    if all(effect.shot_id in there for effect in after.effects) or not after.shots:
        return after
    was = {span.shot.id: before.rate.ticks(span.start_frame) for span in shot_spans(before)}
    spans = [(after.rate.ticks(span.start_frame), span.shot.id) for span in shot_spans(after)]
    made: list[SpotEffect] = []
    for effect in after.effects:
        if effect.shot_id not in there:
            at = was.get(effect.shot_id, 0) + effect.shot_offset_ticks
            start, shot_id = max((span for span in spans if span[0] <= max(0, at)), default=spans[0])
            effect = effect.changed(shot_id=shot_id, shot_offset_ticks=at - start)
        made.append(effect)
    return after.changed(effects=tuple(made))
