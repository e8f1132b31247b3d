"""Frames of a project: another size, another order, removed and brought back."""

import shutil
from datetime import timedelta
from pathlib import Path

import pytest
from django.conf import settings
from django.utils import timezone

from server.studio.actions.footage import UNDO_TIME, import_file
from server.studio.actions.removing import purge
from server.studio.api import projects
from server.studio.models import Framing, ProjectFrame
from tests.server.page import labels_of, put, state

pytestmark = pytest.mark.django_db


def resize(client, framing, **size):
    body = {"frame": {**framing.frame.frame_json, **size}}
    return client.put(f"/api/frames/{framing.frame_id}", body, content_type="application/json").json()


def placed(client, framing, **fields):
    plan = state(client, framing)["plan"]
    plan["placement"].update(fields)
    return put(client, framing, plan, "Placed").json()["framing"]


def board(client, project):
    return client.get(f"/api/projects/{project.pk}").json()


def order(client, project, **given):
    return client.put(f"/api/projects/{project.pk}/order", given, content_type="application/json")


def test_framings_follow_a_frame_that_is_resized_and_come_back_with_it(ida, framing):
    before = placed(ida, framing, sizing="scale", scale="2", offset_x="40")
    assert resize(ida, framing, width=360, height=640)["losses"] == []
    now = state(ida, framing)
    assert (now["plan"]["placement"]["scale"], now["plan"]["placement"]["offset_x"]) == ("4", "80")
    assert now["measure"]["cost"]["kept_percent"] == before["measure"]["cost"]["kept_percent"]
    assert labels_of(ida, framing)[0] == "Frame size"
    resize(ida, framing, width=180, height=320)
    assert state(ida, framing)["plan"] == before["plan"]


def test_what_keeps_less_of_its_picture_is_told(ida, framing):
    placed(ida, framing, tightness="1")
    told = resize(ida, framing, width=90)["losses"]
    assert [(one["framing"], one["clip"]) for one in told] == [(framing.pk, "Small clip.mp4")]
    assert told[0]["before"] == "31.640625"
    assert float(told[0]["after"]) == pytest.approx(31.640625 / 2, abs=0.01)


def test_rules_follow_and_those_that_obey_take_no_step(ida, project, framing):
    placed(ida, framing, tightness="1", offset_y="16")
    ida.post(
        f"/api/projects/{project.pk}/cells",
        {"framings": [framing.pk], "action": {"do": "rule"}},
        content_type="application/json",
    )
    steps = framing.steps.count()
    resize(ida, framing, width=360, height=640)
    now = state(ida, framing)
    assert now["plan"]["placement"]["offset_y"] == "32"
    assert framing.steps.count() == steps


def test_another_name_is_no_other_size(ida, framing):
    placed(ida, framing, offset_x="40")
    assert resize(ida, framing, name="Foyer")["losses"] == []
    assert framing.steps.last().label == "Placed"


def test_a_removed_frame_is_gone_with_its_framings_until_it_is_brought_back(ida, joel, project, framing):
    address = f"/api/frames/{framing.frame_id}"
    assert ida.delete(address).status_code == 204
    now = board(ida, project)
    assert (now["frames"], now["cells"], now["gone_frames"]) == ([], [], [{"id": framing.frame_id, "name": "Totem"}])
    assert ida.get(f"/api/framings/{framing.pk}").status_code == 404
    assert ida.get("/api/projects").json()[0]["frames"] == 0
    assert ida.post(f"/api/projects/{project.pk}/duplicate").json()["frames"] == 0
    assert joel.post(f"{address}/restore").status_code == 404
    assert ida.post(f"{address}/restore").json()["frame"]["name"] == "Totem"
    assert [cell["id"] for cell in board(ida, project)["cells"]] == [framing.pk]


def test_after_a_while_a_removed_frame_goes_for_good(ida, framing):
    ida.delete(f"/api/frames/{framing.frame_id}")
    purge()
    assert Framing.objects.filter(pk=framing.pk).exists()
    ProjectFrame.everything.update(removed=timezone.now() - UNDO_TIME - timedelta(seconds=1))
    purge()
    assert not Framing.objects.filter(pk=framing.pk).exists()


def test_frames_and_clips_are_put_in_order_and_what_comes_later_stands_last(ida, joel, project, framing):
    for name in ("Second", "Third"):
        body = {"width": 100, "height": 100, "name": name}
        ida.post(f"/api/projects/{project.pk}/frames", body, content_type="application/json")
    first, second, third = (frame["id"] for frame in board(ida, project)["frames"])
    assert joel.put(f"/api/projects/{project.pk}/order", {}, content_type="application/json").status_code == 404
    before = ida.get(f"/api/projects/{project.pk}/changes").json()
    assert order(ida, project, frames=[third, first], footage=[framing.footage_id]).status_code == 204
    assert ida.get(f"/api/projects/{project.pk}/changes").json() != before
    assert [frame["id"] for frame in board(ida, project)["frames"]] == [third, first, second]
    ida.post(f"/api/projects/{project.pk}/frames", {"width": 64, "height": 64}, content_type="application/json")
    assert board(ida, project)["frames"][-1]["frame"]["name"] == "64×64"
    assert order(ida, project, frames=[10**6]).status_code == 422


def test_the_head_of_a_board_says_how_many_clips_there_are(ida, project, framing, monkeypatch):
    monkeypatch.setattr(projects, "FIRST_CLIPS", 1)
    copy = Path(settings.INCOMING_DIR) / "again.mp4"
    shutil.copyfile(framing.footage.path, copy)
    import_file(project, "Again.mp4", copy)
    whole = board(ida, project)
    head = ida.get(f"/api/projects/{project.pk}?head=true").json()
    assert (whole["clips"], head["clips"], len(whole["footage"])) == (2, 2, 2)
    assert head["footage"] == whole["footage"][:1]
    assert head["cells"] == [cell for cell in whole["cells"] if cell["footage"] == framing.footage_id]
