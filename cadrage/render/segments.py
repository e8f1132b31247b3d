"""Segments: the parts of a render, drawn one by one, and joined without encoding anything again."""

import json
import shutil
import time
from collections.abc import Generator
from contextlib import closing
from functools import partial
from pathlib import Path

import av
from av.video.stream import VideoStream

from cadrage.errors import CannotWrite, Paused
from cadrage.files import part_of, write_whole
from cadrage.render.drawing import Drawing, Encoded
from cadrage.render.encoder import Share, tick_of
from cadrage.render.frame_timing import Segment
from cadrage.render.passes import allocate_bitrate, measured, rate_exceeds_need
from cadrage.render.progress import Asked, Meter, Report, never, no_progress
from cadrage.render.workspace import Record, RenderWorkspace, Stage
from cadrage.render.writer import translate_errors, write_file

WAIT_SECONDS = 0.1
SPARE_BYTES = 50 * 2**20  # that stay free on the disk
# NUT keeps every packet as the encoder gave it, but does not know all codecs, nor what is transparent.
IN_NUT = ("libx264", "libx265", "ffv1", "mjpeg", "png")


def finish(
    workspace: RenderWorkspace,
    target: Path,
    *,
    report: Report = no_progress,
    cancelled: Asked = never,
    paused: Asked = never,
    replace: bool = False,
) -> None:
    """Draw all parts that are not done and that nobody else draws, wait for the others, and join them.

    Args:
        workspace: with the request; what is done on it stays, and is not done again.
        target: the file to make; see `render`.
        report: called a few times a second with the progress of all who work on it.
        cancelled: asked as often; once it says yes, this stops, and the workspace stays as it is.
        paused: asked between parts, as `cancelled`.
        replace: whether a plain file that is there may go, whoever wrote it.

    Raises:
        Paused: `paused` said yes. Cancelled, CannotWrite, BadRequest, MissingSource, UnreadableFile: see `render`.
        SourceChanged: the clip was changed since it was ordered.
    """
    with Drawing(workspace.request) as drawing:
        meter = Meter(len(workspace.stages) * drawing.timing.info.frames, report, cancelled)
        meter.begin_at(workspace.done())
        while (stage := workspace.stage) is not None:
            meter.check()
            if paused():
                raise Paused("The render was paused.", remedy="Resume it when you want it.")
            if not _one_of(workspace, stage, drawing, meter):
                time.sleep(WAIT_SECONDS)
            meter.stand_at(workspace.done())
        meter.check()
        workspace.check_source()
        check_room(workspace)
        # Headers are made as for the first part, which all others agree with.
        write_file(
            target,
            drawing,
            partial(_joined, workspace),
            Meter(0, cancelled=cancelled),
            _share(workspace, 0),
            replace=replace,
        )


def _one_of(workspace: RenderWorkspace, stage: Stage, drawing: Drawing, meter: Meter) -> bool:
    """Draw the first part that is free; says whether there was one."""
    for number in workspace.undone(stage):
        with workspace.taken(stage, number) as mine:
            if mine:
                _draw(workspace, stage, number, drawing, meter)
                return True
    return False


def help_out(workspace: RenderWorkspace, stopped: Asked = never) -> bool:
    """Draw one part, whichever is free, for whoever finishes the render; says whether there was one.

    Raises:
        Cancelled: `stopped` said yes. CannotWrite, SourceChanged, MissingSource, UnreadableFile: see `finish`.
    """
    meter = Meter(0, cancelled=stopped)
    with Drawing(workspace.request) as drawing:
        while (stage := workspace.stage) is not None:
            meter.check()
            if _one_of(workspace, stage, drawing, meter):
                return True
            if stage == workspace.stages[-1]:
                return False
            time.sleep(WAIT_SECONDS)  # others are at the last parts of a stage, and the next begins soon
    return False


def _draw(workspace: RenderWorkspace, stage: Stage, number: int, drawing: Drawing, meter: Meter) -> None:
    workspace.check_source()
    check_room(workspace)
    noting = _Noting(workspace, stage, number, meter)
    cut = workspace.segments[number]
    with translate_errors(workspace.folder, drawing.request.source):
        if stage == "measure":
            bits = measured(drawing, cut, workspace.path(stage, number, ".stats"), noting)
            record = Record(frames=noting.frames, bits=bits)
        else:
            record = _drawn(workspace, number, cut, drawing, noting)
        write_whole(workspace.path(stage, number, ".record"), record.model_dump_json())


class _Noting(Meter):
    """Counts the frames of one part, for a meter and for others who look at the workspace."""

    def __init__(self, workspace: RenderWorkspace, stage: Stage, number: int, whole: Meter) -> None:
        super().__init__(0)
        self.workspace, self.stage, self.number, self.whole = workspace, stage, number, whole
        self.frames = 0
        self.noted = time.monotonic()
        workspace.report_progress(stage, number, 0)

    def count(self, frames: int = 1) -> None:
        self.frames += frames
        self.whole.count(frames)
        if time.monotonic() - self.noted > WAIT_SECONDS:
            self.noted = time.monotonic()
            self.workspace.report_progress(self.stage, self.number, self.frames)


def _drawn(workspace: RenderWorkspace, number: int, cut: Segment, drawing: Drawing, meter: _Noting) -> Record:
    """Draw the pictures of a part into a file of their own; times of presentation and decoding and the duration of
    every packet, in ticks, lie beside it, since no one container keeps them for every codec.
    """
    target = workspace.path("draw", number, ".pictures")
    stamps: list[tuple[int, int, int]] = []
    bits = 0
    kind = drawing.encoder_config.kind
    muxer = "nut" if kind.encoder in IN_NUT else "webm" if kind.muxer == "webm" else "mov"
    share = _share(workspace, number)
    # H.265 as players want it has a mark that NUT only takes when it need not be strict.
    options = {"strict": "experimental"} if muxer == "nut" else {}
    with part_of(target) as part, av.open(f"file:{part}", "w", format=muxer, options=options) as container:
        stream = drawing.track(container, share)
        with closing(drawing.encoded(stream, cut)) as pictures:
            for one in pictures:
                for packet in one.packets:
                    assert packet.pts is not None
                    assert packet.dts is not None
                    stamps.append((packet.pts, packet.dts, packet.duration or 0))
                    bits += 8 * packet.size
                container.mux(one.packets)
                if one.time is not None:
                    meter.count()
    write_whole(workspace.path("draw", number, ".stamps"), json.dumps(stamps))
    return Record(frames=meter.frames, bits=bits)


def _share(workspace: RenderWorkspace, number: int) -> Share | None:
    """What a part is given of the rate, where the clip was measured and there is not plenty for all of it."""
    if "measure" not in workspace.stages:
        return None
    settings, rate = workspace.request.settings, workspace.request.timing.info.rate
    records = workspace.records("measure")
    seconds = [max(1, one.frames) / float(rate) for one in records]
    if rate_exceeds_need(settings.rate * 1000, sum(one.bits for one in records), sum(seconds)):
        return None
    shares = allocate_bitrate(settings.rate * 1000, settings.ceiling * 1000, [one.bits for one in records], seconds)
    return Share(2, workspace.path("measure", number, ".stats"), shares[number])


def _joined(workspace: RenderWorkspace, stream: VideoStream) -> Generator[Encoded, None, None]:
    """The packets of all parts, with the times they have in the whole."""
    tick = tick_of(workspace.request.wanted)
    last = None
    for number in range(workspace.stored.count):
        stamps = json.loads(workspace.path("draw", number, ".stamps").read_text())
        if not stamps:  # one picture that stays longer than a part lasts leaves the next without any
            continue
        with av.open(str(workspace.path("draw", number, ".pictures"))) as source:
            packets = (packet for packet in source.demux(source.streams.video[0]) if packet.size)
            for packet, (shown, decoded, duration) in zip(packets, stamps, strict=True):
                # Where parts meet, a picture of the next may be decoded no earlier than the last of this one.
                last = decoded if last is None else max(decoded, last + 1)
                packet.stream = stream
                packet.pts, packet.dts, packet.duration, packet.time_base = shown, last, duration, tick
                yield Encoded(max(shown, 0) * tick, [packet])


def check_room(workspace: RenderWorkspace) -> None:
    """See that there is room for what is still to be written: the other parts, and all of it once more, joined.

    Raises:
        CannotWrite: there is not.
    """
    records = [record for number in range(workspace.stored.count) if (record := workspace.record("draw", number))]
    frames = sum(record.frames for record in records)
    free = shutil.disk_usage(workspace.folder).free - SPARE_BYTES
    needed, rate, wanted = 0, workspace.request.encoder_config.bits_per_second, workspace.request.wanted
    if frames:
        mean = sum(record.bits for record in records) / 8 / frames
        needed = round(mean * (2 * wanted.frames - frames))
    elif rate is not None:
        needed = round(2 * rate / 8 * wanted.duration)
    if free < needed or free < 0:
        raise CannotWrite(
            f"About {_megabytes(needed)} are still to be written, and {_megabytes(max(free, 0))} are free.",
            remedy="Make room, then let it go on: what is done is kept.",
        )


def _megabytes(size: int) -> str:
    return f"{size / 1e6:,.0f} MB"
