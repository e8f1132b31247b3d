"""Probing says what ffprobe, an independent reader, says."""

import json
import subprocess
from fractions import Fraction

import pytest

from cadrage.footage import describe, probe
from tests.clips import write_clip

CODES = {"bt709": 1, "bt470bg": 5, "smpte170m": 6, "bt2020nc": 9, "bt2020": 9, "bt2020-10": 14, "unknown": 2}
FIELDS = {"progressive": "progressive", "tt": "upper_first", "bb": "lower_first", "unknown": "unknown"}


def ffprobe(path):
    command = ["ffprobe", "-v", "error", "-show_streams", "-show_format", "-count_packets", "-of", "json", str(path)]
    return json.loads(subprocess.run(command, capture_output=True, check=True).stdout)


def compare(path):
    info, said = probe(path), ffprobe(path)
    picture = next(stream for stream in said["streams"] if stream["codec_type"] == "video")
    sounds = [stream for stream in said["streams"] if stream["codec_type"] == "audio"]
    turned = next((data["rotation"] for data in picture.get("side_data_list", []) if "rotation" in data), 0)
    assert info.container == said["format"]["format_name"]
    assert info.codec == picture["codec_name"]
    assert (info.width, info.height) == (picture["width"], picture["height"])
    stated = picture.get("sample_aspect_ratio", "0:1").replace(":", "/")
    assert info.pixel_aspect == (None if stated == "0/1" else Fraction(stated))
    assert info.rotation == -turned % 360
    assert info.rate == Fraction(picture["avg_frame_rate"])
    assert float(info.duration) == pytest.approx(float(picture["duration"]), abs=1e-6)
    assert info.frames == int(picture["nb_read_packets"])
    assert info.field_order == FIELDS[picture.get("field_order", "unknown")]
    assert info.pixel_format == picture["pix_fmt"]
    tags = [picture.get(key, "unknown") for key in ("color_space", "color_primaries", "color_transfer")]
    assert [info.matrix, info.primaries, info.transfer] == [CODES[tag] for tag in tags]
    assert info.full_range == (picture.get("color_range") == "pc")
    assert len(info.sounds) == len(sounds)
    for ours, theirs in zip(info.sounds, sounds, strict=True):
        assert (ours.codec, ours.rate, ours.channels) == (
            theirs["codec_name"],
            int(theirs["sample_rate"]),
            theirs["channels"],
        )
        assert float(ours.duration) == pytest.approx(float(theirs["duration"]), abs=1e-6)


@pytest.mark.parametrize("name", ["depot.mp4", "points.mp4", "crossing.mp4"])
def test_demonstration_clips(museum, name):
    compare(museum[name])


@pytest.mark.parametrize("rotation", [0, 90, 180, 270])
def test_all_four_rotations(tmp_path, rotation):
    path = write_clip(tmp_path / "turned.mp4", rotation=rotation, frames=3)
    compare(path)
    assert probe(path).rotation == rotation


def test_ten_bit_full_range_and_film_rate(tmp_path):
    compare(write_clip(tmp_path / "ten.mp4", pixel_format="yuv422p10le", frames=5, tags=(9, 9, 14)))
    compare(write_clip(tmp_path / "full.mp4", frames=5, full_range=True, tags=(1, 1, 1)))
    compare(write_clip(tmp_path / "film.mp4", frames=5, rate=Fraction(24000, 1001), pixel_aspect=Fraction(40, 33)))


@pytest.mark.parametrize(("flag", "taken"), [(37, 0), (50, 90), (-95, 270)])
def test_a_flag_that_is_no_quarter_turn_is_taken_as_the_nearest_and_told(tmp_path, flag, taken):
    info = probe(write_clip(tmp_path / "tilted.mp4", rotation=flag, frames=3))
    assert (info.rotation, info.rotation_flag) == (taken, flag % 360)
    assert f"its flag says {flag % 360}°" in next(fact.value for fact in describe(info) if fact.name == "Rotation")
