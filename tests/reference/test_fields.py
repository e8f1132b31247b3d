"""Fields beside ffmpeg's `idet` and beside the whole frames that the fields were taken from."""

import re
import subprocess
from fractions import Fraction as F

import cv2
import numpy as np
import pytest
from skimage import data

from cadrage.analysis.fields import find_fields
from cadrage.footage import Interpretation, effective_timing, open_footage, probe
from tests.clips import write_clip

SIZE, FIELDS = (360, 288), 60
ORDERS = ("upper_first", "lower_first")


def moment(number):
    """A photograph that slides sideways, two pixels a field, and a disc that falls before it."""
    photo = cv2.resize(data.coffee(), (600, 400), interpolation=cv2.INTER_AREA)
    left = 2 * number
    image = photo[40 : 40 + SIZE[1], left : left + SIZE[0]].copy()
    cv2.circle(image, (180, 40 + 3 * number), 28, (250, 240, 220), -1, cv2.LINE_AA)
    return image


def woven(number, order):
    """Two moments in one picture, each in its own lines."""
    first, second = moment(2 * number), moment(2 * number + 1)
    picture = second.copy()
    start = 0 if order == "upper_first" else 1
    picture[start::2] = first[start::2]
    return picture


def clip(folder, order):
    paint = (lambda number: moment(2 * number)) if order == "progressive" else (lambda number: woven(number, order))
    return write_clip(folder / "clip.mp4", size=SIZE, frames=FIELDS // 2, paint=paint, sound=None)


@pytest.mark.parametrize("order", ["progressive", *ORDERS])
def test_the_order_is_found_and_idet_agrees(tmp_path, order):
    path = clip(tmp_path, order)
    assert find_fields(path, probe(path)).order == order
    shown = subprocess.run(
        ["ffmpeg", "-hide_banner", "-i", str(path), "-vf", "idet", "-f", "null", "-"],
        capture_output=True,
        text=True,
        check=True,
    ).stderr
    counts = re.findall(r"Multi frame detection: TFF:\s*(\d+) BFF:\s*(\d+) Progressive:\s*(\d+)", shown)[-1]
    assert ("upper_first", "lower_first", "progressive")[int(np.argmax([int(count) for count in counts]))] == order


def test_a_clip_flagged_interlaced_that_is_not(tmp_path):
    """The stream says upper field first; its pictures are whole."""
    path = write_clip(
        tmp_path / "flagged.mpg",
        size=SIZE,
        frames=30,
        paint=lambda number: moment(2 * number),
        codec="mpeg2video",
        sound=None,
        options={"flags": "+ildct+ilme", "top": "1", "qscale": "2", "global_quality": "236"},
    )
    assert find_fields(path, probe(path)).order == "progressive"


def test_a_clip_in_which_nothing_moves_tells_nothing(tmp_path):
    path = write_clip(tmp_path / "still.mp4", size=SIZE, paint=lambda _: moment(0), sound=None)
    assert find_fields(path, probe(path)).order is None


def combing(luma):
    """How much more lines differ from their neighbours than from the next but one; about 0 without combing."""
    codes = luma.astype(float)
    near = np.abs(codes[1:-1] - codes[2:]).mean()
    far = np.abs(codes[:-2] - codes[2:]).mean()
    return near / max(far, 1e-6)


@pytest.mark.parametrize("order", ORDERS)
@pytest.mark.parametrize(("method", "step"), [("one_per_pair", 2), ("one_per_field", 1)])
def test_no_combing_is_left(tmp_path, order, method, step):
    path = clip(tmp_path, order)
    info, reading = probe(path), Interpretation(fields=order, deinterlace=method)
    assert effective_timing(info, reading).frames == FIELDS // step
    with open_footage(path, info, reading) as reader:
        frames = list(reader.frames())
    assert len(frames) == FIELDS // step
    assert [frame.time for frame in frames] == [F(number * step, 50) for number in range(FIELDS // step)]
    with open_footage(path, info, Interpretation(fields="progressive")) as reader:
        raw = [frame.planes.arrays[0] for frame in reader.frames()]
    for number in (5, 11, 17):
        wanted = cv2.cvtColor(moment(number * step), cv2.COLOR_RGB2GRAY)
        got = frames[number].planes.arrays[0]
        assert combing(got) < 1.05 * combing(wanted)
        assert combing(raw[number * step // 2]) > 1.2 * combing(wanted)


def test_a_moment_found_by_seeking_is_the_one_found_in_order(tmp_path):
    path = clip(tmp_path, "upper_first")
    info, reading = probe(path), Interpretation(fields="upper_first")
    with open_footage(path, info, reading) as reader:
        frames = list(reader.frames())
    for number in (3, 14, 27):
        with open_footage(path, info, reading) as reader:
            found = reader.frame_at(F(number, 25))
        assert found.time == F(number, 25)
        assert np.abs(found.planes.arrays[0].astype(int) - frames[number].planes.arrays[0]).max() <= 1
