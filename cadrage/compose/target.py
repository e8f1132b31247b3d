"""What a finished frame's samples are: size, depth, chroma, colour."""

from cadrage.footage.interpretation import TALLEST_SD
from cadrage.formats import Frame
from cadrage.pixels.colour import Colour, Matrix
from cadrage.pixels.light import peak_of
from cadrage.pixels.planes import CHROMA_420, Layout

HD = Colour("bt709", matrix_code=1, primaries=1, transfer=1)
SD_525 = Colour("bt601", matrix_code=6, primaries=6, transfer=6)
SD_625 = Colour("bt601", matrix_code=6, primaries=5, transfer=6)
WIDE = Colour("bt2020", matrix_code=9, primaries=9, transfer=14)
PQ = Colour("bt2020", matrix_code=9, primaries=9, transfer=16)
HLG = Colour("bt2020", matrix_code=9, primaries=9, transfer=18)
"""Code points of ITU-T H.273, tables 2 to 4: those of BT.709, BT.601 of 525 and 625 lines, BT.2020 and BT.2100."""

TALLEST_525 = 486  # lines that picture of the 525-line system can have (SMPTE RP 187, from memory)


def target_colour(frame: Frame) -> Colour:
    """What the finished samples mean: limited range, and as the frame says; of SDR, BT.601 up to 576 lines, BT.709
    above.
    """
    if frame.colour != "sdr":
        return {"bt2020": WIDE, "hlg": HLG, "pq": PQ}[frame.colour]
    lines = min(frame.width, frame.height)
    if lines > TALLEST_SD:
        return HD
    return SD_525 if lines <= TALLEST_525 else SD_625


def screen_colour(frame: Frame) -> Colour:
    """What finished samples mean that are only looked at, on a screen of SDR: the primaries of BT.709 are sRGB's."""
    matrix: Matrix = "bt601" if min(frame.width, frame.height) <= TALLEST_SD else "bt709"
    return Colour(matrix, primaries=1, transfer=1)


def screen_layout(frame: Frame, size: tuple[int, int] | None = None) -> Layout:
    """The layout of frames for looking at: 8 bits, 4:2:0, left-sited, at the frame's own size or another."""
    width, height = size or (frame.width, frame.height)
    return Layout(width, height, 8, CHROMA_420, screen_colour(frame))


def composed_peak(source: Colour) -> int:
    """cd/m² of the brightest of a clip in an HDR frame."""
    return round(peak_of(source))
