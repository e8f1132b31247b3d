"""A plan's geometry: what is placed, where, and in which part of the frame."""

from cadrage.footage import Reading
from cadrage.geometry import Opening, Placed, place
from cadrage.plan import Plan


def placed_in(plan: Plan, reading: Reading) -> Placed:
    """The picture of a clip in the frame of a plan. It is mirrored where clip and placement do not undo each other."""
    mirror = reading.mirror != plan.placement.mirror
    placement = plan.placement.model_copy(update={"mirror": mirror})
    return place(reading.picture, plan.frame.raster, placement, plan.frame.active_rect)


def surround_opening(plan: Plan) -> Opening:
    """The part of the frame that a surround fills: the active picture, or all where it goes on outside that."""
    return Opening(plan.frame.surround_rect, plan.frame.pixel_aspect)
