"""The demonstration clips, and drawing them all."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from demo import scenery, tram
from demo.film import Film, write
from demo.pen import Image, Pen
from demo.sound import street

FINER = 3  # smooth edges widen a shape by half a stored pixel, which on oblong pixels is not the same both ways
GRAIN = 1.6  # standard deviation of the film grain, in codes of 255


@dataclass(frozen=True, slots=True)
class Clip:
    """One demonstration clip.

    Attributes:
        file: its file name.
        name: what the museum calls it.
        film: how it is stored.
        draw: makes its pictures, as stored, before grain.
    """

    file: str
    name: str
    film: Film
    draw: Callable[[Film], Iterator[Image]]


def leaving_depot(film: Film) -> Iterator[Image]:
    """Number 7 comes towards the camera; upright, stored lying on its side."""
    ground = np.zeros((1920, 1080, 3), np.uint8)
    scenery.sky(ground)
    pen = Pen(ground, 1, 1)
    scenery.hills(pen, 1080, 1100)
    scenery.houses(pen, 1080, 1180)
    scenery.street(pen, 1080, 1180, 1920)
    scenery.rails_away(pen, 540, 1180, 1920)
    scenery.wires(pen, 1080, 130, 60)
    for number in range(film.frames):
        image = ground.copy()
        pen = Pen(image, 1, 1)
        part = number / film.frames
        scenery.clock(pen, 900, 700, 78, 5 + 60 * part, 1200)
        nearer = 0.72 + 0.4 * part * part
        tram.front(pen.moved(540 + 12 * np.sin(part * 9), 1240 + 420 * part, nearer))
        yield cv2.rotate(image, cv2.ROTATE_90_COUNTERCLOCKWISE)


def points_lever(film: Film) -> Iterator[Image]:
    """A tram waits beside the station clock and sets off; a 4:3 tape."""
    height = 1080.0
    down = FINER * film.height / height
    across = down / float(film.pixel_aspect)
    width = FINER * film.width / across
    ground = np.zeros((FINER * film.height, FINER * film.width, 3), np.uint8)
    scenery.sky(ground)
    pen = Pen(ground, across, down)
    scenery.hills(pen, width, 640)
    scenery.houses(pen, width, 760)
    scenery.street(pen, width, 760, height)
    scenery.rails_along(pen, width, 930)
    scenery.wires(pen, width, 150, 30)
    for number in range(film.frames):
        image = ground.copy()
        pen = Pen(image, across, down)
        part = number / film.frames
        travelled = 900 * part * part
        scenery.clock(pen, 1180, 330, 110, 20 + 60 * part, 800)
        tram.side(pen.moved(-160 + travelled, 932), travelled)
        yield cv2.resize(image, (film.width, film.height), interpolation=cv2.INTER_AREA)


def crossing(film: Film) -> Iterator[Image]:
    """A tram crosses the square from left to right."""
    ground = np.zeros((film.height, film.width, 3), np.uint8)
    scenery.sky(ground)
    pen = Pen(ground, 1, 1)
    scenery.hills(pen, 1920, 640)
    scenery.houses(pen, 1920, 740)
    scenery.street(pen, 1920, 740, 1080)
    scenery.rails_along(pen, 1920, 900)
    scenery.wires(pen, 1920, 190, -24)
    for number in range(film.frames):
        image = ground.copy()
        pen = Pen(image, 1, 1)
        part = number / film.frames
        travelled = 2500 * part
        scenery.clock(pen, 1560, 380, 100, 35 + 60 * part, 780)
        tram.side(pen.moved(-1100 + travelled, 902, 0.92), travelled / 0.92)
        yield image


CLIPS = (
    Clip(
        "depot.mp4",
        "Number 7 leaves the depot",
        Film(1920, 1080, Fraction(30), 5, rotation=90),
        leaving_depot,
    ),
    Clip(
        "points.mp4",
        "Points lever, hand tape",
        Film(720, 576, Fraction(25), 5, pixel_aspect=Fraction(12, 11), colour=5),
        points_lever,
    ),
    Clip("crossing.mp4", "Crossing the square", Film(1920, 1080, Fraction(24000, 1001), 5), crossing),
)


def draw_all(folder: Path) -> None:
    """Draw every clip that is not yet in a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    for number, clip in enumerate(CLIPS):
        path = folder / clip.file
        if not path.exists():
            sound = street(clip.film.frames / clip.film.rate, 82 + 9 * number)
            write(clip.film, path, grained(clip.draw(clip.film), number), sound)


def grained(pictures: Iterator[Image], seed: int) -> Iterator[Image]:
    """The pictures with the grain of film over them; every picture has its own, and every start the same."""
    random = np.random.default_rng(seed)
    grain: np.ndarray[tuple[int, int], np.dtype[np.int16]] | None = None
    for image in pictures:
        rows, columns = image.shape[:2]
        if grain is None:
            grain = random.normal(0, GRAIN, (rows * 2, columns * 2)).round().astype(np.int16)
        top, left = random.integers(rows), random.integers(columns)
        part = np.ascontiguousarray(grain[top : top + rows, left : left + columns])
        yield cv2.add(image, cv2.merge([part, part, part]), dtype=cv2.CV_8U)  # type: ignore[misc]
