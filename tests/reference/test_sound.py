"""Sound as it comes out, measured in its samples by ffmpeg: levels, peaks, loudness, channels, and where clicks lie."""

import json
import re
import subprocess
from fractions import Fraction as F

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter1d

from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan, Range
from cadrage.render import RenderRequest, render
from cadrage.render.peaks import PeakLimiter, true_peaks
from tests.sampling import a_part_of

RATE = 48_000
TONES = (400, 500, 640, 50, 800, 1000)  # Hz, one for each channel of 5.1: L R C LFE Ls Rs
BS775 = {400: (1, 0), 500: (0, 1), 640: (0.7071, 0.7071), 50: (0, 0), 800: (0.7071, 0), 1000: (0, 0.7071)}
"""What left and right get of each. ITU-R BS.775-3, annex 4, table 2, 3/2 to 2/0; from memory."""
KINDS = {
    "mp4": {"kind": "mp4-h264", "sound": "aac-256"},
    "mov": {"kind": "mov-prores", "sound": "pcm-24"},
    "avi": {"kind": "avi-mjpeg", "sound": "pcm-16"},
    "webm": {"kind": "webm-vp9", "sound": "opus"},
    "mkv": {"kind": "mkv-ffv1", "sound": "pcm-16"},
    "mxf": {"kind": "mxf-dnxhr", "sound": "pcm-24"},
}
SIZE = Frame(width=256, height=144)


def write(path, tracks, *, seconds=4, more=()):
    """A clip with tracks of sound: each a layout, and samples (samples, channels) of -1 to 1."""
    command = ["ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", f"testsrc2=s=256x144:r=10:d={seconds}"]
    maps = ["-map", "0:v"]
    for number, (layout, sound) in enumerate(tracks):
        raw = path.with_name(f"{path.stem}{number}.f32")
        raw.write_bytes(sound.astype("<f4").tobytes())
        channels = ("-ac", str(sound.shape[1])) if layout is None else ("-channel_layout", layout)
        command += ["-f", "f32le", "-ar", str(RATE), *channels, "-i", str(raw)]
        maps += ["-map", f"{number + 1}:a"]
    coded = ("-c:v", "libx264", "-preset", "ultrafast", "-c:a", "pcm_f32le")
    subprocess.run([*command, *maps, *coded, *more, str(path)], check=True)
    return path


def samples(path, track=0, channels=2):
    form = ("-f", "f32le", "-ac", str(channels), "-ar", str(RATE), "-")
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-map", f"0:a:{track}", *form]
    return np.frombuffer(subprocess.run(command, check=True, capture_output=True).stdout, "<f4").reshape(-1, channels)


def level(sound, tone):
    """The height of a sine in some sound."""
    middle = sound[RATE : 3 * RATE].astype(float)
    at = np.exp(-2j * np.pi * tone * np.arange(len(middle)) / RATE)
    return 2 * abs((middle * at).mean())


def measured(path):
    """Loudness and true peak by ffmpeg's ebur128."""
    command = ["ffmpeg", "-hide_banner", "-i", str(path), "-af", "ebur128=peak=true", "-f", "null", "-"]
    told = subprocess.run(command, check=True, capture_output=True, text=True).stderr
    loud = float(re.findall(r"I:\s+(-?[\d.]+) LUFS", told)[-1])
    return loud, float(re.findall(r"Peak:\s+(-?[\d.]+) dBFS", told)[-1])


def tones(height, which=TONES, seconds=4):
    at = np.arange(seconds * RATE) / RATE
    return np.stack([height * np.sin(2 * np.pi * tone * at) for tone in which], axis=1)


@pytest.fixture(scope="module")
def surround(tmp_path_factory):
    return write(tmp_path_factory.mktemp("sound") / "surround.mov", [("5.1", tones(0.1))])


@pytest.fixture(scope="module")
def loud(tmp_path_factory):
    return write(tmp_path_factory.mktemp("sound") / "loud.mov", [("5.1", tones(0.99))])


def rendered(source, tmp_path, kind, plan=None, **more):
    target = tmp_path / f"out.{kind}"
    settings = Settings(**KINDS[kind], **more)
    frame = SIZE.model_copy(update={"rate": F(25)}) if kind == "mxf" else SIZE  # which knows no other near 10
    plan, info = plan or Plan(frame=frame), probe(source)
    render(plan, source, target, info, settings=settings)
    inspection = inspect_file(target, RenderRequest(plan, source, info, settings=settings))
    return target, inspection


@pytest.mark.parametrize("kind", a_part_of(sorted(KINDS), 2))
def test_five_channels_to_two_by_the_stated_coefficients(surround, tmp_path, kind):
    target, inspection = rendered(surround, tmp_path, kind, stereo=True)
    assert inspection.right
    sound = samples(target)
    for tone, (left, right) in BS775.items():
        assert level(sound[:, 0], tone) == pytest.approx(0.1 * left, abs=0.004)
        assert level(sound[:, 1], tone) == pytest.approx(0.1 * right, abs=0.004)


def test_it_is_as_loud_in_every_kind_and_its_peaks_are_held(loud, tmp_path):
    """EBU R 128: no more than -1 dBTP; what is coded with loss may pass that by a little."""
    found = {kind: measured(rendered(loud, tmp_path, kind, stereo=True)[0]) for kind in ("avi", "mov", "mp4", "webm")}
    loudness = [one for one, _ in found.values()]
    assert max(loudness) - min(loudness) < 0.3
    for kind, (_, peak) in found.items():
        assert peak <= (-0.9 if KINDS[kind]["sound"].startswith("pcm") else 0.0)


def test_peaks_between_samples_are_found_and_held():
    """A quarter of the sampling rate, off its crests: samples reach 0.707, the wave 1."""
    at = np.arange(RATE)
    wave = np.sin(np.pi / 2 * at + np.pi / 4).astype(np.float32)[:, None]
    assert np.abs(wave).max() == pytest.approx(0.7071, abs=1e-3)
    assert true_peaks(wave)[100:-100].max() == pytest.approx(1, abs=0.03)
    limiter = PeakLimiter(RATE, 1)
    held = np.concatenate([limiter.take(wave[:20_000]), limiter.take(wave[20_000:]), limiter.finish()])
    assert held.shape == wave.shape
    assert true_peaks(held)[200:-200].max() <= 10 ** (-1 / 20) + 0.01
    quiet = 0.5 * wave
    limiter = PeakLimiter(RATE, 1)
    assert np.array_equal(np.concatenate([limiter.take(quiet), limiter.finish()]), quiet)


@pytest.mark.parametrize(("kind", "target"), [("mov", -23.0), ("mp4", -14.0), ("mxf", -27.5)])
def test_loudness_is_brought_to_a_target(tmp_path, kind, target):
    """EBU R 128: within 0.5 LU, true peak at most -1 dBTP."""
    rng = np.random.default_rng(1)
    soft = gaussian_filter1d(rng.standard_normal((8 * RATE, 2)), 3, axis=0)  # without what AAC leaves out
    noise = 0.06 * soft * (1 + np.sin(np.arange(8 * RATE) / 9000))[:, None]
    source = write(tmp_path / "noise.mov", [("stereo", noise)], seconds=8)
    made, inspection = rendered(source, tmp_path, kind, loudness=target)
    assert inspection.right
    loudness, peak = measured(made)
    assert loudness == pytest.approx(target, abs=0.5)
    assert peak <= -0.5


def test_channels_and_tracks_are_chosen(tmp_path):
    twelve = np.concatenate([tones(0.05, (300 + 40 * number for number in range(12)))], axis=1)
    both = [(None, twelve), ("stereo", tones(0.1, (400, 500)))]
    said = ("-metadata:s:a:0", "language=deu", "-metadata:s:a:1", "language=fra")
    source = write(tmp_path / "many.mov", both, more=said)
    made, _ = rendered(source, tmp_path, "mov", channels="3+4")
    sound = samples(made)
    assert level(sound[:, 0], 380) == pytest.approx(0.05, abs=0.002)
    assert level(sound[:, 1], 420) == pytest.approx(0.05, abs=0.002)
    assert level(sound[:, 0], 420) < 0.001
    made, inspection = rendered(source, tmp_path, "mp4", tracks="2")
    assert inspection.right
    info = probe(made)
    assert [one.language for one in info.sounds] == ["fra"]
    assert level(samples(made)[:, 0], 400) == pytest.approx(0.1, abs=0.004)
    made, _ = rendered(source, tmp_path, "mov")
    first = samples(made)
    assert level(first[:, 0], 300) == pytest.approx(0.05, abs=0.002)
    assert np.abs(first).max() < 0.12


@pytest.mark.parametrize("kind", ["mp4", "mov", "mkv"])
def test_languages_and_titles_of_tracks_are_kept(tmp_path, kind):
    said = ("-metadata:s:a:0", "language=deu", "-metadata:s:a:1", "language=eng", "-metadata:s:a:1", "title=Commentary")
    both = [("stereo", tones(0.1, (400, 500))), ("mono", tones(0.1, (640,)))]
    source = write(tmp_path / "said.mkv", both, more=said)
    made, inspection = rendered(source, tmp_path, kind)
    assert inspection.right
    shown = subprocess.run(
        ["ffprobe", "-v", "error", "-select_streams", "a", "-show_entries", "stream_tags", "-of", "json", str(made)],
        check=True,
        capture_output=True,
    ).stdout
    tags = [one["tags"] for one in json.loads(shown)["streams"]]
    assert [one["language"] for one in tags] in (["deu", "eng"], ["ger", "eng"])  # as MOV has it
    assert [one.title for one in probe(made).sounds] == ["", "Commentary"]
    assert "Commentary" in tags[1].values()


def clicks(path, kind):
    """When clicks are heard, in seconds."""
    sound = np.abs(samples(path, channels=1)[:, 0])
    loud = np.flatnonzero(sound > 0.3 * sound.max())
    first = [loud[0], *loud[1:][np.diff(loud) > RATE // 10]]
    return [at / RATE for at in first]


@pytest.mark.parametrize("kind", a_part_of(sorted(KINDS), 2))
def test_clicks_stay_where_they_are_behind_gaps(tmp_path, kind):
    """Sound that begins late and has a hole: every click as far from the picture as it was, within a millisecond."""
    at = (0.9, 1.5, 2.6, 3.4)
    sound = np.zeros((4 * RATE, 1))
    for one in at:
        sound[round(one * RATE) : round(one * RATE) + 48] = 0.8 * np.hanning(48)[:, None]
    whole = write(tmp_path / "whole.mkv", [("mono", sound)])
    holed = tmp_path / "holed.mkv"
    hole = "aselect='between(t,0.7,1.8)+gte(t,2.3)'"
    command = [
        "ffmpeg",
        "-v",
        "error",
        "-y",
        "-i",
        str(whole),
        "-af",
        hole,
        "-c:v",
        "copy",
        "-c:a",
        "pcm_s16le",
        str(holed),
    ]
    subprocess.run(command, check=True)
    made, inspection = rendered(holed, tmp_path, kind)
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    crest = 24 / RATE
    near = [pytest.approx(one + crest, abs=0.001) for one in at]
    assert [one + 10 / RATE for one in clicks(made, kind)] == near


@pytest.mark.parametrize("part", ["0.4,", "0.4,2.2"])
@pytest.mark.parametrize("kind", ["mp4", "mov", "mkv"])
def test_a_part_of_a_clip_with_aac_is_called_right(tmp_path, kind, part):
    """Sound of AAC lies where it lay, though its encoder puts samples before it and fills its last packet."""
    sound = np.zeros((4 * RATE, 1))
    sound[round(1.5 * RATE) : round(1.5 * RATE) + 480] = 0.8 * np.hanning(480)[:, None]
    plain = write(tmp_path / "plain.mov", [("mono", sound)])
    source = tmp_path / "aac.mp4"
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", plain, "-c:v", "copy", "-c:a", "aac", source], check=True)
    start, _, end = part.partition(",")
    plan = Plan(frame=SIZE, range=Range(start=F(start), end=F(end) if end else None))
    made, inspection = rendered(source, tmp_path, kind, plan)
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    heard = samples(made, channels=1)[:, 0]
    assert np.argmax(np.abs(heard)) / RATE == pytest.approx(1.5 + 0.005 - 0.4, abs=0.001)


def test_a_file_with_priming_in_matroska_is_called_right(tmp_path):
    source = write(tmp_path / "tone.mkv", [("stereo", tones(0.2, (400, 500)))])
    primed = tmp_path / "primed.mkv"
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", source, "-c:v", "copy", "-c:a", "aac", primed], check=True)
    for kind in ("mp4", "mkv"):
        _, inspection = rendered(primed, tmp_path, kind)
        assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    target = tmp_path / "kept.mp4"
    render(Plan(frame=SIZE), primed, target, probe(primed), settings=Settings())
    assert inspect_file(target, RenderRequest(Plan(frame=SIZE), primed, probe(primed), settings=Settings())).right
