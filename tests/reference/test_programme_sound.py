"""Programme sound as broadcast files have it: loudness behind the codec, and mono tracks that belong together."""

import subprocess

import numpy as np
import pytest

from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.playing import PlayRequest
from cadrage.render import RenderRequest
from cadrage.render.written_tracks import join_offer
from tests.played import play
from tests.reference.test_sound import RATE, SIZE, level, measured, rendered, samples, tones, write

LOUDNESS_TOLERANCE = 0.2  # LU; EBU R 128 asks for 0.5


def white_noise(seconds=6):
    """Noise of the whole spectrum, of which codecs leave out much: up to 0.8 LU was missing."""
    rng = np.random.default_rng(3)
    return 0.05 * rng.standard_normal((seconds * RATE, 2))


def bursts(seconds=6):
    """A quiet tone with short loud bursts, whose peaks codecs raise."""
    rng = np.random.default_rng(4)
    sound = 0.02 * np.sin(np.arange(seconds * RATE) / 23)[:, None] * np.ones(2)
    for at in range(RATE // 2, len(sound) - 900, RATE):
        sound[at : at + 800] += 0.4 * rng.uniform(-1, 1, (800, 2))
    return sound


@pytest.mark.parametrize("kind", ["mp4", "webm", "mov"])
@pytest.mark.parametrize("sound", [white_noise, bursts])
def test_loudness_is_that_of_the_file_as_decoded(tmp_path, kind, sound):
    source = write(tmp_path / "source.mov", [("stereo", sound())], seconds=6)
    made, inspection = rendered(source, tmp_path, kind, loudness=-23.0)
    loudness, peak = measured(made)
    assert loudness == pytest.approx(-23.0, abs=LOUDNESS_TOLERANCE)
    assert peak <= -0.9  # ffmpeg's meter gives one decimal
    (checked,) = [line for line in inspection.lines if line.name.startswith("Loudness")]
    assert checked.verdict == "right"


def test_a_file_that_misses_its_loudness_is_called_wrong(tmp_path):
    """A file of another loudness in the place of the one that was asked for."""
    source = write(tmp_path / "source.mov", [("stereo", white_noise())], seconds=6)
    made, _ = rendered(source, tmp_path, "mov", loudness=-24.0)
    asked = Settings(kind="mov-prores", sound="pcm-24", loudness=-23.0)
    lines = inspect_file(made, RenderRequest(Plan(frame=SIZE), source, probe(source), settings=asked)).lines
    assert [line.verdict for line in lines if line.name.startswith("Loudness")] == ["wrong"]


@pytest.fixture(scope="module")
def mono_tracks(tmp_path_factory):
    """MXF as broadcasters have it: every channel a track of its own."""
    folder = tmp_path_factory.mktemp("mono")
    tracks = [("mono", tones(0.1, (tone,))) for tone in (400, 500, 640, 800)]
    plain = write(folder / "plain.mov", tracks)
    made = folder / "tracks.mxf"
    coded = ["-c:v", "mpeg2video", "-r", "25", "-q:v", "4", "-c:a", "pcm_s16le", "-ar", "48000"]
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-i", plain, "-map", "0", *coded, made], check=True)
    return made


def test_joining_is_offered_for_mono_tracks_of_one_length(mono_tracks, tmp_path):
    info = probe(mono_tracks)
    assert [one.channels for one in info.sounds] == [1, 1, 1, 1]
    assert join_offer(info.sounds) == "1+2/3+4"
    assert join_offer(info.sounds[:3]) == "1+2/3"
    assert not join_offer(info.sounds[:1])
    both = write(tmp_path / "both.mov", [("stereo", tones(0.1, (400, 500))), ("mono", tones(0.1, (640,)))])
    assert not join_offer(probe(both).sounds)


@pytest.mark.parametrize("kind", ["mp4", "mxf"])
def test_mono_tracks_are_joined_into_stereo(mono_tracks, tmp_path, kind):
    frame = SIZE.model_copy(update={"rate": 25})
    made, inspection = rendered(mono_tracks, tmp_path, kind, Plan(frame=frame), tracks="1+2/4")
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    assert [one.channels for one in probe(made).sounds] == [2, 1]
    sound = samples(made)
    for channel, (tone, other) in enumerate(((400, 500), (500, 400))):
        assert level(sound[:, channel], tone) == pytest.approx(0.1, abs=0.003)
        assert level(sound[:, channel], other) < 0.001
    assert level(samples(made, track=1, channels=1)[:, 0], 800) == pytest.approx(0.1, abs=0.003)


def test_joined_samples_are_those_of_the_tracks(mono_tracks, tmp_path):
    """Nothing but where they lie changes: 16 bits come out as they went in."""
    made, _ = rendered(mono_tracks, tmp_path, "mov", tracks="2+1")
    sound = samples(made)
    for channel, track in enumerate((1, 0)):
        own = samples(mono_tracks, track=track, channels=1)[:, 0]
        assert np.abs(sound[: len(own), channel] - own[: len(sound)]).max() <= 2**-23


def test_loudness_is_that_of_the_joined_programme(mono_tracks, tmp_path):
    made, inspection = rendered(mono_tracks, tmp_path, "mp4", tracks="1+2", loudness=-23.0)
    assert inspection.right
    assert measured(made)[0] == pytest.approx(-23.0, abs=LOUDNESS_TOLERANCE)


def test_joined_tracks_are_played(mono_tracks, tmp_path):
    plan, info = Plan(frame=Frame(width=256, height=144)), probe(mono_tracks)
    request = PlayRequest((plan,), mono_tracks, info, settings=Settings(tracks="1+2"))
    heard = samples(play(request, 3.5, tmp_path)[1])
    assert level(heard[:, 0], 400) == pytest.approx(0.1, abs=0.004)
    assert level(heard[:, 1], 500) == pytest.approx(0.1, abs=0.004)
