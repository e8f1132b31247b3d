"""The scene that a stretch of a clip shows, out of nothing but its own pixels.

Where the camera stands, that is the median of its pictures. Where it pans or drifts, its pictures are registered one by
one and laid together; the scene is then larger than any of them, and each knows where it lies in it.
"""

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from cadrage.errors import BadRequest
from cadrage.extend import camera as cam
from cadrage.extend.camera import Matrix, Registration
from cadrage.extend.exposure import gain_between
from cadrage.extend.merging import Merged, Observation, merged, pictures_within, stored
from cadrage.extend.request import LONGEST_SIDE, SceneRequest
from cadrage.extend.seeing import AtSize, Seeing, SeenFrame

REGISTERED_SIDE = 640
"""Pixels of the longer side that pictures are registered in."""
NEW_KEY = 0.2
"""Of the width: after so much movement another picture is what the next are registered with."""
LEAST_SURE = 0.15
LONGEST_SECONDS = 180
"""Every picture of it is registered."""
MOST_PIXELS = 48_000_000
OBSERVATIONS = 7
"""Pictures that a place is seen in, about, where a camera passes it."""
Report = Callable[[float], None]


@dataclass(frozen=True)
class Scene:
    """A scene.

    Attributes:
        merged: its pictures.
        depth: bits of a sample of the clip.
        times: of the pictures whose place is known, in seconds of the clip; none where the camera stands.
        matrices: from each one's pixels, at the plate's scale, to those of the scene, (count, 2, 3).
    """

    merged: Merged
    depth: int
    times: NDArray[np.float64]
    matrices: NDArray[np.float64]


def scene_of(asked: SceneRequest, seeing: Seeing, report: Report = lambda _: None) -> Scene:
    """Make a scene.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read. BadRequest: its pictures do not lie together.
    """
    return _standing(asked, seeing, report) if asked.camera == "still" else _moving(asked, seeing, report)


def _standing(asked: SceneRequest, seeing: Seeing, report: Report) -> Scene:
    count = pictures_within(asked.width, asked.height)
    at_size, first, seen = None, None, []
    last, depth = Fraction(-1), 8
    for number, frame in enumerate(seeing.spread(asked.start, asked.end, count)):
        report(0.8 * number / count)
        if frame.time == last:
            continue
        last, depth = frame.time, frame.planes.layout.depth
        at_size = at_size or AtSize(frame.planes.layout, asked.width, asked.height)
        grey = frame.grey(_registered_size(asked))
        first = grey if first is None else first
        seen.append(Observation(stored(at_size.apply(frame.planes)), cam.STILL, gain_between(first, grey, cam.STILL)))
    middle = float(np.median([one.gain for one in seen]))
    seen = [Observation(one.picture, one.matrix, one.gain / middle) for one in seen]
    made = merged(seen, asked.width, asked.height, lambda part: report(0.8 + 0.2 * part))
    return Scene(made, depth, np.zeros(0), np.zeros((0, 2, 3)))


def _registered_size(asked: SceneRequest) -> tuple[int, int]:
    factor = min(1.0, REGISTERED_SIDE / max(asked.width, asked.height))
    return max(16, round(asked.width * factor)), max(16, round(asked.height * factor))


@dataclass(slots=True)
class Track:
    """Where a camera looked, picture by picture.

    Attributes:
        times: of the pictures.
        matrices: from a picture's pixels to those of the scene, at the registered size.
        gains: how light each is, against the first.
        depth: bits of a sample.
    """

    times: list[Fraction]
    matrices: list[Matrix]
    gains: list[float]
    depth: int = 8


def camera_track(asked: SceneRequest, seeing: Seeing, report: Report) -> Track:
    """Register every picture of a stretch with those before it.

    Raises:
        BadRequest: two that follow one another cannot be laid together, or there are too many.
    """
    if asked.end - asked.start > LONGEST_SECONDS:
        raise BadRequest(
            f"A camera is followed for {LONGEST_SECONDS} seconds at most, and this stretch has more.",
            remedy="Cut the clip into shots, or choose a shorter stretch.",
        )
    size = _registered_size(asked)
    track = Track([], [], [])
    key, key_matrix, key_gain, places = None, cam.STILL, 1.0, None
    for frame in seeing.every(asked.start, asked.end):
        report(float((frame.time - asked.start) / max(asked.end - asked.start, Fraction(1, 1000))))
        grey = frame.grey(size)
        if key is None:
            key, places = grey, cam.features(grey)
            _add(track, frame, cam.STILL, 1.0)
            continue
        guess = cam.then(key_matrix, cam.back(track.matrices[-1]))
        found = cam.register(key, grey, places, guess)
        if found.sure < LEAST_SURE:
            raise BadRequest(
                f"The camera's movement cannot be told at {float(frame.time):.2f} s: too little can be found again.",
                remedy="Choose a shorter stretch, or another surround.",
            )
        matrix = cam.then(cam.back(found.matrix), key_matrix)
        gain = key_gain * gain_between(key, grey, found.matrix)
        _add(track, frame, matrix, gain)
        if _far(found, size):
            key, key_matrix, key_gain, places = grey, matrix, gain, cam.features(grey)
    return track


def _add(track: Track, frame: SeenFrame, matrix: Matrix, gain: float) -> None:
    track.times.append(frame.time)
    track.matrices.append(matrix)
    track.gains.append(gain)
    track.depth = frame.planes.layout.depth


def _far(found: Registration, size: tuple[int, int]) -> bool:
    middle = found.matrix @ [size[0] / 2, size[1] / 2, 1] - [size[0] / 2, size[1] / 2]
    return bool(np.hypot(*middle) > NEW_KEY * size[0] or found.sure < 2 * LEAST_SURE)


def _moving(asked: SceneRequest, seeing: Seeing, report: Report) -> Scene:
    track = camera_track(asked, seeing, lambda part: report(0.5 * part))
    size = _registered_size(asked)
    across, down = asked.width / size[0], asked.height / size[1]
    centre = cam.back(track.matrices[len(track.matrices) // 2])
    matrices = [cam.scaled(cam.then(matrix, centre), across, down) for matrix in track.matrices]
    low, high = _box(matrices, asked)
    moved = [np.hstack([matrix[:, :2], (matrix[:, 2] - low)[:, None]]) for matrix in matrices]
    width, height = (int(side) for side in high - low)
    seen = _observations(asked, seeing, track, moved, lambda part: report(0.5 + 0.3 * part))
    made = merged(seen, width, height, lambda part: report(0.8 + 0.2 * part))
    return Scene(made, track.depth, np.array([float(time) for time in track.times]), np.stack(moved))


def _box(matrices: list[Matrix], asked: SceneRequest) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """What all pictures cover, in whole pixels, as far as that is not too much."""
    corners = np.array(
        [[0, 0, 1], [asked.width, 0, 1], [0, asked.height, 1], [asked.width, asked.height, 1]], np.float64
    )
    points = np.concatenate([corners @ matrix.T for matrix in matrices])
    low, high = np.floor(points.min(axis=0)), np.ceil(points.max(axis=0))
    high = np.minimum(high, low + LONGEST_SIDE)
    wide, tall = high - low
    if wide * tall > MOST_PIXELS:
        raise BadRequest(
            f"The camera passes {wide / asked.width:.0f} pictures across and {tall / asked.height:.0f} down.",
            remedy="Choose a shorter stretch of the clip.",
        )
    return low, high


def _observations(
    asked: SceneRequest, seeing: Seeing, track: Track, matrices: list[Matrix], report: Report
) -> list[Observation]:
    """Pictures to merge, evenly along the way of the camera."""
    middles = np.array([matrix @ [asked.width / 2, asked.height / 2, 1] for matrix in matrices])
    steps = np.linalg.norm(np.diff(middles, axis=0, prepend=middles[:1]), axis=1)
    way = np.cumsum(steps + 0.02 * asked.width / len(steps))  # also where it rests
    most = pictures_within(asked.width, asked.height)
    wanted = min(most, len(way), max(OBSERVATIONS, round(OBSERVATIONS * (1 + way[-1] / asked.width))) * 2)
    chosen = sorted({int(np.abs(way - at).argmin()) for at in np.linspace(0, way[-1], max(wanted, 2))})
    mean = float(np.exp(np.mean(np.log([track.gains[at] for at in chosen]))))
    found, at_size, taken = [], None, iter(chosen)
    at = next(taken)
    for number, frame in enumerate(seeing.every(asked.start, asked.end)):
        report(number / len(track.times))
        if number != at:
            continue
        at_size = at_size or AtSize(frame.planes.layout, asked.width, asked.height)
        picture = stored(at_size.apply(frame.planes))
        found.append(Observation(picture, matrices[at], track.gains[at] / mean))
        following = next(taken, None)
        if following is None:
            break
        at = following
    return found
