"""The command line as it is typed."""

import json
import subprocess
import sys

import pytest


def cadrage(*arguments):
    return subprocess.run(  # noqa: PLW1510 - exit statuses are what is tested
        [sys.executable, "-m", "cadrage", *map(str, arguments)], capture_output=True, text=True
    )


def test_probe_frame_plan_convert_inspect(small_clip, tmp_path):
    probed = cadrage("probe", small_clip, "--json")
    assert probed.returncode == 0
    assert json.loads(probed.stdout)["rate"] == "25"

    image = tmp_path / "frame.png"
    options = ["--frame", "180x320", "--placement", "0.5", "--offset", "10,-4.5", "--surround", "plain:colour=#203040"]
    assert cadrage("frame", small_clip, image, "--at", "0.5", *options).returncode == 0
    assert image.read_bytes()[:8] == b"\x89PNG\r\n\x1a\n"

    written = cadrage("plan", small_clip, *options)
    plan = json.loads(written.stdout)
    placement = plan["placement"]
    assert (placement["tightness"], placement["offset_x"], placement["offset_y"]) == ("0.5", "10", "-4.5")
    plan_file = tmp_path / "plan.json"
    plan_file.write_text(written.stdout)

    target = tmp_path / "out.mp4"
    converted = cadrage("convert", small_clip, target, "--plan", plan_file, "--json")
    assert converted.returncode == 0, converted.stderr
    assert json.loads(converted.stdout)["right"]
    assert cadrage("inspect", target, "--plan", plan_file).returncode == 0

    plan_file.write_text(written.stdout.replace('"width": 180', '"width": 190'))
    wrong = cadrage("inspect", target, "--plan", plan_file, "--json")
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
