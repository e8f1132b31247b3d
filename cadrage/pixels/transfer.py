"""Curves between coded R'G'B' and light."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

GRAPHICS_WHITE = 203.0
"""cd/m² at which the white of SDR, of words and of surrounds stands in HDR. ITU-R BT.2408-7, table 1."""
PQ_PEAK = 10_000.0
HLG_PEAK = 1000.0
"""cd/m² of the display that HLG is shown on here. ITU-R BT.2100-2, table 5, note 5d: there its gamma is 1.2."""
HLG_GAMMA = 1.2
SDR_GAMMA = 2.4  # ITU-R BT.1886, annex 1, with black at no light

# ITU-R BT.2100-2, table 4.
M1, M2 = 2610 / 16384, 2523 / 4096 * 128
C1, C2, C3 = 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
# ITU-R BT.2100-2, table 5.
A = 0.17883277
B = 1 - 4 * A
C = 0.5 - A * np.log(4 * A)


def pq_light(coded: Array) -> Array:
    """cd/m² of PQ codes (0 to 1). ITU-R BT.2100-2, table 4, EOTF."""
    root = np.clip(coded, 0, None) ** (1 / M2)
    light: Array = PQ_PEAK * (np.maximum(root - C1, 0) / (C2 - C3 * root)) ** (1 / M1)
    return light


def pq_coded(light: Array) -> Array:
    """PQ codes (0 to 1) of cd/m². ITU-R BT.2100-2, table 4, inverse EOTF."""
    power = (np.clip(light, 0, PQ_PEAK) / PQ_PEAK) ** M1
    coded: Array = ((C1 + C2 * power) / (1 + C3 * power)) ** M2
    return coded


def hlg_scene(coded: Array) -> Array:
    """Scene light (0 to 1) of HLG codes. ITU-R BT.2100-2, table 5, inverse OETF."""
    coded = np.clip(coded, 0, None)
    return np.where(coded <= 0.5, coded**2 / 3, (np.exp((coded - C) / A) + B) / 12)


def hlg_coded(scene: Array) -> Array:
    """HLG codes of scene light (0 to 1). ITU-R BT.2100-2, table 5, OETF."""
    scene = np.clip(scene, 0, None)
    return np.where(scene <= 1 / 12, np.sqrt(3 * scene), A * np.log(np.maximum(12 * scene - B, 1e-9)) + C)


def sdr_light(coded: Array) -> Array:
    """Light of SDR codes, 1 at white; below black as much darker. ITU-R BT.1886, annex 1."""
    return np.sign(coded) * np.abs(coded) ** SDR_GAMMA


def sdr_coded(light: Array) -> Array:
    """SDR codes of light, 1 at white."""
    return np.sign(light) * np.abs(light) ** (1 / SDR_GAMMA)


def rolled_off(light: Array, source_peak: float, target_peak: float) -> Array:
    """Light in cd/m² of a brighter display brought to a dimmer one.

    Untouched up to a knee, and above it bent so that the source's peak comes to lie at the target's: the EETF of ITU-R
    BT.2390-10, 5.4.1, with black at no light on both.
    """
    if target_peak >= source_peak:
        return light
    whole = pq_coded(np.array(source_peak))
    coded = np.minimum(pq_coded(light) / whole, 1)
    top = float(pq_coded(np.array(target_peak)) / whole)
    knee = 1.5 * top - 0.5
    part = np.clip((coded - knee) / (1 - knee), 0, 1)
    spline = (
        (2 * part**3 - 3 * part**2 + 1) * knee
        + (part**3 - 2 * part**2 + part) * (1 - knee)
        + (-2 * part**3 + 3 * part**2) * top
    )
    return pq_light(np.where(coded < knee, coded, spline) * whole)
