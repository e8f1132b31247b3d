"""How well pictures are scaled: waves of every frequency drawn smaller, beside what a perfect filter would leave."""

import numpy as np
import pytest

from cadrage.pixels.kernels import cubic, lanczos, sampling_kernel

STEP = 4  # source samples for one drawn sample


def response(curve, frequency, step=STEP):
    """How much is left of a wave, whose frequency is a share of the highest that can be drawn."""
    distance = np.arange(-6 * step, 6 * step) + 0.5
    weights = curve(distance / step)
    return float((weights * np.cos(np.pi * frequency / step * distance)).sum() / weights.sum())


def kept(curve):
    """The least that is left between half and four fifths of what can be drawn."""
    return np.mean([response(curve, share) for share in np.linspace(0.5, 0.8, 31)])


def let_through(curve):
    """What is left on average of waves that cannot be drawn, and come out as others: from 1.3 times the highest on."""
    return float(np.sqrt(np.mean([response(curve, share) ** 2 for share in np.linspace(1.3, STEP, 200)])))


def test_reducing_keeps_detail_and_lets_little_else_through():
    kernel = sampling_kernel(STEP)
    own = lambda distance: kernel.curve(distance * STEP)  # noqa: E731
    assert own(np.array([0.3, 1.7])) == pytest.approx(lanczos(np.array([0.3, 1.7])))
    assert kept(own) > 0.90 > kept(cubic)
    assert let_through(own) < 0.6 * let_through(cubic)


def test_enlarging_rings_less_than_the_wider_kernel_would():
    """A step from 0 to 1: how far the drawn edge goes beyond it."""
    assert sampling_kernel(0.5).curve is cubic

    def ringing(curve):
        at = np.linspace(-4, 4, 801)
        samples = np.arange(-16, 17)
        drawn = [(curve(samples + 0.5 - x) * (samples >= 0)).sum() / curve(samples + 0.5 - x).sum() for x in at]
        return max(drawn) - 1

    assert ringing(cubic) == pytest.approx(0.07, abs=0.01)
    assert ringing(lanczos) == pytest.approx(0.12, abs=0.03)
