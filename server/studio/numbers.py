"""Whole numbers that somebody wrote."""

MOST_DIGITS = 15
"""Beyond the number of any row and of any file's bytes, and within what a database keeps."""


def whole_number(text: str) -> int | None:
    """The number that a text is, 0 or more; None where it is none, or has more than `MOST_DIGITS` digits."""
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= MOST_DIGITS else None
