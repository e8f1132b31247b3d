"""A clip's pictures as plates are made of them: upright, at the plate's size, chroma beside every luma sample."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.footage import Interpretation, MediaInfo, Orient, open_footage, resolve
from cadrage.geometry import FrameRect
from cadrage.pixels.colour import Colour
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.mapping import plane_axes
from cadrage.pixels.planes import LUMA, Layout, Planes, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, resampling_weights

Grey = NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class SeenFrame:
    """One picture.

    Attributes:
        time: in seconds of the clip.
        planes: upright, of the clip's own colour.
    """

    time: Fraction
    planes: Planes

    def grey(self, size: tuple[int, int]) -> Grey:
        """Its luma in 8 bits at a size (columns, rows)."""
        return np.asarray(cv2.resize(self.planes.luma8, size, interpolation=cv2.INTER_AREA), np.uint8)


class Seeing:
    """Reads pictures of a clip upright.

    Args:
        path, info: the clip.
        taken: what its samples are taken to mean.
    """

    def __init__(self, path: Path, info: MediaInfo, taken: Interpretation) -> None:
        self._path, self._info, self._taken = path, info, taken
        self.reading = resolve(info, taken)

    @property
    def colour(self) -> Colour:
        """What the samples mean."""
        return self.reading.colour

    def spread(self, start: Fraction, end: Fraction, count: int) -> Iterator[SeenFrame]:
        """Some pictures, evenly through a stretch.

        Raises:
            MissingSource, UnreadableFile: it cannot be read.
        """
        with open_footage(self._path, self._info, self._taken) as reader:
            upright = None
            for number in range(count):
                stored = reader.frame_at(start + (end - start) * (2 * number + 1) / (2 * count))
                upright = upright or self._upright(stored.planes.layout)
                yield SeenFrame(stored.time, upright.apply(stored.planes))

    def every(self, start: Fraction, end: Fraction) -> Iterator[SeenFrame]:
        """Every picture of a stretch.

        Raises:
            MissingSource, UnreadableFile: it cannot be read.
        """
        with open_footage(self._path, self._info, self._taken) as reader:
            upright = None
            for stored in reader.frames_from(start):
                if stored.time >= end:
                    return
                upright = upright or self._upright(stored.planes.layout)
                yield SeenFrame(stored.time, upright.apply(stored.planes))

    def _upright(self, layout: Layout) -> Orient:
        return Orient(layout, self.reading, self.reading.colour, mirror=False)


class AtSize:
    """Brings upright pictures to a size, with chroma beside every luma sample.

    Args:
        source: their layout.
        width, height: the size.
    """

    def __init__(self, source: Layout, width: int, height: int) -> None:
        self.layout = Layout(width, height, source.depth, LUMA, source.colour)
        whole = FrameRect(Fraction(0), Fraction(0), Fraction(width), Fraction(height))
        self._resamplers = []
        for plane in (0, 1):
            down, across = plane_axes(source, self.layout, plane, whole)
            rows, columns = source.shape(plane)
            kernels = sampling_kernel(float(down.step)), sampling_kernel(float(across.step))
            self._resamplers.append(
                Resampler(
                    resampling_weights(down, range(height), rows, kernels[0], TILE_ROWS),
                    resampling_weights(across, range(width), columns, kernels[1], TILE_COLUMNS),
                    gain=2.0 ** (8 - source.depth),
                )
            )

    def apply(self, planes: Planes) -> Working:
        """One picture: (rows, columns, 3), codes on the scale of 8 bits, with fractions."""
        parts = [self._resamplers[min(number, 1)].draw(plane) for number, plane in enumerate(planes.arrays)]
        made: Working = np.stack(parts, axis=-1)
        return made
