"""The state of each step of a framing, in few words."""

from fractions import Fraction

from cadrage.compose.colour_summary import conversion_summary, frame_colour_summary
from cadrage.footage import Edges, Interpretation, ResolvedInterpretation
from cadrage.formats import Frame
from cadrage.formats.aspect_names import aspect_name
from cadrage.geometry import Cost, Picture, Placement
from cadrage.plan import Plan
from cadrage.values import Value, format_exact

MANY_DIGITS = 6
SIZINGS = {
    "width": "fits the width",
    "height": "fits the height",
    "native": "native size",
    "stretch": "stretched",
    "cover": "just covers",
}

NOTHING_TO_FILL = "nothing to fill"


class Summary(Value):
    """The state of each step in few words.

    Attributes:
        source, frame, placement, movement, surround, finish: what is set there.
        lost: "nothing cropped", or how much is.
        loses: whether anything is lost.
        frame_colour: what the frame's colours are.
        colour: how the clip's come to be those; empty where they are.
    """

    source: str
    frame: str
    placement: str
    movement: str
    surround: str
    finish: str
    lost: str
    loses: bool
    frame_colour: str
    colour: str


def summarise(plan: Plan, reading: ResolvedInterpretation, cost: Cost) -> Summary:
    """Say a framing."""
    picture = reading.picture
    same_shape = picture.display_aspect == (plan.frame.active or plan.frame.raster.display_aspect)
    covered = cost.covered_percent == 100 and plan.frame.outside == "bars"
    lost = 100 - cost.kept_percent
    return Summary(
        source=_source(picture, plan.interpretation),
        frame=_frame(plan.frame),
        placement=_placement(plan.placement, cost, same_shape=same_shape),
        movement=plan.motion.summary,
        surround=NOTHING_TO_FILL if covered else plan.surround.summary,
        finish=plan.finish.summary,
        lost=f"{tidy(lost)}% of the picture cropped" if lost else "nothing cropped",
        loses=bool(lost),
        frame_colour=frame_colour_summary(plan.frame),
        colour=conversion_summary(reading.colour, plan.frame),
    )


def _frame(frame: Frame) -> str:
    words = f"{aspect_name(frame.raster.display_aspect)} {frame.width}×{frame.height}"
    return words if frame.active is None else f"{aspect_name(frame.active)} in {words}"


def _source(picture: Picture, stated: Interpretation) -> str:
    aspect = picture.display_aspect
    way = "upright" if aspect < 1 else "square" if aspect == 1 else "wide"
    words = [f"{aspect_name(aspect)} {way}"]
    if picture.pixel_aspect != 1:
        words.append(f"{_ratio(picture.pixel_aspect)} pixels")
    if stated.burned_in_bars and stated.burned_in_bars != Edges():
        words.append("bars off")
    return ", ".join(words)


def _ratio(value: Fraction) -> str:
    exact = format_exact(value)
    return f"{value.numerator}:{value.denominator}" if len(exact) <= MANY_DIGITS else f"{float(value):.4f}"


def _placement(placement: Placement, cost: Cost, *, same_shape: bool) -> str:
    if placement.sizing in SIZINGS:
        words = SIZINGS[placement.sizing]
    elif placement.sizing == "scale":
        words = f"scaled to {tidy(100 * cost.enlargement_down)}%"
    elif same_shape and placement.tightness <= 1 and not placement.angle:
        words = "fills exactly"
    elif placement.tightness == 0:
        words = "whole picture"
    elif placement.tightness == 1:
        words = "fills the frame"
    else:
        words = f"{tidy(100 * placement.tightness)}% fill"
    if placement.angle:
        words += f", turned {float(placement.angle):+.2f}".rstrip("0").rstrip(".") + "°"
    if placement.mirror:
        words += ", mirrored"
    return f"{words}, moved" if placement.offset_x or placement.offset_y else words


def tidy(value: Fraction) -> str:
    """One decimal, none where it would be 0; never rounded to nothing."""
    if 0 < value < Fraction(1, 10):
        return "under 0.1"
    return f"{float(value):.1f}".removesuffix(".0")
