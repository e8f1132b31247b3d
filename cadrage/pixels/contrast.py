"""Contrast of letters on what is behind them, as the W3C's Web Content Accessibility Guidelines 2.2 compute it."""

import numpy as np
from numpy.typing import NDArray

WEIGHTS = np.array((0.2126, 0.7152, 0.0722))  # "relative luminance" in WCAG 2.2
READABLE = 4.5  # success criterion 1.4.3, level AA, for text of any size


def luminance(rgb: NDArray[np.floating]) -> NDArray[np.float64]:
    """Relative luminance, 0 to 1, of R'G'B' from 0 to 1 along the last axis."""
    given = np.asarray(rgb, np.float64)
    linear = np.where(given <= 0.04045, given / 12.92, ((given + 0.055) / 1.055) ** 2.4)
    found: NDArray[np.float64] = linear @ WEIGHTS
    return found


def contrast(one: NDArray[np.floating], other: NDArray[np.floating]) -> NDArray[np.float64]:
    """The contrast ratio of two relative luminances, 1 to 21."""
    lighter, darker = np.maximum(one, other), np.minimum(one, other)
    ratio: NDArray[np.float64] = (lighter + 0.05) / (darker + 0.05)
    return ratio
