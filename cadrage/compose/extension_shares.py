"""What a frame that goes on beyond its picture consists of: the picture, other moments' pixels, invented ones."""

from fractions import Fraction

import cv2
import numpy as np
from numpy.typing import NDArray

from cadrage.compose.extending import plate_in, plate_of_shot
from cadrage.compose.shots import track_of
from cadrage.extend.plate import ELSEWHEN, INVENTED, NOWHERE, REAL, Plate
from cadrage.footage import Library, MediaInfo, resolve
from cadrage.geometry import Placed
from cadrage.geometry.shapes import FrameRect, SourceRect
from cadrage.plan import Plan
from cadrage.surrounds import Extended
from cadrage.values import Exact, Value

COLUMNS = 240
Origins = NDArray[np.uint8]
TINTS = {ELSEWHEN: (60, 140, 220, 110), INVENTED: (230, 120, 30, 130)}
"""R, G, B and opacity, of 255, in which places are shown that are not the picture's own."""


class FrameShares(Value):
    """What a frame consists of, percent of its area.

    Attributes:
        real: the picture of that moment.
        elsewhen: real pixels of other moments of the clip.
        invented: made up.
        beyond: none of them: what is seen where the plate ends.
    """

    real: Exact
    elsewhen: Exact
    invented: Exact
    beyond: Exact


def origins_at(plan: Plan, info: MediaInfo, library: Library, time: Fraction, columns: int = COLUMNS) -> Origins | None:
    """Where the pixels of a frame come from at a time: (rows, columns); None where nothing is extended.

    Raises:
        UnreadableFile: a plate that was there is gone.
    """
    track = track_of(plan, info)
    number = track.shot_at(time)
    shot = track.shots[number]
    if not isinstance(shot.plan.surround, Extended):
        return None
    reading = resolve(info, plan.interpretation)
    asked = plate_of_shot(shot, number, track.track(number), info)
    plate = None if asked is None else plate_in(library, asked.asked, reading)
    frame = plan.frame
    rows = max(2, round(columns / float(frame.raster.display_aspect)))
    scale = columns / frame.width, rows / frame.height
    placed = track.at(time)
    made = np.zeros((rows, columns), np.uint8)
    if plate is not None:
        made = _drawn(plate, placed, reading.cut.rect, time, scale, (columns, rows))
    made[_inside(placed, scale, (columns, rows))] = REAL
    outside = frame.surround_rect
    kept = np.zeros_like(made)
    kept[
        round(float(outside.y) * scale[1]) : round(float(outside.bottom) * scale[1]),
        round(float(outside.x) * scale[0]) : round(float(outside.right) * scale[0]),
    ] = 1
    return made * kept


def _inside(placed: Placed, scale: tuple[float, float], size: tuple[int, int]) -> NDArray[np.bool_]:
    """Which pixels of a small frame have their centres on the picture."""
    rect, pixel, turn = placed.rect, float(placed.frame.pixel_aspect), placed.turn.back
    x = ((np.arange(size[0]) + 0.5) / scale[0] - float(rect.x + rect.width / 2)) * pixel
    y = (np.arange(size[1]) + 0.5)[:, None] / scale[1] - float(rect.y + rect.height / 2)
    cosine, sine = (float(part) for part in turn.apply((Fraction(1), Fraction(0))))
    across, down = x * cosine - y * sine, x * sine + y * cosine
    half = float(rect.width) * pixel / 2, float(rect.height) / 2
    return np.asarray((np.abs(across) <= half[0]) & (np.abs(down) <= half[1]))


def _drawn(
    plate: Plate, placed: Placed, held: SourceRect, time: Fraction, scale: tuple[float, float], size: tuple[int, int]
) -> Origins:
    """Where pixels of the plate come from, as it lies on a small frame."""
    about, place = plate.about, plate.place_at(time)
    rect: FrameRect = placed.spread(placed.rect, held)
    corners = np.array([[0, 0], [about.picture_width, 0], [0, about.picture_height]], np.float64)
    if placed.mirror:
        corners[:, 0] = about.picture_width - corners[:, 0]
    on_plate = (corners @ place[:, :2].T + place[:, 2]).astype(np.float32)
    middle = float(placed.rect.x + placed.rect.width / 2), float(placed.rect.y + placed.rect.height / 2)
    pixel = float(placed.frame.pixel_aspect)
    points = []
    for x, y in ((rect.x, rect.y), (rect.right, rect.y), (rect.x, rect.bottom)):
        across, down = placed.turn.apply(
            (
                (x - placed.rect.x - placed.rect.width / 2) * placed.frame.pixel_aspect,
                y - placed.rect.y - placed.rect.height / 2,
            )
        )
        points.append(((middle[0] + float(across) / pixel) * scale[0], (middle[1] + float(down)) * scale[1]))
    matrix = cv2.getAffineTransform(on_plate, np.array(points, np.float32))
    drawn = cv2.warpAffine(plate.origin, matrix, size, flags=cv2.INTER_NEAREST, borderValue=NOWHERE)
    return np.asarray(drawn, np.uint8)


def shares_at(plan: Plan, info: MediaInfo, library: Library, time: Fraction) -> FrameShares | None:
    """What a frame consists of at a time; None where nothing is extended."""
    origins = origins_at(plan, info, library, time)
    if origins is None:
        return None
    parts = {what: Fraction(round(1000 * float((origins == what).mean())), 10) for what in (REAL, ELSEWHEN, INVENTED)}
    beyond = max(Fraction(0), 100 - sum(parts.values(), Fraction(0)))
    return FrameShares(real=parts[REAL], elsewhen=parts[ELSEWHEN], invented=parts[INVENTED], beyond=beyond)


def shares_summary(shares: FrameShares) -> str:
    """The same in words, without what there is nothing of."""
    parts = (
        (shares.real, "real"),
        (shares.elsewhen, "real, of other moments"),
        (shares.invented, "invented"),
        (shares.beyond, "beyond the plate"),
    )
    return ", ".join(f"{float(part):.1f}% {words}" for part, words in parts if part >= Fraction(1, 10))


def tinted(origins: Origins) -> bytes:
    """Where pixels come from, as a PNG to lay over the frame: clear where the picture is."""
    image = np.zeros((*origins.shape, 4), np.uint8)
    for what, (red, green, blue, opacity) in TINTS.items():
        image[origins == what] = (blue, green, red, opacity)
    return bytes(cv2.imencode(".png", image)[1])
