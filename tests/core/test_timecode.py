"""Time code, with and without dropped numbers, read, shown and written."""

import json
import subprocess
from fractions import Fraction as F

import pytest

from cadrage.footage import describe, probe
from cadrage.footage.timecode import Timecode
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest, render
from tests.clips import write_clip

NTSC, NTSC60 = F(30000, 1001), F(60000, 1001)


@pytest.mark.parametrize(
    ("text", "rate", "number"),
    [
        ("00:00:59;29", NTSC, 1799),
        ("00:01:00;02", NTSC, 1800),  # the next: 00 and 01 are dropped
        ("00:10:00;00", NTSC, 17982),  # SMPTE ST 12-1: 17982 pictures in ten minutes
        ("01:00:00;00", NTSC, 107892),
        ("23:59:59;29", NTSC, 2589407),
        ("01:00:00:00", NTSC, 108000),
        ("00:01:00;04", NTSC60, 3600),
        ("10:00:00:00", F(25), 900000),
        ("00:00:01:23", F(24000, 1001), 47),
    ],
)
def test_numbers_of_time_codes(text, rate, number):
    found = Timecode.read(text, rate)
    assert found.number == number
    assert str(found) == text


@pytest.mark.parametrize("rate", [NTSC, NTSC60])
def test_every_number_has_one_code(rate):
    first = Timecode.read("00:00:00;00", rate)
    seen = [str(first.later(number)) for number in range(40_000)]
    assert len(set(seen)) == len(seen)
    assert sorted(seen) == seen
    assert all(Timecode.read(one, rate).number == number for number, one in enumerate(seen))


@pytest.mark.parametrize("text", ["", "1:2:3:4", "24:00:00:00", "00:60:00:00", "00:00:00:25", "nonsense"])
def test_what_is_no_time_code(text):
    assert Timecode.read(text, F(25)) is None


def test_a_label_at_another_rate():
    assert str(Timecode.read("01:02:03:12", F(24)).at_rate(F(25))) == "01:02:03:12"
    assert str(Timecode.read("01:02:03:12", F(24)).at_rate(F(50))) == "01:02:03:25"
    assert str(Timecode.read("01:02:03;12", NTSC).at_rate(NTSC60)) == "01:02:03;24"
    assert str(Timecode.read("01:02:03;12", NTSC).at_rate(F(25))) == "01:02:03:10"


KINDS = {
    "mp4": Settings(),
    "mov": Settings(kind="mov-prores", sound="none"),
    "mxf": Settings(kind="mxf-dnxhr", sound="none"),
    "mkv": Settings(kind="mkv-ffv1", sound="none"),
}


@pytest.mark.parametrize("kind", sorted(KINDS))
@pytest.mark.parametrize(("rate", "code", "part", "wanted"), [
    (F(25), "10:00:00:00", Range(), "10:00:00:00"),
    (NTSC, "00:59:59;28", Range(start=F(1001, 30000) * 4), "01:00:00;02"),
])  # fmt: skip
def test_it_is_read_and_written(tmp_path, kind, rate, code, part, wanted):
    plain = write_clip(tmp_path / "plain.mov", size=(256, 144), frames=12, rate=rate, sound=None)
    source = tmp_path / "coded.mov"
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", plain, "-c", "copy", "-timecode", code, source], check=True)
    info = probe(source)
    assert info.timecode == code
    assert any(fact.value == code for fact in describe(info))
    plan, target = Plan(frame=Frame(width=256, height=144), range=part), tmp_path / f"out.{kind}"
    render(plan, source, target, info, settings=KINDS[kind])
    inspection = inspect_file(target, RenderRequest(plan, source, info, settings=KINDS[kind]))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    assert any(line.name == "Time code" and line.verdict == "right" for line in inspection.lines)
    shown = subprocess.run(
        ["ffprobe", "-v", "error", "-show_entries", "stream_tags:format_tags", "-of", "json", target],
        check=True,
        capture_output=True,
    ).stdout
    told = json.loads(shown)
    tags = [told.get("format", {}).get("tags", {}), *(one.get("tags", {}) for one in told.get("streams", []))]
    found = {value for one in tags for name, value in one.items() if name.lower() == "timecode"}
    assert found == {wanted}


def test_it_can_be_left_out_or_set(tmp_path):
    plain = write_clip(tmp_path / "plain.mov", size=(256, 144), frames=12, sound=None)
    plan, target = Plan(frame=Frame(width=256, height=144)), tmp_path / "out.mov"
    settings = Settings(kind="mov-prores", sound="none", timecode="01:00:00:00")
    render(plan, plain, target, probe(plain), settings=settings)
    assert probe(target).timecode == "01:00:00:00"
    other = tmp_path / "other.mov"
    render(plan, target, other, probe(target), settings=settings.model_copy(update={"timecode": "none"}))
    assert probe(other).timecode == ""
