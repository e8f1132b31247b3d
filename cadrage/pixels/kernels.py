"""Kernels: how much each source sample counts, by its distance."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

LOBES = 3
Curve = Callable[[NDArray[np.float64]], NDArray[np.float64]]


@dataclass(frozen=True, slots=True)
class Kernel:
    """A symmetric kernel.

    Attributes:
        reach: distance in source samples beyond which it is zero.
        curve: weight for a distance in source samples; need not sum to one.
    """

    reach: float
    curve: Curve


def cubic(distance: NDArray[np.floating]) -> NDArray[np.float64]:
    """Cubic convolution with a = -1/2. R. G. Keys, "Cubic convolution interpolation", IEEE ASSP-29, 1981, eq. 15."""
    t = np.abs(distance)
    near = 1.5 * t**3 - 2.5 * t**2 + 1
    far = -0.5 * t**3 + 2.5 * t**2 - 4 * t + 2
    return np.where(t < 1, near, np.where(t < 2, far, 0.0))


def lanczos(distance: NDArray[np.floating]) -> NDArray[np.float64]:
    """A sinc under the middle of a wider one, with three zeros each way.

    C. E. Duchon, "Lanczos filtering in one and two
    dimensions", J. Appl. Meteor. 18, 1979.
    """
    return np.where(np.abs(distance) < LOBES, np.sinc(distance) * np.sinc(distance / LOBES), 0.0)


@lru_cache(maxsize=64)
def sampling_kernel(step: float) -> Kernel:
    """The kernel for drawing a picture, given source samples for one drawn sample.

    Enlarging (step below 1) interpolates by the cubic, which rings least. Reducing widens a kernel by the step, which
    filters before it samples: that of Lanczos, which keeps more of what can be drawn and lets less through of what
    cannot; see `docs/scaling.md`.
    """
    if step <= 1:
        return Kernel(2, cubic)
    return Kernel(LOBES * step, lambda distance: lanczos(distance / step))


@lru_cache(maxsize=64)
def blurring_kernel(step: float, sigma: float) -> Kernel:
    """The sampling kernel convolved with a Gaussian whose standard deviation is `sigma` source samples.

    So blurring and drawing are one sum, as if the drawn picture had been blurred at full size. The Gaussian is
    carried to four standard deviations.
    """
    width = max(1.0, step)
    if sigma < 1e-3:
        return sampling_kernel(step)
    reach = 2 * width + 4 * sigma
    fine = min(width, sigma) / 32
    count = int(np.ceil(reach / fine))
    distances = np.arange(-count, count + 1) * fine
    gaussian = np.exp(-0.5 * (np.arange(-count, count + 1) * fine / sigma) ** 2)
    curve = _convolve(cubic(distances / width), gaussian)
    return Kernel(reach, lambda distance: np.interp(np.abs(distance), distances[count:], curve[count:]))


def _convolve(first: NDArray[np.float64], second: NDArray[np.float64]) -> NDArray[np.float64]:
    """Circular convolution of two centred tables of one length; both are zero near their ends."""
    length = len(first)
    spectrum = np.fft.rfft(np.fft.ifftshift(first)) * np.fft.rfft(np.fft.ifftshift(second))
    return np.fft.fftshift(np.fft.irfft(spectrum, length))
