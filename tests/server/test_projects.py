"""Projects: renamed, put away, removed and brought back, and made a second time."""

import shutil
from datetime import timedelta
from pathlib import Path

import pytest
from django.conf import settings
from django.utils import timezone

from server.studio.actions import projects
from server.studio.actions.footage import UNDO_TIME, import_file
from server.studio.actions.removing import purge
from server.studio.models import Footage, Project
from tests.server.page import put, state

pytestmark = pytest.mark.django_db


def line(client, project):
    return next((one for one in client.get("/api/projects").json() if one["id"] == project.pk), None)


def changed(client, project, **fields):
    return client.patch(f"/api/projects/{project.pk}", fields, content_type="application/json")


def test_a_project_is_renamed_put_away_and_fetched_back(ida, project):
    assert changed(ida, project, name="Second cut").json()["name"] == "Second cut"
    assert changed(ida, project, put_away=True).json() == line(ida, project)
    assert (line(ida, project)["name"], line(ida, project)["put_away"]) == ("Second cut", True)
    changed(ida, project, put_away=False)
    assert not line(ida, project)["put_away"]
    assert changed(ida, project, name="").status_code == 422


def test_it_is_shown_by_framings_from_all_over_it(ida, project, framing):
    assert line(ida, project)["framings"] == [framing.pk]


def test_a_removed_project_is_gone_until_it_is_brought_back(ida, joel, project, framing):
    address = f"/api/projects/{project.pk}"
    assert joel.delete(address).status_code == 404
    assert ida.delete(address).status_code == 204
    assert line(ida, project) is None
    assert ida.get(address).status_code == 404
    assert joel.post(f"{address}/restore").status_code == 404
    assert ida.post(f"{address}/restore").json()["clips"] == 1
    assert ida.get(address).status_code == 200


def test_after_a_while_it_goes_with_its_files(ida, project, framing, django_capture_on_commit_callbacks):
    path = framing.footage.path
    ida.delete(f"/api/projects/{project.pk}")
    with django_capture_on_commit_callbacks(execute=True):
        purge()
    assert path.exists()
    Project.everything.update(removed=timezone.now() - UNDO_TIME - timedelta(seconds=1))
    with django_capture_on_commit_callbacks(execute=True):
        purge()
    assert not path.exists()
    assert not Project.everything.filter(pk=project.pk).exists()


def test_a_second_one_has_all_but_the_renders_and_lives_apart(ida, project, framing, small_clip):
    """What stands behind a framing is another clip of the project: in the second project, that one's own."""
    copy = Path(settings.INCOMING_DIR) / "behind.mp4"
    shutil.copyfile(small_clip, copy)
    behind = import_file(project, "Behind.mp4", copy)
    plan = state(ida, framing)["plan"]
    loop = {"kind": "loop", "of": f"footage:{behind.pk}"}
    assert put(ida, framing, plan | {"surround": loop}).status_code == 200

    made = ida.post(f"/api/projects/{project.pk}/duplicate").json()
    assert (made["name"], made["clips"], made["frames"]) == ("Wall copy", 2, 1)
    first, second = Footage.objects.filter(project=made["id"])
    board = ida.get(f"/api/projects/{made['id']}").json()
    cell = next(cell["id"] for cell in board["cells"] if cell["footage"] == first.pk)
    twin = ida.get(f"/api/framings/{cell}").json()["plan"]
    assert twin["surround"]["of"] == f"footage:{second.pk}"
    assert twin["placement"] == plan["placement"]
    assert first.path != framing.footage.path
    assert {one.kind for one in first.analyses.all()} == {one.kind for one in framing.footage.analyses.all()} != set()
    framing.footage.path.unlink()
    assert first.path.read_bytes()


def test_one_person_has_so_many_projects_and_no_more(ida, joel, project, monkeypatch):
    monkeypatch.setattr(projects, "MAX_PROJECTS", 2)
    assert ida.post(f"/api/projects/{project.pk}/duplicate").status_code == 200
    assert ida.post(f"/api/projects/{project.pk}/duplicate").status_code == 422
    assert ida.post("/api/projects", {"name": "Third"}, content_type="application/json").status_code == 422
    assert ida.post("/api/samples").status_code == 422
    assert joel.post("/api/projects", {"name": "First"}, content_type="application/json").status_code == 200
