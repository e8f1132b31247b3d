"""Faults that are put into files on purpose, each of which the inspection must find by its own line."""

import subprocess
from fractions import Fraction as F

import cv2
import numpy as np
import pytest

from cadrage.footage import Interpretation, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from tests.clips import write_clip
from tests.core.test_light import write_hdr
from tests.film import HEIGHT, WIDTH, in_fields, write

SIZE = Frame(width=320, height=180)
BEST = Settings(quality="nearly_lossless")


def verdicts(path, order):
    return {line.name: line.verdict for line in inspect_file(path, order).lines}


def ffmpeg(*arguments):
    subprocess.run(["ffmpeg", "-v", "error", "-y", *map(str, arguments)], check=True)


def wall(number):
    """A colourful wall that slides."""
    rng = np.random.default_rng(5)
    image = cv2.resize(rng.integers(40, 215, (18, 60, 3), np.uint8), (960, 180), interpolation=cv2.INTER_CUBIC)
    return np.ascontiguousarray(image[:, 6 * number : 6 * number + 320])


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    """Three seconds with noise for sound, which has one place only."""
    folder = tmp_path_factory.mktemp("faults")
    silent = write_clip(folder / "silent.mp4", size=(320, 180), frames=75, paint=wall, sound=None)
    path = folder / "clip.mov"
    noise = "anoisesrc=d=3:a=0.2:r=48000:seed=7"
    ffmpeg("-i", silent, "-f", "lavfi", "-i", noise, "-c:v", "copy", "-c:a", "pcm_s16le", path)
    return path


@pytest.fixture(scope="module")
def made(clip):
    """The file as it should be, and what was asked for."""
    path, settings = clip.with_name("made.mov"), BEST.model_copy(update={"kind": "mov-h264", "sound": "pcm-16"})
    order = RenderRequest(Plan(frame=SIZE), clip, probe(clip), settings=settings)
    render(order.plan, clip, path, order.info, settings=settings)
    assert "wrong" not in verdicts(path, order).values()
    return path, order


@pytest.mark.parametrize(
    ("change", "name"),
    [
        (("-af", "aselect='not(between(t,1,1.5))',asetpts=N/SR/TB,apad=whole_dur=3"), "Sound sync and level"),
        (("-af", "adelay=10:all=1,atrim=0:3"), "Sound sync and level"),
        (("-af", "volume=3dB"), "Sound sync and level"),
        (("-vf", "chromashift=cbh=1:crh=1"), "Colour lies"),
        (("-vf", "chromashift=cbv=1:crv=1"), "Colour lies"),
        (("-vf", "eq=saturation=1.25"), "Colours"),
        (("-vf", "lutyuv=y=val*0.9"), "Colours"),
        (("-vf", "tinterlace=interleave_top,setsar=1", "-r", "25"), "Lines"),
    ],
    ids=["gap", "late", "loud", "chroma right", "chroma down", "saturated", "dark", "combed"],
)
def test_what_was_changed_in_a_file_is_found(made, tmp_path, change, name):
    path, order = made
    worse = tmp_path / "worse.mov"
    ffmpeg("-i", path, *change, "-c:v", "libx264", "-crf", "8", "-c:a", "pcm_s16le", worse)
    assert verdicts(worse, order)[name] == "wrong"


def test_hdr_that_was_passed_on_untouched(tmp_path):
    clip = write_hdr(tmp_path / "pq.mp4", "smpte2084")
    order = RenderRequest(Plan(frame=Frame(width=320, height=192)), clip, probe(clip), settings=BEST)
    worse = tmp_path / "worse.mp4"
    tags = ("-color_primaries", "smpte170m", "-color_trc", "smpte170m", "-colorspace", "smpte170m")
    ffmpeg("-i", clip, "-vf", "scale=320:192,format=yuv420p", "-c:v", "libx264", "-crf", "8", *tags, worse)
    assert verdicts(worse, order)["Colours"] == "wrong"


def test_fields_that_were_taken_for_whole_pictures(tmp_path):
    frames = in_fields(range(60), "upper_first")
    clip = write(tmp_path / "tape.mkv", frames, "-c:v", "ffv1")
    plan = Plan(frame=Frame(width=WIDTH, height=HEIGHT), interpretation=Interpretation(fields="upper_first"))
    order, worse = RenderRequest(plan, clip, probe(clip), settings=BEST), tmp_path / "worse.mp4"
    combed = plan.model_copy(update={"interpretation": Interpretation(fields="progressive")})
    render(combed, clip, worse, order.info, settings=BEST)
    assert verdicts(worse, order)["Lines"] == "wrong"


def test_film_whose_pictures_come_twice(tmp_path):
    clip = write(tmp_path / "film.mkv", in_fields(range(60), "upper_first"), "-c:v", "ffv1")
    said = Interpretation(fields="upper_first", deinterlace="film")
    plan = Plan(frame=Frame(width=WIDTH, height=HEIGHT), interpretation=said)
    order, worse = RenderRequest(plan, clip, probe(clip), settings=BEST), tmp_path / "worse.mp4"
    thinned = "fieldmatch,select='mod(n,5)',setpts=N*1001/24000/TB,setsar=1"  # of five the wrong one is left out
    ffmpeg("-i", clip, "-vf", thinned, "-r", "24000/1001", "-c:v", "libx264", "-qp", "0", worse)
    assert verdicts(worse, order)["Frozen frames"] == "wrong"


def test_a_rate_that_is_only_near(made, tmp_path):
    path, order = made
    plan = order.plan.model_copy(update={"frame": SIZE.model_copy(update={"rate": F(30000, 1001)})})
    worse = tmp_path / "worse.mov"
    ffmpeg("-i", path, "-r", "2997/100", "-c:v", "libx264", "-crf", "8", "-c:a", "copy", worse)
    told = inspect_file(worse, RenderRequest(plan, order.source, order.info, settings=order.settings))
    assert next(line for line in told.lines if line.name == "Rate").verdict == "wrong"


def test_a_time_code_that_is_missing_or_another(made, tmp_path):
    path, order = made
    settings = order.settings.model_copy(update={"timecode": "10:00:00:00"})
    coded = RenderRequest(order.plan, order.source, order.info, settings=settings)
    assert verdicts(path, coded)["Time code"] == "wrong"
    worse = tmp_path / "worse.mov"
    ffmpeg("-i", path, "-c", "copy", "-timecode", "10:00:00:01", worse)
    assert verdicts(worse, coded)["Time code"] == "wrong"
