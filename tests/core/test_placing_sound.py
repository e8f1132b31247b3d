"""Sound put where it belongs."""

from fractions import Fraction

import av
import numpy as np
import pytest

from cadrage.footage.soundtrack import Heard
from cadrage.render.sound_placing import AudioTrim, SoundPlacer

RATE = 48_000


def piece(start, samples, value=1000, rate=RATE, layout="mono"):
    channels = av.AudioLayout(layout).nb_channels
    frame = av.AudioFrame.from_ndarray(np.full((1, samples * channels), value, np.int16), "s16", layout)
    frame.sample_rate = rate
    return Heard(frame, Fraction(start))


def line(pieces, trim=None, *, steady=False):
    placer = SoundPlacer(RATE, "mono", "s16", trim or AudioTrim(Fraction(0)), steady=steady)
    made = [frame for one in pieces for frame in placer.place(one)] + list(placer.finish())
    positions = [frame.pts for frame in made]
    assert positions == list(np.cumsum([0, *(frame.samples for frame in made)])[:-1])  # one unbroken line
    return np.concatenate([frame.to_ndarray()[0] for frame in made])


def test_pieces_that_follow_one_another_stay_as_they_are():
    found = line([piece(Fraction(number * 1024, RATE), 1024, number) for number in range(5)])
    assert found.tolist() == [number for number in range(5) for _ in range(1024)]


def test_a_gap_becomes_silence():
    """A lost packet must not let all that follows come early."""
    found = line([piece(0, 4800), piece(Fraction(1, 2), 4800)])
    assert len(found) == 24_000 + 4800
    assert not found[4800:24_000].any()
    assert found[24_000:].all()


def test_what_is_there_twice_is_left_out():
    found = line([piece(0, 4800, 1), piece(Fraction(1, 20), 4800, 2)])
    assert found.tolist() == [1] * 4800 + [2] * 2400


def test_before_the_start_it_is_cut_and_after_it_there_is_silence():
    assert line([piece(Fraction(-1, 10), 9600)]).tolist() == [1000] * 4800
    late = line([piece(Fraction(1, 10), 100)])
    assert len(late) == 4900
    assert not late[:4800].any()


def test_a_clock_that_rounds_does_not_cut_sound_up():
    """Stamps in whole milliseconds, as Matroska has them, are up to half a millisecond off."""
    stamps = [Fraction(round(number * 1024 * 1000 / RATE), 1000) for number in range(200)]
    found = line([piece(stamp, 1024, 7) for stamp in stamps])
    assert found.tolist() == [7] * (200 * 1024)


def test_a_clock_that_runs_away_is_followed():
    stamps = [Fraction(number * 1025, RATE) for number in range(400)]
    found = line([piece(stamp, 1024, 7) for stamp in stamps])
    assert abs(len(found) - 400 * 1025) < RATE // 20


def test_rough_stamps_are_not_followed():
    found = line([piece(0, 1000), piece(Fraction(1, 25), 1000)], steady=True)
    assert len(found) == 2000


def test_form_may_change_on_the_way():
    found = line([piece(0, 4800, 5), piece(Fraction(1, 10), 2400, 5, rate=24_000, layout="stereo")])
    assert len(found) == pytest.approx(9600, abs=40)
    assert found[6000] == 5


def test_a_stamp_from_nowhere_makes_no_hours_of_silence():
    trim = AudioTrim(Fraction(0), longest=Fraction(10))
    assert len(line([piece(0, 4800), piece(10**6, 4800)], trim)) == 9600


def test_a_range_without_sound_is_silent_throughout():
    trim = AudioTrim(Fraction(5), Fraction(6), length=Fraction(1))
    found = line([piece(0, 4800)], trim)
    assert len(found) == RATE
    assert not found.any()
