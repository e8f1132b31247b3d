"""Properties of placing and of its cost, over all shapes."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from cadrage.geometry import FrameRect, Placement, Raster, SourceRect, cost_of, place, snaps

SIDES = st.integers(16, 8192)
ASPECTS = st.fractions(min_value=Fraction(1, 4), max_value=4, max_denominator=200)
RASTERS = st.builds(Raster, SIDES, SIDES, ASPECTS)
OFFSETS = st.fractions(min_value=-9000, max_value=9000, max_denominator=64)
TIGHTNESS = st.fractions(min_value=0, max_value=3, max_denominator=100)
PLACEMENTS = st.builds(Placement, tightness=TIGHTNESS, offset_x=OFFSETS, offset_y=OFFSETS)


@given(RASTERS, RASTERS, PLACEMENTS)
def test_shape_is_always_true(picture, frame, placement):
    assert cost_of(place(picture, frame, placement)).shape == 1


@given(RASTERS, RASTERS, PLACEMENTS)
def test_cost_adds_up(picture, frame, placement):
    placed = place(picture, frame, placement)
    cost = cost_of(placed)
    assert 0 <= cost.kept_percent <= 100
    seen_across = picture.width - cost.lost_left - cost.lost_right
    seen_down = picture.height - cost.lost_top - cost.lost_bottom
    if seen_across > 0 and seen_down > 0:
        assert cost.kept_percent == 100 * seen_across * seen_down / (picture.width * picture.height)
    assert cost.covered_percent * frame.width * frame.height == cost.kept_percent * placed.rect.area


@given(RASTERS, RASTERS)
def test_whole_loses_nothing_and_fill_leaves_nothing_empty(picture, frame):
    assert cost_of(place(picture, frame, Placement())).loses_nothing
    assert cost_of(place(picture, frame, Placement(tightness=Fraction(1)))).covered_percent == 100


@given(RASTERS, RASTERS, TIGHTNESS, TIGHTNESS)
def test_tightness_grows_without_steps(picture, frame, one, other):
    low, high = sorted((one, other))
    smaller = place(picture, frame, Placement(tightness=low)).scale
    larger = place(picture, frame, Placement(tightness=high)).scale
    assert smaller <= larger
    if high <= 1:
        fill = place(picture, frame, Placement(tightness=Fraction(1))).scale
        assert larger - smaller <= fill * (high - low)


def test_past_fill_tightness_multiplies_the_filling_scale():
    picture, frame = Raster(1920, 1080), Raster(1920, 1080)
    assert place(picture, frame, Placement(tightness=Fraction(2))).scale == 2


@given(RASTERS, RASTERS, PLACEMENTS)
def test_the_place_on_the_source_maps_back(picture, frame, placement):
    placed = place(picture, frame, placement)
    assert placed.to_source(placed.rect) == SourceRect(
        Fraction(0), Fraction(0), Fraction(picture.width), Fraction(picture.height)
    )


@given(RASTERS, RASTERS, TIGHTNESS)
def test_snapping_to_an_edge_meets_it(picture, frame, tightness):
    across, down = snaps(place(picture, frame, Placement(tightness=tightness)))
    for snap in across:
        rect = place(picture, frame, Placement(tightness=tightness, offset_x=snap.offset)).rect
        assert snap.line in (rect.x, rect.right, rect.x + rect.width / 2)
    for snap in down:
        rect = place(picture, frame, Placement(tightness=tightness, offset_y=snap.offset)).rect
        assert snap.line in (rect.y, rect.bottom, rect.y + rect.height / 2)


def test_rectangles_of_different_spaces_are_never_equal():
    numbers = [Fraction(n) for n in (0, 0, 4, 3)]
    assert FrameRect(*numbers) != SourceRect(*numbers)
    assert FrameRect(*numbers) == FrameRect(*numbers)


def test_turning_swaps_sides_and_pixel_shape():
    tape = Raster(720, 576, Fraction(12, 11))
    assert tape.turned(90) == Raster(576, 720, Fraction(11, 12))
    assert tape.turned(180) == tape
    assert tape.turned(90).display_aspect == 1 / tape.display_aspect


@pytest.mark.parametrize("tightness", ["-0.1", "9", "wide"])
def test_impossible_tightness_is_refused(tightness):
    with pytest.raises(ValidationError):
        Placement(tightness=tightness)
