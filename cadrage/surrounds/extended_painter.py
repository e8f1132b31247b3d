"""Paint a plate under the live picture, without a visible join."""

from dataclasses import dataclass
from zlib import crc32

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.extend.plate import Plate
from cadrage.extend.request import Side
from cadrage.geometry import Placed
from cadrage.pixels.mapping import Area
from cadrage.pixels.planes import Planes, Samples, Working, samples
from cadrage.pixels.resample import clip_codes, quantise
from cadrage.surrounds.base import Areas, FrameState, Painter, Scene
from cadrage.surrounds.extended_light import EdgeLight
from cadrage.surrounds.plate_drawing import PlateDrawing

GRAINS = 8
"""Patterns of grain that follow one another."""
SEED = 9001
LEAST_GRAIN = 0.15
"""Codes of 8 bits: less noise is none."""
LEAST_SIZE = 0.3
"""Pixels: smaller grain is white noise."""


@dataclass(slots=True)
class DrawnArea:
    """A part of the plate as it was drawn for an area of a plane.

    Attributes:
        codes: its samples, on the canvas's scale.
        covered: which of them the plate reaches; None where all.
        finished: the same with each pattern of grain, as it is painted while the light is the plate's.
    """

    codes: Working
    covered: NDArray[np.bool_] | None
    finished: dict[int, Samples]


class ExtendedPainter:
    """Paints the plate, as light and as grainy as the picture is now, and what lies beyond it.

    Args:
        scene: to paint for.
        plate: to paint.
        beyond: paints what the plate does not reach.
        sides: of the picture that the plate goes on from.
        overlap: how far it reaches into the picture, in parts of the picture's height.
        light: whether the plate is made as light as the picture.
        grain: whether it is given noise like the picture's.
    """

    def __init__(
        self,
        scene: Scene,
        plate: Plate,
        beyond: Painter,
        sides: frozenset[Side],
        overlap: float,
        *,
        light: bool,
        grain: bool,
    ) -> None:
        self.scene, self.plate, self.beyond = scene, plate, beyond
        self.sides, self.overlap = sides, overlap
        self.drawing = PlateDrawing(scene, plate)
        self.light = EdgeLight(scene, plate, self.drawing.planes, sides, max(overlap, 0.02)) if light else None
        self.grains = self._grains() if grain else []
        self._depth = scene.canvas.depth
        self._drawn: list[list[DrawnArea]] = []
        self._held: tuple[Placed, bytes, Areas] | None = None

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        place = self._place(state)
        self._draw(state, place)
        if any(one.covered is not None for parts in self._drawn for one in parts):
            self.beyond.paint(state, canvas)
        gains = self.light.gains(state, place) if self.light else None
        pattern = crc32(str(state.time).encode()) % GRAINS
        for plane, parts in enumerate(self._drawn):
            for area, drawn in zip(state.areas[plane], parts, strict=True):
                target = canvas.arrays[plane][area.slices]
                made = self._finished(drawn, state, plane, area, gains, pattern)
                if drawn.covered is None:
                    np.copyto(target, made)
                else:
                    np.copyto(target, made, where=drawn.covered)

    def _place(self, state: FrameState) -> NDArray[np.float64]:
        """From pixels of the picture as it is seen, at the plate's scale, to those of the plate."""
        place = self.plate.place_at(state.time)
        if not state.placed.mirror:
            return place
        wide = self.plate.about.picture_width
        return np.stack([-place[:, 0], place[:, 1], place[:, 0] * wide + place[:, 2]], axis=1)

    def _draw(self, state: FrameState, place: NDArray[np.float64]) -> None:
        """Draw the plate over the areas, unless it lies as it did."""
        lies = (state.placed, place.tobytes(), state.areas)
        if self._held == lies:
            return
        self._held = lies
        stays = self.scene.constant and not self.plate.about.moving
        self._drawn = [
            [
                DrawnArea(*self.drawing.draw(plane, area, state.placed, place, stays=stays), {})
                for area in state.areas[plane]
            ]
            for plane in range(3)
        ]

    def _finished(
        self,
        drawn: DrawnArea,
        state: FrameState,
        plane: int,
        area: Area,
        gains: dict[Side, Working] | None,
        pattern: int,
    ) -> Samples:
        """A part of the plate as it is painted."""
        grain = self.grains[pattern] if self.grains and plane == 0 else None
        if gains is not None and self.light is not None:
            field = self.light.field(area, plane, state.placed, gains)
            return self._finish(drawn.codes, field, self.light.origin(plane), area, grain)
        key = pattern if grain is not None else 0
        if key not in drawn.finished:
            drawn.finished[key] = self._finish(drawn.codes, None, 0.0, area, grain)
        return drawn.finished[key]

    def _finish(
        self, codes: Working, field: Working | None, origin: float, area: Area, grain: Working | None
    ) -> Samples:
        """Codes lit and grained, rounded and kept within those of the depth."""
        lit = codes
        if field is not None:
            lit = codes * field
            lit += origin * (1 - field)
        noise = None if grain is None else grain[area.slices]
        if noise is not None and self._depth == 8:
            # Added, rounded and kept within the codes in one pass.
            return samples(cv2.add(lit, noise, dtype=cv2.CV_8U))
        lit = lit.copy() if noise is None else lit + noise
        made = samples(np.empty(lit.shape, self.scene.canvas.dtype))
        clip_codes(lit, self._depth)
        quantise(lit, made, self._depth)
        return made

    def _grains(self) -> list[Working]:
        """Patterns of noise as the picture has it at the canvas's size: drawing smaller averages, larger spreads."""
        grain, canvas, scale = self.plate.grain, self.scene.canvas, self.drawing.scale
        size = grain.size * scale
        sigma = grain.sigma if scale >= 1 or size > LEAST_SIZE else grain.sigma * scale
        if sigma < LEAST_GRAIN:
            return []
        random = np.random.default_rng(SEED)
        patterns = []
        for _ in range(GRAINS):
            noise = random.standard_normal(canvas.shape(0), dtype=np.float32)
            if size > LEAST_SIZE:
                noise = np.asarray(cv2.GaussianBlur(noise, (0, 0), size), np.float32)
                noise /= noise.std()
            patterns.append(noise * np.float32(sigma * 2.0 ** (canvas.depth - 8)))
        return patterns
