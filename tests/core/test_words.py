"""What is said to people."""

from fractions import Fraction

import pytest

from cadrage.compose import measure
from cadrage.footage import describe, probe
from cadrage.formats import Frame
from cadrage.formats.aspect_names import aspect_name
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.plan import Plan
from tests.clips import write_clip


@pytest.mark.parametrize(
    ("aspect", "name"),
    [
        ("16/9", "16:9"),
        ("9/16", "9:16"),
        ("1", "1:1"),
        ("853/480", "16:9"),
        ("2.39", "2.39"),
        ("15/11", "1.36"),
        ("4/5", "4:5"),
        ("2", "2:1"),
    ],
)
def test_shapes_are_called_as_people_call_them(aspect, name):
    assert aspect_name(Fraction(aspect)) == name


def lines_of(path):
    lines = {}
    for fact in describe(probe(path)):
        lines.setdefault(fact.name, fact.value)
    return lines


def test_a_tape_is_described(museum):
    lines = lines_of(museum["points.mp4"])
    assert lines["Pixel aspect"] == "12:11"
    assert lines["Seen as"] == "785.455×576, 1.36"
    assert lines["Colour"] == "BT.601; primaries BT.601, 625 lines"
    assert lines["Sound"] == "aac, 48 kHz, mono"


def test_an_upright_clip_is_described(museum):
    lines = lines_of(museum["depot.mp4"])
    assert lines["Rotation"] == "turned 90° by its flag"
    assert lines["Seen as"] == "1080×1920, 9:16"


def test_film_rate_is_said_exactly(museum):
    assert lines_of(museum["crossing.mp4"])["Rate"] == "23.976 fps (24000/1001)"


def test_what_nobody_says_is_told_as_a_guess(tmp_path):
    lines = lines_of(write_clip(tmp_path / "plain.avi", frames=5, codec="mpeg4", sound=None, options={}))
    assert "taken as" in lines["Colour"]
    assert lines["Sound"] == "none"


def test_a_varying_rate_is_told_with_its_spread(tmp_path):
    stamps = [0, 33, 66, 100, 400, 433]
    lines = lines_of(write_clip(tmp_path / "varying.mkv", frames=6, stamps=stamps, sound=None))
    assert "varies: 33.0 to 300.0 ms a frame" in lines["Rate"]


@pytest.mark.parametrize(
    ("placement", "words"),
    [
        ({}, "whole picture"),
        ({"tightness": "1"}, "fills the frame"),
        ({"tightness": "0.25"}, "25% fill"),
        ({"tightness": "0.25", "offset_x": "3"}, "25% fill, moved"),
        ({"sizing": "native"}, "native size"),
        ({"sizing": "scale", "scale": "0.56"}, "scaled to 56%"),
        ({"sizing": "stretch"}, "stretched"),
    ],
)
def test_a_placement_is_said(museum, placement, words):
    plan = Plan(frame=Frame(width=1920, height=1080), placement=Placement(**placement))
    assert measure(plan, probe(museum["depot.mp4"])).summary.placement == words


def test_a_loss_too_small_to_write_is_not_said_to_be_nothing(museum):
    placement = Placement(tightness=Fraction(1), offset_y=Fraction(0))
    plan = Plan(frame=Frame(width=1920, height=1079 + 1), placement=placement)
    assert measure(plan, probe(museum["crossing.mp4"])).summary.lost == "nothing cropped"
    nudged = plan.model_copy(update={"placement": Placement(offset_y=Fraction(1, 2))})
    assert measure(nudged, probe(museum["crossing.mp4"])).summary.lost == "under 0.1% of the picture cropped"


def test_inspecting_without_an_order_only_measures(small_clip):
    inspection = inspect_file(small_clip)
    assert {line.verdict for line in inspection.lines} == {"measured"}
    assert inspection.right
