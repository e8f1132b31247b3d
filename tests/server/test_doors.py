"""Every route of the OpenAPI document, as a stranger, another person, one who sees, one who works, and by a link."""

import json
import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.test import Client
from django.utils import timezone

from server.studio.access import LOOKING, SHOWN, TAKEN
from server.studio.methods import SAFE
from server.studio.models import Invitation, LookLink, Material, Member, Project, Render, Treatment, Upload
from tests.server.examples import Examples

pytestmark = pytest.mark.django_db
DOCUMENT = json.loads((Path(__file__).parents[2] / "web" / "src" / "api" / "openapi.json").read_text())
EXAMPLES = Examples(DOCUMENT)
ROUTES = [
    pytest.param(method.upper(), path, operation, id=f"{method} {path}")
    for path, operations in DOCUMENT["paths"].items()
    for method, operation in operations.items()
]
OF_ALL = re.compile(
    r"^/api/(visitor|projects|catalogue(/derived|/active)?|formats|settings|samples|folders|account.*)$"
)
"""Routes outside projects: personal lists, and data that is the same for everyone."""
OF_ONE = re.compile(r"^/api/(formats|settings|uploads)/")
"""Routes of data that belongs to one person."""
OF_THE_HOUSE = re.compile(r"^/api/house")
"""Routes for administrators."""
OF_OWNERS = [
    ("DELETE", r"/api/projects/\d+"),
    ("PATCH", r"/api/projects/\d+"),
    ("POST", r"/api/projects/\d+/(restore|duplicate|members|links|invitations)"),
    ("GET", r"/api/projects/\d+/sharing"),
    ("DELETE", r"/api/links/\d+"),
    ("DELETE", r"/api/invitations/\d+"),
    ("DELETE", r"/api/members/\d+"),
]


@pytest.fixture
def sharers(django_user_model):
    return [django_user_model.objects.create_user(name, password="a long one") for name in ("sees", "works", "third")]


@pytest.fixture
def there(project, framing, people, sharers):
    """Ids of everything that a route can name, all in Ida's project, which is shared."""
    sees, works, third = sharers
    Member.objects.create(project=project, person=sees, role="see")
    Member.objects.create(project=project, person=works, role="work")
    render = Render.objects.create(framing=framing, plan_json={"frame": framing.frame.frame_json})
    expires = timezone.now() + timedelta(days=1)
    link = LookLink.objects.create(project=project, expires=expires)
    treatment = {"name": "Calm"}
    return {
        "project_id": project.pk,
        "footage_id": framing.footage_id,
        "frame_id": framing.frame_id,
        "framing_id": framing.pk,
        "render_id": render.pk,
        "material_id": Material.objects.create(project=project, name="a.png", kind="picture", file="none.png").pk,
        "plate_id": framing.footage.plates.create(key="k", asked_json={}).pk,
        "generation_id": framing.generations.create(plan_json={}, time="0").pk,
        "analysis_id": framing.footage.analyses.first().pk,
        "treatment_id": Treatment.objects.create(owner=people[0], project=project, treatment_json=treatment).pk,
        "own_id": 1,
        "token": Upload.objects.create(project=project, sender=people[0], name="a", size=9).token,
        "verb": "cancel",
        "member_id": Member.objects.create(project=project, person=third, role="see").pk,
        "link_id": link.pk,
        "person_id": people[0].pk,
        "invitation_id": Invitation.objects.create(project=project, expires=expires).pk,
        "link": link,
    }


def client_of(person):
    client = Client()
    client.force_login(person)
    return client


def ask(client, method, path, operation, there, **more):
    address = path.format(**there)
    if EXAMPLES.takes_files(operation):
        return address, client.generic(method, address, b"", content_type="multipart/form-data; boundary=x")
    given = EXAMPLES.body(operation)
    needed = {one["name"]: "1" for one in operation.get("parameters", []) if one["in"] == "query" and one["required"]}
    if method in SAFE:
        return address, client.generic(method, address, QUERY_STRING="&".join(f"{k}={v}" for k, v in needed.items()))
    sent = json.dumps(given["data"]) if given else ""
    return address, client.generic(method, address, sent, content_type="application/json", **more)


def is_of_owners(method, address):
    return any(method == way and re.fullmatch(pattern, address) for way, pattern in OF_OWNERS)


def is_of_a_project(path):
    return not any(pattern.match(path) for pattern in (OF_ALL, OF_ONE, OF_THE_HOUSE))


@pytest.mark.parametrize(("method", "path", "operation"), ROUTES)
def test_strangers_are_turned_away(there, method, path, operation):
    _, answer = ask(Client(), method, path, operation, there)
    assert answer.status_code == 401
    assert answer.headers["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(("method", "path", "operation"), ROUTES)
def test_for_other_people_nothing_is_there(joel, there, method, path, operation):
    if OF_ALL.match(path):
        pytest.skip("it is everybody's own")
    _, answer = ask(joel, method, path, operation, there)
    assert answer.status_code in ({403} if OF_THE_HOUSE.match(path) else {404, 422}), answer.content
    if answer.status_code == 422:  # a body that no example gets right is looked at before whose it is
        assert not answer.json()["clip"]


@pytest.mark.parametrize(("method", "path", "operation"), ROUTES)
def test_who_sees_changes_nothing(sharers, there, method, path, operation):
    if not is_of_a_project(path):
        pytest.skip("it is of no project")
    address, answer = ask(client_of(sharers[0]), method, path, operation, there)
    changes = method not in SAFE and not LOOKING.match(address)
    if is_of_owners(method, address) or changes:
        assert answer.status_code in (403, 404, 422), answer.content
        assert answer.status_code != 404 or "members" in path
    else:
        assert answer.status_code != 403, answer.content


@pytest.mark.parametrize(("method", "path", "operation"), ROUTES)
def test_who_works_is_let_do_all_but_what_owners_do(sharers, there, method, path, operation):
    if not is_of_a_project(path):
        pytest.skip("it is of no project")
    address, answer = ask(client_of(sharers[1]), method, path, operation, there)
    assert (answer.status_code == 403) == (is_of_owners(method, address) and answer.status_code != 422)


@pytest.mark.parametrize(("method", "path", "operation"), ROUTES)
def test_a_link_shows_some_and_changes_nothing(there, method, path, operation):
    client = Client()
    assert client.get(f"/look/{there['link'].token}").status_code == 302
    address, answer = ask(client, method, path, operation, there)
    shown = method in SAFE and SHOWN.match(address)
    assert (answer.status_code == 401) == (not shown), answer.content


def test_a_link_lets_take_files_only_where_it_says_so_and_until_it_is_revoked(there, ida):
    client, link = Client(), there["link"]
    client.get(f"/look/{link.token}")
    taken = f"/api/projects/{link.project_id}/delivery/sheet"
    assert TAKEN.match(taken)
    assert client.get(taken).status_code == 401
    assert client.get(f"/api/renders/{there['render_id']}/file?download=true").status_code == 401
    link.downloads = True
    link.save()
    assert client.get(taken).status_code == 404  # nothing is rendered yet
    assert client.get(f"/projects/{link.project_id}").status_code in (200, 503)
    assert client.get("/projects/999").status_code == 302
    assert ida.delete(f"/api/links/{link.pk}").status_code == 204
    assert client.get(f"/api/projects/{link.project_id}").status_code == 401
    assert client.get(f"/look/{link.token}").status_code == 404


def test_a_link_that_has_expired_opens_nothing(there):
    client, link = Client(), there["link"]
    client.get(f"/look/{link.token}")
    link.expires = timezone.now()
    link.save()
    assert client.get(f"/api/projects/{link.project_id}").status_code == 401


def test_pictures_that_are_kept_are_the_owners_too(ida, joel, there):
    """A stamp says which picture it is, and opens no door."""
    address = f"/api/framings/{there['framing_id']}/thumbnail?width=60&stamp=x"
    assert ida.get(address).status_code == 200
    assert joel.get(address).status_code == 404
    assert Client().get(address).status_code == 401


def test_sharing_by_name_and_leaving(ida, sharers, project, framing, people):
    address = f"/api/projects/{project.pk}/members"
    given = {"name": " SEES ", "role": "see"}
    member = ida.post(address, given, content_type="application/json").json()
    assert (member["name"], member["role"]) == ("sees", "see")
    assert ida.post(address, {**given, "role": "work"}, content_type="application/json").json()["id"] == member["id"]
    for refused in ("nobody", people[0].username):
        answer = ida.post(address, {"name": refused, "role": "see"}, content_type="application/json")
        assert answer.status_code == 422
    friend = client_of(sharers[0])
    (line,) = friend.get("/api/projects").json()
    assert (line["owner"], line["role"], line["membership"]) == ("ida", "work", member["id"])
    assert friend.get(f"/api/projects/{project.pk}").json()["role"] == "work"
    assert friend.delete(f"/api/members/{member['id']}").status_code == 204
    assert friend.get("/api/projects").json() == []


def test_who_works_reaches_nothing_of_the_owners_other_projects(ida, sharers, project, framing, people, client):
    from server.studio.models import Project

    other = Project.objects.create(owner=people[0], name="Private")
    secret = Material.objects.create(project=other, name="a.png", kind="picture", file="none.png", info_json=None)
    works = client_of(sharers[1])
    Member.objects.create(project=project, person=sharers[1], role="work")
    seen = works.get(f"/api/framings/{framing.pk}").json()
    design = {part: seen["plan"][part] for part in ("placement", "finish", "motion", "shots")}
    design["surround"] = {"kind": "still", "of": secret.ref}
    body = {"design": design, "time": "0", "width": 90}
    answer = works.post(f"/api/framings/{framing.pk}/preview", body, content_type="application/json")
    assert answer.status_code == 422
    assert "is missing" in answer.json()["title"]


def test_downloads_of_one_link_are_not_those_of_another(there, people):
    """A browser that has opened a link with downloads gets no files of a project whose link allows none."""
    other = Project.objects.create(owner=people[0], name="Another")
    expires = timezone.now() + timedelta(days=1)
    generous = LookLink.objects.create(project=other, expires=expires, downloads=True)
    client, link = Client(), there["link"]
    client.get(f"/look/{link.token}")
    client.get(f"/look/{generous.token}")
    for part in ("sheet", "sheet?form=csv", "sheet?form=json", "files"):
        assert client.get(f"/api/projects/{link.project_id}/delivery/{part}").status_code == 403
    assert client.get(f"/api/renders/{there['render_id']}/file?download=true").status_code == 403
    assert client.get(f"/api/projects/{other.pk}/delivery/sheet").status_code == 404  # nothing is rendered in it
