"""Jobs: every way from one state into another, and none besides; and what a dead worker leaves."""

from itertools import product

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from cadrage.files import locked
from server.studio.actions import jobs, renders
from server.studio.actions.jobs import MOST_STALLED, NotAllowed
from server.studio.management.commands import work as command
from server.studio.models import Analysis, Render

pytestmark = pytest.mark.django_db
State = Render.State

ALLOWED = {
    "queued": {"running", "paused", "done", "failed", "cancelled"},
    "running": {"queued", "paused", "done", "failed", "cancelled"},
    "paused": {"queued", "cancelled"},
    "done": {"queued"},
    "failed": {"queued"},
    "cancelled": {"queued"},
}


@pytest.fixture
def row(framing):
    return Analysis.objects.filter(footage=framing.footage).first()


@pytest.mark.parametrize(("before", "after"), list(product(State, State)), ids=lambda state: state.value)
def test_a_job_comes_only_from_where_it_may_into_where_it_may(row, before, after):
    Analysis.objects.filter(pk=row.pk).update(state=before)
    if after.value in ALLOWED[before.value]:
        jobs.advance(row, after)
        assert Analysis.objects.get(pk=row.pk).state == after
    else:
        with pytest.raises(NotAllowed) as refused:
            jobs.advance(row, after)
        assert refused.value.clip == "Small clip.mp4"
        assert Analysis.objects.get(pk=row.pk).state == before


def test_what_a_stale_object_says_does_not_count(row):
    Analysis.objects.filter(pk=row.pk).update(state=State.RUNNING)
    assert row.state == State.QUEUED
    jobs.end(row, State.FAILED)
    assert Analysis.objects.get(pk=row.pk).state == State.FAILED


@pytest.mark.parametrize(
    ("asked", "stalled", "state"),
    [
        ({}, 0, State.QUEUED),
        ({}, MOST_STALLED - 1, State.QUEUED),
        ({}, MOST_STALLED, State.FAILED),
        ({"cancel_asked": True}, MOST_STALLED, State.CANCELLED),
        ({"pause_asked": True}, 0, State.PAUSED),
    ],
)
def test_what_a_dead_worker_left_does_not_wait_for_ever(row, asked, stalled, state):
    Analysis.objects.filter(pk=row.pk).update(state=State.RUNNING, stalled_attempts=stalled, **asked)
    swept = []
    with locked(row.lock):
        jobs.pick_up(Analysis.objects.filter(state=State.RUNNING), swept.append)
    assert (Analysis.objects.get(pk=row.pk).state, swept) == (State.RUNNING, [])  # its worker is alive
    jobs.pick_up(Analysis.objects.filter(state=State.RUNNING), swept.append)
    now = Analysis.objects.get(pk=row.pk)
    assert (now.state, [one.pk for one in swept]) == (state, [row.pk])
    assert bool(now.problem) == (state == State.FAILED)


@pytest.mark.parametrize(
    ("before", "verb", "after"),
    [
        ("queued", "cancel", "cancelled"),
        ("queued", "pause", "paused"),
        ("paused", "cancel", "cancelled"),
        ("paused", "pause", "paused"),
        ("paused", "resume", "queued"),
        ("running", "cancel", "running"),
        ("running", "pause", "running"),
        ("failed", "retry", "queued"),
        ("cancelled", "retry", "queued"),
        ("done", "retry", "queued"),
    ],
)
def test_people_ask_it_of_an_analysis(ida, row, before, verb, after):
    Analysis.objects.filter(pk=row.pk).update(state=before)
    assert ida.post(f"/api/analyses/{row.pk}/{verb}").json()["state"] == after


@pytest.mark.parametrize(
    ("before", "verb"),
    [("done", "cancel"), ("failed", "pause"), ("queued", "resume"), ("running", "retry"), ("queued", "retry")],
)
def test_what_cannot_be_asked_of_it_is_refused(ida, row, before, verb):
    Analysis.objects.filter(pk=row.pk).update(state=before)
    answer = ida.post(f"/api/analyses/{row.pk}/{verb}")
    assert (answer.status_code, answer.json()["clip"]) == (422, "Small clip.mp4")


def test_the_analyses_of_others_are_not_there(joel, row):
    assert joel.post(f"/api/analyses/{row.pk}/cancel").status_code == 404


def test_what_goes_wrong_with_one_keeps_none_of_the_others_from_it():
    done = []

    def do(number):
        done.append(number)
        if number == 1:
            raise ValueError(number)

    jobs.each([1, 2, 3], do)
    assert done == [1, 2, 3]


def test_a_chore_that_fails_keeps_the_house_from_no_other():
    def broken():
        raise RuntimeError

    command._do(broken)


def test_picking_up_asks_as_often_for_many_as_for_one(framing):
    """A sweep of a queue of hundreds every two seconds."""

    def queries():
        with CaptureQueriesContext(connection) as seen:
            jobs.pick_up(Render.objects.filter(state=State.RUNNING), lambda _: None)
        return len(seen)

    renders.order(framing)
    one = queries()
    for _ in range(5):
        Render.objects.create(framing=framing, plan_json={}, identity="other")
    assert queries() == one
