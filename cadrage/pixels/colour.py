"""What samples mean: matrix, range, and the codes that files carry for them."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.errors import BadRequest
from cadrage.pixels.gamut import GAMUT_OF_CODE, Gamut

Curve = Literal["sdr", "pq", "hlg"]
Matrix = Literal["bt601", "bt709", "bt2020", "smpte240m", "ycgco", "bt2020-constant"]
"""How R'G'B' becomes one luma and two colour-difference signals. The first three are also delivered."""

LUMA_WEIGHTS: dict[Matrix, tuple[float, float]] = {
    "bt601": (0.299, 0.114),  # ITU-R BT.601-7, 2.5.1: E'Y = 0.299 R' + 0.587 G' + 0.114 B'
    "bt709": (0.2126, 0.0722),  # ITU-R BT.709-6, item 3.2
    "bt2020": (0.2627, 0.0593),  # ITU-R BT.2020-2, table 4
    "smpte240m": (0.212, 0.087),  # ITU-T H.273, table 4, value 7
    "bt2020-constant": (0.2627, 0.0593),  # ITU-R BT.2020-2, table 4
}
"""Weights of red and blue in luma; green has the rest."""

YCGCO = np.array([[1.0, -1.0, 1.0], [1.0, 1.0, 0.0], [1.0, -1.0, -1.0]])
"""From Y', Cg (in the place of Cb) and Co (of Cr) to R'G'B'. ITU-T H.273, 8.3, MatrixCoefficients 8; from memory."""

MATRIX_OF_CODE: dict[int, Matrix] = {
    1: "bt709",
    4: "bt601",  # FCC, whose weights (0.30, 0.11) differ from those of BT.601 by less than one code
    5: "bt601",  # BT.470 BG
    6: "bt601",  # SMPTE 170M
    7: "smpte240m",
    8: "ycgco",
    9: "bt2020",
    10: "bt2020-constant",
}
"""ITU-T H.273, table 4 (MatrixCoefficients)."""

UNREADABLE_MATRICES = {
    11: "Y′D′zD′x (SMPTE ST 2085)",
    12: "a matrix derived from its primaries",
    13: "a constant-luminance matrix derived from its primaries",
    14: "ICtCp (ITU-R BT.2100)",
    15: "IPT-C2",
    16: "YCgCo-Re",
    17: "YCgCo-Ro",
}
"""Names of code points of the same table whose samples Cadrage does not convert; clips that state them are refused."""

CURVE_OF_CODE: dict[int, Curve] = {16: "pq", 18: "hlg"}
"""ITU-T H.273, table 3 (TransferCharacteristics). All others are taken as SDR, which displays show alike whatever
curve a camera had (common practice, no source)."""

CODE_OF_CURVE: dict[Curve, int] = {"sdr": 1, "pq": 16, "hlg": 18}

UNSPECIFIED = 2
"""The code that says nothing, in all three tables of ITU-T H.273."""


SMALL_GAMUTS = (None, "bt709", "bt601-525", "bt601-625")


@dataclass(frozen=True, slots=True)
class Colour:
    """What Y'CbCr samples mean.

    Attributes:
        matrix: the weights between R'G'B' and Y'CbCr.
        full_range: whether black is 0 (full) or 16 at 8 bit (limited).
        matrix_code, primaries, transfer: the ITU-T H.273 code points a file carries; 2 is unspecified.
        peak: of HDR, cd/m² of the brightest that it was made for; 0 where nobody says.
        headroom: how many times the code of white can be held. More than 1 only while HDR is composed: with the curve
            of SDR, so that everything laid over it means the same as in SDR, and white at graphics white.
    """

    matrix: Matrix
    full_range: bool = False
    matrix_code: int = UNSPECIFIED
    primaries: int = UNSPECIFIED
    transfer: int = UNSPECIFIED
    peak: int = 0
    headroom: float = 1.0

    @property
    def curve(self) -> Curve:
        """The curve between codes and light."""
        return CURVE_OF_CODE.get(self.transfer, "sdr")

    @property
    def gamut(self) -> Gamut | None:
        """The primaries; None where nobody says."""
        return GAMUT_OF_CODE.get(self.primaries)

    @property
    def hdr(self) -> bool:
        """Whether it holds more light than white."""
        return self.curve != "sdr" or self.headroom > 1

    def code_range(self, depth: int) -> tuple[float, float, float]:
        """Code of black, and code values between black and white and across chroma, at a bit depth.

        Limited range is 16, 219, 224 at 8 bit, times 2 for each further bit (ITU-R BT.709-6, items 4.6 to 4.9);
        full range is 0 and 2^depth - 1 (ITU-T H.273, equations 23 to 25).
        """
        if self.full_range:
            top = float(2**depth - 1)
            return 0.0, top / self.headroom, top / self.headroom
        unit = float(2 ** (depth - 8))
        return 16 * unit, 219 * unit / self.headroom, 224 * unit / self.headroom

    @property
    def is_constant_luminance(self) -> bool:
        """Whether luma is made of light, so that no 3×3 matrix leads to R'G'B'."""
        return self.matrix == "bt2020-constant"

    def recoded_from(self, other: "Colour") -> bool:
        """Whether samples that mean `other` need another matrix or range to mean this."""
        return (self.matrix, self.full_range) != (other.matrix, other.full_range)

    def relit_from(self, other: "Colour") -> bool:
        """Whether samples that mean `other` need to go through R'G'B' or light to mean this: other primaries, another
        curve, or constant luminance.
        """
        kinds = (self.curve, self.headroom) != (other.curve, other.headroom)
        return kinds or other.is_constant_luminance or self.gamut_of(other) != self.gamut

    def gamut_of(self, other: "Colour") -> Gamut | None:
        """The primaries of samples that are to mean this.

        Where nobody says they are taken as the same in SDR, where differences are small, else as those of BT.709.
        """
        if other.gamut is not None or self.gamut in SMALL_GAMUTS:
            return other.gamut or self.gamut
        return "bt709"


def rgb_from_ycc(matrix: Matrix) -> NDArray[np.float64]:
    """The 3×3 matrix from Y' (0 to 1), Cb, Cr (-½ to ½) to R'G'B' (0 to 1). BT.709-6, items 3.2 and 3.3, solved.

    Of constant luminance it is only an approximation, for places that need one matrix; `rgb_from_constant` is exact.
    """
    if matrix == "ycgco":
        return YCGCO
    red, blue = LUMA_WEIGHTS[matrix]
    green = 1 - red - blue
    return np.array(
        [
            [1, 0, 2 * (1 - red)],
            [1, -2 * (1 - blue) * blue / green, -2 * (1 - red) * red / green],
            [1, 2 * (1 - blue), 0],
        ]
    )


def rgb_from_constant(ycc: NDArray[np.float32]) -> NDArray[np.float32]:
    """R'G'B' (…, 3) of constant-luminance BT.2020 Y'C Cb Cr (…, 3). ITU-R BT.2020-2, table 4; from memory.

    Blue and red follow from their differences; green is what the luminance has left in linear light.
    """
    luma, cb, cr = ycc[..., 0], ycc[..., 1], ycc[..., 2]
    blue = luma + cb * np.where(cb <= 0, np.float32(1.9404), np.float32(1.5816))
    red = luma + cr * np.where(cr <= 0, np.float32(1.7184), np.float32(0.9936))
    of_red, of_blue = LUMA_WEIGHTS["bt2020-constant"]
    light = camera_light(luma) - of_red * camera_light(red) - of_blue * camera_light(blue)
    green = camera_coded(light / (1 - of_red - of_blue))
    return np.stack([red, green, blue], axis=-1).astype(np.float32)


def camera_light(coded: NDArray[np.float32]) -> NDArray[np.float32]:
    """Scene light of R'G'B' codes, both 0 to 1. ITU-R BT.2020-2, table 4, inverse OETF."""
    low, high = coded / 4.5, (np.maximum(coded, 0) + 0.0993) / 1.0993
    return np.where(coded < 4.5 * 0.0181, low, high ** (1 / 0.45)).astype(np.float32)


def camera_coded(light: NDArray[np.float32]) -> NDArray[np.float32]:
    """R'G'B' codes of scene light, both 0 to 1. ITU-R BT.2020-2, table 4, OETF."""
    high = 1.0993 * np.maximum(light, 0) ** 0.45 - 0.0993
    return np.where(light < 0.0181, 4.5 * light, high).astype(np.float32)


def ycc_change(source: Matrix, target: Matrix) -> NDArray[np.float64]:
    """The 3×3 matrix from Y'CbCr of one kind to Y'CbCr of another, on Y' (0 to 1), Cb and Cr (-½ to ½)."""
    return np.linalg.inv(rgb_from_ycc(target)) @ rgb_from_ycc(source)


def parse_colour(text: str) -> tuple[float, float, float]:
    """Read "#203040" as R'G'B', each 0 to 1.

    Raises:
        BadRequest: the text is no such colour.
    """
    digits = text.removeprefix("#")
    if len(digits) != 6 or any(digit not in "0123456789abcdefABCDEF" for digit in digits):
        raise BadRequest(f"{text!r} is no colour.", remedy="Write it as # and six hexadecimal digits: #203040.")
    red, green, blue = (int(digits[at : at + 2], 16) / 255 for at in (0, 2, 4))
    return red, green, blue
