"""People: invited, let go, with what each may use, and taking turns."""

import subprocess
import sys
from functools import partial

import pytest
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from server.studio import sign_in
from server.studio.actions import people as actions
from server.studio.actions import turns
from server.studio.actions.framing_plans import begin
from server.studio.disk_cache import DiskCache
from server.studio.models import Allowance, Analysis, Footage, Invitation, Project, ProjectFrame, Render

pytestmark = pytest.mark.django_db
State = Render.State
ENOUGH = "wall-and-lamp-9"


@pytest.fixture
def head(people):
    """Ida administers."""
    people[0].is_staff = True
    people[0].save()
    client = Client()
    client.force_login(people[0])
    return client


def test_an_invitation_is_followed_once(head):
    row = head.post("/api/house/invitations", {}, content_type="application/json").json()
    guest = Client()
    assert guest.get(row["path"]).status_code == 200
    weak = guest.post(row["path"], {"username": "noor", "password1": "12345678", "password2": "12345678"})
    assert b"too common" in weak.content
    given = {"username": "noor", "password1": ENOUGH, "password2": ENOUGH}
    assert guest.post(row["path"], given).status_code == 302
    assert guest.get("/api/visitor").json()["name"] == "noor"
    assert Client().post(row["path"], {**given, "username": "other"}).status_code == 404
    assert [one["name"] for one in head.get("/api/house").json()["people"]] == ["ida", "joel", "noor"]


def test_an_old_invitation_and_one_that_was_taken_back_open_nothing(head):
    row = actions.invite()
    Invitation.objects.filter(pk=row.pk).update(expires=timezone.now())
    assert Client().get(f"/invited/{row.token}").status_code == 404
    row = actions.invite(administrator=True)
    assert head.delete(f"/api/house/invitations/{row.pk}").status_code == 204
    assert Client().get(f"/invited/{row.token}").status_code == 404


def test_only_administrators_are_told(joel, people):
    assert joel.get("/api/house").status_code == 403
    change = joel.patch(f"/api/house/people/{people[1].pk}", {"administrator": True}, content_type="application/json")
    assert change.status_code == 403
    assert joel.get("/api/visitor").json()["administrator"] is False


def test_who_is_let_go_is_signed_out_at_once(head, joel, people):
    assert joel.get("/api/projects").status_code == 200
    answer = head.patch(f"/api/house/people/{people[1].pk}", {"active": False}, content_type="application/json")
    assert answer.json()["active"] is False
    assert joel.get("/api/projects").status_code == 401
    assert Client().post("/sign-in/", {"username": "joel", "password": "a long one"}).status_code == 200


def test_somebody_who_administers_is_always_left(head, people):
    for change in ({"active": False}, {"administrator": False}):
        answer = head.patch(f"/api/house/people/{people[0].pk}", change, content_type="application/json")
        assert answer.status_code == 422
    people[0].refresh_from_db()
    assert people[0].is_active
    assert people[0].is_staff


def test_what_somebody_may_use_is_told_before_and_refused_after(head, ida, people, project, framing):
    used = Footage.objects.get().size
    Allowance.objects.create(person=people[0], gigabytes=(used + 1000) / 1e9, renders=1)
    told = ida.get("/api/visitor").json()["use"]
    assert (told["used"], told["renders"]) == (used, 1)
    headers = {"HTTP_TUS_RESUMABLE": "1.0.0", "HTTP_UPLOAD_LENGTH": "900"}
    assert ida.post(f"/api/projects/{project.pk}/uploads", **headers).status_code == 201
    second = ida.post(f"/api/projects/{project.pk}/uploads", **headers)
    assert second.status_code == 507
    assert "ida's projects are used" in second.json()["title"]
    assert "ask an administrator" in second.json()["remedy"]
    head.patch(f"/api/house/people/{people[0].pk}", {"gigabytes": 0}, content_type="application/json")
    assert ida.post(f"/api/projects/{project.pk}/uploads", **headers).status_code == 201


def waiting(framing, count):
    plan = {"frame": framing.frame.frame_json}
    return [Render.objects.create(framing=framing, plan_json=plan).pk for _ in range(count)]


@pytest.fixture
def of_joel(people, framing):
    """A framing of the same file in a project of Joel's."""
    project = Project.objects.create(owner=people[1], name="Other")
    frame = ProjectFrame.from_value(project, framing.frame.value)
    frame.save()
    clip = Footage.objects.get()
    clip.pk, clip.project, clip._state.adding = None, project, True
    clip.save()
    return begin(clip, frame)


def order_of_turns():
    """Whose render each would be, were they made one after another."""
    names = []
    while people := [person for person in turns.people_in_turn([Render]) if actions.may_render_more(person)]:
        job = turns.waiting(Render, people[0]).first()
        names.append(job.owner_name)
        Render.objects.filter(pk=job.pk).update(state=State.DONE, finished=timezone.now(), cleared=timezone.now())
    return names


def test_people_take_turns_whoever_ordered_more(framing, of_joel):
    waiting(framing, 4)
    waiting(of_joel, 2)
    assert order_of_turns() == ["ida", "joel", "ida", "joel", "ida", "ida"]


def test_no_more_of_somebodys_are_made_at_a_time_than_may_be(framing, of_joel, people):
    Allowance.objects.create(person=people[0], renders=1)
    first, *_ = waiting(framing, 3)
    Render.objects.filter(pk=first).update(state=State.RUNNING)
    assert order_of_turns() == []
    waiting(of_joel, 1)
    assert order_of_turns() == ["joel"]


def test_people_take_turns_whatever_kind_of_work_they_wait_for(framing, of_joel, monkeypatch):
    """Many analyses of one person do not hold up the render of another."""
    done = []

    def perform(kind, person):
        job = turns.waiting(kind, person).first()
        if job is not None:
            done.append((job.owner_name, kind.call_name))
            kind.objects.filter(pk=job.pk).update(state=State.DONE, finished=timezone.now())
        return job is not None

    for kind in turns.KINDS:
        monkeypatch.setitem(turns._performers, kind.call_name, partial(perform, kind))
    waiting(of_joel, 1)
    kinds = list(Analysis.objects.filter(footage=framing.footage).values_list("kind", flat=True))
    assert len(kinds) > 2
    for _ in range(len(kinds) + 1):
        turns.take("analysis")
    assert done[:3] == [("ida", "analysis"), ("joel", "render"), ("ida", "analysis")]
    assert len(done) == len(kinds) + 1


def test_an_owner_invites_somebody_new_into_a_project(ida, joel, client, project, django_user_model):
    address = f"/api/projects/{project.pk}/invitations"
    assert joel.post(address, {"role": "work"}, content_type="application/json").status_code == 404
    made = ida.post(address, {"role": "work"}, content_type="application/json").json()
    assert [one["role"] for one in ida.get(f"/api/projects/{project.pk}/sharing").json()["invitations"]] == ["work"]
    given = {"username": "nina", "password1": ENOUGH, "password2": ENOUGH}
    assert client.post(made["path"], given).status_code == 302
    assert client.get(f"/api/projects/{project.pk}").json()["role"] == "work"
    assert not django_user_model.objects.get(username="nina").is_staff
    assert Client().post(made["path"], given | {"username": "otto"}).status_code == 404
    assert ida.get(f"/api/projects/{project.pk}/sharing").json()["invitations"] == []


def test_an_invitation_into_a_project_is_taken_back(ida, joel, client, project):
    address = f"/api/projects/{project.pk}/invitations"
    made = ida.post(address, {"role": "see"}, content_type="application/json").json()
    assert joel.delete(f"/api/invitations/{made['id']}").status_code == 404
    assert ida.delete(f"/api/invitations/{made['id']}").status_code == 204
    assert client.get(made["path"]).status_code == 404


def test_wrong_passwords_are_counted_by_all_processes_together(tmp_path):
    counted = "print(DiskCache(sys.argv[1]).count_one('ida from here', 600))"
    code = f"import sys, django; django.setup(); from server.studio.disk_cache import DiskCache; {counted}"
    command = [sys.executable, "-c", code, str(tmp_path)]
    counts = [subprocess.run(command, capture_output=True, text=True, check=True).stdout.strip() for _ in range(2)]
    assert [*counts, str(DiskCache(tmp_path).count_one("ida from here", 600))] == ["1", "2", "3"]


def test_the_page_says_what_was_understood_and_no_secret(head, settings):
    settings.REDIS = "redis://:hidden@10.0.0.5:6379/0"
    told = head.get("/api/house").json()
    said = {one["name"]: one["value"] for one in told["settings"]}
    assert said["CADRAGE_REDIS"] == "10.0.0.5:6379/0"
    assert "hidden" not in str(told)
    assert settings.SECRET_KEY not in str(told)
    assert told["free"] > 0


def test_the_same_from_a_terminal(people, capsys):
    call_command("people", "change", "joel", "--administrator", "yes", "--gigabytes", "2")
    call_command("people", "list")
    told = capsys.readouterr().out
    assert "joel: administrator, 0.00 of 2 GB" in told
    call_command("people", "invite", "--administrator")
    assert "/invited/" in capsys.readouterr().out
    assert Invitation.good.get().administrator
    with pytest.raises(CommandError, match="nobody called"):
        call_command("people", "change", "nobody")
    with pytest.raises(CommandError, match="Nobody would be left"):
        call_command("people", "change", "joel", "--active", "no")


def test_people_change_their_password_and_sign_out(people):
    sign_in._failed.clear()
    client = Client()
    assert client.post("/sign-in/", {"username": "ida", "password": "a long one"}).status_code == 302
    given = {"old_password": "wrong", "new_password1": "quite another 1", "new_password2": "quite another 1"}
    assert client.post("/password/", given).status_code == 200
    assert client.post("/password/", given | {"old_password": "a long one"}).status_code == 302
    assert client.get("/api/projects").status_code == 200  # still signed in
    assert client.post("/sign-out/").status_code == 302
    assert client.get("/api/projects").status_code == 401
    assert Client().post("/sign-in/", {"username": "ida", "password": "a long one"}).status_code == 200
    assert Client().post("/sign-in/", {"username": "ida", "password": "quite another 1"}).status_code == 302
    assert Client().get("/password/").status_code == 302  # strangers are asked to sign in
