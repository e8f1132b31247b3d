"""Scenes that go on beyond the picture, on the server: looked at, made as jobs, rendered, finished elsewhere."""

import io
import json
import shutil
import threading
from pathlib import Path

import numpy as np
import pytest
from django.conf import settings as server_settings
from PIL import Image

from cadrage.formats import Frame
from server.stand_in import Generator
from server.studio.actions import analyses, extending, footage, generations, plate_work, plates, work
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin
from server.studio.models import Footage, Framing, Generation, Material, Plate, ProjectFrame, Render
from tests.clips import write_clip
from tests.extending.photographs import sized
from tests.server.page import ask, design_of, pictured, post_json, put, state, step

pytestmark = pytest.mark.django_db
EXTENDED = {"kind": "extended"}


@pytest.fixture
def upright(project, tmp_path):
    """An upright clip of somebody who moves in the middle, in a wide frame."""
    ground = sized("coffee", 120, 216)

    def paint(number):
        image = ground.copy()
        image[90:120, 40 + number : 60 + number] = (20, 40, 220)
        return image

    clip = write_clip(tmp_path / "upright.mp4", size=(120, 216), frames=20, paint=paint)
    copy = Path(server_settings.INCOMING_DIR) / "upright.mp4"
    shutil.copyfile(clip, copy)
    frame = ProjectFrame.from_value(project, Frame(width=384, height=216, name="Wide"))
    frame.save()
    row = begin(import_file(project, "Upright.mp4", copy), frame)
    finish()
    return row


def finish():
    """Do what workers do until nothing waits."""
    for _ in range(60):
        plate_work.perform_next()
        analyses.perform_next()
        generations.perform_next()
        waiting = [Model.objects.filter(state="queued").exists() for Model in (Plate, analyses.Analysis, Generation)]
        if not any(waiting):
            return


def extend(client, framing, **more):
    """Let a framing extend, and give its plan back."""
    plan = state(client, framing)["plan"] | {"surround": EXTENDED | more}
    put(client, framing, plan, "Extended")
    return state(client, framing)["plan"]


def standing(client, framing, plan, **more):
    answer = ask(client, framing, "extension", plan, time="0.4", **more)
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_choosing_it_looks_at_the_sides_makes_drafts_then_all_and_tells_what_is_invented(ida, upright):
    plan = extend(ida, upright)
    first = standing(ida, upright, plan)
    assert first["looking"]["state"] == "queued"
    assert [one["state"] for one in first["plates"]] == ["queued"]
    assert float(first["shares"]["beyond"]) > 60
    finish()
    then = standing(ida, upright, plan)
    assert then["verdict"]["sides"]["left"]["verdict"] == "fits"
    assert [one["state"] for one in then["plates"]] == ["done"]
    assert then["stamp"] != first["stamp"]
    assert float(then["shares"]["invented"]) == pytest.approx(68.8, abs=1)
    assert Plate.objects.count() == 1  # so small a picture needs no draft
    standing(ida, upright, plan)
    assert Plate.objects.count() == 1


def test_the_verdict_advises_what_it_is_made_of(ida, upright):
    extending.look(upright.footage)
    finish()
    plan = state(ida, upright)["plan"]
    design = ask(ida, upright, "extension/begin", plan, time="0").json()
    assert design["surround"]["kind"] == "extended"
    assert design["surround"]["camera"] == "still"
    assert design["surround"]["end"] is None


def test_ways_are_offered_chosen_and_seen(ida, upright):
    plan = extend(ida, upright)
    offered = ask(ida, upright, "extension/variants", plan, time="0", side="left", count=4).json()
    assert [one["variant"] for one in offered] == [0, 1, 2, 3]
    finish()
    offered = ask(ida, upright, "extension/variants", plan, time="0", side="left", count=4).json()
    assert {one["plate"]["state"] for one in offered} == {"done"}
    pictures = [
        picture_of(ask(ida, upright, "extension/variant", plan, time="0", side="left", variant=number, width=384))
        for number in (0, 1)
    ]
    assert np.abs(pictures[0][:, :100] - pictures[1][:, :100]).mean() > 2
    assert np.abs(pictures[0][:, 260:] - pictures[1][:, 260:]).mean() < 0.5
    tint = ask(ida, upright, "extension/origins", plan, time="0", width=384)
    image = np.asarray(Image.open(io.BytesIO(tint.content)))
    assert (image[:, :120, 3] > 0).all()
    assert (image[:, 140:240, 3] == 0).all()


def picture_of(answer):
    assert answer.status_code == 200, answer.content
    return np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB")).astype(int)


def test_a_render_waits_for_its_plate_and_shows_it(ida, upright):
    extend(ida, upright, match_grain=False)
    answer = ida.post(f"/api/framings/{upright.pk}/renders")
    assert answer.status_code == 200, answer.content
    work.perform_next()
    assert Render.objects.get().state == "queued"
    assert Plate.objects.get(asked_json__shrink=1).state == "queued"
    finish()
    work.perform_next()
    row = Render.objects.get()
    assert (row.state, row.problem) == ("done", "")
    assert row.report_json["right"]
    image = picture_of(ida.get(f"/api/renders/{row.pk}/picture?time=0.4&width=384"))
    plain = sized("coffee", 120, 216)
    assert np.abs(image[:60, 140:240].mean(axis=(0, 1)) - plain[:60, 10:110].mean(axis=(0, 1))).max() < 12
    assert image[:, :100].std() > 20  # the scene, not a plain colour


def test_a_plate_that_cannot_be_made_ends_the_render_in_words(ida, project, tmp_path):
    clip = write_clip(
        tmp_path / "black.mp4", size=(120, 216), frames=12, paint=lambda _: np.zeros((216, 120, 3), np.uint8)
    )
    copy = Path(server_settings.INCOMING_DIR) / "black.mp4"
    shutil.copyfile(clip, copy)
    frame = ProjectFrame.from_value(project, Frame(width=384, height=216, name="Wide"))
    frame.save()
    framing = begin(import_file(project, "Black.mp4", copy), frame)
    finish()
    plan = extend(ida, framing, camera="moving")
    standing(ida, framing, plan)
    finish()
    (plate,) = standing(ida, framing, plan)["plates"]
    assert plate["state"] == "failed"
    assert "cannot be told" in plate["problem"]
    ida.post(f"/api/framings/{framing.pk}/renders")
    for _ in range(3):
        work.perform_next()
    row = Render.objects.get()
    assert row.state == "failed"
    assert "Black.mp4" in row.problem
    assert state(ida, framing)["plan"]["surround"]["camera"] == "moving"


def test_a_plate_is_cancelled_tried_again_and_picked_up_from_a_dead_worker(ida, upright):
    plan = extend(ida, upright)
    (plate,) = standing(ida, upright, plan)["plates"]
    assert post_json(ida, f"/api/plates/{plate['id']}/cancel", {}).json()["state"] == "cancelled"
    assert post_json(ida, f"/api/plates/{plate['id']}/retry", {}).json()["state"] == "queued"
    Plate.objects.update(state="running", attempts=1)
    plate_work.pick_up()
    assert Plate.objects.get().state == "queued"
    finish()
    assert Plate.objects.get().state == "done"


def test_another_file_in_its_place_needs_another_plate_and_old_ones_go(ida, upright, small_clip, monkeypatch):
    plan = extend(ida, upright)
    standing(ida, upright, plan)
    finish()
    before = Plate.objects.get().key
    row = Footage.objects.get(pk=upright.footage_id)
    shutil.copyfile(small_clip, row.path)
    footage.read_anew()
    again = standing(ida, Framing.objects.get(pk=upright.pk), plan)
    assert again["plates"][-1]["state"] == "queued"
    assert Plate.objects.exclude(key=before).exists()
    monkeypatch.setattr(plates, "MOST_OF_A_CLIP", 0)
    plates.collect()
    assert not Plate.objects.filter(key=before).exists()


def test_a_rule_that_extends_has_plates_made_for_every_clip(ida, upright, project):
    extend(ida, upright)
    step(ida, upright, "rule")
    Plate.objects.all().delete()
    extending.see_to(project.pk)
    assert Plate.objects.filter(footage=upright.footage).exists()


def test_the_still_goes_out_is_finished_and_comes_back(ida, upright):
    plan = extend(ida, upright)
    still = ask(ida, upright, "extension/still", plan, time="0")
    assert "Upright 384x216.png" in still["Content-Disposition"]
    image = Image.open(io.BytesIO(still.content))
    assert (image.size, image.mode) == ((384, 216), "RGBA")
    alpha = np.asarray(image)[..., 3]
    assert set(np.unique(alpha)) == {0, 128, 255}
    painted = Image.new("RGB", image.size, (30, 160, 60))
    painted.paste(image, mask=image.getchannel("A").point(lambda value: 255 if value else 0))
    answer = send_back(ida, upright, plan, painted, "painted.png")
    assert answer.status_code == 200, answer.content
    assert answer.json()["about"] == "it lay just where the still was"
    material = Material.objects.get()
    assert material.origin == "finished elsewhere, for Upright.mp4"
    put(ida, upright, plan | answer.json()["design"], "Picture taken back")
    now = state(ida, upright)["plan"]
    standing(ida, upright, now)
    finish()
    answer = ask(ida, upright, "preview", now, time="0", width=384)
    seen = np.asarray(Image.open(io.BytesIO(pictured(answer))).convert("RGB")).astype(int)
    assert np.abs(seen[20:200, 10:100].mean(axis=(0, 1)) - [30, 160, 60]).max() < 8


def send_back(client, framing, plan, image, name):
    data = io.BytesIO()
    image.save(data, "PNG")
    data.seek(0)
    data.name = name
    given = json.dumps({"design": design_of(plan), "time": "0"})
    return client.post(f"/api/framings/{framing.pk}/extension/outside", {"file": data, "given": given})


@pytest.mark.parametrize(
    ("image", "words"),
    [
        (Image.new("RGB", (300, 300), "red"), "300×300"),
        (Image.new("RGBA", (384, 216), (0, 0, 0, 0)), "still transparent"),
        (Image.effect_noise((384, 216), 90).convert("RGB"), "cannot be found again"),
    ],
)
def test_what_is_no_such_picture_is_refused_in_words_and_changes_nothing(ida, upright, image, words):
    plan = extend(ida, upright)
    answer = send_back(ida, upright, plan, image, "no.png")
    assert answer.status_code == 422
    assert words in answer.json()["title"]
    assert not Material.objects.exists()


@pytest.fixture
def generator(settings):
    """The simulated generator, at a free port."""
    with Generator(("127.0.0.1", 0)) as one:
        thread = threading.Thread(target=one.serve_forever, daemon=True)
        thread.start()
        settings.GENERATOR = f"http://127.0.0.1:{one.server_port}"
        settings.GENERATOR_SECONDS = 20
        yield one
        one.shutdown()


def generate(client, framing, plan, prompt):
    answer = ask(client, framing, "extension/generate", plan, time="0", prompt=prompt, count=2)
    assert answer.status_code == 200, answer.content
    finish()
    return Generation.objects.latest("pk")


def test_an_outside_generator_is_asked_only_when_somebody_says_so(ida, upright, generator):
    plan = extend(ida, upright)
    assert standing(ida, upright, plan)["generator"]
    finish()
    assert generator.jobs == {}
    row = generate(ida, upright, plan, "more of the yard")
    assert (row.state, row.problem) == ("done", "")
    assert len(row.variants_json) == 2
    ref = row.variants_json[1]["material"]
    design = ask(ida, upright, "extension/use", plan, time="0", material=ref).json()
    assert design["surround"]["outside"]["of"] == ref
    assert ask(ida, upright, "extension/use", plan, time="0", material="material:99999").status_code == 422


@pytest.mark.parametrize(
    ("prompt", "words"),
    [("failing", "gave up: it was asked to"), ("wrong size", "216×216"), ("rubbish", "no picture that can be read")],
)
def test_whatever_the_generator_does_ends_in_words_and_the_framing_as_it_was(ida, upright, generator, prompt, words):
    plan = extend(ida, upright)
    row = generate(ida, upright, plan, prompt)
    assert row.state == "failed"
    assert words in row.problem
    assert state(ida, upright)["plan"] == plan


def test_one_that_is_down_slow_or_not_there_is_told(ida, upright, settings, generator):
    plan = extend(ida, upright)
    settings.GENERATOR_SECONDS = 0.5
    assert "took longer" in generate(ida, upright, plan, "slow").problem
    settings.GENERATOR = "http://127.0.0.1:9"
    assert "cannot be reached" in generate(ida, upright, plan, "").problem
    settings.GENERATOR = ""
    answer = ask(ida, upright, "extension/generate", plan, time="0")
    assert answer.status_code == 422
    assert not standing(ida, upright, plan)["generator"]


def test_waiting_for_one_can_be_cancelled(ida, upright, generator):
    plan = extend(ida, upright)
    ask(ida, upright, "extension/generate", plan, time="0", prompt="slow")
    row = Generation.objects.get()
    assert post_json(ida, f"/api/generations/{row.pk}/cancel", {}).json()["state"] == "cancelled"
    finish()
    assert generator.jobs == {}


def test_shots_are_cut_where_it_fits(ida, upright):
    plan = extend(ida, upright)
    design = ask(ida, upright, "extension/to-fit", plan, time="0", start="0", end="0.4").json()
    assert [shot["start"] for shot in design["shots"]] == ["0", "0.4"]


def test_the_sides_of_every_clip_of_a_project_are_looked_at_on_request(ida, upright, project):
    assert ida.post(f"/api/projects/{project.pk}/sides").status_code == 204
    finish()
    (clip,) = [one for one in ida.get(f"/api/projects/{project.pk}").json()["footage"] if one["name"] == "Upright.mp4"]
    assert "left" in clip["extendable"]
