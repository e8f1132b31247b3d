"""Properties of placing and of its cost, over all shapes."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from cadrage.geometry import (
    FrameRect,
    Placement,
    Raster,
    SourceRect,
    active_picture,
    cautions,
    cost_of,
    drawn_even,
    place,
    snaps,
)

SIDES = st.integers(16, 8192)
ASPECTS = st.fractions(min_value=Fraction(1, 4), max_value=4, max_denominator=200)
RASTERS = st.builds(Raster, SIDES, SIDES, ASPECTS)
OFFSETS = st.fractions(min_value=-9000, max_value=9000, max_denominator=64)
TIGHTNESS = st.fractions(min_value=0, max_value=3, max_denominator=100)
SIZINGS = st.sampled_from(["tightness", "width", "height", "native", "scale"])
SCALES = st.fractions(min_value=Fraction(1, 50), max_value=20, max_denominator=100)
PLACEMENTS = st.builds(Placement, sizing=SIZINGS, scale=SCALES, tightness=TIGHTNESS, offset_x=OFFSETS, offset_y=OFFSETS)


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


@given(RASTERS, RASTERS, PLACEMENTS)
def test_the_tightness_that_is_told_gives_the_same_scale(picture, frame, placement):
    placed = place(picture, frame, placement)
    again = place(picture, frame, Placement(tightness=placed.tightness))
    if place(picture, frame, Placement()).scale <= placed.scale <= 8 * again.scale and placed.tightness < 8:
        assert again.scale == placed.scale


def test_each_way_of_sizing():
    picture, frame = Raster(720, 576, Fraction(12, 11)), Raster(1920, 1080)
    width = place(picture, frame, Placement(sizing="width")).rect
    assert (width.width, width.x) == (1920, 0)
    height = place(picture, frame, Placement(sizing="height")).rect
    assert (height.height, height.y) == (1080, 0)
    native = place(picture, frame, Placement(sizing="native")).rect
    assert (native.width, native.height) == (Fraction(8640, 11), 576)
    scaled = place(picture, frame, Placement(sizing="scale", scale=Fraction(56, 100)))
    assert scaled.scale == Fraction(56, 100)


def test_stretching_says_how_wrong_shapes_are():
    placed = place(Raster(640, 480), Raster(1920, 1080), Placement(sizing="stretch"))
    assert (placed.rect.width, placed.rect.height) == (1920, 1080)
    cost = cost_of(placed)
    assert cost.shape == Fraction(4, 3)
    (shape,) = (one for one in cautions(cost) if one.kind == "shape")
    assert shape.message == "Wrong shape: everything is 33.3% too wide."


@pytest.mark.parametrize(
    ("picture", "placement", "expected"),
    [
        (Raster(1920, 1080), {}, {}),
        (Raster(1080, 1920), {}, {"small": "covers 32%"}),
        (Raster(1080, 1920), {"tightness": 1}, {"enlarged": "scaled to 178%", "lost": "68% cropped"}),
        (Raster(1600, 900), {}, {"enlarged": "scaled to 120%"}),
        (Raster(720, 576, Fraction(12, 11)), {}, {"much_enlarged": "scaled to 205%"}),
    ],
)
def test_cautions_come_where_they_are_due(picture, placement, expected):
    found = cautions(cost_of(place(picture, Raster(1920, 1080), Placement(**placement))))
    assert {one.kind: one.brief for one in found} == expected


def test_snaps_are_named():
    """Centre, thirds, the edges of the active picture, and those of the frame around it."""
    frame = Raster(1920, 1080)
    active = active_picture(frame, Fraction("2.39"))
    across, down = snaps(place(Raster(1280, 536), frame, Placement(sizing="native"), active))
    assert [snap.label for snap in across] == [
        "centred",
        "left edges meet",
        "right edges meet",
        "centre on the first third",
        "centre on the second third",
    ]
    found = {snap.label: snap for snap in down}
    assert found["top edges meet"].line == active.y
    assert found["top edges meet the frame's"].line == 0
    assert found["bottom edges meet the frame's"].offset == (1080 - 536) / Fraction(2)
    assert found["centre on the first third"].line == active.y + active.height / 3


@given(st.integers(16, 8192), st.integers(16, 8192), st.fractions(Fraction(1, 10), 10, max_denominator=300))
def test_an_active_picture_is_never_larger_than_its_frame(width, height, aspect):
    frame = Raster(width, height)
    for rect in (active_picture(frame, aspect), drawn_even(frame, active_picture(frame, aspect))):
        assert 0 <= rect.x <= rect.right <= width
        assert 0 <= rect.y <= rect.bottom <= height
