"""What people send and cannot mean well: names, ranges, log lines; and what is asked of quotas, disks and passwords."""

import json
import logging
import shutil
import stat
from io import StringIO
from pathlib import Path

import pytest
from django.conf import settings as configured
from django.db.utils import OperationalError
from django.test import Client, RequestFactory

from cadrage.errors import Busy
from cadrage.formats import Frame
from cadrage.values import visible
from server.studio.actions import backups, duplicating, samples, uploads
from server.studio.actions import footage as clips
from server.studio.api import errors
from server.studio.files import send_file
from server.studio.logs import AsJson, Who
from server.studio.models import Allowance, Footage, Project
from server.studio.room import NoRoom

pytestmark = pytest.mark.django_db

SENT = "tram\u202egpm.4\u0000\n\u2066.mp4"


def test_names_hold_nothing_that_cannot_be_seen(ida, project, small_clip):
    assert visible(SENT) == "tramgpm.4.mp4"
    assert visible("नमस्\u200dते") == "नमस्\u200dते"  # which is spelled with a joiner
    assert Frame(width=64, height=64, name="Wi\u202ede\n").name == "Wide"
    address = f"/api/projects/{project.pk}"
    answer = ida.patch(address, {"name": SENT}, content_type="application/json")
    assert answer.status_code == 200
    assert Project.objects.get(pk=project.pk).name == "tramgpm.4.mp4"
    assert ida.patch(address, {"name": "\u202e\n"}, content_type="application/json").status_code == 422
    row = clips.import_file(project, SENT, Path(shutil.copy(small_clip, configured.INCOMING_DIR)))
    assert row.name == "tramgpm.4.mp4"


@pytest.mark.parametrize("asked", [f"bytes={'9' * 5000}-", f"bytes=-{'9' * 5000}", f"bytes=0-{'1' * 5000}", "bytes=٣-"])
def test_a_range_that_is_none_gets_the_whole_file(tmp_path, asked):
    path = tmp_path / "file.mp4"
    path.write_bytes(b"0123456789")
    response = send_file(RequestFactory().get("/", headers={"range": asked}), path, "video/mp4", None)
    assert (response.status_code, b"".join(response.streaming_content)) == (200, b"0123456789")


@pytest.mark.parametrize("as_json", [False, True])
def test_nobody_writes_log_lines_of_their_own(as_json):
    stream = StringIO()
    handler = logging.StreamHandler(stream)
    handler.addFilter(Who())
    handler.setFormatter(AsJson() if as_json else logging.Formatter("%(levelname)s %(message)s"))
    record = logging.LogRecord("server", logging.INFO, "", 0, "POST %s 404", ("/x\n2026 CRITICAL all is lost",), None)
    handler.handle(record)
    lines = stream.getvalue().splitlines()
    assert len(lines) == 1
    if as_json:
        assert "\\n" in json.loads(lines[0])["message"]


def test_a_backup_is_readable_for_its_owner_only(tmp_path, project, monkeypatch):
    # A copy of the database cannot be made within the transaction of a test.
    monkeypatch.setattr(backups, "_snapshot", lambda target: target.write_bytes(b"database"))
    backups.back_up(tmp_path / "backup.tar", report=lambda _: None)
    assert stat.S_IMODE((tmp_path / "backup.tar").stat().st_mode) == 0o600


@pytest.fixture
def little(project, framing):
    """The owner of a project may use no more than it takes."""
    Footage.objects.filter(pk=framing.footage_id).update(size=900_000)
    Allowance.objects.create(person=project.owner, gigabytes=0.001)
    return project


def test_every_way_of_taking_something_in_asks_for_the_quota(little, ida, small_clip, django_user_model):
    with pytest.raises(NoRoom):
        duplicating.duplicate(little)
    with pytest.raises(NoRoom):
        samples.begin_with_samples(little.owner)
    with pytest.raises(NoRoom):
        uploads.begin(little, little.owner, "more.mp4", 200_000)
    assert Project.objects.filter(owner=little.owner).count() == 1
    row = little.footage.get()
    for address in (f"/api/projects/{little.pk}/footage", f"/api/footage/{row.pk}/replace"):
        Footage.objects.filter(pk=row.pk).update(size=1 if "replace" in address else 990_000)
        padded = small_clip.read_bytes() + bytes(1_200_000)
        upload = {"file": _named("more.mp4", padded)}
        assert ida.post(address, upload).status_code == 507, address


def _named(name, data):
    from django.core.files.uploadedfile import SimpleUploadedFile

    return SimpleUploadedFile(name, data, "video/mp4")


@pytest.mark.django_db(transaction=True)
def test_sample_projects_that_are_still_drawn_are_few(people):
    for _ in range(samples.MAX_UNFINISHED):
        samples.begin_with_samples(people[0])
    with pytest.raises(Busy):
        samples.begin_with_samples(people[0])
    samples.begin_with_samples(people[1])


def test_a_person_is_not_locked_out_by_wrong_passwords_from_elsewhere(people):
    from server.studio import sign_in

    sign_in._failed.clear()

    def attempt(password, place, name="ida"):
        answer = Client(REMOTE_ADDR=place).post("/sign-in/", {"username": name, "password": password})
        return answer.status_code

    assert {attempt("wrong", "192.0.2.1") for _ in range(sign_in.TRIES)} == {200}
    assert attempt("a long one", "192.0.2.1") == 429
    assert attempt("a long one", "192.0.2.2") == 302
    for number in range(sign_in.TRIES_FROM_PLACE - sign_in.TRIES):
        attempt("wrong", "192.0.2.1", f"somebody {number}")
    assert attempt("a long one", "192.0.2.1", "joel") == 429
    sign_in._failed.clear()


@pytest.mark.parametrize(
    ("told", "status"), [("database or disk is full", 507), ("database is locked", 503), ("no such table: x", 500)]
)
def test_trouble_of_the_database_is_told_in_the_usual_form(told, status, ida, monkeypatch, caplog):
    def fail(*_, **__):
        raise OperationalError(told)

    monkeypatch.setattr("server.studio.api.owned._row", fail)
    answer = ida.get("/api/projects/1")
    assert (answer.status_code, answer.json()["status"]) == (status, status)
    assert [line.exc_info[0] for line in caplog.records if line.exc_info] == [OperationalError]
    client = Client(raise_request_exception=False)
    client.cookies = ida.cookies
    monkeypatch.setattr("server.studio.door.DemonstrationDoor.__call__", fail)
    assert client.get("/api/projects/1").status_code == status
    assert errors.usual(500).status_code == 500
