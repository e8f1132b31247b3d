"""Requests that nobody would think of: every route of the OpenAPI document, made up by schemathesis, with a seed."""

import json
import os
import re
from pathlib import Path

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings

from server.studio.api.documented_errors import Problem
from tests.application import Application
from tests.siege.people import Person

pytestmark = pytest.mark.timeout(120)
EACH = int(os.environ.get("CADRAGE_EACH", "5"))
"""Requests of one route; `make test-long` makes many more."""
DOCUMENT = json.loads((Path(__file__).parents[2] / "web" / "src" / "api" / "openapi.json").read_text())
SEEDED = settings(
    max_examples=EACH, derandomize=True, deadline=None, suppress_health_check=list(HealthCheck), database=None
)
schema = schemathesis.openapi.from_dict(DOCUMENT)
LEFT_OUT = re.compile(r"/(play|samples|replace)$")
"""What has no end, what draws for minutes, and what takes the clip away that the others are about."""
PATIENCE = 60


@pytest.fixture(scope="module")
def there(tmp_path_factory, small_clip):
    """A server, somebody in it, and ids of what lies there."""
    with Application(tmp_path_factory.mktemp("any")) as application:
        person = Person(application.address)
        project = person.project("Any")
        person.add(project, small_clip)
        framing = person.framing(project)
        known = {
            "project_id": project,
            "framing_id": framing["id"],
            "footage_id": framing["footage"],
            "frame_id": framing["frame"],
            "render_id": person.rendered(project, framing["id"]),
        }
        yield person, known


@pytest.mark.parametrize("route", [pytest.param(one.ok(), id=one.ok().label) for one in schema.get_all_operations()])
def test_no_request_breaks_the_server(there, route):
    if LEFT_OUT.search(route.path):
        pytest.skip("it has no end, or takes away what others need")

    @SEEDED
    @given(case=route.as_strategy())
    def ask(case):
        look_at(there, case)

    ask()


def look_at(there, case):
    person, known = there
    if case.method != "DELETE":  # of what is there only that which is not needed again
        case.path_parameters = {name: known.get(name, value) for name, value in case.path_parameters.items()}
    headers = {"X-CSRFToken": person.token, "Referer": person.address, "Cookie": person.cookies}
    answer = case.call(base_url=person.address, headers=headers, timeout=PATIENCE)
    assert answer.status_code < 500 or answer.status_code in (503, 507), answer.text[:500]
    if answer.status_code >= 400 and answer.content:
        assert answer.headers["content-type"][0].startswith("application/problem+json")
        assert str(answer.status_code) in case.operation.definition.raw["responses"], answer.text[:500]
        Problem.model_validate_json(answer.content)
