"""Colour beside the published matrices: what goes in as R'G'B' comes out as the same R'G'B'."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import Layout, Planes, Subsampling
from cadrage.plan import Plan
from cadrage.surrounds import Plain
from tests.clips import write_clip

COLOURS = [(r, g, b) for r in (10, 120, 240) for g in (10, 120, 240) for b in (10, 120, 240)]
SIZE = 64


def bt601(r, g, b):
    """ITU-R BT.601-7, 2.5.1 to 2.5.3, quantised to 8 bits as in 2.5.3; from memory."""
    y = 0.299 * r + 0.587 * g + 0.114 * b
    return 16 + 219 * y, 128 + 224 * (b - y) / 1.772, 128 + 224 * (r - y) / 1.402


def bt709(r, g, b):
    """ITU-R BT.709-6, items 3.2, 3.3 and 4.6 to 4.9; from memory."""
    y = 0.2126 * r + 0.7152 * g + 0.0722 * b
    return 16 + 219 * y, 128 + 224 * (b - y) / 1.8556, 128 + 224 * (r - y) / 1.5748


def full(codes):
    """Limited to full range: ITU-T H.273, equations 20 to 25; from memory."""
    y, cb, cr = codes
    return (y - 16) / 219 * 255, 128 + (cb - 128) / 224 * 255, 128 + (cr - 128) / 224 * 255


@pytest.fixture(scope="module")
def info(tmp_path_factory):
    path = write_clip(tmp_path_factory.mktemp("tagged") / "hd.mp4", size=(SIZE, SIZE), frames=1, tags=(6, 6, 6))
    return probe(path)


def through(info, frame, colour, codes, depth=8):
    """A picture of one colour, as stored, through the compositor."""
    layout = Layout(SIZE, SIZE, depth, Subsampling.left(2, 2), colour)
    stored = Planes.empty(layout)
    for array, code in zip(stored.arrays, codes, strict=True):
        array[:] = round(code * 2 ** (depth - 8))
    reading = Interpretation(matrix=colour.matrix, range="full" if colour.full_range else "limited")
    plan = Plan(frame=frame, interpretation=reading, placement={"tightness": F(1)}, surround=Plain())
    drawn = Compositor(plan, layout, info).compose(stored)
    return [array[8:-8, 8:-8] for array in drawn.arrays]


HD, SD = Frame(width=1280, height=1280), Frame(width=480, height=480)


@pytest.mark.parametrize("rgb", COLOURS)
def test_bt601_in_an_hd_frame(info, rgb):
    r, g, b = (part / 255 for part in rgb)
    drawn = through(info, HD, Colour("bt601"), bt601(r, g, b))
    for plane, wanted in zip(drawn, bt709(r, g, b), strict=True):
        assert np.abs(plane - wanted).max() <= 1


@pytest.mark.parametrize("rgb", COLOURS)
def test_bt709_in_a_standard_definition_frame(info, rgb):
    r, g, b = (part / 255 for part in rgb)
    drawn = through(info, SD, Colour("bt709"), bt709(r, g, b))
    for plane, wanted in zip(drawn, bt601(r, g, b), strict=True):
        assert np.abs(plane - wanted).max() <= 1


@pytest.mark.parametrize("rgb", COLOURS)
def test_full_range_becomes_limited(info, rgb):
    r, g, b = (part / 255 for part in rgb)
    drawn = through(info, SD, Colour("bt601", full_range=True), full(bt601(r, g, b)))
    for plane, wanted in zip(drawn, bt601(r, g, b), strict=True):
        assert np.abs(plane - wanted).max() <= 1


def test_white_and_black_stay_what_they_are(info):
    for colour, codes in ((Colour("bt601"), bt601(1, 1, 1)), (Colour("bt601", full_range=True), (255, 128, 128))):
        drawn = through(info, HD, colour, codes)
        assert [int(plane[0, 0]) for plane in drawn] == [235, 128, 128]
    drawn = through(info, HD, Colour("bt601"), (16, 128, 128))
    assert [int(plane[0, 0]) for plane in drawn] == [16, 128, 128]
