"""What a placement takes and gives."""

from fractions import Fraction

from cadrage.geometry.placement import Placed
from cadrage.geometry.turning import area_of, brief
from cadrage.values import Exact, Value


class Cost(Value):
    """What a placement takes and gives. Exact.

    Attributes:
        kept_percent: share of the picture's area that is seen.
        lost_left, lost_right, lost_top, lost_bottom: stored source pixels beyond that side of the frame.
        covered_percent: share of the frame's area that the picture covers; of the active picture's, where there is one.
        enlargement: frame pixels for one stored source pixel, in the direction where that is more.
        enlargement_across, enlargement_down: the same in each direction.
        shape: width over height of a true square after placing; 1 is true.
    """

    kept_percent: Exact
    lost_left: Exact
    lost_right: Exact
    lost_top: Exact
    lost_bottom: Exact
    covered_percent: Exact
    enlargement: Exact
    enlargement_across: Exact
    enlargement_down: Exact
    shape: Exact

    @property
    def loses_nothing(self) -> bool:
        """Whether the whole picture is seen."""
        return self.kept_percent == 100


def cost_of(placed: Placed) -> Cost:
    """Work out what a placement costs."""
    rect, frame, picture, opening = placed.rect, placed.frame, placed.picture, placed.opening.rect
    across, down = rect.width / picture.width, rect.height / picture.height
    kept, left, right, top, bottom = _turned_losses(placed) if placed.angle else _losses(placed)
    kept_percent, covered_percent = 100 * kept, 100 * kept * rect.area / opening.area
    if placed.angle:
        kept_percent, covered_percent = brief(kept_percent), brief(covered_percent)
    return Cost(
        kept_percent=kept_percent,
        lost_left=left,
        lost_right=right,
        lost_top=top,
        lost_bottom=bottom,
        covered_percent=covered_percent,
        enlargement=max(across, down),
        enlargement_across=across,
        enlargement_down=down,
        shape=(across * frame.pixel_aspect) / (down * picture.pixel_aspect),
    )


Losses = tuple[Fraction, Fraction, Fraction, Fraction, Fraction]
"""The fraction kept; and stored pixels lost left, right, at the top and at the bottom of the picture."""


def _losses(placed: Placed) -> Losses:
    rect, opening = placed.rect, placed.opening.rect
    across, down = rect.width / placed.picture.width, rect.height / placed.picture.height
    left = _beyond(opening.x - rect.x, rect.width) / across
    right = _beyond(rect.right - opening.right, rect.width) / across
    if placed.mirror:
        left, right = right, left
    top = _beyond(opening.y - rect.y, rect.height) / down
    bottom = _beyond(rect.bottom - opening.bottom, rect.height) / down
    return rect.clipped(opening).area / rect.area, left, right, top, bottom


def _turned_losses(placed: Placed) -> Losses:
    """Of a turned picture, to a millionth; a side has lost what no line along that side keeps anything of."""
    picture, seen = placed.picture, placed.seen_on_picture()
    if not seen:
        return Fraction(0), picture.width, Fraction(0), picture.height, Fraction(0)
    half_width, half_height = picture.width / 2, picture.height / 2
    across, down = [x for x, _ in seen], [y for _, y in seen]
    sides = (half_width + min(across), half_width - max(across), half_height + min(down), half_height - max(down))
    left, right, top, bottom = (brief(side) for side in sides)
    return area_of(seen) / picture.rect.area, left, right, top, bottom


def _beyond(length: Fraction, whole: Fraction) -> Fraction:
    return min(max(length, Fraction(0)), whole)
