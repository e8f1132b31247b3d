"""Pictures at the rate that is delivered: the clip's own, or the frame's.

Nothing is blended unless that was asked for: each delivered frame is the picture that is on screen at its moment.
"""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import product
from math import ceil, floor

from cadrage.errors import BadRequest
from cadrage.footage import MediaInfo, PictureReader, effective_timing
from cadrage.output.settings import DEFAULT, Settings
from cadrage.pixels.blend import mixed
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from cadrage.values import Value, format_exact

MOST_IN_FIELDS = Fraction(61, 2)  # frames a second of two fields; what is more is the rate of fields
MOST_SPEED = Fraction(1, 10)  # further than this from its own speed a clip looks wrong (common practice, no source)


@dataclass(frozen=True, slots=True)
class FrameTiming:
    """When each delivered frame shows what.

    Attributes:
        info: the clip as it is delivered: rate, number of frames, duration.
        own: the rate of the clip's own pictures, after interpretation.
        varies: whether those last unequally long.
        start: seconds of the clip at which the first delivered frame lies.
        speed: seconds of the clip that pass in one delivered second.
        kept: whether every picture comes as it is, at its own time.
        blended: whether a frame between two pictures is mixed from both.
        woven: whether each delivered frame shows two moments, the second half a frame's time later.
    """

    info: MediaInfo
    own: Fraction
    varies: bool
    start: Fraction
    speed: Fraction
    kept: bool
    blended: bool
    woven: bool = False

    def clip_time(self, number: int | Fraction) -> Fraction:
        """Seconds of the clip that delivered frame `number` shows; of half a number, its second field."""
        return self.start + number / self.info.rate * self.speed

    @property
    def moments(self) -> tuple[Fraction, ...]:
        """What each delivered frame shows, in frames from its start."""
        return (Fraction(0), Fraction(1, 2)) if self.woven else (Fraction(0),)


@dataclass(frozen=True, slots=True)
class Segment:
    """Part of what is delivered: the frames whose time lies from `start` on and before `end`, in delivered seconds."""

    number: int
    start: Fraction
    end: Fraction


@dataclass(frozen=True, slots=True)
class TimedPicture:
    """One delivered frame: its time in the file, the time of the clip, and the picture, all in seconds."""

    time: Fraction
    clip_time: Fraction
    planes: Planes


class Fitted(Value):
    """What fitting a clip into another rate does to its pictures.

    Attributes:
        repeated: delivered frames, counted from 0, that show the same picture as the frame before.
        dropped: pictures of the clip, counted from 0 in what is delivered of it, that are never shown.
    """

    repeated: tuple[int, ...] = ()
    dropped: tuple[int, ...] = ()


def frame_timing(plan: Plan, info: MediaInfo, settings: Settings = DEFAULT) -> FrameTiming:
    """Settle how a clip is delivered.

    Raises:
        BadRequest: the range holds no picture, or the speed asked for is too far from the clip's own.
    """
    if plan.frame.fields != "progressive":
        return _woven(plan, info, settings)
    taken = effective_timing(info, plan.interpretation)
    start, length, frames = _stretch(plan, taken, settings)
    rate = plan.frame.rate or taken.rate
    fits = rate == taken.rate and not taken.rate_varies
    if plan.frame.rate is None or fits:
        timing = {"frames": frames, "duration": length}
        info = taken.model_copy(update=timing)
        return FrameTiming(info, taken.rate, taken.rate_varies, start, Fraction(1), kept=True, blended=False)
    speed = _speed(taken, rate) if settings.rate_change == "speed" else Fraction(1)
    length = length / speed
    frames = frames if settings.rate_change == "speed" else ceil(length * rate)
    timing = {"rate": rate, "rate_varies": False, "frames": frames, "duration": length}
    info = taken.model_copy(update=timing | {"shortest_frame": 1 / rate, "longest_frame": 1 / rate})
    blended = settings.rate_change == "blended"
    return FrameTiming(info, taken.rate, taken.rate_varies, start, speed, kept=False, blended=blended)


def _woven(plan: Plan, info: MediaInfo, settings: Settings) -> FrameTiming:
    """How a clip is delivered in fields: as whole frames of half their rate, each of which shows two moments."""
    taken = effective_timing(info, plan.interpretation)
    own = plan.frame.rate or (taken.rate / 2 if taken.rate > MOST_IN_FIELDS else taken.rate)
    whole = plan.frame.model_copy(update={"fields": "progressive", "rate": own})
    timing = frame_timing(plan.model_copy(update={"frame": whole}), info, settings)
    fits = not taken.rate_varies and taken.rate in (own, 2 * own)
    return replace(timing, kept=fits, blended=timing.blended and not fits, woven=True)


def _stretch(plan: Plan, taken: MediaInfo, settings: Settings) -> tuple[Fraction, Fraction, int]:
    """Start, length and pictures of what is delivered of a clip; of whole pictures where they last equally long."""
    if settings.range == "whole_clip" or plan.range.whole:
        return Fraction(0), taken.duration, taken.frames
    start, end = plan.range.start, taken.duration if plan.range.end is None else plan.range.end
    end = min(end, taken.duration)
    if not taken.rate_varies:
        first, last = floor(start * taken.rate), ceil(end * taken.rate)
        start, end = first / taken.rate, last / taken.rate
    if start >= end:
        raise BadRequest("The range holds no picture of the clip.", remedy="Set I and O anew, or take the whole clip.")
    return start, end - start, max(1, round(taken.frames * (end - start) / taken.duration))


def _speed(taken: MediaInfo, rate: Fraction) -> Fraction:
    speed = rate / taken.rate
    if taken.rate_varies:
        raise BadRequest(
            "A clip whose rate varies has no speed that would fit.", remedy="Have whole frames repeated and dropped."
        )
    if abs(speed - 1) > MOST_SPEED:
        raise BadRequest(
            f"At {format_exact(rate)} frames a second the clip of {format_exact(taken.rate)} would run "
            f"{float(speed):.2f} times as fast.",
            remedy="Have whole frames repeated and dropped.",
        )
    return speed


def delivered(plan: Plan, info: MediaInfo, settings: Settings = DEFAULT) -> MediaInfo:
    """The clip as it is delivered; of a range of a varying rate the number of frames is only about right."""
    return frame_timing(plan, info, settings).info


def whole(timing: FrameTiming) -> Segment:
    """All that is delivered."""
    return segments_of(timing, 1)[0]


def segments_of(timing: FrameTiming, count: int) -> list[Segment]:
    """All that is delivered in parts about equally long; borders lie between frames."""
    info = timing.info
    half = 1 / (2 * info.rate)
    if timing.kept and timing.varies:
        marks = [info.duration * number / count for number in range(count + 1)]
        marks[0], marks[-1] = -timing.start - info.duration, info.duration
    else:
        marks = [info.frames * number // count / info.rate - half for number in range(count + 1)]
    return [Segment(number, marks[number], marks[number + 1]) for number in range(count)]


def conform(reader: PictureReader, timing: FrameTiming, cut: Segment) -> Iterator[TimedPicture]:
    """The frames of a cut, in order; of frames of fields, both moments of each, one after the other.

    Where a picture of a constant rate is missing, the one before it stays.
    """
    if timing.kept and timing.varies:
        return _kept(reader, timing, cut)
    return _fitted(reader, timing, cut)


def _kept(reader: PictureReader, timing: FrameTiming, cut: Segment) -> Iterator[TimedPicture]:
    for picture in reader.frames_from(timing.start + max(Fraction(0), cut.start)):
        time = picture.time - timing.start
        if time >= cut.end:
            return
        if time >= cut.start:
            yield TimedPicture(max(time, Fraction(0)), picture.time, picture.planes)


def _fitted(reader: PictureReader, timing: FrameTiming, cut: Segment) -> Iterator[TimedPicture]:
    rate = timing.info.rate
    numbers = range(ceil(cut.start * rate), ceil(cut.end * rate))
    if not numbers:
        return
    first = timing.clip_time(numbers[0])
    pictures = ((_exact(timing, one.time), one.planes) for one in reader.frames_from(_near(timing, first)))
    shown, coming = next(pictures), next(pictures, None)
    for number, moment in product(numbers, timing.moments):
        time = timing.clip_time(number + moment)
        while coming is not None and coming[0] <= time:
            shown, coming = coming, next(pictures, None)
        planes = shown[1]
        if timing.blended and coming is not None and shown[0] < time:
            planes = mixed(shown[1], coming[1], float((time - shown[0]) / (coming[0] - shown[0])))
        yield TimedPicture(number / rate, time, planes)


def _exact(timing: FrameTiming, time: Fraction) -> Fraction:
    """A picture's time; of an even rate without what a container rounded off."""
    return time if timing.varies else round(time * timing.own) / timing.own


def _near(timing: FrameTiming, time: Fraction) -> Fraction:
    """A moment within the picture that is shown at a time, whatever a container rounded off."""
    return time if timing.varies else (floor(time * timing.own) + Fraction(1, 2)) / timing.own


def fitted(timing: FrameTiming, times: Sequence[Fraction] | None = None) -> Fitted:
    """Which frames are repeated and which pictures are dropped.

    Args:
        timing: how the clip is delivered.
        times: when each picture of the clip comes, in seconds from the first; needed where its rate varies.
    """
    if timing.kept:
        return Fitted()
    shown = [_shown(timing, number, times) for number in range(timing.info.frames)]
    repeated = [number for number in range(1, len(shown)) if shown[number] == shown[number - 1]]
    seen = set(shown)
    dropped = [number - shown[0] for number in range(shown[0], shown[-1]) if number not in seen]
    return Fitted(repeated=tuple(repeated), dropped=tuple(dropped))


def _shown(timing: FrameTiming, number: int, times: Sequence[Fraction] | None) -> int:
    """The number of the picture that a delivered frame shows."""
    time = timing.clip_time(number)
    if times is None:
        return floor(time * timing.own)
    return max(0, bisect_right(times, time) - 1)
