"""What HDR says of its light, as encoders take it: carried from clips whose curve is kept."""

from fractions import Fraction

from cadrage.footage import MediaInfo
from cadrage.footage.interpretation import colour_of
from cadrage.footage.media_info import Chromaticity, Mastering
from cadrage.output.kinds import OutputFormat
from cadrage.plan import Plan

CARRYING = ("libx265", "libsvtav1")
"""Encoders that write it into the coded pictures; of other kinds only the container would have a place, which our
writer does not reach."""
CHROMATICITY = 50_000  # units of x and y in SEI messages, ITU-T H.265, D.3.28
LUMINANCE = 10_000  # units of cd/m² there


def kept_light(plan: Plan, info: MediaInfo) -> bool:
    """Whether what a clip says of its light is true of the frame as well."""
    stated = info.mastering is not None or info.content_light is not None
    return stated and plan.frame.colour == "pq" and colour_of(info, plan.interpretation).curve == "pq"


def light_options(plan: Plan, info: MediaInfo, kind: OutputFormat) -> dict[str, str]:
    """Options of an encoder that write it, empty where there is nothing to write."""
    if not kept_light(plan, info) or kind.encoder not in CARRYING:
        return {}
    found, light = [], info.content_light
    if kind.encoder == "libx265":
        if info.mastering is not None:
            found.append("hdr10=1:master-display=" + _display(info.mastering, CHROMATICITY, LUMINANCE))
        if light is not None:
            found.append(f"max-cll={light.brightest},{light.mean}")
        return {"x265-params": ":".join(found)}
    if info.mastering is not None:
        found.append("mastering-display=" + _display(info.mastering, 1, 1))
    if light is not None:
        found.append(f"content-light={light.brightest},{light.mean}")
    return {"svtav1-params": ":".join(found)}


def _display(display: Mastering, across: int, light: int) -> str:
    def point(name: str, where: Chromaticity) -> str:
        return f"{name}({_number(where.x, across)},{_number(where.y, across)})"

    points = (("G", display.green), ("B", display.blue), ("R", display.red), ("WP", display.white))
    lights = f"L({_number(display.highest, light)},{_number(display.lowest, light)})"
    return "".join(point(name, where) for name, where in points) + lights


def _number(value: Fraction, unit: int) -> str:
    return f"{float(value):.5f}" if unit == 1 else str(round(value * unit))
