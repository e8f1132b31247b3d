"""Shadow, edge, outline, corners, grade, vignette, grain."""

from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.finish import Finish, offered_parts
from cadrage.finish.specification import Edge, Grade, Grain, Shadow, Vignette
from cadrage.footage import ClipReader, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.pixels.light import codes_of
from cadrage.plan import Plan
from cadrage.surrounds import Plain
from tests.clips import write_clip

FRAME = Frame(width=480, height=360)
GREY = Plain(colour="#808080")
# A whole 180×180 picture is 360×360 in the middle: columns 60 to 420.
LEFT, RIGHT = 60, 420


@pytest.fixture(scope="module")
def white(tmp_path_factory):
    path = write_clip(
        tmp_path_factory.mktemp("w") / "w.mp4", size=(180, 180), frames=2,
        paint=lambda _: np.full((180, 180, 3), 255, np.uint8), sound=None,
    )  # fmt: skip
    info = probe(path)
    with ClipReader(path, info) as reader:
        return info, reader.frame_at(F(0)).planes


def drawn(clip, finish, placement=None, time=F(0), surround=GREY, frame=FRAME):
    info, stored = clip
    plan = Plan(frame=frame, surround=surround, finish=finish, placement=placement or Placement())
    return Compositor(plan, stored.layout, info).compose(stored, time=time)


def luma(*arguments, **options):
    return drawn(*arguments, **options).arrays[0].astype(int)


SMALL = Placement(sizing="scale", scale=F(1))  # 180×180 in the middle: columns 150 to 330, rows 90 to 270


def test_a_finish_that_is_off_changes_nothing(white):
    assert Finish().summary == "none"
    for one, other in zip(
        drawn(white, Finish()).arrays, drawn(white, Finish(shadow=Shadow(distance=5))).arrays, strict=True
    ):
        assert (one == other).all()


@pytest.mark.parametrize(("direction", "side"), [(0, "right"), (90, "below"), (180, "left"), (270, "above")])
def test_a_shadow_is_darkest_beside_the_edge_it_should_be(white, direction, side):
    made = luma(white, Finish(shadow=Shadow(opacity=80, direction=direction, distance=3, softness=1)), SMALL)
    beside = {"right": made[180, 332], "left": made[180, 147], "below": made[272, 240], "above": made[87, 240]}
    assert min(beside, key=beside.get) == side
    grey = round(codes_of("#808080", drawn(white, Finish()).layout.colour, 8)[0])
    assert made[10, 10] == grey
    assert (made[100:260, 160:320] == 235).all()


def test_a_shadow_follows_a_turned_picture(white):
    turned = SMALL.model_copy(update={"angle": F(45)})
    made = luma(white, Finish(shadow=Shadow(opacity=80, direction=90, distance=4, softness=0.5)), turned)
    # The lowest corner of a square turned by 45° lies 127 below the middle: its shadow below it.
    assert made[180 + 127 + 6, 240] < 90
    assert made[180 - 127 - 6, 240] > 120


@pytest.mark.parametrize("side", ["left", "right", "top", "bottom"])
def test_a_soft_edge_is_monotone_and_exactly_as_wide(white, side):
    """A tenth of 180 lines: 18 pixels from the surround to the picture, a straight ramp."""
    made = luma(white, Finish(edge=Edge(**{side: 10})), SMALL)
    line = {
        "left": made[180, 150:],
        "right": made[180, :330][::-1],
        "top": made[90:, 240],
        "bottom": made[:270, 240][::-1],
    }
    ramp = line[side][:24]
    assert (np.diff(ramp) >= 0).all()
    grey, light = codes_of("#808080", drawn(white, Finish()).layout.colour, 8)[0], 235
    wanted = grey + (light - grey) * np.clip((np.arange(24) + 0.5) / 18, 0, 1)
    assert np.abs(ramp - wanted).max() <= 1.5


def test_a_soft_edge_at_a_sub_pixel_place_moves_with_it(white):
    def place(offset):
        return SMALL.model_copy(update={"offset_x": offset})

    finish = Finish(edge=Edge(left=10))
    still, moved = (luma(white, finish, place(offset))[180, 150:168].sum() for offset in (F(0), F(1, 4)))
    slope = (235 - 126) / 18
    assert still - moved == pytest.approx(0.25 * slope * 18, rel=0.15)


def test_rounded_corners_take_just_their_corners(white):
    made = luma(white, Finish(edge=Edge(corners=20)), SMALL)
    covered = (made[90:270, 150:330].astype(float) - 126) / (235 - 126)
    radius = 36
    assert covered.sum() == pytest.approx(180 * 180 - (4 - np.pi) * radius**2, rel=0.002)
    assert made[91, 151] < 130
    assert made[180, 151] == 235


def test_an_outline_is_as_wide_as_asked_and_lies_around_the_picture(white):
    made = luma(white, Finish(edge=Edge(outline=6, colour="#000000")), SMALL)
    assert (made[180, 144:150] <= 18).all()
    assert made[180, 143] > 120
    assert made[180, 151] == 235


def test_a_grade_for_all_and_for_the_surround_alone(white):
    dark = Grade(exposure=-1)
    all_over = luma(white, Finish(grade=dark), SMALL)
    only = luma(white, Finish(grade=dark.model_copy(update={"surround_only": True})), SMALL)
    grey = codes_of("#808080", drawn(white, Finish()).layout.colour, 8)[0]
    assert only[10, 10] == pytest.approx(16 + (grey - 16) / 2, abs=1)
    assert all_over[10, 10] == only[10, 10]
    assert all_over[180, 240] == pytest.approx(16 + 219 / 2, abs=1)
    assert only[180, 240] == 235


def test_warmth_and_saturation(white):
    warm = drawn(white, Finish(grade=Grade(warmth=100)))
    assert warm.arrays[1][0, 0] < 128 < warm.arrays[2][0, 0]
    red = Plain(colour="#c03020")
    grey = drawn(white, Finish(grade=Grade(saturation=0)), surround=red)
    assert (grey.arrays[1][:, :25] == 128).all()
    assert (grey.arrays[2][:, :25] == 128).all()


def test_a_vignette_takes_light_from_the_corners_only(white):
    made = luma(white, Finish(vignette=Vignette(amount=50, size=40)), Placement(tightness=F(1)))
    assert made[180, 240] == 235
    assert made[0, 0] == pytest.approx(16 + 219 * 0.5, abs=3)
    assert made[0, 0] == made[0, -1] == made[-1, 0]
    row = made[0, :240]
    assert (np.diff(row) >= 0).all()


def test_grain_is_as_strong_as_asked_and_the_same_whenever_it_is_drawn(white):
    finish, fill = Finish(grain=Grain(amount=2)), Placement(tightness=F(1))
    surround = Plain(colour="#808080")
    one, same, later = (luma(white, finish, SMALL, time=time, surround=surround) for time in (F(0), F(0), F(1, 25)))
    assert (one == same).all()
    assert (one != later).mean() > 0.5
    assert one[:80].std() == pytest.approx(0.02 * 219, rel=0.05)
    assert fill.tightness == 1


def test_every_part_is_offered_with_an_example_that_does_something(white):
    for part in offered_parts():
        finish = Finish.model_validate({part.name: part.example})
        assert not getattr(finish, part.name).off
        assert part.name in finish.summary
        assert (luma(white, finish, SMALL) != luma(white, Finish(), SMALL)).any()
