"""From a plan to a finished file."""

import os
import time
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from fractions import Fraction
from pathlib import Path

import av
from av.container import OutputContainer
from av.video.frame import VideoFrame

from cadrage.compose import Compositor
from cadrage.compose.framed import bare_frame, without_bars
from cadrage.compose.target import target_colour
from cadrage.errors import BadRequest, CadrageError, Cancelled, CannotWrite
from cadrage.footage import EMPTY, DecodedFrame, Facts, Library, PictureReader, open_footage, read_as
from cadrage.formats import Frame
from cadrage.pixels.planes import Layout, Planes
from cadrage.plan import Plan
from cadrage.render.encoder import blank, picture_track, stored_colour, tick_of
from cadrage.render.pace import delivered, paced
from cadrage.render.pipeline import ahead, each
from cadrage.render.settings import DEFAULT, Settings, Writing, writing_of
from cadrage.render.sound import SoundCarrier
from cadrage.values import Value

REPORT_SECONDS = 0.25


class Progress(Value):
    """How far a render is.

    Attributes:
        done, total: frames written and frames in all.
        frames_per_second: mean speed so far.
        seconds_left: at that speed.
    """

    done: int
    total: int
    frames_per_second: float
    seconds_left: float


def render(
    plan: Plan,
    source: Path,
    target: Path,
    facts: Facts,
    *,
    settings: Settings = DEFAULT,
    library: Library = EMPTY,
    report: Callable[[Progress], None] = lambda _: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Render a plan to a file. It appears under its name only when it is complete.

    Args:
        plan: the framing.
        source: the clip.
        target: the file to make; one that is there is replaced at the end.
        facts: what the clip is, as probed.
        settings: how the file is written.
        library: what the plan may use besides its own clip.
        report: called a few times a second with the progress.
        cancelled: asked as often; once it says yes, the render stops and leaves nothing behind.

    Raises:
        Cancelled: `cancelled` said yes.
        CannotWrite: no room, or no permission.
        BadRequest: source and target are one file, or the settings do not allow the frame.
        MissingSource, UnreadableFile: the clip cannot be read.
    """
    if target.exists() and source.exists() and target.samefile(source):
        raise BadRequest("The result would replace its own source.", remedy="Choose another name.", clip=source)
    plan = plan_written(plan, facts, settings)
    writing = writing_of(settings, plan.frame, source.name)
    meter = _Meter(delivered(plan, facts).frames, report, cancelled)
    with _beside(target) as part, open_footage(source, facts, plan.interpretation) as reader:
        try:
            options = {"movflags": "+faststart"} if writing.kind.muxer in ("mp4", "mov") else {}
            with av.open(str(part), "w", format=writing.kind.muxer, options=options) as container:
                _write(plan, source, facts, writing, library, reader, container, meter)
        except (av.FFmpegError, OSError) as error:
            raise CannotWrite(
                f"The result could not be written: {error.strerror or error}.",
                remedy="Make room or choose another place, then render again.",
                clip=target,
            ) from error
        except CadrageError as error:
            error.clip = error.clip or source.name
            raise


@contextmanager
def _beside(target: Path) -> Iterator[Path]:
    """A name in the target's folder that becomes the target's once all went well, and goes away otherwise."""
    part = target.with_name(f".{target.name}.{os.getpid()}.part")
    try:
        yield part
        part.replace(target)
    finally:
        part.unlink(missing_ok=True)


def _write(
    plan: Plan,
    source: Path,
    facts: Facts,
    writing: Writing,
    library: Library,
    reader: PictureReader,
    container: OutputContainer,
    meter: "_Meter",
) -> None:
    """Decode, compose and encode, each in a thread of its own; sound goes in beside the picture."""
    pictures = paced(reader.frames(), plan, facts)
    first = next(pictures)
    compositor = composed_for(writing, plan, first.planes.layout, facts, library)
    wanted = delivered(plan, facts)
    stream = picture_track(container, plan, compositor.layout, wanted, writing)
    tick = tick_of(wanted)
    held: tuple[Planes, Planes] | None = None  # a still, or a picture that is repeated, is composed once

    def draw(decoded: DecodedFrame) -> tuple[Fraction, VideoFrame]:
        nonlocal held
        frame, canvas = blank(compositor.layout, decoded.time, tick, writing)
        if held is None or held[0] is not decoded.planes or compositor.moves:
            compositor.compose(decoded.planes, canvas, decoded.time)
            held = (decoded.planes, canvas)
        else:
            canvas.copy_from(held[1])
        return decoded.time, frame

    def all_pictures() -> Iterator[DecodedFrame]:
        yield first
        yield from pictures

    with (
        SoundCarrier(
            source if facts.sounds and writing.settings.sound != "none" else None,
            container,
            reader.picture_start,
            writing.settings,
        ) as sound,
        closing(ahead(all_pictures())) as decoded,
        closing(each(decoded, draw)) as drawn,
    ):
        for shown, frame in drawn:
            container.mux(stream.encode(frame))
            sound.carry_to(shown)
            meter.count()
        container.mux(stream.encode(None))
        sound.carry_to(None)


def composed_for(writing: Writing, plan: Plan, source: Layout, facts: Facts, library: Library) -> Compositor:
    """A compositor whose frames are what a kind of file stores."""
    colour = stored_colour(writing, target_colour(read_as(facts, plan.interpretation).colour, plan.frame))
    layout = Layout(plan.frame.width, plan.frame.height, writing.format.depth, writing.format.chroma, colour)
    return Compositor(plan, source, facts, layout, library=library)


def frame_written(frame: Frame, settings: Settings) -> Frame:
    """The frame that a file holds."""
    return bare_frame(frame) if settings.bars == "active picture only" else frame


def plan_written(plan: Plan, facts: Facts, settings: Settings) -> Plan:
    """The plan whose frame is exactly what the file holds."""
    return without_bars(plan, facts) if settings.bars == "active picture only" else plan


class _Meter:
    """Counts frames, reports now and then, and stops the work when asked."""

    def __init__(self, total: int, report: Callable[[Progress], None], cancelled: Callable[[], bool]) -> None:
        self.total, self.report, self.cancelled = total, report, cancelled
        self.done = 0
        self.began = self.reported = time.monotonic()

    def count(self) -> None:
        self.done += 1
        now = time.monotonic()
        if now - self.reported < REPORT_SECONDS and self.done < self.total:
            return
        self.reported = now
        if self.cancelled():
            raise Cancelled("The render was cancelled.", remedy="Start it again when you want it.")
        speed = self.done / max(now - self.began, 1e-6)
        self.report(
            Progress(
                done=self.done,
                total=self.total,
                frames_per_second=round(speed, 2),
                seconds_left=round(max(0, self.total - self.done) / speed, 1),
            )
        )
