"""What a placement takes and gives."""

from fractions import Fraction

from cadrage.geometry.placement import Placed
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
    seen = rect.clipped(opening)
    across, down = rect.width / picture.width, rect.height / picture.height
    return Cost(
        kept_percent=100 * seen.area / rect.area,
        lost_left=_beyond(opening.x - rect.x, rect.width) / across,
        lost_right=_beyond(rect.right - opening.right, rect.width) / across,
        lost_top=_beyond(opening.y - rect.y, rect.height) / down,
        lost_bottom=_beyond(rect.bottom - opening.bottom, rect.height) / down,
        covered_percent=100 * seen.area / opening.area,
        enlargement=max(across, down),
        enlargement_across=across,
        enlargement_down=down,
        shape=(across * frame.pixel_aspect) / (down * picture.pixel_aspect),
    )


def _beyond(length: Fraction, whole: Fraction) -> Fraction:
    return min(max(length, Fraction(0)), whole)
