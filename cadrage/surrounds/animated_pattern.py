"""Slow moving patterns of our own making, seeded, and exactly periodic."""

from fractions import Fraction
from typing import ClassVar, Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from cadrage.fields import percent, plain_number, seconds
from cadrage.pixels.dither import dither_noise
from cadrage.pixels.light import codes_of
from cadrage.pixels.planes import Planes, Working
from cadrage.pixels.resample import clip_codes, quantise
from cadrage.surrounds.base import FrameState, Scene
from cadrage.surrounds.toning import Toned
from cadrage.values import ColourText, Exact
from cadrage.wording import wording

Pattern = Literal["clouds", "water_light", "colour_fields", "fine_weave", "rising_specks"]
Field2 = NDArray[np.float32]

LINES = 120  # of the coarse picture that soft patterns are worked out on
SPECKS, SPECK_LINES = 70, 360
THREADS = 90  # of a weave, in the frame's height


class AnimatedPattern(Toned):
    """A slow moving pattern between two colours.

    Attributes:
        pattern: which.
        first, second: the colours it moves between.
        period: seconds until it begins again, without a join.
        scale: percent of its usual size.
        seed: which of its many forms.
    """

    title: ClassVar[str] = "Pattern"
    animated: ClassVar[bool] = True
    kind: Literal["drift"] = "drift"
    pattern: Pattern = Field(default="clouds", title="Pattern")
    first: ColourText = Field(default="#1d2b33", title="From")
    second: ColourText = Field(default="#5d7a80", title="To")
    period: Exact = seconds(2, 120, 16, "Period")
    scale: Exact = percent(30, 400, 100, "Scale")
    seed: Exact = plain_number(0, 999, 7, "Form", 1)

    @property
    def summary(self) -> str:
        """See `Specification`."""
        return f"pattern, {wording(self.pattern)}"

    def painter(self, scene: Scene) -> "AnimatedPatternPainter":
        """See `Specification`."""
        return AnimatedPatternPainter(self, scene)

    def turn(self, time: Fraction) -> float:
        """Where in its period a time lies, 0 to 1; exact before it becomes a float."""
        return float(time / self.period % 1)


class AnimatedPatternPainter:
    """Works a pattern out on a coarse picture and draws it from there."""

    def __init__(self, drift: AnimatedPattern, scene: Scene) -> None:
        self.drift, self.layout = drift, scene.canvas
        self.wide = float(scene.frame.display_aspect)
        random = np.random.default_rng(int(drift.seed))
        self.pattern = PATTERNS[drift.pattern](random, self.wide, float(drift.scale) / 100)
        self.tones = drift.tones(scene.canvas)
        self.ends = [
            (first, second)
            for first, second in zip(
                codes_of(drift.first, scene.canvas.colour, scene.canvas.depth),
                codes_of(drift.second, scene.canvas.colour, scene.canvas.depth),
                strict=True,
            )
        ]
        self.noise = [dither_noise(np.random.default_rng(plane), scene.canvas.shape(plane)) for plane in range(3)]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """See `Painter`."""
        value = self.pattern.at(self.drift.turn(state.time))
        for plane, areas in enumerate(state.areas):
            if not areas:
                continue
            rows, columns = self.layout.shape(plane)
            first, second = self.ends[plane]
            coarse: Working = (first + value * (second - first)).astype(np.float32)
            self.tones[plane].apply(coarse)
            whole = cv2.resize(coarse, (columns, rows), interpolation=cv2.INTER_LINEAR)
            for area in areas:
                part: Working = np.ascontiguousarray(whole[area.slices]) + self.noise[plane][area.slices]
                clip_codes(part, self.layout.depth)
                quantise(part, canvas.arrays[plane][area.slices], self.layout.depth)


def _smooth(random: np.random.Generator, shape: tuple[int, int], size: float) -> Field2:
    """A smooth random field, mean 0 and standard deviation 1."""
    field = cv2.GaussianBlur(random.normal(size=shape).astype(np.float32), (0, 0), size)
    made: Field2 = np.asarray((field - field.mean()) / max(float(field.std()), 1e-6), np.float32)
    return made


class _Turning:
    """Three smooth fields: one stands, two come and go a quarter of a period apart; so the sum goes round."""

    def __init__(self, random: np.random.Generator, wide: float, size: float) -> None:
        shape = (LINES, max(2, round(LINES * wide)))
        self.stand, self.one, self.two = (_smooth(random, shape, size) for _ in range(3))

    def sum_at(self, turn: float) -> Field2:
        """Mean 0, standard deviation about 1."""
        angle = 2 * np.pi * turn
        made: Field2 = (self.stand + self.one * np.float32(np.cos(angle)) + self.two * np.float32(np.sin(angle))) / 1.42
        return made


class Clouds(_Turning):
    """Soft clouds that form and go."""

    def __init__(self, random: np.random.Generator, wide: float, scale: float) -> None:
        super().__init__(random, wide, 11 * scale)

    def at(self, turn: float) -> Field2:
        """Values from 0 to 1."""
        made: Field2 = np.clip(0.5 + 0.25 * self.sum_at(turn), 0, 1)
        return made


class WaterLight(_Turning):
    """Bright lines where a slowly changing surface is level, like light on the floor of a basin."""

    def __init__(self, random: np.random.Generator, wide: float, scale: float) -> None:
        super().__init__(random, wide, 6 * scale)

    def at(self, turn: float) -> Field2:
        """Values from 0 to 1."""
        made: Field2 = np.exp(-((self.sum_at(turn) / 0.35) ** 2)) * np.float32(0.8)
        return made


class ColourFields(_Turning):
    """A few wide fields that run into each other."""

    def __init__(self, random: np.random.Generator, wide: float, scale: float) -> None:
        super().__init__(random, wide, 26 * scale)

    def at(self, turn: float) -> Field2:
        """Values from 0 to 1."""
        made: Field2 = (0.5 + 0.5 * np.tanh(1.2 * self.sum_at(turn))).astype(np.float32)
        return made


class FineWeave(_Turning):
    """Fine threads over and under each other, in slowly moving light."""

    def __init__(self, random: np.random.Generator, wide: float, scale: float) -> None:
        super().__init__(random, wide, 24 * scale)
        rows = np.arange(4 * LINES) / (4 * LINES) * 2 * np.pi * THREADS / scale
        columns = np.arange(round(4 * LINES * wide)) / (4 * LINES) * 2 * np.pi * THREADS / scale
        self.threads = (0.5 + 0.25 * np.sin(rows)[:, None] + 0.25 * np.sin(columns)[None, :]).astype(np.float32)

    def at(self, turn: float) -> Field2:
        """Values from 0 to 1."""
        light = cv2.resize(self.sum_at(turn), self.threads.shape[::-1], interpolation=cv2.INTER_LINEAR)
        made: Field2 = np.clip(self.threads * (0.5 + 0.18 * light), 0, 1)
        return made


class RisingSpecks:
    """Small soft lights that rise; each rises a whole number of heights in a period."""

    def __init__(self, random: np.random.Generator, wide: float, scale: float) -> None:
        self.shape = (SPECK_LINES, round(SPECK_LINES * wide))
        self.x, self.y = random.random(SPECKS) * self.shape[1], random.random(SPECKS)
        self.heights = random.integers(1, 3, SPECKS)
        self.size = (1.5 + 3 * random.random(SPECKS)) * scale
        self.bright = 0.3 + 0.7 * random.random(SPECKS)

    def at(self, turn: float) -> Field2:
        """Values from 0 to 1."""
        field = np.zeros(self.shape, np.float32)
        rows = self.shape[0]
        for x, y, heights, size, bright in zip(self.x, self.y, self.heights, self.size, self.bright, strict=True):
            height = (y - heights * turn) % 1 * (rows + 8 * size) - 4 * size
            reach = int(4 * size) + 1
            top, left = int(height) - reach, int(x) - reach
            down = np.arange(max(0, top), min(rows, top + 2 * reach + 1))
            across = np.arange(max(0, left), min(self.shape[1], left + 2 * reach + 1))
            if down.size and across.size:
                spot = np.exp(-((down - height)[:, None] ** 2 + (across - x)[None, :] ** 2) / (2 * size * size))
                field[down[0] : down[-1] + 1, across[0] : across[-1] + 1] += (bright * spot).astype(np.float32)
        made: Field2 = np.clip(field, 0, 1)
        return made


PATTERNS: dict[Pattern, type[Clouds] | type[WaterLight] | type[ColourFields] | type[FineWeave] | type[RisingSpecks]] = {
    "clouds": Clouds,
    "water_light": WaterLight,
    "colour_fields": ColourFields,
    "fine_weave": FineWeave,
    "rising_specks": RisingSpecks,
}
