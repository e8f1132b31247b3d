"""Two to four colours that run into each other, dithered so that no bands show."""

from functools import cached_property
from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from cadrage.fields import degrees, percent
from cadrage.pixels.dither import dither_noise
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Layout, Planes, Samples, Working, samples
from cadrage.pixels.resample import clip_codes, quantise
from cadrage.surrounds.base import FrameState, Scene, copy_areas
from cadrage.surrounds.toning import Toned
from cadrage.values import ColourText, Exact

SEED = 20260


class Gradient(Toned):
    """Two to four colours that run into each other.

    Attributes:
        form: along a line through the frame's middle, or in rings round a centre.
        first, last: the colours at both ends.
        second, third: colours evenly between them, where given.
        angle: degrees clockwise from running to the right; of the linear form.
        centre_x, centre_y: of the rings, in percent of the frame.
    """

    title: ClassVar[str] = "Gradient"
    kind: Literal["gradient"] = "gradient"
    form: Literal["linear", "radial"] = Field(default="linear", title="Form")
    first: ColourText = Field(default="#32505a", title="From")
    second: ColourText | None = Field(default=None, title="By way of")
    third: ColourText | None = Field(default=None, title="and of")
    last: ColourText = Field(default="#141a22", title="To")
    angle: Exact = degrees(0, 360, 90, "Angle")
    centre_x: Exact = percent(0, 100, 50, "Centre across")
    centre_y: Exact = percent(0, 100, 50, "Centre down")

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return f"{self.form} gradient"

    @property
    def colours(self) -> tuple[str, ...]:
        """Its colours in order."""
        return tuple(colour for colour in (self.first, self.second, self.third, self.last) if colour)

    def painter(self, scene: Scene) -> "GradientPainter":
        """See `Specification`."""
        return GradientPainter(self, scene)

    def ramp(self, layout: Layout, plane: int, pixel_aspect: float) -> NDArray[np.float64]:
        """How far along the colours each sample of a plane lies, 0 to 1. `pixel_aspect` is of the canvas's samples."""
        by, (rows, columns) = layout.subsampling(plane), layout.shape(plane)
        x = (by.across * (np.arange(columns) + 0.5) + float(by.shift_x)) / layout.width
        y = (by.down * (np.arange(rows) + 0.5) + float(by.shift_y)) / layout.height
        wide = layout.width * pixel_aspect / layout.height
        if self.form == "radial":
            across, down = (x - float(self.centre_x) / 100) * wide, y - float(self.centre_y) / 100
            corners = np.hypot(
                float(max(self.centre_x, 100 - self.centre_x)) / 100 * wide,
                float(max(self.centre_y, 100 - self.centre_y)) / 100,
            )
            rings: NDArray[np.float64] = np.hypot(across[None, :], down[:, None]) / corners
            return rings
        cos, sin = np.cos(np.radians(float(self.angle))), np.sin(np.radians(float(self.angle)))
        reach = abs(cos) * wide + abs(sin)
        along = ((x - 0.5) * wide * cos)[None, :] + ((y - 0.5) * sin)[:, None]
        ramp: NDArray[np.float64] = along / reach + 0.5
        return ramp

    def codes(self, layout: Layout, plane: int, pixel_aspect: float) -> Working:
        """The gradient's codes before dithering."""
        stops = [codes_of(colour, layout.colour, layout.depth)[plane] for colour in self.colours]
        ramp = np.clip(self.ramp(layout, plane, pixel_aspect), 0, 1)
        codes: Working = np.interp(ramp, np.linspace(0, 1, len(stops)), stops).astype(np.float32)
        self.tones(layout)[plane].apply(codes)
        return codes


class GradientPainter:
    """Paints from planes that are made once."""

    def __init__(self, gradient: Gradient, scene: Scene) -> None:
        self.gradient, self.scene = gradient, scene

    @cached_property
    def planes(self) -> list[Samples]:
        """All of it; a picture that covers its frame needs none."""
        layout, aspect = self.scene.canvas, self.scene.pixel_aspect
        random = np.random.default_rng(SEED)
        return [dithered(self.gradient.codes(layout, plane, aspect), layout, random) for plane in range(3)]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        if any(state.areas):
            copy_areas(state.areas, self.planes, canvas)


def dithered(codes: Working, layout: Layout, random: np.random.Generator) -> Samples:
    """Rounded after noise, which hides the steps between codes."""
    noisy = codes + dither_noise(random, codes.shape)
    clip_codes(noisy, layout.depth)
    made = samples(np.empty(codes.shape, layout.dtype))
    quantise(noisy, made, layout.depth)
    return made
