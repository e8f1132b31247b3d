"""Placements over time: eases, keys, moves, limits."""

from fractions import Fraction as F

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from cadrage.geometry import FrameRect, Picture, Placement, Raster
from cadrage.motion import Handles, Key, Motion, MovingTrack, Pan, Push, Stage, Tilt, eased, ends_of, key_of, pose_of
from cadrage.motion.keys import KeyedPose
from cadrage.motion.moves import MovedPose, keys_of
from cadrage.plan import Design, ReusableStyle, Shot

WIDE, UPRIGHT = Raster(1920, 1080), Raster(1080, 1920)
TAPE = Raster(720, 576, F(16, 11))
FILL = Placement(tightness=1)


def stage(source=WIDE, frame=UPRIGHT, placement=FILL, active=None):
    return Stage(Picture.whole(source), frame, active, placement)


def keyed(keys, made=None, *, inside=False):
    made = made or stage()
    return MovingTrack(KeyedPose(keys, made), made, inside=inside)


parts = st.fractions(0, 1, max_denominator=60)
handles = st.builds(
    Handles, x1=parts, x2=parts, y1=st.fractions(-1, 2, max_denominator=9), y2=st.fractions(-1, 2, max_denominator=9)
)


# Closed forms


@pytest.mark.parametrize(
    ("ease", "part", "gone"),
    [
        ("even", F(1, 3), F(1, 3)),
        ("smooth", F(1, 4), F(5, 32)),  # 3/16 - 2/64
        ("smooth", F(1, 2), F(1, 2)),
        ("hold", F(99, 100), 0),
        ("hold", F(1), 1),
    ],
)
def test_eases_are_their_closed_forms(ease, part, gone):
    assert eased(ease, part) == gone


@pytest.mark.parametrize(
    ("curve", "part", "gone"),
    [  # CSS Easing Functions Level 2, named curves; values from the cubic solved by hand at its middle
        ((0, 0, 1, 1), F(3, 10), 0.3),
        ((F("0.42"), 0, F("0.58"), 1), F(1, 2), 0.5),
        ((F("0.25"), F("0.1"), F("0.25"), 1), F(1, 2), 0.8024033877),
        ((F("0.42"), 0, 1, 1), F(1, 2), 0.3153568126),
        ((0, 0, F("0.58"), 1), F(1, 2), 0.6846431874),
    ],
)
def test_handles_are_the_cubic_curves_that_the_web_has(curve, part, gone):
    made = Handles(**dict(zip(("x1", "y1", "x2", "y2"), curve, strict=True)))
    assert float(eased(made, part)) == pytest.approx(gone, abs=1e-6)


@given(handles, parts)
def test_a_curve_of_ones_own_begins_and_ends_where_it_should_and_never_runs_backwards(made, part):
    assert (eased(made, F(0)), eased(made, F(1))) == (0, 1)
    straight = made.model_copy(update={"y1": made.x1, "y2": made.x2})  # its way is its time
    assert abs(eased(straight, part) - part) < F(1, 2**30) if 0 < part < 1 else True


def test_handles_outside_of_time_are_refused():
    with pytest.raises(ValidationError):
        Handles(x1=F(-1, 10), y1=0, x2=1, y2=1)


# Poses


@given(
    st.fractions(0, 3, max_denominator=50),
    st.fractions(-300, 300, max_denominator=7),
    st.fractions(-300, 300, max_denominator=7),
    st.sampled_from([F(0), F(7, 2), F(-45)]),
    st.booleans(),
    st.sampled_from([(WIDE, UPRIGHT), (UPRIGHT, WIDE), (TAPE, WIDE), (WIDE, TAPE)]),
)
@settings(max_examples=60, deadline=None)
def test_a_placement_and_its_pose_are_the_same(tightness, x, y, angle, mirror, rasters):
    placement = Placement(tightness=tightness, offset_x=x, offset_y=y, angle=angle, mirror=mirror)
    made = stage(*rasters, placement)
    back = made.placed(made.pose)
    placed = made.at_rest
    assert back.scale == placed.scale
    for one, other in zip(back.corners, placed.corners, strict=True):
        for a, b in zip(one, other, strict=True):
            assert abs(a - b) <= (0 if angle == 0 else F(1, 1000))


def test_a_pose_means_the_same_in_every_frame_and_at_every_size():
    """It names the point of the picture in the middle: the right upper quarter's corner here."""
    for frame in (Raster(1080, 1920), Raster(540, 960), Raster(720, 576, F(16, 15))):
        made = stage(WIDE, frame)
        key = Key(time=0, x=F(1, 4), y=F(-1, 4), tightness=2)
        placed = keyed([key], made).at(F(5))
        middle = FrameRect(F(frame.width, 2), F(frame.height, 2), F(0), F(0))
        seen = placed.to_source(middle)
        assert (seen.x, seen.y) == (1440, 270)


# Keys


def test_before_the_first_and_after_the_last_key_it_stands_and_at_a_key_it_is_the_key():
    keys = [Key(time=1, x=F(-1, 10), y=0, ease="even"), Key(time=3, x=F(1, 10), y=0)]
    track = keyed(keys)
    assert not track.constant
    at = {time: pose_of(track.at(F(time))).x for time in (0, 1, 2, 3, 9)}
    assert at == {0: F(-1, 10), 1: F(-1, 10), 2: 0, 3: F(1, 10), 9: F(1, 10)}
    assert track.at(F(4)) is track.at(F(5))  # while it stands the very same value is given


def test_each_value_is_keyed_on_its_own():
    keys = [
        Key(time=0, x=F(0), y=F(0), ease="even"),
        Key(time=1, tightness=2, ease="even"),
        Key(time=2, x=F(1, 5), y=F(0)),
        Key(time=3, tightness=4),
        Key(time=4, angle=F(3)),
    ]
    track = keyed(keys, stage(placement=Placement(tightness=1)))
    pose = track.pose(F(2))
    fill = stage().pose.scale
    assert (pose.x, pose.scale, pose.angle) == (F(1, 5), 3 * fill, 3)
    assert track.pose(F(1)).x == F(1, 10)


@given(st.lists(st.fractions(0, 20, max_denominator=30), min_size=2, max_size=6, unique=True), st.data())
@settings(max_examples=40, deadline=None)
def test_a_track_is_continuous_but_at_holds(times, data):
    times.sort()
    eases = [data.draw(st.sampled_from(["even", "smooth"])) for _ in times]
    xs = [data.draw(st.fractions(F(-1, 2), F(1, 2), max_denominator=20)) for _ in times]
    keys = [Key(time=time, x=x, y=0, ease=ease) for time, x, ease in zip(times, xs, eases, strict=True)]
    track, step = keyed(keys), F(1, 10**6)
    for time, x in zip(times, xs, strict=True):
        assert track.pose(time).x == x
        for near in (time - step, time + step):
            assert abs(track.pose(max(F(0), near)).x - x) < F(1, 1000)


@given(
    st.fractions(-1, 1, max_denominator=50), st.fractions(-1, 1, max_denominator=50), st.fractions(0, 6), st.booleans()
)
@settings(max_examples=60, deadline=None)
def test_a_window_that_is_held_inside_never_shows_what_is_beside_the_picture(x, y, time, turned):
    angle = F(5) if turned else F(0)
    keys = [Key(time=0, x=x, y=y, tightness=2, angle=angle), Key(time=5, x=-y, y=x, tightness=3)]
    made = stage()
    placed = keyed(keys, made, inside=True).at(time)
    opening = made.opening.rect
    turn = placed.turn.back
    centre = placed.rect.x + placed.rect.width / 2, placed.rect.y + placed.rect.height / 2
    for corner in ((opening.x, opening.y), (opening.right, opening.bottom), (opening.right, opening.y)):
        across, down = turn.apply((corner[0] - centre[0], corner[1] - centre[1]))
        assert abs(across) <= placed.rect.width / 2 + F(1, 1000)
        assert abs(down) <= placed.rect.height / 2 + F(1, 1000)


def test_a_picture_that_leaves_the_frame_empty_anyway_is_not_held():
    made = stage(placement=Placement())
    keys = [Key(time=0, x=F(1, 3), y=F(0))]
    assert keyed(keys, made, inside=True).pose(F(0)).x == F(1, 3)


@pytest.mark.parametrize(
    "wrong",
    [
        {"keys": [{"time": 1, "x": 0}]},
        {"keys": [{"time": 1}, {"time": 1}]},
        {"keys": [{"time": 2}, {"time": 1}]},
        {"keys": [{"time": -1}]},
        {"keys": [{"time": 1, "tightness": 99}]},
        {"keys": [{"time": 1, "x": "1e9", "y": 0}]},
        {"keys": [{"time": 1}], "move": {"kind": "push"}},
        {"move": {"kind": "zoom"}},
        {"keys": [{"time": number} for number in range(1001)]},
    ],
)
def test_what_is_no_motion_is_refused(wrong):
    with pytest.raises(ValidationError):
        Motion.model_validate(wrong)


# Moves


def test_a_push_in_ends_larger_and_a_push_out_begins_so():
    made = stage()
    scale = made.pose.scale
    begin, end = ends_of(Push(percent=F(4)), made)
    assert (begin.scale, end.scale) == (scale, scale * F(104, 100))
    begin, end = ends_of(Push(percent=F(-4)), made)
    assert (begin.scale, end.scale) == (scale * F(104, 100), scale)


def test_a_pan_goes_from_edge_to_edge():
    made = stage()
    begin, end = ends_of(Pan(way="left_right"), made)
    assert (made.placed(begin).rect.x, made.placed(end).rect.right) == (0, 1080)
    assert ends_of(Pan(way="right_left"), made) == (end, begin)
    tall = stage(UPRIGHT, WIDE)
    begin, end = ends_of(Tilt(way="down_up"), tall)
    assert (tall.placed(begin).rect.bottom, tall.placed(end).rect.y) == (1080, 0)


def test_where_there_is_nothing_to_pan_over_nothing_moves_unless_the_surround_is_wanted():
    whole = stage(UPRIGHT, WIDE, Placement())
    begin, end = ends_of(Pan(), whole)
    assert begin == end
    begin, end = ends_of(Pan(beyond=True), whole)
    assert (whole.placed(begin).rect.right, whole.placed(end).rect.x) == (1920, 0)


@pytest.mark.parametrize("move", [Push(percent=F(10)), Push(percent=F(-7)), Pan(), Tilt(), Pan(ease="even")])
@pytest.mark.parametrize("rasters", [(WIDE, UPRIGHT), (UPRIGHT, WIDE), (TAPE, UPRIGHT)])
def test_a_move_turned_into_keys_does_the_same(move, rasters):
    made = stage(*rasters)
    start, last = F(2), F(7)
    moved = MovingTrack(MovedPose(move, made, start, last), made, inside=True)
    by_keys = keyed(keys_of(move, made, start, last), made, inside=True)
    for time in (F(0), start, F(3), F(9, 2), last, F(8)):
        assert moved.at(time).rect == by_keys.at(time).rect


def test_a_move_over_one_picture_stands_where_it_begins():
    made = stage()
    track = MovingTrack(MovedPose(Push(), made, F(1), F(1)), made, inside=True)
    assert track.at(F(1)).scale == made.pose.scale
    assert len(keys_of(Push(), made, F(1), F(1))) == 1


# What is stored


def test_a_design_with_motion_and_shots_survives_json():
    design = Design(
        motion=Motion(keys=(Key(time=F(1, 3), x=F(1, 7), y=0, handles=Handles(x1=0, y1=0, x2=1, y2=1)),)),
        shots=(
            Shot(start=0, placement=FILL, motion=Motion(move=Pan())),
            Shot(start=F(1001, 400), finish={"grain": {"amount": 2}}),
        ),
    )
    assert Design.model_validate_json(design.model_dump_json()) == design


@pytest.mark.parametrize("starts", [[F(1)], [0, 0], [0, 2, 1]])
def test_shots_follow_one_another_from_the_beginning(starts):
    with pytest.raises(ValidationError, match="order of time"):
        Design(shots=tuple(Shot(start=start) for start in starts))


def test_other_clips_are_given_moves_and_never_keys():
    keyed_design = Design(motion=Motion(keys=(Key(time=1, angle=2),)))
    with pytest.raises(ValidationError, match="one clip"):
        ReusableStyle(motion=keyed_design.motion)
    assert ReusableStyle(**ReusableStyle.parts_of(keyed_design)).motion.still
    pushed = Design(motion=Motion(move=Push()))
    assert ReusableStyle(**ReusableStyle.parts_of(pushed)).motion.move == Push()


def test_a_key_holds_the_placement_of_its_moment():
    made = stage(placement=Placement(tightness=2, offset_x=F(30), angle=F(3)))
    track = keyed([key_of(made, F(1))], stage())
    for one, other in zip(track.at(F(1)).corners, made.at_rest.corners, strict=True):
        assert abs(one[0] - other[0]) < F(1, 1000)
        assert abs(one[1] - other[1]) < F(1, 1000)
