"""The evidence in a clip that a window could follow: tracks, the camera, and movement."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from cadrage.analysis.following.tracks import KINDS, Kind

COLUMNS, ROWS = 96, 54
"""Fields across and down in which movement is measured."""
FILE = "evidence.npz"
FORM = 1
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class Thing:
    """Something that was followed for some time, within one shot.

    Attributes:
        who: the number of what it is a part of: a face and its body are one, and so is what went behind something.
        kind: what detected it.
        start: number of its first sample.
        boxes: (n, 5): its middle, width and height in parts of the upright raster, and how sure it is, 0 to 1.
        seen: (n,): whether it was detected in a sample, and not only carried on.
    """

    who: int
    kind: Kind
    start: int
    boxes: Floats
    seen: NDArray[np.bool_]

    @property
    def end(self) -> int:
        """The number of the sample after its last."""
        return self.start + len(self.boxes)


@dataclass(frozen=True)
class Evidence:
    """The evidence, sample by sample.

    Attributes:
        times: (s,): when each sample is shown, in seconds from the clip's first picture.
        shots: (s,): the number of the shot that each belongs to.
        camera: (s, 3): how far the scene moved since the sample before, across and down, in parts of the upright
            raster; and how sure that is, 0 to 1. 0 in the first sample of a shot.
        across: (s, 96): how much moves against the camera in each column of fields, 0 to 255.
        down: (s, 54): the same in rows of fields.
        things: in the order in which they begin.
        part: left, top, width and height of the analysed part, in parts of the upright raster.
    """

    times: NDArray[np.float64]
    shots: NDArray[np.int32]
    camera: Floats
    across: NDArray[np.uint8]
    down: NDArray[np.uint8]
    things: tuple[Thing, ...]
    part: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)

    @cached_property
    def starts(self) -> NDArray[np.int64]:
        """Numbers of the samples that begin a shot, and that after the last."""
        if not len(self.shots):
            return np.zeros(1, np.int64)
        cuts = np.flatnonzero(np.diff(self.shots)) + 1
        return np.concatenate([[0], cuts, [len(self.shots)]])

    def within(self, first: int, end: int) -> tuple[Thing, ...]:
        """Things of which something lies among some samples."""
        return tuple(thing for thing in self.things if thing.start < end and thing.end > first)

    def samples(self, start: float, end: float) -> tuple[int, int]:
        """Numbers of the first sample at or after a time, and of the first at or after another."""
        first, last = np.searchsorted(self.times, (start - 1e-6, end - 1e-6))
        return int(first), int(last)

    def arrays(self) -> dict[str, NDArray[np.generic]]:
        """The same as arrays with names, for a file."""
        things = self.things
        boxes = [thing.boxes for thing in things] or [np.zeros((0, 5), np.float32)]
        seen = [thing.seen for thing in things] or [np.zeros(0, np.bool_)]
        about = [(thing.who, KINDS.index(thing.kind), thing.start, len(thing.boxes)) for thing in things]
        return {
            "form": np.array(FORM),
            "times": self.times,
            "shots": self.shots,
            "camera": self.camera,
            "part": np.array(self.part),
            "across": self.across,
            "down": self.down,
            "about": np.array(about, np.int32).reshape(-1, 4),
            "boxes": np.concatenate(boxes),
            "seen": np.concatenate(seen),
        }

    @classmethod
    def of_arrays(cls, arrays: Mapping[str, NDArray[np.generic]]) -> "Evidence":
        """From those."""
        about = np.asarray(arrays["about"], np.int64)
        left, top, width, height = np.asarray(arrays["part"], np.float64)
        ends = np.cumsum(about[:, 3])
        boxes, seen = np.asarray(arrays["boxes"], np.float32), np.asarray(arrays["seen"], np.bool_)
        things = tuple(
            Thing(int(who), KINDS[kind], int(start), boxes[end - length : end], seen[end - length : end])
            for (who, kind, start, length), end in zip(about, ends, strict=True)
        )
        return cls(
            np.asarray(arrays["times"], np.float64),
            np.asarray(arrays["shots"], np.int32),
            np.asarray(arrays["camera"], np.float32),
            np.asarray(arrays["across"], np.uint8),
            np.asarray(arrays["down"], np.uint8),
            things,
            (float(left), float(top), float(width), float(height)),
        )


def read_evidence(folder: Path) -> Evidence:
    """What an analysis left in its folder.

    Raises:
        OSError, ValueError, KeyError: it is not there, or was left by another version.
    """
    with np.load(folder / FILE) as arrays:
        return Evidence.of_arrays(arrays)
