"""Pictures at the rate that is delivered: the clip's own, or the frame's.

Nothing is blended unless that was asked for: each delivered frame is the picture that is on screen at its moment.
"""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor

import cv2

from cadrage.errors import BadRequest
from cadrage.footage import Facts, PictureReader, taken_as
from cadrage.pixels.planes import Planes, samples
from cadrage.plan import Plan
from cadrage.render.settings import DEFAULT, Settings
from cadrage.values import Value, format_exact

MOST_SPEED = Fraction(1, 10)  # further than this from its own speed a clip looks wrong (common practice, no source)


@dataclass(frozen=True, slots=True)
class Pace:
    """When each delivered frame shows what.

    Attributes:
        facts: the clip as it is delivered: rate, number of frames, duration.
        own: the rate of the clip's own pictures, after interpretation.
        varies: whether those last unequally long.
        start: seconds of the clip at which the first delivered frame lies.
        speed: seconds of the clip that pass in one delivered second.
        kept: whether every picture comes as it is, at its own time.
        blended: whether a frame between two pictures is mixed from both.
    """

    facts: Facts
    own: Fraction
    varies: bool
    start: Fraction
    speed: Fraction
    kept: bool
    blended: bool

    def clip_time(self, number: int) -> Fraction:
        """Seconds of the clip that delivered frame `number` shows."""
        return self.start + number / self.facts.rate * self.speed


@dataclass(frozen=True, slots=True)
class Cut:
    """Part of what is delivered: the frames whose time lies from `start` on and before `end`, in delivered seconds."""

    number: int
    start: Fraction
    end: Fraction


@dataclass(frozen=True, slots=True)
class Paced:
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


def pace_of(plan: Plan, facts: Facts, settings: Settings = DEFAULT) -> Pace:
    """Settle how a clip is delivered.

    Raises:
        BadRequest: the range holds no picture, or the speed asked for is too far from the clip's own.
    """
    taken = taken_as(facts, plan.interpretation)
    start, length, frames = _stretch(plan, taken, settings)
    rate = plan.frame.rate or taken.rate
    fits = rate == taken.rate and not taken.rate_varies
    if plan.frame.rate is None or fits:
        timing = {"frames": frames, "duration": length}
        facts = taken.model_copy(update=timing)
        return Pace(facts, taken.rate, taken.rate_varies, start, Fraction(1), kept=True, blended=False)
    speed = _speed(taken, rate) if settings.rate_change == "speed" else Fraction(1)
    length = length / speed
    frames = frames if settings.rate_change == "speed" else ceil(length * rate)
    timing = {"rate": rate, "rate_varies": False, "frames": frames, "duration": length}
    facts = taken.model_copy(update=timing | {"shortest_frame": 1 / rate, "longest_frame": 1 / rate})
    blended = settings.rate_change == "blended"
    return Pace(facts, taken.rate, taken.rate_varies, start, speed, kept=False, blended=blended)


def _stretch(plan: Plan, taken: Facts, settings: Settings) -> tuple[Fraction, Fraction, int]:
    """Start, length and pictures of what is delivered of a clip; of whole pictures where they last equally long."""
    if settings.range == "whole clip" or plan.range.whole:
        return Fraction(0), taken.duration, taken.frames
    start, end = plan.range.start, taken.duration if plan.range.end is None else plan.range.end
    end = min(end, taken.duration)
    if not taken.rate_varies:
        first, last = floor(start * taken.rate), ceil(end * taken.rate)
        start, end = first / taken.rate, last / taken.rate
    if start >= end:
        raise BadRequest("The range holds no picture of the clip.", remedy="Set I and O anew, or take the whole clip.")
    return start, end - start, max(1, round(taken.frames * (end - start) / taken.duration))


def _speed(taken: Facts, rate: Fraction) -> Fraction:
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


def delivered(plan: Plan, facts: Facts, settings: Settings = DEFAULT) -> Facts:
    """The clip as it is delivered; of a range of a varying rate the number of frames is only about right."""
    return pace_of(plan, facts, settings).facts


def whole(pace: Pace) -> Cut:
    """All that is delivered."""
    return cuts(pace, 1)[0]


def cuts(pace: Pace, count: int) -> list[Cut]:
    """All that is delivered in parts about equally long; borders lie between frames."""
    facts = pace.facts
    half = 1 / (2 * facts.rate)
    if pace.kept and pace.varies:
        marks = [facts.duration * number / count for number in range(count + 1)]
        marks[0], marks[-1] = -pace.start - facts.duration, facts.duration
    else:
        marks = [facts.frames * number // count / facts.rate - half for number in range(count + 1)]
    return [Cut(number, marks[number], marks[number + 1]) for number in range(count)]


def paced(reader: PictureReader, pace: Pace, cut: Cut) -> Iterator[Paced]:
    """The frames of a cut, in order. Where a picture of a constant rate is missing, the one before it stays."""
    if pace.kept and pace.varies:
        return _kept(reader, pace, cut)
    return _fitted(reader, pace, cut)


def _kept(reader: PictureReader, pace: Pace, cut: Cut) -> Iterator[Paced]:
    for picture in reader.frames_from(pace.start + max(Fraction(0), cut.start)):
        time = picture.time - pace.start
        if time >= cut.end:
            return
        if time >= cut.start:
            yield Paced(max(time, Fraction(0)), picture.time, picture.planes)


def _fitted(reader: PictureReader, pace: Pace, cut: Cut) -> Iterator[Paced]:
    rate = pace.facts.rate
    numbers = range(ceil(cut.start * rate), ceil(cut.end * rate))
    if not numbers:
        return
    first = pace.clip_time(numbers[0])
    pictures = ((_exact(pace, one.time), one.planes) for one in reader.frames_from(_near(pace, first)))
    shown, coming = next(pictures), next(pictures, None)
    for number in numbers:
        time = pace.clip_time(number)
        while coming is not None and coming[0] <= time:
            shown, coming = coming, next(pictures, None)
        planes = shown[1]
        if pace.blended and coming is not None and shown[0] < time:
            planes = mixed(shown[1], coming[1], float((time - shown[0]) / (coming[0] - shown[0])))
        yield Paced(number / rate, time, planes)


def _exact(pace: Pace, time: Fraction) -> Fraction:
    """A picture's time; of an even rate without what a container rounded off."""
    return time if pace.varies else round(time * pace.own) / pace.own


def _near(pace: Pace, time: Fraction) -> Fraction:
    """A moment within the picture that is shown at a time, whatever a container rounded off."""
    return time if pace.varies else (floor(time * pace.own) + Fraction(1, 2)) / pace.own


def mixed(one: Planes, other: Planes, share: float) -> Planes:
    """Two pictures mixed, the second with a share of 0 to 1."""
    pairs = zip(one.arrays, other.arrays, strict=True)
    y, cb, cr = (samples(cv2.addWeighted(first, 1 - share, second, share, 0)) for first, second in pairs)
    return Planes((y, cb, cr), one.layout)


def fitted(pace: Pace, times: Sequence[Fraction] | None = None) -> Fitted:
    """Which frames are repeated and which pictures are dropped.

    Args:
        pace: how the clip is delivered.
        times: when each picture of the clip comes, in seconds from the first; needed where its rate varies.
    """
    if pace.kept:
        return Fitted()
    shown = [_shown(pace, number, times) for number in range(pace.facts.frames)]
    repeated = [number for number in range(1, len(shown)) if shown[number] == shown[number - 1]]
    seen = set(shown)
    dropped = [number - shown[0] for number in range(shown[0], shown[-1]) if number not in seen]
    return Fitted(repeated=tuple(repeated), dropped=tuple(dropped))


def _shown(pace: Pace, number: int, times: Sequence[Fraction] | None) -> int:
    """The number of the picture that a delivered frame shows."""
    time = pace.clip_time(number)
    if times is None:
        return floor(time * pace.own)
    return max(0, bisect_right(times, time) - 1)
