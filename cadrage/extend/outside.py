"""Pictures from elsewhere: drawn to a plate's size."""

from cadrage.extend.request import PlateRequest
from cadrage.extend.seeing import AtSize
from cadrage.footage import Library, Orient, resolve
from cadrage.pixels.colour import Colour
from cadrage.pixels.planes import Working


def outside_picture(asked: PlateRequest, library: Library, colour: Colour) -> Working:
    """The picture from elsewhere that a plate has, at its size on it: codes of 8 bits, (rows, columns, 3).

    Args:
        asked: the plate.
        library: where it is found.
        colour: what its samples shall mean.

    Raises:
        BadRequest, MissingSource, UnreadableFile: it is not to be had.
    """
    outside = asked.outside
    assert outside is not None
    material, info = library.clip(outside.of)
    reading = resolve(info, material.interpretation)
    decoded = library.frame(outside.of, info.duration * 0).planes
    upright = Orient(decoded.layout, reading, colour, mirror=reading.mirror)
    width = max(1, round(asked.scene.width / asked.shrink * float(outside.width)))
    height = max(1, round(asked.scene.height / asked.shrink * float(outside.height)))
    return AtSize(upright.layout, width, height).apply(upright.apply(decoded))
