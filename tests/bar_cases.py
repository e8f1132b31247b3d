"""Made clips with and without bars in the picture, each with the right answer."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from pathlib import Path

import cv2
import numpy as np
from skimage import data

from tests.clips import write_clip

WIDTH, HEIGHT, FRAMES = 640, 360, 48
SPARE = 200
Image = np.ndarray
Change = Callable[[Image, int], Image]


@dataclass(frozen=True)
class Case:
    """One clip.

    Attributes:
        name: what it is.
        bars: left, right, top, bottom, in pixels.
        photo: which photograph moves behind the bars.
        level: the bars' R'G'B'.
        noise: standard deviation over picture and bars, codes of 255.
        scene: done to the picture before the bars are laid over it.
        over: done to the finished frame.
    """

    name: str
    bars: tuple[int, int, int, int] = (0, 0, 0, 0)
    photo: str = "coffee"
    level: tuple[int, int, int] = (0, 0, 0)
    noise: float = 0
    scene: Change | None = None
    over: Change | None = None

    def frames(self) -> Iterator[Image]:
        """Every frame, R'G'B'."""
        places = np.random.default_rng(7).integers(0, SPARE, (FRAMES, 2))
        left, right, top, bottom = self.bars
        photo = _enlarged(self.photo)
        for number in range(FRAMES):
            picture = _panned(photo, number, WIDTH - left - right, HEIGHT - top - bottom)
            if self.scene:
                picture = self.scene(picture, number)
            frame = np.empty((HEIGHT, WIDTH, 3), np.uint8)
            frame[:] = self.level
            frame[top : HEIGHT - bottom, left : WIDTH - right] = picture
            if self.over:
                frame = self.over(frame, number)
            if self.noise:
                row, column = places[number]
                grain = _grain()[row : row + HEIGHT, column : column + WIDTH]
                frame = np.clip(frame + self.noise * grain, 0, 255).astype(np.uint8)
            yield frame

    def write(self, folder: Path) -> Path:
        """The case as an H.264 file, compressed as a master would be."""
        pictures = list(self.frames())
        path = folder / "case.mp4"
        return write_clip(
            path,
            size=(WIDTH, HEIGHT),
            frames=FRAMES,
            rate=Fraction(24),
            paint=lambda number: pictures[number],
            sound=None,
            options={"crf": "18", "preset": "superfast"},
        )


@cache
def _grain() -> Image:
    """Normal noise of deviation 1; every frame has its own part of it."""
    return np.random.default_rng(7).standard_normal((HEIGHT + SPARE, WIDTH + SPARE, 3), np.float32)


def _enlarged(name: str) -> Image:
    photo = getattr(data, name)()
    colour = photo if photo.ndim == 3 else np.repeat(photo[..., None], 3, axis=2)
    return cv2.resize(colour[..., :3], (900, 640), interpolation=cv2.INTER_CUBIC)


def _panned(photo: Image, number: int, width: int, height: int) -> Image:
    """A window that wanders over a photograph."""
    x = round((900 - width) * (0.5 + 0.45 * np.sin(number / 9)))
    y = round((640 - height) * (0.5 + 0.45 * np.cos(number / 7)))
    return photo[y : y + height, x : x + width].copy()


def dark(picture: Image, _: int) -> Image:
    """A night scene: a tenth of the light, and only one lamp."""
    scene = (picture * 0.1).astype(np.uint8)
    height, width = scene.shape[:2]
    cv2.circle(scene, (width // 2, height // 2), height // 6, (200, 180, 120), -1, cv2.LINE_AA)
    return scene


def fading(picture: Image, number: int) -> Image:
    """From black and back to black."""
    return (picture * min(1, number / 20, (FRAMES - 1 - number) / 20)).astype(np.uint8)


def mostly_dark(picture: Image, number: int) -> Image:
    """Dark but for a few moments."""
    return picture if number % 16 < 4 else dark(picture, number)


def vignetted(picture: Image, _: int) -> Image:
    """Darker and darker towards every edge, down to black."""
    height, width = picture.shape[:2]
    across = np.minimum(1, np.minimum(np.arange(width), np.arange(width)[::-1]) / (width / 5))
    down = np.minimum(1, np.minimum(np.arange(height), np.arange(height)[::-1]) / (height / 5))
    return (picture * (down[:, None] * across)[..., None]).astype(np.uint8)


def logo(frame: Image, _: int) -> Image:
    """A mark that stays in the upper right corner."""
    cv2.circle(frame, (WIDTH - 45, 22), 15, (230, 230, 230), -1, cv2.LINE_AA)
    return frame


def subtitled(frame: Image, number: int) -> Image:
    """A line of text near the lower edge, now and then another."""
    if number % 24 < 18:
        text = "The last car leaves the depot" if number < 24 else "Mind the step, please"
        cv2.putText(frame, text, (110, HEIGHT - 14), cv2.FONT_HERSHEY_SIMPLEX, 0.8, (240, 240, 240), 2, cv2.LINE_AA)
    return frame


def straddling(frame: Image, number: int) -> Image:
    """Two lines of text, one of them across the edge of the lower bar."""
    if number % 24 < 18:
        for text, up in (("The last car leaves the depot", 38), ("at a quarter past eleven", 14)):
            cv2.putText(frame, text, (90, HEIGHT - up), cv2.FONT_HERSHEY_SIMPLEX, 0.85, (240, 240, 240), 2, cv2.LINE_AA)
    return frame


def ticker(frame: Image, number: int) -> Image:
    """A band of running text over the whole width, inside the lower bar."""
    frame[HEIGHT - 59 : HEIGHT - 33] = (30, 40, 120)
    text = "Depot news: the centenary parade begins at noon. " * 4
    place = (-9 * number, HEIGHT - 40)
    cv2.putText(frame, text, place, cv2.FONT_HERSHEY_SIMPLEX, 0.7, (240, 240, 240), 2, cv2.LINE_AA)
    return frame


LETTERBOX, SCOPE, NARROW = (0, 0, 46, 46), (0, 0, 30, 30), (0, 0, 13, 13)
PILLARBOX, UPRIGHT = (80, 80, 0, 0), (218, 218, 0, 0)
BOTH, UNEVEN, ONE = (80, 80, 45, 45), (0, 0, 24, 61), (0, 0, 0, 40)
BLANKING = (7, 9, 0, 0)
DEEP = (0, 0, 92, 92)
SHAPES = {
    "letterbox": LETTERBOX,
    "scope": SCOPE,
    "narrow letterbox": NARROW,
    "pillarbox": PILLARBOX,
    "upright": UPRIGHT,
    "both": BOTH,
    "uneven": UNEVEN,
    "one side": ONE,
    "blanking": BLANKING,
}
PHOTOS = ("coffee", "astronaut", "chelsea", "camera")

CASES: tuple[Case, ...] = (
    *(Case(f"{name}, {photo}", bars, photo) for name, bars in SHAPES.items() for photo in PHOTOS[:2]),
    *(Case(f"{name}, noise 3", bars, "chelsea", noise=3) for name, bars in SHAPES.items()),
    *(
        Case(f"{name}, noise 6", bars, noise=6)
        for name, bars in SHAPES.items()
        if name in ("letterbox", "pillarbox", "both")
    ),
    Case("letterbox, logo in the bar", LETTERBOX, "camera", over=logo),
    Case("letterbox, subtitles in the bar", LETTERBOX, "astronaut", over=subtitled),
    Case("letterbox, text across the edge", LETTERBOX, "astronaut", over=straddling),
    Case("letterbox, text across the edge, noise 3", LETTERBOX, "chelsea", noise=3, over=straddling),
    Case("deep letterbox, ticker", DEEP, "coffee", over=ticker),
    Case("deep letterbox, ticker, noise 3", DEEP, "chelsea", noise=3, over=ticker),
    Case("none, ticker", photo="coffee", over=ticker),
    Case("none, text across", photo="astronaut", over=straddling),
    Case("letterbox, logo, subtitles, noise 3", LETTERBOX, noise=3, over=lambda f, n: subtitled(logo(f, n), n)),
    Case("letterbox, fades", LETTERBOX, "chelsea", scene=fading),
    Case("pillarbox, fades", PILLARBOX, scene=fading),
    Case("letterbox, mostly dark", LETTERBOX, "astronaut", scene=mostly_dark),
    Case("grey letterbox", LETTERBOX, level=(90, 90, 90)),
    Case("white pillarbox", PILLARBOX, "astronaut", level=(255, 255, 255)),
    Case("blue pillarbox", PILLARBOX, "chelsea", level=(30, 50, 160)),
    *(Case(f"none, {photo}", photo=photo) for photo in PHOTOS),
    Case("none, dark", scene=dark),
    Case("none, dark, noise 3", photo="astronaut", scene=dark, noise=3),
    Case("none, fades", photo="astronaut", scene=fading),
    Case("none, dark towards the edges", photo="chelsea", scene=vignetted),
    Case("none, subtitles", photo="camera", over=subtitled),
    Case("none, noise 6", photo="chelsea", noise=6),
)
