"""The shots of a framing: finding them, cutting by hand, and what each has of its own."""

import pytest

from server.studio.actions import analyses
from server.studio.models import Footage
from tests.server.page import ask, post_json, state

pytestmark = pytest.mark.django_db


def cut(client, framing, plan, do, **more):
    answer = ask(client, framing, "shots", plan, do=do, **more)
    assert answer.status_code == 200, answer.content
    return plan | answer.json()


def starts(plan):
    return [shot["start"] for shot in plan["shots"]]


def test_they_are_found_only_once_somebody_asks(ida, framing):
    clip = framing.footage
    assert not clip.analyses.filter(kind="shots").exists()
    plan = state(ida, framing)["plan"]
    assert ask(ida, framing, "shots", plan, do="found").status_code == 422
    row = post_json(ida, f"/api/footage/{clip.pk}/shots", {}).json()
    assert [one["kind"] for one in row["analyses"] if one["state"] == "queued"].count("shots") == 1
    post_json(ida, f"/api/footage/{clip.pk}/shots", {})
    assert clip.analyses.filter(kind="shots").count() == 1
    assert analyses.settled(Footage.objects.get(pk=clip.pk))
    found = ida.get(f"/api/projects/{clip.project_id}").json()["footage"][0]["shots"]
    assert found["starts"] == ["0"]
    assert cut(ida, framing, plan, "found")["shots"] == []


def test_a_clip_is_cut_by_hand(ida, framing):
    plan = state(ida, framing)["plan"]
    plan = cut(ida, framing, plan, "split", time="0.21")
    plan = cut(ida, framing, plan, "split", time="0.4")
    assert starts(plan) == ["0", "0.2", "0.4"]
    assert starts(cut(ida, framing, plan, "move", number=1, time="0.121")) == ["0", "0.12", "0.4"]
    assert starts(cut(ida, framing, plan, "join", number=1)) == ["0", "0.4"]
    assert ask(ida, framing, "shots", plan, do="join", number=7).status_code == 422


def test_what_is_done_in_a_shot_is_its_own(ida, framing):
    plan = cut(ida, framing, state(ida, framing)["plan"], "split", time="0.2")
    keyed = plan | ask(ida, framing, "key", plan, time="0.3", shot=1, placement={"tightness": "1"}).json()
    assert keyed["motion"]["keys"] == []
    assert [key["time"] for key in keyed["shots"][1]["motion"]["keys"]] == ["0.28"]
    shifted = (
        plan | ask(ida, framing, "key", keyed, time="0.3", shot=1, placement={"tightness": "1/2"}, way="shift").json()
    )
    assert [key["tightness"] for key in shifted["shots"][1]["motion"]["keys"]] == ["0.5"]
    assert ask(ida, framing, "key", plan, time="0", shot=5).status_code == 422
    copied = cut(ida, framing, keyed, "copy_all", number=1)
    assert copied["shots"][0]["motion"] is None  # keys are at moments of their own shot
    assert cut(ida, framing, keyed, "as_whole", number=1, part="motion")["shots"][1]["motion"] is None


def test_the_way_of_the_window_is_told_shot_by_shot(ida, framing):
    plan = cut(ida, framing, state(ida, framing)["plan"], "split", time="0.2")
    plan["shots"][1]["placement"] = {"tightness": "1"}
    plan["shots"][1]["motion"] = {"move": {"kind": "push", "percent": "50"}}
    path = ask(ida, framing, "path", plan).json()
    shots = [point["shot"] for point in path]
    assert sorted(set(shots)) == [0, 1]
    assert shots.count(0) == 2  # which stands
    assert shots.count(1) > 10
    tight = [point["tightness"] for point in path if point["shot"] == 1]
    assert tight == sorted(tight)
    assert all(len(point["corners"]) == 4 for point in path)
