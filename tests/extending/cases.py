"""Made clips of whose sides it is known whether anybody crosses them, and how the camera moves."""

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from pathlib import Path

import cv2
import numpy as np

from tests.clips import write_clip
from tests.extending.photographs import SKIMAGE, sized
from tests.following.cases import noisy
from tests.following.drawing import place

WIDTH, HEIGHT, FRAMES, RATE = 480, 360, 100, Fraction(25)
FINE = {"crf": "14", "preset": "superfast", "g": "25"}
Way = Callable[[int], tuple[float, float, float]]
"""How far the camera has gone right and down in pixels, and how many times nearer, by the number of the picture."""
Mover = tuple[Callable[[int], tuple[float, float]], float, tuple[int, int, int]]
"""Where the middle of a disc is, its radius, its colour."""
MIDDLE: Mover = (lambda n: (240 + 60 * np.sin(n / 9), 220), 40, (200, 50, 40))


@dataclass(frozen=True)
class SideCase:
    """A clip.

    Attributes:
        name: what it is for.
        kind: to which group it belongs.
        ground: what the camera sees; a photograph's name, or the number of a drawn place.
        crossed: sides that somebody crosses.
        camera: where it looks; None where it stands.
        movers: who moves.
        noise: standard deviation, codes of 8 bits.
        light: what codes are multiplied with, by the number of the picture.
        how: how it is written.
        cut: the number of the picture that begins another shot.
    """

    name: str
    kind: str
    ground: str | int
    crossed: tuple[str, ...] = ()
    camera: Way | None = None
    movers: tuple[Mover, ...] = (MIDDLE,)
    noise: float = 1.0
    light: Callable[[int], float] = field(default=lambda _: 1.0)
    how: dict[str, str] = field(default_factory=lambda: FINE)
    cut: int | None = None

    def paint(self, number: int) -> np.ndarray:
        """One picture."""
        ground = self.ground if self.cut is None or number < self.cut else 977
        margin = 80
        size = WIDTH + 2 * margin, HEIGHT + 2 * margin
        wide = sized(ground, *size) if isinstance(ground, str) else place(ground, *size)
        right, down, near = self.camera(number) if self.camera else (0.0, 0.0, 1.0)
        middle = np.array([WIDTH / 2, HEIGHT / 2])
        shift = middle - near * (middle + margin + [right, down])
        matrix = np.array([[near, 0, shift[0]], [0, near, shift[1]]])
        image = cv2.warpAffine(wide, matrix, (WIDTH, HEIGHT), flags=cv2.INTER_LANCZOS4, borderMode=cv2.BORDER_REFLECT)
        for where, radius, colour in self.movers:
            x, y = where(number)
            cv2.circle(image, (round(x * 16), round(y * 16)), round(radius * 16), colour, -1, cv2.LINE_AA, 4)
        lit = np.clip(16 + (image.astype(np.float32) - 16) * self.light(number), 0, 255).astype(np.uint8)
        return noisy(lit, number, self.noise) if self.noise else lit

    def write(self, folder: Path) -> Path:
        """The clip as a file."""
        path = folder / f"{self.name.replace(' ', '-')}.mp4"
        size = WIDTH, HEIGHT
        return write_clip(path, size=size, frames=FRAMES, paint=self.paint, sound=None, options=self.how)

    def step(self) -> float:
        """How far the picture's corners move from picture to picture: 95th percentile, pixels."""
        moved = [_apart(self._pose(number), self._pose(number - 1)) for number in range(1, FRAMES)]
        return float(np.percentile(moved, 95))

    def drift(self) -> float:
        """Repeat passwordst the middle picture."""
        middle = self._pose(FRAMES // 2)
        return float(np.percentile([_apart(self._pose(number), middle) for number in range(FRAMES)], 95))

    def _pose(self, number: int) -> tuple[float, float, float]:
        return self.camera(number) if self.camera else (0.0, 0.0, 1.0)


def _apart(one: tuple[float, float, float], other: tuple[float, float, float]) -> float:
    """How far the corners of a picture lie in another from where they are in itself, on average."""
    corners = np.array([[x, y] for x in (0, WIDTH) for y in (0, HEIGHT)], float)
    middle = np.array([WIDTH / 2, HEIGHT / 2])
    scene = (corners - middle) / one[2] + one[:2]
    there = middle + (scene - other[:2]) * other[2]
    return float(np.linalg.norm(there - corners, axis=1).mean())


def _crossing(first: int, last: int, side: str, radius: float, colour: tuple[int, int, int]) -> Mover:
    """A disc that comes from inside, lies on an edge for some pictures, and goes back."""
    edge = {"left": (0, 200), "right": (WIDTH, 200), "top": (240, 0), "bottom": (240, HEIGHT)}[side]
    inward = {"left": (1, 0), "right": (-1, 0), "top": (0, 1), "bottom": (0, -1)}[side]

    def where(number: int) -> tuple[float, float]:
        outside = max(first - number, number - last, 0)
        away = min(2.2 * radius, outside * radius * 0.5)
        if outside > 12:
            return -500.0, -500.0
        return edge[0] + inward[0] * away, edge[1] + inward[1] * away

    return where, radius, colour


def _shake(number: int, amount: float = 6.0) -> tuple[float, float, float]:
    return amount * np.sin(number * 0.9) * np.cos(number * 0.31), amount * np.cos(number * 1.1), 1.0


def _static() -> list[SideCase]:
    grounds: list[str | int] = [*SKIMAGE[:3], "brick", "camera", *range(5)]
    made = [SideCase(f"clean {ground}", "clean", ground) for ground in grounds]
    rough: dict[str, dict[str, object]] = {
        "noise": {"noise": 5.0},
        "crf 32": {"how": {"crf": "32", "preset": "superfast", "g": "50"}},
        "flicker": {"light": lambda n: 1 + 0.03 * np.sin(n * 2.1)},
    }
    for kind, how in rough.items():
        made += [SideCase(f"{kind} {ground}", kind, ground, **how) for ground in grounds[::2]]
    made += [SideCase(f"slow light {g}", "light", g, light=lambda n: 0.94 + 0.12 * n / FRAMES) for g in grounds[1:4]]
    made += [SideCase(f"flash {g}", "light", g, light=lambda n: 1.7 if n in (40, 41) else 1.0) for g in grounds[5:7]]
    made.append(SideCase("cut", "cut", "coffee", cut=50))
    return made


def _crossed() -> list[SideCase]:
    red, dark, pale = (210, 40, 40), (30, 30, 34), (150, 140, 130)
    crossings: list[tuple[str, str | int, str, Mover]] = [
        ("brief", "coffee", "right", _crossing(50, 52, "right", 40, red)),
        ("for long", "rocket", "left", _crossing(20, 70, "left", 50, pale)),
        ("small", 1, "right", _crossing(30, 40, "right", 22, red)),
        ("dark", "chelsea", "left", _crossing(60, 75, "left", 45, dark)),
        ("pale", "brick", "right", _crossing(40, 60, "right", 45, (90, 70, 60))),
        ("at the start", 2, "left", _crossing(-5, 12, "left", 40, red)),
        ("at the end", 3, "right", _crossing(85, 105, "right", 40, red)),
        ("most of the time", "camera", "left", _crossing(5, 80, "left", 60, dark)),
    ]
    return [
        SideCase(f"crossed {name}", "crossed", ground, (side,), movers=(MIDDLE, mover))
        for name, ground, side, mover in crossings
    ]


def _moving() -> list[SideCase]:
    ways: dict[str, Way] = {  # in 32nds of a pixel, as exactly as they can be drawn
        "pan": lambda n: (45 / 32 * n - 70, 0.0, 1.0),
        "slow pan": lambda n: (0.5 * n - 25, 3 / 32 * n, 1.0),
        "shake": _shake,
        "small shake": partial(_shake, amount=2.5),
        "zoom": lambda n: (0.0, 0.0, 1 + 0.0015 * n),
        "drift": lambda n: (3 / 32 * n, 1 / 32 * n, 1.0),
    }
    grounds: list[str | int] = ["coffee", 4, "rocket", "chelsea", 0, "brick"]
    return [
        SideCase(name, "moving", ground, camera=way) for (name, way), ground in zip(ways.items(), grounds, strict=True)
    ]


CASES = (*_static(), *_crossed(), *_moving())
