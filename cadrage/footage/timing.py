"""How long pictures last: one rate throughout, or a rate that varies."""

from array import array
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from statistics import median

FALLBACK_RATE = Fraction(25)  # a file of one frame that states no rate; common practice, no source
NTSC = Fraction(1000, 1001)
KNOWN = tuple(
    Fraction(rate) * slower
    for rate in (24, 25, 30, 48, 50, 60, 100, 120)
    for slower in ((1, NTSC) if rate % 25 else (1,))
)
"""Rates of television and film (SMPTE ST 12-1 and ST 2036-1; from memory) and their doubles."""
CONSTANT = ("avi", "mpegts", "mpeg", "mxf", "dv", "gxf")
"""Containers of one rate throughout: a picture that is missing was dropped or lost, and the one before it stays."""
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
    """

    rate: Fraction
    varies: bool
    holes: tuple[tuple[int, int], ...]
    shortest: Fraction
    longest: Fraction


def timing_of(times: Sequence[int], tick: Fraction, stated: Sequence[Fraction], *, fill: bool) -> Timing:
    """Find the rate that fits some time stamps.

    Args:
        times: when each picture is shown, in ticks, in order.
        tick: seconds.
        stated: rates that the file states, the best first; may be empty.
        fill: whether pictures may be missing from a constant rate; else a gap means that the rate varies.
    """
    if len(times) < 2:
        rate = stated[0] if stated else FALLBACK_RATE
        return Timing(rate, varies=False, holes=(), shortest=1 / rate, longest=1 / rate)
    gaps = [later - earlier for earlier, later in pairwise(times)]
    usual = Fraction(median(gaps)) * tick
    for rate in _candidates(times, tick, stated):
        if abs(1 / rate - usual) <= tick + LOOSEST / rate:
            holes = _holes(gaps, tick, rate, fill=fill)
            if holes is not None:
                return Timing(rate, varies=False, holes=holes, shortest=1 / rate, longest=1 / rate)
    mean = len(gaps) / ((times[-1] - times[0]) * tick)
    rate = next((one for one in stated if mean / 2 <= one <= mean * 2), mean)
    return Timing(rate, varies=True, holes=(), shortest=min(gaps) * tick, longest=max(gaps) * tick)


def _candidates(times: Sequence[int], tick: Fraction, stated: Sequence[Fraction]) -> list[Fraction]:
    """Stated rates that are known ones, known ones near to them or to what the stamps say, then what else is stated."""
    mean = (len(times) - 1) / ((times[-1] - times[0]) * tick)
    about = [*stated, mean]
    known = sorted(KNOWN, key=lambda rate: min(abs(rate - one) for one in about))
    first = [rate for rate in stated if rate in KNOWN]
    exact = [rate for rate in stated if tick <= Fraction(1, 10_000) and rate not in KNOWN]
    return [*first, *exact, *known, *stated, mean.limit_denominator(1001)]


def _holes(gaps: Sequence[int], tick: Fraction, rate: Fraction, *, fill: bool) -> tuple[tuple[int, int], ...] | None:
    """Where pictures are missing from a rate; None where the gaps are not of that rate."""
    missing: dict[int, int] = {}
    for gap in set(gaps):
        count = max(1, round(gap * tick * rate))
        if abs(gap * tick - count / rate) > tick + LOOSEST / rate or (count > 1 and not fill):
            return None
        missing[gap] = count - 1
    found = tuple((number, missing[gap]) for number, gap in enumerate(gaps) if missing[gap])
    # Where the last picture is far from where the rate would have it, it is another rate, only near to it.
    length = (len(gaps) + sum(count for _, count in found)) / rate
    return found if abs(sum(gaps) * tick - length) <= tick + LOOSEST / rate else None


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
