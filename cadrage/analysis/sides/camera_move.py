"""The movement of a camera in a shot, and how much of the bars beside it real pixels can fill."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.sides.watching import ShotSeen
from cadrage.extend import camera as cam
from cadrage.extend.request import SIDES, Side
from cadrage.values import Value

LONG_SIDE = 480
"""Pixels that the limits below are given in."""
STEP_UNFIT, STEP_DOUBTFUL = 1.5, 0.25
DRIFT_UNFIT, DRIFT_DOUBTFUL = 3.0, 0.6
PANNED = 0.06
"""Of the picture's width or height: a camera that ends, or comes, so far away pans."""
STRAIGHT = 0.35
"""Of the way that it goes: how far it comes at least, to pan and not to shake."""
BINS = 48
"""Cells of the picture, each way, that are asked whether another picture shows them."""
LOOKED_AT = 60
Move = Literal["still", "drifting", "panning", "shaking"]


class CameraMove(Value):
    """The movement of a camera.

    Attributes:
        move: in a word.
        step: the 95th percentile of how far corners move from picture to picture, in pixels of a picture whose longer
            side has 480.
        drift: the same of how far they are from where they are in the middle picture.
        filled: how much of a bar as large as the picture real pixels of other moments fill, by side, percent.
    """

    move: Move
    step: float
    drift: float
    filled: dict[Side, int]


def camera_move(shot: ShotSeen, size: tuple[int, int], first: int = 0, end: int | None = None) -> CameraMove:
    """What the camera does in a part of a shot.

    Args:
        shot: what was seen.
        size: columns and rows that it was looked at in.
        first: number of the first picture.
        end: of the one after the last; None is the end of the shot.
    """
    poses = shot.poses[first:end]
    scale = LONG_SIDE / max(size)
    steps = np.array(shot.steps[first:end][1:]) * scale
    middle = poses[len(poses) // 2]
    apart = [cam.Registration(cam.then(pose, cam.back(middle)), 1.0).moved(*size) * scale for pose in poses]
    step, drift = (float(np.percentile(found, 95)) if len(found) else 0.0 for found in (steps, np.array(apart)))
    places = np.array([pose @ [size[0] / 2, size[1] / 2, 1] for pose in poses]) * scale
    move = _move(places, step, drift, size, scale)
    filled = _filled(poses, size) if move in ("panning", "drifting") else dict.fromkeys(SIDES, 0)
    return CameraMove(move=move, step=round(step, 3), drift=round(drift, 3), filled=filled)


def _move(places: NDArray[np.float64], step: float, drift: float, size: tuple[int, int], scale: float) -> Move:
    if drift <= DRIFT_DOUBTFUL and step <= STEP_DOUBTFUL:
        return "still"
    smooth = _smoothed(places)
    farthest = float(np.linalg.norm(smooth - smooth[0], axis=1).max())
    way = float(np.linalg.norm(np.diff(places, axis=0), axis=1).sum())
    if farthest > PANNED * min(size) * scale and farthest > STRAIGHT * way:
        return "panning"
    if farthest > STRAIGHT * way:
        return "drifting"
    return "shaking" if step > STEP_DOUBTFUL else "drifting"


def _smoothed(places: NDArray[np.float64]) -> NDArray[np.float64]:
    width = min(len(places), 9)
    kernel = np.ones(width) / width
    padded = np.pad(places, ((width // 2, width - 1 - width // 2), (0, 0)), "edge")
    return np.stack([np.convolve(padded[:, axis], kernel, "valid") for axis in (0, 1)], axis=1)


def _filled(poses: list[cam.Matrix], size: tuple[int, int]) -> dict[Side, int]:
    """How much of a bar as large as the picture others show, on average over the shot."""
    chosen = [poses[at] for at in np.unique(np.linspace(0, len(poses) - 1, LOOKED_AT).astype(int))]
    back = [cam.back(pose) for pose in chosen]
    middles = (np.arange(BINS) + 0.5) / BINS
    grid = np.stack(np.meshgrid(middles * size[0], middles * size[1]), axis=-1).reshape(-1, 2)
    shifts = {"left": (-size[0], 0), "right": (size[0], 0), "top": (0, -size[1]), "bottom": (0, size[1])}
    found: dict[Side, int] = {}
    for side in SIDES:
        places = grid + shifts[side]
        shares = []
        for pose in chosen[:: max(1, len(chosen) // 12)]:
            on_scene = places @ pose[:, :2].T + pose[:, 2]
            seen = np.zeros(len(places), bool)
            for other in back:
                on_other = on_scene @ other[:, :2].T + other[:, 2]
                seen |= ((on_other >= 0) & (on_other <= size)).all(axis=1)
            shares.append(seen.mean())
        found[side] = round(100 * float(np.mean(shares)))
    return found
