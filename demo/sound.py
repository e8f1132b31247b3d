"""The sound of Brackwater: a motor's hum, the beat of rail joints, a bell."""

import numpy as np
from numpy.typing import NDArray

RATE = 48_000
BELL_EVERY = 1.0  # seconds; the bell rings exactly on whole seconds


def street(seconds: float, pitch: float) -> NDArray[np.float32]:
    """Mono sound, values from -1 to 1, at 48 kHz.

    Args:
        seconds: its length.
        pitch: of the motor's hum, in hertz.
    """
    time = np.arange(round(seconds * RATE)) / RATE
    hum = 0.05 * np.sin(2 * np.pi * pitch * time) + 0.03 * np.sin(2 * np.pi * pitch * 2.01 * time)
    since_bell = time % BELL_EVERY
    bell = 0.25 * np.exp(-since_bell * 7) * np.sin(2 * np.pi * 1318.5 * since_bell)
    since_joint = time % 0.37
    joint = 0.2 * np.exp(-since_joint * 60) * np.sin(2 * np.pi * 90 * since_joint)
    sound: NDArray[np.float32] = (hum + bell + joint).astype(np.float32)
    return sound
