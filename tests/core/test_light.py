"""HDR and SDR, wide and narrow colour, through whole files; and what is transparent, or described by a profile."""

import subprocess
from fractions import Fraction as F
from io import BytesIO
from itertools import groupby

import numpy as np
import pytest
from PIL import Image, ImageCms

from cadrage.compose import compose
from cadrage.errors import BadRequest
from cadrage.footage import Interpretation, describe, probe
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.output import Settings
from cadrage.pixels.colour import Colour
from cadrage.pixels.light import relit
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.surrounds import Blurred, Plain
from tests.clips import write_clip

DISPLAY = "G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,50)"
GREYS = (0.1, 0.3, 0.5, 0.58, 0.7)


def write_hdr(path, transfer):
    """Grey steps of the curve's own codes, with a display and the most light said beside them."""
    luma = np.zeros((96, 160), np.uint16)
    for number, grey in enumerate(GREYS):
        luma[:, number * 32 : number * 32 + 32] = round(64 + 876 * grey)
    chroma = np.full((48, 80), 512, np.uint16)
    data = b"".join(plane.tobytes() for plane in (luma, chroma, chroma)) * 3
    x265 = f"log-level=error:lossless=1:hdr10=1:repeat-headers=1:master-display={DISPLAY}:max-cll=1000,400"
    tags = ("-color_primaries", "bt2020", "-color_trc", transfer, "-colorspace", "bt2020nc")
    form = ("-f", "rawvideo", "-pix_fmt", "yuv420p10le", "-s", "160x96", "-r", "25", "-i", "-")
    command = ["ffmpeg", "-v", "error", "-y", *form, "-c:v", "libx265", "-x265-params", x265, *tags, str(path)]
    subprocess.run(command, input=data, check=True)
    return path


@pytest.fixture(scope="module")
def hdr(tmp_path_factory):
    folder = tmp_path_factory.mktemp("hdr")
    return {
        name: write_hdr(folder / f"{name}.mp4", tag) for name, tag in (("pq", "smpte2084"), ("hlg", "arib-std-b67"))
    }


def luma_of(path, depth):
    """Luma of the first picture as ffmpeg decodes it, as shares of white."""
    form = "gray" if depth == 8 else "gray10le"
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-frames:v", "1", "-vf", "extractplanes=y", "-f", "rawvideo"]
    data = subprocess.run([*command, "-pix_fmt", form, "-"], check=True, capture_output=True).stdout
    luma = np.frombuffer(data, np.uint8 if depth == 8 else np.uint16).reshape(-1, 640).astype(float)
    unit = 2.0 ** (depth - 8)
    return (luma - 16 * unit) / (219 * unit)


def greys_of(path, depth):
    """The same in the middle of every step."""
    luma = luma_of(path, depth)
    middle = luma[len(luma) // 2]
    return [middle[64 + 128 * step] for step in range(len(GREYS))]


def rendered(path, tmp_path, colour, kind, **more):
    target = tmp_path / f"{colour}.{kind.split('-')[0]}"
    plan = Plan(frame=Frame(width=640, height=640 if colour == "sdr" else 384, colour=colour), **more)
    settings = Settings(kind=kind, quality="nearly_lossless")
    info = probe(path)
    render(plan, path, target, info, settings=settings)
    return target, inspect_file(target, RenderRequest(plan, path, info, settings=settings))


BOTH_WAYS = [("pq", "pq"), ("hlg", "hlg"), ("pq", "hlg"), ("hlg", "pq"), ("pq", "sdr"), ("hlg", "sdr")]


@pytest.mark.parametrize(("name", "colour"), BOTH_WAYS)
def test_light_is_what_was_meant(hdr, tmp_path, name, colour):
    kind, depth = ("mp4-h264", 8) if colour == "sdr" else ("mov-prores", 10)
    target, inspection = rendered(hdr[name], tmp_path, colour, kind)
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]
    source = Colour("bt2020", primaries=9, transfer={"pq": 16, "hlg": 18}[name], peak=1000)
    wanted = {"pq": (9, 9, 16), "hlg": (9, 9, 18), "sdr": (1, 1, 1)}[colour]
    meant = Colour("bt2020" if colour != "sdr" else "bt709", primaries=wanted[1], transfer=wanted[2])
    for grey, found in zip(GREYS, greys_of(target, depth), strict=True):
        asked = relit(np.array([grey] * 3), source, meant)[0]
        assert found == pytest.approx(asked, abs=1.2 / 219 if depth == 8 else 2 / 876)
    made = probe(target)
    assert (made.matrix, made.primaries, made.transfer) == wanted


def test_what_hdr_says_of_its_light_is_carried(hdr, tmp_path):
    before = probe(hdr["pq"])
    for kind in ("mp4-h265", "webm-av1"):
        target, _ = rendered(hdr["pq"], tmp_path, "pq", kind)
        command = ["ffprobe", "-v", "error", "-show_frames", "-read_intervals", "%+#1", str(target)]
        told = subprocess.run(command, check=True, capture_output=True, text=True).stdout
        assert "max_content=1000" in told
        assert "max_average=400" in told
        after = probe(target)
        assert after.content_light == before.content_light
        assert float(after.mastering.highest) == pytest.approx(1000, rel=0.001)
        assert (float(after.mastering.green.x), float(after.mastering.green.y)) == pytest.approx(
            (0.265, 0.69), abs=0.001
        )


def test_hdr_is_not_written_where_it_would_be_lost(hdr, tmp_path):
    for kind, problem in (("mp4-h264", "8 bits"), ("avi-mjpeg", "PQ"), ("png-stills", "PQ")):
        with pytest.raises(BadRequest, match=problem):
            rendered(hdr["pq"], tmp_path, "pq", kind)


def test_words_and_surrounds_stand_at_graphics_white(hdr, tmp_path):
    """ITU-R BT.2408-7, table 1: 203 cd/m², 58% of PQ and 75% of HLG."""
    for colour, white in (("pq", 0.5807), ("hlg", 0.7499)):
        more = {"surround": Plain(colour="#ffffff"), "placement": {"sizing": "scale", "scale": F(1, 2)}}
        target, _ = rendered(hdr["pq"], tmp_path, colour, "mov-prores", **more)
        assert luma_of(target, 10)[20, 20] == pytest.approx(white, abs=0.002)


def test_sdr_and_hdr_look_alike_on_a_screen(hdr, tmp_path):
    """White of SDR in an HDR frame is looked at as white."""
    still = tmp_path / "white.png"
    Image.new("RGB", (160, 96), (255, 255, 255)).save(still)
    shown = to_rgb(compose(Plan(frame=Frame(width=320, height=192, colour="pq")), probe(still), still, F(0)))
    assert shown.min() >= 254
    assert "PQ" in next(fact.value for fact in describe(probe(hdr["pq"])) if fact.name == "Colour")


def test_an_untagged_clip_is_taken_as_what_is_said_of_it(tmp_path):
    path = write_clip(tmp_path / "plain.mp4", size=(160, 96), frames=2)
    frame = Frame(width=320, height=192)
    as_sdr = compose(Plan(frame=frame), probe(path), path, F(0))
    as_hlg = compose(Plan(frame=frame, interpretation=Interpretation(transfer="hlg")), probe(path), path, F(0))
    assert np.abs(as_sdr.arrays[0].astype(int) - as_hlg.arrays[0]).mean() > 5


def test_what_is_transparent_in_a_clip_shows_the_matte(tmp_path):
    path = tmp_path / "clear.mov"
    rgba = np.zeros((96, 160, 4), np.uint8)
    rgba[:, :80] = (200, 40, 40, 255)
    rgba[:, 80:] = (200, 40, 40, 0)
    form = ("-f", "rawvideo", "-pix_fmt", "rgba", "-s", "160x96", "-r", "25", "-i", "-")
    coded = ("-c:v", "prores_ks", "-profile:v", "4444", "-pix_fmt", "yuva444p10le")
    subprocess.run(["ffmpeg", "-v", "error", "-y", *form, *coded, str(path)], input=rgba.tobytes() * 3, check=True)
    info = probe(path)
    assert info.alpha
    assert any(fact.name == "Transparent" for fact in describe(info))
    plan = Plan(frame=Frame(width=640, height=384), interpretation=Interpretation(matte="#2040c0"))
    shown = to_rgb(compose(plan, info, path, F(0)))
    assert shown[190, 100].tolist() == pytest.approx([200, 40, 40], abs=6)
    assert shown[190, 540].tolist() == pytest.approx([0x20, 0x40, 0xC0], abs=4)


def test_a_still_with_a_profile_is_what_its_profile_says(tmp_path):
    """A wide red that sRGB has no name for but its own; beside Pillow's engine asked directly."""
    wide = ImageCms.ImageCmsProfile(BytesIO(_swapped_profile()))
    image = Image.new("RGB", (160, 96), (200, 120, 60))
    path = tmp_path / "wide.png"
    image.save(path, icc_profile=wide.tobytes())
    info = probe(path)
    shown = to_rgb(compose(Plan(frame=Frame(width=320, height=192)), info, path, F(0)))
    plain = tmp_path / "plain.png"
    image.save(plain)
    unprofiled = to_rgb(compose(Plan(frame=Frame(width=320, height=192)), probe(plain), plain, F(0)))
    assert unprofiled[90, 160].tolist() == pytest.approx([200, 120, 60], abs=2)
    lab = ImageCms.createProfile("LAB")
    there = ImageCms.profileToProfile(image, wide, lab, outputMode="LAB").getpixel((5, 5))
    srgb = ImageCms.createProfile("sRGB")
    back = ImageCms.profileToProfile(
        Image.new("RGB", (1, 1), tuple(shown[90, 160].tolist())), srgb, lab, outputMode="LAB"
    )
    assert np.array(back.getpixel((0, 0)), float) == pytest.approx(np.array(there, float), abs=4)
    assert np.abs(shown[90, 160].astype(int) - unprofiled[90, 160]).max() > 8


def _swapped_profile():
    """A profile of sRGB's curve whose red and green primaries have changed places."""
    data = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    count = int.from_bytes(data[128:132], "big")
    places = {bytes(data[at : at + 4]): at for at in range(132, 132 + 12 * count, 12)}
    red, green = places[b"rXYZ"], places[b"gXYZ"]
    data[red + 4 : red + 12], data[green + 4 : green + 12] = data[green + 4 : green + 12], data[red + 4 : red + 12]
    return bytes(data)


def test_a_smooth_blurred_copy_has_no_steps(tmp_path):
    """The longest run of one code on a line of a slow slope; without noise it was as wide as a step."""
    path = tmp_path / "slope.png"
    slope = np.broadcast_to(np.linspace(100, 130, 400).astype(np.uint8)[None, :, None], (300, 400, 3))
    Image.fromarray(np.ascontiguousarray(slope)).save(path)
    drawn = compose(Plan(frame=Frame(width=1080, height=1920), surround=Blurred()), probe(path), path, F(0))
    lines = drawn.arrays[0][20:320:30]
    longest = max(len(list(run)) for line in lines for _, run in groupby(line.tolist()))
    assert longest < 40
    assert np.abs(np.diff(lines.astype(float).mean(axis=0))).max() < 1
