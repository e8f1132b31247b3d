"""The demonstration clips, and drawing them all."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from fractions import Fraction
from multiprocessing import get_context
from pathlib import Path

import cv2
import numpy as np
from PIL import Image as Picture

from demo import edited, scenes, yard
from demo.film import Film, write
from demo.pen import Image
from demo.sound import street

GRAIN = 1.6  # standard deviation of the film grain, in codes of 255
PHOTOGRAPH = "waiting.jpg"
PHOTOGRAPH_SIZE = (1800, 2400)
STORED_ON_ITS_SIDE = 6  # Exif orientation: turn clockwise by 90 degrees
DRAWN_AT_ONCE = 2


@dataclass(frozen=True, slots=True)
class Clip:
    """One demonstration clip.

    Attributes:
        file: its file name.
        name: what the museum calls it.
        film: how it is stored.
        draw: makes its pictures, as stored, before grain.
        bars: lines of black above and below, which have no grain.
    """

    file: str
    name: str
    film: Film
    draw: Callable[[Film], Iterator[Image]]
    bars: int = 0


SAMPLED_625, SAMPLED_525 = Fraction(12, 11), Fraction(10, 11)

CLIPS = (
    Clip(
        "depot.mp4",
        "Number 7 leaves the depot",
        Film(1920, 1080, Fraction(30), 5, rotation=90),
        scenes.leaving_depot,
    ),
    Clip(
        "points.mp4",
        "Points lever, hand tape",
        Film(720, 576, Fraction(25), 5, pixel_aspect=SAMPLED_625, colour=5),
        scenes.points_lever,
    ),
    Clip("crossing.mp4", "Crossing the square", Film(1920, 1080, Fraction(24000, 1001), 5), scenes.crossing),
    Clip(
        "street.mp4",
        "Harbour street, squeezed reel",
        Film(2048, 1536, Fraction(24), 4, pixel_aspect=Fraction(2)),
        scenes.long_street,
    ),
    Clip(
        "relay.mp4",
        "Express to the harbour, field tape",
        Film(720, 576, Fraction(25), 4, pixel_aspect=SAMPLED_625, colour=5, fields="upper_first"),
        scenes.relay_crew,
    ),
    Clip(
        "visitors.mp4",
        "Open day, visitor's tape",
        Film(720, 480, Fraction(30000, 1001), 4, pixel_aspect=SAMPLED_525, colour=6),
        scenes.visitors,
    ),
    Clip("centenary.mp4", "Centenary film, master", Film(1920, 1080, Fraction(25), 4), scenes.letterboxed, bars=138),
    Clip("portrait.mp4", "Number 7, a portrait", Film(1280, 720, Fraction(25), 8), edited.portrait),
    Clip("facade.mp4", "Up the depot, too slow", Film(1920, 1080, Fraction(25), 5), edited.slow_tilt),
    Clip("yard.mp4", "The depot yard", Film(720, 1280, Fraction(25), 5), yard.yard),
    Clip("gate.mp4", "Out of the gate", Film(720, 1280, Fraction(25), 5), yard.gate),
    Clip("row.mp4", "Along Harbour Row", Film(720, 1280, Fraction(25), 5), yard.along),
)


def draw_all(folder: Path) -> None:
    """Draw every clip that is not yet in a folder, and the photograph."""
    folder.mkdir(parents=True, exist_ok=True)
    for _ in drawn(folder, [clip for clip in CLIPS if not (folder / clip.file).exists()]):
        pass
    if not (folder / PHOTOGRAPH).exists():
        photograph(folder / PHOTOGRAPH)


def drawn(folder: Path, clips: Sequence[Clip]) -> Iterator[Clip]:
    """Draw clips into a folder, in processes of their own; each is given once it is there, in its turn."""
    with ProcessPoolExecutor(DRAWN_AT_ONCE, mp_context=get_context("spawn")) as pool:
        done = pool.map(draw_one, [folder] * len(clips), [CLIPS.index(clip) for clip in clips])
        for clip, _ in zip(clips, done, strict=True):
            yield clip


def draw_one(folder: Path, number: int) -> None:
    """Draw one clip with its sound."""
    cv2.setNumThreads(1)
    clip = CLIPS[number]
    sound = street(float(clip.film.frames / clip.film.rate), 82 + 9 * number)
    write(clip.film, folder / clip.file, grained(clip.draw(clip.film), number, clip.bars), sound)


def photograph(path: Path) -> None:
    """A photograph as a camera stores it: on its side, with a tag that says which way is up."""
    upright = scenes.waiting(PHOTOGRAPH_SIZE)
    exif = Picture.Exif()
    exif[0x0112] = STORED_ON_ITS_SIDE
    stored = cv2.rotate(upright, cv2.ROTATE_90_COUNTERCLOCKWISE)
    Picture.fromarray(stored).save(path, quality=92, exif=exif)


def grained(pictures: Iterator[Image], seed: int, bars: int = 0) -> Iterator[Image]:
    """The pictures with the grain of film over them; every picture has its own, and every start the same."""
    random = np.random.default_rng(seed)
    grain: np.ndarray[tuple[int, int], np.dtype[np.int16]] | None = None
    for image in pictures:
        rows, columns = image.shape[:2]
        if grain is None:
            grain = random.normal(0, GRAIN, (rows * 2, columns * 2)).round().astype(np.int16)
        top, left = random.integers(rows), random.integers(columns)
        part = np.ascontiguousarray(grain[top : top + rows, left : left + columns])
        film = cv2.add(image, cv2.merge([part, part, part]), dtype=cv2.CV_8U)  # type: ignore[misc]
        if bars:
            film[:bars] = film[-bars:] = 0
        yield film
