"""Frames that take another size: what was decided goes along."""

from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cadrage.compose.framed import placed_in
from cadrage.compose.resizing import other_size, resized
from cadrage.fields import lengthened
from cadrage.finish import Finish
from cadrage.footage import MediaInfo, probe, resolve
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Motion, Push
from cadrage.motion.keys import Key
from cadrage.plan import Plan, Shot
from cadrage.surrounds import Blurred, Graphic

TALL = Frame(width=540, height=960)
SIZINGS = ("tightness", "width", "height", "scale", "cover")


@pytest.fixture(scope="module")
def wide(small_clip):
    """A clip of 1920×1080."""
    return probe(small_clip).model_copy(update={"width": 1920, "height": 1080})


def shown(plan: Plan, clip: MediaInfo):
    """Where the picture lands, in parts of the frame."""
    rect = placed_in(plan, resolve(clip, plan.interpretation)).rect
    size = plan.frame.width, plan.frame.height
    return tuple(F(part) / size[at % 2] for at, part in enumerate((rect.x, rect.y, rect.width, rect.height)))


@given(
    sizing=st.sampled_from(SIZINGS),
    tightness=st.fractions(0, 8, max_denominator=20),
    scale=st.fractions(F(1, 20), 20, max_denominator=20),
    offset=st.tuples(st.integers(-900, 900), st.integers(-900, 900)),
    angle=st.integers(-20, 20),
    times=st.sampled_from([F(2), F(4), F(1, 2)]),
)
def test_in_a_frame_of_the_same_shape_everything_lands_where_it_did(
    wide, sizing, tightness, scale, offset, angle, times
):
    at = {"offset_x": offset[0], "offset_y": offset[1], "angle": angle}
    plan = Plan(frame=TALL, placement=Placement(sizing=sizing, tightness=tightness, scale=scale, **at))
    frame = Frame(width=int(540 * times), height=int(960 * times))
    after = resized(plan, wide, frame)
    for one, other in zip(shown(plan, wide), shown(after, wide), strict=True):
        assert abs(one - other) < F(1, 1000)


def test_the_point_in_the_middle_and_the_tightness_stay_in_another_shape(wide):
    plan = Plan(frame=TALL, placement=Placement(tightness=F(1), offset_x=F(300)))
    after = resized(plan, wide, Frame(width=1080, height=1080))
    assert after.placement.tightness == 1
    # 300 of 960·16/9 pixels right of the middle, whatever the frame
    assert after.placement.offset_x == 300 * F(1080, 960)
    assert resized(after, wide, TALL).placement == plan.placement


def test_what_has_no_offset_gets_none_and_the_native_size_stays_native(wide):
    for sizing in ("tightness", "native", "stretch"):
        placement = Placement(sizing=sizing)
        assert resized(Plan(frame=TALL, placement=placement), wide, Frame(width=64, height=64)).placement == placement


def test_lengths_in_pixels_grow_with_the_lines_wherever_they_stand(wide):
    ground = Blurred(shift_x=F(10), shift_y=F(-4000))
    plan = Plan(frame=TALL, surround=Graphic(ground=ground))
    after = resized(plan, wide, Frame(width=1080, height=1920))
    assert (after.surround.ground.shift_x, after.surround.ground.shift_y) == (20, -4096)
    assert lengthened(Finish(), F(2)) == Finish()


def test_keys_moves_and_shots_go_along(wide):
    keys = Motion(keys=(Key(time=F(0), x=F(0), y=F(0), tightness=F(1)), Key(time=F(1), x=F(1, 4), y=F(0))))
    shots = (Shot(start=F(0), placement=Placement(offset_y=F(30))), Shot(start=F(1), motion=Motion(move=Push())))
    plan = Plan(frame=TALL, motion=keys, shots=shots)
    after = resized(plan, wide, Frame(width=1080, height=1920))
    assert after.motion == keys
    assert after.shots[0].placement.offset_y == 60
    assert after.shots[1] == shots[1]


@pytest.mark.parametrize(
    ("changed", "other"),
    [({"width": 100}, True), ({"active": F(1)}, True), ({"pixel_aspect": F(2)}, True), ({"name": "Foyer"}, False)],
)
def test_when_a_frame_is_of_another_size(changed, other):
    assert other_size(TALL, TALL.model_copy(update=changed)) is other
