"""Turned and mirrored pictures: exact geometry."""

from fractions import Fraction as F
from math import cos, radians, sin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cadrage.geometry import (
    Picture,
    Placement,
    Raster,
    SourceRect,
    active_picture,
    angle_of_line,
    cost_of,
    place,
    placement_for,
    turn_of,
    window_of,
)

WIDE = Raster(1920, 1080)
angles = st.fractions(-45, 45, max_denominator=1000)
offsets = st.integers(-400, 400).map(F)
scales = st.fractions(F(1, 4), 4, max_denominator=200)
frames = st.sampled_from([WIDE, Raster(1080, 1920), Raster(720, 576, F(12, 11))])
pictures = st.sampled_from([Raster(1920, 1080), Raster(720, 480, F(10, 11)), Raster(1080, 1920)])


@given(angles)
def test_a_turn_is_exact(angle):
    turn = turn_of(angle)
    assert turn.cos**2 + turn.sin**2 == 1
    assert float(turn.cos) == pytest.approx(cos(radians(angle)), abs=1e-12)
    assert float(turn.sin) == pytest.approx(sin(radians(angle)), abs=1e-12)


@pytest.mark.parametrize(("aspect", "factor"), [("2.39", 1.00715), ("16/9", 1.03087)])
def test_a_degree_is_covered_by_the_least_enlargement(aspect, factor):
    """Arithmetic: cos 1° + sin 1° / aspect inside a 2.39 picture, cos 1° + 16/9 · sin 1° over the 16:9 frame.

    The first is of the 16:9 picture in the 2.39 opening as wide as the frame, whose height is not the limit.
    """
    active = active_picture(WIDE, F(aspect))
    placed = place(WIDE, WIDE, Placement(sizing="cover", angle=F(1)), active)
    fill = place(WIDE, WIDE, Placement(tightness=F(1)), active)
    assert float(placed.scale / fill.scale) == pytest.approx(factor, abs=0.00001)


@settings(deadline=None)
@given(pictures, frames, angles, offsets, offsets)
def test_covering_covers_and_a_little_less_does_not(picture, frame, angle, across, down):
    cover = Placement(sizing="cover", angle=angle, offset_x=across, offset_y=down)
    placed = place(picture, frame, cover)
    assert cost_of(placed).covered_percent == 100
    smaller = cover.model_copy(update={"sizing": "scale", "scale": placed.scale * F(99, 100)})
    assert cost_of(place(picture, frame, smaller)).covered_percent < 100


@settings(deadline=None)
@given(pictures, frames, angles, scales, offsets, offsets, st.booleans())
def test_both_views_say_the_same(picture, frame, angle, scale, across, down, mirror):
    """From a placement to its window on the source and back, to a ten-thousandth of a pixel."""
    before = Placement(sizing="scale", scale=scale, offset_x=across, offset_y=down, angle=angle, mirror=mirror)
    window = window_of(place(picture, frame, before))
    after = placement_for(window, Picture.whole(picture), frame, before)
    assert (after.angle, after.mirror) == (before.angle, before.mirror)
    assert after.scale == before.scale
    assert float(after.offset_x) == pytest.approx(float(across), abs=1e-4)
    assert float(after.offset_y) == pytest.approx(float(down), abs=1e-4)


@settings(deadline=None)
@given(pictures, frames, scales, offsets, offsets, st.booleans())
def test_what_is_kept_and_what_is_lost_add_up(picture, frame, scale, across, down, mirror):
    cost = cost_of(place(picture, frame, Placement(sizing="scale", scale=scale, offset_x=across, mirror=mirror)))
    kept = (picture.width - cost.lost_left - cost.lost_right) * (picture.height - cost.lost_top - cost.lost_bottom)
    assert cost.kept_percent + 100 * (1 - kept / (picture.width * picture.height)) == 100
    del down


def test_a_window_without_turning_is_what_the_frame_shows():
    """An upright clip filling a wide frame: the middle 607½ lines of 1920."""
    window = window_of(place(Raster(1080, 1920), WIDE, Placement(tightness=F(1))))
    assert (window.width, window.height) == (1080, F("607.5"))
    assert (window.x, window.y) == (540, 960)


def test_a_mirrored_picture_loses_its_other_side():
    moved = Placement(tightness=F(1), offset_x=F(100))
    straight, mirrored = (
        cost_of(place(WIDE, Raster(1080, 1080), moved.model_copy(update={"mirror": flag}))) for flag in (False, True)
    )
    assert (straight.lost_left, straight.lost_right) == (mirrored.lost_right, mirrored.lost_left)
    assert straight.lost_left < straight.lost_right


def test_a_part_without_bars_is_placed_as_a_picture_of_its_own():
    """Only the middle 704 samples of a 4:3 tape are 4:3; without blanking they fill a 4:3 frame exactly."""
    middle = Picture(SourceRect(F(8), F(0), F(704), F(576)), F(12, 11))
    placed = place(middle, Raster(1440, 1080), Placement())
    assert middle.display_aspect == F(4, 3)
    assert (placed.rect.x, placed.rect.width, placed.rect.height) == (0, 1440, 1080)
    whole = placed.spread(placed.rect, SourceRect(F(0), F(0), F(720), F(576)))
    assert (whole.x, whole.width) == (-8 * F(1440, 704), 720 * F(1440, 704))


@pytest.mark.parametrize(
    ("across", "down", "angle"),
    [(100, 0, 0), (100, 10, "-5.7106"), (-100, -10, "-5.7106"), (10, 100, "5.7106"), (0, 5, 0), (100, -10, "5.7106")],
)
def test_a_line_is_laid_level_or_upright(across, down, angle):
    assert angle_of_line(F(across), F(down)) == F(angle)
