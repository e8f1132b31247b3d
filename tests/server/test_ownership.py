"""A project and all in it belongs to its owner; for others it is not there."""

import pytest

from server.studio.models import Footage, Framing, Material, Project, ProjectFrame, Render

pytestmark = pytest.mark.django_db

READ = [
    "/api/projects/{project}",
    "/api/projects/{project}/renders",
    "/api/footage/{footage}/strip",
    "/api/footage/{footage}/picture",
    "/api/footage/{footage}/colours",
    "/api/framings/{framing}",
    "/api/framings/{framing}/thumbnail",
    "/api/renders/{render}/file",
    "/api/frames/{frame}/guides",
    "/api/projects/{project}/treatments",
    "/api/framings/{framing}/lineup",
    "/api/frames/{frame}/chart",
    "/api/projects/{project}/history",
    "/api/footage/{footage}/levels",
    "/api/projects/{project}/materials",
    "/api/materials/{material}/picture",
]
WRITE = [
    ("post", "/api/projects/{project}/frames", {"width": 100, "height": 100}),
    ("patch", "/api/projects/{project}", {"name": "Mine"}),
    ("post", "/api/projects/{project}/duplicate", None),
    ("delete", "/api/projects/{project}", None),
    ("post", "/api/projects/{project}/restore", None),
    ("put", "/api/framings/{framing}/design", {"steps": [{"design": {}, "label": "x"}], "version": 1}),
    ("post", "/api/projects/{project}/undo", {}),
    ("post", "/api/projects/{project}/redo", {}),
    ("post", "/api/framings/{framing}/over-time", {"design": {}}),
    ("post", "/api/framings/{framing}/key", {"design": {}, "time": "0"}),
    ("post", "/api/framings/{framing}/keys", {"design": {}}),
    ("post", "/api/framings/{framing}/scope", {"design": {}, "time": "0", "kind": "waveform"}),
    ("post", "/api/framings/{framing}/preview", {"design": {}, "time": "0", "width": 90, "measured": True}),
    ("post", "/api/framings/{framing}/renders", None),
    ("post", "/api/renders/{render}/cancel", None),
    ("delete", "/api/renders/{render}", None),
    ("put", "/api/frames/{frame}", {"frame": {"width": 100, "height": 100}}),
    ("post", "/api/projects/{project}/cells", {"framings": [], "action": {"do": "obey"}}),
    ("post", "/api/projects/{project}/renders", {"framings": []}),
    ("post", "/api/projects/{project}/linked", {"path": "/tmp"}),
    ("post", "/api/framings/{framing}/obey", {"version": 0}),
    ("post", "/api/framings/{framing}/quieten", {"design": {}}),
    ("post", "/api/framings/{framing}/rule", {"version": 0}),
    ("delete", "/api/framings/{framing}/rule", None),
    ("patch", "/api/footage/{footage}", {"name": "mine"}),
    ("post", "/api/footage/{footage}/find", {"path": "/tmp"}),
    ("post", "/api/footage/{footage}/restore", None),
    ("delete", "/api/frames/{frame}", None),
    ("put", "/api/footage/{footage}/interpretation", {"interpretation": {"rotation": 90}}),
    ("post", "/api/framings/{framing}/legible", {"design": {}}),
    ("post", "/api/framings/{framing}/readable", {"design": {}}),
    ("post", "/api/renders/{render}/retry", None),
    ("delete", "/api/materials/{material}", None),
    ("post", "/api/framings/{framing}/extension", {"design": {}}),
    ("post", "/api/framings/{framing}/extension/begin", {"design": {}}),
    ("post", "/api/framings/{framing}/extension/variants", {"design": {}, "side": "left"}),
    ("post", "/api/framings/{framing}/extension/variant", {"design": {}, "side": "left", "variant": 0}),
    ("post", "/api/framings/{framing}/extension/origins", {"design": {}}),
    ("post", "/api/framings/{framing}/extension/to-fit", {"design": {}, "start": "0", "end": "1"}),
    ("post", "/api/framings/{framing}/extension/still", {"design": {}}),
    ("post", "/api/framings/{framing}/extension/use", {"design": {}, "material": "material:1"}),
    ("post", "/api/framings/{framing}/extension/generate", {"design": {}}),
    ("post", "/api/projects/{project}/sides", None),
    ("post", "/api/plates/{plate}/cancel", None),
    ("post", "/api/generations/{generation}/cancel", None),
    ("delete", "/api/footage/{footage}", None),
]


@pytest.fixture
def render(framing):
    Material.objects.create(project=framing.footage.project, name="logo.png", kind="picture", file="none.png")
    return Render.objects.create(framing=framing, plan_json={"frame": framing.frame.frame_json})


def filled(address, framing, render):
    return address.format(
        project=framing.footage.project_id,
        footage=framing.footage_id,
        frame=framing.frame_id,
        framing=framing.pk,
        render=render.pk,
        material=framing.footage.project.materials.get().pk,
        plate=framing.footage.plates.get_or_create(key="k", asked_json={})[0].pk,
        generation=framing.generations.get_or_create(plan_json={}, time="0")[0].pk,
    )


def counts():
    return [model.objects.count() for model in (Project, ProjectFrame, Footage, Framing, Material, Render)]


@pytest.mark.parametrize("address", READ)
def test_others_read_nothing(joel, framing, render, address):
    answer = joel.get(filled(address, framing, render))
    assert answer.status_code == 404
    assert answer.headers["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(("method", "address", "body"), WRITE)
def test_others_change_nothing(joel, framing, render, method, address, body):
    before = counts()
    answer = getattr(joel, method)(filled(address, framing, render), body, content_type="application/json")
    assert answer.status_code == 404
    assert counts() == before


@pytest.mark.parametrize("address", READ)
def test_strangers_are_asked_to_sign_in(client, framing, render, address):
    assert client.get(filled(address, framing, render)).status_code == 401


def test_lists_hold_only_ones_own(ida, joel, framing):
    assert [row["name"] for row in ida.get("/api/projects").json()] == ["Wall"]
    assert joel.get("/api/projects").json() == []


def test_the_page_asks_strangers_to_sign_in(client):
    answer = client.get("/projects/1")
    assert answer.status_code == 302
    assert answer.url.startswith("/sign-in/")


def test_signing_in(client, people):
    answer = client.post("/sign-in/", {"username": "ida", "password": "a long one"})
    assert answer.status_code == 302
    assert client.get("/api/visitor").json() == {
        "name": "ida",
        "signed_in": True,
        "administrator": False,
        "use": None,
        "demonstration": False,
        "folders": False,
        "deliveries": [],
    }


def test_writing_needs_the_page_s_token(people, framing):
    from django.test import Client

    strict = Client(enforce_csrf_checks=True)
    strict.force_login(people[0])
    assert strict.post(f"/api/projects/{framing.footage.project_id}/undo").status_code == 403


def test_there_is_no_open_door_without_the_flag(client, settings, django_user_model):
    django_user_model.objects.create(username=settings.DEMO_USER)
    assert client.get("/api/visitor").status_code == 401


def test_the_open_door_is_for_this_machine_only(rf, settings, django_user_model):
    from django.contrib.auth.models import AnonymousUser
    from django.contrib.sessions.backends.db import SessionStore
    from django.http import HttpResponse

    from server.studio.door import DemonstrationDoor

    settings.DEMO = True
    account = django_user_model.objects.create(username=settings.DEMO_USER)
    door = DemonstrationDoor(lambda request: HttpResponse(request.user.get_username()))
    for address, name in (("127.0.0.1", account.username), ("192.0.2.7", "")):
        request = rf.get("/", REMOTE_ADDR=address)
        request.user, request.session = AnonymousUser(), SessionStore()
        assert door(request).content.decode() == name
