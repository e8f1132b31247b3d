"""What static in Brackwater: sky, hills, houses, street, wires and a clock."""

from math import cos, pi, sin

import numpy as np

from demo.pen import Image, Pen, hexed

SKY_TOP, SKY_LOW = hexed("#7FA0B0"), hexed("#E9D3A8")
HILL_FAR, HILL_NEAR = hexed("#7C9184"), hexed("#5D7A6B")
BRICK, OCHRE, SLATE = hexed("#8E5A48"), hexed("#B78C58"), hexed("#6E7480")
WINDOW, LIT = hexed("#39495A"), hexed("#F2DC97")
STREET, KERB, RAIL = hexed("#57544F"), hexed("#8D877B"), hexed("#C9C3B4")
WIRE, IRON = hexed("#2C2B29"), hexed("#33322F")
FACE = hexed("#F6F0DF")


def sky(image: Image) -> None:
    """An evening sky over the whole image."""
    rows = np.linspace(0, 1, image.shape[0])[:, None, None]
    shade = np.array(SKY_TOP) * (1 - rows) + np.array(SKY_LOW) * rows
    image[:] = np.broadcast_to(shade, image.shape).round().astype(np.uint8)


def hills(pen: Pen, width: float, base: float) -> None:
    """Two rows of hills whose feet are at `base`."""
    for height, colour, count, phase in ((260, HILL_FAR, 3, 0.3), (150, HILL_NEAR, 5, 1.1)):
        across = np.linspace(0, width, 160)
        rise = height * (0.55 + 0.45 * np.sin(across / width * count * pi + phase))
        outline = [*zip(across, base - rise, strict=True), (width, base), (0.0, base)]
        pen.shape(np.array(outline), colour)


def houses(pen: Pen, width: float, base: float) -> None:
    """A street of houses whose feet are at `base`."""
    walls = (BRICK, OCHRE, SLATE, hexed("#A7705A"), hexed("#9A8F7B"))
    x, number = -40.0, 0
    while x < width:
        broad, tall = 170 + 53 * (number * 7 % 5) / 2, 190 + 37 * (number * 5 % 7)
        wall = walls[number % len(walls)]
        pen.box(x, base - tall, broad, tall, wall)
        pen.shape([(x - 8, base - tall), (x + broad / 2, base - tall - 46), (x + broad + 8, base - tall)], IRON)
        _windows(pen, x, base, broad, tall, number)
        x, number = x + broad + 6, number + 1


def _windows(pen: Pen, x: float, base: float, broad: float, tall: float, number: int) -> None:
    columns, rows = int(broad // 62), int(tall // 78)
    for column in range(columns):
        for row in range(rows):
            lit = (number * 3 + column * 5 + row * 7) % 4 == 0
            left = x + broad / (columns + 1) * (column + 1) - 17
            pen.box(left, base - tall + 28 + row * 76, 34, 46, LIT if lit else WINDOW)


def street(pen: Pen, width: float, base: float, bottom: float) -> None:
    """Kerb and street from `base` down."""
    pen.box(0, base, width, bottom - base, STREET)
    pen.box(0, base, width, 10, KERB)


def rails_along(pen: Pen, width: float, y: float) -> None:
    """Two rails seen from the side."""
    pen.box(0, y, width, 7, RAIL)
    pen.box(0, y + 34, width, 9, RAIL)


def rails_away(pen: Pen, middle: float, horizon: float, bottom: float) -> None:
    """Two rails that run away from the camera."""
    for side in (-1, 1):
        pen.shape(
            [
                (middle + side * 20 - 1, horizon),
                (middle + side * 20 + 1, horizon),
                (middle + side * 300 + 9, bottom),
                (middle + side * 300 - 9, bottom),
            ],
            RAIL,
        )


def wires(pen: Pen, width: float, y: float, sag: float) -> None:
    """The overhead line: two straight wires, which show any seam."""
    pen.line((0, y), (width, y + sag), 4, WIRE)
    pen.line((0, y + 44), (width, y + 44 + sag * 0.6), 3, WIRE)


def clock(pen: Pen, x: float, y: float, radius: float, minutes: float, foot: float) -> None:
    """A station clock on a post that stands at `foot`; a true circle."""
    pen.box(x - 9, y, 18, foot - y, IRON)
    pen.box(x - 26, foot - 16, 52, 16, IRON)
    pen.disc(x, y, radius * 1.12, IRON)
    pen.disc(x, y, radius, FACE)
    for hour in range(12):
        angle = hour * pi / 6
        tick = 0.78 if hour % 3 else 0.68
        pen.line(
            (x + radius * tick * sin(angle), y - radius * tick * cos(angle)),
            (x + radius * 0.9 * sin(angle), y - radius * 0.9 * cos(angle)),
            radius * 0.06,
            IRON,
        )
    for angle, length, width in ((minutes * pi / 30, 0.74, 0.07), (minutes * pi / 360 + 2.2, 0.5, 0.1)):
        tip = (x + radius * length * sin(angle), y - radius * length * cos(angle))
        pen.line((x, y), tip, radius * width, IRON)
    pen.disc(x, y, radius * 0.09, IRON)
