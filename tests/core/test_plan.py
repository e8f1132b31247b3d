import json
import re
from fractions import Fraction
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from cadrage.errors import BadRequest
from cadrage.finish import offered_parts
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.plan import Plan, plan_schema, read_plan
from cadrage.surrounds import Blurred, Plain, offered
from tests.core.test_geometry import ASPECTS, PLACEMENTS

DOCS = Path(__file__).resolve().parents[2] / "docs"


def percents(low, high):
    return st.fractions(low, high, max_denominator=1000)


SURROUNDS = st.one_of(
    st.builds(Plain, colour=st.from_regex(r"\A#[0-9a-f]{6}\Z")),
    st.builds(Blurred, softness=percents(0, 12), brightness=percents(0, 150), size=percents(100, 300)),
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


STORED = Path(__file__).parent / "stored"
"""A plan of each version, as it was written then."""


def holds(now, then):
    """Whether a value has all that it had then, and nothing new that says anything."""
    if isinstance(then, dict):
        return all(holds(now[name], value) for name, value in then.items()) and not any(
            value for name, value in now.items() if name not in then
        )
    if isinstance(then, list):
        return len(now) == len(then) and all(map(holds, now, then))
    return now == then


def test_version_1_stays_readable():
    plan = read_plan(STORED / "plan-1.json")
    assert plan.frame.name == "Wide"
    assert plan.placement.tightness * 4 == 1
    assert isinstance(plan.surround, Blurred)
    assert json.loads(plan.model_dump_json())["version"] == 2


def test_version_2_means_what_it_did():
    """Numbers as they stand in the file, and where the picture is at a moment of each shot."""
    plan = read_plan(STORED / "plan-2.json")
    assert holds(json.loads(plan.model_dump_json()), json.loads((STORED / "plan-2.json").read_text()))
    first, second, third, fourth = plan.shots
    assert (first.own, set(second.own), set(fourth.own)) == ({}, {"placement", "motion"}, {"motion", "finish"})
    assert plan.motion.move.percent == 4
    one, two, _ = second.motion.keys
    assert (one.time, one.x, one.ease, second.motion.inside) == (Fraction(1001, 1000), Fraction(1, 7), "hold", False)
    assert tuple(two.handles.model_dump().values()) == ("0.42", "0", "0.58", "1")
    assert (third.motion.move.way, third.motion.move.beyond, third.surround.colour) == ("right_left", True, "#102030")


WORDED = {
    "version": 1,
    "interpretation": {"fields": "upper first", "deinterlace": "one per field"},
    "frame": {"width": 1920, "height": 1080, "fields": "lower first"},
    "surround": {
        "kind": "graphic",
        "heading": "where it is free",
        "place": "where it is free",
        "size": 6.5,
        "ground": {"kind": "drift", "pattern": "water light"},
    },
    "finish": {"captions": {"of": "words.srt", "place": "where it is free"}, "titles": [{"text": "upper first"}]},
}


def test_what_version_1_said_in_words_are_identifiers_now_and_words_stay_words():
    plan = Plan.model_validate(WORDED)
    assert (plan.interpretation.fields, plan.interpretation.deinterlace) == ("upper_first", "one_per_field")
    assert plan.frame.fields == "lower_first"
    assert (plan.surround.place, plan.surround.ground.pattern) == ("free_area", "water_light")
    assert (plan.surround.heading, plan.surround.size) == ("where it is free", Fraction(13, 2))
    assert (plan.finish.captions.place, plan.finish.titles[0].text) == ("free_area", "upper first")
    for way, now in (("where it is empty", "empty_area"), ("left and right", "left_right")):
        assert Plan.model_validate(WORDED | {"surround": {"kind": "sides", "way": way}}).surround.way == now
    with pytest.raises(ValidationError):
        Plan.model_validate(WORDED | {"version": 2})


def test_no_value_that_is_stored_has_a_space():
    """They are identifiers; what people read is made of them. Families of fonts are called as they are."""
    found = [
        choice.value
        for kind in (*offered(), *offered_parts())
        for control in kind.controls
        for choice in control.choices
        if control.name != "family"
    ]
    assert found
    assert all(re.fullmatch(r"[a-z0-9_]+", value) for value in found)


def test_the_published_schema_is_current():
    """If this fails the form has changed: `make api`, and look at the difference."""
    assert (DOCS / "plan.schema.json").read_text() == plan_schema()
    schema = jsonschema.Draft202012Validator(json.loads(plan_schema()))
    schema.validate(json.loads(Plan.model_validate(WORDED).model_dump_json()))
    for path in STORED.glob("*.json"):
        schema.validate(json.loads(read_plan(path).model_dump_json()))
    schema.validate(json.loads((STORED / "plan-2.json").read_text()))
    with pytest.raises(jsonschema.ValidationError):
        schema.validate({"frame": {"width": 1920, "height": 1080}, "placement": {"sizing": "as wide as it is"}})


@pytest.mark.parametrize(
    "change",
    [
        {"version": 3},
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
    """What a control lets people set is just what a plan takes: its ends are allowed, what lies beyond is not."""
    for kind in offered():
        for control in kind.controls:
            if control.high == control.low:
                continue
            for value, right in ((control.low, True), (control.high, True), (control.high + 1, False)):
                given = {"frame": {"width": 1920, "height": 1080}, "surround": {"kind": kind.kind, control.name: value}}
                if right:
                    made = Plan.model_validate(given)
                    assert float(getattr(made.surround, control.name)) == value
                    assert made.surround.summary
                else:
                    with pytest.raises(ValidationError):
                        Plan.model_validate(given)
