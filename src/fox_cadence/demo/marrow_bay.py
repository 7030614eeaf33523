"""The sample project "Low tide at Marrow Bay": its script, its shots, and how it comes into a data folder."""

import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.sound_shelf import clip_of_sound, shipped_sounds
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettering.style import Edge
from fox_cadence.core.lettering.styles import style_by_id
from fox_cadence.core.project import Caption, Line, Project, Role, SceneText, Title
from fox_cadence.core.shot import Clip, Shot
from fox_cadence.core.sound.bed import Bed, LevelPoint
from fox_cadence.core.sound.effect import SpotEffect
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.core.treatment import shipped
from fox_cadence.demo.bajamar import SPANISH_ID, in_spanish
from fox_cadence.demo.clips import RATE_FPS, draw_clip, write_bed
from fox_cadence.demo.hikishio import JAPANESE_ID, in_japanese
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.isolated import run_isolated

PROJECT_ID = "marrow-bay"
NAME = "Low tide at Marrow Bay"
HANDLE_BEFORE_S, HANDLE_AFTER_S = 0.5, 1.4
CLIP_SIZE = (720, 1280)


@dataclass(frozen=True, slots=True)
class _Scene:
    """A shot of the sample: its length, whether it is locked, what it shows and says; `asked` is said before
    it by the narrator, and not shown."""

    scene: str
    name: str
    seconds: float
    text: str
    role: str = "r1"
    shown: bool = True
    locked: bool = False
    voiced: bool = True
    asked: str = ""


SCRIPT: tuple[_Scene, ...] = (
    _Scene("bay", "Bay", 4.2, "Twice a day, the sea leaves Marrow Bay.", locked=True),
    _Scene("rocks", "Rocks", 4.0, "What it forgets, it keeps in pools."),
    _Scene("anemone", "Anemone", 3.2, "An anemone closes like a fist when a shadow crosses it."),
    _Scene(
        "hermit", "Hermit", 4.2, "A hermit crab tries on a shell, then another, then the first one again."
    ),
    _Scene(
        "limpet",
        "Limpet",
        5.2,
        "Home is a groove. I ground it to fit.",
        role="r2",
        asked="Whose groove is this?",
    ),
    _Scene(
        "starfish",
        "Starfish",
        4.7,
        "Turn a starfish over and it rights itself. Slowly. It has all the time in the world, "
        "until the tide.",
        locked=True,
    ),
    _Scene("crab", "Crab", 2.8, "Something is watching.", voiced=False),
    _Scene("weed", "Weed", 4.2, "Under the weed, the whole pool holds its breath.", shown=False),
    _Scene("tide", "Tide", 6.4, "Then the sea comes back for its things."),
)


TITLE = "Low tide\nat Marrow Bay"
TITLE_STYLE = style_by_id("landfall").changed(size=0.105, ink="#1f1a17", edge=Edge())  # on a bright sky


_EFFECTS: tuple[tuple[str, str, float, float], ...] = (
    ("effect-surge", "s2", 0.0, -14.0),
    ("effect-two-clicks", "s7", 0.15, -8.0),
    ("effect-bubbles", "s8", 0.0, -12.0),
    ("effect-long-wave", "s9", 0.4, -12.0),
)
"""Which shipped effect lies on which shot, so many seconds after its cut, how loud (dB)."""


_LEVELS = tuple(
    LevelPoint(at_ticks=seconds_to_ticks(at_s), gain_db=gain_db)
    for at_s, gain_db in ((0.0, 2.0), (4.0, 0.0), (26.0, -2.0), (33.0, 0.0), (36.0, 4.0))
)
"""The level curve of the bed: it opens and closes the piece, and makes room for the crab."""


def script_project(clips: dict[str, Clip], bed: Clip, effects: dict[str, Clip]) -> Project:
    """The project before anything is voiced; `clips` by scene, `effects` by their ids on the shelf."""
    rate = FrameRate(numerator=RATE_FPS)
    shots: list[Shot] = []
    captions: list[Caption] = []
    texts: list[SceneText] = []
    lines: list[Line] = []
    for number, scene in enumerate(SCRIPT, 1):
        frames = round(scene.seconds * RATE_FPS)
        shot = Shot(
            id=f"s{number}",
            name=scene.name,
            clip_hash=clips[scene.scene].hash,
            source_in_ticks=seconds_to_ticks(HANDLE_BEFORE_S),
            length_frames=frames,
            wanted_frames=frames,
            locked=scene.locked,
            sound_gain_db=-14,
        )
        shots.append(shot)
        shown, spoken = f"c{number}", f"t{number}"
        if scene.asked:
            asked = len(SCRIPT) + 1
            texts.append(SceneText(id=f"t{asked}", shot_id=shot.id, text=scene.asked))
            lines.append(
                Line(
                    id=f"l{asked}",
                    role_id="r1",
                    first_shot_id=shot.id,
                    last_shot_id=shot.id,
                    scene_text_id=f"t{asked}",
                    wanted_offset_ticks=seconds_to_ticks(0.2),
                )
            )
        if scene.shown:
            captions.append(
                Caption(id=shown, shot_id=shot.id, in_frames=6, out_frames=frames - 6, text=scene.text)
            )
        else:
            texts.append(SceneText(id=spoken, shot_id=shot.id, text=scene.text))
        lines.append(
            Line(
                id=f"l{number}",
                role_id=scene.role,
                first_shot_id=shot.id,
                last_shot_id=shot.id,
                caption_ids=(shown,) if scene.shown else (),
                scene_text_id=None if scene.shown else spoken,
                wanted_offset_ticks=seconds_to_ticks(1.8 if scene.asked else 0.3),
            )
        )
    return Project(
        name=NAME,
        rate=rate,
        longest_ticks=seconds_to_ticks(45),
        give_way="picture",
        clips={clip.hash: clip for clip in (*clips.values(), bed, *effects.values())},
        shots=tuple(shots),
        captions=tuple(captions),
        titles=(Title(id="n1", shot_id="s1", in_frames=9, out_frames=80, text=TITLE, style=TITLE_STYLE),),
        scene_texts=tuple(texts),
        roles=(
            Role(id="r1", name="narrator", voice_id="wren", pace=0.9, colour=0, treatment=shipped("Even")),
            Role(id="r2", name="limpet", voice_id="holt", colour=1, treatment=shipped("Small room"), pan=0.2),
        ),
        lines=tuple(lines),
        beds=(Bed(clip_hash=bed.hash, levels=_LEVELS),),
        effects=tuple(
            SpotEffect(
                id=f"e{number}",
                clip_hash=effects[item].hash,
                shot_id=shot_id,
                shot_offset_ticks=seconds_to_ticks(after_s),
                gain_db=gain_db,
            )
            for number, (item, shot_id, after_s, gain_db) in enumerate(_EFFECTS, 1)
        ),
    )


def make_bay(workspace: Workspace, watcher: Watcher | None = None, size: tuple[int, int] = CLIP_SIZE) -> str:
    """The sample project's id, and its versions beside it; drawn, voiced and fitted the first time.

    This is how the samples are made before they are packed (demo/samples.py): it takes minutes.
    """
    if not workspace.projects.exists(PROJECT_ID):
        _build(workspace, watcher or Unwatched(), size)
    return PROJECT_ID


def _build(workspace: Workspace, watch: Watcher, size: tuple[int, int]) -> None:
    with tempfile.TemporaryDirectory(dir=workspace.scratch) as folder:
        clips, bed = _media(workspace, Path(folder), watch, size)
    items = {item.id: item for item in shipped_sounds()}
    effects = {each: clip_of_sound(workspace, items[each]) for each, *_ in _EFFECTS}
    project = script_project(clips, bed, effects)
    if not workspace.projects.exists(SPANISH_ID):
        _in_spanish(workspace, project)
    if not workspace.projects.exists(JAPANESE_ID):
        _in_japanese(workspace, project)
    workspace.projects.create(project, "Sample made", PROJECT_ID)
    silent = {f"l{number}" for number, scene in enumerate(SCRIPT, 1) if not scene.voiced}
    voiced = [line.id for line in project.lines if line.id not in silent]
    voice_lines(workspace, PROJECT_ID, voiced)
    accept(workspace, fit(workspace, PROJECT_ID))
    head = workspace.head(PROJECT_ID)
    open_to_change = head.project.changed(give_way="halfway")
    workspace.projects.commit(PROJECT_ID, head.revision, open_to_change, "Who gives way")


def _in_spanish(workspace: Workspace, project: Project) -> None:
    """The same piece told anew in Spanish, voiced and fitted; its lexicon says how the bay's own name
    sounds."""
    made = in_spanish(project, PROJECT_ID)
    workspace.projects.create(made, "Sample made", SPANISH_ID)
    workspace.settle_lengths(made)  # so that each line is made once, at the length it has in the fit
    accept(workspace, fit(workspace, SPANISH_ID))
    voice_lines(workspace, SPANISH_ID)


def _in_japanese(workspace: Workspace, project: Project) -> None:
    """The same pictures and captions with the narration in Japanese, fitted to lengths that are known, and
    left to be voiced."""
    made = in_japanese(project, PROJECT_ID)
    workspace.projects.create(made, "Sample made", JAPANESE_ID)
    workspace.settle_lengths(made)
    accept(workspace, fit(workspace, JAPANESE_ID))


def _media(
    workspace: Workspace, folder: Path, watch: Watcher, size: tuple[int, int]
) -> tuple[dict[str, Clip], Clip]:
    """Draw and take in all clips, two at a time."""
    total = len(SCRIPT) + 1
    done = 0

    def one(scene: _Scene) -> Clip:
        nonlocal done
        target = folder / f"{scene.scene}.mp4"
        seconds = scene.seconds + HANDLE_BEFORE_S + HANDLE_AFTER_S
        run_isolated(draw_clip, scene.scene, seconds, *size, target, cancelled=lambda: watch.cancelled)
        clip = bring_in_clip(workspace, MediaFile(target, target.name), faces=False)
        done += 1
        watch.report(done, total, f"Drew {scene.name}")
        return clip

    with ThreadPoolExecutor(2) as pool:
        clips = dict(zip([scene.scene for scene in SCRIPT], pool.map(one, SCRIPT), strict=True))
    write_bed(folder / "pools.wav")
    bed = bring_in_clip(workspace, MediaFile(folder / "pools.wav", "pools.wav"))
    watch.report(total, total, "Played the bed")
    return clips, bed
