"""Settings of a frame: set, refused, saved under names, and what comes of them."""

import io
import zipfile

import pytest

from cadrage.footage import probe
from cadrage.output import SHIPPED
from server.studio.actions import jobs, renders, sizes, work
from server.studio.models import Framing, Render, Size

pytestmark = pytest.mark.django_db(transaction=True)


def put(client, frame, settings):
    body = {"frame": frame.frame_json, "settings": settings}
    return client.put(f"/api/frames/{frame.pk}", body, content_type="application/json")


def test_a_frame_is_rendered_as_its_settings_say(ida, framing):
    answer = put(ida, framing.frame, {"kind": "mov-prores", "profile": "LT", "sound": "pcm-16"})
    assert answer.json()["file"] == "MOV, ProRes 422 LT, 180×320"
    job = renders.order(Framing.objects.get(pk=framing.pk))
    work.perform_next()
    job = Render.objects.get(pk=job.pk)
    assert (job.state, job.path.suffix) == ("done", ".mov"), job.problem
    assert probe(job.path).codec == "prores"
    row = ida.get(f"/api/projects/{framing.footage.project_id}/renders").json()[0]
    assert (row["report"]["right"], row["playable"], row["current"]) == (True, False, True)
    download = ida.get(f"/api/renders/{job.pk}/file?download=true")
    assert download["Content-Disposition"].endswith('Totem.mov"')
    put(ida, framing.frame, {})
    assert not ida.get(f"/api/projects/{framing.footage.project_id}/renders").json()[0]["current"]


@pytest.mark.parametrize(
    ("settings", "says"),
    [
        ({"kind": "webm-vp9", "sound": "pcm-16"}, "cannot hold sound"),
        ({"kind": "mov-dnxhr", "sound": "pcm-16"}, "begins at 256×120"),
        ({"kind": "mov-prores", "profile": "XXL", "sound": "none"}, "no profile"),
    ],
)
def test_what_cannot_be_is_refused_and_nothing_changes(ida, framing, settings, says):
    answer = put(ida, framing.frame, settings)
    assert answer.status_code == 422
    assert says in answer.json()["title"]
    board = ida.get(f"/api/projects/{framing.footage.project_id}").json()
    assert board["frames"][0]["settings"]["kind"] == "mp4-h264"


def test_a_file_of_exactly_the_active_picture_has_its_size(ida, framing):
    framing.frame.frame_json = {**framing.frame.frame_json, "width": 320, "height": 240, "active": "2.39"}
    answer = put(ida, framing.frame, {"bars": "active_picture_only"})
    assert answer.json()["file"] == "MP4, H.264, 320×134"


def test_a_file_s_size_is_told_beforehand_with_the_room_there_is(ida, framing):
    address = f"/api/framings/{framing.pk}/estimate"
    first = ida.get(address).json()
    assert (first["bytes"], first["done_percent"]) == (None, 0)
    sizes.perform_next()
    found = ida.get(address).json()
    assert 10_000 < found["bytes"] < 2_000_000
    assert found["free"] > found["bytes"]


def test_a_size_is_found_out_anew_where_something_else_is_to_be_written(ida, framing):
    address = f"/api/framings/{framing.pk}/estimate"
    ida.get(address)
    sizes.perform_next()
    before = ida.get(address).json()["bytes"]
    smaller = {"width": 90, "height": 160, "name": "Small"}
    ida.put(f"/api/frames/{framing.frame_id}", {"frame": smaller}, content_type="application/json")
    assert ida.get(address).json()["bytes"] is None
    sizes.perform_next()
    assert ida.get(address).json()["bytes"] < before


def test_while_one_size_is_found_out_another_is_asked_for(ida, framing, monkeypatch):
    address = f"/api/framings/{framing.pk}/estimate"
    ida.get(address)
    monkeypatch.setattr(jobs, "REPORT_SECONDS", 0)
    estimate = sizes.estimate

    def meanwhile(request, report):
        sizes.ask(Framing.objects.get(), "another")
        return estimate(request, report)

    monkeypatch.setattr(sizes, "estimate", meanwhile)
    sizes.perform_next()
    row = Size.objects.get()
    assert (row.state, row.key, row.bytes) == ("queued", "another", None)


def test_a_size_that_cannot_be_found_out_says_why(ida, framing):
    address = f"/api/framings/{framing.pk}/estimate"
    ida.get(address)
    framing.footage.path.unlink()
    sizes.perform_next()
    assert Size.objects.get().problem
    assert Size.objects.get().state == "failed"


def test_nothing_is_begun_where_there_is_next_to_no_room(ida, framing, monkeypatch):
    monkeypatch.setattr(renders, "free_bytes", lambda: 2**20)
    answer = ida.post(f"/api/framings/{framing.pk}/renders")
    assert "1 MiB left" in answer.json()["title"]
    assert not Render.objects.exists()


def test_settings_are_saved_under_names_and_belong_to_their_owner(ida, joel):
    catalogue = ida.get("/api/catalogue").json()
    assert [one["name"] for one in catalogue["settings"]] == [one.name for one in SHIPPED]
    own = {**catalogue["settings"][0], "name": "Mine", "rate": 9000}
    made = ida.post("/api/settings", own, content_type="application/json").json()
    assert ida.get("/api/catalogue").json()["own_settings"] == [made]
    assert joel.get("/api/catalogue").json()["own_settings"] == []
    assert joel.delete(f"/api/settings/{made['id']}").status_code == 404
    assert ida.delete(f"/api/settings/{made['id']}").status_code == 204


@pytest.mark.parametrize("wrong", [{"version": 3}, {"kind": "vhs"}, {"rate": 1}, {"colour": "red"}, {"name": ""}])
def test_settings_that_are_none_are_refused(ida, wrong):
    answer = ida.post("/api/settings", {"name": "One", **wrong}, content_type="application/json")
    assert answer.status_code == 422


def test_numbered_stills_come_as_an_archive_and_can_be_looked_at(ida, framing):
    put(ida, framing.frame, {"kind": "png-stills", "layer": "picture_alone", "sound": "none"})
    job = renders.order(Framing.objects.get(pk=framing.pk))
    work.perform_next()
    job = Render.objects.get(pk=job.pk)
    assert (job.state, job.report_json["right"]) == ("done", True), (job.problem, job.report_json)
    answer = ida.get(f"/api/renders/{job.pk}/file?download=true")
    assert answer["Content-Disposition"].endswith('Totem.zip"')
    made = zipfile.ZipFile(io.BytesIO(b"".join(answer)))
    assert len(made.namelist()) == 25
    assert made.testzip() is None
    for asked in ("true", "false"):
        picture = ida.get(f"/api/renders/{job.pk}/picture?time=0.5&width=180&asked={asked}")
        assert picture.content[:2] == b"\xff\xd8"
    renders.remove(job)
    assert not job.path.exists()


def test_settings_are_handed_over_as_a_file_and_taken_in_again(ida, joel):
    own = {
        "name": "Ours",
        "kind": "webm-vp9",
        "sound": "opus",
        "layer": "picture_alone",
        "rate_control": "rate",
        "rate": 900,
    }
    saved = ida.post("/api/settings", own, content_type="application/json").json()
    file = ida.get(f"/api/settings/{saved['id']}/file")
    assert file["Content-Disposition"] == 'attachment; filename="Ours.settings.json"'
    assert joel.get(f"/api/settings/{saved['id']}/file").status_code == 404
    taken = joel.post("/api/settings", file.json(), content_type="application/json").json()
    assert taken["settings"] == saved["settings"]
    assert ida.post("/api/settings", {"version": 9}, content_type="application/json").status_code == 422
