"""How identifiers are called where people read them. What is stored and compared is never wording."""

WORDING = {
    "free_area": "where it is free",
    "empty_area": "where it is empty",
    "left_right": "left and right",
    "above_below": "above and below",
}
"""Identifiers whose words are others than their own."""


def wording(identifier: str) -> str:
    """The words for an identifier: its own with spaces, unless it has others."""
    return WORDING.get(identifier, identifier.replace("_", " "))
