"""What Cadrage takes the stored samples to mean."""

from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor
from typing import Annotated, Literal

from pydantic import Field

from cadrage.errors import BadRequest
from cadrage.footage.blanking import interval_lines, picture_lines
from cadrage.footage.media_info import MediaInfo
from cadrage.geometry import Picture, Raster, SourceRect
from cadrage.pixels.colour import CODE_OF_CURVE, CURVE_OF_CODE, MATRIX_OF_CODE, UNSPECIFIED, Colour, Curve, Matrix
from cadrage.pixels.gamut import CODE_OF_GAMUT
from cadrage.pixels.planes import Crop
from cadrage.values import ColourText, Exact, PositiveExact, Rate, Value

TALLEST_SD = 576  # active lines of the 625-line system, ITU-R BT.601-7
WHOLE_LINE = 720  # samples of a digital active line, ITU-R BT.601-7
BELIEVABLE = (Fraction(1, 10), Fraction(10))
SMALLEST_PICTURE = 16
STILL_SECONDS, STILL_RATE = Fraction(5), Fraction(25)
RGB_FORMATS = ("rgb", "bgr", "gbr", "argb", "abgr", "0rgb", "0bgr", "pal8")

FieldsTaken = Literal["progressive", "upper_first", "lower_first"]
Method = Literal["one_per_pair", "one_per_field", "film"]
FILM_SHARE = Fraction(4, 5)  # of the pictures that film was spread over: SMPTE RP 197 (from memory)
PrimariesTaken = Literal["bt709", "bt601-525", "bt601-625", "bt2020", "p3-d65"]
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
            702.9 of an analogue line (52.07 µs at 13.5 MHz; common practice, no source); None is the whole line,
            without lines of the vertical interval that its format is known for; "whole" is all that is stored.
        burned_in_bars: bars that are part of the picture and are taken off it.
        fields: whether pictures are whole frames, or pairs of fields and which is shown first.
        deinterlace: what pairs of fields become: one frame a pair, or one a field, at twice the rate, or the pictures
            of film that were spread over them, four of five.
        range: what black and white are stored as.
        matrix: the weights between R'G'B' and Y'CbCr.
        primaries: which colours red, green and blue are.
        transfer: whether codes are SDR's, or HDR's with HLG or PQ.
        rate: frames a second of a still or of a sequence of stills.
        duration: seconds that a still lasts.
        matte: what shows through where a still is transparent.
    """

    pixel_aspect: Annotated[PositiveExact, Field(ge=BELIEVABLE[0], le=BELIEVABLE[1])] | None = None
    rotation: Literal[0, 90, 180, 270] | None = None
    mirror: bool = False
    clean_aperture: Literal["704", "702.9", "whole"] | None = None
    burned_in_bars: Edges | None = None
    fields: FieldsTaken | None = None
    deinterlace: Method = "one_per_pair"
    range: Literal["limited", "full"] | None = None
    matrix: Matrix | None = None
    primaries: PrimariesTaken | None = None
    transfer: Curve | None = None
    rate: Rate | None = None
    duration: Annotated[PositiveExact, Field(ge=Fraction(1, 25), le=3600)] | None = None
    matte: ColourText = "#000000"

    @property
    def decoding(self) -> tuple[object, ...]:
        """The part that decoded samples depend on."""
        colour = self.range, self.matrix, self.primaries, self.transfer
        return self.fields, self.deinterlace, *colour, self.rate, self.duration, self.matte


@dataclass(frozen=True, slots=True)
class ResolvedInterpretation:
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
    cut: Crop
    rotation: int
    mirror: bool
    fields: FieldsTaken
    colour: Colour


def resolve(info: MediaInfo, interpretation: Interpretation) -> ResolvedInterpretation:
    """Settle what a file's samples mean. Pixels are taken as square where nobody says otherwise.

    Raises:
        BadRequest: the bars to take off leave nothing worth the name of a picture.
    """
    rotation = info.rotation if interpretation.rotation is None else interpretation.rotation
    aspect = interpretation.pixel_aspect or stated_aspect(info) or Fraction(1)
    upright = Raster(info.width, info.height, aspect).turned(rotation)
    rect = _picture_rect(info, interpretation, upright, rotation)
    return ResolvedInterpretation(
        raster=upright,
        picture=Picture(rect, upright.pixel_aspect),
        cut=Crop(floor(rect.x), floor(rect.y), ceil(rect.right), ceil(rect.bottom)),
        rotation=rotation,
        mirror=info.mirrored != interpretation.mirror,
        fields=fields_of(info, interpretation),
        colour=colour_of(info, interpretation),
    )


def stated_aspect(info: MediaInfo) -> Fraction | None:
    """The pixel aspect that a file states, unless no format could have it."""
    stated = info.pixel_aspect
    return stated if stated is not None and BELIEVABLE[0] <= stated <= BELIEVABLE[1] else None


def _picture_rect(info: MediaInfo, interpretation: Interpretation, upright: Raster, rotation: int) -> SourceRect:
    """What is left of an upright raster without blanking and without bars."""
    blanking = _blanking(info, interpretation, rotation)
    bars = interpretation.burned_in_bars or Edges()
    left, top = max(blanking.left, bars.left), max(blanking.top, bars.top)
    width = upright.width - left - max(blanking.right, bars.right)
    height = upright.height - top - max(blanking.bottom, bars.bottom)
    if width < SMALLEST_PICTURE or height < SMALLEST_PICTURE:
        raise BadRequest(
            f"Without its bars the picture would be {float(max(width, Fraction(0))):g}×"
            f"{float(max(height, Fraction(0))):g} pixels.",
            remedy=f"Leave at least {SMALLEST_PICTURE} pixels each way.",
        )
    return SourceRect(left, top, width, height)


def _blanking(info: MediaInfo, interpretation: Interpretation, rotation: int) -> Edges:
    """Stored samples at the edges of an upright raster that its format never shows."""
    aperture, beside, above = interpretation.clean_aperture, Fraction(0), 0
    if aperture != "whole":
        above = interval_lines(info.width, info.height)
        beside = (WHOLE_LINE - Fraction(aperture)) / 2 if aperture and info.width == WHOLE_LINE else Fraction(0)
    stored = (Fraction(above), beside, Fraction(0), beside)  # top, right, bottom, left, as stored
    turns = rotation // 90
    top, right, bottom, left = (stored[(side - turns) % 4] for side in range(4))
    return Edges(left=left, right=right, top=top, bottom=bottom)


def fields_of(info: MediaInfo, interpretation: Interpretation) -> FieldsTaken:
    """What stored pictures consist of: as said, else as flagged, else whole frames."""
    if info.kind != "clip":
        return "progressive"
    if interpretation.fields is not None:
        return interpretation.fields
    by_flags = any(one.kind == "film_by_flags" for one in info.findings)
    return "progressive" if by_flags or info.field_order == "unknown" else info.field_order


def colour_of(info: MediaInfo, interpretation: Interpretation | None = None) -> Colour:
    """What a file's samples mean; an untagged matrix is taken as BT.601 up to 576 lines, else as BT.709.

    That guess by size is common practice and has no source. R'G'B' is read into BT.709, limited. Untagged primaries are
    those of BT.2020 where matrix or curve are its; else nobody knows.
    """
    stated = interpretation or Interpretation()
    transfer = info.transfer if stated.transfer is None else CODE_OF_CURVE[stated.transfer]
    rgb = info.pixel_format.startswith(RGB_FORMATS)
    stored_lines = min(info.width, picture_lines(info.width, info.height))
    guessed: Matrix = "bt601" if stored_lines <= TALLEST_SD else "bt709"
    if transfer in CURVE_OF_CODE:
        guessed = "bt2020"
    matrix = stated.matrix or MATRIX_OF_CODE.get(info.matrix, guessed)
    primaries = info.primaries
    if stated.primaries is not None:
        primaries = CODE_OF_GAMUT[stated.primaries]
    elif primaries == UNSPECIFIED and (transfer in CURVE_OF_CODE or (matrix.startswith("bt2020") and not rgb)):
        primaries = CODE_OF_GAMUT["bt2020"]
    peak = _peak(info) if transfer in CURVE_OF_CODE else 0
    if rgb:
        return Colour("bt709", primaries=primaries, transfer=transfer, peak=peak)
    code = info.matrix if MATRIX_OF_CODE.get(info.matrix) == matrix else UNSPECIFIED
    return Colour(matrix, is_full_range(info, stated), code, primaries, transfer, peak)


def check_takes_effect(info: MediaInfo, interpretation: Interpretation, clip: str) -> None:
    """Refuse an interpretation of which a part cannot mean anything for a clip.

    Raises:
        BadRequest: it says which part, and why.
    """
    still, rgb = info.kind != "clip", info.pixel_format.startswith(RGB_FORMATS)
    reasons = {
        "matrix": "its samples are R′G′B′, which have no matrix" if rgb else "",
        "clean_aperture": f"its lines are {info.width} samples long, not {WHOLE_LINE}"
        if info.width != WHOLE_LINE
        else "",
        "fields": "a still has no fields" if still else "",
        "rate": "" if still else "a clip has its own rate",
        "duration": "" if info.kind == "still" else "only a single still can last as long as you like",
    }
    for name, reason in reasons.items():
        if reason and getattr(interpretation, name) is not None:
            raise BadRequest(f"“{name}” has no effect: {reason}.", remedy="Leave it out.", clip=clip)


def is_full_range(info: MediaInfo, interpretation: Interpretation) -> bool:
    """Whether stored samples, Y'CbCr or R'G'B', are of the full range: as the interpretation has it, else the file."""
    return info.full_range if interpretation.range is None else interpretation.range == "full"


def _peak(info: MediaInfo) -> int:
    """cd/m² of the brightest in HDR: of what is in it, else of the display it was made on; 0 where it does not say."""
    if info.content_light is not None and info.content_light.brightest:
        return info.content_light.brightest
    return 0 if info.mastering is None else round(info.mastering.highest)


def effective_timing(info: MediaInfo, interpretation: Interpretation) -> MediaInfo:
    """The info with rate, number of frames and duration as they come out of a reader."""
    if info.kind == "still":
        rate = interpretation.rate or STILL_RATE
        frames = max(1, round((interpretation.duration or STILL_SECONDS) * rate))
        return _timed(info, rate, frames)
    if info.kind == "sequence":
        return _timed(info, interpretation.rate or info.rate, info.frames)
    if fields_of(info, interpretation) == "progressive" or interpretation.deinterlace == "one_per_pair":
        return info
    if interpretation.deinterlace == "film":
        return _timed(info, info.rate * FILM_SHARE, max(1, round(info.frames * FILM_SHARE)))
    return info.model_copy(
        update={
            "rate": info.rate * 2,
            "frames": info.frames * 2,
            "shortest_frame": info.shortest_frame / 2,
            "longest_frame": info.longest_frame / 2,
        }
    )


def _timed(info: MediaInfo, rate: Fraction, frames: int) -> MediaInfo:
    timing = {"rate": rate, "frames": frames, "duration": frames / rate}
    return info.model_copy(update=timing | {"shortest_frame": 1 / rate, "longest_frame": 1 / rate})
