"""Ordering and doing renders."""

import subprocess
from fractions import Fraction

import pytest

from cadrage.files import locked, unfinished_name
from cadrage.footage import probe
from server.studio.actions import renders, work
from server.studio.actions.jobs import MOST_STALLED
from server.studio.models import Framing, Render
from tests.server.page import put

pytestmark = pytest.mark.django_db(transaction=True)
State = Render.State


@pytest.fixture
def job(framing):
    return renders.order(framing)


def test_a_render_is_done_inspected_and_downloaded(ida, framing, job):
    work.perform_next()
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

    assert DBTaskResult.objects.filter(task_path__endswith="render_task").exists()


def test_what_was_ordered_is_rendered_whatever_changes_later(ida, framing, job):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["surround"] = {"kind": "plain", "colour": "#ffffff"}
    put(ida, framing, plan)
    work.perform_next()
    row = ida.get(f"/api/projects/{framing.footage.project_id}/renders").json()[0]
    assert (row["state"], row["current"]) == ("done", False)


def test_a_waiting_render_is_cancelled_at_once(ida, job):
    assert ida.post(f"/api/renders/{job.pk}/cancel").json()["state"] == "cancelled"
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert not job.path.exists()
    again = ida.post(f"/api/renders/{job.pk}/cancel")
    assert again.status_code == 422


def test_a_running_render_is_cancelled_soon(job, monkeypatch):
    real = work.finish

    def cancel_then_finish(*arguments, **named):
        renders.cancel(Render.objects.get(pk=job.pk))
        real(*arguments, **named)

    monkeypatch.setattr(work, "finish", cancel_then_finish)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert not job.workspace.folder.exists()
    assert list(job.path.parent.glob("*.part")) == []


def test_a_source_that_is_deleted_between_order_and_render(framing, job):
    framing.footage.path.unlink()
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.FAILED
    assert job.problem == "Small clip.mp4: The file is not there."
    assert job.remedy


def test_a_render_is_done_once(job):
    work.perform_next()
    made = job.path.stat().st_mtime_ns
    work.perform_next()
    assert job.path.stat().st_mtime_ns == made


def dead_part():
    """What a worker called its half file that is not there any more."""
    worker = subprocess.Popen(["true"])
    worker.wait()
    return f".{unfinished_name(worker.pid)}.part"


def test_a_dead_worker_s_render_is_queued_again_then_given_up(job):
    half = job.path.with_name(dead_part())
    for stalled, state in ((0, State.QUEUED), (MOST_STALLED, State.FAILED)):
        half.write_bytes(b"half")
        Render.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=1, stalled_attempts=stalled)
        work.pick_up()
        job.refresh_from_db()
        assert job.state == state
        assert not half.exists()
    assert "died" in job.problem


def test_a_living_worker_s_render_is_left_alone(job):
    Render.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=1)
    with locked(job.lock) as alive:
        assert alive
        work.pick_up()
    job.refresh_from_db()
    assert job.state == State.RUNNING


def test_an_ended_render_is_removed_with_its_file(ida, job):
    work.perform_next()
    assert probe(job.path).frames == 25
    assert ida.delete(f"/api/renders/{job.pk}").status_code == 204
    assert not job.path.exists()
    assert ida.get(f"/api/renders/{job.pk}/file").status_code == 404


def test_a_marked_range_is_delivered_into_every_frame(ida, framing):
    address = f"/api/footage/{framing.footage_id}/range"
    marked = ida.put(address, {"first": 5, "last": 14}, content_type="application/json").json()
    assert marked["range"] == {"first": 5, "last": 14}
    framing.footage.refresh_from_db()
    job = renders.order(Framing.objects.get(pk=framing.pk))
    assert job.total == 10
    work.perform_next()
    job.refresh_from_db()
    assert (job.state, job.report_json["right"]) == (State.DONE, True)
    assert probe(job.path).frames == 10
    assert ida.put(address, {"first": 9, "last": 3}, content_type="application/json").status_code == 422
    assert ida.put(address, "null", content_type="application/json").json()["range"] is None


def test_a_mark_that_passes_the_other_takes_it_along_to_its_end_of_the_clip(ida, framing):
    address = f"/api/footage/{framing.footage_id}/range"
    last = ida.get(f"/api/projects/{framing.footage.project_id}").json()["footage"][0]["timing"]["frames"] - 1

    def mark(**given):
        return ida.put(address, given, content_type="application/json").json()["range"]

    assert mark(first=5) == {"first": 5, "last": last}
    assert mark(last=9) == {"first": 5, "last": 9}
    assert mark(first=12) == {"first": 12, "last": last}
    assert mark(last=3) == {"first": 0, "last": 3}
    assert mark(last=10**9) is None


def test_bars_that_nobody_asked_for_cannot_be_ordered(ida, framing):
    frame = framing.frame
    value = frame.value.model_copy(update={"active": Fraction(1)})
    frame.frame_json = value.model_dump(mode="json")
    frame.save()
    address = f"/api/framings/{framing.pk}/renders"
    refused = ida.post(address)
    assert refused.status_code == 422
    assert "180×180" in refused.json()["title"]
    board = ida.get(f"/api/projects/{framing.footage.project_id}").json()["frames"][0]
    assert (board["bars"]["summary"], board["bars"]["decided"]) == ("70 above, 70 below", False)
    for bars, size in (("whole_frame", (180, 320)), ("active_picture_only", (180, 180))):
        settings = board["settings"] | {"bars": bars}
        body = {"frame": board["frame"], "delivery": board["delivery"], "settings": settings}
        ida.put(f"/api/frames/{frame.pk}", body, content_type="application/json")
        job = Render.objects.get(pk=ida.post(address).json()["id"])
        work.perform_next()
        info = probe(job.path)
        assert (info.width, info.height) == size
