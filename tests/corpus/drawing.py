"""What the corpus shows and lets be heard: pictures that carry their number, and clicks at known times."""

import wave
from fractions import Fraction
from pathlib import Path

import numpy as np

COLUMNS, ROWS = 7, 2
BITS = COLUMNS * ROWS - 2  # the first cell is always dark and the last always light
DARK, LIGHT = 50, 205
RATE = Fraction(25)
FRAMES = 50
SIZE = (192, 108)
CLICKS = tuple(0.1 + 0.25 * number for number in range(8))
CLICK_SECONDS, CLICK_HERTZ = 0.012, 1000


def picture(number: int, width: int, height: int) -> np.ndarray:
    """Luma of one picture, (rows, columns), codes of 8 bits."""
    cells = [0, *((number >> bit) & 1 for bit in range(BITS)), 1]
    grid = np.array(cells, np.uint8).reshape(ROWS, COLUMNS)
    rows = np.arange(height) * ROWS // height
    columns = np.arange(width) * COLUMNS // width
    return np.where(grid[rows][:, columns] == 1, LIGHT, DARK).astype(np.uint8)


def number_in(luma: np.ndarray) -> int | None:
    """The number that a picture carries; None where it cannot be read for certain."""
    height, width = luma.shape
    means = []
    for row in range(ROWS):
        for column in range(COLUMNS):
            top, left = (4 * row + 1) * height // (4 * ROWS), (4 * column + 1) * width // (4 * COLUMNS)
            bottom, right = (4 * row + 3) * height // (4 * ROWS), (4 * column + 3) * width // (4 * COLUMNS)
            means.append(float(luma[top : max(bottom, top + 1), left : max(right, left + 1)].mean()))
    dark, light = means[0], means[-1]
    if light - dark < 20:
        return None
    shares = [(mean - dark) / (light - dark) for mean in means[1:-1]]
    if any(0.3 < share < 0.7 for share in shares):
        return None
    return sum(1 << bit for bit, share in enumerate(shares) if share >= 0.7)


def write_pictures(path: Path, size: tuple[int, int], frames: int, rate: Fraction = RATE) -> Path:
    """The pictures as YUV4MPEG2, 4:2:0."""
    width, height = size
    chroma = bytes([128]) * (2 * (-(-width // 2) * -(-height // 2)))
    with path.open("wb") as file:
        file.write(f"YUV4MPEG2 W{width} H{height} F{rate.numerator}:{rate.denominator} Ip A1:1 C420mpeg2\n".encode())
        for number in range(frames):
            file.write(b"FRAME\n" + picture(number, width, height).tobytes() + chroma)
    return path


def write_clicks(path: Path, rate: int, channels: int, seconds: float) -> Path:
    """Short tones at `CLICKS` and every quarter of a second behind them, in all channels, 16 bit."""
    samples = np.zeros(round(seconds * rate))
    length = round(CLICK_SECONDS * rate)
    tone = np.sin(2 * np.pi * CLICK_HERTZ * np.arange(length) / rate) * np.hanning(length) * 0.7
    start = CLICKS[0]
    while (start + CLICK_SECONDS) < seconds:
        at = round(start * rate)
        samples[at : at + length] += tone
        start += CLICKS[1] - CLICKS[0]
    data = (samples * 32767).astype("<i2")
    with wave.open(str(path), "wb") as file:
        file.setnchannels(channels)
        file.setsampwidth(2)
        file.setframerate(rate)
        file.writeframes(np.repeat(data[:, None], channels, axis=1).tobytes())
    return path


def clicks_in(samples: np.ndarray, rate: int) -> list[float]:
    """Times of the middles of clicks, in seconds from the first sample: the centres of their energy."""
    power = samples.astype(np.float64) ** 2
    window = max(1, round(0.004 * rate))
    level = np.convolve(power, np.ones(window) / window, "same")
    if not level.size or level.max() < 1e-6:
        return []
    loud = level > 0.1 * level.max()
    edges = np.flatnonzero(np.diff(np.concatenate(([0], loud.astype(np.int8), [0]))))
    found = []
    for begin, end in zip(edges[::2], edges[1::2], strict=True):
        reach = round(0.006 * rate)
        since, until = max(0, begin - reach), min(len(power), end + reach)
        weights = power[since:until]
        middle = float((weights * np.arange(since, until)).sum() / weights.sum()) / rate
        if not found or middle - found[-1] > 0.05:
            found.append(middle)
    return found
