"""From one set of primaries and one curve to another, through light.

What is brighter than a target can show is rolled off as ITU-R BT.2390 says, by the largest of R, G and B, so that hue
stays; what its primaries cannot show is cut off at none of the one that would be less than that.
"""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from cadrage.pixels import transfer
from cadrage.pixels.colour import LUMA_WEIGHTS, Colour, parse_colour, rgb_from_ycc
from cadrage.pixels.gamut import gamut_change

Array = NDArray[np.float64]
USUAL_PEAK = 1000  # cd/m² of the displays that most HDR is made on, where a file does not say (common practice)
WHITE = Colour("bt709", primaries=1, transfer=1)
"""What "#203040" means: R'G'B' of BT.709, whose primaries are also sRGB's."""


def peak_of(colour: Colour) -> float:
    """cd/m² of the brightest that samples can mean, or were made for."""
    if colour.curve == "hlg":
        return transfer.HLG_PEAK
    if colour.hdr:
        return float(colour.peak or USUAL_PEAK)
    return transfer.GRAPHICS_WHITE


def relit(coded: Array, source: Colour, target: Colour) -> Array:
    """Coded R'G'B' (…, 3), 0 to 1, of one colour as that of another. Exact; `LightChange` does the same by tables."""
    light = _graded(_decoded(coded, source) @ between(source, target).T, source, target)
    return _encoded(light, target)


def codes_of(text: str, colour: Colour, depth: int) -> tuple[float, float, float]:
    """The Y', Cb and Cr codes (not rounded) of a colour such as "#203040" at a bit depth."""
    rgb = seen_in(parse_colour(text), colour)
    y, cb, cr = np.linalg.inv(rgb_from_ycc(colour.matrix)) @ rgb
    black, luma, chroma = colour.code_range(depth)
    middle = float(2 ** (depth - 1))
    return float(black + luma * y), float(middle + chroma * cb), float(middle + chroma * cr)


def seen_in(rgb: tuple[float, float, float] | Array, colour: Colour) -> Array:
    """Coded R'G'B' (…, 3) of what looks as R'G'B' of words and surrounds does, with white at graphics white."""
    given = np.asarray(rgb, np.float64)
    return relit(given, WHITE, colour) if colour.relit_from(WHITE) else given


def _decoded(coded: Array, source: Colour) -> Array:
    """Light of coded R'G'B', 1 at graphics white."""
    if source.curve == "pq":
        return transfer.pq_light(coded) / transfer.GRAPHICS_WHITE
    if source.curve == "hlg":
        scene = transfer.hlg_scene(coded)
        return scene * system_gain(_luminance(scene))[..., None] * transfer.HLG_PEAK / transfer.GRAPHICS_WHITE
    return transfer.sdr_light(coded)


def _luminance(light: Array) -> Array:
    red, blue = LUMA_WEIGHTS["bt2020"]
    luminance: Array = light @ np.array([red, 1 - red - blue, blue])
    return luminance


def system_gain(scene: Array) -> Array:
    """What scene light is multiplied with to be display light, 0 to 1. ITU-R BT.2100-2, table 5, OOTF."""
    gain: Array = np.maximum(scene, 1e-9) ** (transfer.HLG_GAMMA - 1)
    return gain


def scene_gain(display: Array) -> Array:
    """The other way."""
    gain: Array = np.maximum(display, 1e-9) ** (1 / transfer.HLG_GAMMA - 1)
    return gain


def between(source: Colour, target: Colour) -> Array:
    """The 3×3 matrix between the light of two colours."""
    one, other = target.gamut_of(source), target.gamut
    return np.eye(3) if one == other or one is None or other is None else gamut_change(one, other)


def rolls_off(source: Colour, target: Colour) -> bool:
    """Whether light of one colour may be more than another can show."""
    holds_all = target.curve == "pq" or target.headroom > 1
    return source.hdr and not holds_all and peak_of(source) > peak_of(target)


def _graded(light: Array, source: Colour, target: Colour) -> Array:
    if source.hdr:
        light = np.maximum(light, 0)
    if not rolls_off(source, target):
        return light
    brightest = light.max(axis=-1)
    return light * roll_off_gain(source, target)(brightest)[..., None]


def roll_off_gain(source: Colour, target: Colour) -> Callable[[Array], Array]:
    """What light is multiplied with, by the brightest of its three."""
    white, from_peak, to_peak = transfer.GRAPHICS_WHITE, peak_of(source), peak_of(target)

    def gain(brightest: Array) -> Array:
        safe = np.maximum(brightest, 1e-6)
        return transfer.rolled_off(safe * white, from_peak, to_peak) / (safe * white)

    return gain


def _encoded(light: Array, target: Colour) -> Array:
    if target.curve == "pq":
        return transfer.pq_coded(light * transfer.GRAPHICS_WHITE)
    if target.curve == "hlg":
        display = np.maximum(light, 0) * transfer.GRAPHICS_WHITE / transfer.HLG_PEAK
        return transfer.hlg_coded(display * scene_gain(_luminance(display))[..., None])
    return transfer.sdr_coded(light)
