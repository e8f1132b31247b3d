"""What Cadrage takes the stored samples to mean."""

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor
from typing import Annotated, Literal

from pydantic import Field

from cadrage.errors import BadRequest
from cadrage.footage.facts import Facts
from cadrage.geometry import Picture, Raster, SourceRect
from cadrage.pixels.colour import MATRIX_OF_CODE, Colour, Matrix
from cadrage.pixels.planes import Cut
from cadrage.values import ColourText, Exact, PositiveExact, Value

TALLEST_SD = 576  # active lines of the 625-line system, ITU-R BT.601-7
WHOLE_LINE = 720  # samples of a digital active line, ITU-R BT.601-7
BELIEVABLE = (Fraction(1, 10), Fraction(10))
SMALLEST_PICTURE = 16
STILL_SECONDS, STILL_RATE = Fraction(5), Fraction(25)
RGB_FORMATS = ("rgb", "bgr", "gbr", "argb", "abgr", "0rgb", "0bgr", "pal8")

FieldsTaken = Literal["progressive", "upper first", "lower first"]
FrameSide = Annotated[Exact, Field(ge=0, le=8192)]


class Edges(Value):
    """Bars that are part of a picture, in stored pixels of the upright picture."""

    left: FrameSide = Fraction(0)
    right: FrameSide = Fraction(0)
    top: FrameSide = Fraction(0)
    bottom: FrameSide = Fraction(0)


class Interpretation(Value):
    """What stored samples are taken to mean; None leaves it as the file says.

    Attributes:
        pixel_aspect: width of a stored pixel over its height, before rotation; 1/10 to 10.
        rotation: degrees clockwise to turn the stored picture.
        mirror: whether left and right of the upright picture change places.
        clean_aperture: how many of the 720 samples of a standard-definition line carry the picture: 704, or the
            702.9 of an analogue line (52.07 µs at 13.5 MHz; common practice, no source); None is the whole line.
        baked: bars that are part of the picture and are taken off it.
        fields: whether pictures are whole frames, or pairs of fields and which is shown first.
        deinterlace: what pairs of fields become: one frame a pair, or one a field, at twice the rate.
        range: what black and white are stored as.
        matrix: the weights between R'G'B' and Y'CbCr.
        rate: frames a second of a still or of a sequence of stills.
        duration: seconds that a still lasts.
        matte: what shows through where a still is transparent.
    """

    pixel_aspect: Annotated[PositiveExact, Field(ge=BELIEVABLE[0], le=BELIEVABLE[1])] | None = None
    rotation: Literal[0, 90, 180, 270] | None = None
    mirror: bool = False
    clean_aperture: Literal["704", "702.9"] | None = None
    baked: Edges | None = None
    fields: FieldsTaken | None = None
    deinterlace: Literal["one per pair", "one per field"] = "one per pair"
    range: Literal["limited", "full"] | None = None
    matrix: Matrix | None = None
    rate: Annotated[PositiveExact, Field(ge=1, le=240)] | None = None
    duration: Annotated[PositiveExact, Field(ge=Fraction(1, 25), le=3600)] | None = None
    matte: ColourText = "#000000"

    @property
    def decoding(self) -> tuple[object, ...]:
        """The part that decoded samples depend on."""
        return self.fields, self.deinterlace, self.range, self.matrix, self.rate, self.duration, self.matte


@dataclass(frozen=True, slots=True)
class Reading:
    """Facts and interpretation, settled.

    Attributes:
        raster: all that is stored, upright.
        picture: the part of it that is the picture.
        cut: the whole samples that hold the picture.
        rotation: degrees clockwise from stored to upright.
        mirror: whether it is mirrored after that.
        fields: what the stored pictures consist of.
        colour: what the samples mean, with nothing left unspecified that arithmetic needs.
    """

    raster: Raster
    picture: Picture
    cut: Cut
    rotation: int
    mirror: bool
    fields: FieldsTaken
    colour: Colour


def read_as(facts: Facts, interpretation: Interpretation) -> Reading:
    """Settle what a file's samples mean. Pixels are taken as square where nobody says otherwise.

    Raises:
        BadRequest: the bars to take off leave nothing worth the name of a picture.
    """
    rotation = facts.rotation if interpretation.rotation is None else interpretation.rotation
    aspect = interpretation.pixel_aspect or stated_aspect(facts) or Fraction(1)
    upright = Raster(facts.width, facts.height, aspect).turned(rotation)
    rect = _picture_rect(facts, interpretation, upright, rotation)
    return Reading(
        raster=upright,
        picture=Picture(rect, upright.pixel_aspect),
        cut=Cut(floor(rect.x), floor(rect.y), ceil(rect.right), ceil(rect.bottom)),
        rotation=rotation,
        mirror=facts.mirrored != interpretation.mirror,
        fields=fields_of(facts, interpretation),
        colour=colour_of(facts, interpretation),
    )


def stated_aspect(facts: Facts) -> Fraction | None:
    """The pixel aspect that a file states, unless no format could have it."""
    stated = facts.pixel_aspect
    return stated if stated is not None and BELIEVABLE[0] <= stated <= BELIEVABLE[1] else None


def _picture_rect(facts: Facts, interpretation: Interpretation, upright: Raster, rotation: int) -> SourceRect:
    """What is left of an upright raster without blanking and without bars."""
    across = down = Fraction(0)
    if interpretation.clean_aperture and facts.width == WHOLE_LINE:
        blanking = (WHOLE_LINE - Fraction(interpretation.clean_aperture)) / 2
        across, down = (Fraction(0), blanking) if rotation % 180 else (blanking, Fraction(0))
    bars = interpretation.baked or Edges()
    left, top = max(across, bars.left), max(down, bars.top)
    width = upright.width - left - max(across, bars.right)
    height = upright.height - top - max(down, bars.bottom)
    if width < SMALLEST_PICTURE or height < SMALLEST_PICTURE:
        raise BadRequest(
            f"Without its bars the picture would be {float(max(width, Fraction(0))):g}×"
            f"{float(max(height, Fraction(0))):g} pixels.",
            remedy=f"Leave at least {SMALLEST_PICTURE} pixels each way.",
        )
    return SourceRect(left, top, width, height)


def fields_of(facts: Facts, interpretation: Interpretation) -> FieldsTaken:
    """What stored pictures consist of: as said, else as flagged, else whole frames."""
    if facts.kind != "clip":
        return "progressive"
    if interpretation.fields is not None:
        return interpretation.fields
    return "progressive" if facts.field_order == "unknown" else facts.field_order


def colour_of(facts: Facts, interpretation: Interpretation | None = None) -> Colour:
    """What a file's samples mean; an untagged matrix is taken as BT.601 up to 576 lines, else as BT.709.

    That guess by size is common practice and has no source. R'G'B' is read into BT.709, limited.
    """
    if facts.pixel_format.startswith(RGB_FORMATS):
        return Colour("bt709", primaries=facts.primaries, transfer=facts.transfer)
    said = interpretation or Interpretation()
    stored_lines = min(facts.width, facts.height)
    guessed: Matrix = "bt601" if stored_lines <= TALLEST_SD else "bt709"
    matrix = said.matrix or MATRIX_OF_CODE.get(facts.matrix, guessed)
    code = facts.matrix if MATRIX_OF_CODE.get(facts.matrix) == matrix else 2
    full = facts.full_range if said.range is None else said.range == "full"
    return Colour(matrix, full, code, facts.primaries, facts.transfer)


def taken_as(facts: Facts, interpretation: Interpretation) -> Facts:
    """The facts with rate, number of frames and duration as they come out of a reader."""
    if facts.kind == "still":
        rate = interpretation.rate or STILL_RATE
        frames = max(1, round((interpretation.duration or STILL_SECONDS) * rate))
        return _timed(facts, rate, frames)
    if facts.kind == "sequence":
        return _timed(facts, interpretation.rate or facts.rate, facts.frames)
    if interpretation.deinterlace == "one per field" and fields_of(facts, interpretation) != "progressive":
        return facts.model_copy(
            update={
                "rate": facts.rate * 2,
                "frames": facts.frames * 2,
                "shortest_frame": facts.shortest_frame / 2,
                "longest_frame": facts.longest_frame / 2,
            }
        )
    return facts


def _timed(facts: Facts, rate: Fraction, frames: int) -> Facts:
    timing = {"rate": rate, "frames": frames, "duration": frames / rate}
    return facts.model_copy(update=timing | {"shortest_frame": 1 / rate, "longest_frame": 1 / rate})
