"""Finished files together, and their sheet."""

import hashlib
import io
import zipfile

import pytest

from server.studio.actions import renders, work
from server.studio.models import Render

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def done(framing):
    """Two renders of one framing, both finished; the second is the newest, and has the first's file."""
    jobs = []
    for _ in range(2):
        jobs.append(renders.order(framing).pk)
        work.perform_next()
    return [Render.objects.get(pk=job) for job in jobs]


def test_all_files_come_in_one_archive_as_they_are(ida, project, done):
    address = f"/api/projects/{project.pk}/delivery/files"
    answer = ida.get(address)
    assert answer["Content-Disposition"] == 'attachment; filename="Wall.zip"'
    made = zipfile.ZipFile(io.BytesIO(b"".join(answer)))
    assert made.testzip() is None
    assert made.namelist() == ["Wall_Small clip_Totem.mp4"]
    assert made.read("Wall_Small clip_Totem.mp4") == done[1].path.read_bytes()
    both = zipfile.ZipFile(io.BytesIO(b"".join(ida.get(f"{address}?only={done[0].pk},{done[1].pk}"))))
    assert both.namelist() == ["Wall_Small clip_Totem.mp4", "Wall_Small clip_Totem 2.mp4"]


def test_the_sheet_has_what_was_measured_and_the_sum_of_the_bytes(ida, project, done):
    address = f"/api/projects/{project.pk}/delivery/sheet"
    file = ida.get(f"{address}?form=json").json()["files"][0]
    assert file["sha256"] == hashlib.sha256(done[1].path.read_bytes()).hexdigest()
    assert file["inspection"]["right"]
    assert (file["file"], file["kept_percent"]) == ("Wall_Small clip_Totem.mp4", 100)
    page = ida.get(address).content.decode()
    assert file["sha256"] in page
    assert "data:image/jpeg;base64," in page
    assert file["sha256"] in ida.get(f"{address}?form=csv").content.decode()


def test_there_is_nothing_to_hand_over_before_anything_is_finished_or_to_others(ida, joel, project, framing):
    for address in ("files", "sheet"):
        assert ida.get(f"/api/projects/{project.pk}/delivery/{address}").status_code == 404
        assert joel.get(f"/api/projects/{project.pk}/delivery/{address}").status_code == 404


def test_what_was_cancelled_is_tried_again_as_it_was_ordered(ida, framing):
    job = renders.order(framing)
    assert ida.post(f"/api/renders/{job.pk}/retry").status_code == 422
    renders.cancel(job)
    Render.objects.filter(pk=job.pk).update(state=Render.State.CANCELLED)
    again = ida.post(f"/api/renders/{job.pk}/retry").json()
    assert again["state"] == "queued"
    work.perform_next()
    assert Render.objects.get(pk=again["id"]).state == Render.State.DONE


def test_files_and_sheet_are_written_to_an_allowed_folder_and_nothing_is_replaced(
    ida, project, done, settings, tmp_path
):
    settings.DELIVERY_FOLDERS = [str(tmp_path)]
    inner = tmp_path / "today"
    inner.mkdir()
    address = f"/api/projects/{project.pk}/delivery/folder"

    def write(path):
        return ida.post(address, {"path": str(path)}, content_type="application/json")

    assert write(inner).json() == ["Wall_Small clip_Totem.mp4"]
    assert write(inner).json() == ["Wall_Small clip_Totem 2.mp4"]
    names = {path.name for path in inner.iterdir()}
    sheets = {f"Wall delivery{number}.{form}" for number in ("", " 2") for form in ("html", "csv", "json")}
    assert names == sheets | {"Wall_Small clip_Totem.mp4", "Wall_Small clip_Totem 2.mp4"}
    assert (inner / "Wall_Small clip_Totem.mp4").read_bytes() == done[1].path.read_bytes()
    (tmp_path / "out").symlink_to("/tmp")
    for wrong in ("/tmp", tmp_path / "nowhere", f"{tmp_path}/..", "today", tmp_path / "out"):
        assert write(wrong).status_code == 422


def test_a_folder_that_takes_nothing_is_told_and_nothing_half_stays(
    ida, project, done, settings, tmp_path, monkeypatch
):
    """Read-only for everybody but root, whom no permission stops: so the refusal itself is made."""
    settings.DELIVERY_FOLDERS = [str(tmp_path)]

    def refused(*_):
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr("server.studio.actions.deliveries.shutil.copyfile", refused)
    answer = ida.post(
        f"/api/projects/{project.pk}/delivery/folder", {"path": str(tmp_path)}, content_type="application/json"
    )
    assert answer.status_code == 422
    assert "0 of 1 files were written: Permission denied" in answer.json()["title"]
    assert list(tmp_path.iterdir()) == []
