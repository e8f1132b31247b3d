"""How a player must turn a picture, read from its display matrix."""

import struct
from dataclasses import dataclass
from math import atan2, degrees
from typing import Literal, cast

from av.sidedata.sidedata import SideData
from av.video.frame import VideoFrame

ENTRIES = struct.Struct("=9i")


@dataclass(frozen=True, slots=True)
class DisplayTurn:
    """What a display matrix asks for.

    Attributes:
        degrees: clockwise, 0 to 359, as stated.
        mirrored: whether left and right change places after that.
    """

    degrees: int
    mirrored: bool

    @property
    def nearest(self) -> Literal[0, 90, 180, 270]:
        """The nearest quarter turn, which is what is obeyed."""
        return cast("Literal[0, 90, 180, 270]", (self.degrees + 45) // 90 * 90 % 360)


def turn_of_display(frame: VideoFrame) -> DisplayTurn:
    """The turn that comes with a decoded picture; none where it has no display matrix.

    The matrix takes (x, y) to (a x + c y, b x + d y), with y down (libavutil's display.h). Turning clockwise by t has
    a = d = cos t and b = -c = sin t; mirroring after it changes the signs of a and c.
    """
    data = frame.side_data.get("DISPLAYMATRIX")
    if not isinstance(data, SideData):
        return DisplayTurn(0, mirrored=False)
    a, b, _, c, d, *_ = ENTRIES.unpack(bytes(data)[: ENTRIES.size])
    return DisplayTurn(round(degrees(atan2(b, d))) % 360, mirrored=a * d - b * c < 0)
