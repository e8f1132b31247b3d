"""Sample clips for a first project."""

import pytest

from server.studio.actions import samples
from server.studio.actions.samples import draw_for
from tests.server.page import state

pytestmark = pytest.mark.django_db


@pytest.fixture
def begun(ida, monkeypatch):
    monkeypatch.setattr(samples, "FILES", ("yard.mp4",))
    return ida.post("/api/samples").json()


def test_a_project_begins_with_clips_that_are_drawn_for_it(ida, joel, begun):
    assert (begun["name"], begun["clips"], begun["frames"]) == ("Sample clips", 0, 2)
    draw_for(begun["id"])
    draw_for(begun["id"])  # whoever is called twice draws once
    board = ida.get(f"/api/projects/{begun['id']}").json()
    assert [clip["name"] for clip in board["footage"]] == ["The depot yard.mp4"]
    wide = type("Row", (), {"pk": board["cells"][0]["id"]})
    assert state(ida, wide)["measure"]["summary"]["lost"] == "nothing lost"
    assert joel.get(f"/api/projects/{begun['id']}").status_code == 404


def test_a_project_that_is_gone_gets_none(ida, begun):
    ida.delete(f"/api/projects/{begun['id']}")
    draw_for(begun["id"])
    ida.post(f"/api/projects/{begun['id']}/restore")
    assert ida.get(f"/api/projects/{begun['id']}").json()["footage"] == []
