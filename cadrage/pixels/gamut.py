"""Primaries: which colours red, green and blue are, and the way from one set to another."""

from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Gamut = Literal["bt709", "bt601-525", "bt601-625", "bt2020", "p3-d65", "p3-dci", "ntsc-1953", "film", "p22"]

D65, C, DCI = (0.3127, 0.3290), (0.310, 0.316), (0.314, 0.351)

PRIMARIES: dict[Gamut, tuple[tuple[float, float], ...]] = {
    "bt709": ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060), D65),
    "ntsc-1953": ((0.67, 0.33), (0.21, 0.71), (0.14, 0.08), C),
    "bt601-625": ((0.64, 0.33), (0.29, 0.60), (0.15, 0.06), D65),
    "bt601-525": ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070), D65),
    "film": ((0.681, 0.319), (0.243, 0.692), (0.145, 0.049), C),
    "bt2020": ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65),
    "p3-dci": ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060), DCI),
    "p3-d65": ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060), D65),
    "p22": ((0.630, 0.340), (0.295, 0.605), (0.155, 0.077), D65),
}
"""x and y of red, green, blue and white. ITU-T H.273, table 2."""

GAMUT_OF_CODE: dict[int, Gamut] = {
    1: "bt709",
    4: "ntsc-1953",
    5: "bt601-625",
    6: "bt601-525",
    7: "bt601-525",
    8: "film",
    9: "bt2020",
    11: "p3-dci",
    12: "p3-d65",
    22: "p22",
}
"""ITU-T H.273, table 2 (ColourPrimaries)."""

CODE_OF_GAMUT: dict[Gamut, int] = {gamut: code for code, gamut in GAMUT_OF_CODE.items() if code != 7}

Matrix3 = NDArray[np.float64]

BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])
"""To the responses in which whites are brought to one another: K. Lam, 1985, as ICC.1:2022, annex E has it."""


@lru_cache(maxsize=64)
def gamut_change(source: Gamut, target: Gamut) -> Matrix3:
    """The 3×3 matrix from light R, G, B of one set of primaries to that of another; white stays white."""
    to_source, to_target = _to_xyz(source), _to_xyz(target)
    white, wanted = to_source.sum(axis=1), to_target.sum(axis=1)
    gain = np.diag((BRADFORD @ wanted) / (BRADFORD @ white))
    adapted = np.linalg.inv(BRADFORD) @ gain @ BRADFORD
    changed: Matrix3 = np.linalg.inv(to_target) @ adapted @ to_source
    return changed


def _to_xyz(gamut: Gamut) -> Matrix3:
    """From light R, G, B to CIE XYZ with white's Y at 1. SMPTE RP 177, 3.3."""
    columns = np.array([_xyz(*one) for one in PRIMARIES[gamut]])
    colours, white = columns[:3].T, columns[3]
    made: Matrix3 = colours * np.linalg.solve(colours, white)
    return made


def _xyz(x: float, y: float) -> tuple[float, float, float]:
    return x / y, 1.0, (1 - x - y) / y
