"""Rates that fit time stamps."""

from array import array
from fractions import Fraction

import pytest

from cadrage.footage.timing import evened, timing_of

MS = Fraction(1, 1000)
NTSC = Fraction(1000, 1001)


@pytest.mark.parametrize("rate", [24, 25, 30, 50, 60, 24 * NTSC, 30 * NTSC, 60 * NTSC, 120 * NTSC])
def test_a_clock_of_milliseconds_still_tells_the_true_rate(rate):
    """Matroska's usual clock; what it rounds off must not make another rate, nor one that varies."""
    times = [round(number / rate / MS) for number in range(200)]
    found = timing_of(times, MS, [Fraction(19001, 317)], fill=False)
    assert (found.rate, found.varies, found.holes) == (rate, False, ())


def test_what_a_file_states_is_believed_where_it_fits():
    tick = Fraction(1, 90_000)
    times = [number * 7200 for number in range(30)]
    assert timing_of(times, tick, [Fraction(25, 2)], fill=False).rate == Fraction(25, 2)
    assert timing_of(times, tick, [Fraction(25)], fill=False).rate == Fraction(25, 2)


def test_a_gap_is_a_hole_only_where_rates_are_constant():
    times = [0, 40, 80, 200, 240]
    filled = timing_of(times, MS, [Fraction(25)], fill=True)
    assert (filled.varies, filled.holes) == (False, ((2, 2),))
    assert timing_of(times, MS, [Fraction(25)], fill=False).varies


def test_unequal_pictures_vary():
    found = timing_of([0, 33, 66, 100, 417, 450], MS, [], fill=True)
    assert found.varies
    assert (found.shortest, found.longest) == (33 * MS, 317 * MS)


def test_one_picture_has_the_stated_rate():
    assert timing_of([7], MS, [Fraction(30)], fill=False).rate == 30
    assert timing_of([7], MS, [], fill=False).rate == 25


def test_stamps_that_run_ahead_and_are_caught_up_with_are_evened():
    step = 3600
    even = [number * step for number in range(20)]
    ahead = even.copy()
    ahead[8], ahead[9] = even[9], even[9]
    assert list(evened(array("q", ahead), Fraction(1, 90_000), Fraction(25))) == even


def test_a_picture_that_is_really_missing_stays_missing():
    step = 3600
    lost = [number * step for number in range(30) if number != 9]
    assert list(evened(array("q", lost), Fraction(1, 90_000), Fraction(25))) == lost


def test_stamps_of_stretched_film_stay():
    """Three fields, two, three: film that flags stretch to 29.97 (ISO/IEC 13818-2, repeat_first_field)."""
    times = array("q", [0])
    for number in range(20):
        times.append(times[-1] + (4504 if number % 2 else 3003))
    assert evened(times, Fraction(1, 90_000), 30 * NTSC) is times


def test_a_clock_as_coarse_as_the_pictures_tells_only_what_is_stated():
    """An AVI counts in pictures: of ten in a second, 30000/1001 is within a tick, and wrong."""
    found = timing_of(range(50), Fraction(1, 10), [Fraction(10)], fill=True, binding=True)
    assert (found.rate, found.holes) == (10, ())


def test_most_pictures_may_be_left_out_of_a_container_that_states_its_rate():
    found = timing_of([0, 7, 14, 20, 27], Fraction(1, 15), [Fraction(15)], fill=True, binding=True)
    assert (found.rate, found.varies) == (15, False)
    assert [count for _, count in found.holes] == [6, 6, 5, 6]


def test_milliseconds_in_a_finer_clock_are_what_recorders_count_in():
    times = [round(number * 1001 / 30) * 1000 for number in range(300)]
    found = timing_of(times, Fraction(1, 1_000_000), [Fraction(30000, 1001)], fill=False)
    assert (found.rate, found.varies) == (30 * NTSC, False)
