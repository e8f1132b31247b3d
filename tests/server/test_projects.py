"""Projects, their frames, and what there is to choose from."""

import pytest

from cadrage.finish import Captions, Finish, Title
from cadrage.surrounds import SURROUND_KINDS
from server.studio.models import Project

pytestmark = pytest.mark.django_db


def post(client, address, body):
    return client.post(address, body, content_type="application/json")


def test_a_new_project_has_a_wide_frame(ida):
    made = post(ida, "/api/projects", {"name": "Foyer"}).json()
    board = ida.get(f"/api/projects/{made['id']}").json()
    assert (board["name"], board["footage"], board["cells"]) == ("Foyer", [], [])
    assert [(row["shape"], row["frame"]["width"]) for row in board["frames"]] == [("16:9", 1920)]


@pytest.mark.parametrize("name", ["", "x" * 121, None, 7])
def test_a_project_needs_a_name(ida, name):
    assert post(ida, "/api/projects", {"name": name}).status_code == 422
    assert not Project.objects.exists()


def test_a_project_is_renamed(ida, project):
    answer = ida.patch(f"/api/projects/{project.pk}", {"name": "Wall, east"}, content_type="application/json")
    assert answer.json()["name"] == "Wall, east"


def test_every_clip_goes_into_every_frame(ida, framing):
    project = framing.footage.project_id
    post(ida, f"/api/projects/{project}/frames", {"name": "Square", "width": 360, "height": 360})
    board = ida.get(f"/api/projects/{project}").json()
    assert len(board["cells"]) == 2
    assert {row["placement"] for row in board["cells"]} == {"whole picture"}
    assert all(row["obeys"] and not row["rule_set"] for row in board["cells"])
    assert len(ida.get(f"/api/projects/{project}").json()["cells"]) == 2


def test_a_frame_without_a_name_is_called_by_its_size(ida, project):
    made = post(ida, f"/api/projects/{project.pk}/frames", {"width": 400, "height": 300}).json()
    assert (made["frame"]["name"], made["shape"]) == ("400×300", "4:3")


def test_a_project_holds_a_dozen_frames(ida, project):
    answers = [post(ida, f"/api/projects/{project.pk}/frames", {"width": 100, "height": 100}) for _ in range(12)]
    assert [answer.status_code for answer in answers] == [200] * 11 + [422]
    assert "at most 12" in answers[-1].json()["title"]


def test_the_catalogue(ida):
    found = ida.get("/api/catalogue").json()
    frames = [row["format"]["frame"] for row in found["frames"]]
    sizes = {(frame["width"], frame["height"]) for frame in frames}
    assert sizes >= {(1920, 1080), (1080, 1920), (1080, 1080), (1440, 1080), (3840, 2160), (4096, 1716), (720, 576)}
    assert all(row["format"]["source"] for row in [*found["frames"], *found["sources"]])
    assert found["squeezes"] == ["1.25", "1.3", "4/3", "1.5", "1.8", "2"]
    assert [kind["kind"] for kind in found["surrounds"]] == list(SURROUND_KINDS)
    assert {part["name"] for part in found["finish"]} == set(Finish.model_fields) - {"captions", "titles"}
    assert {control["name"] for control in found["title"]} == set(Title.model_fields)
    assert {control["name"] for control in found["captions"]} == set(Captions.model_fields)


def test_what_is_not_there_is_told_in_one_form(ida):
    answer = ida.get("/api/projects/999")
    assert answer.status_code == 404
    assert answer.json() == {
        "type": "about:blank",
        "status": 404,
        "title": "There is nothing here.",
        "remedy": "Go back to your projects.",
        "clip": None,
    }
