"""Where chroma lies: an edge of colour stands where the edge of light does, whatever a file says of its siting.

Clips are made with their chroma where each tag has it and written by ffmpeg; what Cadrage composes and writes is
measured in its samples, read by ffmpeg.
"""

import subprocess
from fractions import Fraction as F

import numpy as np
import pytest

from cadrage.compose import compose
from cadrage.footage import probe
from cadrage.formats import Frame
from cadrage.output import Settings
from cadrage.plan import Plan
from cadrage.render import render

W, H, EDGE = 128, 96, (57.3, 43.7)
AT = {
    "left": (0.5, 1),
    "centre": (1, 1),
    "top_left": (0.5, 0.5),
    "top": (1, 0.5),
    "bottom_left": (0.5, 1.5),
    "bottom": (1, 1.5),
}
"""Luma positions of the first chroma sample of 4:2:0. ITU-T H.273, figure 2."""
NUMBERS = {"left": 0, "centre": 1, "top_left": 2, "top": 3, "bottom_left": 4, "bottom": 5}


def raw(site, *, halves=(2, 2), frames=3):
    """Y' and Cb with one edge across, Cr with one down, for a siting."""
    first = AT[site]
    x = np.arange(W // halves[0]) * halves[0] + (first[0] if halves[0] == 2 else 0.5)
    y = np.arange(H // halves[1]) * halves[1] + (first[1] if halves[1] == 2 else 0.5)
    luma = np.broadcast_to(_of(np.arange(W) + 0.5, EDGE[0], 60, 180), (H, W))
    cb = np.broadcast_to(_of(x, EDGE[0], 90, 170), (len(y), len(x)))
    cr = np.broadcast_to(_of(y, EDGE[1], 90, 170)[:, None], (len(y), len(x)))
    return b"".join(np.rint(plane).astype(np.uint8).tobytes() for plane in (luma, cb, cr)) * frames


def _of(at, position, low, high):
    """A soft edge, so that no filter has anything to bend."""
    return low + (high - low) / (1 + np.exp(-(at - position) / 2.5))


def write(path, site, *arguments, pixel_format="yuv420p", halves=(2, 2), size=(W, H)):
    told = ["-f", "rawvideo", "-pix_fmt", pixel_format, "-s", f"{size[0]}x{size[1]}", "-r", "25", "-i", "-"]
    command = ["ffmpeg", "-v", "error", "-y", *told, *arguments, str(path)]
    subprocess.run(command, input=raw(site, halves=halves), check=True)
    return path


def crossing(line, low, high):
    """Where a line of samples passes the middle between two codes, in samples from its edge; centres lie at n + ½."""
    share = np.clip((line - low) / (high - low), 1e-6, 1 - 1e-6)
    middle = (share > 0.15) & (share < 0.85)
    slope, level = np.polyfit(np.arange(len(line))[middle] + 0.5, np.log(share / (1 - share))[middle], 1)
    return -level / slope


def places(chroma, first, scale, halves=(2, 2), codes=(90, 170)):
    """Where the edges of colour lie, in luma samples of the source."""
    cb, cr = (np.asarray(plane, float) for plane in chroma)
    x = (crossing(cb.mean(axis=0), *codes) - 0.5) * halves[0] + first[0]
    y = (crossing(cr.mean(axis=1), *codes) - 0.5) * halves[1] + first[1]
    return x / scale, y / scale


LOSSLESS = ("-c:v", "libx264", "-qp", "0", "-x264-params")
CLIPS = [
    *((site, f"{site}.mp4", (*LOSSLESS, f"chromaloc={number}"), {}) for site, number in NUMBERS.items()),
    ("top_left", "t.mkv", (*LOSSLESS, "chromaloc=2"), {}),
    ("bottom", "b.ts", (*LOSSLESS, "chromaloc=5"), {}),
    ("bottom_left", "b.mov", ("-c:v", "libx265", "-x265-params", "log-level=error:lossless=1:chromaloc=4"), {}),
    ("centre", "t.ts", (*LOSSLESS, "chromaloc=1"), {}),
    ("top_left", "t.mov", ("-c:v", "libx265", "-x265-params", "log-level=error:lossless=1:chromaloc=2"), {}),
    ("left", "untagged.mp4", ("-c:v", "libx264", "-qp", "0"), {}),
    ("left", "full.mp4", ("-c:v", "libx264", "-qp", "0"), {"pixel_format": "yuvj420p"}),
    ("left", "two.mpg", ("-c:v", "mpeg2video", "-q:v", "1"), {}),
    ("centre", "one.mpg", ("-c:v", "mpeg1video", "-q:v", "1"), {}),
    ("centre", "jpeg.avi", ("-c:v", "mjpeg", "-q:v", "1"), {"pixel_format": "yuvj420p"}),
    ("left", "nine.webm", ("-c:v", "libvpx-vp9", "-lossless", "1"), {}),
]


@pytest.mark.parametrize(("site", "name", "arguments", "more"), CLIPS, ids=[one[1] for one in CLIPS])
def test_colour_lies_where_light_does(tmp_path, site, name, arguments, more):
    path = write(tmp_path / name, site, *arguments, **more)
    info = probe(path)
    frame = Frame(width=4 * W, height=4 * H)
    drawn = compose(Plan(frame=frame), info, path, F(0))
    full = (128 - (128 - 90) * 224 / 255, 128 + (170 - 128) * 224 / 255)
    codes = full if info.full_range else (90, 170)
    near = 0.1 if "-q:v" in arguments else 0.05  # coding moves edges by some hundredths where it loses something
    assert places(drawn.arrays[1:], AT["left"], 4, codes=codes) == pytest.approx(EDGE, abs=near)


@pytest.mark.parametrize(
    ("kind", "suffix", "pixels", "first", "halves"),
    [
        ("mp4-h264", "mp4", "yuv420p", AT["left"], (2, 2)),
        ("avi-mjpeg", "avi", "yuvj422p", (1, 0.5), (2, 1)),
        ("mov-prores", "mov", "yuv422p10le", (0.5, 0.5), (2, 1)),
    ],
)
def test_written_colour_lies_where_its_readers_take_it(tmp_path, kind, suffix, pixels, first, halves):
    path = write(tmp_path / "c.mp4", "centre", *LOSSLESS, "chromaloc=1")
    target = tmp_path / f"out.{suffix}"
    plan = Plan(frame=Frame(width=2 * W, height=2 * H))
    render(plan, path, target, probe(path), settings=Settings(kind=kind, quality="nearly_lossless"))
    command = ["ffmpeg", "-v", "error", "-i", str(target), "-frames:v", "1", "-f", "rawvideo", "-pix_fmt", pixels, "-"]
    data = subprocess.run(command, check=True, capture_output=True).stdout
    deep = "10" in pixels
    samples = np.frombuffer(data, np.uint16 if deep else np.uint8).astype(float) / (4 if deep else 1)
    count, rows, columns = 4 * W * H, 2 * H // halves[1], 2 * W // halves[0]
    cb = samples[count : count + rows * columns].reshape(rows, columns)
    cr = samples[count + rows * columns : count + 2 * rows * columns].reshape(rows, columns)
    if kind == "avi-mjpeg":  # of the full range
        cb, cr = (128 + (plane - 128) * 224 / 255 for plane in (cb, cr))
    assert places((cb, cr), first, 2, halves) == pytest.approx(EDGE, abs=0.05)
