"""Analyses: found once, told with their reason where they fail, and never waited for in vain."""

import shutil
import time
from fractions import Fraction
from pathlib import Path

import pytest
from django.conf import settings

from cadrage.analyses import ANALYSES
from cadrage.analysis import Found, NotFound
from cadrage.errors import UnreadableFile
from cadrage.footage import Edges, Interpretation
from server.studio.actions import analyses, jobs, renders, work
from server.studio.actions import footage as clips
from server.studio.actions.jobs import MOST_STALLED
from server.studio.models import Analysis, Footage, Render
from server.studio.models.analysis import store
from tests.clips import write_clip

pytestmark = pytest.mark.django_db
State = Analysis.State


@pytest.fixture
def footage(framing):
    return framing.footage


def now(footage):
    return Footage.objects.get(pk=footage.pk)


def everything(footage):
    """Find all that there is to be found."""
    analyses.ask(footage)
    while analyses.perform_next():
        pass


def states(footage):
    return {row.kind: row.state for row in Footage.objects.get(pk=footage.pk).analyses.all()}


def count(monkeypatch, kind):
    """Every time that a kind really looks."""
    looked, real = [], type(ANALYSES[kind]).find
    monkeypatch.setattr(type(ANALYSES[kind]), "find", lambda *given: looked.append(1) or real(*given))
    return looked


def test_one_is_done_at_a_time_what_others_need_first(footage):
    done = []
    for _ in range(4):
        analyses.perform_next()
        done.append({kind for kind, state in states(footage).items() if state == State.DONE})
    quick = [{"bars"}, {"bars", "fields"}, {"bars", "fields", "quiet_copy"}]
    assert done == [*quick, {*quick[-1], "sound_levels"}]
    assert set(now(footage).found) == done[-1]


def test_the_same_file_is_looked_at_once(footage, project, monkeypatch):
    looked = count(monkeypatch, "bars")
    analyses.settled(footage)
    copy = clips.link(project, footage.path)
    analyses.settled(copy)
    assert len(looked) == 1
    assert now(copy).bars == now(footage).bars


def test_what_was_found_is_told_by_any_process_that_sees_the_folder(footage):
    analyses.settled(footage)
    row = footage.analyses.get(kind="fields")
    assert (store.folder(row.key) / "manifest.json").exists()
    elsewhere = type(store)(store.root)
    found = elsewhere.get(ANALYSES["fields"], row.key)
    assert isinstance(found, Found)
    assert found.result == now(footage).fields


def test_a_failure_is_told_with_its_reason_and_can_be_tried_again(ida, footage, monkeypatch):
    def broken(*_):
        raise UnreadableFile("It ends in the middle.", remedy="Copy it again.")

    with monkeypatch.context() as patched:
        patched.setattr(type(ANALYSES["bars"]), "find", broken)
        analyses.settled(footage)
    told = ida.get(f"/api/projects/{footage.project_id}").json()["footage"][0]
    failed = next(one for one in told["analyses"] if one["kind"] == "bars")
    assert (failed["state"], failed["problem"], failed["remedy"]) == (
        "failed",
        "It ends in the middle.",
        "Copy it again.",
    )
    assert not told["analysing"]
    assert ida.post(f"/api/analyses/{failed['id']}/retry").json()["state"] == "queued"
    analyses.perform_next()
    assert states(footage)["bars"] == State.DONE


def test_that_nothing_can_be_found_is_an_outcome(footage, monkeypatch):
    monkeypatch.setattr(type(ANALYSES["bars"]), "find", lambda *_: NotFound("It is too dark."))
    analyses.settled(footage)
    row = footage.analyses.get(kind="bars")
    assert (row.state, row.problem, row.result) == (State.DONE, "It is too dark.", None)


def test_whose_workers_die_is_given_up_in_the_end(footage, monkeypatch):
    """As a process that ends in the middle: nothing is saved behind it."""
    tried = []

    def killing(*_):
        tried.append(1)
        raise KeyboardInterrupt

    monkeypatch.setattr(type(ANALYSES["bars"]), "find", killing)
    for _ in range(MOST_STALLED + 3):
        if states(footage)["bars"] == State.QUEUED:
            with pytest.raises(KeyboardInterrupt):
                analyses.perform_next()
        analyses.pick_up()
    assert (states(footage)["bars"], len(tried)) == (State.FAILED, MOST_STALLED + 1)
    analyses.perform_next()
    assert states(footage)["fields"] == State.DONE  # others go on


def test_one_that_goes_through_all_of_a_clip_is_cancelled_in_the_middle(footage, monkeypatch):
    monkeypatch.setattr(jobs, "REPORT_SECONDS", 0)

    def looking(_, subject, report):
        report(0.25)
        row = footage.analyses.get(kind="bars")
        assert row.done == 25
        Analysis.objects.filter(pk=row.pk).update(cancel_asked=True)
        report(0.5)
        raise AssertionError("it went on")

    monkeypatch.setattr(type(ANALYSES["bars"]), "find", looking)
    analyses.perform_next()
    assert states(footage)["bars"] == State.CANCELLED


def test_another_way_up_is_looked_at_anew_and_bars_that_are_taken_off_are_not(footage, monkeypatch):
    analyses.settled(footage)
    looked = count(monkeypatch, "bars")
    clips.interpret(footage, Interpretation(burned_in_bars=Edges(left=8, right=8)))
    analyses.settled(now(footage))
    assert looked == []
    clips.interpret(footage, Interpretation(rotation=90))
    assert states(footage)["bars"] == State.QUEUED
    analyses.settled(now(footage))
    assert looked == [1]


def test_a_clip_that_was_estimated_is_counted(footage):
    info = footage.info.model_copy(update={"counted": "estimated", "frames": 7, "duration": Fraction(7, 25)})
    Footage.objects.update(info_json=info.model_dump(mode="json"))
    assert analyses.settled(now(footage))
    exact = now(footage).info
    assert (exact.counted, exact.frames, exact.duration) == ("decoded", 25, 1)
    assert states(footage)["pictures"] == State.DONE


def test_quick_ones_of_other_clips_come_before_a_slow_one(footage, project, small_clip):
    info = footage.info.model_copy(update={"counted": "estimated"})
    Footage.objects.update(info_json=info.model_dump(mode="json"))
    analyses.ask(now(footage))
    clips.link(project, Path(shutil.copy(small_clip, settings.INCOMING_DIR)))
    slow = [ANALYSES[row.kind].slow for row in analyses._ready()]
    assert slow == sorted(slow)
    assert slow.count(True) == 3  # pictures of the first, sound of both


def test_a_render_waits_for_what_another_worker_is_finding(framing, footage):
    job = renders.order(framing)
    Analysis.objects.filter(footage=footage, kind="fields").update(state=State.RUNNING)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.QUEUED
    Analysis.objects.filter(footage=footage, kind="fields").update(state=State.QUEUED)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == Render.State.DONE
    assert set(job.analyses_json) >= {"bars", "fields", "quiet_copy"} or job.analyses_json == {}


def test_what_no_clip_has_is_collected_after_a_while(footage, monkeypatch):
    everything(footage)
    kept = {row.key for row in footage.analyses.all()}
    write_clip(footage.path, frames=9)
    other = now(footage)
    analyses.forget(other)
    everything(other)
    analyses.collect()
    assert all(store.folder(key).exists() for key in kept)  # it may come back
    later = time.time() + (analyses.DAYS_KEPT + 1) * 86400
    monkeypatch.setattr("cadrage.analysis.store.time.time", lambda: later)
    analyses.collect()
    assert not any(store.folder(key).exists() for key in kept)
    assert all(row.result is not None for row in other.analyses.all())
