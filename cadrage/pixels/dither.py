"""Noise that hides the steps between codes."""

import numpy as np

from cadrage.pixels.planes import Working


def dither_noise(random: np.random.Generator, shape: tuple[int, int]) -> Working:
    """Noise of a triangular density, one code either way, to be added before rounding."""
    noise: Working = random.random(shape, np.float32) - random.random(shape, np.float32)
    return noise
