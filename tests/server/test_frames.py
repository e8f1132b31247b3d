"""Frames: own ones, derived ones, guides, charts, and what is asked of them."""

import pytest

from tests.server.page import ask, post_json

pytestmark = pytest.mark.django_db


def test_a_frame_of_ones_own_is_saved_for_all_projects(ida, joel):
    made = ida.post("/api/formats", {"name": "Wall", "width": 3072, "height": 768}, content_type="application/json")
    assert (made.json()["frame"]["name"], made.json()["shape"]) == ("Wall", "4.00")
    assert [row["frame"]["name"] for row in ida.get("/api/catalogue").json()["own"]] == ["Wall"]
    assert joel.get("/api/catalogue").json()["own"] == []
    assert joel.delete(f"/api/formats/{made.json()['id']}").status_code == 404
    assert ida.delete(f"/api/formats/{made.json()['id']}").status_code == 204


def test_frames_are_derived(ida):
    wide = {"name": "Foyer", "width": 1920, "height": 1080}
    turned = ida.post("/api/catalogue/derived", wide, content_type="application/json").json()
    assert (turned["width"], turned["height"]) == (1080, 1920)
    old = ida.post("/api/catalogue/derived?aspect=4:3", wide, content_type="application/json").json()
    assert (old["width"], old["height"], old["name"]) == (1440, 1080, "Foyer 4:3")
    for aspect in ("0", "wide", "400"):
        answer = ida.post(f"/api/catalogue/derived?aspect={aspect}", wide, content_type="application/json")
        assert answer.status_code == 422


def test_guides_come_with_the_outlines_of_the_other_frames(ida, project):
    body = {"name": "Foyer", "width": 320, "height": 180}
    wide = ida.post(f"/api/projects/{project.pk}/frames", body, content_type="application/json").json()
    found = ida.get(f"/api/frames/{wide['id']}/guides").json()["guides"]
    assert "Totem 9:16" in {guide["name"] for guide in found}
    assert {guide["kind"] for guide in found} == {"action", "title", "thirds", "centre", "frame"}


def test_a_chart_is_downloaded(ida, framing):
    svg = ida.get(f"/api/frames/{framing.frame_id}/chart?raster=4096x2160")
    assert (svg.status_code, svg.headers["Content-Type"]) == (200, "image/svg+xml")
    assert 'filename="Totem 4096x2160.svg"' in svg.headers["Content-Disposition"]
    png = ida.get(f"/api/frames/{framing.frame_id}/chart?kind=png&only=thirds")
    assert png.content.startswith(b"\x89PNG")
    for raster in ("wide", "1x1", "99999x99999"):
        assert ida.get(f"/api/frames/{framing.frame_id}/chart?raster={raster}").status_code == 422


def test_too_long_is_flagged_and_not_cut(ida, framing):
    body = {"frame": framing.frame.frame_json, "delivery": {"longest": "0.5"}}
    ida.put(f"/api/frames/{framing.frame_id}", body, content_type="application/json")
    state = ida.get(f"/api/framings/{framing.pk}").json()
    assert [concern["summary"] for concern in state["concerns"]] == ["0.5 s too long"]
    assert ida.post(f"/api/framings/{framing.pk}/renders").json()["total"] == 25


def test_both_views_of_a_placement(ida, framing):
    state = ida.get(f"/api/framings/{framing.pk}").json()
    window = {**state["measure"]["window"], "height": "90", "x": "100"}
    opened = ask(ida, framing, "window", state["plan"], window=window).json()
    measured = ask(ida, framing, "preview", opened, measured=True).json()["measure"]
    assert (measured["window"]["x"], measured["window"]["height"]) == ("100", "90")


def test_a_line_along_the_horizon_straightens(ida, framing):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    made = ask(ida, framing, "straighten", plan, across="100", down="2").json()
    assert made["placement"]["angle"] == "-1.1458"


def test_an_active_picture_is_measured_by_any_of_its_numbers(ida):
    frame = {"width": 1920, "height": 1080}
    body = {"frame": frame, "by": "percent", "value": "12", "bars": "above_below"}
    found = post_json(ida, "/api/catalogue/active", body).json()
    assert found == {"bars": "above_below", "aspect": "400/171", "pixels": "820.8", "percent": "12"}
    refused = post_json(ida, "/api/catalogue/active", body | {"value": "50"})
    assert refused.status_code == 422


def test_a_frame_can_have_the_size_of_a_clip(ida, framing):
    [clip] = ida.get(f"/api/projects/{framing.footage.project_id}").json()["footage"]
    info = framing.footage.info
    assert clip["frame_size"] == {"width": info.width, "height": info.height}
