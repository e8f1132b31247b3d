"""Windows that follow, on the server: looked at once, found for every frame, and corrected."""

import shutil
from pathlib import Path

import pytest
from django.conf import settings

from cadrage.formats import Frame
from server.studio.actions import analyses, following, jobs, renders
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin
from server.studio.models import Analysis, Footage, Framing, ProjectFrame
from server.studio.models.framing import Step
from tests.clips import write_clip
from tests.server.page import ask, post_json, put, state, step, walk
from tests.server.test_rules import act

pytestmark = pytest.mark.django_db
FOLLOW = {"pace": "quick"}


def look(project):
    """Do what a worker does until nothing waits."""
    for _ in range(20):
        analyses.perform_next()
        following.see_to(project.pk)
        if not Analysis.objects.filter(state=Analysis.State.QUEUED).exists():
            return


def follow_of(client, framing):
    return state(client, framing)["plan"]["motion"]["follow"]


def followed(client, framing, project, **more):
    """Let a framing follow, its clip looked at."""
    plan = state(client, framing)["plan"]
    answer = ask(client, framing, "follow", plan, follow=FOLLOW | more)
    assert answer.status_code == 200, answer.content
    put(client, framing, plan | answer.json(), "Follow")
    look(project)
    return state(client, framing)["plan"]


@pytest.fixture
def other(project, framing):
    """The same clip in a square frame."""
    frame = ProjectFrame.from_value(project, Frame(width=200, height=200, name="Square"))
    frame.save()
    return begin(framing.footage, frame)


def test_it_is_looked_at_once_somebody_asks_and_then_its_way_is_there(ida, framing, project):
    plan = state(ida, framing)["plan"]
    design = ask(ida, framing, "follow", plan, follow=FOLLOW).json()
    assert design["motion"]["follow"]["path"] == []
    assert framing.footage.analyses.get(kind="following").state == "queued"
    put(ida, framing, plan | design, "Follow")
    assert state(ida, framing)["cell"]["unsolved"]
    look(project)
    now = state(ida, framing)
    assert not now["cell"]["unsolved"]
    assert now["plan"]["placement"]["tightness"] == "1"  # a picture that was whole leaves nothing to move
    (way,) = now["plan"]["motion"]["follow"]["path"]
    assert len(way["sure"]) == 1
    assert Step.objects.get(framing=framing, number=1).plan.motion.unsolved  # what was asked is what is kept


def test_three_frames_cost_one_look_and_a_correction_is_given_to_the_others(ida, framing, other, project):
    plan = followed(ida, framing, project)
    assert framing.footage.analyses.filter(kind="following").count() == 1
    assert state(ida, other)["plan"]["motion"]["follow"] is None
    pins = [{"time": "0.4", "x": "0.1", "y": "0"}]
    design = ask(ida, framing, "follow", plan, follow=FOLLOW | {"pins": pins}).json()
    assert ask(ida, framing, "follow/others", plan | design).json() == [other.pk]
    assert [pin["x"] for pin in follow_of(ida, other)["pins"]] == ["0.1"]
    assert follow_of(ida, other)["path"]
    assert walk(ida, other, "undo")["framing"]["id"] == other.pk
    assert follow_of(ida, other) is None


def test_what_is_dragged_pins_the_window_or_shifts_its_way(ida, framing, project):
    plan = followed(ida, framing, project)
    placement = plan["placement"] | {"offset_x": "-20"}
    pinned = ask(ida, framing, "key", plan, time="0.5", placement=placement).json()["motion"]["follow"]
    assert [pin["time"] for pin in pinned["pins"]] == ["0.48"]
    shifted = ask(ida, framing, "key", plan, time="0.5", placement=placement, way="shift").json()["motion"]["follow"]
    assert shifted["pins"] == []
    assert shifted["path"] != plan["motion"]["follow"]["path"]
    keys = ask(ida, framing, "keys", plan).json()["motion"]
    assert (keys["follow"], bool(keys["keys"])) == (None, True)


def test_those_who_are_there_are_told_with_a_picture_of_each(ida, framing, project):
    assert ask(ida, framing, "candidates", state(ida, framing)["plan"], time="0").json() == []
    plan = followed(ida, framing, project)
    one = ask(ida, framing, "candidates", plan, time="0.5").json()[0]
    assert 0 <= one["left"] <= 1 - one["width"]
    assert not one["chosen"]
    chosen = ask(ida, framing, "follow", plan, follow=FOLLOW | {"subjects": [one["subject"]]}).json()
    assert ask(ida, framing, "candidates", plan | chosen, time="0.5").json()[0]["chosen"]


def test_many_cells_follow_and_a_rule_that_follows_holds_for_what_comes_later(ida, framing, project, small_clip):
    assert act(ida, [framing], do="motion", follow=FOLLOW | {"pins": [{"time": "0", "x": "0", "y": "0"}]})
    assert follow_of(ida, framing)["pins"] == []  # which belong to one clip
    look(project)
    assert follow_of(ida, framing)["path"]
    assert step(ida, framing, "rule").json()["obeys"]
    assert follow_of(ida, framing)["path"] == []  # of the rule, until a worker has seen to it
    look(project)
    assert follow_of(ida, framing)["path"]
    copy = Path(settings.INCOMING_DIR) / "later.mp4"
    shutil.copyfile(small_clip, copy)
    later = begin(import_file(project, "Later.mp4", copy), framing.frame)
    assert state(ida, later)["obeys"]
    look(project)
    assert follow_of(ida, later)["path"]


def test_a_render_waits_until_the_clip_was_looked_at(ida, framing, project):
    act(ida, [framing], do="motion", follow=FOLLOW)
    following.see_to(project.pk)
    answer = post_json(ida, f"/api/framings/{framing.pk}/renders", {})
    assert answer.status_code == 422
    assert "still being analysed" in str(answer.json())
    look(project)
    job = renders.order(Framing.objects.get(pk=framing.pk))
    assert job.plan.motion.follow.path


def test_a_still_says_so_and_its_framing_stays_of_use(ida, project):
    from PIL import Image

    path = Path(settings.INCOMING_DIR) / "arriving.png"
    Image.new("RGB", (640, 360), (90, 120, 40)).save(path)
    still = begin(import_file(project, "Still.png", path), project.frames.get())
    plan = state(ida, still)["plan"]
    put(ida, still, plan | ask(ida, still, "follow", plan, follow=FOLLOW).json(), "Follow")
    look(project)
    row = still.footage.analyses.get(kind="following")
    assert (row.state, row.problem) == ("done", "A still does not move; a slow push may do.")
    assert state(ida, still)["cell"]["unsolved"]
    renders.order(Framing.objects.get(pk=still.pk))


def test_another_file_in_the_place_of_a_clip_is_looked_at_anew(ida, framing, project, tmp_path):
    plan = followed(ida, framing, project)
    before = plan["motion"]["follow"]["path"]
    other = write_clip(tmp_path / "other.mp4", size=(320, 180), frames=50, sound=None)
    with other.open("rb") as file:
        assert ida.post(f"/api/footage/{framing.footage_id}/replace", {"file": file}).status_code == 200
    assert not Footage.objects.get(pk=framing.footage_id).analyses.filter(kind="following").exists()
    look(project)
    assert follow_of(ida, framing)["path"] != before or follow_of(ida, framing)["path"] == []


def test_a_clip_that_is_replaced_while_it_is_looked_at_leaves_nothing_wrong_behind(ida, framing, project, monkeypatch):
    from cadrage.analyses import ANALYSES

    real = type(ANALYSES["following"]).find

    def replaced(self, subject, report):
        Footage.objects.get(pk=framing.footage_id).analyses.all().delete()
        monkeypatch.setattr(type(ANALYSES["following"]), "find", real)
        monkeypatch.setattr(jobs, "REPORT_SECONDS", 0)
        return real(self, subject, report)

    monkeypatch.setattr(type(ANALYSES["following"]), "find", replaced)
    ask(ida, framing, "follow", state(ida, framing)["plan"], follow=FOLLOW)
    look(project)
    assert not framing.footage.analyses.exists()
    assert followed(ida, framing, project)["motion"]["follow"]["path"]


def test_one_that_is_cancelled_can_be_asked_for_again(ida, framing, project):
    ask(ida, framing, "follow", state(ida, framing)["plan"], follow=FOLLOW)
    row = framing.footage.analyses.get(kind="following")
    assert ida.post(f"/api/analyses/{row.pk}/cancel").json()["state"] == "cancelled"
    ask(ida, framing, "follow", state(ida, framing)["plan"], follow=FOLLOW)
    row.refresh_from_db()
    assert row.state == "queued"


def test_nobody_follows_in_another_s_project(joel, framing):
    body = {"design": {}, "follow": {}, "time": "0"}
    for what in ("follow", "follow/others", "follow/anew", "candidates"):
        names = ["design", *{"follow": ["follow"], "follow/others": []}.get(what, ["time"])]
        given = {name: body[name] for name in names}
        assert post_json(joel, f"/api/framings/{framing.pk}/{what}", given).status_code == 404
    assert joel.post(f"/api/footage/{framing.footage_id}/following").status_code == 404
