"""Every kind of file: ffprobe agrees on what was ordered, and the pictures are the composed ones."""

import json
import subprocess
from fractions import Fraction

import numpy as np
import pytest

from cadrage.errors import BadRequest
from cadrage.footage import ClipReader, Material, library_of_files, open_footage, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.plan import Plan
from cadrage.render import KINDS, SHIPPED, Order, Settings, inspect_file, plan_written, render, writing_of
from cadrage.render.header import CODECS
from tests.clips import write_clip

SQUARE = Plan(frame=Frame(width=256, height=320))
TAPE = Plan(frame=Frame(width=256, height=320, pixel_aspect=Fraction(12, 11)))
CASES = [
    pytest.param(kind, profile, depth, id=f"{kind.name} {profile.name} {depth}")
    for kind in KINDS.values()
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


@pytest.mark.parametrize(("kind", "profile", "depth"), CASES)
def test_a_file_of_each_kind_is_what_was_ordered(clip, tmp_path, kind, profile, depth):
    settings = Settings(
        kind=kind.name, profile=profile.name, depth=depth, quality="nearly lossless", sound=kind.sounds[0]
    )
    facts, target, plan = probe(clip), tmp_path / f"out{kind.suffix}", SQUARE if kind.square else TAPE
    render(plan, clip, target, facts, settings=settings)
    inspection = inspect_file(target, Order(plan, clip, facts, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]

    picture, sounds = ffprobe(target)
    assert picture["codec_name"] == CODECS[kind.encoder]
    written = writing_of(settings, plan.frame).format
    assert picture["pix_fmt"] in (written.name, written.read_as)
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
    facts, found = probe(clip), probe(target)
    largest = 0.0
    with open_footage(clip, facts) as source, open_footage(target, found) as written:
        compositor = None
        for own, theirs in zip(source.frames(), written.frames(), strict=True):
            if compositor is None:
                library = library_of_files(Material(clip, facts))
                compositor = Order(plan, clip, facts, library, settings).compositor(own.planes.layout)
            composed = compositor.compose(own.planes, time=own.time)
            for one, other in zip(composed.arrays, theirs.planes.arrays, strict=True):
                unit = 2.0 ** (composed.layout.depth - 8), 2.0 ** (theirs.planes.layout.depth - 8)
                largest = max(largest, float(np.abs(one / unit[0] - other / unit[1]).mean()))
    return largest


@pytest.mark.parametrize("settings", SHIPPED, ids=lambda one: one.name)
def test_settings_that_ship_write_files_that_are_right(clip, tmp_path, settings):
    facts = probe(clip)
    plan = Plan(frame=Frame(width=320, height=240, active=Fraction(239, 100)))
    target = tmp_path / f"out{KINDS[settings.kind].suffix}"
    render(plan, clip, target, facts, settings=settings)
    inspection = inspect_file(target, Order(plan, clip, facts, settings=settings))
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


@pytest.mark.parametrize(
    "placement", [Placement(), Placement(tightness=Fraction(1)), Placement(offset_x=Fraction(7), angle=Fraction(2))]
)
def test_without_bars_the_picture_is_where_it_was(clip, placement):
    """The active picture of the whole frame, cut out, is what the file without bars holds."""
    facts = probe(clip)
    plan = Plan(frame=Frame(width=640, height=480, active=Fraction(239, 100)), placement=placement)
    bare = plan_written(plan, facts, Settings(bars="active picture only"))
    assert (bare.frame.width, bare.frame.height, bare.frame.active) == (640, 268, None)
    with ClipReader(clip, facts) as reader:
        stored = reader.frame_at(Fraction(0)).planes
    from cadrage.compose import Compositor

    whole, cut = (Compositor(one, stored.layout, facts).compose(stored).arrays[0].astype(int) for one in (plan, bare))
    difference = np.abs(whole[106:374] - cut)
    assert difference[2:-2].mean() < 0.5


def test_a_rate_is_kept(tmp_path):
    """Two megabits a second of noise: within a fifth in four seconds."""
    random = np.random.default_rng(1)
    noise = write_clip(
        tmp_path / "n.mp4", frames=100, sound=None, paint=lambda _: random.integers(0, 255, (180, 320, 3), np.uint8)
    )
    facts = probe(noise)
    for by in ("rate", "constant rate"):
        target = tmp_path / f"{by}.mp4"
        plan = Plan(frame=Frame(width=320, height=180))
        render(plan, noise, target, facts, settings=Settings(by=by, rate=2000, ceiling=2500))
        picture, _ = ffprobe(target)
        assert int(picture["bit_rate"]) == pytest.approx(2_000_000, rel=0.2)


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"kind": "webm-vp9", "sound": "pcm-16"}, "cannot hold sound as pcm-16"),
        ({"kind": "mov-prores", "by": "rate", "sound": "none"}, "rate cannot be asked"),
        ({"kind": "mov-prores", "depth": 8, "sound": "none"}, "holds 10 bits, not 8"),
        ({"kind": "mov-dnxhr", "profile": "HQ", "depth": 10, "sound": "none"}, "holds 8 bits, not 10"),
        ({"kind": "mov-dnxhr", "profile": "XQ", "sound": "none"}, "no profile 'XQ'"),
        ({"profile": "HQ"}, "no profile 'HQ'"),
    ],
)
def test_what_a_kind_does_not_allow_is_refused(wrong, says):
    with pytest.raises(BadRequest, match=says):
        writing_of(Settings(**wrong), SQUARE.frame)


def test_frames_that_a_kind_cannot_hold_are_refused():
    for settings, frame, says in (
        (Settings(), Frame(width=181, height=320), "4:2:0"),
        (Settings(kind="mov-prores", sound="none"), Frame(width=181, height=321), "4:2:2"),
        (Settings(kind="mov-dnxhr", sound="none"), Frame(width=160, height=90), "begins at 256×120"),
        (Settings(kind="mkv-ffv1", sound="none"), TAPE.frame, "not square"),
    ):
        with pytest.raises(BadRequest, match=says):
            writing_of(settings, frame)
    assert writing_of(Settings(kind="mov-prores-4444", sound="none"), Frame(width=181, height=321))


@pytest.mark.parametrize("sound", ["aac-256", "pcm-24", "none"])
def test_sound_is_encoded_or_left_out_as_asked(clip, tmp_path, sound):
    facts, settings = probe(clip), Settings(kind="mov-h264", sound=sound, stereo=True)
    target = tmp_path / "out.mov"
    render(SQUARE, clip, target, facts, settings=settings)
    _, sounds = ffprobe(target)
    assert [(one["codec_name"], one["channels"]) for one in sounds] == ([] if sound == "none" else [(SOUNDS[sound], 2)])
    assert inspect_file(target, Order(SQUARE, clip, facts, settings=settings)).right
