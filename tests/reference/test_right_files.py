"""Right files of unusual clips are called right, and files that differ from them in one thing are called wrong."""

import subprocess
from fractions import Fraction

import av
import numpy as np
import pytest

from cadrage.errors import UnreadableFile
from cadrage.footage import Interpretation, probe, resolve
from cadrage.formats import Frame
from cadrage.inspection import inspect_file
from cadrage.inspection.bars import Bars, Brightness
from cadrage.output import Settings
from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import CHROMA_420, Layout, Planes
from cadrage.plan import Plan
from cadrage.render import RenderRequest, render
from cadrage.surrounds import Blurred
from tests.reference.test_sound import RATE, rendered, write

UPRIGHT = Frame(width=180, height=320)


def ffmpeg(*arguments):
    subprocess.run(["ffmpeg", "-v", "error", "-y", *map(str, arguments)], check=True, timeout=60)


def wrong_lines(source, plan, target, **settings):
    how, info = Settings(**settings), probe(source)
    render(plan, source, target, info, settings=how)
    lines = inspect_file(target, RenderRequest(plan, source, info, settings=how)).lines
    return [line for line in lines if line.verdict == "wrong"]


def sweep():
    """From 100 Hz to beyond what a comparison at a low rate would see."""
    at = np.arange(4 * RATE) / RATE
    return 0.3 * np.sin(2 * np.pi * (100 * at + 1900 * at**2))[:, None] * np.ones(2)


def high():
    at = np.arange(4 * RATE) / RATE
    return (0.2 * np.sin(2 * np.pi * 9000 * at) * (1 + np.sin(3 * at)))[:, None] * np.ones(2)


def clicks_over_noise():
    """Mostly a faint noise, which codecs write otherwise."""
    sound = 2e-4 * np.random.default_rng(5).standard_normal((4 * RATE, 2))
    for at in (0.5, 1.7, 2.9):
        sound[round(at * RATE) : round(at * RATE) + 96] += 0.7 * np.hanning(96)[:, None]
    return sound


@pytest.mark.parametrize("codec", ["pcm_u8", "pcm_mulaw", "pcm_s16le"])
@pytest.mark.parametrize("sound", [sweep, high, clicks_over_noise])
def test_sound_that_is_coded_again_is_the_same_sound(tmp_path, sound, codec):
    plain = write(tmp_path / "plain.mov", [("stereo", sound())])
    source = tmp_path / "source.mov"
    ffmpeg("-i", plain, "-c:v", "copy", "-c:a", codec, source)
    _, inspection = rendered(source, tmp_path, "mp4")
    assert inspection.right, [line for line in inspection.lines if line.verdict == "wrong"]


def test_another_sound_is_not(tmp_path):
    source = write(tmp_path / "one.mov", [("stereo", sweep())])
    other = write(tmp_path / "other.mov", [("stereo", sweep()[::-1])])
    made, _ = rendered(other, tmp_path, "mov")
    plan = Plan(frame=Frame(width=256, height=144))
    asked = RenderRequest(plan, source, probe(source), settings=Settings(kind="mov-prores", sound="pcm-24"))
    assert "Sound sync and level" in [line.name for line in inspect_file(made, asked).lines if line.verdict == "wrong"]


DARK = "testsrc2=s=320x140:r=25:d=1,eq=contrast=0.10:brightness=-0.42,pad=320:180:0:20"


@pytest.mark.parametrize("brightness", [30, 60])
def test_dark_clips_with_bars_of_their_own(tmp_path, brightness):
    source = tmp_path / "dark.mp4"
    ffmpeg("-f", "lavfi", "-i", DARK, "-pix_fmt", "yuv420p", "-crf", "10", source)
    plan = Plan(frame=UPRIGHT, surround=Blurred(brightness=brightness))
    assert wrong_lines(source, plan, tmp_path / "out.mp4", quality="draft") == []


def frame_of(rows):
    """A frame of 64 columns, limited range, whose rows have these luma codes."""
    layout = Layout(64, len(rows), 8, CHROMA_420, Colour("bt709"))
    planes = Planes.empty(layout)
    planes.arrays[0][:] = np.array(rows, np.uint8)[:, None]
    return planes


def test_bars_that_were_not_composed_are_seen():
    composed = Brightness.of([frame_of([16] * 8 + [90] * 48 + [16] * 8)])
    assert composed.bars() == Bars(0, 0, 8, 8)
    assert composed.has_bars_of(composed)
    for rows in ([16] * 16 + [90] * 40 + [16] * 8, [90] * 56 + [16] * 8):
        assert not Brightness.of([frame_of(rows)]).has_bars_of(composed)
    barely = Brightness.of([frame_of([16] * 8 + [22] * 8 + [90] * 40 + [16] * 8)])
    coarsely = Brightness.of([frame_of([16] * 16 + [90] * 40 + [16] * 8)])
    assert coarsely.has_bars_of(barely)
    assert barely.has_bars_of(coarsely)


@pytest.mark.parametrize("fields", ["upper_first", "lower_first"])
def test_telecined_film_that_stays_in_fields_is_not_frozen(tmp_path, fields):
    """2:3 pull-down repeats fields, so that every other line of some frames is that of the frame before."""
    source, first = tmp_path / "film.mkv", "top" if fields == "upper_first" else "bottom"
    film = f"testsrc2=s=320x240:r=24000/1001:d=1.5,telecine=first_field={first}:pattern=23"
    ffmpeg("-f", "lavfi", "-i", film, "-r", "30000/1001", "-pix_fmt", "yuv422p", "-c:v", "ffv1", source)
    frame = Frame(width=320, height=240, fields=fields, rate=Fraction(30000, 1001))
    plan = Plan(frame=frame, interpretation=Interpretation(fields=fields))
    assert wrong_lines(source, plan, tmp_path / "out.mov", kind="mov-prores") == []


@pytest.mark.parametrize("size", [(16, 16), (64, 48)])
@pytest.mark.parametrize("layout", ["yuv420p", "pal8", "monob"])
def test_very_small_pictures(tmp_path, size, layout):
    source = tmp_path / "small.mov"
    codec = ("-c:v", "libx264", "-qp", "0") if layout == "yuv420p" else ("-c:v", "png")
    ffmpeg("-f", "lavfi", "-i", "testsrc2=s=320x180:r=25:d=1,scale=18:18", "-pix_fmt", layout, *codec, source)
    plan = Plan(frame=Frame(width=size[0], height=size[1]))
    assert wrong_lines(source, plan, tmp_path / "out.mp4", quality="draft") == []


def test_a_frozen_file_of_a_moving_clip_is_called_wrong(tmp_path):
    source, frozen = tmp_path / "moving.mp4", tmp_path / "frozen.mp4"
    ffmpeg("-f", "lavfi", "-i", "testsrc2=s=320x180:r=25:d=1", "-pix_fmt", "yuv420p", source)
    plan = Plan(frame=Frame(width=320, height=180))
    render(plan, source, frozen, probe(source), settings=Settings())
    with av.open(str(frozen)) as container:
        assert container.streams.video[0].frames == 25
    held = tmp_path / "held.mp4"
    ffmpeg("-i", frozen, "-vf", "loop=loop=9:size=1:start=8,trim=end_frame=25", "-c:v", "libx264", "-crf", "12", held)
    lines = inspect_file(held, RenderRequest(plan, source, probe(source), settings=Settings())).lines
    assert "Frozen frames" in [line.name for line in lines if line.verdict == "wrong"]


def test_black_bars_that_a_clip_brings_are_told_of(tmp_path):
    source, plan = tmp_path / "barred.mp4", Plan(frame=Frame(width=320, height=240))
    ffmpeg("-f", "lavfi", "-i", "testsrc2=s=320x180:r=25:d=1,pad=320:240:0:30", "-pix_fmt", "yuv420p", source)
    info = probe(source)
    render(plan, source, tmp_path / "out.mp4", info)
    lines = inspect_file(tmp_path / "out.mp4", RenderRequest(plan, source, info)).lines
    (told,) = [line for line in lines if line.name == "Black bars of the clip"]
    assert (told.verdict, told.found[:17]) == ("measured", "top 30, bottom 30")


D10 = "-pix_fmt yuv422p -intra_vlc 1 -non_linear_quant 1 -flags +ildct+low_delay -g 1 -dc 10 -ps 1 -qmin 1 -qmax 12"
RATE_D10 = "-b:v 30000k -minrate 30000k -maxrate 30000k -bufsize 1200000 -rc_init_occupancy 1200000 -top 1"


@pytest.mark.parametrize(("shape", "aspect"), [("4:3", "16/15"), ("16:9", "64/45")])
def test_the_vertical_interval_of_d10_is_no_picture(tmp_path, shape, aspect):
    """SMPTE ST 356: 608 stored lines, of which the lower 576 are picture; a circle in them stays one."""
    source, target = tmp_path / "tape.mxf", tmp_path / "out.mp4"
    drawn = "testsrc2=s=720x576:r=25:d=1,pad=720:608:0:32:color=gray"
    coded = [*D10.split(), *RATE_D10.split(), "-aspect", shape, "-f", "mxf_d10"]
    sound = ["-f", "lavfi", "-i", "sine=440:d=1:r=48000", "-ac", "4", "-c:a", "pcm_s16le"]
    ffmpeg("-f", "lavfi", "-i", drawn, *sound, "-c:v", "mpeg2video", *coded, source)
    info = probe(source)
    assert (info.height, info.pixel_aspect) == (608, Fraction(aspect))
    frame = Frame(width=720, height=576, pixel_aspect=Fraction(aspect))
    plan = Plan(frame=frame, interpretation=Interpretation(fields="progressive"))
    render(plan, source, target, info)
    compared = subprocess.run(
        [
            "ffmpeg",
            "-i",
            source,
            "-i",
            target,
            "-lavfi",
            "[0]crop=720:576:0:32,setsar=1[a];[1]setsar=1[b];[a][b]psnr",
            "-f",
            "null",
            "-",
        ],
        capture_output=True,
        text=True,
        check=True,
    ).stderr
    assert float(compared.rsplit("average:", 1)[1].split()[0]) > 34
    whole = resolve(info, Interpretation(clean_aperture="whole")).picture
    assert (whole.rect.height, resolve(info, Interpretation(rotation=90)).picture.rect.width) == (608, 576)


@pytest.mark.parametrize("suffix", ["webm", "mkv", "mp4"])
@pytest.mark.parametrize("kind", ["mp4-h264", "mkv-ffv1"])
def test_a_varying_rate_keeps_its_length(tmp_path, suffix, kind):
    """The last picture stays as long as in the clip, not as long as the one before it."""
    source, target = tmp_path / f"varying.{suffix}", tmp_path / ("out.mp4" if kind == "mp4-h264" else "out.mkv")
    chosen = ["-vf", "select='not(mod(n\\,3))+lt(mod(n\\,7)\\,2)'", "-fps_mode", "vfr"]
    codec = ["libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8"] if suffix == "webm" else ["libx264", "-bf", "2"]
    drawn = ["-f", "lavfi", "-i", "testsrc2=s=192x108:r=30:d=3", *chosen, "-pix_fmt", "yuv420p"]
    ffmpeg(*drawn, "-c:v", *codec, source)
    assert wrong_lines(source, Plan(frame=Frame(width=192, height=108)), target, kind=kind, quality="draft") == []
    shown = ["ffprobe", "-v", "error", "-show_entries", "format=duration", "-of", "csv=p=0", target]
    length = float(subprocess.run(shown, capture_output=True, text=True, check=True).stdout)
    assert length == pytest.approx(2.9333, abs=0.002)


def test_boxes_nested_without_end_are_refused(tmp_path):
    path, nested = tmp_path / "nested.mp4", b""
    for number in range(20_000):
        kind = b"moov" if number == 19_999 else b"trak"
        nested = (len(nested) + 8).to_bytes(4, "big") + kind + nested
    path.write_bytes((16).to_bytes(4, "big") + b"ftypisom\0\0\0\0" + nested)
    with pytest.raises(UnreadableFile, match="nested"):
        probe(path)
