"""Worked mappings and ratios from outside the project."""

from fractions import Fraction as F

import pytest

from cadrage.formats import Frame
from cadrage.geometry import Placement, Raster, active_picture, cost_of, place

WHOLE, FILL = Placement(), Placement(tightness=F(1))

# Arithmetic; exact. Columns: picture, frame, scale when whole, size when whole, bars left and top,
# percent kept at fill, scale at fill. Pixel aspects are those of ITU-T H.264, table E-1 (from memory), or 8:9 and the
# like where a container states the shape of all 720 samples.
TABLE = [
    (
        Raster(1080, 1920),
        Raster(1920, 1080),
        F(9, 16),
        (F(1215, 2), F(1080)),
        (F(2625, 4), F(0)),
        F(2025, 64),
        F(16, 9),
    ),
    (
        Raster(1920, 1080),
        Raster(1080, 1920),
        F(9, 16),
        (F(1080), F(1215, 2)),
        (F(0), F(2625, 4)),
        F(2025, 64),
        F(16, 9),
    ),
    (Raster(640, 480), Raster(1280, 720), F(3, 2), (F(960), F(720)), (F(160), F(0)), F(75), F(2)),
    (Raster(640, 480), Raster(1920, 1080), F(9, 4), (F(1440), F(1080)), (F(240), F(0)), F(75), F(3)),
    (Raster(720, 480, F(8, 9)), Raster(1920, 1080), F(9, 4), (F(1440), F(1080)), (F(240), F(0)), F(75), F(3)),
    (
        Raster(720, 480, F(10, 11)),
        Raster(1920, 1080),
        F(9, 4),
        (F(16200, 11), F(1080)),
        (F(2460, 11), F(0)),
        F(3375, 44),
        F(44, 15),
    ),
    (
        Raster(720, 576, F(12, 11)),
        Raster(1920, 1080),
        F(15, 8),
        (F(16200, 11), F(1080)),
        (F(2460, 11), F(0)),
        F(3375, 44),
        F(22, 9),
    ),
    (
        Raster(720, 576, F(16, 11)),
        Raster(1920, 1080),
        F(11, 6),
        (F(1920), F(1056)),
        (F(0), F(12)),
        F(880, 9),
        F(15, 8),
    ),
    (Raster(1440, 1080, F(4, 3)), Raster(1920, 1080), F(1), (F(1920), F(1080)), (F(0), F(0)), F(100), F(1)),
    (Raster(2048, 1536, F(2)), Raster(1920, 1080), F(15, 32), (F(1920), F(720)), (F(0), F(180)), F(200, 3), F(45, 64)),
    (
        Raster(3840, 2160),
        Raster(4096, 1716),
        F(1716, 2160),
        (F(9152, 3), F(1716)),
        (F(1568, 3), F(0)),
        F(100 * 1716 * 15, 16 * 2160),
        F(16, 15),
    ),
    (Raster(1920, 1080), Raster(1440, 1080), F(3, 4), (F(1440), F(810)), (F(0), F(135)), F(75), F(1)),
    (Raster(1920, 1080), Raster(1080, 1080), F(9, 16), (F(1080), F(1215, 2)), (F(0), F(945, 4)), F(225, 4), F(1)),
    (
        Raster(1920, 1080),
        Raster(720, 576, F(12, 11)),
        F(9, 22),
        (F(720), F(4860, 11)),
        (F(0), F(738, 11)),
        F(3375, 44),
        F(8, 15),
    ),
    (Raster(1080, 1920), Raster(3840, 2160), F(9, 8), (F(1215), F(2160)), (F(2625, 2), F(0)), F(2025, 64), F(32, 9)),
]


@pytest.mark.parametrize(("picture", "frame", "scale", "size", "bars", "kept", "fill"), TABLE)
def test_worked_mapping(picture, frame, scale, size, bars, kept, fill):
    whole = place(picture, frame, WHOLE)
    assert whole.scale == scale
    assert (whole.rect.width, whole.rect.height) == size
    assert (whole.rect.x, whole.rect.y) == bars
    assert cost_of(whole).kept_percent == 100
    filled = place(picture, frame, FILL)
    assert filled.scale == fill
    assert cost_of(filled).kept_percent == kept
    assert cost_of(filled).covered_percent == 100


def test_a_tape_with_12_to_11_pixels_is_wider_than_4_to_3():
    """ITU-R BT.601-7, from memory: only the middle 704 of the 720 samples carry the 4:3 picture."""
    tape = Raster(720, 576, F(12, 11))
    assert tape.display_aspect == F(15, 11)
    assert Raster(704, 576, F(12, 11)).display_aspect == F(4, 3)


def test_facts_of_the_trade():
    """Common practice, no source: filling a wide frame with an upright clip loses two thirds; whole it sits at 56%."""
    upright = place(Raster(1080, 1920), Raster(1920, 1080), FILL)
    assert 66 < 100 - cost_of(upright).kept_percent < 69
    assert round(float(place(Raster(1080, 1920), Raster(1920, 1080), WHOLE).scale) * 100) == 56


@pytest.mark.parametrize(
    ("aspect", "height"),
    [("2.76", "695.65"), ("2.39", "803.35"), ("2.35", "817.02"), ("2", "960"), ("1.85", "1037.84")],
)
def test_height_of_an_active_picture_across_1920(aspect, height):
    """Arithmetic, to two decimals."""
    active = active_picture(Raster(1920, 1080), F(aspect))
    assert active.width == 1920
    assert round(active.height, 2) == F(height)


@pytest.mark.parametrize(("aspect", "width"), [("1.66", "1792.8"), ("14/9", "1680"), ("4/3", "1440")])
def test_width_of_an_active_picture_1080_high(aspect, width):
    """Arithmetic; exact."""
    active = active_picture(Raster(1920, 1080), F(aspect))
    assert (active.width, active.height) == (F(width), 1080)


def test_an_anamorphic_reel_in_a_scope_picture():
    """Arithmetic: 2048×1536 at 2:1 in the 2.39 picture of 1920×1080."""
    frame = Frame(width=1920, height=1080, active=F("2.39"))
    reel = Raster(2048, 1536, F(2))
    whole = place(reel, frame.raster, Placement(sizing="width"), frame.active_rect)
    assert whole.scale == F(15, 32)
    assert (whole.rect.width, whole.rect.height) == (1920, 720)
    whole = place(reel, frame.raster, WHOLE, frame.active_rect)
    assert (whole.scale, whole.rect.height) == (F(15, 32), 720)
    assert float(whole.rect.y - frame.active_rect.y) == pytest.approx(41.674, abs=0.001)
    fill = place(reel, frame.raster, FILL, frame.active_rect)
    assert cost_of(fill).kept_percent == 100 * F("2.39") / F(8, 3)
    assert float(fill.scale) == pytest.approx(0.523013, abs=0.000001)


def test_an_active_picture_is_drawn_with_even_sides():
    frame = Frame(width=1920, height=1080, active=F("2.39"))
    assert round(float(frame.active_rect.height), 2) == 803.35
    assert (frame.drawn_rect.height, frame.drawn_rect.y) == (804, 138)


def test_twelve_percent_off_top_and_bottom_leaves_scope():
    """Common practice, no source: exactly 12.81% for 2.39."""
    active = active_picture(Raster(1920, 1080), F("2.39"))
    assert float(100 * active.y / 1080) == pytest.approx(12.81, abs=0.01)
