"""How shapes are called."""

from fractions import Fraction

NAMED = ((16, 9), (9, 16), (4, 3), (3, 4), (1, 1), (4, 5), (5, 4), (3, 2), (2, 3), (2, 1), (1, 2), (21, 9))
"""Ratios that people say as two whole numbers; common practice, no source."""

NEAR = Fraction(1, 400)


def aspect_name(aspect: Fraction) -> str:
    """A ratio of width to height as it is spoken of: "16:9", or "2.39" where no pair of small numbers is meant."""
    for across, down in NAMED:
        if abs(aspect / Fraction(across, down) - 1) <= NEAR:
            return f"{across}:{down}"
    return f"{float(aspect):.2f}"
