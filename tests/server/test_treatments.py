"""Treatments: saved, given, followed, changed, brought back to, imported; and line-ups."""

import pytest

from cadrage.treatments import SHIPPED
from tests.server.page import ask
from tests.server.test_rules import act, cells, state  # noqa: F401 - a fixture among them

pytestmark = pytest.mark.django_db


def listed(client, project):
    return client.get(f"/api/projects/{project.pk}/treatments").json()


def save(client, project, treatment, everywhere=False):
    body = {"treatment": treatment, "everywhere": everywhere}
    return client.post(f"/api/projects/{project.pk}/treatments", body, content_type="application/json").json()


CARD = {"name": "Card", "placement": {"tightness": "0.5"}, "surround": {"kind": "plain", "colour": "#d8d2c4"}}


def test_good_ones_come_with_cadrage(ida, project):
    shipped = [row["treatment"]["name"] for row in listed(ida, project) if row["id"] is None]
    assert shipped == [treatment.name for treatment in SHIPPED]
    assert 6 <= len(shipped) <= 10


def test_one_is_given_to_many_and_tells_who_differs_in_what(ida, project, cells):  # noqa: F811
    made = save(ida, project, CARD)
    assert sorted(act(ida, cells, do="treat", treatment=CARD, saved=made["id"])) == sorted(cell.pk for cell in cells)
    assert {state(ida, cell)["plan"]["placement"]["tightness"] for cell in cells} == {"0.5"}
    act(ida, cells[:1], do="move", offset_x="4", offset_y="0")
    followers = {row["framing"]: row["differs"] for row in listed(ida, project)[-1]["followers"]}
    assert followers == {cells[0].pk: ["placement"], cells[1].pk: [], cells[2].pk: []}
    # Changing it takes along those that follow it, and leaves alone the one that differs.
    dark = {**CARD, "surround": {"kind": "plain", "colour": "#101010"}}
    body = {"treatment": dark}
    changed = ida.put(f"/api/treatments/{made['id']}", body, content_type="application/json").json()
    assert sorted(changed) == sorted(cell.pk for cell in cells[1:])
    colours = [state(ida, cell)["plan"]["surround"]["colour"] for cell in cells]
    assert colours == ["#d8d2c4", "#101010", "#101010"]
    # One is brought back to it.
    act(ida, cells[:1], do="treat", treatment=CARD, saved=made["id"])
    assert state(ida, cells[0])["plan"]["surround"]["colour"] == "#101010"
    assert ida.delete(f"/api/treatments/{made['id']}").status_code == 204
    assert state(ida, cells[1])["plan"]["surround"]["colour"] == "#101010"


def test_a_treatment_keeps_clip_and_frame(ida, project, cells):  # noqa: F811
    before = state(ida, cells[0])["plan"]
    act(ida, cells[:1], do="treat", treatment=CARD)
    after = state(ida, cells[0])["plan"]
    assert (after["frame"], after["interpretation"], after["source"]) == (
        before["frame"],
        before["interpretation"],
        before["source"],
    )


def test_one_for_all_projects_and_one_for_this(ida, joel, project, people):
    from server.studio.models import Project

    other = Project.objects.create(owner=people[0], name="Other")
    save(ida, project, CARD)
    save(ida, project, {**CARD, "name": "Everywhere"}, everywhere=True)
    assert [row["treatment"]["name"] for row in listed(ida, other) if row["id"]] == ["Everywhere"]
    number = listed(ida, project)[-1]["id"]
    assert joel.delete(f"/api/treatments/{number}").status_code == 404
    assert joel.get(f"/api/projects/{project.pk}/treatments").status_code == 404


def test_export_and_import(ida, project):
    made = save(ida, project, CARD)["treatment"]
    address = f"/api/projects/{project.pk}/treatments/import"
    assert ida.post(address, made, content_type="application/json").json()["treatment"] == made
    newer = ida.post(address, {**made, "version": 3}, content_type="application/json")
    assert (newer.status_code, newer.json()["remedy"]) == (422, "Use a newer Cadrage.")
    for wrong in ({}, {**made, "surround": {"kind": "wallpaper"}}, {**made, "glow": 1}, {**made, "name": ""}):
        assert ida.post(address, wrong, content_type="application/json").status_code == 422


def test_a_line_up_begins_with_what_is_and_offers_only_what_differs(ida, cells):  # noqa: F811
    ways = ida.get(f"/api/framings/{cells[0].pk}/lineup").json()
    names = [way["name"] for way in ways]
    assert names[0] == "As it is"
    assert {"Fill", "Whole, plain", "Three-quarter fill"} <= set(names)
    assert "Whole, blurred copy" not in names
    assert all(way["measure"]["cost"]["kept_percent"] for way in ways)
    same_shape = [way["name"] for way in ida.get(f"/api/framings/{cells[2].pk}/lineup").json()]
    assert same_shape == ["As it is"]


def test_a_loud_surround_is_told_and_quietened(ida, cells):  # noqa: F811
    plan = state(ida, cells[0])["plan"]
    plan["surround"] = {"kind": "plain", "colour": "#ffffff"}
    told = ask(ida, cells[0], "quiet", plan).json()
    assert (told["calm"], "dim to" in told["summary"]) == (False, True)
    quieter = ask(ida, cells[0], "quieten", plan).json()
    told = ask(ida, cells[0], "quiet", quieter).json()
    assert told["calm"]
    assert state(ida, cells[0])["plan"]["surround"]["kind"] == "blurred"
