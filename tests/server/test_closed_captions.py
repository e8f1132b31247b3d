"""Closed captions of a clip: read once somebody asks, and added to the project as a captions file."""

import shutil
from pathlib import Path

import pytest
from django.conf import settings

from cadrage.lettering import read_captions
from server.studio.actions import analyses
from server.studio.actions.footage import import_file
from server.studio.models import Material
from tests.captioned import write_captioned

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def clip(project, tmp_path):
    arrived = Path(settings.INCOMING_DIR) / "arriving.ts"
    shutil.copyfile(write_captioned(tmp_path), arrived)
    return import_file(project, "Programme.ts", arrived)


def state(client, clip):
    board = client.get(f"/api/projects/{clip.project_id}").json()
    return board["footage"][0]["closed_captions"]


def test_captions_are_read_on_request_and_become_a_file_of_the_project(ida, clip):
    address = f"/api/footage/{clip.pk}/captions"
    assert state(ida, clip) == "unread"
    assert ida.post(f"{address}/material").status_code == 422
    assert ida.post(address).status_code == 200
    while analyses.perform_next():
        pass
    assert state(ida, clip) == "read"
    made = ida.post(f"{address}/material").json()
    assert (made["kind"], made["name"]) == ("captions", "Programme captions.srt")
    cues = read_captions(Material.objects.get(pk=made["id"]).path)
    assert [cue.text for cue in cues] == ["HELLO TRAM", "ON TIME"]


def test_a_clip_without_captions_has_none(ida, framing):
    assert state(ida, framing.footage) == "none"
