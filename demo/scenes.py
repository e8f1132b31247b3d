"""What happens in each clip: makes its pictures, as stored, before grain."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import cv2
import numpy as np

from demo import scenery, tram
from demo.film import Film
from demo.pen import Image, Pen


def leaving_depot(film: Film) -> Iterator[Image]:
    """Number 7 comes towards the camera; upright, stored lying on its side."""
    ground = front_ground()
    for number in range(film.frames):
        part = number / film.frames
        yield cv2.rotate(front(ground.copy(), part), cv2.ROTATE_90_COUNTERCLOCKWISE)


def front_ground(size: tuple[int, int] = (1080, 1920)) -> Image:
    """The street before the depot, upright, without a tram. `size` is width and height in pixels."""
    ground = np.zeros((size[1], size[0], 3), np.uint8)
    scenery.sky(ground)
    pen = Pen(ground, ground.shape[1] / 1080, ground.shape[0] / 1920)
    scenery.hills(pen, 1080, 1100)
    scenery.houses(pen, 1080, 1180)
    scenery.street(pen, 1080, 1180, 1920)
    scenery.rails_away(pen, 540, 1180, 1920)
    scenery.wires(pen, 1080, 130, 60)
    return ground


def front(image: Image, part: float) -> Image:
    """Number 7 on it, at a part of its way towards the camera."""
    pen = Pen(image, image.shape[1] / 1080, image.shape[0] / 1920)
    scenery.clock(pen, 900, 700, 78, 5 + 60 * part, 1200)
    nearer = 0.72 + 0.4 * part * part
    tram.front(pen.moved(540 + 12 * np.sin(part * 9), 1240 + 420 * part, nearer))
    return image


def waiting(size: tuple[int, int]) -> Image:
    """A photograph, upright: number 7 stands before its depot. `size` is width and height in pixels."""
    return front(front_ground(size), 0.35)


@dataclass(frozen=True, slots=True)
class Street:
    """A street seen from the side, in units of which a picture is so many high.

    Attributes:
        height: units from top to bottom.
        horizon: where the houses stand.
        rail: where the trams run.
        wire: height and sag of the wire.
        clock: x, y, radius, minutes past at the start, length of its post.
        tram: where a tram's left end is at a part (0 to 1) of the clip, how far it has rolled, and its size.
        finer: how much finer than stored it is drawn; smooth edges widen a shape by half a stored pixel, which on
            oblong pixels is not the same both ways.
    """

    height: float
    horizon: float
    rail: float
    wire: tuple[float, float]
    clock: tuple[float, float, float, float, float]
    tram: Callable[[float], tuple[float, float, float]]
    finer: int = 1

    def pictures(self, film: Film, moments: int | None = None) -> Iterator[Image]:
        """Every picture of a film, or as many moments of it as asked."""
        count = moments or film.frames
        taken = self.picture(film)
        for number in range(count):
            yield taken(number / count)

    def picture(self, film: Film) -> Callable[[float], Image]:
        """What makes the picture of a part (0 to 1) of it."""
        down = self.finer * film.height / self.height
        across = down / float(film.pixel_aspect)
        width = self.finer * film.width / across
        ground = np.zeros((self.finer * film.height, self.finer * film.width, 3), np.uint8)
        scenery.sky(ground)
        pen = Pen(ground, across, down)
        scenery.hills(pen, width, self.horizon - 110)
        scenery.houses(pen, width, self.horizon)
        scenery.street(pen, width, self.horizon, self.height)
        scenery.rails_along(pen, width, self.rail)
        scenery.wires(pen, width, *self.wire)

        def taken(part: float) -> Image:
            image = ground.copy()
            self._moving(Pen(image, across, down), part)
            small = (film.width, film.height)
            return image if self.finer == 1 else cv2.resize(image, small, interpolation=cv2.INTER_AREA)

        return taken

    def _moving(self, pen: Pen, part: float) -> None:
        x, y, radius, minutes, post = self.clock
        scenery.clock(pen, x, y, radius, minutes + 60 * part, post)
        left, rolled, size = self.tram(part)
        tram.side(pen.moved(left, self.rail + 2, size), rolled / size)


def points_lever(film: Film) -> Iterator[Image]:
    """A tram waits beside the station clock and sets off; a 4:3 tape."""
    return Street(
        1080, 760, 930, (150, 30), (1180, 330, 110, 20, 800), lambda t: (-160 + 900 * t * t, 900 * t * t, 1), 3
    ).pictures(film)


def crossing(film: Film) -> Iterator[Image]:
    """A tram crosses the square from left to right."""
    return Street(
        1080, 740, 900, (190, -24), (1560, 380, 100, 35, 780), lambda t: (-1100 + 2500 * t, 2500 * t, 0.92)
    ).pictures(film)


def long_street(film: Film) -> Iterator[Image]:
    """A tram comes down a long street; the lens has squeezed it to half its width."""
    return Street(
        1080, 790, 960, (140, 40), (2350, 360, 120, 10, 840), lambda t: (250 + 1000 * t, 1000 * t, 1), 2
    ).pictures(film)


def relay_crew(film: Film) -> Iterator[Image]:
    """A tram passes at speed; taken as fifty fields a second, upper first, and woven in pairs."""
    fields = Street(
        1080, 760, 930, (150, 30), (330, 300, 110, 50, 800), lambda t: (-900 + 2100 * t, 2100 * t, 1), 2
    ).pictures(film, 2 * film.frames)
    for upper, lower in zip(fields, fields, strict=True):
        woven = lower.copy()
        woven[::2] = upper[::2]
        yield woven


def visitors(film: Film) -> Iterator[Image]:
    """A tram waits, then draws back; a 4:3 tape of 480 lines."""
    return Street(
        1080, 770, 940, (170, 26), (240, 340, 105, 5, 790), lambda t: (420 - 500 * t * t, -500 * t * t, 0.96), 3
    ).pictures(film)


def letterboxed(film: Film) -> Iterator[Image]:
    """A finished film of 2.39, with its bars already in the picture: 804 lines of 1080."""
    inner = Film(film.width, 804, film.rate, film.seconds)
    scene = Street(804, 590, 720, (110, -20), (420, 260, 84, 15, 620), lambda t: (1500 - 1700 * t, -1700 * t, 0.8))
    for picture in scene.pictures(inner):
        yield cv2.copyMakeBorder(picture, 138, 138, 0, 0, cv2.BORDER_CONSTANT, value=(0, 0, 0))
