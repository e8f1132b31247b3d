"""How long pictures last: one rate throughout, or a rate that varies."""

from array import array
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from statistics import median

import numpy as np

FALLBACK_RATE = Fraction(25)  # a file of one frame that states no rate; common practice, no source
NTSC = Fraction(1000, 1001)
KNOWN = tuple(
    Fraction(rate) * slower
    for rate in (24, 25, 30, 48, 50, 60, 100, 120)
    for slower in ((1, NTSC) if rate % 25 else (1,))
)
"""Rates of television and film (SMPTE ST 12-1 and ST 2036-1; from memory) and their doubles."""
MEAN_FIELDS = Fraction(5, 2)  # that a picture of film lasts where it is stretched to video
IN_TURN = 0.9  # of the pictures must last otherwise than the one before (tried out)
FILM = (24 * NTSC, Fraction(24))
BINDING = ("avi", "mxf", "gxf", "dv")  # of these, those whose header states it
CONSTANT = ("avi", "mpegts", "mpeg", "mxf", "dv", "gxf")
"""Containers of one rate throughout: a picture that is missing was dropped or lost, and the one before it stays."""
MILLISECOND = Fraction(1, 1000)
MOST_ROUNDED = Fraction(1, 4)  # of a picture's length that rounding may take; a coarser clock tells no rate
FLOAT_ERROR = 1e-6  # seconds, of sums over hours
MOSTLY = Fraction(3, 4)  # of the gaps between pictures must be those of a rate for the others to be mended (tried out)
LOOSEST = Fraction(1, 100)  # of a picture's length, besides one tick, that may be rounded off


@dataclass(frozen=True, slots=True)
class Timing:
    """When pictures come.

    Attributes:
        rate: pictures a second.
        varies: whether they last unequally long, beyond the rounding of the file's clock.
        holes: of a constant rate, where pictures are missing: the number of the one before, and how many.
        shortest, longest: seconds between neighbours.
        film: whether they are film whose flags stretch it to video, two fields and three in turn.
    """

    rate: Fraction
    varies: bool
    holes: tuple[tuple[int, int], ...]
    shortest: Fraction
    longest: Fraction
    film: bool = False


def timing_of(
    times: Sequence[int], tick: Fraction, stated: Sequence[Fraction], *, fill: bool, binding: bool = False
) -> Timing:
    """Find the rate that fits some time stamps.

    Args:
        times: when each picture is shown, in ticks, in order.
        tick: seconds.
        stated: rates that the file states, the best first; may be empty.
        fill: whether pictures may be missing from a constant rate; else a gap means that the rate varies.
        binding: whether the first rate that is stated is that of the container, however many pictures are missing.
    """
    if len(times) < 2 or times[-1] <= times[0]:
        rate = stated[0] if stated else FALLBACK_RATE
        return Timing(rate, varies=False, holes=(), shortest=1 / rate, longest=1 / rate)
    gaps = [later - earlier for earlier, later in pairwise(times)]
    usual = Fraction(median(gaps)) * tick
    for rate, loose in _candidates(times, tick, stated):
        if abs(1 / rate - usual) <= loose or (binding and rate == stated[0]):
            holes = _holes(gaps, tick, rate, loose, fill=fill)
            if holes is not None:
                return Timing(rate, varies=False, holes=holes, shortest=1 / rate, longest=1 / rate)
    if (film := _film(gaps, tick)) is not None:
        return Timing(film, varies=False, holes=(), shortest=1 / film, longest=1 / film, film=True)
    mean = len(gaps) / ((times[-1] - times[0]) * tick)
    rate = next((one for one in stated if mean / 2 <= one <= mean * 2), mean)
    return Timing(rate, varies=True, holes=(), shortest=min(gaps) * tick, longest=max(gaps) * tick)


def _film(gaps: Sequence[int], tick: Fraction) -> Fraction | None:
    """The rate of film that lasts two fields and three in turn; None where it does not, or not throughout.

    Here and there, as where it ends, two in a row may last alike, as long as no picture is half a one off its place.
    """
    for rate in FILM:
        field = 1 / (rate * MEAN_FIELDS)
        fields = [round(gap * tick / field) for gap in gaps]
        off_grid = (abs(gap * tick - count * field) > field / 4 for gap, count in zip(gaps, fields, strict=True))
        if not set(fields) <= {2, 3} or any(off_grid):
            continue
        turns = sum(one != other for one, other in pairwise(fields))
        off = np.abs(np.cumsum(fields) - float(MEAN_FIELDS) * np.arange(1, len(fields) + 1)).max()
        if len(fields) > 1 and turns >= IN_TURN * (len(fields) - 1) and off < MEAN_FIELDS / 2:
            return rate
    return None


def _candidates(times: Sequence[int], tick: Fraction, stated: Sequence[Fraction]) -> list[tuple[Fraction, Fraction]]:
    """Rates that may be, each with the seconds by which stamps may be off.

    First stated ones whose pictures last a whole number of ticks, so that nothing is rounded off; then stated ones that
    are known, known ones near to these or to the stamps, and what else is stated.
    """
    mean = (len(times) - 1) / ((times[-1] - times[0]) * tick)
    about = [*stated, mean]
    known = sorted(KNOWN, key=lambda rate: min(abs(rate - one) for one in about))
    exact = [(rate, Fraction(0)) for rate in stated if (1 / (rate * tick)).denominator == 1]
    rounded = [*(rate for rate in stated if rate in KNOWN), *known, *stated, mean.limit_denominator(1001)]
    return [*exact, *((rate, _rounded_off(rate, tick)) for rate in rounded if rate > 0)]


def _rounded_off(rate: Fraction, tick: Fraction) -> Fraction:
    """Seconds by which stamps may be off: by a tick, or the milliseconds that recorders count in."""
    return min(max(tick, MILLISECOND), MOST_ROUNDED / rate) + LOOSEST / rate


def _holes(
    gaps: Sequence[int], tick: Fraction, rate: Fraction, loose: Fraction, *, fill: bool
) -> tuple[tuple[int, int], ...] | None:
    """Where pictures are missing from a rate; None where the stamps are not of that rate."""
    missing: dict[int, int] = {}
    for gap in set(gaps):
        count = max(1, round(gap * tick * rate))
        if abs(gap * tick - count / rate) > loose or (count > 1 and not fill):
            return None
        missing[gap] = count - 1
    found = tuple((number, missing[gap]) for number, gap in enumerate(gaps) if missing[gap])
    # Where a picture is far from where the rate would have it, it is another rate, only near to it.
    slots = np.cumsum([1 + missing[gap] for gap in gaps])
    off = np.abs(np.cumsum(gaps) * float(tick) - slots / float(rate)).max()
    return found if off <= float(loose) + FLOAT_ERROR else None


def evened(times: "array[int]", tick: Fraction, rate: Fraction) -> "array[int]":
    """Times of a constant rate without stamps that run ahead for some pictures and are caught up with.

    A picture that comes late counts as late only if all behind it are at least as late: then one is missing. Stamps
    that mostly have another distance, as those of film that is stretched to video by its flags, stay as they are.

    Args:
        times: in ticks, in order; some may be there twice.
        tick: seconds.
        rate: pictures a second.
    """
    step = 1 / (rate * tick)
    regular = sum(abs(later - earlier - step) <= 1 for earlier, later in pairwise(times))
    if regular < MOSTLY * (len(times) - 1) or len(times) < 2:
        return times
    late = [round((time - times[0]) / step) - number for number, time in enumerate(times)]
    even = array("q", times)
    least = late[-1]
    for number in range(len(times) - 1, -1, -1):
        least = min(least, late[number])
        even[number] = times[0] + round((number + max(0, least)) * step)
    return even
