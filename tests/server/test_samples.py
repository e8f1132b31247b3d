"""Sample clips for a first project."""

import pytest

from server.studio.actions import samples
from server.studio.models import SampleClip
from tests.server.page import state

pytestmark = pytest.mark.django_db


@pytest.fixture
def sample_project(ida, monkeypatch):
    monkeypatch.setattr(samples, "FILES", ("yard.mp4",))
    return ida.post("/api/samples").json()


def test_a_project_begins_with_clips_that_are_drawn_for_it(ida, joel, sample_project):
    assert (sample_project["name"], sample_project["clips"], sample_project["frames"]) == ("Sample clips", 0, 2)
    assert samples.perform_next()
    assert not samples.perform_next()  # nothing more waits
    board = ida.get(f"/api/projects/{sample_project['id']}").json()
    assert [clip["name"] for clip in board["footage"]] == ["The depot yard.mp4"]
    wide = type("Row", (), {"pk": board["cells"][0]["id"]})
    assert state(ida, wide)["measure"]["summary"]["lost"] == "nothing cropped"
    assert joel.get(f"/api/projects/{sample_project['id']}").status_code == 404


def test_a_project_that_was_removed_gets_its_clips_only_once_it_is_restored(ida, sample_project):
    ida.delete(f"/api/projects/{sample_project['id']}")
    assert not samples.perform_next()
    ida.post(f"/api/projects/{sample_project['id']}/restore")
    assert samples.perform_next()
    assert len(ida.get(f"/api/projects/{sample_project['id']}").json()["footage"]) == 1


def test_what_a_worker_left_half_done_is_done_again(ida, sample_project):
    SampleClip.objects.update(state=SampleClip.State.RUNNING)
    samples.pick_up()
    assert samples.perform_next()
    assert SampleClip.objects.get().state == SampleClip.State.DONE
