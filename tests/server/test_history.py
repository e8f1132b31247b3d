"""One history of a project for each person: all that they do is undone and redone in its order."""

import pytest

from server.studio.actions.removing import purge
from server.studio.models import Change, Footage, FramingRule, LookLink, Member, ProjectFrame
from tests.server.page import labels_of, post_json, put, state, walk

pytestmark = pytest.mark.django_db


def send(client, verb, address, body=None):
    answer = getattr(client, verb)(address, body, content_type="application/json")
    assert answer.status_code < 300, answer.content
    return answer


def place(client, framing, tightness, label):
    plan = state(client, framing)["plan"]
    plan["placement"]["tightness"] = tightness
    return put(client, framing, plan, label)


def all_of(framing):
    """Everything that a history restores, as stored."""
    clip, frame = Footage.everything.get(pk=framing.footage_id), ProjectFrame.everything.get(pk=framing.frame_id)
    framing.refresh_from_db()
    return (
        framing.current,
        (clip.name, clip.interpretation_json, clip.range_json, clip.removed is None),
        (frame.frame_json, frame.delivery_json, frame.settings_json, frame.removed is None),
        clip.project.name,
        list(FramingRule.objects.values_list("format_key", "rule_json")),
        list(clip.project.members.values_list("person", "role")),
        list(LookLink.objects.values_list("token", "downloads", "expires__date")),
    )


def test_all_that_a_person_does_goes_back_and_forth_in_its_order(ida, people, project, framing):
    clip, frame = f"/api/footage/{framing.footage_id}", f"/api/frames/{framing.frame_id}"
    row = ProjectFrame.objects.get(pk=framing.frame_id)
    wide = {"frame": row.frame_json | {"active": "2.39"}}
    squeezed = {"interpretation": {"pixel_aspect": "2"}}
    acts = [
        ("Pixel shape", lambda: send(ida, "put", f"{clip}/interpretation", squeezed)),
        ("Placed", lambda: place(ida, framing, "0.5", "Placed")),
        ("Active picture", lambda: send(ida, "put", frame, wide)),
        ("In and out points", lambda: send(ida, "put", f"{clip}/range", {"first": 2})),
        ("Rename clip", lambda: send(ida, "patch", clip, {"name": "Totem"})),
        ("Rename project", lambda: send(ida, "patch", f"/api/projects/{project.pk}", {"name": "Lobby"})),
        ("Save as preset", lambda: _make_rule(ida, framing)),
        ("Share with joel", lambda: _share(ida, project, "joel", "see")),
        ("Share with joel", lambda: _share(ida, project, "joel", "work")),
        ("Make link", lambda: post_json(ida, f"/api/projects/{project.pk}/links", {"days": 2, "downloads": True})),
        ("Frame size", lambda: send(ida, "put", frame, {"frame": row.frame_json | {"width": 90}})),
        ("Remove Totem", lambda: send(ida, "delete", clip)),
    ]
    states = [all_of(framing)]
    for label, act in acts:
        act()
        states.append(all_of(framing))
        assert states[-1] != states[-2], label
        assert labels_of(ida, framing) == (label, None)
    for (label, _), before in zip(reversed(acts), reversed(states[:-1]), strict=True):
        assert walk(ida, framing, "undo")["done"]["label"] == label
        assert all_of(framing) == before
    assert walk(ida, framing, "undo")["done"] is None
    for (label, _), after in zip(acts, states[1:], strict=True):
        assert walk(ida, framing, "redo")["done"]["label"] == label
        assert all_of(framing) == after
    assert walk(ida, framing, "redo")["done"] is None


def _make_rule(client, framing):
    version = state(client, framing)["version"]
    return send(client, "post", f"/api/framings/{framing.pk}/rule", {"version": version})


def _share(client, project, name, role):
    return send(client, "post", f"/api/projects/{project.pk}/members", {"name": name, "role": role})


def test_frames_that_are_added_and_removed_come_and_go(ida, project, framing):
    added = send(ida, "post", f"/api/projects/{project.pk}/frames", {"width": 320, "height": 180}).json()
    walk(ida, framing, "undo")
    assert list(project.frames.values_list("pk", flat=True)) == [framing.frame_id]
    walk(ida, framing, "redo")
    assert project.frames.count() == 2
    send(ida, "put", f"/api/projects/{project.pk}/order", {"frames": [added["id"], framing.frame_id]})
    assert [row.pk for row in project.frames.all()] == [added["id"], framing.frame_id]
    assert walk(ida, framing, "undo")["done"]["label"] == "Order"
    assert [row.pk for row in project.frames.all()] == [framing.frame_id, added["id"]]


def test_everyone_undoes_what_they_did_themselves(ida, joel, people, project, framing):
    Member.objects.create(project=project, person=people[1], role="work")
    place(ida, framing, "0.5", "By Ida")
    send(joel, "put", f"/api/footage/{framing.footage_id}/range", {"first": 1})
    assert (labels_of(ida, framing)[0], labels_of(joel, framing)[0]) == ("By Ida", "In and out points")
    assert walk(ida, framing, "undo")["framing"]["plan"]["placement"]["tightness"] == "0"
    assert Footage.objects.get(pk=framing.footage_id).range_json != {}


def test_what_others_changed_since_is_left_and_said_and_undo_goes_on_before_it(ida, joel, people, project, framing):
    Member.objects.create(project=project, person=people[1], role="work")
    send(ida, "patch", f"/api/footage/{framing.footage_id}", {"name": "Totem"})
    place(ida, framing, "0.5", "By Ida")
    place(joel, framing, "0.9", "By Joel")
    address = f"/api/projects/{project.pk}/undo"
    answer = post_json(ida, address, {})
    assert answer.status_code == 409
    assert "By Ida" in answer.json()["title"]
    assert state(ida, framing)["plan"]["placement"]["tightness"] == "0.9"
    assert post_json(ida, address, {}).json()["done"]["label"] == "Rename clip"


def test_a_press_that_is_about_another_change_does_nothing(ida, project, framing):
    place(ida, framing, "0.5", "First")
    first = ida.get(f"/api/projects/{project.pk}/history").json()["undo"]["id"]
    place(ida, framing, "0.9", "Second")
    answer = post_json(ida, f"/api/projects/{project.pk}/undo", {"change": first}).json()
    assert (answer["done"], answer["history"]["undo"]["label"]) == (None, "Second")


def test_what_is_gone_for_good_is_left(ida, project, framing):
    added = send(ida, "post", f"/api/projects/{project.pk}/frames", {"width": 320, "height": 180}).json()
    walk(ida, framing, "undo")
    ProjectFrame.everything.filter(pk=added["id"]).update(removed="2020-01-01T00:00Z")
    purge()
    assert post_json(ida, f"/api/projects/{project.pk}/redo", {}).status_code == 409
    assert labels_of(ida, framing) == (None, None)


def test_requests_of_one_batch_are_one_change(ida, project, framing):
    for x in ("5", "9"):
        action = {"do": "move", "offset_x": x, "offset_y": "0"}
        body = {"framings": [framing.pk], "action": action, "label": "Moved two", "batch": "press 1"}
        assert post_json(ida, f"/api/projects/{project.pk}/cells", body).status_code == 200
    undone = walk(ida, framing, "undo")
    assert (undone["done"]["label"], undone["framing"]["plan"]["placement"]["offset_x"]) == ("Moved two", "0")
    assert not Change.objects.filter(undone=False).exists()


def test_who_may_only_look_undoes_nothing(joel, people, project, framing):
    Member.objects.create(project=project, person=people[1], role="see")
    assert post_json(joel, f"/api/projects/{project.pk}/undo", {}).status_code == 403


def test_a_history_is_bounded(ida, project, framing, monkeypatch):
    monkeypatch.setattr("server.studio.actions.history.KEPT", 3)
    for number in range(1, 6):
        place(ida, framing, f"0.{number}", f"To {number}")
    assert list(Change.objects.values_list("label", flat=True)) == ["To 3", "To 4", "To 5"]


def test_a_clip_that_others_use_stays_when_its_addition_is_undone(ida, joel, people, project, framing, small_clip):
    Member.objects.create(project=project, person=people[1], role="work")
    with small_clip.open("rb") as file:
        added = ida.post(f"/api/projects/{project.pk}/footage", {"file": file}).json()
    plan = state(joel, framing)["plan"]
    put(joel, framing, plan | {"surround": {"kind": "loop", "of": f"footage:{added['id']}"}})
    assert post_json(ida, f"/api/projects/{project.pk}/undo", {}).status_code == 409
    assert Footage.objects.filter(pk=added["id"]).exists()
