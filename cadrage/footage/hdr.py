"""What HDR says of the display it was made on, and of the most light in it."""

import struct
from fractions import Fraction

from av.sidedata.sidedata import SideData, Type
from av.video.frame import VideoFrame

from cadrage.footage.media_info import Chromaticity, ContentLight, Mastering

RATIONALS = struct.Struct("=20i2i")
"""libavutil's AVMasteringDisplayMetadata: three primaries and white, each x and y, least and most light, as ratios;
then whether there are primaries, and light."""
LIGHT = struct.Struct("=2I")
"""libavutil's AVContentLightMetadata: MaxCLL and MaxFALL."""


def mastering_of(frame: VideoFrame) -> Mastering | None:
    """The display a picture was made on; None where it does not say, or only half."""
    data = _data(frame, Type.MASTERING_DISPLAY_METADATA)
    if data is None or len(data) < RATIONALS.size:
        return None
    *numbers, primaries, light = RATIONALS.unpack(data[: RATIONALS.size])
    if not (primaries and light) or not all(numbers[1::2]):
        return None
    values = [Fraction(above, below) for above, below in zip(numbers[::2], numbers[1::2], strict=True)]
    points = [Chromaticity(x=x, y=y) for x, y in zip(values[:8:2], values[1:8:2], strict=True)]
    red, green, blue, white = points
    return Mastering(red=red, green=green, blue=blue, white=white, lowest=values[8], highest=values[9])


def content_light_of(frame: VideoFrame) -> ContentLight | None:
    """The most light in a clip, as its picture says; None where it does not."""
    data = _data(frame, Type.CONTENT_LIGHT_LEVEL)
    if data is None or len(data) < LIGHT.size:
        return None
    brightest, mean = LIGHT.unpack(data[: LIGHT.size])
    return ContentLight(brightest=brightest, mean=mean) if brightest or mean else None


def _data(frame: VideoFrame, kind: Type) -> bytes | None:
    found: SideData | None = frame.side_data.get(kind)  # type: ignore[call-overload]
    return None if found is None else bytes(found)
