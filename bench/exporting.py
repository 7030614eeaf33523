"""An export against a bare re-encode of the same shots with the same encoder settings; a quick look against
it."""

import tempfile
import time
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from statistics import median

import av
from av.video.frame import PictureType

from fox_cadence.actions.exporting import export
from fox_cadence.actions.making_video import screen
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.docket import Docket, VideoRow
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import AddFigure
from fox_cadence.core.framing import Framing
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.screen import Screen
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.media.forker import Ended
from fox_cadence.media.isolated import ENDED, Progress, run_isolated
from fox_cadence.media.mixdown import write_wav
from fox_cadence.media.render import render
from fox_cadence.media.video_forms import ENCODER_THREADS, VideoForm, video_options

ROUNDS, SLOW_ROUNDS = 4, 2
"""How often each is made; what takes longest is made less often."""
LARGE = 2160
FRAMING = Framing(x=0.4, zoom=1.2, movement="in")
ADJUSTMENT = Adjustment(exposure=0.2, warmth=15, look="kelp", look_share=0.6)


def bare(shown: Screen, files: dict[str, Path], target: Path, progress: Progress) -> None:
    """Each shot's frames decoded and encoded, and nothing else: no captions, no sound, no scaling, no exact
    times."""
    with av.open(str(target), "w", format="mp4") as output:
        stream = output.add_stream("libx264", rate=shown.rate.fraction)
        stream.width, stream.height, stream.pix_fmt = shown.width, shown.height, "yuv420p"
        stream.codec_context.gop_size = 2 * round(float(shown.rate.fraction))
        stream.options = video_options(VideoForm())
        stream.codec_context.thread_type, stream.codec_context.thread_count = "FRAME", ENCODER_THREADS
        number = 0
        for shot in shown.shots:
            with av.open(str(files[shot.clip_hash or ""])) as source:
                source.streams.video[0].thread_type = "AUTO"
                left = shot.end_frame - shot.start_frame
                for frame in source.decode(video=0):
                    if left == 0:
                        break
                    plain = frame.reformat(format="yuv420p")
                    # otherwise the encoder would be made to keep the file's own
                    plain.pict_type = PictureType.NONE
                    plain.pts, plain.time_base = number, 1 / Fraction(shown.rate.fraction)
                    output.mux(stream.encode(plain))
                    number, left = number + 1, left - 1
        output.mux(stream.encode(None))


class _Spent:
    """What processes that work on media took: CPU seconds of all of them, the most memory of one."""

    def __init__(self) -> None:
        self.cpu_s, self.most_mb = 0.0, 0.0

    def __call__(self, ended: Ended) -> None:
        self.cpu_s += ended.cpu_s
        self.most_mb = max(self.most_mb, ended.peak_kib / 1024)


_SPENT = _Spent()
ENDED.append(_SPENT)


def rows() -> list[str]:
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project_id = ensure_samples(workspace)
        voice_lines(workspace, project_id)
        timeline = workspace.timeline(workspace.head(project_id).project)
        shown = screen(workspace, timeline)
        clips = {span.shot.clip_hash for span in timeline.shots if span.shot.clip_hash}
        files = {each: workspace.library.original(each) for each in clips}
        out = Path(folder) / "out"
        framed = replace(shown, shots=tuple(replace(shot, framing=FRAMING) for shot in shown.shots))
        adjusted = replace(framed, shots=tuple(replace(shot, adjustment=ADJUSTMENT) for shot in framed.shots))
        kinds = {"render": shown, "framed": framed, "adjusted": adjusted}
        slow = ("framed", "adjusted")
        dockets = {
            "export": usual(sound=False, captions=False),
            "look": usual(video=False, sound=False, captions=False, look=True),
            "captions": usual(video=False, sound=False),
            "sound": usual(video=False, captions=False),
        }
        order = ("bare", "export", "render", "look", "captions", "sound", *slow)
        times: dict[str, list[float]] = {name: [] for name in order}
        cpu: dict[str, list[float]] = {name: [] for name in times}
        sound = Path(folder) / "mix.wav"
        write_wav(sound, mix(workspace, timeline).blocks())
        for turn in range(ROUNDS):
            for name in order if turn < SLOW_ROUNDS else order[: -len(slow)]:
                began, used = time.perf_counter(), _SPENT.cpu_s
                if name == "bare":
                    (Path(folder) / "bare.mp4").unlink(missing_ok=True)
                    run_isolated(bare, shown, files, Path(folder) / "bare.mp4")
                elif name in kinds:
                    (Path(folder) / "rendered.mp4").unlink(missing_ok=True)
                    run_isolated(
                        render, kinds[name], files, sound, Path(folder) / "rendered.mp4", VideoForm()
                    )
                else:
                    export(workspace, project_id, out, dockets[name])
                times[name].append(time.perf_counter() - began)
                cpu[name].append(_SPENT.cpu_s - used)
        memory, _SPENT.most_mb = _SPENT.most_mb, 0.0
        export(
            workspace, project_id, out, Docket(rows=(VideoRow(name="large", short_side=LARGE, wanted=True),))
        )
        large_memory = _SPENT.most_mb
    took = {name: median(each) for name, each in times.items()}
    work = {name: median(each) for name, each in cpu.items()}

    def ratio(of: str, against: str, spent: dict[str, list[float]] = times) -> float:
        """Of two that were made one soon after the other: the machine's speed goes up and down."""
        return median(a / b for a, b in zip(spent[of], spent[against], strict=False))

    seconds = float(timeline.total_frames / shown.rate.fraction)
    return [
        f"The sample, {seconds:.1f} s at {shown.width} × {shown.height}:",
        "",
        "| what | seconds | against | ratio | aim |",
        "| --- | --- | --- | --- | --- |",
        f"| a bare re-encode of its shots | {took['bare']:.1f} | | | |",
        f"| rendering alone, without mix and measuring | {took['render']:.1f} | the re-encode "
        f"| {ratio('render', 'bare'):.2f} | |",
        f"| the same, CPU | {work['render']:.1f} | the re-encode's {work['bare']:.1f} "
        f"| {ratio('render', 'bare', cpu):.2f} | |",
        f"| rendering alone, every shot framed and moving | {took['framed']:.1f} | rendering alone "
        f"| {ratio('framed', 'render'):.2f} | 1.3 |",
        f"| the same, every shot adjusted too | {took['adjusted']:.1f} | rendering alone "
        f"| {ratio('adjusted', 'render'):.2f} | 1.3 |",
        f"| export with captions and sound | {took['export']:.1f} | the re-encode "
        f"| {ratio('export', 'bare'):.2f} | 1.1 |",
        f"| the same, CPU | {work['export']:.1f} | the re-encode's {work['bare']:.1f} "
        f"| {ratio('export', 'bare', cpu):.2f} | 1.25 |",
        f"| a quick look | {took['look']:.1f} | the export | {ratio('look', 'export'):.2f} | 0.1 |",
        f"| captions alone | {took['captions']:.1f} | | | 2 s |",
        f"| sound alone, its mix at hand | {took['sound']:.1f} | | | 2 s |",
        "",
        f"The largest process of ours took {memory:.0f} MB (aim 500), "
        f"of an export with a short side of {LARGE} pixels {large_memory:.0f} MB (aim 1200).",
    ]


def cpu_of_export(style: CaptionStyle | None) -> float:
    """Seconds of CPU that a render of the sample takes, its captions in a style and a figure beside them;
    None leaves the captions as they are, and titles and figures out."""
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project = workspace.head(ensure_samples(workspace)).project
        if style is None:
            project = project.changed(titles=(), figures=())
        else:
            project = project.changed(lettering=project.lettering.changed(style=style))
            role = project.roles[0].id
            project, _ = AddFigure(role_id=role, character="tobit").apply(project)
        timeline = workspace.timeline(project)
        files = {
            span.shot.clip_hash: workspace.library.original(span.shot.clip_hash)
            for span in timeline.shots
            if span.shot.clip_hash
        }
        sound, target = Path(folder) / "mix.wav", Path(folder) / "rendered.mp4"
        write_wav(sound, mix(workspace, timeline).blocks())
        times: list[float] = []
        for _ in range(ROUNDS):
            target.unlink(missing_ok=True)
            used = _SPENT.cpu_s
            run_isolated(render, screen(workspace, timeline), files, sound, target, False)
            times.append(_SPENT.cpu_s - used)
        return min(times)
