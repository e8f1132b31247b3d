"""What becomes of a clip's colours in a frame, said to people."""

from cadrage.compose.target import target_colour
from cadrage.footage.describe import CURVE_NAMES, MATRIX_NAMES, PRIMARIES_NAMES
from cadrage.formats import Frame
from cadrage.pixels.colour import Colour
from cadrage.pixels.light import peak_of, rolls_off
from cadrage.pixels.transfer import GRAPHICS_WHITE

DEPTH_OF_HDR = "10 bits"


def frame_colour_summary(frame: Frame) -> str:
    """What a frame's colours are: "SDR, BT.709"."""
    colour = target_colour(frame)
    if colour.hdr:
        return f"{CURVE_NAMES[colour.curve]} in BT.2020, {DEPTH_OF_HDR}, words and surround at {GRAPHICS_WHITE:g} cd/m²"
    name, primaries = MATRIX_NAMES[colour.matrix], PRIMARIES_NAMES.get(colour.gamut, "")
    return f"SDR, {name}" if primaries == name else f"SDR, {primaries}"


def conversion_summary(source: Colour, frame: Frame) -> str:
    """How a clip's colours come into a frame; empty where they are as they are."""
    target = target_colour(frame)
    if source.hdr and not target.hdr:
        peak = peak_of(source)
        return (
            f"{CURVE_NAMES[source.curve]} to SDR: from {peak:g} cd/m² rolled off to {GRAPHICS_WHITE:g}, "
            "ITU-R BT.2390, and into the primaries of the frame"
        )
    if target.hdr and not source.hdr:
        return f"SDR to {CURVE_NAMES[target.curve]}: white at {GRAPHICS_WHITE:g} cd/m², ITU-R BT.2408"
    if source.curve != target.curve:
        bent = f", from {peak_of(source):g} cd/m² rolled off by ITU-R BT.2390" if rolls_off(source, target) else ""
        return f"{CURVE_NAMES[source.curve]} to {CURVE_NAMES[target.curve]}{bent}"
    if target.relit_from(source):
        before, after = PRIMARIES_NAMES[target.gamut_of(source)], PRIMARIES_NAMES[target.gamut]
        return f"primaries of {before} converted to those of {after}"
    if target.recoded_from(source):
        ranges = " from full to limited range" if source.full_range else ""
        matrices = (MATRIX_NAMES[source.matrix], MATRIX_NAMES[target.matrix])
        change = "" if matrices[0] == matrices[1] else f" from {matrices[0]} to {matrices[1]}"
        return f"recoded{change}{ranges}"
    return ""
