"""How the join looks between a live picture and its plate, in composed frames of made clips."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2
import numpy as np

from cadrage.analysis import AnalysisStore, Subject
from cadrage.compose import Compositor
from cadrage.compose.extending import plate_in, plates_asked
from cadrage.footage import ClipReader, Library, Material, MediaInfo, library_of_files, probe, resolve
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.plates import finder, make_all
from cadrage.surrounds import Extended
from tests.clips import write_clip
from tests.extending.photographs import sized

WIDE, TALL, FRAMES = 360, 640, 40
FINE = {"crf": "8", "preset": "superfast", "g": "10"}
FRAME = Frame(width=1280, height=640)


def ready(path: Path, folder: Path, plan: Plan) -> tuple[MediaInfo, Library]:
    """A clip and what a plan about it may use, with its plates made."""
    info = probe(path)
    subject = Subject(path, path.name, info, plan.interpretation)
    store = AnalysisStore(folder)
    library = library_of_files(Material(path, info), plates=finder(store, subject))
    make_all(store, subject, plan, library)
    return info, library


def composed(plan: Plan, path: Path, info: MediaInfo, library: Library) -> list[np.ndarray]:
    """Luma of every frame of a clip."""
    made, compositor = [], None
    with ClipReader(path, info) as reader:
        for stored in reader.frames():
            compositor = compositor or Compositor(plan, stored.planes.layout, info, library=library)
            made.append(compositor.compose(stored.planes, time=stored.time).arrays[0].astype(np.float32))
    return made


@dataclass(frozen=True)
class Join:
    """What was measured at the two joins of a clip.

    Attributes:
        name: of it.
        step: the step of mean luma across the edge against those between neighbouring columns inside the picture.
        light: the largest difference between plate and picture along the edge, in codes, over all frames.
    """

    name: str
    step: float
    light: float


def measured(name: str, light: float, noise: float = 0.0) -> Join:
    """The join of a photograph whose light varies by a fraction from picture to picture."""
    ground = sized(name, WIDE, TALL)
    random = np.random.default_rng(3)

    def paint(number: int) -> np.ndarray:
        lit = 16 + (ground.astype(np.float32) - 16) * (1 + light * np.sin(number * 1.7))
        lit += random.normal(0, noise, lit.shape) if noise else 0
        return np.clip(lit, 0, 255).astype(np.uint8)

    with TemporaryDirectory() as folder:
        path = write_clip(
            Path(folder) / "clip.mp4", size=(WIDE, TALL), frames=FRAMES, paint=paint, sound=None, options=FINE
        )
        plan = Plan(frame=FRAME, surround=Extended(match_grain=False))
        info, library = ready(path, Path(folder) / "plates", plan)
        frames = composed(plan, path, info, library)
    left, right = (FRAME.width - WIDE) // 2, (FRAME.width + WIDE) // 2
    steps = [max(_steps(frame, left), _steps(frame, right)) for frame in frames]
    differences = [_light(frame, frames[0], left, right) for frame in frames]
    return Join(name, float(np.median(steps)), float(max(differences)))


def _steps(frame: np.ndarray, edge: int) -> float:
    """The step across an edge against those of the picture's own columns beside it."""
    own = np.abs(np.diff(frame[:, edge - 24 : edge + 24], axis=1)).mean(axis=0)
    across = own[23]
    return float(across / max(np.median(np.delete(own, 23)), 0.3))


def _light(frame: np.ndarray, first: np.ndarray, left: int, right: int) -> float:
    """How much the plate's light differs from the picture's, in codes: both against their own in the first frame."""
    worst = 0.0
    for outside, inside in (
        (slice(left - 40, left - 4), slice(left + 24, left + 60)),
        (slice(right + 4, right + 40), slice(right - 60, right - 24)),
    ):
        plate = _gain(frame[:, outside], first[:, outside])
        picture = _gain(frame[:, inside], first[:, inside])
        worst = max(worst, abs(plate / picture - 1) * float((first[:, outside] - 16).mean()))
    return worst


def _gain(now: np.ndarray, then: np.ndarray) -> float:
    return float((now - 16).sum() / (then - 16).sum())


def moving_error(step: float) -> float:
    """How far a plate that moves with the camera is off, in pixels: 95th percentile over the frames of a made pan."""
    wide = sized("coffee", WIDE + 400, TALL)

    def paint(number: int) -> np.ndarray:
        shift = np.array([[1, 0, -step * number], [0, 1, 0]], np.float64)
        return cv2.warpAffine(wide, shift, (WIDE, TALL), flags=cv2.INTER_LANCZOS4)

    with TemporaryDirectory() as folder:
        path = write_clip(
            Path(folder) / "pan.mp4", size=(WIDE, TALL), frames=FRAMES, paint=paint, sound=None, options=FINE
        )
        plan = Plan(frame=FRAME, surround=Extended(camera="moving"))
        info, library = ready(path, Path(folder) / "plates", plan)
        (asked,) = plates_asked(plan, info)
        plate = plate_in(library, asked.asked, resolve(info, plan.interpretation))
        assert plate is not None
        scale = plate.about.picture_width / WIDE
        places = np.array([plate.place_at(Fraction(n, 25))[:, 2] for n in range(FRAMES)]) / scale
    truth = np.array([[step * n, 0.0] for n in range(FRAMES)])
    off = places - truth
    off -= np.median(off, axis=0)
    return float(np.percentile(np.linalg.norm(off, axis=1), 95))
