"""The trams of Brackwater, from the front and from the side."""

from math import cos, pi, sin

from demo.pen import Pen, hexed

GREEN, CREAM, DARK = hexed("#2E5C4E"), hexed("#EFE2C2"), hexed("#25241F")
GLASS, GLOW, RED = hexed("#BBD3D6"), hexed("#FFF3B8"), hexed("#B5392B")
AMBER, STEEL, SHADE = hexed("#F0A63C"), hexed("#9B9A94"), hexed("#244A3F")

FRONT_WIDTH, FRONT_HEIGHT = 480.0, 900.0
SIDE_LENGTH, SIDE_HEIGHT = 1150.0, 470.0
WHEEL = 62.0


def front(pen: Pen) -> None:
    """A tram from the front; (0, 0) is the middle of the rails under it, and it is 480 wide and 900 high."""
    pen.line((-70, -880), (0, -1040), 7, DARK)
    pen.line((70, -880), (0, -1040), 7, DARK)
    pen.line((-46, -1040), (46, -1040), 9, DARK)
    pen.box(-240, -880, 480, 840, GREEN, 60)
    pen.box(-130, -856, 260, 62, DARK, 8)
    _seven(pen, -92, -846)
    pen.box(-190, -770, 380, 290, SHADE, 26)
    pen.box(-182, -762, 176, 274, GLASS, 20)
    pen.box(6, -762, 176, 274, GLASS, 20)
    pen.box(-240, -430, 480, 290, CREAM)
    for radius, colour in ((84, DARK), (70, CREAM), (50, GLOW)):
        pen.disc(0, -290, radius, colour)
    for side in (-1, 1):
        pen.disc(side * 165, -190, 30, RED)
    pen.box(-255, -120, 510, 90, DARK, 14)


def _seven(pen: Pen, x: float, y: float) -> None:
    """The line number 7 and a row of lamps beside it."""
    pen.shape(
        [(x, y), (x + 34, y), (x + 34, y + 8), (x + 17, y + 42), (x + 8, y + 42), (x + 24, y + 9), (x, y + 9)], AMBER
    )
    for lamp in range(6):
        pen.disc(x + 66 + lamp * 22, y + 21, 8, AMBER)


def side(pen: Pen, travelled: float) -> None:
    """A tram from the side; (0, 0) is under its left end on the rail. Its wheels have turned for `travelled` units."""
    pen.line((SIDE_LENGTH / 2 - 70, -SIDE_HEIGHT), (SIDE_LENGTH / 2 + 20, -SIDE_HEIGHT - 150), 7, DARK)
    pen.line((SIDE_LENGTH / 2 + 20, -SIDE_HEIGHT - 150), (SIDE_LENGTH / 2 + 90, -SIDE_HEIGHT - 152), 8, DARK)
    pen.box(0, -SIDE_HEIGHT, SIDE_LENGTH, 400, GREEN, 46)
    pen.box(20, -SIDE_HEIGHT - 16, SIDE_LENGTH - 40, 34, DARK, 14)
    pen.box(0, -250, SIDE_LENGTH, 150, CREAM)
    pen.box(0, -104, SIDE_LENGTH, 34, SHADE)
    for number in range(8):
        pen.box(52 + number * 132, -430, 108, 148, GLASS, 14)
    for end in (26, SIDE_LENGTH - 26):
        pen.disc(end, -196, 20, GLOW)
    _crest(pen, SIDE_LENGTH / 2, -176)
    for middle in (170, 330, SIDE_LENGTH - 330, SIDE_LENGTH - 170):
        wheel(pen, middle, -WHEEL, travelled)


def _crest(pen: Pen, x: float, y: float) -> None:
    for radius, colour in ((56, GREEN), (48, CREAM), (38, GREEN), (14, AMBER)):
        pen.disc(x, y, radius, colour)


def wheel(pen: Pen, x: float, y: float, travelled: float, radius: float = WHEEL) -> None:
    """A spoked wheel that has rolled for `travelled` units; a true circle."""
    pen.disc(x, y, radius, DARK)
    pen.disc(x, y, radius * 0.84, STEEL)
    pen.disc(x, y, radius * 0.72, DARK)
    for spoke in range(6):
        angle = travelled / radius + spoke * pi / 3
        pen.line((x, y), (x + radius * 0.78 * cos(angle), y + radius * 0.78 * sin(angle)), radius * 0.13, STEEL)
    pen.disc(x, y, radius * 0.2, STEEL)
