from fractions import Fraction

import numpy as np
import pytest

from cadrage.footage import ClipReader, probe
from tests.clips import write_clip

RATE = Fraction(25)
SIZE = (96, 64)


def numbered(number: int) -> np.ndarray:
    """A picture that says its number by its brightness."""
    return np.full((SIZE[1], SIZE[0], 3), 5 + number * 4, np.uint8)


@pytest.fixture(scope="module")
def counting(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("counting") / "counting.mp4", size=SIZE, frames=50, paint=numbered)


def number_in(frame) -> int:
    grey = (float(frame.planes.arrays[0].mean()) - 16) / 219 * 255
    return round((grey - 5) / 4)


def test_frames_come_in_order(counting):
    with ClipReader(counting, probe(counting)) as reader:
        frames = [(frame.time, number_in(frame)) for frame in reader.frames()]
    assert frames == [(number / RATE, number) for number in range(50)]


@pytest.mark.parametrize("order", [range(50), range(49, -1, -1), [40, 3, 4, 5, 49, 0, 12, 11, 30]])
def test_any_moment_in_any_order(counting, order):
    with ClipReader(counting, probe(counting)) as reader:
        for number in order:
            assert number_in(reader.frame_at((number + Fraction(1, 2)) / RATE)) == number
            assert number_in(reader.frame_at(number / RATE)) == number


def test_before_the_first_and_after_the_last(counting):
    with ClipReader(counting, probe(counting)) as reader:
        assert number_in(reader.frame_at(Fraction(-1))) == 0
        assert number_in(reader.frame_at(Fraction(500))) == 49


def test_a_rate_that_varies(tmp_path):
    """Real gaps: a picture is on screen until the next one comes."""
    stamps = [0, 33, 66, 100, 400, 433, 466, 1000, 1033]
    path = write_clip(tmp_path / "varying.mkv", size=SIZE, frames=9, paint=numbered, stamps=stamps, sound=None)
    info = probe(path)
    assert info.rate_varies
    assert info.longest_frame == Fraction(534, 1000)
    with ClipReader(path, info) as reader:
        for time, number in [(0.05, 1), (0.3, 3), (0.41, 4), (0.9, 6), (0.2, 3), (1.02, 7), (1.5, 8)]:
            assert number_in(reader.frame_at(Fraction(str(time)))) == number
        assert [number_in(frame) for frame in reader.frames()] == list(range(9))


def test_a_clock_of_milliseconds_does_not_make_a_rate_vary(tmp_path):
    stamps = [round(number * 1001 / 24) for number in range(24)]
    path = write_clip(
        tmp_path / "film.mkv", size=SIZE, frames=24, rate=Fraction(24000, 1001), stamps=stamps, sound=None
    )
    info = probe(path)
    assert not info.rate_varies
    assert float(info.rate) == pytest.approx(24000 / 1001, rel=1e-3)


@pytest.mark.parametrize("name", ["gray", "rgb24", "nv12", "yuv420p12le", "bgra", "yuv410p"])
def test_other_layouts_are_brought_to_ours(tmp_path, name):
    path = write_clip(
        tmp_path / f"other.{'mov' if name == 'rgb24' else 'mkv'}",
        size=SIZE,
        frames=3,
        paint=numbered,
        codec={"nv12": "rawvideo", "rgb24": "png"}.get(name, "ffv1"),
        pixel_format=name,
        sound=None,
        full_range=name in ("gray", "bgra"),
        options={},
    )
    with ClipReader(path, probe(path)) as reader:
        frame = reader.frame_at(Fraction(1, 25))
    layout = frame.planes.layout
    top = 2**layout.depth - 1
    black, span = (0, top) if layout.colour.full_range else (16 * top / 255, 219 * top / 255)
    share = (frame.planes.arrays[0].mean() - black) / span
    assert share == pytest.approx(9 / 255, abs=0.02)
