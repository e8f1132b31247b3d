"""The quiet measure orders surrounds as an editor would, and quietening makes the least change."""

import numpy as np
import pytest
from skimage import data

from cadrage.compose.quiet import LIMITS, Sample, quietened, quietness
from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.plan import Plan
from cadrage.surrounds import AnimatedPattern, Blurred, Gradient, Mirrored, Plain
from tests.clips import write_clip

FRAME = Frame(width=640, height=360)


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    """An upright window that pans over a photograph."""
    photo = data.coffee()
    path = write_clip(
        tmp_path_factory.mktemp("quiet") / "pan.mp4",
        size=(180, 320),
        frames=50,
        paint=lambda number: np.ascontiguousarray(photo[40:360, 40 + 4 * number : 220 + 4 * number]),
        sound=None,
    )
    return path, probe(path)


def plan_of(surround, **changed):
    return Plan(frame=FRAME, surround=surround, **changed)


@pytest.fixture(scope="module")
def sample(clip):
    return Sample.of(Interpretation(), clip[1], clip[0])


# From the quietest to the most restless, as an editor would have them.
GROUPS = [
    [Plain(colour="#141414"), Blurred(softness=9, brightness=45), Gradient(first="#202428", last="#101214")],
    [Blurred(softness=4, brightness=60), Blurred(softness=6, brightness=80)],
    [Blurred(softness=1, brightness=100), Blurred(softness=3, brightness=140)],
    [Mirrored(brightness=100), Blurred(softness=0, brightness=120), Mirrored(brightness=150, saturation=200)],
]


def test_ten_surrounds_are_ordered_as_an_editor_would(sample):
    unrest = [[quietness(plan_of(surround), sample).unrest for surround in group] for group in GROUPS]
    assert sum(len(group) for group in GROUPS) == 10
    assert max(unrest[0]) <= min(unrest[1]) + 1e-9
    assert max(unrest[1]) < min(unrest[2])
    assert max(unrest[2]) < min(unrest[3])


def test_dim_soft_and_still_is_calm_and_a_bright_one_is_told_with_a_number(sample):
    calm = quietness(plan_of(Blurred(softness=9, brightness=45)), sample)
    assert (calm.calm, calm.summary, calm.unrest) == (True, "low", 0)
    bright = quietness(plan_of(Plain(colour="#f0f0f0")), sample)
    assert not bright.calm
    assert "dim to" in bright.summary


@pytest.mark.parametrize("surround", [Blurred(softness=0.5, brightness=130), Mirrored(brightness=120)])
def test_quietening_makes_it_calm_and_no_calmer_than_needed(sample, surround):
    before = plan_of(surround)
    after = quietened(before, sample)
    found = quietness(after, sample)
    assert found.unrest < quietness(before, sample).unrest
    assert after.placement == before.placement
    assert after.surround.brightness < before.surround.brightness
    if isinstance(surround, Blurred):
        assert found.calm
        nearest = max(found.shares[name] / limit for name, limit in LIMITS.items())
        assert nearest > 0.8


def test_what_is_calm_is_left_alone(sample):
    calm = plan_of(Blurred(softness=9, brightness=45))
    assert quietened(calm, sample) == calm


def test_a_surround_that_nobody_sees_is_calm(sample):
    assert quietness(plan_of(Mirrored(), placement=Placement(tightness=1)), sample).summary == "no surround in sight"


def test_movement_draws_the_eye(sample):
    slow, quick = (
        quietness(plan_of(AnimatedPattern(pattern="rising_specks", period=period, second="#ffffff")), sample).shares[
            "movement"
        ]
        for period in (60, 2)
    )
    assert quick > 2 * slow
