"""Real pixels beside a picture that pans: made pans over clips and photographs, against what the pan hid."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import numpy as np

from cadrage.compose import Compositor
from cadrage.compose.extension_shares import origins_at
from cadrage.extend.plate import ELSEWHEN, REAL
from cadrage.footage import ClipReader
from cadrage.formats import Frame
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Extended
from tests.clips import write_clip
from tests.extending.joins import FINE, ready
from tests.extending.photographs import OPENCV, sized

TALL, WINDOW, FRAMES = 360, 280, 90
LOOKED_AT = (10, 25, 40, 55, 70)


@dataclass(frozen=True)
class Panned:
    """What was measured.

    Attributes:
        name: of the ground.
        filled: share of the bars that real pixels fill.
        psnr: of those against what was there, in dB; the median over frames.
        picture: a composed frame from the middle, R'G'B'.
    """

    name: str
    filled: float
    psnr: float
    picture: np.ndarray


def grounds() -> dict[str, list[np.ndarray] | np.ndarray]:
    """What is panned over: photographs with noise, and the walkers of opencv-doc, where they are."""
    found: dict[str, list[np.ndarray] | np.ndarray] = {name: sized(name, 600, TALL) for name in ("coffee", "rocket")}
    for name in ("leuvenA.jpg", "home.jpg"):
        if (OPENCV / name).exists():
            found[name] = sized(name, 600, TALL)
    if (OPENCV / "vtest.avi").exists():
        found["vtest.avi, people walking"] = _walkers(OPENCV / "vtest.avi")
    return found


def _walkers(path: Path) -> list[np.ndarray]:
    reader = cv2.VideoCapture(str(path))
    made = []
    while len(made) < FRAMES:
        there, image = reader.read()
        assert there
        made.append(cv2.resize(image[:, :, ::-1], (600, 450), interpolation=cv2.INTER_AREA)[45 : 45 + TALL])
    return made


def measured(name: str, ground: list[np.ndarray] | np.ndarray) -> Panned:
    """A pan over something."""
    random = np.random.default_rng(5)
    way = 600 - WINDOW - 8

    def seen(number: int) -> np.ndarray:
        return ground if isinstance(ground, np.ndarray) else ground[number]

    def left_of(number: int) -> float:
        return 4 + way * (0.5 - 0.5 * np.cos(np.pi * number / (FRAMES - 1)))

    def paint(number: int) -> np.ndarray:
        shift = np.array([[1, 0, -left_of(number)], [0, 1, 0]])
        image = cv2.warpAffine(seen(number), shift, (WINDOW, TALL), flags=cv2.INTER_LANCZOS4).astype(np.float32)
        return np.clip(image + random.normal(0, 1.5, image.shape), 0, 255).astype(np.uint8)

    frame = Frame(width=448, height=TALL)
    plan = Plan(frame=frame, surround=Extended(camera="moving", match_grain=False))
    with TemporaryDirectory() as folder:
        path = write_clip(
            Path(folder) / "pan.mp4", size=(WINDOW, TALL), frames=FRAMES, paint=paint, sound=None, options=FINE
        )
        info, library = ready(path, Path(folder) / "plates", plan)
        filled, decibels, picture = [], [], None
        with ClipReader(path, info) as reader:
            for number in LOOKED_AT:
                stored = reader.frame_at(Fraction(number, 25))
                composed = to_rgb(
                    Compositor(plan, stored.planes.layout, info, library=library).compose(
                        stored.planes, time=stored.time
                    )
                )
                origins = origins_at(plan, info, library, stored.time, frame.width)
                assert origins is not None
                picture = composed if picture is None or number == LOOKED_AT[2] else picture
                real = origins == ELSEWHEN
                filled.append(real.sum() / (origins != REAL).sum())
                decibels.append(_psnr(composed, seen(number), real, left_of(number), frame))
    return Panned(name, float(np.mean(filled)), float(np.median(decibels)), picture)


def _psnr(composed: np.ndarray, truth: np.ndarray, real: np.ndarray, left: float, frame: Frame) -> float:
    """Of real pixels, against what the pan hid there."""
    offset = (frame.width - WINDOW) / 2 - left
    shift = np.array([[1, 0, offset], [0, 1, 0]], np.float64)
    size = frame.width, frame.height
    there = cv2.warpAffine(truth, shift, size, flags=cv2.INTER_LANCZOS4).astype(np.float32)
    known = cv2.warpAffine(np.ones(truth.shape[:2], np.uint8), shift, size) > 0
    told = real & known
    off = (composed.astype(np.float32) - there)[told]
    return float(10 * np.log10(255**2 / max(float((off**2).mean()), 1e-6)))


def all_measured() -> list[Panned]:
    """Every ground."""
    return [measured(name, ground) for name, ground in grounds().items()]
