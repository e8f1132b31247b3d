"""Resampling, colour, and the places of samples."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.geometry import FrameRect
from cadrage.pixels.colour import Colour, parse_colour, ycc_change
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.kernels import blurring_kernel, cubic, sampling_kernel
from cadrage.pixels.light import codes_of
from cadrage.pixels.mapping import Coverage
from cadrage.pixels.planes import CHROMA_420, Layout, Planes, Subsampling
from cadrage.pixels.resample import Axis, Resampler, resampling_weights

SD, HD = Colour("bt601"), Colour("bt709")


def draw(plane, step, start=F(0), drawn=None):
    rows, columns = plane.shape
    axis = Axis(start, step)
    kernel = sampling_kernel(float(step))
    down = resampling_weights(axis, range(drawn or rows), rows, kernel, 12)
    across = resampling_weights(Axis(F(0), F(1)), range(columns), columns, sampling_kernel(1), 16)
    return Resampler(down, across).draw(plane)


@pytest.mark.parametrize("step", [F(16, 9), F(1), F(9, 16), F(7), F(1, 5)])
def test_weights_sum_to_one_everywhere(step):
    for tile in resampling_weights(Axis(F(-13, 3), step), range(-4, 90), 60, sampling_kernel(float(step)), 12):
        assert tile.weights.sum(axis=1) == pytest.approx(1, abs=1e-5)
        assert tile.low >= 0
        assert tile.high <= 60


def test_drawing_at_one_to_one_changes_nothing():
    plane = np.random.default_rng(1).integers(0, 255, (40, 30), np.uint8)
    assert draw(plane, F(1)) == pytest.approx(plane, abs=1e-3)


def test_a_ramp_stays_a_ramp_at_any_phase():
    """Cubic convolution reproduces straight lines (Keys 1981), so positions are exact."""
    plane = np.repeat(np.arange(100, dtype=np.uint8)[:, None], 8, axis=1)
    drawn = draw(plane, F(1, 2), F(41, 4), 60)
    wanted = 10.25 + (np.arange(60) + 0.5) / 2 - 0.5
    assert drawn[:, 3] == pytest.approx(wanted, abs=1e-3)


def test_a_quarter_pixel_moves_the_centroid_by_a_quarter():
    plane = np.zeros((64, 8), np.uint8)
    plane[30:34] = 200
    rows = np.arange(64) + 0.5
    centroids = []
    for quarter in range(8):
        drawn = draw(plane, F(1), F(-quarter, 4))[:, 2]
        centroids.append((drawn * rows).sum() / drawn.sum())
    assert np.diff(centroids) == pytest.approx(0.25, abs=0.05)


def test_reducing_filters_first():
    """Lines finer than the drawn raster become their mean, not a pattern."""
    plane = np.zeros((400, 8), np.uint8)
    plane[::2] = 200
    drawn = draw(plane, F(8), drawn=50)[4:-4]
    assert drawn == pytest.approx(100, abs=1)


def test_the_blurring_kernel_has_the_variance_of_its_gaussian():
    for sigma in (0.4, 1.0, 5.0):
        kernel = blurring_kernel(1.0, sigma)
        at = np.linspace(-kernel.reach, kernel.reach, 20001)
        weights = kernel.curve(at)
        assert np.sqrt((weights * at**2).sum() / weights.sum()) == pytest.approx(sigma, rel=0.01)


def test_cubic_is_one_at_home_and_nothing_at_its_neighbours():
    assert cubic(np.array([0.0, 1.0, -1.0, 2.0, 2.5])).tolist() == [1, 0, 0, 0, 0]


def test_coverage_is_exact_at_fractions():
    layout = Layout(1920, 1080, 8, CHROMA_420, HD)
    cover = Coverage.of(layout, 0, FrameRect(F(2625, 4), F(0), F(1215, 2), F(1080)))
    assert cover.columns[656] == 0.75
    assert cover.columns[1263] == 0.75
    assert cover.columns.sum() == 607.5
    assert (cover.rows == 1).all()
    left, right = cover.uncovered
    assert (left.left, left.right, right.left, right.right) == (0, 657, 1263, 1920)


def test_a_rectangle_that_is_the_canvas_covers_all_of_every_plane():
    layout = Layout(1921, 1079, 8, CHROMA_420, HD)
    for plane in range(3):
        assert Coverage.of(layout, plane, FrameRect(F(0), F(0), F(1921), F(1079))).uncovered == ()
        assert Coverage.of(layout, plane, FrameRect(F(-5), F(0), F(3000), F(1079))).uncovered == ()


def test_siting_turns_with_the_picture():
    left = Subsampling.left(2, 2)
    assert (left.shift_x, left.shift_y) == (F(-1, 2), F(0))
    assert (left.rotated(90).shift_x, left.rotated(90).shift_y) == (F(0), F(-1, 2))
    assert left.rotated(180).shift_x == F(1, 2)
    assert left.rotated(90).rotated(270) == left


@pytest.mark.parametrize("degrees", [0, 90, 180, 270])
def test_turning_planes(degrees):
    layout = Layout(5, 4, 8, Subsampling(1, 1), HD)
    y = np.arange(20, dtype=np.uint8).reshape(4, 5)
    turned = Planes((y, y, y), layout).rotated(degrees)
    assert (turned.arrays[0] == np.rot90(y, -degrees // 90)).all()
    assert turned.arrays[0].shape == turned.layout.shape(0)


def test_primary_colours_have_the_published_codes():
    """ITU-R BT.709-6, item 3.4 and 5: 75% and 100% bars are commonly tabulated; 100% red is 63, 102, 240."""
    assert [round(code) for code in codes_of("#ff0000", HD, 8)] == [63, 102, 240]
    assert [round(code) for code in codes_of("#ffffff", HD, 8)] == [235, 128, 128]
    assert [round(code) for code in codes_of("#ff0000", SD, 8)] == [81, 90, 240]
    assert [round(code) for code in codes_of("#000000", HD, 10)] == [64, 512, 512]
    assert parse_colour("FFffFF") == (1, 1, 1)


@pytest.mark.parametrize("full_range", [False, True])
@pytest.mark.parametrize("shade", ["#d03020", "#20a040", "#3050c0", "#c0c0c0", "#ffff00"])
def test_bt601_becomes_bt709_within_one_code(shade, full_range):
    """Against the published matrices (BT.601-7 and BT.709-6): the same R'G'B' has these codes in each."""
    source = Layout(16, 16, 8, CHROMA_420, Colour("bt601", full_range))
    codes = codes_of(shade, source.colour, 8)
    arrays = tuple(np.full(source.shape(plane), round(codes[plane]), np.uint8) for plane in range(3))
    changed = ColourChange(source, HD).apply(Planes(arrays, source))
    assert changed.layout.depth == 16
    wanted = codes_of(shade, HD, 8)
    for plane in range(3):
        assert changed.arrays[plane] / 256 == pytest.approx(wanted[plane], abs=1)


def test_the_change_of_matrix_keeps_grey():
    assert ycc_change("bt601", "bt709") @ [0.5, 0, 0] == pytest.approx([0.5, 0, 0])
