"""Holding the true peak of sound: what lies between samples counts as well, as ITU-R BS.1770 has it."""

import cv2
import numpy as np
from numpy.typing import NDArray

Sound = NDArray[np.float32]

PEAK_DECIBELS = -1.0
"""dBTP that are not passed. EBU R 128-2020, item (l)."""
FIRST = (0.0017089843750, 0.0109863281250, -0.0196533203125, 0.0332031250000, -0.0594482421875, 0.1373291015625)
FIRST_ON = (0.9721679687500, -0.1022949218750, 0.0476074218750, -0.0266113281250, 0.0148925781250, -0.0083007812500)
SECOND = (-0.0291748046875, 0.0292968750000, -0.0517578125000, 0.0891113281250, -0.1665039062500, 0.4650878906250)
SECOND_ON = (0.7797851562500, -0.2003173828125, 0.1015625000000, -0.0582275390625, 0.0330810546875, -0.0189208984375)
HALF = ((*FIRST, *FIRST_ON), (*SECOND, *SECOND_ON))
PHASES = np.array([*HALF, HALF[1][::-1], HALF[0][::-1]], np.float32)
"""Four times oversampling: ITU-R BS.1770-5, annex 2, table 1; from memory, held against FFmpeg's meter in tests."""
TAPS = PHASES.shape[1]
AHEAD_SECONDS = 0.005  # how long before and after a peak sound is made quieter
BLOCK = 1 << 15


class PeakLimiter:
    """Makes sound quieter around peaks that would pass a limit, and nowhere else. As much comes out as goes in.

    Args:
        rate: samples a second.
        channels: that are made quieter together.
        decibels: the limit, dBTP.
    """

    def __init__(self, rate: int, channels: int, decibels: float = PEAK_DECIBELS) -> None:
        self._limit = np.float32(10 ** (decibels / 20))
        self._wide = max(1, round(rate * AHEAD_SECONDS))
        self._reach = 2 * self._wide + TAPS
        self._held: Sound = np.zeros((self._reach, channels), np.float32)
        window = np.hanning(2 * self._wide + 3)[1:-1]
        self._window = (window / window.sum()).astype(np.float32)

    def take(self, sound: Sound) -> Sound:
        """(samples, channels) in, as many out as can be known yet."""
        self._held = np.concatenate([self._held, sound])
        if len(self._held) < BLOCK:
            return self._held[:0]
        return self._given()

    def finish(self) -> Sound:
        """All that is still held."""
        self._held = np.concatenate([self._held, np.zeros((self._reach, self._held.shape[1]), np.float32)])
        return self._given()

    def _given(self) -> Sound:
        """What lies far enough from both ends of what is held."""
        inner = self._held[self._reach : len(self._held) - self._reach]
        gain = self._gain(self._held)
        made: Sound = inner if gain is None else inner * gain[self._reach : -self._reach, None]
        self._held = self._held[len(inner) :]
        return made

    def _gain(self, sound: Sound) -> NDArray[np.float32] | None:
        """What every sample is multiplied with; None where nothing is."""
        peaks = true_peaks(sound)
        if peaks.max(initial=0) <= self._limit:
            return None
        wanted = np.minimum(1, self._limit / np.maximum(peaks, 1e-9)).astype(np.float32)
        least = cv2.erode(wanted[None], np.ones((1, 2 * self._wide + 1), np.uint8), borderValue=1)
        smooth = cv2.filter2D(least, -1, self._window[None], borderType=cv2.BORDER_REPLICATE)
        made: NDArray[np.float32] = smooth[0]
        return made


def true_peaks(sound: Sound) -> NDArray[np.float32]:
    """The highest that sound reaches from each sample on to the next, of any channel; (samples, channels) go in."""
    highest = np.abs(sound).max(axis=1, initial=0)
    for channel in range(sound.shape[1]):
        line = np.ascontiguousarray(sound[:, channel])[None]
        for phase in PHASES:
            # `filter2D` correlates, so that the taps are turned round.
            between = cv2.filter2D(line, -1, phase[None, ::-1].copy(), borderType=cv2.BORDER_CONSTANT)
            np.maximum(highest, np.abs(between[0]), out=highest)
    made: NDArray[np.float32] = highest
    return made
