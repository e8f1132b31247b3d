"""Scales and sizes beside those of `asc-fdl`, the reference implementation of the ASC Framing Decision List."""

from fractions import Fraction as F

import fdl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cadrage.geometry import Placement, Raster, active_picture, drawn_even, place

sides = st.integers(16, 8192)
# Squeezes and pixel aspects in use; the reference takes them as floats.
aspects = st.sampled_from([F(text) for text in ("1", "12/11", "10/11", "16/11", "40/33", "4/3", "3/2", "1.8", "2")])
EVEN = fdl.RoundStrategy(even=fdl.RoundingEven.EVEN, mode=fdl.RoundingMode.ROUND)

WAYS = {
    fdl.FitMethod.FIT_ALL: Placement(),
    fdl.FitMethod.FILL: Placement(tightness=F(1)),
    fdl.FitMethod.WIDTH: Placement(sizing="width"),
    fdl.FitMethod.HEIGHT: Placement(sizing="height"),
}


def normal(raster: Raster) -> fdl.DimensionsFloat:
    return fdl.DimensionsFloat(width=float(raster.display_width), height=float(raster.height))


def rounded(value: float) -> int:
    size = fdl.DimensionsFloat(width=value, height=value)
    return int(fdl.fdl_round(size.width, EVEN.even, EVEN.mode))


@settings(max_examples=500, deadline=None)
@given(sides, sides, aspects, sides, sides, aspects, st.sampled_from(list(WAYS)))
def test_fit_fill_width_and_height(width, height, squeeze, frame_width, frame_height, pixel_aspect, way):
    picture, frame = Raster(width, height, squeeze), Raster(frame_width, frame_height, pixel_aspect)
    theirs = fdl.calculate_scale_factor(normal(picture), normal(frame), way)
    placed = place(picture, frame, WAYS[way])
    assert float(placed.scale) == pytest.approx(theirs, rel=1e-9)
    drawn = (float(placed.rect.width), float(placed.rect.height))
    wanted = (width * float(squeeze) * theirs / float(pixel_aspect), height * theirs)
    assert drawn == pytest.approx(wanted, rel=1e-9)
    # Rounded to even as the reference rounds, wherever the two floats do not straddle a half.
    for mine, other in zip(drawn, wanted, strict=True):
        if abs((other / 2) % 1 - 0.5) > 1e-6:
            assert 2 * round(mine / 2) == rounded(other)


@settings(max_examples=200, deadline=None)
@given(sides, sides, st.integers(100, 300))
def test_the_active_picture_is_the_framing_of_an_intent(width, height, hundredths):
    """An intent of an aspect, without protection, on a canvas of square pixels; sides rounded to even."""
    whole = fdl.DimensionsFloat(width=float(width), height=float(height))
    intent = fdl.DimensionsInt(width=hundredths, height=100)
    theirs = fdl.compute_framing_from_intent(whole, whole, 1.0, intent, 0.0, EVEN).dimensions
    exact = active_picture(Raster(width, height), F(hundredths, 100))
    ours = drawn_even(Raster(width, height), exact)
    for mine, other, side, limit in (
        (ours.width, theirs.width, exact.width, width),
        (ours.height, theirs.height, exact.height, height),
    ):
        if side < limit and abs(float(side) / 2 % 1 - 0.5) > 1e-6:
            assert mine == min(other, limit)
