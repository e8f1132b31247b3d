"""A frame as a picture to be finished elsewhere, and such a picture taken back in.

The still has the frame's size. The picture is opaque; a margin at each edge that goes on, as wide as the overlap, is
half transparent, since it will be covered by the live picture and may be painted over; all beyond it is clear.
"""

from dataclasses import dataclass
from fractions import Fraction
from io import BytesIO
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from cadrage.compose.compositor import Compositor
from cadrage.compose.moment import moment_of
from cadrage.compose.shots import track_of
from cadrage.errors import BadRequest
from cadrage.extend import camera as cam
from cadrage.extend.request import OutsidePicture
from cadrage.footage import EMPTY, Library, MediaInfo, open_footage
from cadrage.geometry import Placed
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.surrounds import Extended, Plain
from cadrage.values import Value

MARGIN_ALPHA = 128
MOST_SIDE = 16384
MOST_BYTES = 400 * 2**20
SHAPES_DIFFER = 0.02
"""Of the ratio of width and height: a picture whose shape differs more is another."""
REGISTERED_SIDE = 960
LEAST_SURE = 0.12
NEARLY = 0.3
"""Pixels: a picture that was moved by less was not moved."""
MOST_GAIN, MOST_OFFSET = 1.3, 24.0
Rgb = NDArray[np.uint8]


class TakenBack(Value):
    """What was done to a picture that was taken back in.

    Attributes:
        scaled: how many times larger it was than the still.
        moved_x, moved_y: how far it lay from where the still did, in pixels of the frame, right and down.
        turned: degrees clockwise that it was turned.
        graded: the largest change that its colours needed at the join, in codes of 8 bits.
        summary: the same in words.
    """

    scaled: float
    moved_x: float
    moved_y: float
    turned: float
    graded: float
    summary: str


@dataclass(frozen=True, slots=True)
class Taken:
    """A picture that was taken back in.

    Attributes:
        png: it, where the still was and in the clip's colours.
        place: where it lies on the picture; its name is not given yet.
        about: what was done to it.
    """

    png: bytes
    place: OutsidePicture
    about: TakenBack


def still_out(plan: Plan, path: Path, info: MediaInfo, time: Fraction, library: Library = EMPTY) -> bytes:
    """A frame as a PNG of 8 bits, R′G′B′ and alpha; see the module.

    Raises:
        BadRequest: the picture is turned. MissingSource, UnreadableFile: it cannot be read.
    """
    placed = _placed(plan, info, time)
    rgb = _frame_rgb(plan, path, info, time, library)
    alpha = _alpha(plan, placed)
    image = np.dstack([cv2.cvtColor(rgb, cv2.COLOR_RGB2BGR), alpha])
    image[alpha == 0] = 0
    return bytes(cv2.imencode(".png", image)[1])


def mask_of(plan: Plan, path: Path, info: MediaInfo, time: Fraction, library: Library = EMPTY) -> tuple[bytes, bytes]:
    """The still, and as a PNG of its size what is wanted of it: white beyond the picture, black inside it.

    Raises:
        BadRequest: the picture is turned. MissingSource, UnreadableFile: it cannot be read.
    """
    still = still_out(plan, path, info, time, library)
    wanted = np.where(_alpha(plan, _placed(plan, info, time)) < 255, 255, 0).astype(np.uint8)
    return still, bytes(cv2.imencode(".png", wanted)[1])


def take_back(plan: Plan, path: Path, info: MediaInfo, time: Fraction, data: bytes, library: Library = EMPTY) -> Taken:
    """A picture that was finished elsewhere, brought to where the still of the same plan and time was.

    Raises:
        BadRequest: it is no picture, of another shape, empty beyond the picture, or nothing of the still is in it.
    """
    placed = _placed(plan, info, time)
    still = _frame_rgb(plan, path, info, time, library)
    given, clear = _read(data)
    _check_shape(given, still)
    rows, columns = still.shape[:2]
    scale = given.shape[1] / columns
    how = cv2.INTER_AREA if scale > 1 else cv2.INTER_CUBIC
    sized = np.asarray(cv2.resize(given, (columns, rows), interpolation=how), np.uint8)
    empty = cv2.resize(clear.astype(np.uint8), (columns, rows), interpolation=cv2.INTER_AREA) > 0
    inside = _inside(plan, placed)
    if not inside.all() and empty[~inside].mean() > 0.02:
        raise BadRequest(
            f"{100 * float(empty[~inside].mean()):.0f}% of what lies beyond the picture is still transparent.",
            remedy="Fill all of it, then take it back.",
        )
    matrix = _lies(still, sized, inside)
    brought = sized
    if _moves(matrix, columns, rows):
        how = cv2.INTER_LANCZOS4 | cv2.WARP_INVERSE_MAP
        warped = cv2.warpAffine(
            sized, cam.for_opencv(matrix), (columns, rows), flags=how, borderMode=cv2.BORDER_REFLECT
        )
        brought = np.asarray(warped, np.uint8)
    graded, most = _graded(still, brought, _join(plan, placed))
    png = bytes(cv2.imencode(".png", cv2.cvtColor(graded, cv2.COLOR_RGB2BGR))[1])
    return Taken(png, _place(placed), _about(matrix, scale, most, columns, rows))


def place_of_frame(plan: Plan, info: MediaInfo, time: Fraction) -> OutsidePicture:
    """Where the frame lies on the picture at a time.

    Raises:
        BadRequest: the picture is turned.
    """
    return _place(_placed(plan, info, time))


def _placed(plan: Plan, info: MediaInfo, time: Fraction) -> Placed:
    placed = track_of(plan, info).at(time)
    if placed.angle:
        raise BadRequest(
            "A still can be taken out only of a picture that is not straightened.", remedy="Set its angle to 0."
        )
    return placed


def _frame_rgb(plan: Plan, path: Path, info: MediaInfo, time: Fraction, library: Library) -> Rgb:
    """The frame without words and what lies over all, with nothing beyond the picture."""
    bare = plan.model_copy(
        update={"surround": Plain(), "finish": plan.finish.without_text, "shots": (), "motion": plan.motion}
    )
    with open_footage(path, info, plan.interpretation) as reader:
        stored = reader.frame_at(time)
        made = Compositor(bare, stored.planes.layout, info, library=library)
        return to_rgb(made.compose(stored.planes, time=moment_of(info, stored, time)))


def _overlap(plan: Plan, placed: Placed) -> float:
    surround = plan.surround
    part = float(surround.overlap) / 100 if isinstance(surround, Extended) else 0.03
    return part * float(placed.rect.height)


def _inside(plan: Plan, placed: Placed, margin: float = 0.0) -> NDArray[np.bool_]:
    """Where the picture lies on the frame, less a margin."""
    rows, columns = plan.frame.height, plan.frame.width
    x, y = np.arange(columns) + 0.5, np.arange(rows) + 0.5
    rect = placed.rect
    across = (x >= float(rect.x) + margin) & (x <= float(rect.right) - margin)
    down = (y >= float(rect.y) + margin) & (y <= float(rect.bottom) - margin)
    if rect.y <= 0 and rect.bottom >= rows:
        down[:] = True
    if rect.x <= 0 and rect.right >= columns:
        across[:] = True
    return np.asarray(down[:, None] & across[None, :])


def _join(plan: Plan, placed: Placed) -> NDArray[np.bool_]:
    """The part of the picture near its edges."""
    near = max(8.0, 2 * _overlap(plan, placed))
    return np.asarray(_inside(plan, placed) & ~_inside(plan, placed, near))


def _alpha(plan: Plan, placed: Placed) -> NDArray[np.uint8]:
    alpha = np.zeros((plan.frame.height, plan.frame.width), np.uint8)
    alpha[_inside(plan, placed)] = MARGIN_ALPHA
    alpha[_inside(plan, placed, _overlap(plan, placed))] = 255
    return alpha


def _read(data: bytes) -> tuple[Rgb, NDArray[np.bool_]]:
    """R′G′B′ of 8 bits, and where it is clear."""
    if len(data) > MOST_BYTES:
        raise BadRequest("This file is too large.", remedy=f"Save it with at most {MOST_BYTES // 2**20} MiB.")
    readable = 0 < _longest_side(data) <= MOST_SIDE
    image = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED) if readable else None
    if image is None:
        raise BadRequest("This is no picture that can be read.", remedy="Save it as PNG, TIFF or JPEG.")
    if image.dtype == np.uint16:
        image = ((image.astype(np.uint32) * 255 + 32767) // 65535).astype(np.uint8)
    if image.dtype != np.uint8:
        raise BadRequest("This picture has samples that cannot be read.", remedy="Save it with 8 or 16 bits.")
    if image.ndim == 2:
        image = cv2.cvtColor(image, cv2.COLOR_GRAY2BGR)
    clear = np.asarray(image[..., 3] < MARGIN_ALPHA // 2) if image.shape[2] == 4 else np.zeros(image.shape[:2], bool)
    return np.ascontiguousarray(image[..., 2::-1], np.uint8), clear


def _longest_side(data: bytes) -> int:
    """Read how many pixels a picture has along its longest side, without decoding it; 0 where it is none."""
    try:
        with Image.open(BytesIO(data)) as image:
            return max(image.size)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return 0


def _check_shape(given: Rgb, still: Rgb) -> None:
    there, wanted = (f"{rgb.shape[1]}×{rgb.shape[0]}" for rgb in (given, still))
    ratio = given.shape[1] / given.shape[0] / (still.shape[1] / still.shape[0])
    if abs(ratio - 1) > SHAPES_DIFFER:
        raise BadRequest(
            f"This picture has {there} pixels, and the still {wanted}.",
            remedy="Take back a picture of the still's size, or of its shape.",
        )


def _lies(still: Rgb, given: Rgb, inside: NDArray[np.bool_]) -> cam.Matrix:
    """Where a point of the still lies in what was given."""
    factor = min(1.0, REGISTERED_SIDE / max(still.shape[:2]))
    size = max(16, round(still.shape[1] * factor)), max(16, round(still.shape[0] * factor))
    one, other = (
        np.asarray(cv2.resize(cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY), size, interpolation=cv2.INTER_AREA), np.uint8)
        for rgb in (still, given)
    )
    places = cam.features(one)
    kept = inside[
        np.clip((places[:, 1] / factor).astype(int), 0, inside.shape[0] - 1),
        np.clip((places[:, 0] / factor).astype(int), 0, inside.shape[1] - 1),
    ]
    found = cam.register(one, other, places[kept])
    if found.sure < LEAST_SURE:
        if (
            kept.sum() < 3 * cam.FEWEST
            or float(np.abs(one.astype(int) - other)[cv2.resize(inside.astype(np.uint8), size) > 0].mean()) < 12
        ):
            return cam.STILL  # too even to be told, or as it was
        raise BadRequest(
            "The picture of the clip cannot be found again in what was given.",
            remedy="Keep the opaque part of the still as it is, and fill only what is transparent.",
        )
    return cam.scaled(found.matrix, 1 / factor)


def _moves(matrix: cam.Matrix, columns: int, rows: int) -> bool:
    return cam.Registration(matrix, 1.0).moved(columns, rows) > NEARLY


def _graded(still: Rgb, given: Rgb, join: NDArray[np.bool_]) -> tuple[Rgb, float]:
    """What was given with its colours as the clip has them along the join; and the largest change."""
    wanted, there = still[join].astype(np.float32), given[join].astype(np.float32)
    if len(wanted) < 50:
        return given, 0.0
    told = ((there > 4) & (there < 251)).all(axis=1)
    wanted, there = wanted[told], there[told]
    if len(wanted) < 50:
        return given, 0.0
    gain = np.clip(wanted.std(axis=0) / np.maximum(there.std(axis=0), 1.0), 1 / MOST_GAIN, MOST_GAIN)
    alike = np.abs(gain - 1) < 0.02
    gain[alike] = 1.0
    offset = np.clip(np.median(wanted - there * gain, axis=0), -MOST_OFFSET * 4, MOST_OFFSET * 4)
    most = float(np.abs(there.mean(axis=0) * (gain - 1) + offset).max())
    if most < 0.5:
        return given, 0.0
    made = np.clip(given.astype(np.float32) * gain + offset + 0.5, 0, 255)
    return made.astype(np.uint8), most


def _place(placed: Placed) -> OutsidePicture:
    """Where the frame lies on the picture; the still is seen as the frame is, also where that is mirrored."""
    rect, frame = placed.rect, placed.frame
    across = Fraction(frame.width) / rect.width
    x = -rect.x / rect.width
    if placed.mirror:
        x = 1 - (x + across)
    return OutsidePicture(
        x=_brief(x), y=_brief(-rect.y / rect.height), width=_brief(across), height=_brief(frame.height / rect.height)
    )


def _brief(value: Fraction) -> Fraction:
    return Fraction(round(value * 10**6), 10**6)


def _about(matrix: cam.Matrix, scale: float, graded: float, columns: int, rows: int) -> TakenBack:
    linear = float(np.hypot(matrix[0, 0], matrix[1, 0]))
    turned = float(np.degrees(np.arctan2(matrix[1, 0], matrix[0, 0])))
    middle = matrix @ [columns / 2, rows / 2, 1] - [columns / 2, rows / 2]
    parts = []
    if abs(scale * linear - 1) > 0.002:
        parts.append(f"it was {scale * linear:.3f} times as large")
    if max(abs(float(middle[0])), abs(float(middle[1]))) > NEARLY:
        parts.append(f"it lay {middle[0]:+.1f} and {middle[1]:+.1f} pixels off")
    if abs(turned) > 0.02:
        parts.append(f"it was turned by {turned:+.2f}°")
    if graded:
        parts.append(f"its colours were moved by up to {graded:.0f} codes")
    return TakenBack(
        scaled=round(scale * linear, 4),
        moved_x=round(float(middle[0]), 2),
        moved_y=round(float(middle[1]), 2),
        turned=round(turned, 3),
        graded=round(graded, 2),
        summary="; ".join(parts) or "it lay just where the still was",
    )
