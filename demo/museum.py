"""The museum's own things: its emblem, and captions for its film of the open day."""

from math import cos, pi, sin
from pathlib import Path

import cv2
import numpy as np
from PIL import Image as Picture

from demo.pen import Pen, hexed

EMBLEM, CAPTIONS = "emblem.png", "open day.srt"
SIDE, FINER = 480, 2
CREAM, AMBER = hexed("#F4EAD2"), hexed("#F0A63C")
SPOKES = 8

SAID = (
    (0.3, 1.6, "The doors open at ten."),
    (1.4, 2.6, "Number 7 is first out,\nas it was in 1926."),
    (2.9, 3.9, "All aboard!"),
)


def write_things(folder: Path) -> None:
    """Write them into a folder, where they are not there yet."""
    if not (folder / EMBLEM).exists():
        _emblem(folder / EMBLEM)
    lines = [f"{n}\n{_stamp(start)} --> {_stamp(end)}\n{text}\n" for n, (start, end, text) in enumerate(SAID, 1)]
    (folder / CAPTIONS).write_text("\n".join(lines))


def _emblem(path: Path) -> None:
    """A wheel with a lamp for its hub, on nothing. Drawn white on black first, since that is how much it covers."""
    inked = {colour: np.zeros((SIDE * FINER, SIDE * FINER, 3), np.uint8) for colour in (CREAM, AMBER)}
    scale, white, black = float(SIDE * FINER) / 200, (255, 255, 255), (0, 0, 0)
    wheel = Pen(inked[CREAM], scale, scale, (-100.0, -100.0))
    wheel.disc(0, 0, 94, white)
    wheel.disc(0, 0, 76, black)
    for spoke in range(SPOKES):
        turn = 2 * pi * spoke / SPOKES
        wheel.line((0, 0), (84 * cos(turn), 84 * sin(turn)), 9, white)
    wheel.disc(0, 0, 34, black)
    Pen(inked[AMBER], scale, scale, (-100.0, -100.0)).disc(0, 0, 26, white)
    drawn = np.zeros((SIDE, SIDE, 4), np.uint8)
    for colour, ink in inked.items():
        share = cv2.resize(ink[..., 0], (SIDE, SIDE), interpolation=cv2.INTER_AREA)
        drawn[..., :3][share > 0] = colour
        drawn[..., 3] = np.maximum(drawn[..., 3], share)
    Picture.fromarray(drawn).save(path)


def _stamp(seconds: float) -> str:
    return f"00:00:{int(seconds):02d},{round(seconds % 1 * 1000):03d}"
