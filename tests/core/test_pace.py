"""Whole pictures repeated and dropped, none blended."""

from fractions import Fraction as F
from itertools import pairwise

import av
import numpy as np
import pytest

from cadrage.errors import BadRequest
from cadrage.footage import ClipReader, MediaInfo, picture_times, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.render.frame_timing import Fitted, fitted, frame_timing
from tests.clips import write_clip

FILM = F(24000, 1001)
FACTS = {
    "container": "mov",
    "codec": "h264",
    "width": 96,
    "height": 64,
    "pixel_aspect": None,
    "rotation": 0,
    "rotation_flag": 0,
    "rate_stated": True,
    "rate_varies": False,
    "shortest_frame": "1/30",
    "longest_frame": "1/30",
    "field_order": "progressive",
    "pixel_format": "yuv420p",
    "depth": 8,
    "chroma": "4:2:0",
    "matrix": 1,
    "primaries": 1,
    "transfer": 1,
    "full_range": False,
    "sounds": (),
}


def numbered(number):
    """A picture that carries its own number, as sixteen shades that survive coding."""
    image = np.empty((64, 96, 3), np.uint8)
    image[:, :48], image[:, 48:] = 16 * (number % 16), 16 * (number // 16 % 16)
    return image


def numbers(path):
    with ClipReader(path, probe(path)) as reader:
        lumas = [frame.planes.arrays[0] for frame in reader.frames()]

    def shade(part):
        return round((part.mean() - 16) / 219 * 255 / 16)

    return [shade(luma[:, 4:44]) + 16 * shade(luma[:, 52:92]) for luma in lumas]


@pytest.mark.parametrize(("own", "wanted"), [(F(24), F(25)), (F(25), F(24)), (FILM, F(25)), (F(30), F(30000, 1001))])
def test_each_frame_is_the_picture_on_screen_at_its_moment(tmp_path, own, wanted):
    path = write_clip(tmp_path / "in.mp4", size=(96, 64), frames=75, rate=own, paint=numbered, sound=None)
    info, target = probe(path), tmp_path / "out.mp4"
    plan = Plan(frame=Frame(width=96, height=64, rate=wanted))
    render(plan, path, target, info)
    shown = numbers(target)
    assert shown == [int(F(number) / wanted * own) for number in range(len(shown))]
    assert len(shown) == -(-(75 / own * wanted) // 1)
    report = inspect_file(target, RenderRequest(plan, path, info))
    assert report.right, report


def test_a_varying_rate_becomes_constant(tmp_path):
    stamps = [0, 40, 80, 120, 400, 440, 480, 520]
    path = write_clip(
        tmp_path / "in.mkv", size=(96, 64), frames=8, rate=F(25), paint=numbered, stamps=stamps, sound=None
    )
    target = tmp_path / "out.mp4"
    render(Plan(frame=Frame(width=96, height=64, rate=F(25))), path, target, probe(path))
    assert not probe(target).rate_varies
    assert numbers(target) == [0, 1, 2, 3, 3, 3, 3, 3, 3, 3, 4, 5, 6, 7]


NTSC = F(30000, 1001)


@pytest.mark.parametrize(("own", "wanted"), [(F(30), NTSC), (NTSC, F(30)), (F(24), FILM), (FILM, F(24))])
def test_one_in_1001_is_dropped_or_repeated_where_arithmetic_says(own, wanted):
    """Over 3003 pictures. n frames at the wanted rate reach n·own/wanted pictures, so the n that do not grow with it
    are multiples of 1001 (common practice, no source).
    """
    info = MediaInfo.model_validate(FACTS | {"rate": own, "frames": 3003, "duration": 3003 / own})
    found = fitted(frame_timing(Plan(frame=Frame(width=96, height=64, rate=wanted)), info))
    if own > wanted:  # 3000 frames; one of every 1001 pictures has none of its own: the last of each row
        assert found == Fitted(repeated=(), dropped=(1000, 2001))  # behind the third row the clip is over
    else:  # 3006.003 frames, so 3007
        # The second frame comes a little before the second picture; so does the one behind each full row.
        assert found == Fitted(repeated=(1, 1002, 2003, 3004), dropped=())


@pytest.mark.parametrize(("own", "wanted"), [(F(30), NTSC), (NTSC, F(30))])
def test_a_rendered_file_has_just_those(tmp_path, own, wanted):
    """A range about the thousandth picture of a small clip, so that the one in 1001 is in it."""
    path = write_clip(tmp_path / "in.mp4", size=(96, 64), frames=1010, rate=own, paint=numbered, sound=None)
    info, target = probe(path), tmp_path / "out.mp4"
    plan = Plan(frame=Frame(width=96, height=64, rate=wanted))
    render(plan, path, target, info)
    shown, changes = numbers(target), fitted(frame_timing(plan, info))
    steps = [(later - earlier) % 256 for earlier, later in pairwise(shown)]
    repeated = [number + 1 for number, step in enumerate(steps) if step == 0]
    assert repeated == [number for number in changes.repeated if number < len(shown)]
    assert [number for number, step in enumerate(steps) if step == 2] == [one - 1 for one in changes.dropped]
    assert set(steps) <= {0, 1, 2}  # and nothing that is no whole picture


def test_a_varying_rate_comes_out_constant_and_in_step_within_half_a_frame(tmp_path):
    """Gaps of a tenth to half a second, as a phone leaves them; every frame shows the picture of its moment."""
    random = np.random.default_rng(4)
    stamps = np.cumsum([0, *random.choice([17, 33, 34, 50, 120, 480], 59)]).tolist()
    path = write_clip(
        tmp_path / "in.mkv", size=(96, 64), frames=60, rate=F(30), paint=numbered, stamps=stamps, sound="pcm_s16le"
    )
    info, target, rate = probe(path), tmp_path / "out.mp4", F(25)
    plan = Plan(frame=Frame(width=96, height=64, rate=rate))
    render(plan, path, target, info)
    found = probe(target)
    assert (found.rate, found.rate_varies) == (rate, False)
    for number, shown in enumerate(numbers(target)):
        moment = number / rate
        at = stamps[shown] / 1000
        until = stamps[shown + 1] / 1000 if shown + 1 < 60 else np.inf
        assert at - 0.02 <= moment < until + 0.02
    inspection = inspect_file(target, RenderRequest(plan, path, info))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    changes = fitted(frame_timing(plan, info), picture_times(path, info))
    line = next(line for line in inspection.lines if line.name == "Fitted to the rate")
    assert line.found.startswith(f"frames repeated: {len(changes.repeated)}: ")


def pitch(path):
    """The strongest frequency of a file's sound, in hertz, and how long it lasts in seconds."""
    with av.open(str(path)) as container:
        rate = container.streams.audio[0].rate
        samples = np.concatenate([frame.to_ndarray()[0] for frame in container.decode(audio=0)]).astype(float)
    spectrum = np.abs(np.fft.rfft(samples * np.hanning(samples.size)))
    return float(np.argmax(spectrum) * rate / samples.size), samples.size / rate


@pytest.mark.parametrize(("own", "wanted"), [(F(25), F(24)), (F(24), F(25)), (FILM, F(25))])
def test_a_speed_change_keeps_every_picture_and_the_pitch(tmp_path, own, wanted):
    path = write_clip(tmp_path / "in.mp4", size=(96, 64), frames=100, rate=own, paint=numbered)
    info, target = probe(path), tmp_path / "out.mp4"
    plan, settings = Plan(frame=Frame(width=96, height=64, rate=wanted)), Settings(rate_change="speed")
    render(plan, path, target, info, settings=settings)
    assert numbers(target) == [number % 256 for number in range(100)]
    before, after = pitch(path), pitch(target)
    assert after[0] == pytest.approx(before[0], rel=0.003)
    assert after[1] == pytest.approx(100 / wanted, abs=0.06)
    inspection = inspect_file(target, RenderRequest(plan, path, info, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


def test_a_speed_that_nobody_would_take_for_real_is_refused(tmp_path):
    path = write_clip(tmp_path / "in.mp4", size=(96, 64), frames=5, rate=F(25), sound=None)
    plan, settings = Plan(frame=Frame(width=96, height=64, rate=F(50))), Settings(rate_change="speed")
    with pytest.raises(BadRequest, match="as fast"):
        render(plan, path, tmp_path / "out.mp4", probe(path), settings=settings)


def test_pictures_are_blended_only_on_request(tmp_path):
    """Flat greys that grow by 4 a picture: between two of them, a frame is just as far between as its moment is."""
    path = write_clip(
        tmp_path / "in.mp4",
        size=(96, 64),
        frames=40,
        rate=F(25),
        paint=lambda number: np.full((64, 96, 3), 40 + 4 * number, np.uint8),
        sound=None,
    )
    info, plan = probe(path), Plan(frame=Frame(width=96, height=64, rate=F(30)))
    for change in ("whole_frames", "blended"):
        target = tmp_path / f"{change}.mov"
        render(plan, path, target, info, settings=Settings(kind="mov-prores", sound="none", rate_change=change))
        with ClipReader(target, probe(target)) as reader:
            lumas = [frame.planes.arrays[0].mean() / 4 for frame in reader.frames()][:46]
        shown = [(luma - 16) / 219 * 255 for luma in lumas]
        moments = [number / 30 * 25 if change == "blended" else number * 25 // 30 for number in range(46)]
        assert shown == pytest.approx([40 + 4 * moment for moment in moments], abs=1)
