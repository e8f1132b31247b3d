"""A circle stays a circle, within 0.3%, from every source format of the catalogue into five frames.

The circle is drawn analytically on the stored raster; what is composed is measured by an ellipse that scikit-image fits
to its half-bright edge.
"""

from fractions import Fraction as F

import numpy as np
import pytest
from skimage.measure import EllipseModel, find_contours

from cadrage.compose import Compositor
from cadrage.footage import Interpretation, MediaInfo
from cadrage.formats import SOURCES, SQUEEZES, Frame
from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import Layout, Planes, Subsampling
from cadrage.plan import Plan
from cadrage.surrounds import Plain

FRAMES = (
    Frame(width=1280, height=720),
    Frame(width=720, height=1280),
    Frame(width=640, height=480),
    Frame(width=1998, height=1080, active=F("2.39")),
    Frame(width=720, height=576, pixel_aspect=F(16, 11)),
)
LARGEST = 2100  # stored pixels; larger rasters are the same shapes at twice the size
ROWS = [row for row in SOURCES if max(row.width, row.height) <= LARGEST]
SHAPES = [(row.width, row.height, row.pixel_aspect, row.name) for row in ROWS] + [
    (1920, 1440, squeeze, f"anamorphic {float(squeeze):g}") for squeeze in SQUEEZES
]


def stored_circle(width, height, aspect):
    """A light disc a quarter of the picture's shorter side in radius, its edge as wide as the larger pixel side."""
    layout = Layout(width, height, 8, Subsampling.left(2, 2), Colour("bt709"))
    radius = min(width * float(aspect), height) / 4
    x = (np.arange(width) + 0.5 - width / 2) * float(aspect)
    y = np.arange(height) + 0.5 - height / 2
    distance = np.hypot(x[None, :], y[:, None])
    soft = 2 * max(1.0, float(aspect))
    light = np.clip((radius - distance) / soft + 0.5, 0, 1)
    planes = Planes.empty(layout)
    planes.arrays[0][:] = np.rint(40 + 170 * light)
    planes.arrays[1][:] = planes.arrays[2][:] = 128
    return planes


def facts_of(width, height, aspect):
    whole = {"rate": F(25), "shortest_frame": F(1, 25), "longest_frame": F(1, 25), "duration": F(1), "frames": 25}
    return MediaInfo(
        container="mov", codec="h264", width=width, height=height, pixel_aspect=aspect, rotation=0, rate_stated=True,
        rate_varies=False, field_order="progressive", pixel_format="yuv420p", depth=8, chroma="4:2:0", matrix=1,
        primaries=1, transfer=1, full_range=False, sounds=(), **whole,
    )  # fmt: skip


@pytest.mark.parametrize("shape", SHAPES, ids=lambda shape: f"{shape[3]} {shape[0]}x{shape[1]} {shape[2]}")
def test_circles(shape):
    width, height, aspect, _ = shape
    stored, info = stored_circle(width, height, aspect), facts_of(width, height, aspect)
    for frame in FRAMES:
        plan = Plan(frame=frame, interpretation=Interpretation(matrix="bt709"), surround=Plain(colour="#101010"))
        luma = Compositor(plan, stored.layout, info).compose(stored).arrays[0].astype(float)
        fitted = EllipseModel.from_estimate(max(find_contours(luma, 125), key=len)[:, ::-1])
        across, down, turn = *fitted.axis_lengths, fitted.theta
        seen = np.hypot(across * np.cos(turn), down * np.sin(turn)) * float(frame.pixel_aspect)
        assert seen / np.hypot(across * np.sin(turn), down * np.cos(turn)) == pytest.approx(1, abs=0.003), frame
