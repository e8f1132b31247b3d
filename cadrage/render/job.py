"""From a plan to a finished file, in one go."""

from collections.abc import Generator
from functools import partial
from pathlib import Path

from av.video.stream import VideoStream

from cadrage.files import check_apart, check_target, scratch
from cadrage.footage import EMPTY, Facts, Library
from cadrage.plan import Plan
from cadrage.render.drawing import Drawing, Encoded
from cadrage.render.encoder import Share
from cadrage.render.order import Order
from cadrage.render.pace import Cut, whole
from cadrage.render.passes import measured, plenty
from cadrage.render.progress import Asked, Meter, Report, never, unheard
from cadrage.render.settings import DEFAULT, Settings
from cadrage.render.writer import told_of, write_file


def render(
    plan: Plan,
    source: Path,
    target: Path,
    facts: Facts,
    *,
    settings: Settings = DEFAULT,
    library: Library = EMPTY,
    report: Report = unheard,
    cancelled: Asked = never,
    replace: bool = False,
) -> None:
    """Render a plan to a file. It appears under its name only when it is complete.

    Args:
        plan: the framing.
        source: the clip.
        target: the file to make, or the folder for a kind that is one; what Cadrage wrote there before is replaced at
            the end.
        facts: what the clip is, as probed.
        settings: how the file is written.
        library: what the plan may use besides its own clip.
        report: called a few times a second with the progress.
        cancelled: asked as often; once it says yes, the render stops and leaves nothing behind.
        replace: whether a plain file that is there may go, whoever wrote it.

    Raises:
        Cancelled: `cancelled` said yes.
        CannotWrite: no room, or no permission, or something is there that Cadrage did not write.
        BadRequest: source and target are one file, or the settings do not allow the frame.
        MissingSource, UnreadableFile: the clip cannot be read.
    """
    order = Order(plan, source, facts, library, settings)
    check_apart(target, order.sources)
    check_target(target, folder=order.writing.kind.folder, replace=replace)
    with told_of(target, source), Drawing(order) as drawing, scratch() as folder:
        cut = whole(drawing.pace)
        passes = 2 if drawing.writing.measured_first else 1
        meter = Meter(passes * drawing.pace.facts.frames, report, cancelled)
        share = None
        if passes == 2:
            stats = folder / "stats"
            bits, rate = measured(drawing, cut, stats, meter), drawing.writing.bits_per_second
            if rate is not None and not plenty(rate, bits, float(drawing.pace.facts.duration)):
                share = Share(2, stats, rate)
        write_file(target, drawing, partial(_drawn, drawing, cut), meter, share, replace=replace)


def _drawn(drawing: Drawing, cut: Cut, stream: VideoStream) -> Generator[Encoded, None, None]:
    return drawing.encoded(stream, cut)
