"""A plan's geometry: what is placed, where, and in which part of the frame."""

from fractions import Fraction
from typing import Any

from cadrage.footage import MediaInfo, ResolvedInterpretation, resolve
from cadrage.formats import Frame
from cadrage.geometry import Opening, Placed, Placement, Window, angle_of_line, place, placement_for
from cadrage.geometry.placement import MAX_ANGLE
from cadrage.motion import Stage
from cadrage.plan import Plan


def placed_in(plan: Plan, reading: ResolvedInterpretation) -> Placed:
    """The picture of a clip in the frame of a plan. It is mirrored where clip and placement do not undo each other."""
    return place(reading.picture, plan.frame.raster, _as_seen(plan, reading), plan.frame.active_rect)


def stage_of(plan: Plan, reading: ResolvedInterpretation) -> Stage:
    """What poses of a plan's picture are taken in."""
    return Stage(reading.picture, plan.frame.raster, plan.frame.active_rect, _as_seen(plan, reading))


def _as_seen(plan: Plan, reading: ResolvedInterpretation) -> Placement:
    """The placement with the picture mirrored as it is seen in all."""
    return plan.placement.model_copy(update={"mirror": reading.mirror != plan.placement.mirror})


def surround_opening(plan: Plan) -> Opening:
    """The part of the frame that a surround fills: the active picture, or all where it goes on outside that."""
    return Opening(plan.frame.surround_rect, plan.frame.pixel_aspect)


def with_window(plan: Plan, info: MediaInfo, window: Window) -> Plan:
    """The plan whose frame shows a window of the picture."""
    reading = resolve(info, plan.interpretation)
    seen = _as_seen(plan, reading)
    found = placement_for(window, reading.picture, plan.frame.raster, seen, plan.frame.active_rect)
    return plan.model_copy(update={"placement": found.model_copy(update={"mirror": plan.placement.mirror})})


def without_bars(plan: Plan, info: MediaInfo) -> Plan:
    """The plan whose frame is exactly the active picture of another's, with the same picture at the same place in it.

    The plan itself where the frame has no active picture, or its surround goes on outside that.
    """
    frame = plan.frame
    if not frame.has_bars:
        return plan
    drawn, reading = frame.drawn_rect, resolve(info, plan.interpretation)

    def moved(one: Plan) -> dict[str, Any]:
        placed = placed_in(one, reading)
        middle = placed.rect.x + placed.rect.width / 2, placed.rect.y + placed.rect.height / 2
        placement: dict[str, object] = {
            "offset_x": middle[0] - drawn.x - drawn.width / 2,
            "offset_y": middle[1] - drawn.y - drawn.height / 2,
        }
        if one.placement.sizing != "stretch":
            placement |= {"sizing": "scale", "scale": placed.scale}
        return {"placement": one.placement.model_copy(update=placement)}

    return plan.map_shots(moved).model_copy(update={"frame": bare_frame(frame)})


def bare_frame(frame: Frame) -> Frame:
    """A frame that is exactly another's active picture, where bars lie outside that."""
    if not frame.has_bars:
        return frame
    drawn = frame.drawn_rect
    return frame.model_copy(update={"width": int(drawn.width), "height": int(drawn.height), "active": None})


def straightened(plan: Plan, across: Fraction, down: Fraction) -> Plan:
    """The plan in which a line drawn on the frame, in frame pixels, lies level, or upright where that is nearer."""
    turn = angle_of_line(across * plan.frame.pixel_aspect, down)
    angle = min(max(plan.placement.angle + turn, Fraction(-MAX_ANGLE)), Fraction(MAX_ANGLE))
    return plan.model_copy(update={"placement": plan.placement.model_copy(update={"angle": angle})})
