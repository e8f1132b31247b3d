"""Whatever the placement, every surround and finish paints every sample, and paints the same again."""

from fractions import Fraction as F

import numpy as np
import pytest
from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st

from cadrage.compose import Compositor
from cadrage.footage import ClipReader, probe
from cadrage.geometry import Placement
from cadrage.pixels.planes import Planes
from tests.clips import write_clip
from tests.golden_frames import TIME, library_with_plate, plans, scene

EXAMPLES = 6
PLACEMENTS = st.builds(
    Placement,
    sizing=st.sampled_from(["tightness", "width", "height", "native", "scale", "cover", "stretch"]),
    tightness=st.fractions(0, 3, max_denominator=20),
    scale=st.fractions(1, 4, max_denominator=20),
    offset_x=st.fractions(-300, 300, max_denominator=8),
    offset_y=st.fractions(-200, 200, max_denominator=8),
    angle=st.sampled_from([0, 0, 3, -20]),
    mirror=st.booleans(),
)
NAMES = (
    *("surround blurred", "surround plain", "surround gradient", "surround carried", "surround mirrored"),
    *("surround still", "surround loop", "surround drift", "surround graphic", "surround sides"),
    "surround extended",
    *("finish shadow", "finish edge", "finish grade", "finish vignette", "finish grain", "finish captions"),
)


class Made(tuple):
    """Plans, what the clip is, a picture of it, and what plans may use; too much to be printed."""

    __slots__ = ()

    def __repr__(self):
        return "made"


@pytest.fixture(scope="module")
def made(tmp_path_factory):
    folder = tmp_path_factory.mktemp("every")
    path = write_clip(folder / "scene.mp4", size=(100, 160), frames=25, paint=scene, sound=None)
    info = probe(path)
    with ClipReader(path, info) as reader:
        stored = reader.frame_at(TIME).planes
    return Made((plans(folder), info, stored, library_with_plate(folder, path, info)))


def test_none_is_left_out(made):
    assert {name for name in made[0] if not name.startswith("drift")} == {*NAMES, "finish titles"}


@pytest.mark.parametrize("name", NAMES)
@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(placement=PLACEMENTS)
@example(placement=Placement(offset_x=F(-313, 2), offset_y=F(347, 3), angle=-20))  # beside the frame, by a corner
def test_every_sample_is_painted_and_the_same_again(made, name, placement):
    """What was on the canvas before does not show, and nothing is carried over from one picture to the next."""
    all_plans, info, stored, library = made
    compositor = Compositor(
        all_plans[name].model_copy(update={"placement": placement}), stored.layout, info, library=library
    )
    frames = []
    for before in (0, 255, 90):
        canvas = Planes.empty(compositor.layout)
        for plane in canvas.arrays:
            plane[:] = before
        frames.append([plane.copy() for plane in compositor.compose(stored, canvas, TIME).arrays])
    for other in frames[1:]:
        same = [np.array_equal(one, again) for one, again in zip(frames[0], other, strict=True)]
        assert same == [True] * 3
