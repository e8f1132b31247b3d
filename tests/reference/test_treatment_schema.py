"""The published schema of treatments against an independent reader of JSON Schema (draft 2020-12)."""

import json
from pathlib import Path

import jsonschema
import pytest

from cadrage.errors import BadRequest
from cadrage.finish import Finish, Title
from cadrage.surrounds import SURROUND_KINDS
from cadrage.treatments import SHIPPED, Treatment, read_treatment, treatment_schema

PAGE = Path(__file__).resolve().parents[2] / "docs"
PUBLISHED = PAGE / "treatment.schema.json"


@pytest.fixture(scope="module")
def schema():
    return jsonschema.Draft202012Validator(json.loads(PUBLISHED.read_text()))


def test_what_is_published_is_current_and_a_schema():
    """If this fails the form has changed: `make api`, and look at the difference."""
    assert PUBLISHED.read_text() == treatment_schema()
    jsonschema.Draft202012Validator.check_schema(json.loads(PUBLISHED.read_text()))


@pytest.mark.parametrize("treatment", SHIPPED, ids=lambda one: one.name)
def test_those_that_ship_keep_to_it(schema, treatment):
    schema.validate(treatment.model_dump(mode="json"))


@pytest.mark.parametrize("kind", SURROUND_KINDS)
def test_every_kind_keeps_to_it(schema, kind):
    made = Treatment(name="One", surround=SURROUND_KINDS[kind](), finish=Finish(titles=(Title(),)))
    schema.validate(made.model_dump(mode="json"))


def test_the_example_of_the_page_can_be_read(schema):
    text = (PAGE / "treatments.md").read_text()
    example = json.loads(text.split("```json")[1].split("```")[0])
    schema.validate(example)
    assert read_treatment(example).name == "Tight over its copy"


@pytest.mark.parametrize(
    "wrong",
    [
        {"version": 3},
        {"name": ""},
        {"surround": {"kind": "curtain"}},
        {"surround": {"kind": "plain", "softness": 3}},
        {"surround": {"kind": "blurred", "softness": 13}},
        {"finish": {"shadow": {"opacity": -1}}},
        {"finish": {"titles": [{}] * 13}},
        {"placement": {"sizing": "squeeze"}},
        {"colour": "#ffffff"},
    ],
)
def test_what_the_schema_refuses_is_refused(schema, wrong):
    given = {"version": 2, "name": "One", **wrong}
    assert not schema.is_valid(given)
    with pytest.raises(BadRequest):
        read_treatment(given)
