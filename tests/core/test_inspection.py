"""What the inspection finds in the pixels and in the sound of a file."""

from fractions import Fraction as F

import av
import numpy as np
import pytest

from cadrage.compose import Compositor
from cadrage.footage import open_footage, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.inspection.registration import Shift, register
from cadrage.motion import Motion, Pan, Push, Tilt
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.render.loudness import loudness
from tests.clips import SOUND_RATE, write_clip
from tests.sampling import a_part_of

WIDE, UPRIGHT = Frame(width=640, height=360), Frame(width=360, height=640)
PLACEMENTS = [
    Placement(),
    Placement(tightness=F(1)),
    Placement(sizing="native", offset_x=F(31, 2), offset_y=F(-7)),
    Placement(tightness=F(1, 2), angle=F(5)),
    Placement(tightness=F(13, 10), angle=F(-12), mirror=True),
]


def line(inspection, name):
    return next(line for line in inspection.lines if line.name == name)


def composed(clip, plan, other=None):
    """Some pictures of a clip and the frames that a plan, or another in its place, makes of them."""
    info = probe(clip)
    with open_footage(clip, info, plan.interpretation) as reader:
        pictures = [reader.frame_at(info.duration * step / 6) for step in range(1, 6)]
    compositor = Compositor(other or plan, pictures[0].planes.layout, info)
    return info, [(one.planes, compositor.compose(one.planes, time=one.time), one.time) for one in pictures]


def moved(placement, **fields):
    return placement.model_copy(update=fields)


@pytest.mark.parametrize("placement", a_part_of(PLACEMENTS, 2))
@pytest.mark.parametrize("file", ["depot.mp4", "visitors.mp4", "relay.mp4"])
def test_a_picture_is_found_where_it_was_placed(museum, file, placement):
    """An upright phone clip, a wide one and a tape with pixels that are not square."""
    for frame in (WIDE, Frame(width=360, height=480, pixel_aspect=F(12, 11))):
        plan = Plan(frame=frame, placement=placement)
        info, pairs = composed(museum[file], plan)
        shift = register(plan, info, pairs)
        assert shift is not None
        assert shift.distance < 0.3, (frame, shift)


def test_a_picture_that_lies_elsewhere_is_found_out(museum):
    plan = Plan(frame=WIDE, placement=Placement(tightness=F(1, 2)))
    clip = museum["depot.mp4"]
    for fields, wanted in (({"offset_x": F(2)}, (2, 0)), ({"offset_y": F(-3)}, (0, -3))):
        wrong = plan.model_copy(update={"placement": moved(plan.placement, **fields)})
        info, pairs = composed(clip, plan, wrong)
        shift = register(plan, info, pairs)
        assert (shift.right, shift.down) == pytest.approx(wanted, abs=0.1)


def test_a_picture_of_another_size_is_found_out(museum):
    """One percent larger: right in the middle, and away from it towards every edge."""
    clip = museum["depot.mp4"]
    plan = Plan(frame=WIDE, placement=Placement(sizing="scale", scale=F(1, 2)))
    wrong = plan.model_copy(update={"placement": moved(plan.placement, scale=F(101, 200))})
    info, pairs = composed(clip, plan, wrong)
    assert register(plan, info, pairs).distance > 1


@pytest.mark.parametrize("move", [Pan(), Push(percent=F(12)), Tilt()], ids=lambda move: move.kind)
def test_a_picture_that_moves_is_looked_for_where_it_is_at_each_moment(museum, move):
    plan = Plan(frame=UPRIGHT, placement=Placement(tightness=F(3, 2)), motion=Motion(move=move))
    clip = museum["visitors.mp4"]
    info, pairs = composed(clip, plan)
    assert register(plan, info, pairs).distance < 0.3
    still = plan.model_copy(update={"motion": Motion()})
    assert (register(still, info, pairs) or Shift(99, 99, 0)).distance > 1


def test_a_plain_picture_says_nothing_of_where_it_lies(tmp_path):
    clip = write_clip(tmp_path / "in.mp4", frames=3, paint=lambda _: np.full((180, 320, 3), 90, np.uint8))
    plan = Plan(frame=WIDE)
    info, pairs = composed(clip, plan)
    assert register(plan, info, pairs) is None


def spoiled(source, target, change):
    """A copy of a file's pictures, each put through a change."""
    info = probe(source)
    with av.open(str(source)) as read, av.open(str(target), "w") as written:
        stream = written.add_stream("libx264", rate=info.rate, options={"crf": "10"})
        stream.width, stream.height, stream.pix_fmt = info.width, info.height, "yuv420p"
        stream.codec_context.color_range = 1
        images = [frame.to_ndarray(format="yuv420p") for frame in read.decode(video=0)]
        for number in range(len(images)):
            frame = av.VideoFrame.from_ndarray(change(images, number), "yuv420p")
            frame.pts, frame.time_base = number, 1 / info.rate
            written.mux(stream.encode(frame))
        written.mux(stream.encode(None))


def test_black_and_frozen_frames_that_the_clip_does_not_have_are_found(tmp_path):
    """The clip itself static for three frames and is black for two, which is as it should be."""

    def paint(number):
        image = np.random.default_rng(min(max(number, 3), 3) if number in (3, 4, 5) else number).integers(
            40, 200, (9, 16, 3), np.uint8
        )
        return (
            np.kron(image, np.ones((20, 20, 1), np.uint8))
            if number not in (8, 9)
            else np.zeros((180, 320, 3), np.uint8)
        )

    clip = write_clip(tmp_path / "in.mp4", frames=25, paint=paint, sound=None)
    plan, good, bad = Plan(frame=Frame(width=320, height=180)), tmp_path / "good.mp4", tmp_path / "bad.mp4"
    order = RenderRequest(plan, clip, probe(clip))
    render(plan, clip, good, order.info, settings=Settings(quality="nearly_lossless"))
    inspection = inspect_file(good, order)
    assert inspection.right, inspection
    assert line(inspection, "Black frames").found == "none"

    def change(images, number):
        if number == 15:
            black = images[0].copy()
            black[:180], black[180:] = 16, 128
            return black
        return images[20] if number in (20, 21, 22) else images[number]

    spoiled(good, bad, change)
    inspection = inspect_file(bad, order)
    assert line(inspection, "Black frames").found == "1: 15"
    assert line(inspection, "Frozen frames").found == "2: 21, 22"
    assert not inspection.right


def tone(path, decibels, seconds=20):
    """A stereo sine of 1000 Hz whose peaks are so far below full scale."""
    samples = 10 ** (decibels / 20) * np.sin(2 * np.pi * 1000 * np.arange(seconds * SOUND_RATE) / SOUND_RATE)
    with av.open(str(path), "w") as container:
        stream = container.add_stream("pcm_s24le", rate=SOUND_RATE, layout="stereo")
        for start in range(0, len(samples), 4800):
            part = (samples[start : start + 4800] * (2**31 - 1)).astype(np.int32)
            frame = av.AudioFrame.from_ndarray(np.repeat(part, 2)[None], "s32", "stereo")
            frame.sample_rate, frame.pts = SOUND_RATE, start
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path


@pytest.mark.parametrize("decibels", [-23.0, -33.0])
def test_loudness_is_that_of_the_standard_s_test_signals(tmp_path, decibels):
    """EBU Tech 3341, table 1, cases 1 and 2: a stereo sine of 1000 Hz, -23 and -33 dBFS, reads that in LUFS, ±0.1."""
    found = loudness(tone(tmp_path / "tone.mov", decibels))
    assert found.integrated == pytest.approx(decibels, abs=0.1)
    assert found.true_peak == pytest.approx(decibels, abs=0.2)


def test_silence_has_no_loudness(tmp_path):
    assert loudness(tone(tmp_path / "tone.mov", -200, seconds=2)) is None


def test_a_rate_that_was_not_kept_is_told(tmp_path):
    noise = np.random.default_rng(2)
    small = {"size": (160, 90), "paint": lambda _: noise.integers(0, 255, (90, 160, 3), np.uint8)}
    clip = write_clip(tmp_path / "in.mp4", frames=125, sound=None, **small)
    plan, target = Plan(frame=Frame(width=160, height=90)), tmp_path / "out.mp4"
    render(plan, clip, target, probe(clip))
    asked = Settings(rate_control="rate", rate=500)
    found = line(inspect_file(target, RenderRequest(plan, clip, probe(clip), settings=asked)), "Bit rate")
    assert (found.asked, found.verdict) == ("500 kb/s", "wrong")
