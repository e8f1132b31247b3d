"""Circles stay circles: an ellipse fitted by scikit-image to the clock of each clip, in the rendered file."""

from fractions import Fraction

import numpy as np
import pytest
from scipy.ndimage import binary_dilation, binary_fill_holes
from skimage.measure import EllipseModel, find_contours, label, regionprops

from cadrage.compose import Compositor
from cadrage.footage import ClipReader, probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.render import render

WIDE, UPRIGHT, OLD = Frame(width=1920, height=1080), Frame(width=1080, height=1920), Frame(width=1440, height=1080)
TAPE = Frame(width=720, height=576, pixel_aspect=Fraction(12, 11))


FACE_CODE, EDGE_CODE, RING_CODE = 214, 138, 54


def clock_axes(luma):
    """Half widths across and down of the clock's bright face, of an ellipse fitted to where its edge is half bright."""
    bright = label(binary_fill_holes(luma > FACE_CODE))
    round_patches = [patch for patch in regionprops(bright) if patch.eccentricity < 0.7 and patch.solidity > 0.9]
    patch = max(round_patches, key=lambda patch: patch.area)
    face = binary_dilation(bright == patch.label, iterations=5)
    alone = np.where(face, luma, RING_CODE).astype(float)
    contour = max(find_contours(alone, EDGE_CODE), key=len)
    fitted = EllipseModel.from_estimate(contour[:, ::-1])
    across, down, turn = fitted.axis_lengths[0], fitted.axis_lengths[1], fitted.theta
    width = np.hypot(across * np.cos(turn), down * np.sin(turn))
    height = np.hypot(across * np.sin(turn), down * np.cos(turn))
    return width, height


@pytest.mark.parametrize(
    ("name", "frame"),
    [
        ("depot.mp4", WIDE),
        pytest.param("depot.mp4", OLD, marks=pytest.mark.long),
        pytest.param("points.mp4", WIDE, marks=pytest.mark.long),
        ("points.mp4", UPRIGHT),
        pytest.param("crossing.mp4", OLD, marks=pytest.mark.long),
        ("crossing.mp4", TAPE),
    ],
)
def test_a_circle_is_a_circle_in_the_rendered_file(museum, tmp_path, name, frame):
    info = probe(museum[name])
    target = tmp_path / "out.mp4"
    render(Plan(frame=frame), museum[name], target, info)
    with ClipReader(target, probe(target)) as reader:
        width, height = clock_axes(reader.frame_at(Fraction(1, 2)).planes.arrays[0])
    assert width * float(frame.pixel_aspect) / height == pytest.approx(1, abs=0.003)


def test_a_wrong_pixel_aspect_would_be_seen(museum):
    """The measure itself is not blind: reading the tape's pixels as square makes the clock narrow by 11:12."""
    plan = Plan.model_validate({"frame": {"width": 1920, "height": 1080}, "interpretation": {"pixel_aspect": "1"}})
    info = probe(museum["points.mp4"])
    with ClipReader(museum["points.mp4"], info) as reader:
        stored = reader.frame_at(Fraction(1, 2)).planes
    width, height = clock_axes(Compositor(plan, stored.layout, info).compose(stored).arrays[0])
    assert width / height == pytest.approx(11 / 12, abs=0.005)
