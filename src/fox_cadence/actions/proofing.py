"""The proof sheet: which rules the words on the screen of a project break, and what cures them."""

import threading
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from cachetools import LRUCache

from fox_cadence.actions.acting import phonemes_of
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettered import FacesOf
from fox_cadence.core.lettering.placing import placed
from fox_cadence.core.proofing import Cure, Fault, Proof, cures, faults
from fox_cadence.core.screen import Screen, screen_of
from fox_cadence.core.standing import ShownWords, interests, set_up, shifts, words_on_screen
from fox_cadence.core.timeline import Timeline
from fox_cadence.media.contrast import Picture, contrast, picture_at, sampled
from fox_cadence.media.ingest import PROXY
from fox_cadence.media.proxies import proxy_size

_MOST_PICTURES = 400
_pictures: LRUCache[tuple[object, ...], Picture | None] = LRUCache(_MOST_PICTURES)
_lock = threading.Lock()


@dataclass(frozen=True, slots=True)
class Proved:
    """Words on the screen with the rules they break, and with what was found where nothing is wrong."""

    words: ShownWords
    lines: tuple[str, ...]
    faults: tuple[Fault, ...]
    contrast: float | None


class ProofSheet:
    """The words of a project on the screen, looked at by all rules."""

    def __init__(self, workspace: Workspace, timeline: Timeline) -> None:
        self._timeline = timeline
        self._faces_of: FacesOf = workspace.faces_of(timeline.project)
        self._words = words_on_screen(timeline)
        self._shifts = shifts(timeline, self._words, self._faces_of)
        self._small = _small_screen(workspace, timeline, self._faces_of)
        library = workspace.library
        hashes = {span.shot.clip_hash for span in timeline.shots if span.shot.clip_hash}
        self._packs: dict[str, Path] = {each: library.clip_file(each, PROXY) for each in hashes}
        self._packs |= {
            each: library.original(each)
            for span in timeline.shots
            if (each := span.shot.adjustment.look_hash)
        }

    @property
    def words(self) -> Sequence[ShownWords]:
        """Titles first, then captions, in the order of time."""
        return self._words

    def prove(self, words: ShownWords) -> Proved:
        """Some words looked at by all rules."""
        proof = self._proof(words, self._shifts.get(words.id, (0.0, 0.0)))
        project = self._timeline.project
        found = faults(proof, project.house, project.rate, self._contrast)
        return Proved(words, proof.drawing.lines, found, self._contrast(proof))

    def cures(self, words: ShownWords, fault: Fault) -> list[Cure]:
        """Changes that cure a fault of these words; each was tried."""
        proof = self._proof(words, self._shifts.get(words.id, (0.0, 0.0)))
        project = self._timeline.project
        return cures(fault, proof, project.house, project.rate, self._contrast, self._redrawn)

    def _redrawn(self, words: ShownWords) -> Proof:
        """Words changed, beside those that are on the screen with them."""
        beside = [
            each
            for each in self._words
            if each.id != words.id and each.in_frame < words.out_frame and words.in_frame < each.out_frame
        ]
        standing = [set_up(self._timeline, each, self._faces_of) for each in (*beside, words)]
        return self._proof(words, placed(standing)[-1])

    def _proof(self, words: ShownWords, shift: tuple[float, float]) -> Proof:
        standing = set_up(self._timeline, words, self._faces_of)
        captions = [each for each in self._words if not each.is_title]
        following = [each.in_frame for each in captions if each.in_frame >= words.out_frame]
        return Proof(
            words,
            standing.drawing,
            shift,
            interests(self._timeline, words.in_frame, words.out_frame),
            min(following, default=None),
            min(following, default=self._timeline.total_frames),
        )

    def _contrast(self, proof: Proof) -> float | None:
        words = proof.words
        pictures = [
            picture
            for frame in sampled(self._small.shots, words.in_frame, words.out_frame)
            if (picture := self._picture(frame)) is not None
        ]
        return contrast(proof.drawing, words.style, proof.shift, pictures)

    def _picture(self, frame: int) -> Picture | None:
        shots = tuple(shot for shot in self._small.shots if shot.start_frame <= frame < shot.end_frame)
        figures = tuple((each.drawing, each.stands, each.pose_at(frame)) for each in self._small.figures)
        key = (shots, figures, frame, self._small.width, self._small.height, self._small.rate)
        with _lock:
            if key in _pictures:
                return _pictures[key]
        found = picture_at(self._small, frame, self._packs)
        with _lock:
            if found is not None:
                _pictures[key] = found
        return found


def _small_screen(workspace: Workspace, timeline: Timeline, faces_of: FacesOf) -> Screen:
    """The pictures of a piece in a small frame, without words."""
    project = timeline.project
    width, height = proxy_size(project.width, project.height)
    bare = project.changed(width=width, height=height, captions=(), titles=())
    sounds = phonemes_of(workspace, bare)
    return screen_of(replace(timeline, project=bare, captions=()), faces_of, sounds)
