"""Taking clips in, and seeing them."""

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import cv2
import numpy as np
import pytest
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile

from server.studio.actions import analyses
from server.studio.models import Footage
from tests.server.page import design_of, pictured

pytestmark = pytest.mark.django_db


def send(client, project, content, name="clip.mp4"):
    return client.post(f"/api/projects/{project.pk}/footage", {"file": SimpleUploadedFile(name, content)})


def kept():
    return {
        folder: {path.name for path in Path(folder).iterdir()}
        for folder in (settings.FOOTAGE_DIR, settings.INCOMING_DIR)
    }


def opened(answer):
    return cv2.imdecode(np.frombuffer(answer.content, np.uint8), cv2.IMREAD_COLOR)


def test_a_clip_is_taken_in(ida, project, small_clip):
    before = kept()
    answer = send(ida, project, small_clip.read_bytes(), "../../My clip é.mp4")
    assert answer.status_code == 200
    row = Footage.objects.get(pk=answer.json()["id"])
    assert row.name == "My clip é.mp4"
    assert row.path.read_bytes() == small_clip.read_bytes()
    assert kept()[settings.INCOMING_DIR] == before[settings.INCOMING_DIR]
    assert answer.json()["summary"] == "320×180, 25 fps"


@pytest.mark.parametrize("content", [b"", b"hello", b"#EXTM3U\nhttp://127.0.0.1/x.ts\n"])
def test_what_is_no_clip_is_refused_and_leaves_nothing(ida, project, content):
    before = kept()
    answer = send(ida, project, content, "letter.mp4")
    assert answer.status_code == 422
    assert answer.json()["clip"] in ("letter.mp4", None)
    assert answer.json()["remedy"]
    assert Footage.objects.count() == 0
    assert kept() == before


def test_the_strip_holds_as_many_moments_as_asked(ida, framing):
    image = opened(ida.get(f"/api/footage/{framing.footage_id}/strip?count=5&height=36"))
    assert image.shape == (36, 5 * 64, 3)
    moments = [image[:, at * 64 : (at + 1) * 64].astype(int) for at in range(5)]
    assert all(np.abs(one - other).max() > 30 for one, other in pairwise(moments))


def test_a_missing_file_is_told(ida, framing):
    framing.footage.path.unlink()
    board = ida.get(f"/api/projects/{framing.footage.project_id}").json()
    assert board["footage"][0]["missing"]
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    body = {"design": design_of(plan), "time": "0", "width": 90}
    answer = ida.post(f"/api/framings/{framing.pk}/preview", body, content_type="application/json")
    assert answer.status_code == 410
    assert answer.json()["remedy"]


def test_previews_and_thumbnails_are_the_composed_frame(ida, framing):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    plan["surround"] = {"kind": "plain", "colour": "#ff0000"}
    body = {"design": design_of(plan), "time": "0.5", "width": 90}
    answer = ida.post(f"/api/framings/{framing.pk}/preview", body, content_type="application/json")
    image = cv2.imdecode(np.frombuffer(pictured(answer), np.uint8), cv2.IMREAD_COLOR)
    assert image.shape == (160, 90, 3)
    assert image[5, 45].tolist() == pytest.approx([0, 0, 255], abs=8)
    assert opened(ida.get(f"/api/framings/{framing.pk}/thumbnail?width=90")).shape == (160, 90, 3)


def test_an_interpretation_holds_in_every_frame_and_is_no_step_of_any(ida, framing):
    address = f"/api/footage/{framing.footage_id}/interpretation"
    body = {"interpretation": {"pixel_aspect": "16:11", "rotation": 90}}
    answer = ida.put(address, body, content_type="application/json").json()
    assert (answer["stated"]["pixel_aspect"], answer["stated"]["rotation"], answer["own"]) == ("16/11", 90, True)
    state = ida.get(f"/api/framings/{framing.pk}").json()
    assert state["plan"]["interpretation"] == answer["interpretation"]
    assert (state["measure"]["picture"]["width"], state["measure"]["pixel_aspect"]) == ("180", "0.6875")
    assert opened(ida.get(f"/api/footage/{framing.footage_id}/picture?width=90")).shape == (233, 90, 3)


@pytest.mark.parametrize(
    "body",
    [
        {"pixel_aspect": "0"},
        {"pixel_aspect": "900"},
        {"rotation": 37},
        {"tilt": 1},
        {"fields": "sideways"},
        {"duration": "0"},
        {"burned_in_bars": {"top": "100", "bottom": "100"}},
        {"burned_in_bars": {"left": "-4"}},
    ],
)
def test_an_absurd_interpretation_is_refused(ida, framing, body):
    address = f"/api/footage/{framing.footage_id}/interpretation"
    answer = ida.put(address, {"interpretation": body}, content_type="application/json")
    assert answer.status_code == 422
    assert Footage.objects.get().interpretation_json is None


@pytest.mark.parametrize("reading", ["wide", '{"pixel_aspect":"wide"}', '{"pixel_aspect":"900"}'])
def test_a_picture_with_an_absurd_interpretation_is_refused(ida, framing, reading):
    answer = ida.get(f"/api/footage/{framing.footage_id}/picture", {"reading": reading})
    assert answer.status_code == 422
    assert answer.headers["Content-Type"] == "application/problem+json"


def test_a_preview_has_the_numbers_of_its_plan_and_time_where_they_are_asked_for(ida, framing):
    plan = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    body = {"design": {**design_of(plan), "motion": {"move": {"kind": "push", "percent": "10"}}}, "measured": True}

    def ask(**more):
        return ida.post(f"/api/framings/{framing.pk}/preview", body | more, content_type="application/json").json()

    first, last = ask(time="0"), ask(time="0.9", width=90)
    assert (first["picture"], last["picture"][:23]) == (None, "data:image/jpeg;base64,")
    assert Fraction(last["measure"]["scale"]) > Fraction(first["measure"]["scale"])
    assert ask(width=90, measured=False)["measure"] is None


def test_no_more_room_while_sending_is_told(ida, project, small_clip, monkeypatch):
    import errno

    from server.studio.actions import footage

    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(footage.previewer, "probed", full)
    answer = send(ida, project, small_clip.read_bytes())
    assert answer.status_code == 507
    assert "room" in answer.json()["title"]
    assert Footage.objects.count() == 0


def test_levels_of_the_sound_come_once_they_are_analysed(ida, framing):
    address = f"/api/footage/{framing.footage_id}/levels"
    assert ida.get(address).status_code == 202
    analyses.request(framing.footage, "sound_levels")
    while analyses.perform_next():
        pass
    answer = ida.get(address)
    assert (answer.status_code, len(answer.content)) == (200, 100)
    assert max(answer.content) > 100


def test_a_strip_comes_in_parts(ida, framing):
    address = f"/api/footage/{framing.footage_id}/strip?count=4&height=32"
    whole, *parts = (ida.get(f"{address}{part}").content for part in ("", "&part=0&parts=2", "&part=1&parts=2"))
    assert len({whole, *parts}) == 3
    left, right = (ida.get(f"{address}&part={part}&parts=2") for part in (0, 1))
    assert opened(left).shape == opened(right).shape == opened(ida.get(address)).shape


def test_the_settings_of_a_clip_say_what_its_file_says_and_what_is_set(ida, framing):
    address = f"/api/footage/{framing.footage_id}/settings"
    groups = {group["title"]: group for group in ida.get(address).json()}
    assert [one["name"] for one in groups["Rotate and mirror"]["settings"]] == ["rotation", "mirror"]
    assert groups["Rotate and mirror"]["state"] == "0°"
    body = {"interpretation": {"rotation": 90, "mirror": True}}
    ida.put(f"/api/footage/{framing.footage_id}/interpretation", body, content_type="application/json")
    groups = {group["title"]: group for group in ida.get(address).json()}
    assert groups["Rotate and mirror"]["state"] == "90°, mirrored"
