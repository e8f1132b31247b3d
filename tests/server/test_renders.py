"""Ordering and doing renders."""

from datetime import timedelta

import pytest
from django.utils import timezone

from cadrage.footage import probe
from server.studio.actions import renders
from server.studio.models import Render

pytestmark = pytest.mark.django_db(transaction=True)
State = Render.State


@pytest.fixture
def job(framing):
    return renders.order(framing)


def test_a_render_is_done_inspected_and_downloaded(ida, framing, job):
    renders.perform(job.pk)
    row = ida.get(f"/api/projects/{framing.footage.project_id}/renders").json()[0]
    assert (row["state"], row["done"], row["total"], row["attempts"]) == ("done", 25, 25, 1)
    assert row["report"]["right"]
    assert row["current"]
    answer = ida.get(f"/api/renders/{job.pk}/file?download=true")
    assert 'filename="Wall_Small clip_Totem.mp4"' in answer["Content-Disposition"]
    assert b"".join(answer) == job.path.read_bytes()
    part = ida.get(f"/api/renders/{job.pk}/file", headers={"Range": "bytes=4-7"})
    assert (part.status_code, b"".join(part)) == (206, b"ftyp")


def test_ordering_enqueues_a_task_for_a_worker(job):
    from django_tasks_db.models import DBTaskResult

    task = DBTaskResult.objects.get(task_path__endswith="render_task")
    assert task.args_kwargs["args"] == [job.pk]


def test_what_was_ordered_is_rendered_whatever_changes_later(ida, framing, job):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["surround"] = {"kind": "plain", "colour": "#ffffff"}
    body = {"plan": plan, "label": "x"}
    ida.put(f"/api/framings/{framing.pk}/plan", body, content_type="application/json")
    renders.perform(job.pk)
    row = ida.get(f"/api/projects/{framing.footage.project_id}/renders").json()[0]
    assert (row["state"], row["current"]) == ("done", False)


def test_a_waiting_render_is_cancelled_at_once(ida, job):
    assert ida.post(f"/api/renders/{job.pk}/cancel").json()["state"] == "cancelled"
    renders.perform(job.pk)
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert not job.path.exists()
    again = ida.post(f"/api/renders/{job.pk}/cancel")
    assert again.status_code == 422


def test_a_running_render_is_cancelled_soon(job):
    real = renders.rendering.render

    def cancel_then_render(*arguments, **named):
        renders.cancel(Render.objects.get(pk=job.pk))
        real(*arguments, **named)

    renders.rendering.render = cancel_then_render
    try:
        renders.perform(job.pk)
    finally:
        renders.rendering.render = real
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert list(job.path.parent.glob("*.part")) == []


def test_a_source_that_is_deleted_between_order_and_render(framing, job):
    framing.footage.path.unlink()
    renders.perform(job.pk)
    job.refresh_from_db()
    assert job.state == State.FAILED
    assert job.problem == "Small clip.mp4: The file is not there."
    assert job.remedy


def test_a_render_is_done_once(job):
    renders.perform(job.pk)
    made = job.path.stat().st_mtime_ns
    renders.perform(job.pk)
    assert job.path.stat().st_mtime_ns == made


def test_a_dead_worker_s_render_is_queued_again_then_given_up(job):
    half = job.path.with_name(f".{job.path.name}.999.part")
    for attempts, state in ((1, State.QUEUED), (2, State.FAILED)):
        half.write_bytes(b"half")
        long_ago = timezone.now() - timedelta(minutes=5)
        Render.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=attempts, heartbeat=long_ago)
        renders.pick_up()
        job.refresh_from_db()
        assert job.state == state
        assert not half.exists()
    assert "died" in job.problem


def test_a_living_worker_s_render_is_left_alone(job):
    Render.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=1, heartbeat=timezone.now())
    renders.pick_up()
    job.refresh_from_db()
    assert job.state == State.RUNNING


def test_an_ended_render_is_removed_with_its_file(ida, job):
    renders.perform(job.pk)
    assert probe(job.path).frames == 25
    assert ida.delete(f"/api/renders/{job.pk}").status_code == 204
    assert not job.path.exists()
    assert ida.get(f"/api/renders/{job.pk}/file").status_code == 404
