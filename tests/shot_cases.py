"""Made clips whose cuts are known: over noise, flashes, whip pans, fades, in fields, at a rate that varies."""

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

WIDTH, HEIGHT = 192, 108
WHIP, THROW = 8, 41
LENGTHS = (17, 25, 40, 31, 22, 55, 28)


def scene(seed: int) -> np.ndarray:
    """A picture wider than the frame: soft fields of colour and some hard shapes, (108, 768, 3), as in one place."""
    random = np.random.default_rng(seed)
    small = random.uniform(20, 230, (4, 12, 3)).astype(np.float32)
    wide = cv2.resize(small, (4 * WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)
    for _ in range(14):
        x, y = random.integers(0, 4 * WIDTH), random.integers(0, HEIGHT)
        side = int(random.integers(6, 34))
        colour = tuple(float(code) for code in random.uniform(0, 255, 3))
        cv2.rectangle(wide, (int(x), int(y)), (int(x) + side, int(y) + side // 2 + 4), colour, -1)
    return np.clip(wide, 0, 255)


@dataclass(frozen=True)
class Case:
    """A clip.

    Attributes:
        name: what it is for.
        lengths: pictures of each shot.
        noise: standard deviation, codes of 8 bits.
        pan: columns a picture that the camera moves.
        whip: number of the picture in each shot at which the camera is thrown round, in eight pictures; 0 for none.
        seen: numbers of the pictures at which a cut is to be found, where those are not all.
        change: what becomes of a picture, by its number and that within its shot.
    """

    name: str
    lengths: tuple[int, ...] = LENGTHS
    noise: float = 2
    pan: float = 1
    whip: int = 0
    seen: tuple[int, ...] | None = None
    change: Callable[[np.ndarray, int, int], np.ndarray] = lambda image, number, within: image

    @property
    def cuts(self) -> list[int]:
        """Numbers of the pictures that begin another shot."""
        return [int(at) for at in np.cumsum(self.lengths)[:-1]] if self.seen is None else list(self.seen)

    def paint(self, number: int) -> np.ndarray:
        """A picture."""
        ends = np.cumsum(self.lengths)
        shot = int(np.searchsorted(ends, number, side="right"))
        within = number - int(ends[shot] - self.lengths[shot])
        wide = scene(100 + shot + 31 * len(self.name))
        thrown = min(max(within - self.whip, 0), WHIP) if self.whip else 0
        left = int(within * self.pan + thrown * THROW) % (3 * WIDTH)
        seen = wide[:, left : left + WIDTH].copy()
        if 0 < thrown < WHIP:
            seen = cv2.blur(seen, (THROW, 1))
        image = self.change(seen, number, within)
        if self.noise:
            image = image + np.random.default_rng(number).normal(0, self.noise, image.shape)
        return np.clip(image, 0, 255).astype(np.uint8)


def flash(image, number, within):
    """A camera's flash, two pictures long, in the middle of every shot; the second dies away."""
    return image * 0.15 + 235 * 0.85 if within == 9 else image * 0.6 + 90 if within == 10 else image


def fade(image, number, within):
    """Out of black over ten pictures, and back into it."""
    return image * min(1.0, within / 10)


def light(image, number, within):
    """Light that flickers by a tenth."""
    return image * (1 + 0.1 * np.sin(number * 1.7))


def dip(image, number, within):
    """Out of black over 25 pictures, and back into it: what is not a cut is not called one."""
    return image * min(1, within / 25, (60 - within) / 25)


def grey(image, number, within):
    """Without colour: only lightness tells."""
    return np.repeat(image.mean(axis=2, keepdims=True), 3, axis=2)


def flash_at_cut(image, number, within):
    """A flash three pictures behind every cut."""
    return image * 0.2 + 220 * 0.8 if within == 3 else image


CASES = (
    Case("plain"),
    Case("noise", noise=9),
    Case("dark", change=lambda image, number, within: image * 0.25),
    Case("flashes", change=flash),
    Case("fades", change=fade, noise=1),
    Case("flicker", change=light),
    Case("whip pans", whip=6),
    Case("whip pan in one shot", lengths=(80,), whip=20),
    Case("grey", change=grey),
    Case("flash behind the cut", change=flash_at_cut),
    Case("dips to black", change=dip, lengths=(60, 60, 60), noise=1, seen=()),
    Case("fast pans", pan=9),
    Case("still camera", pan=0, noise=1),
    Case("short shots", lengths=(9, 12, 8, 15, 10, 9, 14, 11)),
    Case("very short shots", lengths=(12, 5, 6, 4, 14, 5, 12)),
    Case("one shot", lengths=(120,), pan=3),
    Case("one shot with flashes", lengths=(90,), change=flash, pan=2),
)
