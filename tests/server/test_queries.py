"""What is asked for many costs the database no more questions than for a few."""

import shutil
from pathlib import Path

import pytest
from django.conf import settings
from django.db import connection
from django.test.utils import CaptureQueriesContext

from cadrage.formats import Frame
from cadrage.plan import Design
from cadrage.surrounds import Plain, Still
from server.studio.actions import framing_plans, framings, renders, treatments
from server.studio.actions.footage import import_file
from server.studio.actions.projects import begin
from server.studio.models import Material, ProjectFrame
from tests.server.page import ask

pytestmark = pytest.mark.django_db
FEW, MANY = 2, 6


def cells_of(owner, clip, count):
    """A project of some clips in two frames, each framing its own way, followed by a treatment, and rendered."""
    project = begin(owner, f"{count} clips", (Frame(width=180, height=320), Frame(width=320, height=180)))
    picture = Material.objects.create(project=project, name="wall.png", kind="picture", file="wall.png")
    shutil.copyfile(clip, picture.path)
    for number in range(count):
        copy = Path(settings.INCOMING_DIR) / "arriving.mp4"
        shutil.copyfile(clip, copy)
        import_file(project, f"Clip {number}.mp4", copy)
    rows = framing_plans.begin_all(project)
    card = treatments.save(owner, project, treatments.CoreTreatment(name="Card", surround=Plain(colour="#202020")))
    treatments.apply(card.value, rows, card)
    framings.give(rows[::2], Design(surround=Still(of=picture.ref)), "Still")
    for row in rows:
        renders.order(row)
    return project


@pytest.fixture
def both(people, small_clip):
    return [cells_of(people[0], small_clip, count) for count in (FEW, MANY)]


def counted(work):
    with CaptureQueriesContext(connection) as seen:
        work()
    return len(seen)


@pytest.mark.parametrize("what", ["", "/renders", "/treatments", "/queue", "/kept"])
def test_what_is_shown_of_a_project(ida, both, what):
    def get(project):
        answer = (
            ida.post(f"/api/projects/{project.pk}{what}", {}, content_type="application/json")
            if what == "/kept"
            else ida.get(f"/api/projects/{project.pk}{what}")
        )
        assert answer.status_code == 200

    get(both[0])  # what is asked once for a session is not of this
    few, many = (counted(lambda project=project: get(project)) for project in both)
    assert many == few


ACTIONS = [
    {"do": "place", "placement": {"tightness": "0.75"}},
    {"do": "move", "offset_x": "-12.5", "offset_y": "3"},
    {"do": "treat", "treatment": {"name": "Dim", "surround": {"kind": "plain", "colour": "#303030"}}},
    {"do": "rule"},
    {"do": "obey"},
]


@pytest.mark.parametrize("action", ACTIONS, ids=lambda action: action["do"])
def test_what_is_done_to_many_cells(ida, both, action):
    def do(project):
        rows = list(ProjectFrame.objects.filter(project=project).values_list("framings", flat=True))
        body = {"framings": rows, "action": action}
        answer = ida.post(f"/api/projects/{project.pk}/cells", body, content_type="application/json")
        assert sorted(cell["id"] for cell in answer.json()) == sorted(rows)

    few, many = (counted(lambda project=project: do(project)) for project in both)
    assert many == few


@pytest.mark.parametrize("action", ACTIONS, ids=lambda action: action["do"])
def test_what_is_done_to_no_cells_changes_none(ida, both, action):
    body = {"framings": [], "action": action}
    answer = ida.post(f"/api/projects/{both[0].pk}/cells", body, content_type="application/json")
    assert (answer.status_code, answer.json()) == (200, [])


def test_looking_tries_and_changing_one_framing_ask_little(ida, both):
    framing = framing_plans.begin_all(both[1])[0]
    plan = framing_plans.plan_of(framing).model_dump(mode="json")
    assert counted(lambda: ask(ida, framing, "preview", plan, measured=True)) <= 9
