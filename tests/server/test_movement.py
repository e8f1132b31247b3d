"""Moves and keys of a framing, as the page asks for them."""

import shutil

import pytest

from cadrage.formats import Frame
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin
from server.studio.models import ProjectFrame
from tests.server.page import ask, labels_of, post_json, put, state, step

pytestmark = pytest.mark.django_db


def moving(client, framing, **motion):
    plan = state(client, framing)["plan"]
    plan["placement"] |= {"tightness": "1"}
    plan["motion"] |= motion
    return plan


def test_a_move_is_stored_undone_and_measured_at_each_moment(ida, framing):
    plan = moving(ida, framing, move={"kind": "push", "percent": "50", "ease": "even"})
    now = put(ida, framing, plan, "Move").json()["framing"]
    assert now["plan"]["motion"]["move"]["percent"] == "50"
    assert labels_of(ida, framing)[0] == "Move"
    assert now["measure"]["summary"]["movement"] == "push in, 50%"
    lasts = ida.get(f"/api/projects/{framing.footage.project_id}").json()["footage"][0]["timing"]
    end = f"{lasts['frames'] - 1}/25"

    def scale_at(time):
        answer = ask(ida, framing, "preview", plan, time=time, measured=True)
        return float(eval_exact(answer.json()["measure"]["scale"]))

    scales = [scale_at("0"), scale_at(end)]
    assert scales[1] == pytest.approx(1.5 * scales[0])


def eval_exact(text):
    above, _, below = text.partition("/")
    return float(above) / float(below or 1)


def test_what_it_costs_over_time_is_told_with_its_moments(ida, framing):
    plan = moving(ida, framing, move={"kind": "push", "percent": "50"})
    over = ask(ida, framing, "over-time", plan).json()
    assert over["kept_most"]["time"] == "0"
    assert eval_exact(over["kept_least"]["value"]) < eval_exact(over["kept_most"]["value"])
    still = moving(ida, framing)
    assert ask(ida, framing, "over-time", still).json() is None


def test_a_key_is_set_where_a_picture_begins_and_replaces_one_that_is_there(ida, framing):
    plan = moving(ida, framing)
    design = ask(ida, framing, "key", plan, time="0.111").json()
    (key,) = design["motion"]["keys"]
    assert (key["time"], key["tightness"], key["x"]) == ("0.08", "1", "0")
    again = ask(ida, framing, "key", plan | design, time="0.1", placement={"tightness": "2"}).json()
    (key,) = again["motion"]["keys"]
    assert (key["time"], key["tightness"]) == ("0.08", "2")


def test_a_move_becomes_the_keys_that_do_the_same(ida, framing):
    plan = moving(ida, framing, move={"kind": "push", "percent": "-20"})
    design = ask(ida, framing, "keys", plan).json()
    assert design["motion"]["move"] is None
    assert [key["tightness"] for key in design["motion"]["keys"]] == ["1.2", "1"]


def test_a_treatment_and_a_rule_keep_the_move_and_no_keys(ida, framing):
    plan = moving(ida, framing, move={"kind": "push", "percent": "10"})
    put(ida, framing, plan, "Move")
    assert step(ida, framing, "rule").status_code == 200
    now = state(ida, framing)
    assert (now["obeys"], now["plan"]["motion"]["move"]["percent"]) == (True, "10")
    keyed = plan | ask(ida, framing, "keys", plan).json()
    put(ida, framing, keyed, "Keys")
    assert step(ida, framing, "rule").status_code == 200
    now = state(ida, framing)
    assert (now["obeys"], len(now["plan"]["motion"]["keys"])) == (False, 2)  # what no rule can hold stays here
    step(ida, framing, "obey")
    assert state(ida, framing)["plan"]["motion"] == {"move": None, "keys": [], "follow": None, "inside": True}


@pytest.mark.parametrize("wrong", [{"keys": [{"time": "1", "x": "0"}]}, {"move": {"kind": "zoom"}}, {"keys": "all"}])
def test_what_is_no_motion_is_refused_and_nothing_changes(ida, framing, wrong):
    before = state(ida, framing)
    assert put(ida, framing, moving(ida, framing, **wrong)).status_code == 422
    assert state(ida, framing) == before


def cells(client, framing, action, *others):
    body = {"framings": [framing.pk, *(one.pk for one in others)], "action": action}
    answer = post_json(client, f"/api/projects/{framing.footage.project_id}/cells", body)
    return [cell["id"] for cell in answer.json()] if answer.status_code == 200 else answer


def test_many_cells_are_given_a_move_or_lose_it(ida, framing):
    assert cells(ida, framing, {"do": "motion", "move": {"kind": "push", "percent": "4"}}) == [framing.pk]
    now = state(ida, framing)
    assert now["plan"]["motion"]["move"]["percent"] == "4"
    assert now["cell"]["movement"] == "push in, 4%"
    plan = now["plan"] | {"shots": [{"start": "0"}, {"start": "0.4", "motion": {"move": {"kind": "pan"}}}]}
    put(ida, framing, plan)
    assert state(ida, framing)["cell"]["movement"] == "2 shots, 2 moving"
    cells(ida, framing, {"do": "motion", "move": None})
    now = state(ida, framing)
    assert now["cell"]["movement"] == "2 shots"
    assert all(shot["motion"] is None for shot in now["plan"]["shots"])


def test_movement_is_pasted_keys_only_into_the_same_clip(ida, framing, project, small_clip):
    other_frame = ProjectFrame.from_value(project, Frame(width=320, height=320, name="Square"))
    other_frame.save()
    same = begin(framing.footage, other_frame)
    copy = framing.footage.path.with_name("again.mp4")
    shutil.copyfile(small_clip, copy)
    other = begin(import_file(project, "Another.mp4", copy), framing.frame)
    plan = moving(ida, framing, keys=[{"time": "0", "tightness": "1"}, {"time": "0.8", "tightness": "1.5"}])
    put(ida, framing, plan | {"shots": [{"start": "0"}, {"start": "0.4"}]})
    paste = {"do": "paste", "source": framing.pk, "parts": ["placement", "motion", "surround", "finish"]}
    cells(ida, framing, paste, same, other)
    assert len(state(ida, same)["plan"]["motion"]["keys"]) == 2
    assert len(state(ida, same)["plan"]["shots"]) == 2
    assert state(ida, other)["plan"]["motion"]["keys"] == []
    assert state(ida, other)["plan"]["shots"] == []
    assert state(ida, other)["plan"]["placement"] == state(ida, framing)["plan"]["placement"]


def test_a_cell_that_moves_is_seen_at_both_ends(ida, framing):
    put(ida, framing, moving(ida, framing, move={"kind": "pan"}))
    ends = [ida.get(f"/api/framings/{framing.pk}/thumbnail?width=90&at={at}").content for at in ("first", "last")]
    assert ends[0] != ends[1]
    assert ida.get(f"/api/framings/{framing.pk}/thumbnail?at=never").status_code == 422
