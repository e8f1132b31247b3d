"""The queue: its order, laying renders aside, never making a file twice, and clearing by rule."""

import threading
from datetime import timedelta
from pathlib import Path

import pytest
from django.conf import settings
from django.db import connection
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from cadrage.files import locked
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.output import Settings
from cadrage.plan import Design
from server.studio.actions import clearing, framings, renders, work
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin, plan_of
from server.studio.api.schemas.render import RenderOut
from server.studio.models import ProjectFrame, Render
from tests.clips import write_clip

pytestmark = pytest.mark.django_db(transaction=True)
State = Render.State


def into(framing, width, **settings):
    """The same clip in another frame."""
    row = ProjectFrame.from_value(framing.footage.project, Frame(width=width, height=100))
    row.settings_json = Settings(**settings).model_dump(mode="json")
    row.save()
    return begin(framing.footage, row)


@pytest.fixture
def three(framing):
    return [renders.order(into(framing, width)) for width in (100, 120, 140)]


def states(*jobs):
    return [Render.objects.get(pk=job.pk).state for job in jobs]


def order_now(project):
    return list(renders.waiting(project).values_list("pk", flat=True))


@pytest.mark.parametrize(
    ("place", "after"), [("first", [2, 0, 1]), ("earlier", [0, 2, 1]), ("later", [0, 1, 2]), ("last", [0, 1, 2])]
)
def test_the_last_is_moved(ida, project, three, place, after):
    answer = ida.post(f"/api/renders/{three[2].pk}/move", {"place": place}, content_type="application/json")
    assert answer.status_code == 204
    assert order_now(project) == [three[number].pk for number in after]
    work.perform_next()
    assert Render.objects.get(pk=three[after[0]].pk).state == State.DONE


def test_what_does_not_wait_is_not_moved(ida, three):
    renders.cancel(three[0])
    answer = ida.post(f"/api/renders/{three[0].pk}/move", {"place": "last"}, content_type="application/json")
    assert answer.status_code == 422


def test_all_are_laid_aside_and_go_on(ida, project, three):
    address = f"/api/projects/{project.pk}/queue"
    found = ida.post(address, {"do": "pause"}, content_type="application/json").json()
    assert (found["waiting"], found["paused"]) == (0, 3)
    work.perform_next()
    assert states(*three) == [State.PAUSED] * 3
    found = ida.post(address, {"do": "resume"}, content_type="application/json").json()
    assert (found["waiting"], found["paused"], found["total"], found["done"]) == (3, 0, 75, 0)
    assert order_now(project) == [job.pk for job in three]
    ida.post(address, {"do": "cancel"}, content_type="application/json")
    assert states(*three) == [State.CANCELLED] * 3


def test_one_is_laid_aside_between_parts_and_goes_on_from_there(ida, framing, monkeypatch, settings):
    """Parts of a fifth of a second, so that there is a between."""
    settings.PART_SECONDS = 0.2
    monkeypatch.setattr("cadrage.render.progress.REPORT_SECONDS", 0)
    job = renders.order(framing)
    real = work._report

    def pause_soon(row, workspace, progress):
        real(row, workspace, progress)
        Render.objects.filter(pk=row.pk).update(pause_asked=True)

    monkeypatch.setattr(work, "_report", pause_soon)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.PAUSED
    done = 5 - len(job.workspace.undone("draw"))
    assert 0 < done < 5
    monkeypatch.setattr(work, "_report", real)
    assert ida.post(f"/api/renders/{job.pk}/resume").json()["state"] == "queued"
    work.perform_next()
    job.refresh_from_db()
    assert (job.state, job.parts, job.parts_done, job.done) == (State.DONE, 5, 5, 25)
    assert not job.workspace.folder.exists()


def test_the_same_is_never_rendered_twice(framing):
    first = renders.order(framing)
    assert renders.order(framing) == first  # it waits already
    work.perform_next()
    second = renders.order(framing)
    assert second.state == State.DONE
    assert second.path.samefile(Render.objects.get(pk=first.pk).path)
    assert second.digest == Render.objects.get(pk=first.pk).digest
    renders.remove(Render.objects.get(pk=first.pk))
    assert second.path.exists()


def test_another_setting_makes_another_file_but_another_name_does_not(framing):
    renders.order(framing)
    work.perform_next()
    frame = framing.frame
    for change, state in (({"name": "mine"}, State.DONE), ({"quality": "draft"}, State.QUEUED)):
        frame.settings_json = Settings(**change).model_dump(mode="json")
        frame.save()
        framing.frame = ProjectFrame.objects.get(pk=frame.pk)
        assert renders.order(framing).state == state


def test_two_people_who_order_the_same_at_once_get_one_render(ida, framing):
    answers = []

    def ask():
        answers.append(ida.post(f"/api/framings/{framing.pk}/renders").json()["id"])
        connection.close()

    people = [threading.Thread(target=ask) for _ in range(2)]
    for one in people:
        one.start()
    for one in people:
        one.join()
    while Render.objects.filter(state=State.QUEUED).exists():
        work.perform_next()
    rows = Render.objects.filter(pk__in=answers)
    assert {row.state for row in rows} == {State.DONE}
    assert len({row.path.stat().st_ino for row in rows}) == 1
    attempts = list(rows.values_list("attempts", flat=True))
    assert sum(attempts) == 1  # it was drawn once; where there are two rows, the other took its file


def test_one_that_is_being_made_is_waited_for(framing):
    job = renders.order(framing)
    Render.objects.filter(pk=job.pk).update(state=State.RUNNING)
    twin = Render.objects.create(
        framing=framing, plan_json=job.plan_json, settings_json=job.settings_json, identity=job.identity
    )
    work.perform_next()
    assert states(twin) == [State.QUEUED]
    Render.objects.filter(pk=job.pk).update(state=State.QUEUED)
    work.perform_next()
    work.perform_next()
    assert states(job, twin) == [State.DONE, State.DONE]
    assert twin.path.samefile(job.path)


@pytest.mark.long
def test_two_hundred_are_ordered_at_once_and_taken_in_order(ida, framing):
    rows = [into(framing, 100 + 2 * number) for number in range(200)]
    address = f"/api/projects/{framing.footage.project_id}/renders"
    answer = ida.post(address, {"framings": [row.pk for row in rows]}, content_type="application/json").json()
    assert len({one["id"] for one in answer}) == 200
    work.perform_next()
    work.perform_next()
    done = Render.objects.filter(state=State.DONE).order_by("pk").values_list("framing", flat=True)
    assert list(done) == [rows[0].pk, rows[1].pk]


def test_a_clip_that_was_swapped_while_it_waited_is_not_rendered(framing):
    job = renders.order(framing)
    write_clip(framing.footage.path, frames=9)
    work.perform_next()
    job.refresh_from_db()
    assert (job.state, job.report_json) == (State.FAILED, None)
    assert "changed after the render was ordered" in job.problem
    assert renders.retry(job).state == State.QUEUED


@pytest.fixture
def unseen(project):
    """A clip that moves, just arrived."""
    path = write_clip(Path(settings.INCOMING_DIR) / "tall.mp4", size=(180, 320), frames=50, sound=None)
    wall = ProjectFrame.from_value(project, Frame(width=320, height=180, name="Wall"))
    wall.save()
    return begin(import_file(project, "Tall.mp4", path), wall)


def now(row):
    return type(row).objects.get(pk=row.pk)


def test_an_order_that_came_before_its_clip_was_looked_at_is_of_what_is_found(unseen):
    job = renders.order(unseen)
    before = job.plan
    work.perform_next()
    job = now(job)
    assert job.state == State.DONE
    assert now(unseen.footage).fields.order == job.plan.interpretation.fields == "progressive"
    assert job.plan == plan_of(now(unseen)) != before
    assert RenderOut.of(job).current


def test_it_stays_as_it_was_framed_where_that_was_changed_since(unseen):
    job = renders.order(unseen)
    framings.change(unseen, Design(placement=Placement(tightness=1)), "Fill")
    work.perform_next()
    job = now(job)
    assert job.plan.interpretation.fields == "progressive"
    assert job.plan.placement == Placement()
    assert not RenderOut.of(job).current


def test_a_render_that_a_dead_worker_left_is_free_before_a_worker_is_called_for_it(framing, monkeypatch):
    """One that came while its lock was held would pass it by, and nobody would come again."""
    job = renders.order(framing)
    Render.objects.filter(pk=job.pk).update(state=State.RUNNING)
    DBTaskResult.objects.all().delete()
    free = []

    def call(name):
        with locked(job.lock) as mine:
            free.append((name, mine))

    monkeypatch.setattr(work, "call", call)
    work.pick_up()
    assert (states(job), free) == ([State.QUEUED], [("render", True)])


def test_a_render_that_waits_unheard_is_called_for_once(framing):
    renders.order(framing)
    DBTaskResult.objects.all().delete()
    work.pick_up()
    work.pick_up()
    assert DBTaskResult.objects.count() == 1


def test_results_are_cleared_by_age_only_by_rule_and_stay_listed(ida, project, framing):
    job = renders.order(framing)
    work.perform_next()
    Render.objects.filter(pk=job.pk).update(finished=timezone.now() - timedelta(days=9))
    clearing.clear_due()
    assert job.path.exists()
    address = f"/api/projects/{project.pk}/kept"
    asked = ida.post(address, {"days": 7, "gigabytes": None}, content_type="application/json").json()
    assert (asked["files"], asked["due"], asked["due_bytes"]) == (1, 1, job.path.stat().st_size)
    clearing.clear_due()
    assert job.path.exists()
    ida.put(address, {"days": 7, "gigabytes": None}, content_type="application/json")
    clearing.clear_due()
    assert not job.path.exists()
    row = ida.get(f"/api/projects/{project.pk}/renders").json()[0]
    assert (row["state"], row["size"], row["report"]["right"]) == ("done", 0, True)
    assert row["cleared"]
    assert ida.get(f"/api/renders/{job.pk}/file").status_code == 404
    assert ida.post(f"/api/renders/{job.pk}/retry").json()["state"] == "queued"
    work.perform_next()
    assert job.path.exists()


def test_results_are_cleared_by_size_the_oldest_first_and_never_the_newest_of_a_framing(project, three):
    def rendered_anew(tightness):
        design = Design(placement=Placement(tightness=tightness))
        job = renders.order(framings.change(three[0].framing, design, "Placed"))
        work.perform_next()
        return job

    for _ in three:
        work.perform_next()
    again = [rendered_anew(tightness) for tightness in ("0.5", "1")]
    jobs = [*three, *again]
    sizes = [job.path.stat().st_size for job in jobs]
    project.keep_gigabytes = (sum(sizes) - sizes[0]) / 1e9
    project.save()
    clearing.clear_due()
    assert [job.path.exists() for job in jobs] == [False, True, True, True, True]
    project.keep_gigabytes = 1e-9
    project.save()
    clearing.clear_due()
    assert [job.path.exists() for job in jobs] == [False, True, True, False, True]


def test_what_no_render_owns_is_swept_away(framing):
    job = renders.order(framing)
    for number in (job.pk, job.pk + 1000):
        (job.path.parent / f".workspace-{number}").mkdir()
    clearing.sweep()
    assert job.workspace.folder.exists()
    assert not (job.path.parent / f".workspace-{job.pk + 1000}").exists()


def test_the_queue_of_others_is_not_there(joel, project, three):
    assert joel.get(f"/api/projects/{project.pk}/queue").status_code == 404
    for verb in ("pause", "resume", "cancel", "retry"):
        assert joel.post(f"/api/renders/{three[0].pk}/{verb}").status_code == 404
