"""Cutting a clip into shots by hand, and what a shot has of its own."""

from fractions import Fraction as F

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from cadrage.compose import Compositor
from cadrage.compose.cutting import as_whole, copied, in_shot, joined, moved_cut, picture_start, split, with_shots
from cadrage.compose.framed import straightened
from cadrage.compose.keying import with_key, with_move_as_keys
from cadrage.errors import BadRequest
from cadrage.footage import ClipReader, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Key, Motion, Push
from cadrage.plan import Plan, Range
from cadrage.surrounds import Plain
from tests.clips import write_clip

RATE, FRAMES = 25, 50
PLAN = Plan(frame=Frame(width=54, height=96))
FILL, RED = Placement(tightness=F(1)), Plain(colour="#aa0000")
OWN = {"placement": FILL, "motion": Motion(keys=(Key(time=F(0), tightness=F(1)),)), "surround": RED}


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("cut") / "clip.mp4", size=(96, 54), frames=FRAMES, sound=None)


@pytest.fixture(scope="module")
def info(clip):
    return probe(clip)


def starts(plan):
    return [round(shot.start * RATE) for shot in plan.shots]


def cut_at(info, *frames):
    plan = PLAN
    for frame in frames:
        plan = split(plan, info, F(frame, RATE))
    return plan


def test_a_cut_is_before_the_picture_that_is_seen(info):
    plan = split(PLAN, info, F(2 * 10 + 1, 2 * RATE))  # in the middle of the tenth
    assert starts(plan) == [0, 10]
    assert starts(split(plan, info, F(30, RATE))) == [0, 10, 30]
    with pytest.raises(BadRequest):
        split(plan, info, F(10, RATE))
    with pytest.raises(BadRequest):
        split(PLAN, info, F(0))


def test_where_pictures_last_unequally_long_it_is_before_one_of_them(info):
    times = [F(0), F(1, 10), F(1, 2), F(1)]
    assert picture_start(PLAN, info, F(4, 10), times) == F(1, 10)
    assert [shot.start for shot in split(PLAN, info, F(7, 10), times).shots] == [0, F(1, 2)]


@given(st.sets(st.integers(1, FRAMES - 1), min_size=1, max_size=6), st.data())
def test_split_and_joined_again_it_is_the_same_and_draws_the_same(info, frames, data):
    plan = cut_at(info, *sorted(frames))
    assert starts(plan) == [0, *sorted(frames)]
    assert all(not shot.own for shot in plan.shots)
    while plan.shots:
        plan = joined(plan, data.draw(st.integers(1, len(plan.shots) - 1)))
    assert plan == PLAN


def test_a_cut_alone_changes_no_pixel(clip, info):
    moving = with_key(with_key(PLAN, info, F(0), FILL), info, F(2), Placement())
    with ClipReader(clip, info) as reader:
        for number in (0, 19, 20, 21, 49):
            stored = reader.frame_at(F(number, RATE))
            pixels = [
                Compositor(plan, stored.planes.layout, info).compose(stored.planes, time=stored.time).arrays
                for plan in (moving, split(moving, info, F(20, RATE)))
            ]
            assert all(np.array_equal(one, other) for one, other in zip(*pixels, strict=True))


def test_shots_that_were_found_keep_what_was_their_own(info):
    plan = in_shot(cut_at(info, 10, 20), info, 1, lambda one: one.model_copy(update={"placement": FILL}))
    found = with_shots(plan, [F(0), F(10, RATE), F(35, RATE)])
    assert starts(found) == [0, 10, 35]
    assert [shot.placement for shot in found.shots] == [None, FILL, None]
    assert with_shots(PLAN, [F(0)]) == PLAN


def test_a_cut_is_moved_between_its_neighbours(info):
    plan = cut_at(info, 10, 20)
    assert starts(moved_cut(plan, info, 1, F(14, RATE))) == [0, 14, 20]
    assert starts(moved_cut(plan, info, 1, F(400, RATE))) == [0, 19, 20]
    assert starts(moved_cut(plan, info, 2, F(0))) == [0, 10, 11]
    assert starts(moved_cut(plan, info, 2, F(400, RATE))) == [0, 10, 49]
    for number in (0, 3):
        with pytest.raises(BadRequest):
            moved_cut(plan, info, number, F(1))


def test_what_is_changed_in_a_shot_is_its_own_and_nothing_else(info):
    plan = in_shot(cut_at(info, 10, 20), info, 1, lambda one: straightened(one, F(10), F(1)))
    own = [shot.own for shot in plan.shots]
    assert [set(one) for one in own] == [set(), {"placement"}, set()]
    assert own[1]["placement"].angle != 0
    assert plan.placement == PLAN.placement
    whole = in_shot(plan, info, None, lambda one: one.model_copy(update={"surround": RED}))
    assert whole.surround == RED
    assert whole.shots == plan.shots
    with pytest.raises(BadRequest):
        in_shot(plan, info, 3, lambda one: one)


def test_a_move_becomes_keys_over_the_shot_as_far_as_it_is_delivered(info):
    moving = PLAN.model_copy(update={"motion": Motion(move=Push()), "range": Range(start=F(12, RATE))})
    plan = in_shot(
        split(split(moving, info, F(10, RATE)), info, F(20, RATE)), info, 1, lambda one: with_move_as_keys(one, info)
    )
    keys = plan.shots[1].motion.keys
    assert (keys[0].time, keys[-1].time) == (F(12, RATE), F(19, RATE))
    assert plan.motion.move is not None


def test_what_is_its_own_is_copied_or_let_go(info):
    plan = in_shot(cut_at(info, 10, 20, 30), info, 1, lambda one: one.model_copy(update=OWN))
    assert plan.shots[1].own == OWN
    following = copied(plan, 1, "next")
    assert [set(shot.own) for shot in following.shots] == [set(), set(OWN), {"placement", "surround"}, set()]
    everywhere = copied(plan, 1, "all")
    assert [set(shot.own) for shot in everywhere.shots] == [{"placement", "surround"}, set(OWN)] + 2 * [
        {"placement", "surround"}
    ]
    assert starts(everywhere) == [0, 10, 20, 30]
    assert set(as_whole(plan, 1, "surround").shots[1].own) == {"placement", "motion"}


def test_a_clip_that_is_one_again_keeps_what_its_only_shot_had(info):
    plan = in_shot(cut_at(info, 10), info, 0, lambda one: one.model_copy(update={"placement": FILL}))
    assert joined(plan, 1) == PLAN.model_copy(update={"placement": FILL})
