"""Pictures and captions of a project: added, refused, drawn, and visible only to its people."""

import io

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from PIL import Image

from cadrage.plan import Design, Plan
from cadrage.surrounds import Graphic, Loop, Still
from server.studio.actions import renders, work
from server.studio.actions.analyses import settled
from server.studio.actions.footage import UNDO_TIME
from server.studio.actions.framing_plans import plan_of
from server.studio.actions.framings import change
from server.studio.actions.removing import purge
from server.studio.models import Footage, Material, Render
from tests.server.page import ask, pictured

pytestmark = pytest.mark.django_db(transaction=True)

SRT = b"1\n00:00:00,000 --> 00:00:01,000\nNine\n"


def png(colour=(200, 40, 40)):
    data = io.BytesIO()
    Image.fromarray(np.full((90, 160, 3), colour, np.uint8)).save(data, "PNG")
    return data.getvalue()


def add(client, project, name, data):
    return client.post(f"/api/projects/{project.pk}/materials", {"file": SimpleUploadedFile(name, data)})


def purge_materials():
    """Let the time pass in which a removal can be undone."""
    Material.everything.filter(removed__isnull=False).update(removed=timezone.now() - 2 * UNDO_TIME)
    purge()


def preview(client, framing, plan):
    return ask(client, framing, "preview", plan.model_dump(mode="json"), time="0", width=320)


def test_pictures_and_captions_are_taken_in_listed_and_given_up(ida, project):
    picture, words = add(ida, project, "red.png", png()).json(), add(ida, project, "words.srt", SRT).json()
    assert (picture["kind"], words["kind"]) == ("picture", "captions")
    assert ida.get(f"/api/projects/{project.pk}/materials").json() == [picture, words]
    assert ida.get(f"/api/materials/{picture['id']}/picture")["Content-Type"] == "image/jpeg"
    assert ida.get(f"/api/materials/{words['id']}/picture").status_code == 204
    path = Material.objects.get(pk=picture["id"]).path
    assert path.exists()
    assert ida.delete(f"/api/materials/{picture['id']}").status_code == 204
    assert ida.get(f"/api/projects/{project.pk}/materials").json() == [words]
    assert path.exists()
    purge_materials()
    assert not path.exists()


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("logo.svg", b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", "neither a picture"),
        ("cut.png", png()[:60], "cut short or damaged"),
        ("bad.srt", b"1\n00:00:09,000 --> 00:00:01,000\nBack\n", "Line 2"),
        ("film.bin", b"\x00" * 100, "neither a picture"),
    ],
)
def test_what_cannot_be_used_is_refused_by_name_and_nothing_is_kept(ida, project, name, data, says):
    answer = add(ida, project, name, data)
    assert answer.status_code == 422
    assert says in answer.json()["title"]
    assert answer.json()["clip"] == name
    assert not Material.objects.exists()


def test_a_picture_stands_behind_the_clip_in_preview_and_render(ida, project, framing):
    picture = add(ida, project, "red.png", png((255, 0, 0))).json()
    plan = plan_of(framing).model_copy(update={"surround": Still(of=picture["ref"], brightness=100)})
    shown = np.asarray(Image.open(io.BytesIO(pictured(preview(ida, framing, plan)))).convert("RGB"))
    assert shown[4, 4, 0] > 220
    assert shown[4, 4, 1] < 40
    job = renders.order(change(framing, plan.design, "Still"))
    work.perform_next()
    assert Render.objects.get(pk=job.pk).state == Render.State.DONE, Render.objects.get(pk=job.pk).problem


def test_a_clip_goes_round_behind_another(ida, framing):
    plan = plan_of(framing).model_copy(update={"surround": Loop(of=f"footage:{framing.footage_id}")})
    assert preview(ida, framing, plan).status_code == 200


@pytest.mark.parametrize(
    "name", ["material:{}", "footage:{}", "material:999", "footage:x", "/etc/passwd", "material:-1"]
)
def test_what_is_not_ones_own_is_not_to_be_had(joel, people, ida, project, framing, name):
    """Joel names Ida's picture, or a path; neither is found, and the answer does not reveal it."""
    from server.studio.actions.framing_plans import begin
    from server.studio.models import Project, ProjectFrame

    theirs = add(ida, project, "red.png", png()).json()
    his = Project.objects.create(owner=people[1], name="His")
    frame = ProjectFrame.from_value(his, framing.frame.value)
    frame.save()
    clip = Footage.objects.get(pk=framing.footage_id)
    clip.pk, clip.project = None, his
    clip.save()
    own = begin(clip, frame)
    number = theirs["id"] if name.startswith("material") else framing.footage_id
    plan = plan_of(own).model_copy(update={"surround": Still(of=name.format(number))})
    answer = preview(joel, own, plan)
    assert answer.status_code == 422
    assert "is missing" in answer.json()["title"]


def test_a_render_that_needs_what_is_gone_is_refused_at_once_and_the_board_goes_on(ida, project, framing):
    picture = add(ida, project, "red.png", png()).json()
    change(framing, Design(surround=Graphic(logo=picture["ref"])), "Graphic")
    board = ida.get(f"/api/projects/{project.pk}").json()
    stamp = board["cells"][0]["stamp"]
    ida.delete(f"/api/materials/{picture['id']}?confirmed=true")
    purge_materials()
    framing.refresh_from_db()
    answer = ida.post(f"/api/framings/{framing.pk}/renders")
    assert answer.status_code == 422
    assert "is missing" in answer.json()["title"]
    assert ida.get(f"/api/projects/{project.pk}").json()["cells"][0]["stamp"] != stamp


def test_words_are_judged_and_made_readable(ida, framing):
    plan = Design(surround=Graphic(colour="#808080")).model_dump(mode="json")
    found = ask(ida, framing, "legible", plan).json()
    assert [one["what"] for one in found] == ["panel"]
    better = ask(ida, framing, "readable", plan).json()
    after = ask(ida, framing, "legible", better).json()
    assert after[0]["ratio"] >= 4.5


def test_framings_begin_with_a_copy_that_is_calm(ida, project, framing):
    assert settled(framing.footage)
    first = ida.get(f"/api/framings/{framing.pk}").json()["plan"]
    found = ida.get(f"/api/projects/{project.pk}").json()["footage"][0]["copy_to_begin_with"]
    assert first["surround"] == found
    quiet = ask(ida, framing, "quiet", first).json()
    assert quiet["calm"]
    assert Plan.model_validate(first).surround.kind == "blurred"
