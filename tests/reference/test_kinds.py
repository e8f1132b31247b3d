"""Every kind of file: ffprobe agrees on what was ordered, and the pictures are the composed ones."""

import json
import subprocess
from fractions import Fraction

import cv2
import numpy as np
import pytest

from cadrage.errors import BadRequest
from cadrage.footage import ClipReader, Material, library_of_files, open_footage, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.inspection.header import CODECS
from cadrage.output import OUTPUT_FORMATS, SHIPPED, Settings, encoder_config
from cadrage.plan import Plan
from cadrage.render import RenderRequest, plan_written, render
from tests.clips import write_clip
from tests.sampling import a_part_of

SQUARE = Plan(frame=Frame(width=256, height=320))
TAPE = Plan(frame=Frame(width=256, height=320, pixel_aspect=Fraction(12, 11)))
CASES = [
    pytest.param(kind, profile, depth, id=f"{kind.name} {profile.name} {depth}")
    for kind in OUTPUT_FORMATS.values()
    if not kind.folder
    for profile in kind.profiles
    for depth in profile.formats
]
# Mean error in codes of 8 bits that each codec is allowed here, at its best word (common practice, no source).
LOSSLESS, STUDIO, PLAYERS = 0.0, 0.6, 1.2
ERRORS = {"ffv1": LOSSLESS, "prores_ks": STUDIO, "dnxhd": 1.0}
SOUNDS = {
    "keep": "aac",
    "aac-192": "aac",
    "aac-256": "aac",
    "opus": "opus",
    "pcm-16": "pcm_s16le",
    "pcm-24": "pcm_s24le",
}


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    return write_clip(tmp_path_factory.mktemp("kinds") / "c.mp4", frames=12)


def ffprobe(path):
    command = ["ffprobe", "-v", "error", "-show_streams", "-show_format", "-count_packets", "-of", "json", str(path)]
    found = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)
    streams = found["streams"]
    return (
        next(stream for stream in streams if stream["codec_type"] == "video"),
        [stream for stream in streams if stream["codec_type"] == "audio"],
    )


@pytest.mark.parametrize(("kind", "profile", "depth"), a_part_of(CASES, 2))
def test_a_file_of_each_kind_is_what_was_ordered(clip, tmp_path, kind, profile, depth):
    settings = Settings(
        kind=kind.name, profile=profile.name, depth=depth, quality="nearly_lossless", sound=kind.sounds[0]
    )
    info, target, plan = probe(clip), tmp_path / f"out{kind.suffix}", SQUARE if kind.square else TAPE
    render(plan, clip, target, info, settings=settings)
    inspection = inspect_file(target, RenderRequest(plan, clip, info, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]

    picture, sounds = ffprobe(target)
    assert picture["codec_name"] == CODECS[kind.encoder]
    written = encoder_config(settings, plan.frame).format
    assert picture["pix_fmt"] in (written.name, written.resolve)
    assert (picture["width"], picture["height"]) == (256, 320)
    assert picture.get("sample_aspect_ratio", "1:1") in ("1:1" if kind.square else "12:11", "0:1")
    assert Fraction(picture["r_frame_rate"]) == 25
    assert int(picture["nb_read_packets"]) == 12
    if profile.name:
        assert profile.name.lower() in picture["profile"].lower()
    assert [sound["codec_name"] for sound in sounds] == [SOUNDS[settings.sound]]
    assert sounds[0]["sample_rate"] == "48000"
    assert worst(target, clip, plan, settings) <= ERRORS.get(kind.encoder, PLAYERS)


def worst(target, clip, plan, settings):
    """The largest mean error of any plane of any frame against the composed one, in codes of 8 bits."""
    info, found = probe(clip), probe(target)
    largest = 0.0
    with open_footage(clip, info) as source, open_footage(target, found) as written:
        compositor = None
        for own, theirs in zip(source.frames(), written.frames(), strict=True):
            if compositor is None:
                library = library_of_files(Material(clip, info))
                compositor = RenderRequest(plan, clip, info, library, settings).compositor(own.planes.layout)
            composed = compositor.compose(own.planes, time=own.time)
            for one, other in zip(composed.arrays, theirs.planes.arrays, strict=True):
                unit = 2.0 ** (composed.layout.depth - 8), 2.0 ** (theirs.planes.layout.depth - 8)
                largest = max(largest, float(np.abs(one / unit[0] - other / unit[1]).mean()))
    return largest


@pytest.mark.parametrize("settings", SHIPPED, ids=lambda one: one.name)
def test_settings_that_ship_write_files_that_are_right(clip, tmp_path, settings):
    info = probe(clip)
    plan = Plan(frame=Frame(width=320, height=240, active=Fraction(239, 100)))
    target = tmp_path / f"out{OUTPUT_FORMATS[settings.kind].suffix}"
    render(plan, clip, target, info, settings=settings)
    inspection = inspect_file(target, RenderRequest(plan, clip, info, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


@pytest.mark.parametrize(
    "placement", [Placement(), Placement(tightness=Fraction(1)), Placement(offset_x=Fraction(7), angle=Fraction(2))]
)
def test_without_bars_the_picture_is_where_it_was(clip, placement):
    """The active picture of the whole frame, cut out, is what the file without bars holds."""
    info = probe(clip)
    plan = Plan(frame=Frame(width=640, height=480, active=Fraction(239, 100)), placement=placement)
    bare = plan_written(plan, info, Settings(bars="active_picture_only"))
    assert (bare.frame.width, bare.frame.height, bare.frame.active) == (640, 268, None)
    with ClipReader(clip, info) as reader:
        stored = reader.frame_at(Fraction(0)).planes
    from cadrage.compose import Compositor

    whole, cut = (Compositor(one, stored.layout, info).compose(stored).arrays[0].astype(int) for one in (plan, bare))
    difference = np.abs(whole[106:374] - cut)
    assert difference[2:-2].mean() < 0.5


@pytest.fixture(scope="module")
def uneven(tmp_path_factory):
    """Three seconds of a wall that rushes by, then three of it going slowly and out of focus."""
    random = np.random.default_rng(1)
    wall = cv2.GaussianBlur(random.integers(0, 255, (90, 800, 3), np.uint8), (0, 0), 1.5)
    soft = cv2.GaussianBlur(wall, (0, 0), 4)

    def paint(number):
        shown, left = (wall, 8 * number) if number < 75 else (soft, 2 * number)
        return np.clip(shown[:, left : left + 160] + random.normal(0, 4, (90, 160, 3)), 0, 255).astype(np.uint8)

    path = tmp_path_factory.mktemp("uneven") / "n.mp4"
    return write_clip(path, size=(160, 90), frames=150, sound=None, paint=paint)


def seconds_of(path):
    """Kilobits of the picture in each whole second, by ffprobe's packets."""
    command = [
        "ffprobe",
        "-v",
        "error",
        "-select_streams",
        "v",
        "-show_entries",
        "packet=pts_time,size",
        "-of",
        "csv=p=0",
    ]
    told = subprocess.run([*command, str(path)], check=True, capture_output=True, text=True).stdout
    found = [0.0] * 6
    for time, size, *_ in (row.split(",") for row in told.split()):
        found[min(5, int(float(time)))] += 8 * int(size) / 1000
    return found


@pytest.mark.parametrize("kind", ["mp4-h264", "webm-vp9"])
def test_a_mean_rate_is_kept(uneven, tmp_path, kind):
    target = tmp_path / f"mean.{kind.split('-')[0]}"
    settings, plan = Settings(kind=kind, rate_control="rate", rate=300), Plan(frame=Frame(width=160, height=90))
    render(plan, uneven, target, probe(uneven), settings=settings)
    assert np.mean(seconds_of(target)) == pytest.approx(300, rel=0.08)


@pytest.mark.parametrize(("kind", "near"), [("mp4-h264", 0.3), ("mp4-h265", 0.4), ("webm-vp9", 0.4)])
def test_a_constant_rate_is_constant_second_by_second(uneven, tmp_path, kind, near):
    target = tmp_path / f"even.{kind.split('-')[0]}"
    settings, plan = (
        Settings(kind=kind, rate_control="constant_rate", rate=300),
        Plan(frame=Frame(width=160, height=90)),
    )
    info = probe(uneven)
    render(plan, uneven, target, info, settings=settings)
    found = seconds_of(target)
    assert found == [pytest.approx(300, rel=near)] * 6
    assert np.mean(found) == pytest.approx(300, rel=0.1)
    assert inspect_file(target, RenderRequest(plan, uneven, info, settings=settings)).right


def test_a_rate_that_is_not_constant_is_called_wrong(uneven, tmp_path):
    target, plan, info = tmp_path / "mean.mp4", Plan(frame=Frame(width=160, height=90)), probe(uneven)
    render(plan, uneven, target, info, settings=Settings(quality="good"))
    order = RenderRequest(plan, uneven, info, settings=Settings(rate_control="constant_rate", rate=300))
    found = next(one for one in inspect_file(target, order).lines if one.name == "Bit rate")
    assert found.verdict == "wrong"


def test_prores_says_its_colours_in_every_picture(clip, tmp_path):
    """SMPTE RDD 36, frame header: primaries, transfer and matrix at bytes 14 to 16 behind its size."""
    target = tmp_path / "p.mov"
    plan = Plan(frame=Frame(width=1280, height=720))
    render(plan, clip, target, probe(clip), settings=Settings(kind="mov-prores", sound="none"))
    copied = ["ffmpeg", "-v", "error", "-i", str(target), "-frames:v", "1", "-c", "copy", "-f", "rawvideo", "-"]
    data = subprocess.run(copied, check=True, capture_output=True).stdout
    header = data[data.index(b"icpf") + 4 :]
    assert tuple(header[14:17]) == (1, 1, 1)


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"kind": "webm-vp9", "sound": "pcm-16"}, "cannot hold sound as pcm-16"),
        ({"kind": "mov-prores", "rate_control": "rate", "sound": "none"}, "rate cannot be asked"),
        ({"kind": "mov-prores", "depth": 8, "sound": "none"}, "holds 10 bits, not 8"),
        ({"kind": "mov-dnxhr", "profile": "HQ", "depth": 10, "sound": "none"}, "holds 8 bits, not 10"),
        ({"kind": "mov-dnxhr", "profile": "XQ", "sound": "none"}, "no profile 'XQ'"),
        ({"profile": "HQ"}, "no profile 'HQ'"),
    ],
)
def test_what_a_kind_does_not_allow_is_refused(wrong, says):
    with pytest.raises(BadRequest, match=says):
        encoder_config(Settings(**wrong), SQUARE.frame)


def test_frames_that_a_kind_cannot_hold_are_refused():
    for settings, frame, says in (
        (Settings(), Frame(width=181, height=320), "4:2:0"),
        (Settings(kind="mov-prores", sound="none"), Frame(width=181, height=321), "4:2:2"),
        (Settings(kind="mov-dnxhr", sound="none"), Frame(width=160, height=90), "begins at 256×120"),
        (Settings(kind="mkv-ffv1", sound="none"), TAPE.frame, "not square"),
    ):
        with pytest.raises(BadRequest, match=says):
            encoder_config(settings, frame)
    assert encoder_config(Settings(kind="mov-prores-4444", sound="none"), Frame(width=181, height=321))


@pytest.mark.parametrize("sound", ["aac-256", "pcm-24", "none"])
def test_sound_is_encoded_or_left_out_as_asked(clip, tmp_path, sound):
    info, settings = probe(clip), Settings(kind="mov-h264", sound=sound, stereo=True)
    target = tmp_path / "out.mov"
    render(SQUARE, clip, target, info, settings=settings)
    _, sounds = ffprobe(target)
    assert [(one["codec_name"], one["channels"]) for one in sounds] == ([] if sound == "none" else [(SOUNDS[sound], 2)])
    assert inspect_file(target, RenderRequest(SQUARE, clip, info, settings=settings)).right
