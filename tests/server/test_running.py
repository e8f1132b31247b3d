"""Running a server: what lies about, full disks, logs, numbers for whoever watches, backups that come back."""

import errno
import hashlib
import json
import logging
import os
import re
import sqlite3
import subprocess
import sys
import time
from datetime import timedelta
from pathlib import Path

import pytest
from diskcache import Cache
from django.conf import settings
from django.core.management import call_command
from django.test import Client
from django.utils import timezone

from cadrage.errors import CannotWrite
from server.studio import logs
from server.studio.actions import analyses, jobs, renders, sweeping, uploads, work
from server.studio.models import Footage, Render, Upload
from server.together import Kept, Together
from tests.application import ROOT, Application
from tests.siege.people import Person

State = Render.State
pytestmark = [pytest.mark.django_db, pytest.mark.timeout(180)]


def aged(path, seconds=2 * sweeping.OLD):
    then = time.time() - seconds
    os.utime(path, (then, then))
    return path


def test_what_is_nobodys_is_told_and_swept_and_nothing_else(framing, project, people, capsys):
    incoming, footage, results = (
        Path(one) for one in (settings.INCOMING_DIR, settings.FOOTAGE_DIR, settings.RENDERS_DIR)
    )
    going = uploads.begin(project, people[0], "a.mp4", 100)
    old = [incoming / "left", footage / "nobody.mp4", results / "987654.mp4"]
    for path in (*old, incoming / "young"):
        path.write_bytes(b"x")
    for path in (*old, going.path, framing.footage.path):
        aged(path)
    found = sweeping.look()
    assert (found.arriving, set(found.orphans)) == ([old[0]], set(old[1:]))
    sweeping.sweep()
    assert not any(path.exists() for path in old)
    assert (incoming / "young").exists()
    assert going.path.exists()
    assert framing.footage.path.exists()
    (incoming / "young").unlink()
    framing.footage.path.unlink()
    assert sweeping.look().missing == ["clip Small clip.mp4"]


def test_what_does_not_arrive_for_long_is_given_up(project, people):
    row = uploads.begin(project, people[0], "a.mp4", 100)
    Upload.objects.update(begun=timezone.now() - uploads.KEPT - timedelta(minutes=1))
    sweeping.sweep()
    assert not Upload.objects.exists()
    assert not row.path.exists()


def test_while_the_disk_is_full_renders_wait_and_then_go_on_by_themselves(framing, monkeypatch):
    job = renders.order(framing)
    monkeypatch.setattr(renders, "free_bytes", lambda: 0)
    work.perform_next()
    job.refresh_from_db()
    assert (job.state, job.phase) == (State.QUEUED, Render.NO_ROOM)
    monkeypatch.undo()
    filled = []

    def full(*given, **more):
        if not filled:
            filled.append(True)
            monkeypatch.setattr(renders, "free_bytes", lambda: 0)
            raise CannotWrite("The disk is full.", remedy="Make room.")
        return finish(*given, **more)

    finish = work.finish
    monkeypatch.setattr(work, "finish", full)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.QUEUED  # and not failed
    monkeypatch.setattr(renders, "free_bytes", lambda: 10**12)
    work.perform_next()
    job.refresh_from_db()
    assert job.state == State.DONE


def test_while_a_folder_cannot_be_written_jobs_wait_and_say_so(framing, monkeypatch, caplog):
    job, row = renders.order(framing), framing.footage.analyses.filter(state=State.QUEUED).first()
    monkeypatch.setattr(renders.os, "access", lambda folder, _: folder != settings.RENDERS_DIR)
    work.perform_next()
    job.refresh_from_db()
    assert (job.state, job.phase) == (State.QUEUED, Render.NO_ROOM)
    monkeypatch.undo()

    def kept_out(path):
        raise OSError(errno.EROFS, "Read-only file system", str(path))

    monkeypatch.setattr(jobs, "locked", kept_out)
    for perform in (work.perform_next, analyses.perform_next):
        perform()
    assert "Read-only" in caplog.text
    for one in (job, row):
        one.refresh_from_db()
        assert one.state == State.QUEUED
    monkeypatch.undo()
    analyses.perform_next()
    work.perform_next()
    for one in (job, row):
        one.refresh_from_db()
        assert one.state == State.DONE


@pytest.mark.parametrize("error", [sqlite3.OperationalError("attempt to write a readonly database"), OSError(30, "no")])
def test_pictures_are_shown_where_the_cache_cannot_be_written(ida, framing, monkeypatch, error):
    def broken(*given, **more):
        raise error

    for name in ("get", "set"):
        monkeypatch.setattr(Cache, name, broken)
    for _ in range(2):
        answer = ida.get(f"/api/framings/{framing.pk}/thumbnail?width=77")
        assert (answer.status_code, answer["Content-Type"]) == (200, "image/jpeg")


def test_a_disk_that_fills_up_while_a_file_arrives_is_told(ida, project, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(uploads, "append", full)
    headers = {"HTTP_TUS_RESUMABLE": "1.0.0", "HTTP_UPLOAD_LENGTH": "9"}
    address = ida.post(f"/api/projects/{project.pk}/uploads", **headers).headers["Location"]
    piece = {"HTTP_TUS_RESUMABLE": "1.0.0", "HTTP_UPLOAD_OFFSET": "0"}
    answer = ida.patch(address, b"x" * 9, content_type="application/offset+octet-stream", **piece)
    assert answer.status_code == 507
    assert answer.json()["title"] == "There is no more room on the server."


def test_a_disk_that_is_full_as_a_file_is_taken_in_loses_nothing(project, people, monkeypatch):
    row = uploads.begin(project, people[0], "a.mp4", 0)

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(uploads, "accept_all", full)
    with pytest.raises(OSError, match="No space"):
        uploads.take_in(project, [row])
    assert Upload.objects.get() == row
    assert row.path.exists()


def test_logs_say_who_and_as_json_for_machines(ida, project, caplog):
    with caplog.at_level(logging.INFO, logger="server"):
        caplog.handler.addFilter(logs.Who())
        caplog.handler.setFormatter(logs.AsJson())
        ida.patch(f"/api/projects/{project.pk}", {"name": "Näher"}, content_type="application/json")
    told = json.loads(logs.AsJson().format(caplog.records[-1]))
    assert (told["person"], told["level"]) == ("ida", "info")
    assert re.fullmatch(rf"PATCH /api/projects/{project.pk} 200 in \d+ ms", told["message"])
    assert logs.person.get() == "-"


def test_numbers_are_for_administrators_and_for_who_has_the_token(ida, people, framing, settings):
    assert Client().get("/metrics").status_code == 403
    assert ida.get("/metrics").status_code == 403
    settings.METRICS_TOKEN = "a token"
    assert Client().get("/metrics", HTTP_AUTHORIZATION="Bearer another").status_code == 403
    told = Client().get("/metrics", HTTP_AUTHORIZATION="Bearer a token").content.decode()
    assert "cadrage_projects 1.0" in told
    assert re.search(r"cadrage_free_bytes \d", told)
    assert re.search(r'cadrage_requests_total\{method="GET",status="4xx"\} \d', told)


def test_a_process_that_ends_is_started_again_and_the_others_go_on(tmp_path):
    """The whole thing: what is started as one dies as one too, and not because one of it did."""
    note = tmp_path / "note"
    brief = [sys.executable, "-c", f"open({str(note)!r}, 'a').write('x')"]
    steady = [sys.executable, "-c", "import time; time.sleep(60)"]
    together = Together([Kept(brief), Kept(steady)])
    for _ in range(4):
        for kept in together.all:
            kept.look(time.monotonic())
        together.all[0].process.wait(10)
        together.all[0].wait = together.all[0].again = 0.0
        together.all[0].look(time.monotonic())
        together.all[0].again = 0.0
    assert together.all[1].process.poll() is None
    assert len(note.read_text()) >= 3
    together.all[1].ask_to_end()
    together.all[1].see_off(time.monotonic() + 10)
    assert together.all[1].process.poll() is not None


def digests(folder):
    return {
        path.relative_to(folder).as_posix(): hashlib.sha256(path.read_bytes()).hexdigest()
        for top in ("footage", "renders")
        for path in sorted((folder / top).rglob("*"))
        if path.is_file() and not path.name.startswith(".")
    }


def test_a_backup_made_while_people_work_comes_back_whole(tmp_path, small_clip):
    archive, again = tmp_path / "all.tar", tmp_path / "again"
    with Application(tmp_path / "first") as first:
        person = Person(first.address)
        project = person.project("Kept")
        person.add(project, small_clip)
        person.rendered(project, person.framing(project)["id"])
        first.manage("backup", str(archive))
        board, kept = person.get(f"/api/projects/{project}"), digests(first.folder)
        refused = subprocess.run(
            [sys.executable, "manage.py", "restore", str(archive)],
            cwd=ROOT, env=first.environment, capture_output=True, text=True, check=False,
        )  # fmt: skip
        assert "There is a database already." in refused.stderr
    moved = {**first.environment, "CADRAGE_DATA": str(again)}
    subprocess.run([sys.executable, "manage.py", "restore", str(archive)], cwd=ROOT, env=moved, check=True)
    assert digests(again) == kept
    with Application(again) as second:
        assert Person(second.address).get(f"/api/projects/{project}") == board
    damaged = bytearray(archive.read_bytes())
    damaged[archive.stat().st_size // 2] ^= 0xFF
    archive.write_bytes(damaged)
    told = subprocess.run(
        [sys.executable, "manage.py", "restore", str(archive)],
        cwd=ROOT, env={**moved, "CADRAGE_DATA": str(tmp_path / "third")}, capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert "damaged" in told.stderr
    assert not (tmp_path / "third" / "cadrage.sqlite3").exists()


def test_the_check_tells_what_lies_about(framing, monkeypatch, capsys):
    framing.footage.path.unlink()
    monkeypatch.setattr(sys, "argv", ["manage.py", "check"])
    call_command("check")
    told = capsys.readouterr()
    assert "Its file is missing: clip Small clip.mp4" in told.out + told.err
    assert Footage.objects.count() == 1
