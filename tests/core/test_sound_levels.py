"""Levels of sound, against ffmpeg's own measure of peaks (astats)."""

import re
import subprocess

import numpy as np
import pytest

from cadrage.analysis.base import Found, NotFound, Subject
from cadrage.analysis.sound_levels import FLOOR_DECIBELS, HIGHEST, RATE, SoundLevelsAnalysis, levels_in, sound_levels
from cadrage.footage import probe
from tests.clips import write_clip

SOUND = (
    "sine=f=440:r=48000:d=4,volume=volume='if(lt(t,1),0,if(lt(t,2),2,0.25))':eval=frame,aformat=channel_layouts=stereo"
)
"""Silence for a second, then two loudnesses, 18 dB apart."""


def made(path, *options, sound=SOUND, offset="0"):
    command = ["ffmpeg", "-v", "error", "-f", "lavfi", "-i", "color=gray:s=64x64:r=25:d=4", "-itsoffset", offset]
    subprocess.run([*command, "-f", "lavfi", "-i", sound, *options, str(path)], check=True)
    return path


def decibels(levels):
    return (levels.astype(float) / HIGHEST - 1) * FLOOR_DECIBELS


def peak_by_ffmpeg(path, start, end):
    wanted = f"atrim={start}:{end},astats=measure_perchannel=none:measure_overall=Peak_level"
    found = subprocess.run(
        ["ffmpeg", "-i", str(path), "-af", wanted, "-f", "null", "-"], check=True, capture_output=True, text=True
    )
    return float(re.search(r"Peak level dB: (\S+)", found.stderr)[1])


@pytest.mark.parametrize(
    ("name", "options"),
    [
        ("pcm16.mov", ["-c:a", "pcm_s16le"]),
        ("pcm24.mov", ["-c:a", "pcm_s24le"]),
        ("pcm8.avi", ["-c:a", "pcm_u8"]),
        ("aac.mp4", ["-c:a", "aac"]),
        ("flac.mkv", ["-c:a", "flac"]),
        ("opus.webm", ["-c:v", "libvpx", "-c:a", "libopus"]),
    ],
)
def test_peaks_are_those_that_another_reader_finds(tmp_path, name, options):
    path = made(tmp_path / name, *options)
    levels = decibels(sound_levels(path, probe(path)))
    assert len(levels) == pytest.approx(4 * RATE, abs=RATE / 10)
    for start, end in ((1.2, 1.8), (2.2, 3.8)):
        part = levels[round(start * RATE) : round(end * RATE)]
        assert part.max() == pytest.approx(peak_by_ffmpeg(path, start, end), abs=0.5)
    assert levels[: RATE - 5].max() < -40


def test_sound_that_begins_late_lies_late(tmp_path):
    path = made(tmp_path / "late.mov", "-c:a", "pcm_s16le", sound="sine=f=440:r=48000:d=2", offset="1")
    levels = sound_levels(path, probe(path))
    assert int(np.flatnonzero(levels)[0]) == pytest.approx(RATE, abs=2)


def test_an_analysis_keeps_them(tmp_path):
    path = made(tmp_path / "clip.mov", "-c:a", "pcm_s16le")
    outcome = SoundLevelsAnalysis().find(Subject(path, "clip", probe(path), workspace=tmp_path))
    assert isinstance(outcome, Found)
    kept = levels_in(tmp_path)
    assert (len(kept), max(kept)) == (outcome.result.count, outcome.result.highest)


def test_a_clip_without_sound_has_none(tmp_path):
    path = write_clip(tmp_path / "mute.mp4", size=(64, 64), frames=5, sound=None)
    assert isinstance(SoundLevelsAnalysis().find(Subject(path, "clip", probe(path))), NotFound)
