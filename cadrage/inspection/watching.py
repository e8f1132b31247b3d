"""Going through every frame of a finished file: black and frozen ones, and the codes that its samples really have."""

from collections.abc import Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import islice
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from cadrage.errors import CadrageError
from cadrage.footage import DecodedFrame, Interpretation, MediaInfo, open_footage
from cadrage.inspection.bars import BLACK_SHARE
from cadrage.output.weaving import field_order, weave
from cadrage.pixels.planes import Planes, Samples, samples
from cadrage.render.frame_timing import Segment, conform
from cadrage.render.pipeline import prefetch
from cadrage.render.request import RenderRequest

SAMPLING_STEP = 5
"""Every fifth sample each way is looked at: an odd step, so that lines of both fields are among them."""
SMALL_SIDE = 128  # of a frame that is small enough for every sample to be looked at
STILL = 0.02  # mean change in codes of 8 bits below which a frame is taken for the one before
ALIVE = 0.5  # mean change above which the composed frames say that it should not have been
ALIVE_SMALL = 6.0
"""The same of small frames: an encoder may leave the few blocks of one as they were though something in them moved."""
MOST_CHECKED = 20  # frames that are composed anew to see whether they should be so
SPARED = 0.001  # share of samples at each end of the range that an encoder's rounding may have put there


@dataclass(slots=True)
class Watched:
    """What was seen in every frame of a file.

    Attributes:
        frames: how many could be decoded.
        black, frozen: numbers of frames that are black, or the same as the one before.
        counts: how often each luma code was seen.
        depth: bits of a sample.
        times: of those frames: of the one before, and their own, in seconds of the file.
    """

    frames: int = 0
    black: list[int] = field(default_factory=list)
    frozen: list[int] = field(default_factory=list)
    counts: NDArray[np.int64] = field(default_factory=lambda: np.zeros(0, np.int64))
    depth: int = 8
    times: dict[int, tuple[Fraction, Fraction]] = field(default_factory=dict)

    @property
    def span(self) -> tuple[int, int]:
        """The lowest and the highest luma code, but for a few samples that rounding may have put there."""
        if not self.counts.any():
            return 0, 0
        share = np.cumsum(self.counts) / self.counts.sum()
        return int(np.argmax(share > SPARED)), int(np.argmax(share >= 1 - SPARED))


def watch(path: Path, info: MediaInfo) -> Watched:
    """Decode all of a file once, in constant memory.

    Raises:
        UnreadableFile: a part of it cannot be decoded.
    """
    seen = Watched()
    before: tuple[Fraction, Samples] | None = None
    with (
        open_footage(path, info, Interpretation(fields="progressive")) as reader,
        closing(prefetch(reader.frames())) as frames,
    ):
        for frame in frames:
            before = _look(seen, frame, before)
    return seen


def _look(seen: Watched, frame: DecodedFrame, before: tuple[Fraction, Samples] | None) -> tuple[Fraction, Samples]:
    layout = frame.planes.layout
    seen.depth = layout.depth
    step = 1 if _is_small(frame.planes) else SAMPLING_STEP
    luma = samples(np.ascontiguousarray(frame.planes.arrays[0][::step, ::step]))
    unit = 2.0 ** (layout.depth - 8)
    black, span, _ = layout.colour.code_range(layout.depth)
    if luma.max() <= black + BLACK_SHARE * span:
        seen.black.append(seen.frames)
    if before is not None and _change(luma, before[1]) <= STILL * unit:
        seen.frozen.append(seen.frames)
    if seen.frames in (*seen.black[-1:], *seen.frozen[-1:]):
        seen.times[seen.frames] = (before[0] if before else frame.time, frame.time)
    counts = np.bincount(luma.ravel(), minlength=2**layout.depth)
    seen.counts = counts if not seen.counts.size else seen.counts + counts
    seen.frames += 1
    return frame.time, luma


def _is_small(planes: Planes) -> bool:
    return min(planes.layout.width, planes.layout.height) < SMALL_SIDE


def _change(one: Samples, other: Samples) -> float:
    return float(np.abs(one.astype(np.int32) - other).mean())


def unasked(seen: Watched, request: RenderRequest) -> tuple[list[int], list[int]]:
    """Of the black and the frozen frames, those that should be otherwise: they are composed anew and compared.

    Returns:
        Numbers of black and of frozen frames that the clip does not have. Both are empty where it cannot be read.
    """
    suspects = sorted({*seen.black[:MOST_CHECKED], *_some(seen.frozen)})
    black, frozen = [], []
    drawn = (one.composed for one in as_asked(request, (time for number in suspects for time in seen.times[number])))
    try:
        for number in suspects:
            before, now = next(drawn), next(drawn)
            if before is None or now is None:
                continue
            codes, floor, span = now.arrays[0], *now.layout.colour.code_range(now.layout.depth)[:2]
            if number in seen.black and codes.max() > floor + 2 * BLACK_SHARE * span:
                black.append(number)
            unit, alive = 2.0 ** (now.layout.depth - 8), ALIVE_SMALL if _is_small(now) else ALIVE
            if number in seen.frozen and _change(codes, before.arrays[0]) > alive * unit:
                frozen.append(number)
    except CadrageError:
        return [], []
    return black, frozen


def _some(numbers: list[int]) -> list[int]:
    """A few of many, evenly."""
    return numbers[:: -(-len(numbers) // MOST_CHECKED)] if numbers else []


@dataclass(frozen=True, slots=True)
class Asked:
    """What should be seen at a time of a file.

    Attributes:
        source: the picture of the clip, as decoded; None where there is none.
        composed: the frame of it; None there too.
        time: of the picture, in seconds of the clip.
    """

    source: Planes | None = None
    composed: Planes | None = None
    time: Fraction = Fraction(0)


def as_asked(request: RenderRequest, times: Iterable[Fraction]) -> Iterator[Asked]:
    """What should be seen at some times of a file.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read.
    """
    timing = request.timing
    near = timing.info.shortest_frame / 2
    with open_footage(request.source, request.info, request.interpretation) as reader:
        compositor = None
        held: Asked | None = None  # a still is composed once
        for time in times:
            shown = list(islice(conform(reader, timing, Segment(0, time - near, time + near)), len(timing.moments)))
            if len(shown) < len(timing.moments):
                yield Asked()
                continue
            compositor = compositor or request.compositor(shown[0].planes.layout)
            if held is None or held.source is not shown[0].planes or timing.woven or compositor.animated:
                frames = [compositor.compose(one.planes, time=one.clip_time) for one in shown]
                if timing.woven:
                    weave(frames[0], frames[1], field_order(request.plan.frame))
                held = Asked(shown[0].planes, frames[0], shown[0].clip_time)
            yield held


@dataclass(frozen=True, slots=True)
class Moment:
    """One moment of a file.

    Attributes:
        frame: what the file shows.
        source, composed, time: what it should be; see `Asked`.
    """

    frame: Planes
    source: Planes | None = None
    composed: Planes | None = None
    time: Fraction = Fraction(0)


def moments(request: RenderRequest | None, path: Path, found: MediaInfo, count: int) -> list[Moment]:
    """Some moments all over a file, beside what they should be.

    Raises:
        UnreadableFile: the file cannot be read.
    """
    with open_footage(path, found, Interpretation(fields="progressive")) as written:
        frames = [written.frame_at(found.duration * (2 * step + 1) / (2 * count)) for step in range(count)]
    if request is None:
        return [Moment(frame.planes) for frame in frames]
    try:
        times = [frame.time for frame in frames]
        if request.encoder_config.kind.folder:  # stills have no rate of their own
            times = [time * found.rate / request.wanted.rate for time in times]
        pairs = zip(frames, as_asked(request, times), strict=True)
        return [Moment(frame.planes, one.source, one.composed, one.time) for frame, one in pairs]
    except CadrageError:
        return [Moment(frame.planes) for frame in frames]
