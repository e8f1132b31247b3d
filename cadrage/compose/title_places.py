"""Where titles stand on a frame, and the places that people put them in."""

from fractions import Fraction

from cadrage.errors import BadRequest
from cadrage.finish import Title
from cadrage.finish.titles import title_block
from cadrage.formats import Frame
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.geometry import Box, FrameRect, Placed, Snap
from cadrage.geometry.free import Side, free_places
from cadrage.values import Value

HUNDREDTH = Fraction(1, 100)
LOWEST, RISE = Fraction(85), Fraction(12)
"""Percent of the active picture's height at which a new title stands, and by which one above another does."""


class TitlePlace(Value):
    """One title.

    Attributes:
        box: around its lines, in frame pixels; of no size where its words cannot be set.
        across, down: places for the middle of it, in percent of the frame, as `Title.x` and `Title.y` have them.
    """

    box: Box
    across: tuple[Snap, ...]
    down: tuple[Snap, ...]


def new_title(frame: Frame, text: str | None = None, above: int = 0) -> Title:
    """A title low in the active picture, clear of its edge; `above` some others that stand there."""
    active, height = frame.active_rect, frame.height
    y = active.y + active.height * (LOWEST - RISE * above) / 100
    y = _percent(y, Fraction(height))
    return Title(y=y) if text is None else Title(text=text, y=y)


def title_places(titles: tuple[Title, ...], placed: Placed) -> tuple[TitlePlace, ...]:
    """Every title of a frame."""
    if not titles:  # hundreds of framings are measured for a board
        return ()
    frame = placed.frame
    bars = free_places(FrameRect.around(placed.corners), frame, placed.opening, Fraction(0), Fraction(0))
    found = []
    for title in titles:
        box = _box(title, placed)
        across = _snaps(Fraction(frame.width), box.width, ("left", "right"), bars, upright=False)
        down = _snaps(Fraction(frame.height), box.height, ("above", "below"), bars, upright=True)
        found.append(TitlePlace(box=Box.of(box), across=across, down=down))
    return tuple(found)


def _box(title: Title, placed: Placed) -> FrameRect:
    """In frame pixels, to a hundredth."""
    frame = placed.frame
    wide = float(frame.width * frame.pixel_aspect)
    try:
        block, left, top = title_block(title, wide, frame.height)
    except BadRequest:  # the preview says what is wrong with its words
        x, y = title.x * HUNDREDTH, title.y * HUNDREDTH
        return FrameRect(frame.width * x, frame.height * y, Fraction(0), Fraction(0))
    sides = (left * frame.width / wide, top, block.width * frame.width / wide, float(block.height))
    return FrameRect(*(Fraction(round(side * 100), 100) for side in sides))


def _snaps(
    length: Fraction, size: Fraction, sides: tuple[Side, Side], bars: dict[Side, FrameRect], *, upright: bool
) -> tuple[Snap, ...]:
    inset, half = length * TITLE_SAFE_INSET, size / 2
    first, second = ("top", "bottom") if upright else ("left", "right")
    wanted = [
        (length / 2, "centred", length / 2),
        (inset + half, f"{first} at the title-safe edge", inset),
        (length - inset - half, f"{second} at the title-safe edge", length - inset),
    ]
    for side in sides:
        if side in bars:
            bar = bars[side]
            middle = bar.y + bar.height / 2 if upright else bar.x + bar.width / 2
            wanted.append((middle, f"centred in the bar {side}" if upright else f"centred in the {side} bar", middle))
    return tuple(Snap(offset=_percent(at, length), label=label, line=line) for at, label, line in wanted)


def _percent(at: Fraction, length: Fraction) -> Fraction:
    return Fraction(round(at / length * 10_000), 100)
