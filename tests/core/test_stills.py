"""Stills and sequences of them."""

from fractions import Fraction as F

import numpy as np
import pytest
from PIL import Image

from cadrage.compose import compose
from cadrage.errors import RasterOutOfRange, UnreadableFile
from cadrage.footage import Interpretation, effective_timing, open_footage, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.render import RenderRequest, delivered, render

QUARTERS = np.zeros((60, 80, 3), np.uint8)
QUARTERS[:30, :40], QUARTERS[:30, 40:], QUARTERS[30:, :40] = (220, 40, 40), (40, 200, 60), (50, 60, 210)


def saved(path, image=QUARTERS, **options):
    Image.fromarray(image).save(path, **options)
    return path


def seen(path, **interpretation):
    info, reading = probe(path), Interpretation(**interpretation)
    turned = info.rotation % 180 == 90
    frame = Frame(width=60, height=80) if turned else Frame(width=80, height=60)
    return to_rgb(compose(Plan(frame=frame, interpretation=reading), info, path, F(0))).astype(int)


@pytest.mark.parametrize(("suffix", "kind"), [("png", "png"), ("jpg", "jpeg"), ("tif", "tiff")])
def test_every_kind_of_still(tmp_path, suffix, kind):
    path = saved(tmp_path / f"still.{suffix}", **({"quality": 98} if suffix == "jpg" else {}))
    info = probe(path)
    assert (info.kind, info.codec, info.width, info.height) == ("still", kind, 80, 60)
    assert np.abs(seen(path)[10, 10] - (220, 40, 40)).max() < 6
    assert np.abs(seen(path)[50, 10] - (50, 60, 210)).max() < 6


@pytest.mark.parametrize("orientation", range(1, 9))
def test_the_orientation_tag_is_obeyed(tmp_path, orientation):
    """Beside Pillow's own `exif_transpose`, which follows CIPA DC-008."""
    from PIL import ImageOps

    exif = Image.Exif()
    exif[0x0112] = orientation
    path = saved(tmp_path / "turned.png", exif=exif)
    with Image.open(path) as image:
        upright = np.asarray(ImageOps.exif_transpose(image)).astype(int)
    ours = seen(path)
    assert ours.shape == upright.shape
    for row, column in ((12, 12), (-12, 12), (12, -12), (-12, -12)):
        assert np.abs(ours[row, column] - upright[row, column]).max() < 6


def test_what_is_transparent_shows_the_matte(tmp_path):
    image = np.dstack([QUARTERS, np.full((60, 80), 0, np.uint8)])
    path = saved(tmp_path / "clear.png", image)
    assert np.abs(seen(path, matte="#3070b0")[30, 40] - (0x30, 0x70, 0xB0)).max() < 4


def test_a_still_lasts_as_long_as_is_chosen(tmp_path):
    path, target = saved(tmp_path / "still.png"), tmp_path / "out.mp4"
    info = probe(path)
    plan = Plan(frame=Frame(width=96, height=96), interpretation=Interpretation(duration=F("2.5"), rate=F(30)))
    render(plan, path, target, info)
    found = probe(target)
    assert (found.frames, found.rate, found.duration) == (75, 30, F("2.5"))
    assert inspect_file(target, RenderRequest(plan, path, info)).right


def numbered(folder, count, skip=()):
    for number in range(1, count + 1):
        if number not in skip:
            saved(folder / f"tram.{number:04d}.png", np.full((60, 80, 3), 20 * number, np.uint8))
    return folder


def test_a_folder_of_numbered_stills_is_a_sequence(tmp_path):
    info = probe(numbered(tmp_path, 10))
    assert (info.kind, info.frames) == ("sequence", 10)
    reading = Interpretation(rate=F(12))
    assert effective_timing(info, reading).duration == F(10, 12)
    with open_footage(tmp_path, info, reading) as reader:
        lumas = [frame.planes.arrays[0].mean() for frame in reader.frames()]
        assert reader.frame_at(F(5, 12)).planes.arrays[0].mean() == lumas[5]
    assert lumas == sorted(lumas)
    assert lumas[5] == pytest.approx(16 + 120 / 255 * 219, abs=1)


def test_a_sequence_with_a_gap_is_refused_with_the_number(tmp_path):
    with pytest.raises(UnreadableFile, match="number 4 of 1 to 6 is missing"):
        probe(numbered(tmp_path, 6, skip=(4,)))


def test_a_sequence_of_several_sizes_is_refused(tmp_path):
    saved(numbered(tmp_path, 3) / "tram.0004.png", np.zeros((60, 90, 3), np.uint8))
    with pytest.raises(UnreadableFile, match=r"tram\.0004\.png is 90×60"):
        probe(tmp_path)


def test_a_still_cut_short_is_refused(tmp_path):
    path = saved(tmp_path / "short.png", np.random.default_rng(0).integers(0, 255, (200, 200, 3), np.uint8))
    path.write_bytes(path.read_bytes()[:2000])
    with pytest.raises(UnreadableFile, match="damaged"):
        probe(path)


@pytest.mark.parametrize("size", [(4, 4), (17000, 20), (12000, 12000)])
def test_stills_that_are_too_small_or_enormous_are_refused_before_decoding(tmp_path, size):
    path = tmp_path / "odd.png"
    Image.new("1", size).save(path)
    with pytest.raises(RasterOutOfRange):
        probe(path)


def test_a_still_of_no_size_is_refused(tmp_path):
    path = saved(tmp_path / "none.png")
    data = bytearray(path.read_bytes())
    data[16:24] = bytes(8)
    path.write_bytes(data)
    with pytest.raises((UnreadableFile, RasterOutOfRange)):
        probe(path)


def test_a_still_at_the_rate_of_its_frame(tmp_path):
    info = probe(saved(tmp_path / "still.png"))
    plan = Plan(frame=Frame(width=96, height=96, rate=F(24000, 1001)))
    assert (delivered(plan, info).rate, delivered(plan, info).frames) == (F(24000, 1001), 120)
