"""Versions: the same piece in another language, with its own words, cast and fit.

Words are compared unit by unit. A unit is what is translated in one go: a line with its captions, or a
heading. A version's units bear the ids of the first's, so that each knows what it stands for.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from fox_cadence.core.edits.base import EditError
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import Caption, Line, Project, Role, Title
from fox_cadence.core.shot import Shot
from fox_cadence.core.version_of import Counterpart, VersionOf
from fox_cadence.core.words import pieces_of


@dataclass(frozen=True, slots=True)
class Unit:
    """Words that are translated in one go; `kind` tells a line from a heading."""

    id: str
    kind: Literal["line", "heading", "title"]
    text: str
    role: str = ""


class UnitState(StrEnum):
    """How a unit of a version stands to the first's."""

    DONE = "done"
    SAME = "as in the first"
    OUT_OF_DATE = "out of date"
    MISSING = "not here yet"
    OWN = "only here"


@dataclass(frozen=True, slots=True)
class UnitStanding:
    """A unit of the first and of a version side by side; `before` are the first's words that the version's
    stand for, where the first has changed them since."""

    unit_id: str
    kind: Literal["line", "heading", "title"]
    first: str
    words: str
    state: UnitState
    before: str = ""


def units(project: Project) -> list[Unit]:
    """What there is to translate, in the order of the piece: of each shot its headings and titles, then its
    lines by what they say."""
    captions = {caption.id: caption for caption in project.captions}
    texts = {text.id: text for text in project.scene_texts}
    said = {line.scene_text_id for line in project.lines}
    roles = {role.id: role.name for role in project.roles}
    headings: dict[str, list[Unit]] = {}
    for text in project.scene_texts:
        if text.id not in said:
            headings.setdefault(text.shot_id, []).append(Unit(text.id, "heading", text.text))
    for title in project.titles:
        headings.setdefault(title.shot_id, []).append(Unit(title.id, "title", title.text))
    lines: dict[str, list[Unit]] = {}
    for line in project.lines:
        if line.said is not None:
            words = line.said
        elif line.caption_ids:
            words = " ".join(" ".join(captions[each].text.split()) for each in line.caption_ids)
        else:
            words = texts[line.scene_text_id].text if line.scene_text_id is not None else ""
        lines.setdefault(line.first_shot_id, []).append(Unit(line.id, "line", words, roles[line.role_id]))
    return [unit for shot in project.shots for unit in (*headings.get(shot.id, ()), *lines.get(shot.id, ()))]


def begin_version(
    first: Project,
    first_id: str,
    name: str,
    language: str,
    voices: Mapping[str, str],
    cuts: Literal["own", "first"] = "own",
    shown: Literal["own", "first"] = "own",
) -> Project:
    """A version of a piece that still has its words.

    Args:
        voices: the voice of each role by the role's id.
        cuts: "first" holds its shots at the lengths they have.
        shown: "first" leaves the words on the screen; lines then have words of their own to say.
    """
    said = {unit.id: unit.text for unit in units(first)}
    counterparts = tuple(Counterpart(unit_id=key, words=words) for key, words in said.items())
    shots = first.shots
    if cuts == "first":
        shots = tuple(shot.changed(locked=True) for shot in shots)
    return first.changed(
        name=name,
        language=language,
        shots=shots,
        roles=tuple(role.changed(voice_id=voices.get(role.id, role.voice_id)) for role in first.roles),
        lines=tuple(_begun(line, said[line.id], shown) for line in first.lines),
        lexicon=tuple(entry for entry in first.lexicon if entry.language.split("-")[0] == _primary(language)),
        shortlist=(),
        version_of=VersionOf(project_id=first_id, cuts=cuts, shown=shown, counterparts=counterparts),
    )


def _primary(language: str) -> str:
    return language.lower().split("-")[0]


def _begun(line: Line, said: str, shown: Literal["own", "first"]) -> Line:
    """A line of the first as a version begins with it: one that says other words than it shows goes on to do
    so only where the shown ones stay."""
    if shown == "first" and line.caption_ids:
        return _bare(line).changed(said=said)
    return _bare(line).changed(said=None if line.caption_ids else line.said)


def _bare(line: Line) -> Line:
    """A line without anything that belongs to its words in one language or to a voice."""
    return line.changed(
        take_id=None, placement=None, takes=(), marks=(), voice_id=None, delivery=None, locked=False
    )


def with_words(version: Project, words: Mapping[str, str], first: Project | None) -> Project:
    """A version with other words for some units, by their ids; empty ones are left as they are.

    Words stand for what the first says now. Marks of a line go with its old words.

    Raises:
        EditError: it is no version, or has no such unit.
    """
    of = _of(version)
    known = {unit.id: unit for unit in units(version)}
    titles = {title.id for title in version.titles}
    new = {
        key: "\n".join(" ".join(part.split()) for part in (text.splitlines() if key in titles else [text]))
        for key, text in words.items()
        if text.strip()
    }
    unknown = [key for key in new if key not in known]
    if unknown:
        raise EditError(f"This version has no words {unknown[0]!r}.")
    captions = {caption.id: caption for caption in version.captions}
    texts = {text.id: text for text in version.scene_texts}
    lines: list[Line] = []
    for line in version.lines:
        text = new.get(line.id)
        if text is None or text == known[line.id].text:
            lines.append(line)
            continue
        made = _bare(line)
        if line.said is not None:
            made = made.changed(said=text)
        elif line.caption_ids:
            shared = _shared([captions[each] for each in line.caption_ids], text)
            captions |= {caption.id: caption for caption in shared}
            gone = {*line.caption_ids} - {caption.id for caption in shared}
            for each in gone:
                del captions[each]
            made = made.changed(caption_ids=tuple(caption.id for caption in shared))
        elif line.scene_text_id is not None:
            texts[line.scene_text_id] = texts[line.scene_text_id].changed(text=text)
        lines.append(made)
    for key, text in new.items():
        if known[key].kind == "heading" and key in texts:
            texts[key] = texts[key].changed(text=text)
    now = {unit.id: unit.text for unit in units(first)} if first is not None else {}
    stood = {each.unit_id: each.words for each in of.counterparts}
    counterparts = stood | {key: now[key] for key in new if key in now}
    return version.changed(
        captions=tuple(captions[each.id] for each in version.captions if each.id in captions),
        scene_texts=tuple(texts[each.id] for each in version.scene_texts),
        titles=tuple(title.changed(text=new.get(title.id, title.text)) for title in version.titles),
        lines=tuple(lines),
        version_of=_standing_for(of, counterparts),
    )


def confirmed(version: Project, unit_ids: Sequence[str], first: Project) -> Project:
    """A version whose words for some units are right for what the first says now."""
    of = _of(version)
    now = {unit.id: unit.text for unit in units(first)}
    stood = {each.unit_id: each.words for each in of.counterparts}
    stood |= {key: now[key] for key in unit_ids if key in now}
    return version.changed(version_of=_standing_for(of, stood))


def _standing_for(of: VersionOf, stood: Mapping[str, str]) -> VersionOf:
    return of.changed(
        counterparts=tuple(Counterpart(unit_id=key, words=words) for key, words in stood.items())
    )


def _of(version: Project) -> VersionOf:
    if version.version_of is None:
        raise EditError("This project is no version of another one.")
    return version.version_of


def _shared(captions: Sequence[Caption], text: str) -> list[Caption]:
    """Words over the captions of a line, in the shares the old ones had; captions that get none are left
    out."""
    pieces = pieces_of(text)
    weights = [max(1, len(caption.text)) for caption in captions]
    whole, total = sum(weights), sum(len(piece) for piece in pieces)
    made: list[Caption] = []
    at = seen = used = 0
    for number, (caption, weight) in enumerate(zip(captions, weights, strict=True)):
        seen += weight
        left = len(captions) - number - 1
        own: list[str] = []
        while at < len(pieces):
            middle = used + len(pieces[at]) / 2
            enough = left and own and (middle * whole > seen * total or len(pieces) - at <= left)
            if enough:
                break
            own.append(pieces[at])
            used += len(pieces[at])
            at += 1
        if own:
            made.append(caption.changed(text="".join(own).strip()))
    return made


def compare(first: Project, version: Project) -> list[UnitStanding]:
    """The words of both side by side, in the order of the first; what is only in the version comes last."""
    stood = {each.unit_id: each.words for each in _of(version).counterparts}
    here = {unit.id: unit for unit in units(version)}
    found: list[UnitStanding] = []
    for unit in units(first):
        own = here.pop(unit.id, None)
        if own is None:
            found.append(UnitStanding(unit.id, unit.kind, unit.text, "", UnitState.MISSING))
            continue
        before = stood.get(unit.id, unit.text)
        state = UnitState.DONE
        if before != unit.text:
            state = UnitState.OUT_OF_DATE
        elif own.text == unit.text:
            state = UnitState.SAME
        old = before if state is UnitState.OUT_OF_DATE else ""
        found.append(UnitStanding(unit.id, unit.kind, unit.text, own.text, state, old))
    found += [UnitStanding(unit.id, unit.kind, "", unit.text, UnitState.OWN) for unit in here.values()]
    return found


def picture_differs(first: Project, version: Project) -> bool:
    """Whether the picture, the sound or the lines of the first have changed so that the version can catch
    up."""
    return caught_up(version, first, {}) != version


def caught_up(version: Project, first: Project, voices: Mapping[str, str]) -> Project:
    """A version with the picture and the sound of the first as they are now, and with lines that are new
    there.

    Shots keep the lengths the version has given them, unless its cuts are the first's. Shots that are gone
    there stay where the version still needs them; its words stay as they are.

    Raises:
        EditError: it is no version, or the two can't be brought together.
    """
    of = _of(version)
    own = {shot.id: shot for shot in version.shots}
    needed = {line.first_shot_id for line in version.lines} | {line.last_shot_id for line in version.lines}
    needed |= {caption.shot_id for caption in version.captions}
    needed |= {text.shot_id for text in version.scene_texts}
    needed |= {title.shot_id for title in version.titles}
    shots: list[Shot] = []
    for shot in first.shots:
        mine = own.get(shot.id)
        if mine is None or of.cuts == "first":
            shots.append(shot.changed(locked=True) if of.cuts == "first" else shot)
        else:
            kept = {name: getattr(mine, name) for name in ("length_frames", "wanted_frames", "locked")}
            shots.append(shot.changed(**kept))
    known = {shot.id for shot in first.shots}
    for place, shot in enumerate(version.shots):
        if shot.id not in known and shot.id in needed:
            before = {each.id for each in version.shots[:place]}
            at = max((n + 1 for n, each in enumerate(shots) if each.id in before), default=0)
            shots.insert(at, shot)
    made = version.changed(
        shots=tuple(shots),
        beds=first.beds,
        effects=first.effects,
        mix=first.mix,
        beats=first.beats,
        clips={**version.clips, **first.clips},
        width=first.width,
        height=first.height,
    )
    made = _with_new_lines(made, first, voices)
    wrong = next(iter(integrity_errors(made)), None)
    if wrong is not None:
        raise EditError(f"This version can't be brought up to the first: {wrong}.")
    return made if made != version else version


def _with_new_lines(version: Project, first: Project, voices: Mapping[str, str]) -> Project:
    stood = {each.unit_id: each.words for each in _of(version).counterparts}
    said = {unit.id: unit.text for unit in units(first)}
    have = {line.id for line in version.lines}
    shown = {caption.id for caption in version.captions}
    texts = {text.id for text in version.scene_texts}
    lines = list(version.lines)
    captions, scene_texts, roles = list(version.captions), list(version.scene_texts), list(version.roles)
    before: str | None = None
    for line in first.lines:
        if line.id not in have and line.id not in stood:
            at = next((n + 1 for n, each in enumerate(lines) if each.id == before), 0)
            lines.insert(at, _begun(line, said[line.id], _of(version).shown))
            captions += [c for c in first.captions if c.id in line.caption_ids and c.id not in shown]
            scene_texts += [t for t in first.scene_texts if t.id == line.scene_text_id and t.id not in texts]
            if all(role.id != line.role_id for role in roles):
                roles.append(_recast(first.role(line.role_id), voices))
            have.add(line.id)
        if line.id in have:
            before = line.id
    scene_texts += [
        text
        for text in first.scene_texts
        if text.id not in {each.id for each in scene_texts} and text.id not in stood
        and all(line.scene_text_id != text.id for line in first.lines)
    ]  # fmt: skip
    made = version.changed(
        lines=tuple(lines),
        captions=tuple(captions),
        titles=_titles(version, first, stood),
        scene_texts=tuple(scene_texts),
        roles=tuple(roles),
    )
    fresh = {unit.id: unit.text for unit in units(first) if unit.id not in stood}
    here = {unit.id for unit in units(made)}
    stood |= {key: words for key, words in fresh.items() if key in here}
    return made.changed(version_of=_standing_for(_of(version), stood))


def _titles(version: Project, first: Project, stood: Mapping[str, str]) -> tuple[Title, ...]:
    """The titles of a version: those of the first where they stand there, in its own words; what it has of
    its own stays, and so does what was taken away here."""
    own = {title.id: title for title in version.titles}
    theirs = {title.id for title in first.titles}
    shared = tuple(
        title.changed(text=own[title.id].text) if title.id in own else title
        for title in first.titles
        if title.id in own or title.id not in stood
    )
    return (*shared, *(title for title in version.titles if title.id not in theirs))


def _recast(role: Role, voices: Mapping[str, str]) -> Role:
    return role.changed(voice_id=voices.get(role.id, role.voice_id))
