"""The catalogue of source formats: rasters that files come in, with the pixel shapes they are known to carry.

Pixel aspects of standard definition follow two conventions that live side by side, and real files carry both:

- *sampled*: the 13.5 MHz sampling of ITU-R BT.601-7, where the middle 704 of 720 samples carry the picture
  (values of ITU-T H.264, table E-1; both from memory);
- *stated*: what containers and discs say when the whole 720 are meant to be 4:3 or 16:9 (arithmetic).
"""

from fractions import Fraction
from typing import Literal

from cadrage.formats.frames import BT709, BT2020, DCI, PRACTICE, ST296
from cadrage.geometry import Raster
from cadrage.values import Exact, Value

Convention = Literal["square", "sampled", "stated", "squeezed"]

SAMPLED = "ITU-R BT.601-7 with ITU-T H.264 table E-1"
WHOLE_LINE = "arithmetic: all 720 samples carry the picture"


class SourceFormat(Value):
    """One row of the catalogue.

    Attributes:
        name: what the trade calls it.
        width, height: stored pixels.
        pixel_aspect: width of a pixel over its height.
        convention: why the pixels have that shape.
        source: where the row is published.
    """

    name: str
    width: int
    height: int
    pixel_aspect: Exact
    convention: Convention
    source: str

    @property
    def raster(self) -> Raster:
        """The format as a grid of pixels."""
        return Raster(self.width, self.height, self.pixel_aspect)


def _standard_definition() -> list[SourceFormat]:
    """480, 486 and 576 lines in both shapes and both conventions, and their quarter sizes."""
    rows = []
    for lines, system, shapes in (
        ((480, 486), "525-line", (("4:3", "10/11", "8/9"), ("16:9", "40/33", "32/27"))),
        ((576,), "625-line", (("4:3", "12/11", "16/15"), ("16:9", "16/11", "64/45"))),
    ):
        for height in lines:
            for shape, sampled, stated in shapes:
                name = f"{system} {shape}"
                rows += _rows("sampled", (name, 720, height, sampled, SAMPLED))
                rows += _rows("stated", (name, 720, height, stated, WHOLE_LINE))
    rows += _rows("sampled", ("quarter-size 525-line", 352, 240, "10/11", SAMPLED))
    rows += _rows("sampled", ("quarter-size 625-line", 352, 288, "12/11", SAMPLED))
    return rows


def _rows(convention: Convention, *rows: tuple[str, int, int, str, str]) -> list[SourceFormat]:
    return [
        SourceFormat(
            name=name, width=width, height=height, pixel_aspect=Fraction(aspect), convention=convention, source=source
        )
        for name, width, height, aspect, source in rows
    ]


SOURCES: tuple[SourceFormat, ...] = (
    *_standard_definition(),
    *_rows(
        "squeezed",
        ("HD on tape, 1440 samples", 1440, 1080, "4/3", PRACTICE),
        ("HD on tape, 1280 samples", 1280, 1080, "3/2", PRACTICE),
        ("720 lines on tape", 960, 720, "4/3", PRACTICE),
    ),
    *_rows(
        "square",
        ("computer 4:3", 640, 480, "1", PRACTICE),
        ("quarter-size 4:3", 320, 240, "1", PRACTICE),
        ("720 lines", 1280, 720, "1", ST296),
        ("HD", 1920, 1080, "1", BT709),
        ("HD, upright", 1080, 1920, "1", f"{BT709}, turned; {PRACTICE}"),
        ("720 lines, upright", 720, 1280, "1", f"{ST296}, turned; {PRACTICE}"),
        ("square", 1080, 1080, "1", PRACTICE),
        ("UHD", 3840, 2160, "1", BT2020),
        ("UHD, twice", 7680, 4320, "1", BT2020),
        ("2K cinema", 2048, 1080, "1", DCI),
        ("4K cinema", 4096, 2160, "1", DCI),
        ("2K cinema 1.85", 1998, 1080, "1", DCI),
        ("4K cinema 1.85", 3996, 2160, "1", DCI),
        ("2K cinema 2.39", 2048, 858, "1", DCI),
        ("4K cinema 2.39", 4096, 1716, "1", DCI),
    ),
)

SQUEEZES = tuple(Fraction(text) for text in ("1.25", "1.3", "4/3", "1.5", "1.8", "2"))
"""Anamorphic squeeze factors of lenses, on any raster; common practice, no source. 4/3 is sold as 1.33."""


class FilmRatio(Value):
    """A shape that films were made for.

    Attributes:
        aspect: width over height.
        name: what it is known as; common practice, no source.
    """

    aspect: Exact
    name: str


FILM_RATIOS = tuple(
    FilmRatio(aspect=Fraction(aspect), name=name)
    for aspect, name in (
        ("4/3", "silent film and early television, 1.33"),
        ("1.375", "sound film, 1.375"),
        ("1.66", "European wide, 1.66"),
        ("1.85", "American wide, 1.85"),
        ("1.9", "cinema container, 1.90"),
        ("2.2", "70 mm, 2.20"),
        ("2.35", "scope until 1970, 2.35"),
        ("2.39", "scope, 2.39"),
        ("2.4", "scope, rounded, 2.40"),
        ("2.76", "widest 70 mm, 2.76"),
    )
)
