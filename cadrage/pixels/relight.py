"""Converting pictures through light, by tables: what `light` says, quick enough for video."""

from collections.abc import Callable, Iterator
from fractions import Fraction
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.geometry import FrameRect
from cadrage.pixels import transfer
from cadrage.pixels.colour import LUMA_WEIGHTS, Colour, rgb_from_constant, rgb_from_ycc
from cadrage.pixels.convert import CONVERTED_DEPTH
from cadrage.pixels.kernels import sampling_kernel
from cadrage.pixels.light import between, roll_off_gain, rolls_off, scene_gain, system_gain
from cadrage.pixels.mapping import plane_axes
from cadrage.pixels.planes import LUMA, Layout, Planes, Samples, Working
from cadrage.pixels.resample import TILE_COLUMNS, TILE_ROWS, Resampler, clip_codes, quantise, resampling_weights

Array = NDArray[np.float64]
HEADROOM = float((transfer.PQ_PEAK / transfer.GRAPHICS_WHITE) ** (1 / transfer.SDR_GAMMA))
"""Codes of white that the brightest of PQ has, composed with the curve of SDR: about 5."""


class _Table:
    """A curve looked up: quick, and finer than 16 bits need.

    Args:
        curve: what is looked up.
        low, high: range of its argument.
        fine: whether the argument is light, whose dark end needs finer steps: it is counted by its fourth root.
    """

    SIZE = 65_536

    def __init__(self, curve: Callable[[Array], Array], low: float, high: float, *, fine: bool = False) -> None:
        self.fine = fine
        self.low, high = (self._root(np.array(end)) if fine else end for end in (low, high))
        self.scale = np.float32((self.SIZE - 1) / (high - self.low))
        steps = self.low + np.arange(self.SIZE) / float(self.scale)
        self.values = curve(np.sign(steps) * steps**4 if fine else steps).astype(np.float32)

    @staticmethod
    def _root(value: Array) -> float:
        return float(np.sign(value) * np.abs(value) ** 0.25)

    def __call__(self, working: Working) -> Working:
        """The curve of every number."""
        at = working
        if self.fine:
            at = np.sqrt(np.sqrt(np.abs(working)))
            if self.low < 0:
                at = np.copysign(at, working)
        index = (at - np.float32(self.low)) * self.scale
        np.clip(index, 0, self.SIZE - 1, out=index)
        index += np.float32(0.5)
        found: Working = self.values[index.astype(np.uint16)]
        return found


SDR_CODES = (-0.25, 1.25)  # beyond 0 and 1, which limited range can hold
BLOCK_ROWS = 32


class LightChange:
    """Converts pictures of one layout to another colour through light: 4:4:4, with 16 bits, comes out.

    Args:
        source: the layout of what comes.
        target: what it shall mean.

    Attributes:
        layout: of what comes out.
    """

    def __init__(self, source: Layout, target: Colour) -> None:
        self.source = source
        given = source.colour
        self.layout = Layout(source.width, source.height, CONVERTED_DEPTH, LUMA, target)
        matrix = rgb_from_ycc(given.matrix).astype(np.float32)
        self._to_rgb = rgb_from_constant if given.is_constant_luminance else partial(_mixed, matrix=matrix)
        self._to_ycc = np.linalg.inv(rgb_from_ycc(target.matrix)).astype(np.float32)
        self._gamut = between(given, target).astype(np.float32)
        self._decode = _decoding(given)
        self._encode = _encoding(target)
        red, blue = LUMA_WEIGHTS["bt2020"]
        self._weights = np.array([[red, 1 - red - blue, blue]], np.float32)
        highest = transfer.PQ_PEAK / transfer.GRAPHICS_WHITE
        self._from_scene = _Table(system_gain, 0, 2, fine=True) if given.curve == "hlg" else None
        self._to_scene = _Table(scene_gain, 0, highest, fine=True) if target.curve == "hlg" else None
        self._roll_off = None
        if rolls_off(given, target):
            self._roll_off = _Table(roll_off_gain(given, target), 0, highest, fine=True)
        self._chroma = None if source.chroma == LUMA else _resampler(source, self.layout)

    def apply(self, planes: Planes) -> Planes:
        """Convert one picture."""
        depth, given = self.source.depth, self.source.colour
        black, luma, chroma = given.code_range(depth)
        middle = 2.0 ** (depth - 1)
        result = Planes.empty(self.layout)
        for rows, colours in self._colours(planes):
            y = planes.arrays[0][rows].astype(np.float32)
            y -= np.float32(black)
            y *= np.float32(1 / luma)
            cb, cr = ((one - np.float32(middle)) * np.float32(1 / chroma) for one in colours)
            self._store(self._to_rgb(np.dstack([y, cb, cr])), result, rows)
        return result

    def _colours(self, planes: Planes) -> Iterator[tuple[slice, list[Working]]]:
        """Chroma at every luma sample, some rows at a time."""
        chroma: tuple[Samples | Working, ...] = planes.arrays[1:]
        if self._chroma is not None:
            chroma = tuple(self._chroma.draw(plane) for plane in chroma)
        for at in range(0, self.source.height, BLOCK_ROWS):
            rows = slice(at, min(at + BLOCK_ROWS, self.source.height))
            yield rows, [plane[rows].astype(np.float32) for plane in chroma]

    def _store(self, coded: Working, result: Planes, rows: slice) -> None:
        light = self._decode(coded)
        if self._from_scene is not None:
            light *= self._gain(self._from_scene, light)
            light *= np.float32(transfer.HLG_PEAK / transfer.GRAPHICS_WHITE)
        light = _mixed(light, self._gamut)
        if self.source.colour.hdr:
            np.maximum(light, 0, out=light)
        if self._roll_off is not None:
            light *= self._roll_off(light.max(axis=2))[..., None]
        if self._to_scene is not None:
            light *= np.float32(transfer.GRAPHICS_WHITE / transfer.HLG_PEAK)
            light *= self._gain(self._to_scene, light)
        coded = _mixed(self._encode(light), self._to_ycc)
        black, luma, chroma = self.layout.colour.code_range(CONVERTED_DEPTH)
        middle = 2.0 ** (CONVERTED_DEPTH - 1)
        for plane, (origin, unit) in enumerate(((black, luma), (middle, chroma), (middle, chroma))):
            codes = coded[..., plane] * np.float32(unit) + np.float32(origin)
            clip_codes(codes, CONVERTED_DEPTH)
            quantise(codes, result.arrays[plane][rows], CONVERTED_DEPTH)

    def _gain(self, table: _Table, light: Working) -> Working:
        return table(_mixed(light, self._weights).reshape(light.shape[:2]))[..., None]


def _mixed(working: Working, matrix: Working) -> Working:
    """Every pixel's three numbers, (rows, columns, 3), multiplied with a matrix."""
    made: Working = cv2.transform(working, matrix).astype(np.float32, copy=False)
    return made


def _decoding(colour: Colour) -> _Table:
    """From codes to light; of HLG, to scene light."""
    if colour.curve == "pq":
        return _Table(lambda coded: transfer.pq_light(coded) / transfer.GRAPHICS_WHITE, 0, 1)
    if colour.curve == "hlg":
        return _Table(transfer.hlg_scene, 0, SDR_CODES[1])
    return _Table(transfer.sdr_light, SDR_CODES[0], max(SDR_CODES[1], colour.headroom))


def _encoding(colour: Colour) -> _Table:
    """From light to codes; of HLG, from scene light."""
    highest = transfer.PQ_PEAK / transfer.GRAPHICS_WHITE
    if colour.curve == "pq":
        return _Table(lambda light: transfer.pq_coded(light * transfer.GRAPHICS_WHITE), 0, highest, fine=True)
    if colour.curve == "hlg":
        return _Table(transfer.hlg_coded, 0, 2, fine=True)
    top = highest if colour.headroom > 1 else 2.0
    return _Table(transfer.sdr_coded, -0.1, top, fine=True)


def _resampler(source: Layout, target: Layout) -> Resampler:
    """Brings chroma from one layout of the same size to another."""
    whole = FrameRect(Fraction(0), Fraction(0), Fraction(target.width), Fraction(target.height))
    down, across = plane_axes(source, target, 1, whole)
    rows, columns = target.shape(1)
    held_rows, held_columns = source.shape(1)
    return Resampler(
        resampling_weights(down, range(rows), held_rows, sampling_kernel(float(down.step)), TILE_ROWS),
        resampling_weights(across, range(columns), held_columns, sampling_kernel(float(across.step)), TILE_COLUMNS),
        gain=2.0 ** (target.depth - source.depth) if target.depth < source.depth else 1.0,
    )


class Delivery:
    """Brings composed pictures to the colour, the chroma and the depth that are delivered.

    Args:
        composed: the layout of what was composed: 4:4:4.
        target: of what is delivered.
    """

    def __init__(self, composed: Layout, target: Layout) -> None:
        self.target = target
        self._change = LightChange(composed, target.colour)
        self._chroma = _resampler(self._change.layout, target)
        self._gain = np.float32(2.0 ** (target.depth - CONVERTED_DEPTH))

    def apply(self, composed: Planes, canvas: Planes) -> None:
        """Convert one picture."""
        made = self._change.apply(composed)
        drawn = (made.arrays[0] * self._gain, *(self._chroma.draw(plane) for plane in made.arrays[1:]))
        for working, plane in zip(drawn, canvas.arrays, strict=True):
            clip_codes(working, self.target.depth)
            quantise(working, plane, self.target.depth)


def composing_layout(target: Layout, peak: int) -> Layout:
    """What an HDR frame is composed in before it is delivered as a layout says: with the curve of SDR, and headroom.

    Args:
        target: what is delivered.
        peak: cd/m² of the brightest in the clip.
    """
    colour = Colour("bt2020", primaries=9, transfer=14, peak=peak, headroom=HEADROOM)
    return Layout(target.width, target.height, CONVERTED_DEPTH, LUMA, colour)
