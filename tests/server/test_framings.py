"""Changing a framing, and going back and forth."""

import pytest

pytestmark = pytest.mark.django_db


def change(client, framing, tightness, label="Tightness"):
    plan = client.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["placement"]["tightness"] = tightness
    return client.put(
        f"/api/framings/{framing.pk}/plan", {"plan": plan, "label": label}, content_type="application/json"
    )


def tightness_of(answer):
    return answer.json()["plan"]["placement"]["tightness"]


def test_it_begins_whole_over_a_blurred_copy(ida, framing):
    state = ida.get(f"/api/framings/{framing.pk}").json()
    assert state["plan"]["surround"]["kind"] == "blurred"
    assert state["measure"]["words"]["lost"] == "nothing lost"
    assert (state["undo"], state["redo"]) == (None, None)


def test_undo_and_redo_return_the_exact_plan(ida, framing):
    first = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    for tightness in ("0.25", "0.5", "1/3"):
        change(ida, framing, tightness)
    address = f"/api/framings/{framing.pk}"
    assert tightness_of(ida.post(f"{address}/undo")) == "0.5"
    assert tightness_of(ida.post(f"{address}/undo")) == "0.25"
    assert ida.post(f"{address}/undo").json()["plan"] == first
    nothing = ida.post(f"{address}/undo")
    assert nothing.status_code == 422
    assert nothing.json()["title"] == "There is nothing to undo."
    for tightness in ("0.25", "0.5", "1/3"):
        assert tightness_of(ida.post(f"{address}/redo")) == tightness
    assert ida.post(f"{address}/redo").status_code == 422


def test_history_survives_and_a_new_change_forgets_what_was_undone(ida, framing):
    change(ida, framing, "0.25", "First")
    change(ida, framing, "0.5", "Second")
    ida.post(f"/api/framings/{framing.pk}/undo")
    state = ida.get(f"/api/framings/{framing.pk}").json()
    assert (state["undo"], state["redo"]) == ("First", "Second")
    state = change(ida, framing, "0.75", "Third").json()
    assert (state["undo"], state["redo"]) == ("Third", None)


def test_the_same_plan_again_is_no_step(ida, framing):
    first = change(ida, framing, "0.5").json()["version"]
    assert change(ida, framing, "0.5").json()["version"] == first
    assert change(ida, framing, "1/2").json()["version"] == first


def test_a_plan_cannot_point_elsewhere(ida, framing):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["source"] = "/etc/passwd"
    plan["frame"]["width"] = 4000
    body = {"plan": plan, "label": "x"}
    state = ida.put(f"/api/framings/{framing.pk}/plan", body, content_type="application/json").json()
    assert state["plan"]["source"] == f"footage:{framing.footage_id}"
    assert state["plan"]["frame"]["width"] == 180


@pytest.mark.parametrize("tightness", ["-1", "99", "wide", None])
def test_an_impossible_plan_is_refused_and_changes_nothing(ida, framing, tightness):
    before = ida.get(f"/api/framings/{framing.pk}").json()
    answer = change(ida, framing, tightness)
    assert answer.status_code == 422
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert set(answer.json()) == {"type", "status", "title", "remedy", "clip"}
    assert "tightness" in answer.json()["title"]
    assert ida.get(f"/api/framings/{framing.pk}").json() == before


def test_measuring_changes_nothing(ida, framing):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["placement"]["tightness"] = "1"
    body = {"plan": plan}
    answer = ida.post(f"/api/framings/{framing.pk}/measure", body, content_type="application/json").json()
    assert answer["cost"]["kept_percent"] == "31.640625"
    assert ida.get(f"/api/framings/{framing.pk}").json()["version"] == 0


def test_a_frame_that_is_removed_takes_its_framings(ida, framing):
    assert ida.delete(f"/api/frames/{framing.frame_id}").status_code == 204
    assert ida.get(f"/api/framings/{framing.pk}").status_code == 404


@pytest.mark.parametrize("size", [(0, 100), (15, 100), (9000, 100), ("a", 100)])
def test_impossible_frames_are_refused(ida, project, size):
    body = {"width": size[0], "height": size[1]}
    answer = ida.post(f"/api/projects/{project.pk}/frames", body, content_type="application/json")
    assert answer.status_code == 422
    assert project.frames.count() == 1


def test_an_active_picture_holds_for_every_clip_in_the_frame(ida, framing):
    frame = framing.frame.frame_json
    body = {"frame": {**frame, "active": "239/100", "bar_colour": "#102030"}}
    answer = ida.put(f"/api/frames/{framing.frame_id}", body, content_type="application/json")
    assert answer.json()["frame"]["active"] == "2.39"
    state = ida.get(f"/api/framings/{framing.pk}").json()
    assert (state["plan"]["frame"]["active"], state["plan"]["frame"]["bar_colour"]) == ("2.39", "#102030")
    assert state["measure"]["drawn"]["height"] == "76"
    answer = ida.put(f"/api/frames/{framing.frame_id}", {"frame": frame}, content_type="application/json")
    assert answer.json()["frame"]["active"] is None


@pytest.mark.parametrize("active", ["0", "99", "scope"])
def test_an_absurd_active_picture_is_refused(ida, framing, active):
    body = {"frame": {**framing.frame.frame_json, "active": active}}
    answer = ida.put(f"/api/frames/{framing.frame_id}", body, content_type="application/json")
    assert answer.status_code == 422
