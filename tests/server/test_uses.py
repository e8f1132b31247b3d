"""What is used elsewhere is not removed unasked, is named, and comes back within a while."""

import shutil
from pathlib import Path

import pytest
from django.conf import settings
from django.utils import timezone

from cadrage.formats import Frame
from cadrage.surrounds import Loop, Still
from cadrage.treatments import Treatment as CoreTreatment
from server.studio.actions.footage import UNDO_TIME, import_file
from server.studio.actions.framing_plans import begin, plan_of
from server.studio.actions.framings import change, make_rules
from server.studio.actions.removing import purge
from server.studio.actions.treatments import save
from server.studio.models import Footage, Framing, Project, ProjectFrame
from tests.server.page import put, state, walk
from tests.server.test_materials import add, png

pytestmark = pytest.mark.django_db(transaction=True)


def design_with(framing: Framing, surround):
    return plan_of(framing).design.model_copy(update={"surround": surround})


def framing_of(person, name, clip):
    """A framing in a new project of somebody's."""
    project = Project.objects.create(owner=person, name=name)
    frame = ProjectFrame.from_value(project, Frame(width=320, height=180, name="Screen"))
    frame.save()
    arrived = Path(shutil.copy(clip, settings.INCOMING_DIR))
    return begin(import_file(project, "Beside.mp4", arrived), frame)


@pytest.fixture
def other(people, small_clip):
    """A framing in another project of Ida's."""
    return framing_of(people[0], "Lobby", small_clip)


def uses_in(answer):
    assert answer.status_code == 409
    return answer.json()["uses"]


def concerns_of(client, framing):
    return [one["reason"] for one in client.get(f"/api/framings/{framing.pk}").json()["concerns"]]


def test_a_clip_used_by_a_framing_of_another_project_is_removed_only_when_confirmed(ida, framing, other):
    clip = f"/api/footage/{framing.footage_id}"
    change(other, design_with(other, Loop(of=framing.footage.ref)), "Loop")
    (use,) = uses_in(ida.delete(clip))
    assert all(name in use for name in (other.footage.name, "Screen", "Lobby"))
    assert concerns_of(ida, other) == []
    assert ida.delete(f"{clip}?confirmed=true").status_code == 204
    assert concerns_of(ida, other) == ["missing"]
    assert ida.post(f"{clip}/restore").status_code == 200
    assert concerns_of(ida, other) == []
    ida.delete(f"{clip}?confirmed=true")
    Footage.everything.filter(removed__isnull=False).update(removed=timezone.now() - 2 * UNDO_TIME)
    purge()
    assert concerns_of(ida, other) == ["missing"]


def test_its_own_framings_are_no_use_of_a_clip(ida, framing):
    change(framing, design_with(framing, Loop(of=framing.footage.ref)), "Loop")
    assert ida.delete(f"/api/footage/{framing.footage_id}").status_code == 204


def test_what_was_undone_is_no_use(ida, framing, other):
    plan = state(ida, other)["plan"]
    put(ida, other, plan | {"surround": {"kind": "loop", "of": framing.footage.ref}})
    walk(ida, other, "undo")
    assert ida.delete(f"/api/footage/{framing.footage_id}").status_code == 204


def test_rules_and_treatments_are_uses_of_a_material(ida, people, project, framing):
    picture = add(ida, project, "red.png", png()).json()
    change(framing, design_with(framing, Still(of=picture["ref"])), "Still")
    make_rules([framing])  # it follows the rule from here on, and has no plan of its own
    save(people[0], None, CoreTreatment(name="Red corner", surround=Still(of=picture["ref"])))
    rule, treatment = uses_in(ida.delete(f"/api/materials/{picture['id']}"))
    assert "Totem" in rule
    assert "Red corner" in treatment


def test_a_removed_material_comes_back(ida, project):
    picture = add(ida, project, "red.png", png()).json()
    assert ida.delete(f"/api/materials/{picture['id']}").status_code == 204
    assert ida.get(f"/api/materials/{picture['id']}/picture").status_code == 404
    assert ida.post(f"/api/materials/{picture['id']}/restore").json() == picture


def test_somebody_elses_framing_that_names_a_clip_is_no_use_of_it(ida, people, framing, small_clip):
    row = framing_of(people[1], "Theirs", small_clip)
    change(row, design_with(row, Loop(of=framing.footage.ref)), "Loop")
    assert ida.delete(f"/api/footage/{framing.footage_id}").status_code == 204
