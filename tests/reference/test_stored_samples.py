"""What stored samples mean: every matrix and range, grey and R'G'B', palettes, coverage, and stills of 16 bits.

Clips are made of raw codes by ffmpeg, lossless. The codes follow from the published equations, not from our own tables.
"""

import subprocess
from fractions import Fraction

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms

from cadrage.errors import UnreadableFile
from cadrage.footage import Interpretation, open_footage, probe, resolve
from cadrage.footage.orient import Orient
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.pixels.colour import Colour
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render

LEVELS = (0.0, 0.25, 0.6, 1.0)
COLOURS = np.array([(r, g, b) for r in LEVELS for g in LEVELS for b in LEVELS]).reshape(8, 8, 3)
GREYS = np.linspace(0, 1, 64).reshape(8, 8)
BT709 = Colour("bt709", matrix_code=1, primaries=1, transfer=1)
PATCH = 4
NEAR = 0.6  # of a code of 8 bits: both roundings of 8-bit samples
NEAR_DEEP = (
    0.35  # of the same: roundings of three 10-bit samples, and pure colour differences of full range that do not fit
)

WEIGHTS = {  # of red and blue: ITU-T H.273, table 4; from memory
    "bt709": (0.2126, 0.0722),
    "smpte170m": (0.299, 0.114),
    "bt470bg": (0.299, 0.114),
    "smpte240m": (0.212, 0.087),
    "bt2020nc": (0.2627, 0.0593),
}


def differences(name, rgb):
    """Y' (0 to 1) and both colour differences (-½ to ½) of R'G'B'."""
    red, green, blue = np.moveaxis(rgb, -1, 0)
    if name == "ycgco":  # ITU-T H.273, 8.3, MatrixCoefficients 8; from memory
        return red / 4 + green / 2 + blue / 4, -red / 4 + green / 2 - blue / 4, red / 2 - blue / 2
    if name == "bt2020c":
        return constant_luminance(rgb)
    of_red, of_blue = WEIGHTS[name]
    luma = of_red * red + (1 - of_red - of_blue) * green + of_blue * blue
    return luma, (blue - luma) / (2 * (1 - of_blue)), (red - luma) / (2 * (1 - of_red))


def constant_luminance(rgb):
    """ITU-R BT.2020-2, table 4, constant luminance; from memory."""
    light = np.where(rgb < 4.5 * 0.0181, rgb / 4.5, ((rgb + 0.0993) / 1.0993) ** (1 / 0.45))
    whole = light @ [0.2627, 0.6780, 0.0593]
    luma = np.where(whole < 0.0181, 4.5 * whole, 1.0993 * whole**0.45 - 0.0993)
    blue, red = rgb[..., 2] - luma, rgb[..., 0] - luma
    return luma, blue / np.where(blue <= 0, 1.9404, 1.5816), red / np.where(red <= 0, 1.7184, 0.9936)


def codes(values, depth, *, full, chroma=False):
    """ITU-T H.273, equations 20 to 25, not rounded; from memory."""
    unit = 2 ** (depth - 8)
    span = 2**depth - 1 if full else (224 if chroma else 219) * unit
    return (2 ** (depth - 1) if chroma else 0 if full else 16 * unit) + span * values


def write_raw(path, planes, layout, *options, codec="ffv1"):
    """Patches of codes as a lossless clip of two pictures: planes, or one array of interleaved samples."""
    raw = b"".join(np.repeat(np.repeat(plane, PATCH, 0), PATCH, 1).tobytes() for plane in planes) * 2
    size = f"{8 * PATCH}x{8 * PATCH}"
    given = ["-f", "rawvideo", "-pix_fmt", layout, "-s", size, "-r", "25", "-i", "-"]
    command = ["ffmpeg", "-v", "error", "-y", *given, "-c:v", codec, *options, path]
    subprocess.run(command, input=raw, check=True, timeout=60)
    return path


def stored(values, depth):
    top = 2**depth - 1
    return np.clip(np.rint(values), 0, top).astype(np.uint8 if depth == 8 else np.uint16)


def seen(path, interpretation=None):
    """Codes of 8 bits, not rounded, in the middle of every patch, as BT.709 of limited range."""
    info, stated = probe(path), interpretation or Interpretation()
    with open_footage(path, info, stated) as reader:
        planes = reader.frame_at(Fraction(0)).planes
    orient = Orient(planes.layout, resolve(info, stated), BT709, mirror=False)
    drawn = orient.apply(planes)
    unit, made = 2.0 ** (drawn.layout.depth - 8), []
    for number, plane in enumerate(drawn.arrays):
        by = drawn.layout.subsampling(number)
        step = (PATCH // by.down, PATCH // by.across)
        made.append(plane[step[0] // 2 :: step[0], step[1] // 2 :: step[1]].astype(np.float64) / unit)
    return made


def wanted(rgb):
    luma, cb, cr = differences("bt709", rgb)
    return codes(luma, 8, full=False), codes(cb, 8, full=False, chroma=True), codes(cr, 8, full=False, chroma=True)


def compare(found, expected, near):
    for plane, want in zip(found, expected, strict=True):
        assert np.abs(plane - np.clip(want, 0, 255)).max() <= near


@pytest.mark.parametrize("full", [False, True])
@pytest.mark.parametrize("name", ["bt709", "smpte170m", "bt470bg", "smpte240m", "bt2020nc", "ycgco", "bt2020c"])
def test_every_matrix_and_range(tmp_path, name, full):
    luma, cb, cr = differences(name, COLOURS)
    planes = [codes(luma, 10, full=full), *(codes(one, 10, full=full, chroma=True) for one in (cb, cr))]
    tags = ["-colorspace", name, "-color_primaries", "bt709", "-color_range", "pc" if full else "tv"]
    path = write_raw(tmp_path / "clip.mkv", [stored(plane, 10) for plane in planes], "yuv444p10le", *tags)
    compare(seen(path), wanted(COLOURS), 0.5 if name == "bt2020c" else NEAR_DEEP)


@pytest.mark.parametrize("code", [11, 12, 13, 14])
def test_a_matrix_that_is_not_converted_is_refused_by_name(tmp_path, code):
    flat = [np.full((8, 8), 128, np.uint8)] * 3
    path = write_raw(tmp_path / "clip.mkv", flat, "yuv444p", "-colorspace", str(code))
    with pytest.raises(UnreadableFile):
        probe(path)


@pytest.mark.parametrize("depth", [8, 10, 16])
@pytest.mark.parametrize("full", [False, True])
@pytest.mark.parametrize("told", [False, True])
def test_grey_of_either_range(tmp_path, depth, full, told):
    layout = "gray" if depth == 8 else f"gray{depth}le"
    flag = "pc" if full != told else "tv"  # where it is told, the file says the other
    grey = stored(codes(GREYS, depth, full=full), depth)
    path = write_raw(tmp_path / "clip.mkv", [grey], layout, "-color_range", flag)
    stated = Interpretation(range="full" if full else "limited") if told else None
    rgb = np.repeat(GREYS[..., None], 3, axis=2)
    compare(seen(path, stated), wanted(rgb), NEAR if depth == 8 else NEAR_DEEP)


def test_grey_without_a_flag_is_of_its_codecs_usual_range(tmp_path):
    grey = [np.full((8, 8), 126, np.uint8)]
    assert probe(write_raw(tmp_path / "raw.mkv", grey, "gray")).full_range
    lossless = ("-qp", "0", "-bsf:v", "h264_metadata=video_full_range_flag=0")
    assert not probe(write_raw(tmp_path / "coded.mp4", grey, "gray", *lossless, codec="libx264")).full_range


@pytest.mark.parametrize("layout", ["gbrp", "gbrp10le", "gbrp16le"])
@pytest.mark.parametrize("full", [False, True])
@pytest.mark.parametrize("told", [False, True])
def test_rgb_of_either_range(tmp_path, layout, full, told):
    depth = {"gbrp": 8, "gbrp10le": 10, "gbrp16le": 16}[layout]
    flag = "pc" if full != told else "tv"
    coded = stored(codes(COLOURS, depth, full=full), depth)
    planes = [np.ascontiguousarray(coded[..., plane]) for plane in (1, 2, 0)]
    path = write_raw(tmp_path / "clip.mkv", planes, layout, "-color_range", flag)
    stated = Interpretation(range="full" if full else "limited") if told else None
    compare(seen(path, stated), wanted(COLOURS), 1.1 if depth == 8 else NEAR_DEEP)


@pytest.mark.parametrize(("suffix", "codec"), [("mov", "png"), ("avi", "rawvideo"), ("nut", "rawvideo")])
def test_a_palette_is_read_as_its_colours(tmp_path, suffix, codec):
    numbers = np.arange(64, dtype=np.uint8).reshape(8, 8)
    palette = np.zeros((256, 4), np.uint8)
    palette[:64, :3] = np.rint(COLOURS.reshape(-1, 3)[:, ::-1] * 255)  # AV_PIX_FMT_PAL8 has 32-bit numbers of ARGB
    palette[:, 3] = 255
    raw = np.repeat(np.repeat(numbers, PATCH, 0), PATCH, 1).tobytes() + palette.tobytes()
    size = f"{8 * PATCH}x{8 * PATCH}"
    given = ["-f", "rawvideo", "-pix_fmt", "pal8", "-s", size, "-r", "25", "-i", "-"]
    path = tmp_path / f"clip.{suffix}"
    command = ["ffmpeg", "-v", "error", "-y", *given, "-c:v", codec, "-pix_fmt", "pal8", path]
    subprocess.run(command, input=raw * 2, check=True, timeout=60)
    assert probe(path).pixel_format == "pal8"
    compare(seen(path), wanted(np.rint(COLOURS * 255) / 255), 1.1)


def test_one_bit_pictures_are_black_and_white(tmp_path):
    bits = (np.arange(64).reshape(8, 8) % 3 == 0).astype(np.uint8)
    grey = write_raw(tmp_path / "grey.mkv", [bits * 255], "gray")
    path = tmp_path / "clip.mov"
    command = [
        "ffmpeg",
        "-v",
        "error",
        "-y",
        "-i",
        grey,
        "-sws_dither",
        "none",
        "-c:v",
        "png",
        "-pix_fmt",
        "monob",
        path,
    ]
    subprocess.run(command, check=True, timeout=60)
    assert probe(path).pixel_format == "monob"
    compare(seen(path), wanted(np.repeat(bits[..., None], 3, axis=2).astype(np.float64)), NEAR)


@pytest.mark.parametrize("codec", ["libvpx", "libvpx-vp9"])
@pytest.mark.parametrize("suffix", ["webm", "mkv"])
def test_coverage_of_vp8_and_vp9_is_read(tmp_path, codec, suffix):
    shape = (8 * PATCH, 8 * PATCH)
    share = np.zeros((8, 8), np.uint8)
    share[:, :4] = 255
    grey, half = np.full(shape, 100, np.uint8), np.full((shape[0] // 2, shape[1] // 2), 128, np.uint8)
    cover = np.repeat(np.repeat(share, PATCH, 0), PATCH, 1)
    raw = b"".join(plane.tobytes() for plane in (grey, half, half, cover)) * 3
    given = ["-f", "rawvideo", "-pix_fmt", "yuva420p", "-s", f"{shape[1]}x{shape[0]}", "-r", "25", "-i", "-"]
    path = tmp_path / f"clip.{suffix}"
    more = ["-auto-alt-ref", "0", "-crf", "4", "-b:v", "2M"]
    command = ["ffmpeg", "-v", "error", "-y", *given, "-c:v", codec, *more, path]
    subprocess.run(command, input=raw, check=True, timeout=60)
    info = probe(path)
    assert info.alpha
    with open_footage(path, info, Interpretation(matte="#ffffff")) as reader:
        for frame in (reader.frame_at(Fraction(2, 25)), reader.frame_at(Fraction(0)), *reader.frames()):
            luma = frame.planes.luma8.astype(int)
            assert np.abs(luma[4:-4, 2:12] - 100).max() <= 4
            assert np.abs(luma[4:-4, -12:-2] - 235).max() <= 4


def test_coverage_of_our_own_webm_is_read(tmp_path, small_clip):
    """Whose mark of coverage is a tag in capitals beside the element of the header."""
    plan, info, made = Plan(frame=Frame(width=128, height=128)), probe(small_clip), tmp_path / "alone.webm"
    settings = Settings(kind="webm-vp9", layer="picture_alone", quality="draft")
    render(plan, small_clip, made, info, settings=settings)
    assert probe(made).alpha
    assert inspect_file(made, RenderRequest(plan, small_clip, info, settings=settings)).right


RAMP = np.tile(np.linspace(20_000, 22_000, 64).astype(np.uint16), (32, 1))  # 0.03 of the range: about 8 codes of 8 bits


def write_still(path, layout="rgb"):
    deep = {"grey": RAMP, "rgb": np.dstack([RAMP, RAMP, RAMP]), "rgba": np.dstack([RAMP, RAMP, RAMP, RAMP * 0 + 65535])}
    assert cv2.imwrite(str(path), deep[layout])
    return path


@pytest.mark.parametrize("layout", ["grey", "rgb", "rgba"])
@pytest.mark.parametrize("suffix", [".png", ".tif", ".jp2"])
def test_sixteen_bits_of_a_still_reach_the_compositor(tmp_path, suffix, layout):
    path = write_still(tmp_path / f"still{suffix}", layout)
    info = probe(path)
    assert info.depth == 16
    with open_footage(path, info) as reader:
        planes = reader.frame_at(Fraction(0)).planes
    unit = 2.0 ** (planes.layout.depth - 8)
    assert np.abs(planes.arrays[0] / unit - (16 + 219 * RAMP.astype(np.float64) / 65535)).max() <= 0.01


def test_a_profile_of_a_deep_still_is_applied_with_all_bits(tmp_path):
    same = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    path = write_still(tmp_path / "plain.tif")
    with Image.open(path) as image:
        tags = image.tag_v2
        tags[34675] = same  # TIFF tag of an ICC profile: ICC.1:2022, annex B.4
    deep = cv2.imread(str(path), cv2.IMREAD_UNCHANGED)
    made = tmp_path / "tagged.png"
    cv2.imwrite(str(made), deep)
    made.write_bytes(_with_profile(made.read_bytes(), same))
    with open_footage(made, probe(made)) as reader:
        planes = reader.frame_at(Fraction(0)).planes
    luma = planes.arrays[0] / 2.0 ** (planes.layout.depth - 8)
    assert (
        np.abs(luma - (16 + 219 * RAMP.astype(np.float64) / 65535)).max() <= 0.6
    )  # half a code of the 8-bit colour engine
    assert len(np.unique(planes.arrays[0])) > 40


def _with_profile(png, profile):
    """A PNG with an iCCP chunk after its header: W3C PNG, 11.3.3.3."""
    import struct
    import zlib

    body = b"iCCP" + b"sRGB\0\0" + zlib.compress(profile)
    chunk = struct.pack(">I", len(body) - 4) + body + struct.pack(">I", zlib.crc32(body))
    return png[:33] + chunk + png[33:]


@pytest.mark.parametrize("suffix", [".webp", ".bmp", ".jp2", ".avif"])
def test_other_formats_of_stills_are_read(tmp_path, suffix):
    path = tmp_path / f"still{suffix}"
    values = np.rint(np.repeat(np.repeat(COLOURS, 16, 0), 16, 1) * 255).astype(np.uint8)
    more = {".webp": {"lossless": True}, ".avif": {"quality": 100, "subsampling": "4:4:4"}}.get(suffix, {})
    Image.fromarray(values).save(path, **more)
    info = probe(path)
    assert (info.kind, info.width, info.height) == ("still", 128, 128)
    with open_footage(path, info) as reader:
        planes = reader.frame_at(Fraction(0)).planes
    found = [plane[8::16, 8::16].astype(np.float64) for plane in planes.arrays]
    compare(found, wanted(np.rint(COLOURS * 255) / 255), 3.1 if suffix == ".avif" else 1.1)


def test_ten_bits_of_an_avif_are_kept(tmp_path):
    path = tmp_path / "still.avif"
    coded = np.dstack([RAMP >> 6] * 3)
    assert cv2.imwrite(str(path), coded, [cv2.IMWRITE_AVIF_DEPTH, 10, cv2.IMWRITE_AVIF_QUALITY, 100])
    info = probe(path)
    assert info.depth == 16
    with open_footage(path, info) as reader:
        planes = reader.frame_at(Fraction(0)).planes
    luma = planes.arrays[0] / 2.0 ** (planes.layout.depth - 8)
    assert np.abs(luma - (16 + 219 * (RAMP >> 6).astype(np.float64) / 1023)).max() <= 0.5
    assert len(np.unique(planes.arrays[0])) > 16


HEADS = {
    "still.heic": b"\0\0\0\x18ftypheic\0\0\0\0mif1heic",
    "still.jxl": b"\xff\x0a" + bytes(40),
    "boxed.jxl": b"\0\0\0\x0cJXL \r\n\x87\n" + bytes(40),
    "moving.webp": b"RIFF\x40\0\0\0WEBPVP8X\x0a\0\0\0\x02" + bytes(40),
}


@pytest.mark.parametrize(("name", "named"), list(zip(HEADS, ["HEIC", "JPEG XL", "JPEG XL", "WebP"], strict=True)))
def test_formats_that_are_not_read_are_refused_by_name(tmp_path, name, named):
    path = tmp_path / name
    path.write_bytes(HEADS[name])
    with pytest.raises(UnreadableFile, match=named):
        probe(path)


def test_a_jpeg_of_very_many_scans_is_refused(tmp_path):
    path = tmp_path / "still.jpg"
    Image.fromarray(np.zeros((64, 64, 3), np.uint8)).save(path, progressive=True)
    data = path.read_bytes()
    start = data.rindex(b"\xff\xda")
    path.write_bytes(data[:start] + data[start:-2] * 600 + data[-2:])
    with pytest.raises(UnreadableFile, match="scans"):
        probe(path)


def test_hidden_files_beside_numbered_stills_are_left_alone(tmp_path):
    for number in range(4):
        Image.fromarray(np.full((32, 32), 40 * number, np.uint8)).save(tmp_path / f"tram.{number:04}.png")
        (tmp_path / f"._tram.{number:04}.png").write_bytes(b"\0\x05\x16\x07")
    assert probe(tmp_path).frames == 4
