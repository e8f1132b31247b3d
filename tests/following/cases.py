"""Made clips in which it is known where the subject is: the set that following is measured by."""

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache
from pathlib import Path

import numpy as np

from tests.clips import write_clip
from tests.following import drawing

WIDTH, HEIGHT, RATE = 640, 360, Fraction(25)
WIDE = {"crf": "16", "preset": "superfast", "g": "25"}
Where = tuple[float, float] | None
"""The middle of a subject in pixels of the picture; None where it cannot be seen."""
RED, BLUE, GREEN = (200, 40, 40), (40, 60, 210), (40, 170, 70)


@dataclass(frozen=True)
class Case:
    """A clip.

    Attributes:
        name: what it is for.
        frames: how many pictures.
        paint: a picture, by its number.
        subjects: for each subject, where it is in a picture by its number.
        size: columns and rows.
        frame: what it goes into.
        cuts: numbers of the pictures that begin another shot.
        still: whether nothing of it moves, and the window is to stand perfectly still.
        steady: whether the window has no more reason to turn than a calm operator has.
        how: what else it is written with.
        inset: columns of bars at either side, which are no part of the picture.
        hard: whether nobody could tell by looking who is meant; it counts only for how sure the window is.
    """

    name: str
    frames: int
    paint: Callable[[int], np.ndarray]
    subjects: tuple[Callable[[int], Where], ...]
    size: tuple[int, int] = (WIDTH, HEIGHT)
    frame: tuple[int, int] = (1080, 1920)
    cuts: tuple[int, ...] = ()
    still: bool = False
    how: dict = field(default_factory=dict)
    inset: int = 0
    hard: bool = False

    def write(self, folder: Path) -> Path:
        """The clip as a file."""
        path = folder / f"{self.name.replace(' ', '-')}.mp4"
        return write_clip(
            path, size=self.size, frames=self.frames, paint=self.paint, sound=None, options=WIDE, **self.how
        )


@cache
def _grain() -> np.ndarray:
    """Noise of unit deviation, larger than any picture, so that each picture has another part of it."""
    return np.random.default_rng(0).standard_normal((760, 900, 3)).astype(np.float32)


def noisy(image: np.ndarray, number: int, amount: float) -> np.ndarray:
    """A picture with noise of a standard deviation, codes of 8 bits."""
    top, left = (int(place) for place in np.random.default_rng(number).integers(0, 100, 2))
    rows, columns = image.shape[:2]
    noise = _grain()[top : top + rows, left : left + columns]
    return np.clip(image + np.float32(amount) * noise, 0, 255).astype(np.uint8)


def ramp(number: float, *points: tuple[float, float]) -> float:
    """A value that goes straight from point to point: number of the picture, value."""
    return float(np.interp(number, [at for at, _ in points], [value for _, value in points]))


def _walker(
    name: str,
    way: Callable[[int], tuple[float, float]],
    frames: int = 200,
    tall: float = 150,
    seed: int = 1,
    noise: float = 2.0,
    shake: float = 0,
    gait: Callable[[int], float] = lambda number: number,
    after: Callable[[np.ndarray, int], np.ndarray] = lambda image, number: image,
    hidden: tuple[int, int] = (0, 0),
    grows: Callable[[int], float] = lambda number: 1.0,
    **more: object,
) -> Case:
    def shift(number: int) -> tuple[int, int]:
        if not shake:
            return 0, 0
        return int(shake * np.sin(number * 0.9)) + int(shake * 0.6 * np.sin(number * 2.3)), int(
            shake * 0.7 * np.sin(number * 1.3)
        )

    def paint(number: int) -> np.ndarray:
        x, y = shift(number)
        wide = drawing.place(seed, WIDTH + 160, HEIGHT + 160)
        image = wide[80 + y : 80 + y + HEIGHT, 80 + x : 80 + x + WIDTH].copy()
        at = way(number)
        drawing.put_walker(image, at[0] - x, at[1] - y, tall * grows(number), gait(number), RED)
        return noisy(after(image, number), number, noise)

    def where(number: int) -> Where:
        x, y = shift(number)
        at = way(number)[0] - x, way(number)[1] - y
        seen = 0 <= at[0] < WIDTH and not hidden[0] <= number < hidden[1]
        return at if seen else None

    return Case(name, frames, paint, (where,), **more)


def _pillar(image: np.ndarray, _: int) -> np.ndarray:
    image[:, 290:370] = drawing.place(9, 80, HEIGHT)
    return image


def _leaves(image: np.ndarray, number: int) -> np.ndarray:
    random = np.random.default_rng(number // 3)
    for _ in range(25):
        x, y = int(random.integers(430, 620)), int(random.integers(10, 120))
        image[y : y + 6, x : x + 8] = random.integers(40, 120, 3)
    return image


def _head(name: str, way: Callable[[int], tuple[float, float]], side: float, frames: int = 150, **more: object) -> Case:
    size = more.get("size", (WIDTH, HEIGHT))

    def paint(number: int) -> np.ndarray:
        image = drawing.place(4, *size).copy()
        x, y = way(number)
        body = (40, 60, 120)
        import cv2

        cv2.ellipse(image, (int(x), int(y + side * 1.6)), (int(side * 0.9), int(side * 1.1)), 0, 0, 360, body, -1)
        drawing.put_face(image, x, y, side)
        return noisy(image, number, 1.5)

    return Case(name, frames, paint, (way,), **more)


def _two(
    name: str,
    ways: tuple[Callable[[int], tuple[float, float]], ...],
    talls: tuple[float, ...],
    whom: tuple[int, ...],
    frames: int = 200,
) -> Case:
    def paint(number: int) -> np.ndarray:
        image = drawing.place(6, WIDTH, HEIGHT).copy()
        for way, tall, colour in zip(ways, talls, (RED, BLUE), strict=True):
            drawing.put_walker(image, *way(number), tall, number, colour)
        return noisy(image, number, 2)

    def seen(way: Callable[[int], tuple[float, float]]) -> Callable[[int], Where]:
        return lambda number: way(number) if 0 <= way(number)[0] < WIDTH else None

    return Case(name, frames, paint, tuple(seen(ways[one]) for one in whom))


def _pan() -> Case:
    """The camera goes past somebody who stands and waves."""

    def left(number: int) -> float:
        return ramp(number, (0, 0), (30, 0), (170, 420), (200, 420))

    def paint(number: int) -> np.ndarray:
        wide = drawing.place(12, WIDTH + 440, HEIGHT)
        image = wide[:, int(left(number)) : int(left(number)) + WIDTH].copy()
        drawing.put_walker(image, 540 - int(left(number)), 210, 170, number, GREEN)
        return noisy(image, number, 2)

    return Case("camera pans past", 200, paint, (lambda number: (540 - int(left(number)), 210.0),))


def _followed_pan() -> Case:
    """The camera goes along with somebody who walks."""

    def paint(number: int) -> np.ndarray:
        left = 2 * number
        wide = drawing.place(13, WIDTH + 420, HEIGHT)
        image = wide[:, left : left + WIDTH].copy()
        drawing.put_walker(image, 220, 210, 160, number, RED)
        return noisy(image, number, 2)

    return Case("camera goes along", 200, paint, (lambda number: (220.0, 210.0),))


def _cuts() -> Case:
    """Three shots, somebody elsewhere in each."""
    starts, places = (0, 70, 140), ((130, 1.0), (500, -0.9), (320, 0.6))

    def shot(number: int) -> int:
        return sum(number >= start for start in starts) - 1

    def where(number: int) -> tuple[float, float]:
        x, speed = places[shot(number)]
        return x + speed * (number - starts[shot(number)]), 210.0

    def paint(number: int) -> np.ndarray:
        image = drawing.place(20 + shot(number), WIDTH, HEIGHT).copy()
        drawing.put_walker(image, *where(number), 160, number, (RED, BLUE, GREEN)[shot(number)])
        return noisy(image, number, 2)

    return Case("cuts", 210, paint, (where,), cuts=starts[1:])


def _trolley() -> Case:
    def where(number: int) -> Where:
        x = -40 + 6.5 * (number - 20)
        return (x, 250.0) if 0 <= x < WIDTH else None

    def paint(number: int) -> np.ndarray:
        image = drawing.place(15, WIDTH, HEIGHT).copy()
        drawing.put_trolley(image, -40 + 6.5 * (number - 20), 250, 70, number, BLUE)
        return noisy(image, number, 2)

    return Case("car passes fast", 140, paint, (where,))


def _upright_walker() -> Case:
    def way(number: int) -> tuple[float, float]:
        return 180.0, ramp(number, (0, 470), (60, 470), (130, 180), (200, 180))

    def paint(number: int) -> np.ndarray:
        image = drawing.place(17, 360, 640).copy()
        drawing.put_walker(image, *way(number), 130, number, RED)
        return noisy(image, number, 2)

    return Case("climbs, upright into wide", 200, paint, (way,), size=(360, 640), frame=(1920, 1080))


def _still() -> Case:
    picture = _head("", lambda number: (420.0, 150.0), 90).paint(0)
    return Case("nothing moves", 120, lambda number: picture, (lambda number: (420.0, 150.0),), still=True)


def _bars() -> Case:
    plain = _walker("", lambda number: (ramp(number, (0, 120), (180, 400)), 210), size=(WIDTH, HEIGHT))

    def paint(number: int) -> np.ndarray:
        image = plain.paint(number)
        image[:, :80], image[:, -80:] = 16, 16
        return image

    def where(number: int) -> Where:
        at = plain.subjects[0](number)
        return at if at and 80 <= at[0] < 560 else None

    return Case("bars in the picture", 180, paint, (where,), inset=80)


def _equals() -> Case:
    """Two who are alike, at both edges; one is meant."""

    def paint(number: int) -> np.ndarray:
        image = drawing.place(23, WIDTH, HEIGHT).copy()
        for x, colour, gait in ((90 + 14 * np.sin(number / 9), RED, 0), (550 + 14 * np.sin(number / 8), BLUE, 2)):
            drawing.put_walker(image, x, 210, 150, number + gait, colour)
        return noisy(image, number, 2)

    return Case("two alike at both edges", 150, paint, (lambda n: (550 + 14 * np.sin(n / 8), 210.0),), hard=True)


def _outshone() -> Case:
    """Somebody small is meant, and cars pass."""

    def paint(number: int) -> np.ndarray:
        image = drawing.place(24, WIDTH, HEIGHT).copy()
        drawing.put_walker(image, 540 - 0.2 * number, 150, 60, number, GREEN)
        for since in (10, 110):
            drawing.put_trolley(image, -60 + 7 * (number - since), 270, 90, number, BLUE)
        return noisy(image, number, 2)

    return Case("small, and cars pass", 200, paint, (lambda n: (540 - 0.2 * n, 150.0),), hard=True)


CASES: tuple[Case, ...] = (
    _walker("crosses", lambda n: (ramp(n, (0, 60), (200, 580)), 210)),
    _walker(
        "stops and goes",
        lambda n: (ramp(n, (0, 80), (70, 300), (140, 300), (200, 520)), 210),
        gait=lambda n: n if n < 70 else 70 if n < 140 else n - 70,
    ),
    _walker("stops for good", lambda n: (ramp(n, (0, 100), (60, 420), (200, 420)), 210), gait=lambda n: min(n, 60)),
    _walker("comes in late", lambda n: (ramp(n, (0, 720), (60, 720), (160, 380), (200, 380)), 210)),
    _walker("goes out", lambda n: (ramp(n, (0, 300), (50, 300), (140, 720), (200, 720)), 210)),
    _walker(
        "runs", lambda n: (ramp(n, (0, 60), (30, 60), (75, 580), (125, 580)), 210), frames=125, gait=lambda n: 2 * n
    ),
    _walker("drifts slowly", lambda n: (ramp(n, (0, 250), (200, 390)), 210)),
    _walker("turns back", lambda n: (ramp(n, (0, 100), (80, 520), (110, 520), (200, 140)), 210)),
    _walker("behind a pillar", lambda n: (ramp(n, (0, 60), (200, 600)), 210), after=_pillar, hidden=(86, 116)),
    _walker("shaking camera", lambda n: (ramp(n, (0, 120), (200, 520)), 210), shake=9),
    _walker("shaking, stands", lambda n: (430.0, 210), shake=9),
    _walker("noise", lambda n: (ramp(n, (0, 80), (200, 560)), 210), noise=16),
    _walker(
        "dark",
        lambda n: (ramp(n, (0, 80), (200, 560)), 210),
        after=lambda image, n: (image * 0.3).astype(np.uint8),
        noise=3,
    ),
    _walker("leaves beside", lambda n: (ramp(n, (0, 320), (200, 90)), 210), after=_leaves),
    _walker("comes nearer", lambda n: (ramp(n, (0, 200), (200, 420)), 210), tall=90, grows=lambda n: 1 + n / 140),
    _walker("small, far", lambda n: (ramp(n, (0, 120), (200, 500)), 230), tall=56),
    _walker("turned phone clip", lambda n: (ramp(n, (0, 90), (180, 540)), 210), frames=180, how={"rotation": 180}),
    _walker(
        "wide pixels", lambda n: (ramp(n, (0, 90), (180, 540)), 210), frames=180, how={"pixel_aspect": Fraction(4, 3)}
    ),
    _two(
        "crossing, one larger",
        (lambda n: (ramp(n, (0, 80), (200, 560)), 205), lambda n: (ramp(n, (0, 560), (200, 80)), 230)),
        (190, 70),
        (0,),
    ),
    _two(
        "two who fit",
        (lambda n: (ramp(n, (0, 180), (200, 400)), 210), lambda n: (ramp(n, (0, 262), (200, 482)), 215)),
        (150, 150),
        (0, 1),
    ),
    _two(
        "one goes, one stays",
        (lambda n: (ramp(n, (0, 460), (40, 460), (110, 720), (200, 720)), 210), lambda n: (150.0, 230)),
        (175, 60),
        (0,),
    ),
    _head("talks", lambda n: (400 + 14 * np.sin(n / 19), 150 + 4 * np.sin(n / 11)), 100),
    _head("small face", lambda n: (470 + 5 * np.sin(n / 25), 140.0), 42),
    _head(
        "face moves, upright into wide",
        lambda n: (180.0, ramp(n, (0, 180), (50, 180), (110, 400), (150, 400))),
        90,
        size=(360, 640),
        frame=(1920, 1080),
    ),
    _pan(),
    _followed_pan(),
    _cuts(),
    _trolley(),
    _upright_walker(),
    _still(),
    _bars(),
    _equals(),
    _outshone(),
)
