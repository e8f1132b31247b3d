"""Whether words can be read: their contrast against what is behind them, their room and their place.

What is behind words is taken from composed frames throughout the clip. Most of it must be far enough from the colour of
the letters: the ratio is that which all but a twentieth of the pixels behind them reach.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cadrage.compose.compositor import Compositor
from cadrage.compose.framed import surround_opening
from cadrage.compose.moment import moment_of
from cadrage.compose.preview import preview_size
from cadrage.compose.quiet import Sample
from cadrage.compose.shots import track_of
from cadrage.compose.target import screen_layout
from cadrage.finish import Title
from cadrage.finish.titles import title_block
from cadrage.footage import resolve
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.pixels.colour import parse_colour
from cadrage.pixels.contrast import READABLE, contrast, luminance
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Graphic, Scene
from cadrage.surrounds.panel import SMALLEST, laid_out
from cadrage.values import Value, parse_exact

WIDTH = 480
WORST = 5  # percent of the pixels behind words that may be nearer
LIGHT, DARK = "#f4f0e6", "#14120f"
PLATES = (40.0, 55.0, 70.0, 85.0, 100.0)
DIMMED = 0.85  # a ground is dimmed in such steps
DIMMEST = 5.0


class Legible(Value):
    """How well some words can be read.

    Attributes:
        what: "panel", or "title 1" and so on.
        ratio: contrast that nearly all pixels behind them reach; 0 where the words are nowhere.
        readable: whether nothing is wrong with them.
        summary: one line.
    """

    what: str
    ratio: float
    readable: bool
    summary: str


@dataclass(frozen=True, slots=True)
class _Words:
    """Some words on the canvas: where, in its samples, and how they look."""

    what: str
    box: tuple[float, float, float, float]
    colour: str
    plate: float = 0
    plate_colour: str = DARK
    trouble: str = ""


def legibility(plan: Plan, sample: Sample) -> tuple[Legible, ...]:
    """Every panel and title of a plan; empty where it has no words."""
    found = list(_words(plan, sample))
    if not found:
        return ()
    frames = [rgb.astype(np.float64) / 255 for rgb in _without_words(plan, sample)]
    judged: dict[str, Legible] = {}
    for words in found:  # of a panel's words, the worst count
        one = _judged(words, frames)
        if words.what not in judged or one.ratio < judged[words.what].ratio:
            judged[words.what] = one
    return tuple(judged.values())


def readable(plan: Plan, sample: Sample) -> Plan:
    """The plan with the least change that gives all its words enough contrast.

    First the colour of the letters becomes light or dark, whichever reads better; where that is not enough, the ground
    of a panel is dimmed, and a title gets a plate.
    """
    for step in range(len(plan.finish.titles)):
        plan = _title_readable(plan, sample, step)
    return _panel_readable(plan, sample) if isinstance(plan.surround, Graphic) else plan


def _title_readable(plan: Plan, sample: Sample, number: int) -> Plan:
    def with_title(title: Title) -> Plan:
        titles = (*plan.finish.titles[:number], title, *plan.finish.titles[number + 1 :])
        return plan.model_copy(update={"finish": plan.finish.model_copy(update={"titles": titles})})

    def ratio(made: Plan) -> float:
        return next(one.ratio for one in legibility(made, sample) if one.what == f"title {number + 1}")

    if ratio(plan) >= READABLE:
        return plan
    own = plan.finish.titles[number]
    coloured = [with_title(own.model_copy(update={"colour": colour})) for colour in (LIGHT, DARK)]
    best = max(coloured, key=ratio)
    if ratio(best) >= READABLE:
        return best
    plates = (
        with_title(own.model_copy(update={"colour": LIGHT, "plate": plate, "plate_colour": DARK})) for plate in PLATES
    )
    return next((made for made in plates if ratio(made) >= READABLE), best)


def _panel_readable(plan: Plan, sample: Sample) -> Plan:
    def ratio(made: Plan) -> float:
        return next(one.ratio for one in legibility(made, sample) if one.what == "panel")

    def over(made: Plan, brightness: float) -> Plan:
        changed = made.surround.map_backgrounds(
            lambda ground: ground.model_copy(
                update={"brightness": parse_exact(round(float(ground.brightness) * brightness, 1))}
            )
        )
        return made.model_copy(update={"surround": changed})

    if not ratio(plan) or ratio(plan) >= READABLE:
        return plan
    coloured = [
        plan.model_copy(update={"surround": plan.surround.model_copy(update={"colour": colour})})
        for colour in (LIGHT, DARK)
    ]
    best = max(coloured, key=ratio)
    if ratio(best) >= READABLE:
        return best
    dimmed = coloured[0]
    while ratio(dimmed) < READABLE and max(ground.brightness for ground in dimmed.surround.backgrounds) > DIMMEST:
        dimmed = over(dimmed, DIMMED)
    return dimmed


def _words(plan: Plan, sample: Sample) -> Iterator[_Words]:
    """Where the words of a plan stand on its canvas."""
    reading = resolve(sample.info, plan.interpretation)
    canvas = screen_layout(plan.frame, preview_size(plan.frame, WIDTH))
    if isinstance(plan.surround, Graphic):
        opening, cut = surround_opening(plan), reading.cut.rect
        track = track_of(plan, sample.info)
        seen = (track.shots[0].first, track.shots[-1].last)
        taken = track.taken(seen)
        frame = plan.frame.raster
        scene = Scene(frame, opening, cut, sample.layout, canvas, sample.library, constant=True, taken=lambda _: taken)
        yield from _panel_words(plan.surround, scene)
    for number, title in enumerate(plan.finish.titles, 1):
        block, left, top = title_block(title, canvas.width, canvas.height)
        right, bottom = left + block.width, top + block.height
        inside = TITLE_SAFE_INSET * canvas.width - 1 <= left and right <= (1 - TITLE_SAFE_INSET) * canvas.width + 1
        inside = (
            inside
            and TITLE_SAFE_INSET * canvas.height - 1 <= top
            and bottom <= (1 - TITLE_SAFE_INSET) * canvas.height + 1
        )
        yield _Words(
            f"title {number}",
            (left, top, right, bottom),
            title.colour,
            float(title.plate),
            title.plate_colour,
            "" if inside else "reaches out of the title-safe area",
        )


def _panel_words(graphic: Graphic, scene: Scene) -> Iterator[_Words]:
    pieces, smaller = laid_out(graphic, scene)
    standing = [(at, at.piece.text) for at in pieces if at.piece.text]
    if not standing:
        nothing = "" if not graphic.heading.strip() else "no place is free for it: the picture fills the frame"
        if nothing:
            yield _Words("panel", (0, 0, 0, 0), graphic.colour, trouble=nothing)
        return
    trouble = f"made smaller, to {smaller * 100:.0f}%, to fit" if smaller < 1 else ""
    if smaller <= SMALLEST:
        trouble = "does not fit into the place that is free"
    for at, text in standing:
        box = (at.left, at.top, at.left + text.width, at.top + text.height)
        yield _Words("panel", box, graphic.colour, trouble=trouble)


def _without_words(plan: Plan, sample: Sample) -> Iterator[NDArray[np.uint8]]:
    """Composed frames as R'G'B', with what is behind the words and nothing else."""
    bare = plan.without_text
    size = preview_size(plan.frame, WIDTH)
    compositor = Compositor(bare, sample.layout, sample.info, size, library=sample.library)
    for pair in sample.pairs:
        frame, time = pair[0]
        yield to_rgb(compositor.compose(frame.planes, time=moment_of(sample.info, frame, time)))


def _judged(words: _Words, frames: list[NDArray[np.float64]]) -> Legible:
    left, top, right, bottom = words.box
    rows, columns = slice(max(0, int(top)), max(0, int(bottom)) + 1), slice(max(0, int(left)), max(0, int(right)) + 1)
    if right <= left:
        return Legible(what=words.what, ratio=0, readable=False, summary=words.trouble)
    plate = np.array(parse_colour(words.plate_colour)) * words.plate / 100
    behind = np.concatenate([frame[rows, columns].reshape(-1, 3) for frame in frames]) * (1 - words.plate / 100) + plate
    own = luminance(np.array(parse_colour(words.colour)))
    ratio = float(np.percentile(contrast(luminance(behind), own), WORST)) if behind.size else 0.0
    enough = ratio >= READABLE
    text = f"contrast {ratio:.1f}:1" if enough else f"contrast {ratio:.1f}:1, under {READABLE}:1"
    summary = f"{text}; {words.trouble}" if words.trouble else text
    return Legible(what=words.what, ratio=round(ratio, 2), readable=enough and not words.trouble, summary=summary)
