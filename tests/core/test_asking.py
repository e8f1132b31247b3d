"""What can be asked for in words on the command line, and what is looked at before it is drawn."""

import json
from fractions import Fraction as F

import cv2
import numpy as np
import pytest

from cadrage.footage import probe
from cadrage.formats import Frame
from tests.clips import write_clip
from tests.core.test_cli import cadrage
from tests.film import combing, decoded, in_fields, number_of, write


@pytest.mark.parametrize(
    ("typed", "meant"),
    [
        ("23.976", F(24000, 1001)),
        ("23.98", F(24000, 1001)),
        ("29.97", F(30000, 1001)),
        ("59.94", F(60000, 1001)),
        ("119.88", F(120000, 1001)),
        ("24", F(24)),
        ("25", F(25)),
        ("30", F(30)),
        ("29.9", F(299, 10)),
        ("30000/1001", F(30000, 1001)),
        ("12.5", F(25, 2)),
    ],
)
def test_rates_of_ntsc_are_exact(typed, meant):
    """SMPTE ST 12-1: the nominal rate times 1000 ÷ 1001."""
    assert Frame(width=320, height=240, rate=typed).rate == meant


def test_a_file_at_a_rate_of_ntsc(small_clip, tmp_path):
    target = tmp_path / "out.mp4"
    assert cadrage("convert", small_clip, target, "--frame", "320x180", "--rate", "29.97").returncode == 0
    assert probe(target).rate == F(30000, 1001)


@pytest.mark.parametrize(
    ("ending", "write", "found"),
    [
        ("mp4", "kind=mp4-h265,depth=10", {"depth": 10, "codec": "hevc"}),
        ("mp4", "by=rate,rate=1500,passes=1", {"codec": "h264"}),
        ("mp4", "by=constant-rate,rate=1500", {"codec": "h264"}),
        # The example of the README.
        (
            "mov",
            "kind=mov-prores-4444,layer=picture-alone,bars=active-picture-only,rate_change=speed,quality=draft",
            {"codec": "prores", "alpha": True},
        ),
        ("mov", "kind=mov-dnxhr,profile=HQX,sound=pcm-16", {"depth": 10}),
    ],
)
def test_how_a_file_is_written_is_asked_for_in_words(small_clip, tmp_path, ending, write, found):
    target = tmp_path / f"out.{ending}"
    done = cadrage("convert", small_clip, target, "--frame", "320x180", "--write", write)
    assert done.returncode == 0, done.stderr
    info = probe(target)
    assert {name: getattr(info, name) for name in found} == found


def test_a_frame_of_other_pixels_with_words_and_captions(small_clip, tmp_path):
    captions = tmp_path / "words.srt"
    captions.write_text("1\n00:00:00,000 --> 00:00:09,000\nAll aboard\n")
    options = (
        "--frame",
        "720x576",
        "--frame-pixel-aspect",
        "16:11",
        "--colour",
        "sdr",
        "--title",
        "One",
        "--title",
        "Two",
    )
    done = cadrage("plan", small_clip, *options, "--captions", captions)
    plan = json.loads(done.stdout)
    assert plan["frame"]["pixel_aspect"] == "16/11"
    assert [title["text"] for title in plan["finish"]["titles"]] == ["Two", "One"]
    assert plan["finish"]["captions"]["of"] == str(captions)
    target = tmp_path / "out.mp4"
    assert cadrage("convert", small_clip, target, *options, "--captions", captions).returncode == 0
    assert probe(target).pixel_aspect == F(16, 11)
    assert cadrage("convert", small_clip, target, "--title", "x" * 400).returncode == 2


def test_a_batch_says_what_clips_are_and_which_part(tmp_path):
    folder, out = tmp_path / "reels", tmp_path / "out"
    folder.mkdir()
    write_clip(folder / "one.mp4", frames=50)
    options = ("--as", "rotation=90", "--rate", "29.97", "--range", "0.4,1.2", "--active", "2")
    how = ("--write", "bars=whole-frame")
    done = cadrage("batch", folder, "--out", out, "--frame", "320x180", *options, *how)
    assert done.returncode == 0, done.stderr
    (made,) = out.glob("*.mp4")
    info = probe(made)
    assert info.rate == F(30000, 1001)
    assert float(info.duration) == pytest.approx(0.8, abs=0.04)


def woven(count):
    """Fields of something that slides slowly, so that their order can be told."""
    rng = np.random.default_rng(3)
    wall = cv2.GaussianBlur(rng.uniform(0, 255, (240, 700)).astype(np.float32), (0, 0), 2.5)
    wall = np.clip((wall - 128) * 6 + 128, 16, 235).astype(np.uint8)
    moments = [wall[:, 2 * number : 2 * number + 360] for number in range(2 * count)]
    frames = []
    for first, second in zip(moments[::2], moments[1::2], strict=True):
        frame = second.copy()
        frame[::2] = first[::2]
        frames.append(frame)
    return frames, moments


def test_fields_are_found_before_anything_is_drawn(tmp_path):
    """A clip whose file says nothing of its fields comes out whole, from `convert` and from `batch`."""
    folder, out = tmp_path / "tapes", tmp_path / "out"
    folder.mkdir()
    frames, moments = woven(30)
    tape = write(folder / "tape.mkv", frames, "-c:v", "ffv1", rate="25")
    assert probe(tape).field_order in ("unknown", "progressive")
    target = tmp_path / "whole.mp4"
    size = ("--frame", "360x240", "--write", "quality=nearly-lossless")
    assert cadrage("convert", tape, target, *size).returncode == 0
    assert cadrage("batch", folder, "--out", out, *size).returncode == 0
    (other,) = out.glob("*.mp4")
    for made in (target, other):
        assert max(map(combing, decoded(made)[2:-2])) < 1.4 * max(map(combing, moments)) < max(map(combing, frames))
    twice = tmp_path / "twice.mp4"
    assert cadrage("convert", tape, twice, *size, "--as", "deinterlace=one-per-field").returncode == 0
    assert probe(twice).rate == 50
    plan = json.loads(cadrage("plan", tape, "--frame", "360x240").stdout)
    assert plan["interpretation"]["fields"] == "upper_first"


def test_what_does_nothing_is_told(small_clip, tmp_path):
    done = cadrage(
        "convert", small_clip, tmp_path / "out.mp4", "--frame", "320x180", "--as", "deinterlace=one-per-field"
    )
    assert done.returncode == 0
    assert "its pictures are whole" in done.stderr


def test_film_in_fields_is_offered_back(tmp_path):
    path = write(tmp_path / "film.mkv", in_fields(range(60), "upper_first"), "-c:v", "ffv1")
    target = tmp_path / "out.mp4"
    told = cadrage("convert", path, target, "--frame", "360x240")
    assert "film in fields, upper first" in told.stderr
    assert "deinterlace=film" in told.stderr
    assert cadrage("convert", path, target, "--frame", "360x240", "--as", "deinterlace=film").returncode == 0
    assert [number_of(luma) for luma in decoded(target)] == list(range(60))
