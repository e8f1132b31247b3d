"""What is asked before a body is read, and what every answer says of where a page may load from."""

import logging
import os
import time

import pytest
from django.contrib.auth.password_validation import password_validators_help_texts
from django.db import connection
from django.test import Client

from server.studio import health, room, sign_in

pytestmark = pytest.mark.django_db


class Untouched:
    """A body that nobody may read."""

    def read(self, *_: object) -> bytes:
        raise AssertionError("the body was read")

    readline = read


def send(client, address, length, **more):
    given = {"wsgi.input": Untouched(), "CONTENT_LENGTH": str(length), **more}
    return client.generic("POST", address, b"", content_type="multipart/form-data; boundary=x", **given)


@pytest.fixture
def address(project):
    return f"/api/projects/{project.pk}/footage"


def test_a_stranger_is_turned_away_before_anything_is_read(address):
    answer = send(Client(), address, 10**12)
    assert answer.status_code == 401
    assert answer.json()["title"] == "You are not signed in."
    assert send(Client(enforce_csrf_checks=True), address, 10**6).status_code == 401


def test_too_much_is_turned_away_by_its_length(ida, address, settings):
    settings.UPLOAD_BYTES = 5_000_000_000
    answer = send(ida, address, 5_000_000_001)
    assert answer.status_code == 413
    assert answer.json()["remedy"] == "Send at most 5 GB at a time."


def test_what_there_is_no_room_for_is_not_begun(ida, address, monkeypatch):
    monkeypatch.setattr(room, "free", lambda: room.ROOM_LEFT + 9_000_000)
    assert send(ida, address, 10_000_000).status_code == 507


def test_what_has_no_length_is_not_begun(ida, address):
    answer = send(ida, address, "", HTTP_TRANSFER_ENCODING="chunked")
    assert answer.status_code == 411


def test_every_page_says_where_it_may_load_from_and_runs_no_script_of_its_own(ida):
    policy = ida.get("/api/projects").headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "script-src" not in policy  # as by default: what lies on the server, nothing that stands in a page
    assert "frame-ancestors 'none'" in policy
    assert "Content-Security-Policy" in Client().get("/sign-in/").headers


def test_numbers_that_no_row_has_are_not_there(ida):
    for number in (2**63, 10**30):
        for address in (f"/api/projects/{number}", f"/api/framings/{number}", f"/api/frames/{number}/guides"):
            assert ida.get(address).status_code in (404, 422)


def test_errors_of_the_framework_have_the_form_of_all_others(ida, project):
    wrong = ida.get(f"/api/projects/{project.pk}/cells")
    assert (wrong.status_code, wrong.headers["Content-Type"]) == (405, "application/problem+json")
    assert "POST" in wrong.headers["Allow"]
    assert ida.get("/api/nothing").json()["title"] == "There is nothing here."
    client = Client(enforce_csrf_checks=True)
    client.force_login(project.owner)
    assert client.post("/api/projects", {"name": "x"}, content_type="application/json").json()["status"] == 403


def test_whoever_watches_is_told(settings, tmp_path, monkeypatch):
    assert Client().get("/healthz").json() == {"alive": True}
    (tmp_path / "index.html").touch()
    settings.WEB_DIR, settings.DATA_DIR = tmp_path, tmp_path
    settings.ALLOWED_HOSTS = ["cadrage.example"]

    def missing():
        answer = Client().get("/readyz", headers={"host": "127.0.0.1:8000"})
        absent = [name for name, there in answer.json().items() if not there]
        assert answer.status_code == (503 if absent else 200)
        return absent

    assert missing() == ["worker"]
    health.note_worker()
    assert missing() == []
    long_ago = time.time() - 2 * health.HEARTBEAT_S
    os.utime(tmp_path / ".worker-alive", (long_ago, long_ago))
    assert missing() == ["worker"]
    health.note_worker()
    monkeypatch.setattr(health, "free", lambda: 0)
    assert missing() == ["disk"]
    monkeypatch.undo()
    with connection.cursor() as cursor:
        newest = "SELECT max(id) FROM django_migrations WHERE app = 'studio'"
        cursor.execute(f"DELETE FROM django_migrations WHERE id = ({newest})")
    assert missing() == ["database"]


def test_an_answer_to_head_has_headers_and_no_body(ida, project):
    whole = ida.get(f"/api/projects/{project.pk}")
    head = ida.head("/healthz")
    assert (head.status_code, head.content, head.headers["Content-Length"]) == (200, b"", "15")
    assert whole.content


def test_wrong_passwords_are_counted_and_then_not_looked_at(people, caplog):
    sign_in._failed.clear()
    client = Client()

    def attempt(password, name="ida"):
        return client.post("/sign-in/", {"username": name, "password": password}).status_code

    with caplog.at_level(logging.WARNING):
        assert [attempt("wrong") for _ in range(sign_in.TRIES)] == [200] * sign_in.TRIES
    assert "sign-in failed" in caplog.text
    assert attempt("a long one") == 429
    assert attempt("a long one", "joel") == 302  # another person at the same place
    sign_in._failed.clear()
    assert attempt("wrong") == 200
    assert attempt("a long one") == 302
    assert len(sign_in._failed) == 0


def test_passwords_have_to_be_something():
    assert len(password_validators_help_texts()) == 4
