"""Tracks of subtitles, read from one kind of file and carried into another; read back by ffmpeg."""

import subprocess
from fractions import Fraction as F

import pytest

from cadrage.footage import describe, probe
from cadrage.footage.subtitles import text_of
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest, render
from tests.clips import write_clip

SRT = """1
00:00:00,400 --> 00:00:00,800
All <i>aboard</i>

2
00:00:01,000 --> 00:00:01,600
Mind the gap
please
"""
KINDS = {"mp4": "mp4-h264", "mov": "mov-prores", "mkv": "mkv-ffv1", "webm": "webm-vp9"}


@pytest.fixture(scope="module")
def sources(tmp_path_factory):
    folder = tmp_path_factory.mktemp("said")
    words, plain = folder / "words.srt", write_clip(folder / "plain.mp4", frames=50, sound=None)
    words.write_text(SRT)
    made = {}
    for name, codec in (("s.mkv", "subrip"), ("a.mkv", "ass"), ("m.mp4", "mov_text")):
        coded = ("-c:v", "copy", "-c:s", codec, "-metadata:s:s:0", "language=deu")
        made[name] = folder / name
        command = [
            "ffmpeg",
            "-v",
            "error",
            "-y",
            "-i",
            plain,
            "-i",
            words,
            "-map",
            "0",
            "-map",
            "1",
            *coded,
            made[name],
        ]
        subprocess.run(command, check=True)
    return made


def read_back(path):
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-map", "0:s:0", "-f", "srt", "-"]
    return subprocess.run(command, check=True, capture_output=True, text=True).stdout


@pytest.mark.parametrize("kind", sorted(KINDS))
@pytest.mark.parametrize("name", ["s.mkv", "a.mkv", "m.mp4"])
def test_words_come_through(sources, tmp_path, kind, name):
    if kind == "webm" and name != "s.mkv":
        pytest.skip("once is enough: coding VP9 takes its time")
    source, target = sources[name], tmp_path / f"out.{kind}"
    info = probe(source)
    assert [(one.is_text, one.language) for one in info.subtitles] == [(True, "deu")]
    assert any(fact.name == "Subtitles" for fact in describe(info))
    plan, settings = Plan(frame=Frame(width=256, height=144)), Settings(kind=KINDS[kind], sound="none")
    render(plan, source, target, info, settings=settings)
    inspection = inspect_file(target, RenderRequest(plan, source, info, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    said = read_back(target).replace("<i>", "").replace("</i>", "")
    assert "00:00:00,400 --> 00:00:00,800\nAll aboard" in said
    assert "00:00:01,000 --> 00:00:01,600\nMind the gap\nplease" in said


def test_of_a_range_only_its_own_words(sources, tmp_path):
    source, target = sources["s.mkv"], tmp_path / "out.mkv"
    plan = Plan(frame=Frame(width=256, height=144), range=Range(start=F(6, 10), end=F(12, 10)))
    render(plan, source, target, probe(source), settings=Settings(kind="mkv-ffv1"))
    said = read_back(target)
    assert "00:00:00,000 --> 00:00:00,200\nAll" in said
    assert "00:00:00,400 --> 00:00:00,600\nMind" in said


def test_they_can_be_left_out(sources, tmp_path):
    target = tmp_path / "out.mp4"
    plan, info = Plan(frame=Frame(width=256, height=144)), probe(sources["s.mkv"])
    render(plan, sources["s.mkv"], target, info, settings=Settings(subtitles="none"))
    assert probe(target).subtitles == ()


def test_marks_of_style_are_taken_off():
    assert text_of(rb"0,0,Default,,0,0,0,,All {\i1}aboard{\i0}\Nnow, please", "ass") == "All aboard\nnow, please"
    assert text_of(b"\x00\x05Hello\x00\x00\x00\x16styl", "mov_text") == "Hello"
    assert text_of(b'<font color="red">Stop</font> <i>here</i>', "subrip") == "Stop <i>here</i>"
    assert text_of(b"3 < 4 and 5 > 2", "subrip") == "3 < 4 and 5 > 2"
