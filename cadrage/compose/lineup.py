"""A line-up: several ways for the same moment, side by side, each with its cost."""

import io
from fractions import Fraction
from math import ceil, sqrt
from pathlib import Path

from PIL import Image, ImageDraw

from cadrage.compose.compositor import Compositor
from cadrage.compose.measure import measure
from cadrage.compose.preview import preview_size
from cadrage.compose.summary import NOTHING_TO_FILL
from cadrage.footage import EMPTY, Library, MediaInfo, open_footage
from cadrage.geometry import Placement
from cadrage.lettering.fonts import font
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Blurred, EdgeExtend, Gradient, Mirrored, Plain
from cadrage.values import Value

FEWEST, MOST = 2, 9
TILE, MARGIN, CAPTION = 480, 16, 44
NAME, COST = ("archivo-latin", 17.0, (600, 100)), ("archivo-latin", 14.0, (400, 100))
PAPER, INK, RUST = "#f4f0e6", "#24211c", "#9c3b1c"


class Alternative(Value):
    """One way.

    Attributes:
        name: what it is called.
        plan: the whole of it.
    """

    name: str
    plan: Plan


def starting_set(plan: Plan, info: MediaInfo) -> tuple[Alternative, ...]:
    """Ways that are worth seeing for a clip in a frame; those that come to the same are left out.

    Only the ways of filling what is empty are offered where something is.
    """
    copy = plan.surround if isinstance(plan.surround, Blurred) else Blurred()
    whole, fill = Placement(), Placement(tightness=Fraction(1))

    def way(name: str, **changed: object) -> Alternative:
        return Alternative(name=name, plan=plan.model_copy(update=changed))

    ways = [
        Alternative(name="As it is", plan=plan),
        way("Whole, blurred copy", placement=whole, surround=copy),
        way("Three-quarter fill", placement=Placement(tightness=Fraction(3, 4)), surround=copy),
        way("Fill", placement=fill),
        way("Whole, plain", placement=whole, surround=Plain(colour="#202428")),
        way("Whole, gradient", placement=whole, surround=Gradient()),
        way("Whole, stretched edges", placement=whole, surround=EdgeExtend()),
        way("Whole, mirrored", placement=whole, surround=Mirrored()),
    ]
    kept: list[Alternative] = []
    for one in ways:
        if all(_looks(one.plan, info) != _looks(other.plan, info) for other in kept):
            kept.append(one)
    return tuple(kept[:MOST])


def _looks(plan: Plan, info: MediaInfo) -> tuple[object, ...]:
    """What decides how a plan looks: a surround that is nowhere seen does not."""
    numbers = measure(plan, info)
    covered = numbers.summary.surround == NOTHING_TO_FILL
    return numbers.box, plan.placement.angle, plan.placement.mirror, None if covered else plan.surround, plan.finish


def sheet(
    ways: tuple[Alternative, ...], path: Path, info: MediaInfo, time: Fraction, library: Library = EMPTY
) -> bytes:
    """A line-up as one PNG: every way at a moment, its name and what it costs below it."""
    drawn = []
    for way in ways:
        with open_footage(path, info, way.plan.interpretation) as reader:
            stored = reader.frame_at(time).planes
        size = preview_size(way.plan.frame, TILE)
        drawn.append(
            Image.fromarray(
                to_rgb(Compositor(way.plan, stored.layout, info, size, library=library).compose(stored, time=time))
            )
        )
    columns = ceil(sqrt(len(ways)))
    rows = ceil(len(ways) / columns)
    tall = max(image.height for image in drawn) + CAPTION
    whole = Image.new("RGB", (columns * (TILE + MARGIN) + MARGIN, rows * (tall + MARGIN) + MARGIN), PAPER)
    pen = ImageDraw.Draw(whole)
    for number, (way, image) in enumerate(zip(ways, drawn, strict=True)):
        x, y = MARGIN + number % columns * (TILE + MARGIN), MARGIN + number // columns * (tall + MARGIN)
        whole.paste(image, (x, y))
        numbers = measure(way.plan, info)
        pen.text((x, y + image.height + 4), way.name, fill=INK, font=font(*NAME))
        kept = f"{float(numbers.cost.kept_percent):.1f}% kept, covers {float(numbers.cost.covered_percent):.0f}%"
        colour = RUST if numbers.summary.loses else INK
        pen.text((x, y + image.height + 24), kept, fill=colour, font=font(*COST))
    data = io.BytesIO()
    whole.save(data, "PNG")
    return data.getvalue()
