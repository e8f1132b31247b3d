"""Rules, and doing things with many cells at once."""

import shutil
from pathlib import Path

import pytest
from django.conf import settings

from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin
from server.studio.models import Framing, Member
from tests.clips import write_clip
from tests.server.page import labels_of, put, state, step, walk

pytestmark = pytest.mark.django_db


@pytest.fixture
def cells(project, small_clip, tmp_path):
    """Two clips of one format and one of another, each in the project's frame."""
    other = write_clip(tmp_path / "other.mp4", size=(180, 320), frames=3, sound=None)
    rows = []
    for number, clip in enumerate((small_clip, small_clip, other)):
        copy = Path(settings.INCOMING_DIR) / f"arriving {number}.mp4"
        shutil.copyfile(clip, copy)
        rows.append(begin(import_file(project, f"Clip {number}.mp4", copy), project.frames.get()))
    return rows


def tighten(client, framing, tightness):
    plan = state(client, framing)["plan"]
    plan["placement"]["tightness"] = tightness
    return put(client, framing, plan, "Fill amount").json()["framing"]


def tightness_of(client, framing):
    return state(client, framing)["plan"]["placement"]["tightness"]


def act(client, framings, **action):
    body = {"framings": [framing.pk for framing in framings], "action": action}
    project = framings[0].footage.project_id
    answer = client.post(f"/api/projects/{project}/cells", body, content_type="application/json")
    return [cell["id"] for cell in answer.json()]


def test_sensible_rules_exist_before_anyone_asks(ida, cells):
    whole, _, fill = (state(ida, cell) for cell in cells)
    assert (whole["plan"]["placement"]["tightness"], whole["obeys"], whole["rule_set"]) == ("0", True, False)
    assert fill["measure"]["cost"]["covered_percent"] == "100"


def test_a_rule_holds_for_every_clip_of_its_format_without_a_framing_of_its_own(ida, cells):
    first, second, other = cells
    before = tightness_of(ida, other)
    tighten(ida, first, "0.4")
    made = step(ida, first, "rule").json()
    assert (made["obeys"], made["rule_set"]) == (True, True)
    assert tightness_of(ida, first) == tightness_of(ida, second) == "0.4"
    assert tightness_of(ida, other) == before
    tighten(ida, second, "0.9")
    tighten(ida, first, "0.6")
    step(ida, first, "rule")
    assert tightness_of(ida, second) == "0.9"
    back = step(ida, second, "obey").json()
    assert (back["obeys"], back["plan"]["placement"]["tightness"]) == (True, "0.6")
    assert labels_of(ida, second)[0] == "Use preset"
    assert walk(ida, second, "undo")["framing"]["plan"]["placement"]["tightness"] == "0.9"
    ida.delete(f"/api/framings/{first.pk}/rule")
    assert tightness_of(ida, first) == "0"


def test_a_new_clip_of_the_format_obeys_at_once(ida, cells, project, small_clip):
    tighten(ida, cells[0], "0.4")
    step(ida, cells[0], "rule")
    copy = Path(settings.INCOMING_DIR) / "late.mp4"
    shutil.copyfile(small_clip, copy)
    late = begin(import_file(project, "Late.mp4", copy), project.frames.get())
    assert tightness_of(ida, late) == "0.4"


def test_a_changed_rule_changes_the_stamps_of_the_cells_it_governs(ida, cells, project):
    def stamps():
        return {cell["id"]: cell["stamp"] for cell in ida.get(f"/api/projects/{project.pk}").json()["cells"]}

    before = stamps()
    tighten(ida, cells[0], "0.4")
    step(ida, cells[0], "rule")
    after = stamps()
    assert [before[cell.pk] != after[cell.pk] for cell in cells] == [True, True, False]


def test_what_a_format_means_is_set_once(ida, cells):
    first, second, _ = (cell.footage for cell in cells)

    def say(footage, interpretation, for_format=False):
        body = {"interpretation": interpretation, "for_format": for_format}
        return ida.put(f"/api/footage/{footage.pk}/interpretation", body, content_type="application/json").json()

    def aspect(cell):
        return state(ida, cell)["plan"]["interpretation"]["pixel_aspect"]

    say(second, {"pixel_aspect": "8:9"})
    told = say(first, {"pixel_aspect": "16:15"}, for_format=True)
    assert (told["own"], told["stated"]["pixel_aspect"]) == (False, "16/15")
    assert [aspect(cell) for cell in cells] == ["16/15", "8/9", None]
    say(second, None)
    assert aspect(cells[1]) == "16/15"


def test_pasting_the_placement_leaves_the_surround_and_the_other_way_round(ida, cells):
    first, second, other = cells
    plan = tighten(ida, first, "0.5")["plan"]
    plan["surround"] = {"kind": "plain", "colour": "#804000"}
    put(ida, first, plan, "Plain")
    assert act(ida, [second], do="paste", source=first.pk, parts=["placement"]) == [second.pk]
    assert tightness_of(ida, second) == "0.5"
    assert state(ida, second)["plan"]["surround"]["kind"] == "blurred"
    act(ida, [other], do="paste", source=first.pk, parts=["surround"])
    pasted = state(ida, other)["plan"]["surround"]
    assert (pasted["kind"], pasted["colour"]) == ("plain", "#804000")
    assert tightness_of(ida, other) == "1"


def test_lengths_in_pixels_are_scaled_in_a_copy_for_a_frame_of_twice_the_size(ida, cells, project):
    first = cells[0]
    size = {side: 2 * getattr(first.frame.value, side) for side in ("width", "height")}
    ida.post(f"/api/projects/{project.pk}/frames", size, content_type="application/json")
    ida.get(f"/api/projects/{project.pk}")
    double = Framing.objects.get(footage=first.footage, frame__project=project, frame=project.frames.last())
    plan = state(ida, first)["plan"]
    plan["placement"] |= {"offset_x": "20", "offset_y": "-6"}
    plan["surround"] = {"kind": "blurred", "shift_x": "15"}
    plan["finish"] |= {"shadow": {"opacity": "50", "outline": "4"}} if "outline" in plan["finish"]["shadow"] else {}
    put(ida, first, plan, "Placed")
    act(ida, [double], do="paste", source=first.pk, parts=["placement", "motion", "surround", "finish"])
    copy = state(ida, double)["plan"]
    assert (copy["placement"]["offset_x"], copy["placement"]["offset_y"]) == ("40", "-12")
    assert copy["surround"]["shift_x"] == "30"
    act(ida, [first], do="paste", source=double.pk, parts=["placement", "surround"])
    back = state(ida, first)["plan"]
    assert (back["placement"]["offset_x"], back["surround"]["shift_x"]) == ("20", "15")


def test_many_are_placed_moved_and_undone_together(ida, cells):
    act(ida, cells, do="place", placement={"tightness": "0.75"})
    assert [tightness_of(ida, cell) for cell in cells] == ["0.75"] * 3
    act(ida, cells, do="move", offset_x="-12.5", offset_y="0")
    assert {state(ida, cell)["plan"]["placement"]["offset_x"] for cell in cells} == {"-12.5"}
    assert sorted(cell["id"] for cell in walk(ida, cells[0], "undo")["cells"]) == sorted(cell.pk for cell in cells)
    assert {state(ida, cell)["plan"]["placement"]["offset_x"] for cell in cells} == {"0"}
    assert act(ida, cells, do="obey") == [cell.pk for cell in cells]
    assert all(state(ida, cell)["obeys"] for cell in cells)


def test_cells_of_others_are_left_alone(joel, ida, cells, people):
    from server.studio.models import Project

    mine = Project.objects.create(owner=people[1], name="Mine")
    body = {"framings": [cell.pk for cell in cells], "action": {"do": "place", "placement": {"tightness": "0.75"}}}
    assert joel.post(f"/api/projects/{mine.pk}/cells", body, content_type="application/json").json() == []
    assert tightness_of(ida, cells[0]) == "0"


def test_many_renders_are_ordered_at_once_or_none(ida, cells, project):
    address = f"/api/projects/{project.pk}/renders"
    body = {"framings": [cell.pk for cell in cells]}
    assert len(ida.post(address, body, content_type="application/json").json()) == 3
    frame = project.frames.get()
    odd = {**frame.frame_json, "width": 181}
    ida.put(f"/api/frames/{frame.pk}", {"frame": odd}, content_type="application/json")
    answer = ida.post(address, body, content_type="application/json")
    assert answer.status_code == 422
    assert "even" in answer.json()["remedy"]
    assert answer.json()["clip"] == "Clip 0.mp4"
    assert len(ida.get(address).json()) == 3


def test_a_board_of_many_cells_asks_the_database_little(ida, cells, project, django_assert_max_num_queries):
    ida.get(f"/api/projects/{project.pk}")
    with django_assert_max_num_queries(20):
        board = ida.get(f"/api/projects/{project.pk}").json()
    assert len(board["cells"]) == Framing.objects.count() == 3


def act_on(client, cells, action, versions):
    body = {"framings": [cell.pk for cell in cells], "versions": versions, "action": action}
    return client.post(f"/api/projects/{cells[0].footage.project_id}/cells", body, content_type="application/json")


def test_cells_that_somebody_else_changed_are_not_changed_unseen(ida, cells):
    versions = [state(ida, cell)["version"] for cell in cells]
    tighten(ida, cells[1], "0.5")  # by somebody else
    answer = act_on(ida, cells, {"do": "place", "placement": {"tightness": "0.25"}}, versions)
    assert answer.status_code == 409
    assert answer.json()["changed"]
    assert answer.json()["clip"] == cells[1].footage.name
    assert [state(ida, cell)["plan"]["placement"]["tightness"] for cell in cells] == ["0", "0.5", "1"]


def test_undoing_cells_leaves_alone_what_somebody_changed_since(ida, joel, people, project, cells):
    Member.objects.create(project=project, person=people[1], role="work")
    act(ida, cells, do="place", placement={"tightness": "0.25"})
    tighten(joel, cells[1], "0.5")
    undone = walk(ida, cells[0], "undo")
    assert undone["left"] == 1
    assert [cell["id"] for cell in undone["cells"]] == [cells[0].pk, cells[2].pk]
    assert [state(ida, cell)["plan"]["placement"]["tightness"] for cell in cells] == ["0", "0.5", "1"]


def test_there_is_one_version_for_each_cell(ida, cells):
    assert act_on(ida, cells, {"do": "obey"}, [1]).status_code == 422


@pytest.mark.parametrize("way", ["obey", "rule"])
def test_a_rule_is_not_followed_or_made_from_what_somebody_else_changed(ida, cells, way):
    seen = state(ida, cells[0])["version"]
    tighten(ida, cells[0], "0.5")
    assert step(ida, cells[0], way, seen).status_code == 409
    assert not state(ida, cells[0])["obeys"]
