"""A frame takes another size: what was decided about it means the same in the new one, as far as that can be."""

from dataclasses import replace
from fractions import Fraction
from typing import Any

from cadrage.compose.framed import stage_of
from cadrage.fields import lengthened
from cadrage.footage import MediaInfo, resolve
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.geometry.placement import MAX_SCALE, MAX_TIGHTNESS
from cadrage.motion import Stage
from cadrage.plan import Plan


def other_size(one: Frame, other: Frame) -> bool:
    """Whether frames differ in what pictures are placed in: their grid of pixels, or the active picture inside."""
    return one.raster != other.raster or one.active_rect != other.active_rect


def resized(plan: Plan, info: MediaInfo, frame: Frame) -> Plan:
    """The plan in a frame of another size or shape.

    The same point of the picture stays in the middle of the frame, at the same tightness. A side that met the frame's
    goes on meeting it, the native size stays native, and lengths in frame pixels grow with the frame's lines. Keys and
    moves are of the picture, and stay as they are.
    """
    reading = resolve(info, plan.interpretation)
    growth = Fraction(frame.height, plan.frame.height)

    def changed(one: Plan) -> dict[str, Any]:
        old, new = stage_of(one, reading), stage_of(one.model_copy(update={"frame": frame}), reading)
        return {
            "placement": _placement(old, new).model_copy(update={"mirror": one.placement.mirror}),
            "surround": lengthened(one.surround, growth),
            "finish": lengthened(one.finish, growth),
        }

    return plan.map_shots(changed).model_copy(update={"frame": frame})


def _placement(old: Stage, new: Stage) -> Placement:
    """The placement of one stage in another."""
    base = old.base
    if base.sizing == "scale":
        base = base.model_copy(update={"scale": _scale(old, new, base.scale)})
    if not base.offset_x and not base.offset_y:
        return base
    # Only a size that covers the frame depends on the offset that is still to be found.
    centred = new.with_base(base.model_copy(update={"offset_x": Fraction(0), "offset_y": Fraction(0)}))
    scale = _scale(old, new, old.pose.scale) if base.sizing == "cover" else centred.pose.scale
    there = centred.placement(replace(old.pose, scale=scale))
    return base.model_copy(update={"offset_x": there.offset_x, "offset_y": there.offset_y})


def _scale(old: Stage, new: Stage, scale: Fraction) -> Fraction:
    """As tight as before; what is smaller than the whole picture, or larger than any tightness, in proportion."""
    least, most = old.scale_at(Fraction(0)), old.scale_at(Fraction(MAX_TIGHTNESS))
    if least <= scale <= most:
        return new.scale_at(old.tightness_at(scale))
    tightness = Fraction(0 if scale < least else MAX_TIGHTNESS)
    grown = scale * new.scale_at(tightness) / old.scale_at(tightness)
    return min(max(grown, Fraction(1, MAX_SCALE)), Fraction(MAX_SCALE))
