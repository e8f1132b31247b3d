import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from cadrage.errors import BadRequest
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.plan import Plan, read_plan
from cadrage.surrounds import Blurred, Plain, offered
from tests.core.test_geometry import ASPECTS, PLACEMENTS

SURROUNDS = st.one_of(
    st.builds(Plain, colour=st.from_regex(r"\A#[0-9a-f]{6}\Z")),
    st.builds(Blurred, softness=st.floats(0, 12), brightness=st.floats(0, 150), size=st.floats(100, 300)),
)
PLANS = st.builds(
    Plan,
    interpretation=st.builds(Interpretation, pixel_aspect=st.none() | ASPECTS, rotation=st.sampled_from([None, 90])),
    frame=st.builds(Frame, width=st.integers(16, 8192), height=st.integers(16, 8192), pixel_aspect=ASPECTS),
    placement=PLACEMENTS,
    surround=SURROUNDS,
)


@given(PLANS)
def test_a_plan_survives_json(plan):
    assert Plan.model_validate_json(plan.model_dump_json()) == plan


BASELINE = """{"version": 1, "source": "reel.mp4", "interpretation": {"pixel_aspect": "12/11", "rotation": null},
"frame": {"width": 1920, "height": 1080, "pixel_aspect": "1", "name": "Wide"},
"placement": {"tightness": "0.25", "offset_x": "-12.5", "offset_y": "0"},
"surround": {"kind": "blurred", "softness": 4, "brightness": 60, "size": 108, "shift_x": 0, "shift_y": 0,
"base": "#000000"}}"""


def test_version_1_stays_readable():
    plan = Plan.model_validate_json(BASELINE)
    assert plan.frame.name == "Wide"
    assert plan.placement.tightness * 4 == 1
    assert isinstance(plan.surround, Blurred)


@pytest.mark.parametrize(
    "change",
    [
        {"version": 2},
        {"frame": {"width": 0, "height": 1080}},
        {"frame": {"width": 20000, "height": 1080}},
        {"frame": {"width": 1920, "height": 1080, "pixel_aspect": "0"}},
        {"surround": {"kind": "plain", "colour": "mauve"}},
        {"surround": {"kind": "mist"}},
        {"surround": {"kind": "blurred", "softness": 13}},
        {"unheard": 1},
    ],
)
def test_what_is_no_plan_is_refused(change):
    with pytest.raises(ValidationError):
        Plan.model_validate({"frame": {"width": 1920, "height": 1080}, **change})


@pytest.mark.parametrize("text", ["", "{", "[]", '{"version": 1}', "\x00"])
def test_a_damaged_plan_file_says_so(tmp_path, text):
    path = tmp_path / "plan.json"
    path.write_text(text)
    with pytest.raises(BadRequest, match="plan"):
        read_plan(path)


def test_every_kind_of_surround_is_offered_with_its_controls():
    kinds = {kind.kind: kind for kind in offered()}
    softness = next(control for control in kinds["blurred"].controls if control.name == "softness")
    assert (softness.low, softness.high, softness.unit) == (0, 12, "%")
    assert kinds["plain"].controls[0].unit == "colour"
