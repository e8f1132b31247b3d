"""Clips: looked at, removed and brought back, replaced, renamed, linked, found again."""

import io
import os
import shutil
from datetime import timedelta
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.db.utils import OperationalError
from django.utils import timezone
from PIL import Image

from cadrage.analyses import ANALYSES
from cadrage.analysis import Found
from cadrage.analysis.fields import FieldsFound
from cadrage.plan import Range
from server.studio.actions import footage as actions
from server.studio.actions import removing
from server.studio.actions.analyses import settled, subject_of
from server.studio.api.schemas import FootageOut
from server.studio.management.commands import work as work_command
from server.studio.models import Footage
from server.studio.models.analysis import store
from tests.bar_cases import LETTERBOX, Case
from tests.clips import write_clip

pytestmark = pytest.mark.django_db


def board_of(client, framing):
    return client.get(f"/api/projects/{framing.footage.project_id}").json()


def send(client, address, path, name=None):
    return client.post(address, {"file": SimpleUploadedFile(name or path.name, path.read_bytes())})


def test_a_removed_clip_can_be_brought_back_and_is_purged_later(ida, framing, django_capture_on_commit_callbacks):
    footage = framing.footage
    assert ida.delete(f"/api/footage/{footage.pk}").status_code == 204
    board = board_of(ida, framing)
    assert (board["footage"], board["cells"]) == ([], [])
    assert board["gone"] == [{"id": footage.pk, "name": footage.name}]
    assert ida.get(f"/api/framings/{framing.pk}").status_code == 404
    assert footage.path.exists()
    removing.purge()
    assert ida.post(f"/api/footage/{footage.pk}/restore").status_code == 200
    assert len(board_of(ida, framing)["cells"]) == 1
    ida.delete(f"/api/footage/{footage.pk}")
    Footage.everything.update(removed=timezone.now() - actions.UNDO_TIME - timedelta(seconds=1))
    with django_capture_on_commit_callbacks(execute=True):
        removing.purge()
    assert not footage.path.exists()
    assert not Footage.everything.exists()


def test_a_replaced_clip_keeps_its_framings(ida, framing, tmp_path, django_capture_on_commit_callbacks):
    old, footage = framing.footage.path, framing.footage
    other = write_clip(tmp_path / "other.mp4", size=(640, 360), frames=8)
    with django_capture_on_commit_callbacks(execute=True):
        answer = send(ida, f"/api/footage/{footage.pk}/replace", other).json()
    assert (answer["summary"], answer["name"], answer["analysing"]) == ("640×360, 25 fps", footage.name, True)
    assert ida.get(f"/api/framings/{framing.pk}").status_code == 200
    assert not old.exists()
    assert send(ida, f"/api/footage/{footage.pk}/replace", other.with_name("other.mp4")).status_code == 200


def test_a_clip_is_not_replaced_by_what_is_none(ida, framing):
    answer = ida.post(f"/api/footage/{framing.footage_id}/replace", {"file": SimpleUploadedFile("a.mp4", b"no")})
    assert answer.status_code == 422
    assert framing.footage.path.exists()


def test_two_clips_of_one_name_and_the_same_file_twice(ida, framing, small_clip):
    address = f"/api/projects/{framing.footage.project_id}/footage"
    again = send(ida, address, small_clip, framing.footage.name).json()
    assert again["name"] == "Small clip 2.mp4"
    assert again["twin"] == "Small clip.mp4"
    assert board_of(ida, framing)["footage"][0]["twin"] is None
    body = {"name": "Small clip.mp4"}
    renamed = ida.patch(f"/api/footage/{again['id']}", body, content_type="application/json").json()
    assert renamed["name"] == "Small clip 2.mp4" or renamed["name"] == "Small clip 3.mp4"
    body = {"name": "Evening"}
    assert ida.patch(f"/api/footage/{again['id']}", body, content_type="application/json").json()["name"] == "Evening"


def test_bars_and_fields_are_found_by_a_worker(ida, project, tmp_path):
    path = Case("letterbox", LETTERBOX).write(tmp_path)
    made = send(ida, f"/api/projects/{project.pk}/footage", path).json()
    assert (made["analysing"], made["bars"]) == (True, None)
    assert settled(Footage.objects.get(pk=made["id"]))
    board = ida.get(f"/api/projects/{project.pk}").json()
    clip, cell = board["footage"][0], board["cells"][0]
    assert (clip["analysing"], clip["bars"]["kind"]) == (False, "bars")
    assert (clip["bars"]["edges"]["top"], clip["fields"]["order"]) == ("46", "progressive")
    assert "bars" in {concern["reason"] for concern in cell["concerns"]}
    body = {"interpretation": {**clip["stated"], "burned_in_bars": clip["bars"]["edges"]}}
    ida.put(f"/api/footage/{clip['id']}/interpretation", body, content_type="application/json")
    measured = ida.get(f"/api/framings/{cell['id']}").json()["measure"]
    assert (measured["picture"]["y"], measured["picture"]["height"]) == ("46", "268")
    cell = ida.get(f"/api/projects/{project.pk}").json()["cells"][0]
    assert "bars" not in {concern["reason"] for concern in cell["concerns"]}


def test_fields_that_were_found_count_where_nobody_speaks_of_them(ida, framing):
    footage = framing.footage
    fields = ANALYSES["fields"]
    request = fields.request(subject_of(footage)).model_copy(update={"clip": "as if"})
    store.keep(request, Found(FieldsFound(order="lower_first", judged=9, agreeing=9, summary="fields")))
    footage.analyses.filter(kind="fields").update(state="done", key=request.key)
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    assert plan["interpretation"]["fields"] == "lower_first"
    body = {"interpretation": {"fields": "progressive"}}
    ida.put(f"/api/footage/{footage.pk}/interpretation", body, content_type="application/json")
    assert ida.get(f"/api/framings/{framing.pk}").json()["plan"]["interpretation"]["fields"] == "progressive"


def still(number, size=(80, 60)):
    data = io.BytesIO()
    Image.fromarray(np.full((size[1], size[0], 3), number * 20, np.uint8)).save(data, "PNG")
    return data.getvalue()


def test_stills_numbered_alike_become_one_sequence(ida, project):
    files = [SimpleUploadedFile(f"depot_{number:03d}.png", still(number)) for number in (1, 2, 3, 4)]
    files.append(SimpleUploadedFile("poster.png", still(9)))
    made = ida.post(f"/api/projects/{project.pk}/stills", {"files": files}).json()
    found = {row["name"]: (row["info"]["kind"], row["timing"]["frames"]) for row in made}
    assert found == {"poster.png": ("still", 125), "depot.png": ("sequence", 4)}


def test_stills_are_taken_all_or_none(ida, project):
    files = [SimpleUploadedFile("a.png", still(1)), SimpleUploadedFile("b.png", b"not a still")]
    assert ida.post(f"/api/projects/{project.pk}/stills", {"files": files}).status_code == 422
    assert not Footage.objects.exists()


@pytest.fixture
def shelf(tmp_path, settings, small_clip):
    """An allowed folder with a clip in it, beside one that is not allowed."""
    inside, outside = tmp_path / "shelf", tmp_path / "private"
    inside.mkdir()
    outside.mkdir()
    for folder in (inside, outside):
        shutil.copyfile(small_clip, folder / "tram.mp4")
    (inside / "way out").symlink_to(outside)
    (inside / "clip out.mp4").symlink_to(outside / "tram.mp4")
    settings.FOOTAGE_FOLDERS = [str(inside)]
    return inside, outside


def test_footage_is_added_where_it_lies(ida, project, shelf):
    inside, _ = shelf
    listed = ida.get("/api/folders").json()
    assert [entry["path"] for entry in listed["entries"]] == [str(inside)]
    entries = ida.get("/api/folders", {"path": str(inside)}).json()["entries"]
    assert [entry["name"] for entry in entries] == ["tram.mp4"]
    body = {"path": entries[0]["path"]}
    made = ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json").json()
    assert (made["linked"], made["missing"]) == (True, False)
    removing.remove(Footage.objects.get())
    Footage.everything.update(removed=timezone.now() - actions.UNDO_TIME - timedelta(seconds=1))
    removing.purge()
    assert (inside / "tram.mp4").exists()


@pytest.mark.parametrize("where", ["private/tram.mp4", "shelf/../private/tram.mp4", "shelf/way out/tram.mp4",
                                   "shelf/clip out.mp4", "shelf/gone.mp4"])  # fmt: skip
def test_what_lies_outside_the_allowed_folders_is_refused(ida, project, shelf, where):
    path = str(shelf[0].parent) + "/" + where
    body = {"path": path}
    answer = ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json()["title"] == "That is not in a folder that this server allows."
    assert ida.get("/api/folders", {"path": path}).status_code == 422
    assert not Footage.objects.exists()


def test_nothing_is_allowed_unless_it_is_configured(ida, project, small_clip):
    body = {"path": str(small_clip)}
    assert ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json").status_code == 422
    assert ida.get("/api/folders").json()["entries"] == []


def test_a_missing_file_is_found_again(ida, project, shelf):
    inside, _ = shelf
    body = {"path": str(inside / "tram.mp4")}
    made = ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json").json()
    (inside / "tram.mp4").rename(inside / "moved.mp4")
    board = ida.get(f"/api/projects/{project.pk}").json()
    assert board["footage"][0]["missing"]
    answer = ida.post(f"/api/framings/{board['cells'][0]['id']}/renders")
    assert (answer.status_code, answer.json()["clip"]) == (410, "tram.mp4")
    body = {"path": str(inside / "moved.mp4")}
    found = ida.post(f"/api/footage/{made['id']}/find", body, content_type="application/json").json()
    assert (found["missing"], found["name"]) == (False, "tram.mp4")


def test_a_linked_file_that_changes_is_seen_to_and_read_anew(ida, project, shelf):
    """Its pictures are no more those of before, its marks stay where it has them, and what it is is found out anew."""
    path = shelf[0] / "tram.mp4"
    body = {"path": str(path)}
    made = ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json").json()
    row = Footage.objects.get(pk=made["id"])
    actions.mark(row, Range(start=Fraction(1, 5), end=Fraction(2, 5)))
    address = f"/api/footage/{row.pk}/picture?width=80"
    before = ida.get(address).content

    write_clip(path, size=(200, 100), frames=30)
    now = Footage.objects.get(pk=row.pk)
    assert now.changed
    out = FootageOut.of(now)
    assert out.stamp != made["stamp"]
    assert "changed since it was taken in" in out.noticed[0].message
    assert ida.get(address).content != before
    actions.read_anew()
    assert Footage.objects.get(pk=row.pk).changed  # somebody may still be writing to it

    os.utime(path, (1, 1))
    actions.read_anew()
    anew = Footage.objects.get(pk=row.pk)
    assert (anew.changed, anew.info.width, anew.bars) == (False, 200, None)
    assert (anew.range.start, anew.range.end) == (Fraction(1, 5), Fraction(2, 5))


def test_a_linked_file_that_became_unreadable_is_tried_once(ida, project, shelf, monkeypatch):
    body = {"path": str(shelf[0] / "tram.mp4")}
    made = ida.post(f"/api/projects/{project.pk}/linked", body, content_type="application/json").json()
    (shelf[0] / "tram.mp4").write_bytes(b"no clip")
    os.utime(shelf[0] / "tram.mp4", (1, 1))
    tried = []
    real = actions.find_again
    monkeypatch.setattr(actions, "find_again", lambda *given: tried.append(1) or real(*given))
    actions.read_anew()
    actions.read_anew()
    assert len(tried) == 1
    assert Footage.objects.get(pk=made["id"]).info.width == 320


def test_nothing_is_decoded_or_hashed_inside_a_transaction(ida, project, monkeypatch, transactional_db):
    """Forty photographs take a while; others must be able to write meanwhile."""
    inside = []

    def seen(real):
        return lambda *given: inside.append(connection.in_atomic_block) or real(*given)

    monkeypatch.setattr(actions.previewer, "probed", seen(actions.previewer.probed))
    monkeypatch.setattr(actions.ClipIdentity, "read", seen(actions.ClipIdentity.read))
    files = [SimpleUploadedFile(f"photo {name}.png", still(name)) for name in (3, 5, 8)]
    assert ida.post(f"/api/projects/{project.pk}/stills", {"files": files}).status_code == 200
    assert inside == [False] * 6


def test_of_stills_that_are_not_taken_nothing_is_left(ida, project, settings):
    before = set(Path(settings.FOOTAGE_DIR).iterdir())
    files = [SimpleUploadedFile("a.png", still(1)), SimpleUploadedFile("z.png", b"\x89PNG\r\n\x1a\nno")]
    assert ida.post(f"/api/projects/{project.pk}/stills", {"files": files}).status_code == 422
    assert set(Path(settings.FOOTAGE_DIR).iterdir()) == before


def test_a_worker_goes_on_when_the_database_was_busy(monkeypatch):
    asked = iter([OperationalError("database is locked"), None])

    def taking(name, **_):
        error = next(asked)
        if error is not None:
            raise error

    monkeypatch.setattr(work_command, "call_command", taking)
    assert work_command._take_tasks("default")
    assert not work_command._take_tasks("default")


def test_folders_may_be_for_a_person_or_a_group_only(ida, joel, people, settings, tmp_path):
    from django.contrib.auth.models import Group

    for name in ("all", "ida", "desk"):
        (tmp_path / name).mkdir()
    settings.FOOTAGE_FOLDERS = [f"{tmp_path}/all", f"{tmp_path}/ida@ida", f"{tmp_path}/desk@desk"]
    people[1].groups.add(Group.objects.create(name="desk"))

    def names(client):
        return [one["name"].rpartition("/")[2] for one in client.get("/api/folders").json()["entries"]]

    assert (names(ida), names(joel)) == (["all", "ida"], ["all", "desk"])
    assert joel.get(f"/api/folders?path={tmp_path}/ida").status_code == 422


def test_a_linked_file_that_becomes_a_link_elsewhere_is_not_read(ida, project, settings, small_clip, tmp_path):
    """Neither a swapped file nor one among the stills of a sequence leads out of the folders."""
    inside, outside = tmp_path / "in", tmp_path / "out"
    inside.mkdir()
    outside.mkdir()
    secret, clip = outside / "secret.mp4", inside / "a.mp4"
    secret.write_bytes(small_clip.read_bytes())
    clip.write_bytes(small_clip.read_bytes())
    settings.FOOTAGE_FOLDERS = [str(inside)]
    link = f"/api/projects/{project.pk}/linked"
    row = ida.post(link, {"path": str(clip)}, content_type="application/json").json()
    picture = f"/api/footage/{row['id']}/picture"
    assert ida.get(f"{picture}?time=0&width=64").status_code == 200
    clip.unlink()
    clip.symlink_to(secret)
    assert ida.get(f"{picture}?time=0.5&width=66").status_code == 410
    for number in range(4):
        still = np.full((32, 32, 3), 60 * number, np.uint8)
        Image.fromarray(still).save((outside if number == 2 else inside) / f"s{number}.png")
    (inside / "s2.png").symlink_to(outside / "s2.png")
    answer = ida.post(link, {"path": str(inside)}, content_type="application/json")
    assert answer.status_code in (410, 422)
