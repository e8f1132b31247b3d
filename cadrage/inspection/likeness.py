"""Whether a file shows what was composed: its colours, where they lie, and whether its lines comb."""

from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.inspection.report import Line, line, measured
from cadrage.inspection.watching import Moment
from cadrage.pixels.convert import ColourChange
from cadrage.pixels.planes import Planes, Samples

MAX_BLOCKS = (16, 9)
MIN_BLOCK_SIDE = 8  # samples; the mean of fewer shows what coding changed, not whether colours are right
MIN_CHROMA_SIDE = 32  # samples of a plane, below which its edges are too few to tell where colour lies
NEAR_CODES = 2.5  # of 8 bits, by which half of the blocks of any plane may be off
NEAR_CHROMA = 0.3  # luma samples by which colour may lie beside where it was composed
FEWEST_EDGES = 4.0  # codes of 8 bits from sample to sample, root mean square, below which colour tells no place
COMBED = 1.6  # times what was composed that lines may differ from their neighbours
COMB_CODES = 1.5  # of 8 bits, that coding may add to that

Pair = tuple[Planes, Planes]
Working = NDArray[np.float32]


def likeness_lines(moments: list[Moment], *, damaged: bool) -> Iterator[Line]:
    """Compare what a file shows at some moments with what was composed for them.

    Args:
        moments: of the file, beside what they should be.
        damaged: whether the clip is, so that what is patched up may come out otherwise when it is read again.
    """
    pairs = [_alike(moment.frame, moment.composed) for moment in moments if moment.composed is not None]
    if not pairs:
        return
    off = sorted(codes_off(pair) for pair in pairs)[-2:][0]  # one may be another picture, as at a cut
    if damaged:
        yield measured("Colours", f"{off:.1f} codes off, in a clip that is damaged")
        return
    yield line(
        "Colours",
        f"as composed, within {NEAR_CODES:g} codes of 8 bits",
        f"{off:.1f} codes off",
        off <= NEAR_CODES,
        "Render again; light or colour came out otherwise.",
    )
    places = [place for pair in pairs if (place := chroma_off(pair)) is not None]
    if places:
        far = float(np.median(places))
        yield line(
            "Colour lies",
            f"where the picture does, within {NEAR_CHROMA:g} pixels",
            f"{far:.2f} pixels from there",
            far <= NEAR_CHROMA,
            "Render again; chroma is sited otherwise than readers take it.",
        )
    more = [combing(shown.arrays[0], shown.layout.depth) for shown, _ in pairs]
    asked = [combing(composed.arrays[0], composed.layout.depth) for _, composed in pairs]
    right = all(one <= COMBED * other + COMB_CODES for one, other in zip(more, asked, strict=True))
    yield line(
        "Lines",
        f"differ by {max(asked):.1f} codes from their neighbours",
        f"{max(more):.1f} codes",
        right,
        "Render again; fields were taken for whole pictures.",
    )


def _alike(shown: Planes, composed: Planes) -> Pair:
    """Both with one matrix and range: stills are read as R'G'B'."""
    if not shown.layout.colour.recoded_from(composed.layout.colour):
        return shown, composed
    return shown, ColourChange(composed.layout, shown.layout.colour).apply(composed)


def codes_off(pair: Pair) -> float:
    """By how many codes of 8 bits half of the blocks of the worst plane are off."""
    worst = 0.0
    for plane in range(3):
        rows, columns = pair[0].arrays[plane].shape
        sides = zip((columns, rows), MAX_BLOCKS, strict=True)
        blocks = [max(1, min(most, side // MIN_BLOCK_SIDE)) for side, most in sides]
        one, other = (
            cv2.resize(made.arrays[plane].astype(np.float32), blocks, interpolation=cv2.INTER_AREA)
            / 2 ** (made.layout.depth - 8)
            for made in pair
        )
        worst = max(worst, float(np.median(np.abs(one - other))))
    return worst


def chroma_off(pair: Pair) -> float | None:
    """How far chroma lies from where it was composed, in luma samples; None where it has too few edges to tell.

    By least squares: what differs is, for a small shift, the shift times the slope.
    """
    shape = pair[0].arrays[1].shape
    if shape != pair[1].arrays[1].shape or min(shape) < MIN_CHROMA_SIDE:
        return None
    far: float | None = None
    by = pair[0].layout.chroma
    for plane in (1, 2):
        shown, composed = (_soft(made.arrays[plane], made.layout.depth) for made in pair)
        slopes = [cv2.Sobel(composed, cv2.CV_32F, across, 1 - across, ksize=3) / 8 for across in (1, 0)]
        if min(float(np.sqrt((slope**2).mean())) for slope in slopes) < FEWEST_EDGES / 8:
            continue
        matrix = np.stack([slope.ravel() for slope in slopes])
        shift = np.linalg.solve(matrix @ matrix.T, matrix @ (composed - shown).ravel())
        far = max(far or 0.0, float(np.hypot(shift[0] * by.across, shift[1] * by.down)))
    return far


def _soft(plane: Samples, depth: int) -> Working:
    """A plane in codes of 8 bits, without what coding adds from sample to sample."""
    made: Working = cv2.GaussianBlur(plane.astype(np.float32) / 2 ** (depth - 8), (0, 0), 1.5)
    return made


def combing(luma: Samples, depth: int) -> float:
    """How much lines differ from the mean of their two neighbours, root mean square, in codes of 8 bits."""
    lines = luma.astype(np.float32) / 2 ** (depth - 8)
    return float(np.sqrt(((lines[1:-1] - (lines[:-2] + lines[2:]) / 2) ** 2).mean()))
