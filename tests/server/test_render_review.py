"""What people see before they render framings."""

import pytest

from cadrage.formats import Frame
from cadrage.output import SHIPPED, Settings
from server.studio.actions import renders, work
from server.studio.actions.framing_plans import begin
from server.studio.actions.render_review import left_preset
from server.studio.models import Framing, ProjectFrame
from tests.server.page import post_json

pytestmark = pytest.mark.django_db(transaction=True)


def review(client, project, framings):
    answer = post_json(client, f"/api/projects/{project.pk}/renders/review", {"framings": [row.pk for row in framings]})
    assert answer.status_code == 200, answer.content
    return answer.json()


def reasons(found):
    return [one["reason"] for one in found["notices"]]


def set_file(frame, **fields):
    row = ProjectFrame.objects.get(pk=frame.pk)
    row.settings_json = row.settings.model_copy(update=fields).model_dump(mode="json")
    row.save()


def scope_frame(project):
    row = ProjectFrame.from_value(project, Frame(width=1920, height=1080, active="2.39", name="Scope"))
    row.save()
    return row


def test_files_are_described_by_frame_with_their_length_and_size(ida, framing, project):
    set_file(framing.frame, rate_control="rate", rate=8000, sound="none")
    [files] = review(ida, project, [framing])["files"]
    facts = {one["label"]: one["value"] for one in files["facts"]}
    assert (facts["Size"], facts["Bars"], facts["Sound"]) == ("180×320", "none", "none")
    assert files["name"] == "Wall_Small clip_Totem.mp4"
    assert files["framings"] == [framing.pk]
    assert files["seconds"] == files["first_seconds"] == "1"
    assert files["bytes"] == 1_000_000  # 8000 kb/s for a second, without sound
    assert files["expected_seconds"] is None


def test_after_a_render_the_time_of_others_is_expected(ida, framing, project):
    job = renders.order(framing)
    work.perform_next()
    job.refresh_from_db()
    [files] = review(ida, project, [framing])["files"]
    assert files["expected_seconds"] == pytest.approx(25 / job.frames_per_second)


def test_undecided_bars_block_and_are_told_first(ida, framing, project):
    other = begin(framing.footage, scope_frame(project))
    found = review(ida, project, [framing, other])
    assert [one["title"] for one in found["files"]] == ["Totem", "Scope"]
    first = found["notices"][0]
    assert (first["reason"], first["blocks"], first["count"]) == ("bars_undecided", True, 1)
    assert first["places"][0]["framing"] == other.pk
    assert found["files"][1]["bars"]["decided"] is False
    set_file(other.frame, bars="whole_frame")
    assert "bars_burned_in" in reasons(review(ida, project, [framing, other]))


def test_the_fingerprint_changes_with_whatever_is_shown(ida, framing, project):
    before = review(ida, project, [framing])["fingerprint"]
    assert review(ida, project, [framing])["fingerprint"] == before
    set_file(framing.frame, stereo=True)
    assert review(ida, project, [framing])["fingerprint"] != before


def test_a_missing_clip_is_refused_in_the_review_and_the_others_are_described(ida, framing, project):
    framing.footage.path.unlink()
    found = review(ida, project, [framing])
    assert found["notices"][0]["reason"] == "refused"
    assert found["notices"][0]["remedy"]
    assert len(found["files"]) == 1


def test_framings_of_other_projects_are_left_out(ida, joel, framing, project, people):
    from server.studio.models import Project

    theirs = Project.objects.create(owner=people[1], name="Theirs")
    assert review(joel, theirs, [framing]) | {"fingerprint": ""} == {"files": [], "notices": [], "fingerprint": ""}
    answer = post_json(joel, f"/api/projects/{project.pk}/renders/review", {"framings": [framing.pk]})
    assert answer.status_code == 404


def test_settings_that_left_their_preset_are_told(ida, framing, project):
    preset = SHIPPED[0]
    assert left_preset(preset, list(SHIPPED)) is None
    assert left_preset(Settings(name="Nobody's"), list(SHIPPED)) is None
    set_file(framing.frame, **preset.model_dump() | {"quality": "draft"})
    found = review(ida, project, [framing])
    assert "preset" in reasons(found)
    notice = found["notices"][-1]
    assert "quality" in notice["places"][0]["summary"]
    assert notice["fix"]["settings"]["quality"] == preset.quality


def test_settings_that_people_saved_are_presets_too(ida, framing, project):
    saved = Settings(name="Foyer", quality="draft")
    post_json(ida, "/api/settings", saved.model_dump(mode="json"))
    set_file(framing.frame, **saved.model_dump())
    assert "preset" not in reasons(review(ida, project, [framing]))
    set_file(framing.frame, quality="high")
    assert "preset" in reasons(review(ida, project, [framing]))


def test_the_rate_and_the_range_of_the_clips_are_told(ida, framing, project):
    facts = {one["label"]: one["value"] for one in review(ida, project, [framing])["files"][0]["facts"]}
    assert (facts["Frame rate"], facts["Range"]) == ("25 fps", "whole clip")
    framing.footage.range_json = {"start": "0", "end": "0.5"}
    framing.footage.save()
    [files] = review(ida, project, [framing])["files"]
    facts = {one["label"]: one["value"] for one in files["facts"]}
    assert (facts["Range"], files["seconds"]) == ("as marked", "0.52")


def test_many_framings_are_counted_and_the_first_are_listed(ida, framing, project):
    frames = [scope_frame(project) for _ in range(25)]
    rows = [begin(framing.footage, frame) for frame in frames]
    notice = review(ida, project, rows)["notices"][0]
    assert (notice["count"], len(notice["places"])) == (25, 20)
    assert Framing.objects.count() == 26
