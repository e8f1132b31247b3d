"""What is more than one take: an edited film of five shots, and a tilt that came out too slow."""

from collections.abc import Callable, Iterator
from itertools import chain

import cv2
import numpy as np

from demo import scenery, scenes, tram
from demo.film import Film
from demo.pen import Image, Pen, hexed

SHOTS = 5
DISSOLVE, FLASH = 12, 2  # pictures, at most
FLASH_AT = 0.4  # of the shot
BRICK, MORTAR, DOOR, PLATE = hexed("#8E5A48"), hexed("#A7705A"), hexed("#2E5C4E"), hexed("#EFE2C2")
TILT, TALL = 0.16, 1.5  # of a picture's height: how far it goes, and how tall what it goes along is


def portrait(film: Film) -> Iterator[Image]:
    """Number 7 in five shots: across the square, from the front, a wheel, the clock with a camera's flash on it, and,
    out of a dissolve, the way home.
    """
    length = film.frames // SHOTS
    blend = min(DISSOLVE, length // 2)
    takes: list[Callable[[float], Image]] = [_take(film, home=False), _front(film), _wheel(film), _clock(film)]
    cuts = [[take(number / length) for number in range(length)] for take in takes[:3]]
    clock = [takes[3](number / length) for number in range(length + blend)]
    for number in range(round(FLASH_AT * length), round(FLASH_AT * length) + min(FLASH, length // 4)):
        clock[number] = cv2.addWeighted(clock[number], 0.25, np.full_like(clock[number], 255), 0.75, 0)
    last = film.frames - (SHOTS - 1) * length
    home = [_take(film, home=True)(number / last) for number in range(last)]
    for number in range(blend):
        share = (number + 1) / (blend + 1)
        home[number] = cv2.addWeighted(clock[length + number], 1 - share, home[number], share, 0)
    return chain(*cuts, clock[:length], home)


def _take(film: Film, *, home: bool) -> Callable[[float], Image]:
    """The square from the side, crossed one way or the other."""
    street = scenes.Street(
        1080,
        740 if home else 800,
        900 if home else 960,
        (190, -24),
        (420 if home else 1560, 360, 100, 35, 780),
        lambda t: (1500 - 1900 * t, -1900 * t, 0.9) if home else (-1000 + 1900 * t, 1900 * t, 0.92),
    )
    return street.picture(film)


def _front(film: Film) -> Callable[[float], Image]:
    """Number 7 from the front, nearer and nearer: out of a picture that is upright."""
    ground = scenes.front_ground()

    def taken(part: float) -> Image:
        upright = scenes.front(ground.copy(), 0.25 + 0.5 * part)
        rows = round(upright.shape[1] * film.height / film.width)
        return cv2.resize(upright[760 : 760 + rows], (film.width, film.height), interpolation=cv2.INTER_AREA)

    return taken


def _wheel(film: Film) -> Callable[[float], Image]:
    def taken(part: float) -> Image:
        image = np.full((film.height, film.width, 3), scenery.STREET, np.uint8)
        scale = film.height / 1080
        pen = Pen(image, scale, scale)
        pen.box(0, 0, film.width / scale, 420, tram.GREEN)
        pen.box(0, 300, film.width / scale, 130, tram.CREAM)
        for middle in (380.0, 1540.0):
            tram.wheel(pen, middle, 600, 620 * part, 300)
        pen.box(0, 896, film.width / scale, 40, scenery.RAIL)
        return image

    return taken


def _clock(film: Film) -> Callable[[float], Image]:
    def taken(part: float) -> Image:
        image = np.zeros((film.height, film.width, 3), np.uint8)
        scenery.sky(image)
        scale = film.height / 1080
        pen = Pen(image, scale, scale)
        scenery.hills(pen, film.width / scale, 1000)
        scenery.clock(pen, film.width / scale * 0.62, 470, 330, 20 + 8 * part, 1100)
        return image

    return taken


def slow_tilt(film: Film) -> Iterator[Image]:
    """Up the front of the depot by hand, evenly and too slowly: less than a pixel a picture."""
    tall = round(film.height * TALL)
    depot = np.zeros((tall, film.width, 3), np.uint8)
    _depot(depot)
    begin, way = float(tall - film.height), TILT * film.height
    for number in range(film.frames):
        place = np.array([[1, 0, 0], [0, 1, way * number / film.frames - begin]], np.float64)
        yield cv2.warpAffine(depot, place, (film.width, film.height), flags=cv2.INTER_LINEAR)


def _depot(image: Image) -> None:
    """A brick hall of the tramway with a gable, a plate, two tall doors and rails out of each."""
    scenery.sky(image)
    pen = Pen(image, image.shape[1] / 1920, image.shape[0] / 1620)
    pen.shape([(160, 420), (960, 120), (1760, 420), (1760, 1420), (160, 1420)], BRICK)
    for row in range(44, 142, 2):
        pen.box(160, row * 10, 1600, 3, MORTAR)
    pen.box(660, 300, 600, 120, PLATE, 12)
    pen.box(690, 330, 540, 60, DOOR, 8)
    scenery.clock(pen, 960, 560, 90, 41, 660)
    for left in (290, 1030):
        pen.box(left, 760, 600, 660, scenery.IRON)
        for leaf in range(4):
            pen.box(left + 16 + leaf * 146, 780, 130, 640, DOOR)
            pen.box(left + 36 + leaf * 146, 810, 90, 150, scenery.WINDOW)
    scenery.street(pen, 1920, 1420, 1620)
    for middle in (590, 1330):
        scenery.rails_away(pen, middle, 1425, 1620)
