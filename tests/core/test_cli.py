"""The command line as it is typed."""

import json
import re
import subprocess
import sys
from types import SimpleNamespace

import numpy as np
import pytest
from typer.testing import CliRunner

from cadrage.cli.main import app
from cadrage.footage import ClipReader, probe
from tests.clips import write_clip


def process(*arguments):
    """As it is typed, in a process of its own."""
    return subprocess.run(  # noqa: PLW1510 - exit statuses are what is tested
        [sys.executable, "-m", "cadrage", *map(str, arguments)], capture_output=True, text=True
    )


def cadrage(*arguments):
    """The same in this process, which saves starting one."""
    done = CliRunner().invoke(app, [str(argument) for argument in arguments])
    return SimpleNamespace(returncode=done.exit_code, stdout=done.stdout, stderr=done.stderr)


def test_probe_frame_plan_convert_inspect(small_clip, tmp_path):
    probed = process("probe", small_clip, "--json")
    assert probed.returncode == 0
    assert json.loads(probed.stdout)["rate"] == "25"

    image = tmp_path / "frame.png"
    options = ["--frame", "180x320", "--placement", "0.5", "--offset", "10,-4.5", "--surround", "plain:colour=#203040"]
    assert process("frame", small_clip, image, "--at", "0.5", *options).returncode == 0
    assert image.read_bytes()[:8] == b"\x89PNG\r\n\x1a\n"

    written = process("plan", small_clip, *options)
    plan = json.loads(written.stdout)
    placement = plan["placement"]
    assert (placement["tightness"], placement["offset_x"], placement["offset_y"]) == ("0.5", "10", "-4.5")
    plan_file = tmp_path / "plan.json"
    plan_file.write_text(written.stdout)

    target = tmp_path / "out.mp4"
    converted = process("convert", small_clip, target, "--plan", plan_file, "--json")
    assert converted.returncode == 0, converted.stderr
    assert json.loads(converted.stdout)["right"]
    assert process("inspect", target, "--plan", plan_file).returncode == 0

    plan_file.write_text(written.stdout.replace('"width": 180', '"width": 190'))
    wrong = process("inspect", target, "--plan", plan_file, "--json")
    assert wrong.returncode == 1
    assert not json.loads(wrong.stdout)["right"]


def test_options_and_a_plan_make_the_same_frame(small_clip, tmp_path):
    options = [
        "--frame",
        "320x320",
        "--pixel-aspect",
        "12:11",
        "--surround",
        "blurred:softness=2,brightness=80,size=120",
    ]
    (tmp_path / "plan.json").write_text(cadrage("plan", small_clip, *options).stdout)
    cadrage("frame", small_clip, tmp_path / "one.png", *options)
    cadrage("frame", small_clip, tmp_path / "two.png", "--plan", tmp_path / "plan.json")
    assert (tmp_path / "one.png").read_bytes() == (tmp_path / "two.png").read_bytes()


@pytest.mark.parametrize(
    ("typed", "sizing", "value"),
    [("fit-width", "width", None), ("native", "native", None), ("stretch", "stretch", None), ("56%", "scale", "0.56")],
)
def test_ways_of_sizing(small_clip, typed, sizing, value):
    placement = json.loads(cadrage("plan", small_clip, "--placement", typed).stdout)["placement"]
    assert placement["sizing"] == sizing
    assert value is None or placement["scale"] == value


@pytest.mark.parametrize(
    "options",
    [
        ["--frame", "wide"],
        ["--frame", "0x100"],
        ["--frame", "99999x100"],
        ["--placement", "middle"],
        ["--placement", "-1"],
        ["--offset", "5"],
        ["--surround", "fog"],
        ["--surround", "plain:colour=mauve"],
        ["--surround", "blurred:softness=99"],
        ["--surround", "blurred:haze=1"],
        ["--surround", "blurred:softness"],
        ["--pixel-aspect", "1:0"],
        ["--plan", "nowhere.json"],
    ],
)
def test_bad_options_end_with_2_and_say_why(small_clip, tmp_path, options):
    run = cadrage("frame", small_clip, tmp_path / "out.png", *options)
    assert run.returncode == 2
    assert run.stderr.startswith("cadrage: ")
    assert "Traceback" not in run.stderr
    assert not (tmp_path / "out.png").exists()


def test_bad_files_end_with_2(tmp_path):
    assert cadrage("probe", tmp_path / "gone.mp4").returncode == 2
    assert cadrage("convert", tmp_path / "gone.mp4", tmp_path / "out.mp4").returncode == 2
    run = cadrage("inspect", tmp_path / "gone.mp4", "--json")
    assert run.returncode == 2
    assert json.loads(run.stdout)["error"]["remedy"]


def test_what_a_clip_is_taken_to_be_and_how_it_is_turned(small_clip):
    options = ["--as", "rotation=90,fields=upper-first,burned_in_bars=0/0/10/12.5,mirror=true,matrix=bt601"]
    options += ["--placement", "cover", "--angle", "-1.5", "--mirror", "--rate", "30000/1001"]
    options += ["--active", "2.39", "--outside", "surround"]
    plan = json.loads(cadrage("plan", small_clip, *options).stdout)
    said = plan["interpretation"]
    assert (said["rotation"], said["fields"], said["matrix"]) == (90, "upper_first", "bt601")
    assert said["burned_in_bars"] == {"left": "0", "right": "0", "top": "10", "bottom": "12.5"}
    assert plan["placement"] | {"sizing": "cover", "angle": "-1.5", "mirror": True} == plan["placement"]
    assert (plan["frame"]["rate"], plan["frame"]["outside"]) == ("30000/1001", "surround")


@pytest.mark.parametrize("said", ["burned_in_bars=1/2", "rotation=37", "fields=both", "colour", "range=half"])
def test_what_a_clip_cannot_be_is_refused(small_clip, said):
    refused = cadrage("plan", small_clip, "--as", said)
    assert refused.returncode == 2
    assert refused.stderr.startswith("cadrage: ")


@pytest.mark.parametrize("said", ["duration=3", "rate=25", "clean_aperture=704"])
def test_an_interpretation_that_can_have_no_effect_is_refused(small_clip, said):
    refused = cadrage("plan", small_clip, "--as", said)
    assert refused.returncode == 2
    assert said.split("=")[0] in refused.stderr


def test_looking_at_a_clip(tmp_path):
    clip = write_clip(tmp_path / "clip.mp4", size=(640, 360), sound=None)
    seen = json.loads(cadrage("analyse", clip, "--json").stdout)
    assert (seen["bars"]["kind"], seen["fields"]["order"]) == ("none", "progressive")


def test_a_chart_of_guides(tmp_path):
    made = cadrage("chart", tmp_path / "chart.svg", "--active", "2.39", "--raster", "4096x2160", "--also", "1080x1920")
    assert made.returncode == 0, made.stderr
    assert "Active picture 2.39" in (tmp_path / "chart.svg").read_text()
    assert cadrage("chart", tmp_path / "chart.png", "--json").returncode == 0
    assert (tmp_path / "chart.png").read_bytes().startswith(b"\x89PNG")
    assert cadrage("chart", tmp_path / "no.svg", "--raster", "wide").returncode == 2
    assert cadrage("chart", tmp_path / "no.svg", "--frame", "3x3").returncode == 2


def test_a_treatment_is_named_or_read_from_a_file(small_clip, tmp_path):
    named = json.loads(cadrage("plan", small_clip, "--treatment", "gallery card").stdout)
    assert (named["surround"]["colour"], named["finish"]["edge"]["corners"]) == ("#d8d2c4", "1.5")
    file = tmp_path / "own.json"
    file.write_text('{"version": 1, "name": "Own", "surround": {"kind": "sides"}}')
    assert json.loads(cadrage("plan", small_clip, "--treatment", file).stdout)["surround"]["kind"] == "sides"
    file.write_text('{"version": 3, "name": "Own"}')
    newer = cadrage("plan", small_clip, "--treatment", file, "--json")
    assert newer.returncode == 2
    assert "version 2" in newer.stdout + newer.stderr


def test_what_stands_behind_is_named_by_its_path(small_clip, tmp_path):
    target = tmp_path / "looped.mp4"
    done = cadrage("convert", small_clip, target, "--frame", "180x320", "--surround", f"loop:of={small_clip}", "--json")
    assert done.returncode == 0, done.stdout + done.stderr
    gone = cadrage("frame", small_clip, tmp_path / "a.png", "--surround", "still:of=nowhere.png", "--json")
    assert gone.returncode == 2
    assert "nowhere.png" in gone.stdout + gone.stderr


def test_a_folder_is_delivered_with_its_sheet_and_what_fails_is_told(small_clip, tmp_path):
    folder, out = tmp_path / "Clips", tmp_path / "out"
    folder.mkdir()
    (folder / "one.mp4").write_bytes(small_clip.read_bytes())
    (folder / "torn.mp4").write_bytes(small_clip.read_bytes()[:500])
    (folder / "notes.txt").write_text("nothing")
    options = ["--frame", "180x320", "--frame", "320x180", "--treatment", "quiet gradient", "--json"]
    done = cadrage("batch", folder, "--out", out, *options)
    assert done.returncode == 2
    told = json.loads(done.stdout)
    names = ["Clips_one_180x320.mp4", "Clips_one_320x180.mp4"]
    assert [(one["file"], one["right"]) for one in told["files"]] == [(name, True) for name in names]
    assert {one["clip"] for one in told["failed"]} == {"torn.mp4"}
    sheet = json.loads((out / "delivery sheet.json").read_text())
    assert [row["file"] for row in sheet["files"]] == names
    assert sheet["files"][0]["surround"] == "linear gradient"
    assert "data:image/jpeg" in (out / "delivery sheet.html").read_text()
    (folder / "torn.mp4").unlink()
    again = cadrage("batch", folder, "--out", out, "--frame", "180x320", "--settings", "wide hd upload")
    assert again.returncode == 0
    assert "Clips_one_180x320 2.mp4: right" in again.stdout
    for wrong in (tmp_path / "nowhere", tmp_path):
        assert cadrage("batch", wrong, "--out", out).returncode == 2


@pytest.mark.long
def test_a_batch_with_helpers_writes_the_same_and_leaves_nothing_behind(tmp_path):
    """Without loss: what libx264 makes of the same frames is not always the same while the machine is busy."""
    folder = tmp_path / "Clips"
    folder.mkdir()
    write_clip(folder / "long.mp4", frames=500, size=(96, 64))
    files = []
    for workers in ("1", "3"):
        out = tmp_path / workers
        done = cadrage(
            "batch",
            folder,
            "--out",
            out,
            "--frame",
            "160x96",
            "--write",
            "kind=mkv-ffv1",
            "--workers",
            workers,
            "--json",
        )
        assert done.returncode == 0, done.stdout + done.stderr
        names = {path.name for path in out.iterdir()}
        sheets = {f"delivery sheet.{form}" for form in ("html", "csv", "json")}
        assert names == {"Clips_long_160x96.mkv"} | sheets
        files.append(out / "Clips_long_160x96.mkv")
    assert all(np.array_equal(one, other) for one, other in zip(*map(lumas, files), strict=True))


def lumas(path):
    with ClipReader(path, probe(path)) as reader:
        return [frame.planes.arrays[0].copy() for frame in reader.frames()]


def test_a_range_a_layer_and_bars_are_asked_for_in_words(small_clip, tmp_path):
    target = tmp_path / "out.mov"
    cinema = ["--frame", "320x320", "--active", "2", "--json"]
    undecided = cadrage("convert", small_clip, target, *cinema)
    assert undecided.returncode == 2
    assert "active picture of 320×160" in json.loads(undecided.stdout)["error"]["problem"]
    write = "kind=mov-prores-4444,layer=picture-alone,bars=active-picture-only,sound=none"
    done = cadrage("convert", small_clip, target, *cinema, "--range", "0.2,0.6", "--write", write)
    assert done.returncode == 0, done.stdout + done.stderr
    info = probe(target)
    assert (info.width, info.height, info.frames, info.pixel_format) == (320, 160, 10, "yuva444p12le")
    for wrong in ("layer=nothing", "quality"):
        assert cadrage("convert", small_clip, target, "--write", wrong).returncode == 2
    assert cadrage("convert", small_clip, target, "--range", "0.6,0.2").returncode == 2


@pytest.mark.parametrize(
    ("command", "names"),
    [
        ("surrounds", ["blurred", "softness", "0 to 12%", "water-light"]),
        ("finishes", ["shadow", "opacity", "captions", "titles"]),
        ("settings", ["Wide HD upload", "kind=mov-prores-4444"]),
        ("frames", ["1920x1080", "1080x1920"]),
    ],
)
def test_what_there_is_to_choose_from_is_listed(command, names):
    listed = cadrage(command)
    assert listed.returncode == 0
    text = re.sub(r"\s+", " ", listed.stdout)
    assert all(name in text for name in names)
    assert json.loads(cadrage(command, "--json").stdout)


def test_every_surround_is_listed_with_every_field_that_can_be_set():
    from cadrage.surrounds import SURROUND_KINDS

    offers = {one["name"]: one["controls"] for one in json.loads(cadrage("surrounds", "--json").stdout)["offers"]}
    assert set(offers) == set(SURROUND_KINDS)
    for name, kind in SURROUND_KINDS.items():
        by_hand = getattr(kind, "by_hand", ())
        assert {control["name"] for control in offers[name]} == set(kind.model_fields) - {"kind", *by_hand}


def test_a_clip_is_cut_so_that_a_move_goes_over_each_shot(tmp_path):
    clip = tmp_path / "two.mp4"
    light = (30, 200)
    write_clip(clip, frames=30, paint=lambda number: np.full((180, 320, 3), light[number >= 14], np.uint8), sound=None)
    made = cadrage("plan", clip, "--shots", "find", "--motion", "push:4%", "--frame", "180x320")
    plan = json.loads(made.stdout)
    assert [shot["start"] for shot in plan["shots"]] == ["0", "0.56"]
    assert plan["motion"]["move"]["percent"] == "4"
    by_hand = json.loads(cadrage("plan", clip, "--shots", "0.4,1").stdout)
    assert [shot["start"] for shot in by_hand["shots"]] == ["0", "0.4", "1"]
    assert cadrage("plan", clip, "--shots", "here").returncode == 2
    folder = tmp_path / "clips"
    folder.mkdir()
    clip.rename(folder / "two.mp4")
    options = ["--frame", "90x160", "--shots", "find", "--motion", "push:50%", "--settings", "wide hd upload"]
    done = cadrage("batch", folder, "--out", tmp_path / "out", *options)
    assert done.returncode == 0, done.stderr
    sheet = json.loads(next((tmp_path / "out").glob("*.json")).read_text())
    assert sheet["files"][0]["movement"] == "2 shots, 2 moving"
    assert sheet["files"][0]["inspection"]["right"]


def test_a_window_follows_into_two_frames_from_one_look(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    clip = write_clip(tmp_path / "clip.mp4", frames=50, sound=None)
    frames = ("--frame", "180x320", "--frame", "200x200")
    options = ("--pin", "1:200,90", "--subject", "box=60,60,30,30@0.5", "--out", tmp_path / "plan.json")
    sheet, file = tmp_path / "sheet.png", tmp_path / "made.mp4"
    done = cadrage("follow", clip, *frames, *options, "--sheet", sheet, "--convert", file, "--json")
    assert done.returncode == 0, done.stderr
    told = json.loads(done.stdout)
    assert [one["frame"] for one in told] == ["180x320", "200x200"]
    assert [one["start"] for one in told[0]["seconds"]] == ["0", "1"]
    assert all(one["right"] for one in told)
    for size in ("180x320", "200x200"):
        plan = json.loads((tmp_path / f"plan {size}.json").read_text())
        assert plan["motion"]["follow"]["pins"][0]["x"] == "0.125"
        assert (tmp_path / f"sheet {size}.png").read_bytes().startswith(b"\x89PNG")
        assert (
            cadrage("inspect", tmp_path / f"made {size}.mp4", "--plan", tmp_path / f"plan {size}.json").returncode == 0
        )


def test_what_was_typed_of_following_and_cannot_be_read_is_told(small_clip, tmp_path):
    for options in (["--pin", "1"], ["--subject", "box=1,2@3"], ["--pace", "wild"], ["--sheet", "a.gif"]):
        done = cadrage("follow", small_clip, "--frame", "180x320", *options)
        assert (done.returncode, done.stdout) == (2, "")
    done = cadrage("plan", small_clip, "--frame", "180x320", "--motion", "follow:calm")
    assert json.loads(done.stdout)["motion"]["follow"]["path"]


def test_a_dry_run_says_how_the_file_would_be_written_and_writes_nothing(small_clip, tmp_path):
    target = tmp_path / "out.mp4"
    dry = ("convert", small_clip, target, "--dry-run", "--frame", "1920x1080", "--active", "2.39")
    blocked = cadrage(*dry, "--json")
    assert blocked.returncode == 2  # the bars are not decided
    assert [one["reason"] for one in json.loads(blocked.stdout)["check"]] == ["bars_undecided"]
    told = cadrage(*dry, "--range", "0,0.5", "--write", "bars=active-picture-only", "--json")
    assert told.returncode == 0, told.stderr
    found = json.loads(told.stdout)
    facts = {one["label"]: one["value"] for one in found["file"]}
    assert (facts["Size"], facts["Frame rate"], facts["Range"]) == ("1920×804", "25 fps", "as marked")
    assert [one["reason"] for one in found["check"]] == ["size", "part"]
    assert not target.exists()


def test_an_active_picture_is_typed_by_aspect_lines_or_percent(small_clip):
    for text, aspect in (("2.39", "2.39"), ("12%", "400/171"), ("810 lines", "64/27")):
        made = cadrage("plan", small_clip, "--frame", "1920x1080", "--active", text)
        assert json.loads(made.stdout)["frame"]["active"] == aspect
    assert cadrage("plan", small_clip, "--frame", "1920x1080", "--active", "60%").returncode == 2
