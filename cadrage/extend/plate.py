"""A plate: picture made beyond the edges of a clip's own, and where each of its pixels comes from."""

import io
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.errors import UnreadableFile
from cadrage.extend.merging import NOTHING, UNIT, Grain, Merged
from cadrage.extend.request import PlateRequest
from cadrage.extend.scene import Scene
from cadrage.extend.sides import Kept, excluded_places, extended
from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import LUMA, Layout, Planes, Working, samples
from cadrage.values import Value

NOWHERE, REAL, ELSEWHEN, INVENTED = 0, 1, 2, 3
"""Where a pixel comes from: nothing is there; the picture itself; other moments of the clip; it was made up."""
Origins = NDArray[np.uint8]
SCENE_FILE, PLATE_FILE, ORIGIN_FILE, CAMERA_FILE = "scene.npz", "plate.png", "origin.png", "camera.npz"
WRITTEN = [cv2.IMWRITE_PNG_COMPRESSION, 1]
HOLE_BLUR = 0.02
Write = Callable[[str, bytes], None]
Report = Callable[[float], None]


class PlateFound(Value):
    """A plate in numbers.

    Attributes:
        width, height: pixels of it.
        left, top: where the scene begins in it.
        picture_width, picture_height: of the clip's whole picture, in pixels of it.
        depth: bits of a sample, the clip's.
        moving: whether the picture's place in it changes.
        grain_sigma, grain_size: noise of the clip, see `Grain`.
        elsewhen_percent, invented_percent: of the plate, without the place of the picture where the camera stands.
        summary: the same in few words.
    """

    width: int
    height: int
    left: int
    top: int
    picture_width: int
    picture_height: int
    depth: int
    moving: bool
    grain_sigma: float
    grain_size: float
    elsewhen_percent: float
    invented_percent: float
    summary: str


@dataclass(frozen=True)
class Plate:
    """A plate.

    Attributes:
        planes: its samples, chroma beside every luma sample.
        origin: where each pixel comes from, (rows, columns).
        about: in numbers.
        times: of the pictures whose place is known, in seconds of the clip; none where the camera stands.
        matrices: from pixels of each, at the plate's scale, to those of the plate, (count, 2, 3).
    """

    planes: Planes
    origin: Origins
    about: PlateFound
    times: NDArray[np.float64]
    matrices: NDArray[np.float64]

    def place_at(self, time: Fraction) -> NDArray[np.float64]:
        """From pixels of the picture at a time, at the plate's scale, to those of the plate: 2×3."""
        if not len(self.times):
            return np.array([[1.0, 0, self.about.left], [0, 1.0, self.about.top]])
        at = float(time)
        after = int(np.clip(np.searchsorted(self.times, at), 1, len(self.times) - 1)) if len(self.times) > 1 else 0
        before = max(after - 1, 0)
        span = self.times[after] - self.times[before]
        share = float(np.clip((at - self.times[before]) / span, 0, 1)) if span > 0 else 0.0
        return np.asarray(self.matrices[before] * (1 - share) + self.matrices[after] * share)

    @property
    def grain(self) -> Grain:
        """Noise of the clip."""
        return Grain(self.about.grain_sigma, self.about.grain_size)


def scene_data(scene: Scene) -> Mapping[str, NDArray[Any]]:
    """A scene as arrays, for keeping."""
    made = scene.merged
    picture = np.clip(made.picture * UNIT + 0.5, 0, NOTHING).astype(np.uint16)
    grain = np.array([made.grain.sigma, made.grain.size, scene.depth])
    return {
        "picture": picture,
        "seen": made.seen,
        "restless": made.restless,
        "grain": grain,
        "times": scene.times,
        "matrices": scene.matrices,
    }


def read_scene(folder: Path) -> Scene:
    """A scene that was kept.

    Raises:
        UnreadableFile: it is not there.
    """
    try:
        with np.load(folder / SCENE_FILE) as arrays:
            sigma, size, depth = (float(one) for one in arrays["grain"])
            picture = arrays["picture"].astype(np.float32) / np.float32(UNIT)
            made = Merged(picture, arrays["seen"], arrays["restless"], Grain(sigma, size))
            return Scene(made, int(depth), arrays["times"], arrays["matrices"])
    except (OSError, ValueError, KeyError) as error:
        raise UnreadableFile("A plate's scene is gone.", remedy="Have it made again.", clip=folder) from error


def make_plate(
    asked: PlateRequest,
    scene: Scene,
    write: Write,
    outside: Working | None = None,
    report: Report = lambda _: None,
    kept: Kept | None = None,
) -> PlateFound:
    """Make a plate of a scene and write it.

    Args:
        asked: which.
        scene: what it is made of.
        write: keeps a file by its name.
        outside: the picture from elsewhere, at its size on the plate, (rows, columns, 3).
        report: told the fraction that is done.
        kept: see `extended`.
    """
    picture, depth = _filled(scene.merged), scene.depth
    excluded = scene.merged.restless
    if not len(scene.times):  # of a scene that is larger than any picture nobody has painted over anything
        excluded = excluded | excluded_places(asked.excluded, *picture.shape[:2])
    made, left, top = extended(picture, asked.sides, excluded, asked.shrink, lambda part: report(0.9 * part), kept)
    moving = bool(len(scene.times))
    origin = np.full(made.shape[:2], INVENTED, np.uint8)
    known = scene.merged.seen[:: asked.shrink, :: asked.shrink] > 0
    rows, columns = (
        min(one, two) for one, two in zip(known.shape, (made.shape[0] - top, made.shape[1] - left), strict=True)
    )
    inner = origin[top : top + rows, left : left + columns]
    inner[known[:rows, :columns]] = ELSEWHEN if moving else REAL
    if outside is not None and asked.outside is not None:
        size = asked.scene.width / asked.shrink, asked.scene.height / asked.shrink
        begin = round(left + float(asked.outside.x) * size[0]), round(top + float(asked.outside.y) * size[1])
        _lay_outside(made, outside, begin)
    write(PLATE_FILE, _png(np.clip(made * 2.0 ** (depth - 8) + 0.5, 0, 2**depth - 1), depth))
    write(ORIGIN_FILE, _png(origin, 8))
    shift = np.array([[0, 0, left * asked.shrink], [0, 0, top * asked.shrink]], np.float64)
    about = _about(asked, scene, made, origin, (left, top), depth)
    if moving:
        write(CAMERA_FILE, _camera(scene.times, (scene.matrices + shift), asked.shrink))
    report(1.0)
    return about


def _camera(times: NDArray[np.float64], matrices: NDArray[np.float64], shrink: int) -> bytes:
    data = io.BytesIO()
    smaller = matrices.copy()
    smaller[:, :, 2] /= shrink
    np.savez(data, allow_pickle=False, times=times, matrices=smaller)
    return data.getvalue()


def _about(
    asked: PlateRequest, scene: Scene, made: Working, origin: Origins, begin: tuple[int, int], depth: int
) -> PlateFound:
    moving = bool(len(scene.times))
    elsewhen, invented = (100 * float((origin == what).mean()) for what in (ELSEWHEN, INVENTED))
    words = "real pixels of other moments" if moving else "one picture without what moves"
    return PlateFound(
        width=made.shape[1],
        height=made.shape[0],
        left=begin[0],
        top=begin[1],
        picture_width=max(1, asked.scene.width // asked.shrink),
        picture_height=max(1, asked.scene.height // asked.shrink),
        depth=depth,
        moving=moving,
        grain_sigma=scene.merged.grain.sigma,
        grain_size=scene.merged.grain.size / asked.shrink,
        elsewhen_percent=round(elsewhen, 2),
        invented_percent=round(invented, 2),
        summary=f"{words}; {invented:.0f}% of it invented",
    )


def _filled(scene: Merged) -> Working:
    """A scene whose places that no picture showed are those nearest to them, softened."""
    holes = scene.seen == 0
    if not holes.any():
        return scene.picture
    distance, labels = cv2.distanceTransformWithLabels(
        holes.astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    nearest = np.zeros(int(labels.max()) + 1, np.int64)
    nearest[labels[~holes]] = np.flatnonzero(~holes.ravel())
    picture = scene.picture.reshape(-1, 3)[nearest[labels]]
    soft = cv2.GaussianBlur(picture, (0, 0), max(1.0, HOLE_BLUR * picture.shape[0]))
    share = np.clip(distance / (HOLE_BLUR * picture.shape[0] + 1), 0, 1)[..., None].astype(np.float32)
    return cast("Working", picture * (1 - share) + soft * share)


def _lay_outside(made: Working, outside: Working, begin: tuple[int, int]) -> None:
    """Lay a picture from elsewhere over a plate, where it lies on it: its first column and row are given."""
    left, top = max(0, begin[0]), max(0, begin[1])
    part = outside[top - begin[1] :, left - begin[0] :][: max(0, len(made) - top), : max(0, made.shape[1] - left)]
    made[top : top + part.shape[0], left : left + part.shape[1]] = part


def _png(picture: NDArray[Any], depth: int) -> bytes:
    kind = np.uint8 if depth == 8 else np.uint16
    return bytes(cv2.imencode(".png", picture.astype(kind), WRITTEN)[1])


def read_plate(folder: Path, about: PlateFound, colour: Colour) -> Plate:
    """A plate that was kept.

    Args:
        folder: where it lies.
        about: in numbers.
        colour: what its samples mean: what those of the clip do.

    Raises:
        UnreadableFile: it is not there.
    """
    picture = cv2.imread(str(folder / PLATE_FILE), cv2.IMREAD_UNCHANGED)
    origin = cv2.imread(str(folder / ORIGIN_FILE), cv2.IMREAD_UNCHANGED)
    if picture is None or origin is None:
        raise UnreadableFile("A plate is gone.", remedy="Have it made again.", clip=folder)
    layout = Layout(about.width, about.height, about.depth, LUMA, colour)
    y, cb, cr = (samples(np.ascontiguousarray(picture[..., plane])) for plane in range(3))
    times, matrices = np.zeros(0), np.zeros((0, 2, 3))
    if about.moving:
        with np.load(folder / CAMERA_FILE) as arrays:
            times, matrices = arrays["times"], arrays["matrices"]
    return Plate(Planes((y, cb, cr), layout), origin.astype(np.uint8), about, times, matrices)
