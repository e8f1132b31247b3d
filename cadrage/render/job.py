"""From a plan to a finished file, in one go."""

from collections.abc import Generator
from functools import partial
from pathlib import Path

from av.video.stream import VideoStream

from cadrage.files import check_apart, check_target, scratch
from cadrage.footage import EMPTY, Library, MediaInfo
from cadrage.output.settings import DEFAULT, Settings
from cadrage.plan import Plan
from cadrage.render.drawing import Drawing, Encoded
from cadrage.render.encoder import Share
from cadrage.render.frame_timing import Segment, whole
from cadrage.render.passes import measured, rate_exceeds_need
from cadrage.render.progress import Asked, Meter, Report, never, no_progress
from cadrage.render.request import RenderRequest
from cadrage.render.writer import translate_errors, write_file


def render(
    plan: Plan,
    source: Path,
    target: Path,
    info: MediaInfo,
    *,
    settings: Settings = DEFAULT,
    library: Library = EMPTY,
    report: Report = no_progress,
    cancelled: Asked = never,
    replace: bool = False,
) -> None:
    """Render a plan to a file. It appears under its name only when it is complete.

    Args:
        plan: the framing.
        source: the clip.
        target: the file to make, or the folder for a kind that is one; what Cadrage wrote there before is replaced at
            the end.
        info: what the clip is, as probed.
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
    request = RenderRequest(plan, source, info, library, settings)
    check_apart(target, request.sources)
    check_target(target, folder=request.encoder_config.kind.folder, replace=replace)
    with translate_errors(target, source), Drawing(request) as drawing, scratch() as folder:
        cut = whole(drawing.timing)
        passes = 2 if drawing.encoder_config.measured_first else 1
        meter = Meter(passes * drawing.timing.info.frames, report, cancelled)
        share = None
        if passes == 2:
            stats = folder / "stats"
            bits, rate = measured(drawing, cut, stats, meter), drawing.encoder_config.bits_per_second
            if rate is not None and not rate_exceeds_need(rate, bits, float(drawing.timing.info.duration)):
                share = Share(2, stats, rate)
        write_file(target, drawing, partial(_drawn, drawing, cut), meter, share, replace=replace)


def _drawn(drawing: Drawing, cut: Segment, stream: VideoStream) -> Generator[Encoded, None, None]:
    return drawing.encoded(stream, cut)
