"""What is laid over all: a grade, a vignette, grain."""

from fractions import Fraction
from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from cadrage.finish.specification import Finish, Grade
from cadrage.pixels.blend import added, gained, looked_up
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Layout, Planes, Working

WARMEST = "#ff9a3c"  # at full warmth chroma is moved a tenth of the way to this colour's, and for cold away from it
WARM_SHARE = 0.1
MIDDLE = 0.5
GRAINS = 8  # patterns of grain that follow each other
SEED = 4711


def grade_tables(grade: Grade, canvas: Layout) -> list[NDArray[np.float32]] | None:
    """For each plane, what every code becomes; None where nothing changes.

    Exposure and contrast work on luma as it is coded, so they keep colours' hue by working on chroma alike.
    """
    if grade.off:
        return None
    black, span, _ = canvas.colour.code_range(canvas.depth)
    codes = np.arange(2**canvas.depth, dtype=np.float64)
    exposure, contrast, saturation = (float(part) for part in (grade.exposure, grade.contrast, grade.saturation))
    gain = 2.0**exposure * contrast / 100
    luma = (codes - black) / span * 2.0**exposure
    luma = MIDDLE + (luma - MIDDLE) * contrast / 100
    middle = 2.0 ** (canvas.depth - 1)
    warm = codes_of(WARMEST, canvas.colour, canvas.depth)
    tables = [(black + span * luma).astype(np.float32)]
    for plane in (1, 2):
        shift = (warm[plane] - middle) * WARM_SHARE * float(grade.warmth) / 100
        tables.append((middle + (codes - middle) * gain * saturation / 100 + shift).astype(np.float32))
    return tables


class GlobalGrade:
    """Lays grade, vignette and grain over what is painted.

    Args:
        finish: what is wanted.
        canvas: what is painted on.
        frame_aspect: width over height of the frame as it is seen.
    """

    def __init__(self, finish: Finish, canvas: Layout, frame_aspect: float) -> None:
        self.canvas = canvas
        tables = grade_tables(finish.grade, canvas)
        self.surround_tables = tables if finish.grade.surround_only else None
        self.tables = None if finish.grade.surround_only else tables
        self.light = (
            None if finish.vignette.off else [_light(finish, canvas, plane, frame_aspect) for plane in range(3)]
        )
        self.grain: list[NDArray[np.float32]] = []
        if not finish.grain.off:
            _, span, _ = canvas.colour.code_range(canvas.depth)
            random = np.random.default_rng(SEED)
            deviation = float(finish.grain.amount) / 100 * span
            self.grain = [random.normal(0, deviation, canvas.shape(0)).astype(np.float32) for _ in range(GRAINS)]

    def paint_surround(self, canvas: Planes) -> None:
        """Grade what is painted before the picture is, where that is wanted."""
        if self.surround_tables:
            for plane, table in zip(canvas.arrays, self.surround_tables, strict=True):
                looked_up(plane, table, self.canvas.depth)

    def paint(self, canvas: Planes, time: Fraction) -> None:
        """Lay it all over a finished frame; every time has its own grain, and always the same."""
        depth = self.canvas.depth
        for number, plane in enumerate(canvas.arrays):
            if self.tables:
                looked_up(plane, self.tables[number], depth)
            if self.light:
                gained(plane, *self.light[number], depth)
        if self.grain:
            added(canvas.arrays[0], self.grain[crc32(str(time).encode()) % GRAINS], depth)


def _light(finish: Finish, canvas: Layout, plane: int, aspect: float) -> tuple[Working, Working]:
    """How much light is left on every sample, as gain and offset of its code; smooth from where it begins."""
    by, (rows, columns) = canvas.subsampling(plane), canvas.shape(plane)
    x = ((by.across * (np.arange(columns) + 0.5) + float(by.shift_x)) / canvas.width - 0.5) * aspect
    y = (by.down * (np.arange(rows) + 0.5) + float(by.shift_y)) / canvas.height - 0.5
    away = np.hypot(x[None, :], y[:, None]) / (np.hypot(aspect, 1) / 2)
    begins = float(finish.vignette.size) / 100
    part = np.clip((away - begins) / (1 - begins), 0, 1)
    gain = 1 - float(finish.vignette.amount) / 100 * part * part * (3 - 2 * part)
    black = codes_of("#000000", canvas.colour, canvas.depth)[plane]
    return gain.astype(np.float32), ((1 - gain) * black).astype(np.float32)
