"""The blurred copy against scipy's Gaussian on the covering copy at full size."""

from fractions import Fraction

import numpy as np
import pytest
from scipy.ndimage import gaussian_filter

from cadrage.footage import EMPTY
from cadrage.formats import Frame
from cadrage.geometry import Raster, place
from cadrage.geometry.placement import Placement
from cadrage.pixels.colour import Colour
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import canvas_rect, plane_axes
from cadrage.pixels.planes import CHROMA_420, Layout, Planes
from cadrage.pixels.resample import Resampler, resampling_weights
from cadrage.surrounds import Blurred, FrameState, Scene
from cadrage.surrounds.base import all_of

COLOUR = Colour("bt709")


def photograph(width, height, seed=5):
    """Soft shapes with hard edges and some texture, like a picture."""
    random = np.random.default_rng(seed)
    base = gaussian_filter(random.normal(0, 1, (height, width)), 12) * 700 + 120
    base[height // 4 : height // 2, width // 5 : width // 3] = 225
    base[-height // 5 :, width // 2 :] = 25
    return np.clip(base + random.normal(0, 6, base.shape), 16, 235).astype(np.uint8)


def scene_for(source, frame):
    canvas = Layout(frame.width, frame.height, 8, CHROMA_420, COLOUR)
    layout = Layout(source.shape[1], source.shape[0], 8, CHROMA_420, COLOUR)
    placed = place(Raster(layout.width, layout.height), frame.raster, Placement())
    whole = {"constant": True, "taken": lambda _: placed.rect}
    scene = Scene(frame.raster, placed.opening, placed.picture.rect, layout, canvas, EMPTY, **whole)
    return scene.placed_as(placed, all_of(canvas))


def painted(blurred, scene, planes):
    """The copy on all of a canvas."""
    canvas = Planes.empty(scene.canvas)
    state = FrameState(Planes(planes, scene.source), Fraction(0), scene.placed, scene.areas)
    blurred.painter(scene).paint(state, canvas)
    return canvas


def covering_copy(source, scene, blurred):
    """The whole copy at the frame's size, before blurring, with where the frame lies in it."""
    frame = scene.frame
    copy = blurred.copy_rect(scene.placed.picture, scene.opening)
    rect = canvas_rect(copy, (frame.width, frame.height), scene.canvas)
    down, across = plane_axes(scene.source, scene.canvas, 0, rect)
    rows = range(int(np.floor(rect.y)), int(np.ceil(rect.bottom)))
    columns = range(int(np.floor(rect.x)), int(np.ceil(rect.right)))
    draw = Resampler(
        resampling_weights(down, rows, source.shape[0], sampling_kernel(float(down.step)), 12),
        resampling_weights(across, columns, source.shape[1], sampling_kernel(float(across.step)), 16),
    )
    return draw.draw(source).astype(np.float64), -rows.start, -columns.start


@pytest.mark.parametrize("softness", [1, 4, 12])
@pytest.mark.parametrize(
    ("size", "frame"), [((640, 360), Frame(width=540, height=960)), ((360, 640), Frame(width=960, height=540))]
)
def test_matches_a_full_size_gaussian(softness, size, frame):
    source = photograph(*size)
    blurred = Blurred(softness=softness, brightness=100, size=100)
    scene = scene_for(source, frame)
    chroma = np.full((size[1] // 2, size[0] // 2), 128, np.uint8)
    canvas = painted(blurred, scene, (source, chroma, chroma))
    copy, top, left = covering_copy(source, scene, blurred)
    wanted = gaussian_filter(copy, softness / 100 * frame.height, mode="nearest")
    wanted = wanted[top : top + frame.height, left : left + frame.width]
    difference = np.abs(canvas.arrays[0] - wanted)
    assert difference.mean() <= 0.5  # with the noise that hides steps, up to a code; 0.3 without
    assert difference.max() <= 3
    assert (canvas.arrays[1] == 128).all()


@pytest.mark.parametrize("softness", [0, 0.3, 1, 4, 12])
@pytest.mark.parametrize("shift", [0, 700])
def test_a_constant_picture_stays_constant_to_its_edge(softness, shift):
    source = np.full((333, 217), 77, np.uint8)
    scene = scene_for(source, Frame(width=500, height=334))
    chroma = np.full((167, 109), 140, np.uint8)
    canvas = painted(Blurred(softness=softness, brightness=100, shift_x=shift), scene, (source, chroma, chroma))
    assert (canvas.arrays[0] == 77).all()
    assert (canvas.arrays[1] == 140).all()
