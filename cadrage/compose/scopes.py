"""Scopes of a composed frame: how its codes lie, and which of them are outside the legal range.

A waveform shows the luma of every column, a parade R'G'B' of every column beside one another, and a vectorscope the
chroma of every sample. They are drawn from the codes that a file of the framing would have, in its own colour, before
anything is encoded.

Black is code 64 and white 940 of 10 bits (ITU-R BT.709-6 and BT.2020-2, table 5). Codes below 20 or above 984 are
outside the preferred range of EBU R 103, version 3.0 (from memory); they are drawn in another colour and counted.
"""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.preview import Previewer, preview_size
from cadrage.compose.target import screen_layout, target_colour
from cadrage.footage import EMPTY, ClipIdentity, Library, MediaInfo
from cadrage.pixels.colour import Matrix, rgb_from_ycc
from cadrage.pixels.planes import Layout, Planes
from cadrage.pixels.rgb import encode_image
from cadrage.plan import Plan
from cadrage.values import Exact, Value

ScopeKind = Literal["waveform", "parade", "vectorscope"]

DEPTH, CODES = 10, 1024
BLACK, WHITE, MIDDLE, CHROMA_SPAN = 64, 940, 512, 896
LEGAL = (20, 984)
WIDTH = 480
"""Columns of the frame that is drawn from, and of a waveform."""
ROWS = 256
PART = WIDTH // 3
"""Columns of each part of a parade."""
BARS_75 = ((0.75, 0, 0), (0.75, 0.75, 0), (0, 0.75, 0), (0, 0.75, 0.75), (0, 0, 0.75), (0.75, 0, 0.75))
"""R'G'B' of the colours of 75% bars (ITU-R BT.471)."""
GROUND, GRID, TRACE, OUTSIDE = (22, 22, 22), (92, 92, 92), (214, 214, 208), (232, 116, 66)
CHANNELS = ((226, 112, 104), (126, 200, 120), (122, 152, 240))
Codes = NDArray[np.float32]
Picture = NDArray[np.uint8]


class Scope(Value):
    """A scope of one frame.

    Attributes:
        kind: which.
        outside_percent: of the samples that it shows, those outside the legal range.
    """

    kind: ScopeKind
    outside_percent: Exact


def scope(
    kind: ScopeKind,
    plan: Plan,
    path: Path,
    info: MediaInfo,
    time: Fraction,
    previewer: Previewer,
    *,
    library: Library = EMPTY,
    identity: ClipIdentity | None = None,
) -> tuple[Scope, bytes]:
    """The scope of a framing at a time, and its drawing as a PNG, 480 by 256; a vectorscope's, 256 by 256.

    Raises:
        See `Previewer.planes`.
    """
    canvas = scope_layout(plan)
    planes = previewer.planes(plan, path, info, time, canvas, library=library, identity=identity)
    return drawn(kind, planes)


def scope_layout(plan: Plan) -> Layout:
    """The layout of the frame for a scope: small, 10 bits, in the colour of the file."""
    small = screen_layout(plan.frame, preview_size(plan.frame, WIDTH))
    return replace(small, depth=DEPTH, colour=target_colour(plan.frame))


def drawn(kind: ScopeKind, planes: Planes) -> tuple[Scope, bytes]:
    """A scope of a frame of 10 bits, and its drawing as a PNG."""
    luma, blue, red = _full(planes)
    if kind == "vectorscope":
        picture, shown = _vectorscope(blue, red, planes.layout.colour.matrix), np.stack((blue, red))
    elif kind == "waveform":
        picture, shown = _levels([(luma, TRACE)], WIDTH), luma
    else:
        shown = _rgb(luma, blue, red, planes.layout.colour.matrix)
        picture = _levels(list(zip(shown, CHANNELS, strict=True)), PART)
    outside = float(np.mean((shown < LEGAL[0]) | (shown > LEGAL[1])))
    return Scope(kind=kind, outside_percent=Fraction(round(10000 * outside), 100)), encode_image(picture, ".png")


def _full(planes: Planes) -> tuple[Codes, Codes, Codes]:
    """Luma and chroma codes of every luma sample."""
    luma = planes.arrays[0].astype(np.float32)
    size = (luma.shape[1], luma.shape[0])
    blue, red = (
        cv2.resize(plane.astype(np.float32), size, interpolation=cv2.INTER_LINEAR) for plane in planes.arrays[1:]
    )
    return luma, np.asarray(blue, np.float32), np.asarray(red, np.float32)


def _rgb(luma: Codes, blue: Codes, red: Codes, matrix: Matrix) -> Codes:
    """R'G'B' as codes of the same range, not clipped: (3, rows, columns)."""
    parts = np.stack([(luma - BLACK) / (WHITE - BLACK), *((plane - MIDDLE) / CHROMA_SPAN for plane in (blue, red))])
    rgb = np.tensordot(rgb_from_ycc(matrix), parts, 1)
    return np.asarray(BLACK + (WHITE - BLACK) * rgb, np.float32)


def _levels(channels: list[tuple[Codes, tuple[int, int, int]]], width: int) -> Picture:
    """Codes over columns, one channel beside another, bright where many samples are; with black and white marked."""
    parts = [_traced(_counted(codes, width), colour) for codes, colour in channels]
    picture = np.concatenate(parts, axis=1)
    for code in (BLACK, WHITE):
        row = _row(code)
        picture[row] = np.maximum(picture[row], GRID)
    return picture


def _row(code: float) -> int:
    return ROWS - 1 - int(code) * ROWS // CODES


def _counted(codes: Codes, width: int) -> NDArray[np.float64]:
    """How many samples there are of each code in each column: (ROWS, width), the highest code on top."""
    columns = np.arange(codes.shape[1]) * width // codes.shape[1]
    rows = ROWS - 1 - np.clip(codes, 0, CODES - 1).astype(np.int64) * ROWS // CODES
    return (
        np.bincount((rows * width + columns[None]).ravel(), minlength=ROWS * width).reshape(ROWS, width).astype(float)
    )


def _traced(counts: NDArray[np.float64], colour: tuple[int, int, int]) -> Picture:
    """Counts as light of a colour; rows outside the legal range in that which means so."""
    light = _light(counts)[..., None]
    colours = np.empty((ROWS, 1, 3))
    colours[:] = colour
    colours[: _row(LEGAL[1])] = OUTSIDE
    colours[_row(LEGAL[0]) + 1 :] = OUTSIDE
    return np.asarray(GROUND + light * (colours - GROUND), np.uint8)


def _light(counts: NDArray[np.float64]) -> NDArray[np.float64]:
    """Counts as 0 to 1, so that single samples are still seen."""
    most = np.log1p(counts.max())
    return np.asarray(np.log1p(counts) / most if most else counts, np.float64) ** 0.7


def _vectorscope(blue: Codes, red: Codes, matrix: Matrix) -> Picture:
    """Cb to the right and Cr upwards, with the middle and the colours of 75% bars marked."""
    across, down = (np.clip(plane, 0, CODES - 1).astype(np.int64) * ROWS // CODES for plane in (blue, red))
    counts = np.bincount(((ROWS - 1 - down) * ROWS + across).ravel(), minlength=ROWS * ROWS).reshape(ROWS, ROWS)
    light = _light(counts.astype(float))[..., None]
    picture = np.ascontiguousarray(np.asarray(GROUND + light * (np.array(TRACE) - GROUND), np.uint8))
    middle = MIDDLE * ROWS // CODES
    cv2.drawMarker(picture, (middle, ROWS - 1 - middle), GRID, cv2.MARKER_CROSS, 9)
    for colour in BARS_75:
        x, y = (round(code * ROWS / CODES) for code in chroma_of(colour, matrix))
        cv2.rectangle(picture, (x - 4, ROWS - 1 - y - 4), (x + 4, ROWS - 1 - y + 4), GRID)
    return picture


def chroma_of(rgb: tuple[float, float, float], matrix: Matrix) -> tuple[float, float]:
    """Cb and Cr of R'G'B' of 0 to 1, as codes of 10 bits."""
    _, blue, red = np.linalg.solve(rgb_from_ycc(matrix), np.array(rgb))
    return MIDDLE + CHROMA_SPAN * float(blue), MIDDLE + CHROMA_SPAN * float(red)
