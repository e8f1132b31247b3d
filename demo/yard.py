"""Upright takes whose scene goes on beyond them: the depot yard, the same with somebody who walks out of it, and a slow
pan along a street.
"""

from collections.abc import Iterator

import cv2
import numpy as np

from demo import scenery, tram
from demo.film import Film
from demo.pen import Image, Pen, hexed

TALL = 1920.0  # units of a picture's height
HORIZON = 1150.0
SHED, ROOF, DOOR = hexed("#8C6E58"), hexed("#4A4A4C"), hexed("#35534A")
COAT, SKIN, TROUSERS = hexed("#7A2F28"), hexed("#D8A988"), hexed("#2F3238")
WALKS_FROM = 3.0  # seconds
CLOUDS, COBBLES = 14.0, 10.0  # codes of 255
SHED_WIDTH = 430.0


def yard(film: Film) -> Iterator[Image]:
    """A tram stands in the yard with its lamps on and sways a little, as they do; the camera stands."""
    ground = _ground(film.width, film.height, 3)
    for number in range(film.frames):
        yield _with_tram(ground.copy(), film, number / float(film.rate))


def gate(film: Film) -> Iterator[Image]:
    """The same from the gate: after three seconds somebody walks out on the right."""
    ground = _ground(film.width, film.height, 8)
    scale = film.height / TALL
    for number in range(film.frames):
        time = number / float(film.rate)
        image = _with_tram(ground.copy(), film, time + 2)
        if time >= WALKS_FROM:
            _walker(Pen(image, scale, scale), 640 + 330 * (time - WALKS_FROM), 1640, time)
        yield image


def along(film: Film) -> Iterator[Image]:
    """A slow pan along the row of houses, evenly, by a part of a pixel more or less each picture."""
    wide = round(film.width * 2.4)
    row = np.zeros((film.height, wide, 3), np.uint8)
    scenery.sky(row)
    _textured(row[: round(film.height * 0.6)], CLOUDS, 5, 40)
    pen = Pen(row, film.height / TALL, film.height / TALL)
    units = wide / (film.height / TALL)
    scenery.hills(pen, units, HORIZON - 60)
    scenery.houses(pen, units, HORIZON)
    scenery.street(pen, units, HORIZON, TALL)
    _textured(row[round(HORIZON * film.height / TALL) :], COBBLES, 6, 3)
    scenery.rails_along(pen, units, 1500)
    for post in range(4):
        scenery.clock(pen, 330 + 640 * post, 640, 66, 12 + 9 * post, HORIZON + 40)
    way = wide - film.width - 4
    for number in range(film.frames):
        part = number / max(1, film.frames - 1)
        place = np.array([[1, 0, -2 - way * (0.5 - 0.5 * np.cos(np.pi * part))], [0, 1, 0]], np.float64)
        size = film.width, film.height
        yield cv2.warpAffine(row, place, size, flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)


def _ground(width: int, height: int, seed: int) -> Image:
    """The yard without anybody: sky with thin cloud, sheds side by side, setts."""
    ground = np.zeros((height, width, 3), np.uint8)
    scenery.sky(ground)
    scale = height / TALL
    horizon = round(HORIZON * scale)
    _textured(ground[:horizon], CLOUDS, seed, 60)
    pen = Pen(ground, scale, scale)
    units = width / scale
    scenery.hills(pen, units, HORIZON - 240)
    for number in range(4):
        _shed(pen, -300 + number * SHED_WIDTH, number)
    scenery.street(pen, units, HORIZON, TALL)
    _textured(ground[horizon:], COBBLES, seed + 1, 3)
    scenery.rails_away(pen, units / 2, HORIZON, TALL)
    return ground


def _shed(pen: Pen, x: float, number: int) -> None:
    """One bay of the depot: a gable, two doors, a lamp over them."""
    base, tall = HORIZON, 330.0
    pen.box(x, base - tall, SHED_WIDTH, tall, SHED)
    gable = [(x - 6, base - tall), (x + SHED_WIDTH / 2, base - tall - 110), (x + SHED_WIDTH + 6, base - tall)]
    pen.shape(gable, ROOF)
    for course in range(16):
        pen.box(x, base - tall + course * 21, SHED_WIDTH, 2, ROOF)
    for door in range(2):
        left = x + 40 + door * 182
        pen.box(left, base - 240, 168, 240, DOOR)
        pen.box(left + 82, base - 240, 4, 240, ROOF)
        pen.box(left + 14, base - 222, 60, 70, scenery.WINDOW if (number + door) % 2 else scenery.LIT)
        pen.box(left + 94, base - 222, 60, 70, scenery.WINDOW)
    pen.disc(x + SHED_WIDTH / 2, base - tall - 30, 16, scenery.LIT)


def _textured(part: Image, strength: float, seed: int, size: float) -> None:
    """Uneven as nature is: noise of two sizes, drawn wider than tall."""
    random = np.random.default_rng(seed)
    noise = np.zeros(part.shape[:2], np.float32)
    for share, sigma in ((0.65, size), (0.35, size / 3)):
        one = random.standard_normal(part.shape[:2], dtype=np.float32)
        soft = cv2.GaussianBlur(one, (0, 0), sigmaX=1.6 * sigma, sigmaY=sigma)
        noise += share * soft / max(float(soft.std()), 1e-6)
    part[:] = np.clip(part + strength * noise[..., None], 0, 255).astype(np.uint8)


def _with_tram(image: Image, film: Film, time: float) -> Image:
    scale = film.height / TALL
    pen = Pen(image, scale, scale)
    middle = film.width / scale / 2
    tram.front(pen.moved(middle + 5 * np.sin(time * 2.1), 1560, 0.78))
    return image


def _walker(pen: Pen, x: float, foot: float, time: float) -> None:
    """Somebody in a coat, walking to the right."""
    swing = 34 * np.sin(time * 7)
    pen.line((x, foot - 190), (x + swing, foot), 34, TROUSERS)
    pen.line((x, foot - 190), (x - swing, foot), 34, TROUSERS)
    pen.box(x - 46, foot - 420, 92, 250, COAT, 30)
    pen.line((x, foot - 380), (x - swing * 0.9, foot - 220), 26, COAT)
    pen.disc(x, foot - 470, 46, SKIN)
