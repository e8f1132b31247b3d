"""What an editor should know about a placement before choosing it."""

from fractions import Fraction

from cadrage.geometry.cost import Cost

MUCH_ENLARGED = Fraction(3, 2)
A_THIRD = Fraction(100, 3)
SHAPE_ERROR = Fraction(1, 200)


def cautions(cost: Cost) -> tuple[str, ...]:
    """The cautions a cost gives cause for, in words; none where there is nothing to say."""
    said = []
    if cost.enlargement > MUCH_ENLARGED:
        said.append(f"Much enlarged: each source pixel becomes {_two(cost.enlargement)}; definition is lost.")
    elif cost.enlargement > 1:
        said.append(f"Enlarged: each source pixel becomes {_two(cost.enlargement)}.")
    if 100 - cost.kept_percent > A_THIRD:
        said.append("More than a third of the picture is lost.")
    if cost.covered_percent < A_THIRD:
        said.append("The picture covers less than a third of the frame.")
    if abs(cost.shape - 1) > SHAPE_ERROR:
        way = "wide" if cost.shape > 1 else "narrow"
        error = abs(cost.shape - 1) * 100
        said.append(f"Shapes are wrong: everything is {float(error):.1f} % too {way}.")
    return tuple(said)


def _two(value: Fraction) -> str:
    return f"{float(value):.2f}"
