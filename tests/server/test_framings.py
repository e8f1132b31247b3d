"""Changing a framing, and going back and forth."""

import pytest

from cadrage.formats import Frame
from server.studio.actions import framing_plans
from server.studio.models import Framing, ProjectFrame
from tests.server.page import ask, design_of, labels_of, pictured, put, put_each, state, walk

pytestmark = pytest.mark.django_db


def change(client, framing, tightness, label="Fill amount", version=None):
    plan = state(client, framing)["plan"]
    plan["placement"]["tightness"] = tightness
    return put(client, framing, plan, label, version)


def test_it_begins_whole_over_a_blurred_copy(ida, framing):
    now = state(ida, framing)
    assert now["plan"]["surround"]["kind"] == "blurred"
    assert now["measure"]["summary"]["lost"] == "nothing cropped"
    assert labels_of(ida, framing) == (None, None)


def test_a_board_asked_for_twice_at_once_begins_each_framing_once(project, framing, monkeypatch):
    for width in (320, 180):
        ProjectFrame.from_value(project, Frame(width=width, height=180)).save()
    look = framing_plans._missing

    def look_before_others_act(footage, frames):
        """What is missing; before the caller can begin it, another has, and one frame is removed for good."""
        monkeypatch.setattr(framing_plans, "_missing", look)
        missing = look(footage, frames)
        framing_plans.begin_all(project)
        ProjectFrame.objects.filter(pk=frames[-1].pk).delete()
        return missing

    monkeypatch.setattr(framing_plans, "_missing", look_before_others_act)
    rows = framing_plans.begin_all(project)
    assert [row.frame.value.width for row in rows] == [180, 320]
    assert Framing.objects.count() == 2


def test_undo_and_redo_return_the_exact_plan(ida, framing):
    first = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    for tightness in ("0.25", "0.5", "1/3"):
        change(ida, framing, tightness)
    for tightness in ("0.5", "0.25", "0"):
        assert walk(ida, framing, "undo")["framing"]["plan"]["placement"]["tightness"] == tightness
    assert state(ida, framing)["plan"] == first
    assert walk(ida, framing, "undo")["done"] is None
    for tightness in ("0.25", "0.5", "1/3"):
        assert walk(ida, framing, "redo")["framing"]["plan"]["placement"]["tightness"] == tightness
    assert walk(ida, framing, "redo")["done"] is None


def test_history_survives_and_a_new_change_forgets_what_was_undone(ida, framing):
    change(ida, framing, "0.25", "First")
    change(ida, framing, "0.5", "Second")
    walk(ida, framing, "undo")
    assert labels_of(ida, framing) == ("First", "Second")
    change(ida, framing, "0.75", "Third")
    assert labels_of(ida, framing) == ("Third", None)


def test_the_same_plan_again_is_no_step(ida, framing):
    first = change(ida, framing, "0.5").json()["framing"]["version"]
    assert change(ida, framing, "0.5").json()["framing"]["version"] == first
    assert change(ida, framing, "1/2").json()["framing"]["version"] == first


def test_a_client_sends_what_it_may_decide_and_nothing_else(ida, framing):
    now = state(ida, framing)
    for more in ({"source": "/etc/passwd"}, {"frame": {"width": 4000, "height": 100}}, {"range": {"start": "1"}}):
        step_in = {"design": design_of(now["plan"]) | more, "label": "x"}
        body = {"steps": [step_in], "version": now["version"]}
        answer = ida.put(f"/api/framings/{framing.pk}/design", body, content_type="application/json")
        assert answer.status_code == 422
    assert state(ida, framing) == now


def test_what_was_made_of_an_older_version_is_refused_with_what_changed_in_between(ida, framing):
    seen = state(ida, framing)["version"]
    change(ida, framing, "0.25", "First")
    change(ida, framing, "0.5", "Second")
    before = state(ida, framing)
    answer = change(ida, framing, "0.9", "Mine", version=seen)
    assert answer.status_code == 409
    assert answer.json()["changed"] == ["First", "Second"]
    assert answer.json()["clip"] == "Small clip.mp4"
    assert state(ida, framing) == before
    assert change(ida, framing, "0.9", "Mine", version=before["version"]).status_code == 200


def tightened(client, framing, *values):
    plans = []
    for value in values:
        plan = state(client, framing)["plan"]
        plan["placement"]["tightness"] = value
        plans.append((plan, f"To {value}"))
    return plans


@pytest.mark.parametrize("arrived", [0, 1, 2, 3])
def test_what_is_sent_again_is_not_done_again(ida, framing, arrived):
    """A page that goes away sends all it has not heard of; how much of it had arrived nobody knows."""
    seen = state(ida, framing)["version"]
    done = tightened(ida, framing, "0.2", "0.3", "0.4")
    for plan, label in done[:arrived]:
        assert put(ida, framing, plan, label).status_code == 200
    now = put_each(ida, framing, done, seen).json()["framing"]
    assert now["plan"]["placement"]["tightness"] == "0.4"
    assert labels_of(ida, framing) == ("To 0.4", None)
    labels = [framing.steps.get(number=number).label for number in range(1, framing.steps.count())]
    assert labels == ["To 0.2", "To 0.3", "To 0.4"]


def test_what_is_sent_again_over_what_somebody_else_did_is_refused(ida, framing):
    seen = state(ida, framing)["version"]
    done = tightened(ida, framing, "0.2", "0.3")
    put(ida, framing, *done[0])
    change(ida, framing, "0.9", "Elsewhere")
    before = state(ida, framing)
    answer = put_each(ida, framing, done, seen)
    assert (answer.status_code, answer.json()["changed"]) == (409, ["To 0.2", "Elsewhere"])
    assert state(ida, framing) == before


def test_what_was_taken_back_meanwhile_is_told(ida, framing):
    seen = change(ida, framing, "0.25", "First").json()["framing"]["version"]
    walk(ida, framing, "undo")
    answer = change(ida, framing, "0.9", "Mine", version=seen)
    assert (answer.status_code, answer.json()["changed"]) == (409, ["Undone: First"])


def test_a_version_is_never_used_again(ida, framing):
    """Not even where a step is taken back and another is done in its place."""
    seen = {state(ida, framing)["version"]}
    for tightness in ("0.25", "0.5", "0.75"):
        version = change(ida, framing, tightness).json()["framing"]["version"]
        assert version not in seen
        seen.add(version)
        walk(ida, framing, "undo")


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
    version = state(ida, framing)["version"]
    answer = ask(ida, framing, "preview", plan, measured=True).json()["measure"]
    assert answer["cost"]["kept_percent"] == "31.640625"
    assert state(ida, framing)["version"] == version


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
    now = state(ida, framing)
    assert (now["plan"]["frame"]["active"], now["plan"]["frame"]["bar_colour"]) == ("2.39", "#102030")
    assert now["measure"]["drawn"]["height"] == "76"
    answer = ida.put(f"/api/frames/{framing.frame_id}", {"frame": frame}, content_type="application/json")
    assert answer.json()["frame"]["active"] is None


@pytest.mark.parametrize("active", ["0", "99", "scope"])
def test_an_absurd_active_picture_is_refused(ida, framing, active):
    body = {"frame": {**framing.frame.frame_json, "active": active}}
    answer = ida.put(f"/api/frames/{framing.frame_id}", body, content_type="application/json")
    assert answer.status_code == 422


def test_a_design_that_would_make_every_edit_slow_is_refused(ida, framing):
    """The bound is of bytes; 500 shots with surrounds of their own are well below it."""
    plan = state(ida, framing)["plan"]
    shots = [{"start": str(n / 1000), "surround": plan["surround"], "finish": plan["finish"]} for n in range(2000)]
    assert put(ida, framing, plan | {"shots": shots[:500]}).status_code == 200
    answer = put(ida, framing, plan | {"shots": shots})
    assert answer.status_code == 422
    assert answer.json()["clip"] == framing.footage.name
    assert len(state(ida, framing)["plan"]["shots"]) == 500


def test_a_scope_is_drawn_of_the_design_that_is_asked_for(ida, framing):
    plan = state(ida, framing)["plan"]
    pictures = set()
    for colour in ("#202020", "#c0c0c0"):
        shown = plan | {"surround": {"kind": "plain", "colour": colour}}
        answer = ask(ida, framing, "scope", shown, time="0", kind="waveform")
        assert answer.json()["scope"]["kind"] == "waveform"
        pictures.add(pictured(answer))
    assert len(pictures) == 2
    assert all(picture.startswith(b"\x89PNG") for picture in pictures)
