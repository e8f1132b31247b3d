"""Damaged footage is read past, kept in time, and told; members of the corpus, one by one."""

import sys
from fractions import Fraction
from itertools import pairwise

import pytest

from cadrage.errors import UnreadableFile
from cadrage.footage import ClipReader, probe
from cadrage.footage.describe import finding_message, notices, timecode
from cadrage.footage.findings import MOST_TOLD, Finding, limited, places, stretches
from cadrage.footage.scan import Budget
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, info_to_render, render
from cadrage.surrounds import Plain
from tests.core.test_cli import cadrage
from tests.corpus.drawing import number_in
from tests.corpus.making import Maker
from tests.corpus.members import member


@pytest.fixture(scope="module")
def maker(tmp_path_factory):
    return Maker(tmp_path_factory.mktemp("made"))


@pytest.fixture
def made(maker, tmp_path):
    def make(name):
        one = member(name)
        path = tmp_path / one.file
        one.make(maker, path)
        return path

    return make


def numbers(path, info):
    with ClipReader(path, info) as reader:
        return [(frame.time, number_in(frame.planes.luma8)) for frame in reader.frames()]


@pytest.mark.parametrize(
    "name",
    ["MPG: MPEG-2, MP2", "MPG: MPEG-2, one group of pictures, MP2", "TS: H.264, open groups", "VOB: MPEG-2, AC-3"],
)
def test_the_first_pictures_are_there(made, name):
    path = made(name)
    info = probe(path)
    assert info.frames == 50
    assert [number for _, number in numbers(path, info)] == list(range(50))


def test_pictures_without_a_stamp_come_before_the_first_that_has_one(made):
    path = made("MKV: clock begins at -0.5 s")
    found = numbers(path, probe(path))
    assert [number for _, number in found] == list(range(50))
    assert {later - earlier for (earlier, _), (later, _) in pairwise(found)} == {Fraction(1, 25)}


def test_leading_pictures_that_cannot_be_decoded_are_counted_and_told(made):
    info = probe(made("MPG: begins in the middle"))
    leading = next(one for one in info.findings if one.kind == "leading")
    assert 0 < leading.count < 17
    assert "begins in the middle" in finding_message(leading, info.rate)
    assert not leading.damage


def test_lost_packets_leave_the_last_good_picture_and_keep_time(made, tmp_path):
    path = made("TS: every 40th packet lost")
    info = info_to_render(path)
    assert info.damage
    assert not info.rate_varies
    assert info.frames == 50
    plan = Plan(source=str(path), frame=Frame(width=112, height=64), surround=Plain())
    target = tmp_path / "out.mp4"
    render(plan, path, target, info)
    report = inspect_file(target, RenderRequest(plan, path, info))
    assert report.right, [line for line in report.lines if line.verdict == "wrong"]
    assert any(line.name == "Damage in the source" for line in report.lines)
    assert probe(target).frames == 50


def test_damage_can_stop_a_render(made, tmp_path):
    path = made("TS: every 40th packet lost")
    plan = Plan(source=str(path), frame=Frame(width=112, height=64), surround=Plain())
    with pytest.raises(UnreadableFile, match="damaged"):
        render(plan, path, tmp_path / "out.mp4", probe(path), settings=Settings(damage="stop"))
    run = cadrage("convert", path, tmp_path / "out.mp4", "--stop-at-damage")
    assert (run.returncode, list(tmp_path.glob("out*"))) == (2, [])
    assert "damaged" in run.stderr


def test_damage_is_listed_with_time_codes(made):
    path = made("TS: every 40th packet lost")
    info = probe(path)
    lines = [one.message for one in notices(info) if one.damage]
    assert len(lines) == len(info.damage)
    assert all("00:00:0" in line for line in lines)
    assert "damaged" in cadrage("probe", path).stdout


def test_a_clock_that_jumps_is_mended_and_told(made):
    path = made("TS: clock jumps ahead")
    info = probe(path)
    assert info.duration < 5
    assert not info.seekable
    assert "clock_jumps" in [one.kind for one in info.findings]
    found = numbers(path, info)
    assert [number for _, number in found] == [*range(50), *range(50)]
    with ClipReader(path, info) as reader:
        for time, number in (found[70], found[3], found[99]):
            assert number_in(reader.frame_at(time).planes.luma8) == number


def test_a_file_too_long_to_wait_for_is_estimated_and_then_counted(made, monkeypatch):
    path = made("TS: H.264, AAC")
    room = sys.modules["cadrage.footage.probe"]
    monkeypatch.setattr(room, "WHILE_WAITING", Budget(samples=0, bytes=10_000, packets=20))
    quick = probe(path)
    assert quick.counted == "estimated"
    assert quick.frames == pytest.approx(50, abs=3)
    monkeypatch.setattr(room, "WHILE_WAITING", Budget(samples=0))
    counted = probe(path)
    assert (counted.counted, counted.frames) == ("packets", 50)
    exact = probe(path, thorough=True)
    assert (exact.counted, exact.frames, exact.duration) == ("decoded", 50, 2)
    assert info_to_render(path).counted == "decoded"


def test_moments_of_damage_that_lie_together_are_told_as_one():
    length = Fraction(1, 25)
    found = stretches("concealed", [Fraction(1), Fraction(11, 10), Fraction(5)], length)
    assert [(one.start, one.end, one.count) for one in found] == [(1, Fraction(57, 50), 2), (5, 5 + length, 1)]
    both = [*found, Finding(kind="sound_damaged", start=Fraction(51, 50), end=Fraction(2)), Finding(kind="leading")]
    assert places(both) == 2
    many = [Finding(kind="missing", start=Fraction(n), end=Fraction(n), count=1) for n in range(MOST_TOLD + 50)]
    told = limited(many)
    assert len(told) == MOST_TOLD + 1
    assert sum(one.count for one in told) == MOST_TOLD + 50


def test_time_codes_count_pictures():
    assert timecode(Fraction(3661) + Fraction(12, 25), Fraction(25)) == "01:01:01:12"
    assert timecode(Fraction(10), Fraction(30000, 1001)) == "00:00:09:29"
