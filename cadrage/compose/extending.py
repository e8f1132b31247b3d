"""Plates that a plan asks for: how far each side has to go on, at which size, from which stretch of the clip."""

import threading
from dataclasses import dataclass
from fractions import Fraction
from math import ceil
from pathlib import Path

from cachetools import LRUCache, cached

from cadrage.analysis.store import MANIFEST, Manifest
from cadrage.compose.shots import PlannedShot, track_of
from cadrage.extend.plate import Plate, PlateFound, read_plate
from cadrage.extend.request import LONGEST_SIDE, SIDES, AskedSide, PlateRequest, SceneRequest, Side, pixels_of
from cadrage.footage import Library, MediaInfo, ResolvedInterpretation, resolve
from cadrage.geometry import FrameRect, Placed, SourceRect
from cadrage.motion import PlacementTrack
from cadrage.motion.track import MovingTrack, moments
from cadrage.pixels.colour import Colour
from cadrage.plan import Plan
from cadrage.surrounds import Extended

SIZES = tuple(Fraction(round(1000 * 2 ** (-step / 4)), 1000) for step in range(17))
"""Pixels of a plate for one of the clip, from which the smallest that is enough is taken: a picture that is enlarged a
little keeps its plate."""
ENOUGH = Fraction(97, 100)
"""Of the size wanted: so little less is not seen."""
STEP_PERCENT = 5
"""Reaches are rounded up to so much of the picture's side, for the same reason."""
MOST_PIXELS = 80_000_000
PLATES_HELD = 2


@dataclass(frozen=True, slots=True)
class ShotPlate:
    """The plate that a shot asks for.

    Attributes:
        shot: its number.
        asked: the plate; sides are those of the scene, not of the frame, where it is mirrored.
        short: sides of the frame that go on less far than the frame would show.
    """

    shot: int
    asked: PlateRequest
    short: tuple[Side, ...]


def plates_asked(plan: Plan, info: MediaInfo) -> tuple[ShotPlate, ...]:
    """The plates that a plan asks for, in the order of its shots."""
    track = track_of(plan, info)
    found = []
    for number, shot in enumerate(track.shots):
        if isinstance(shot.plan.surround, Extended):
            one = plate_of_shot(shot, number, track.track(number), info)
            found += [] if one is None else [one]
    return tuple(found)


def plate_of_shot(shot: PlannedShot, number: int, track: PlacementTrack, info: MediaInfo) -> ShotPlate | None:
    """The plate that a shot asks for; None where nothing has to go on."""
    plan = shot.plan
    assert isinstance(plan.surround, Extended)
    reading = resolve(info, plan.interpretation)
    held = reading.cut.rect
    span = shot.first, shot.last
    times = moments(span, track.times) if isinstance(track, MovingTrack) else [shot.first]
    places = [track.at(time) for time in times]
    opening = plan.frame.surround_rect
    reaches = [_beyond(placed, held, opening) for placed in places]
    needed = {side: max(one[at] for one in reaches) for at, side in enumerate(SIDES)}
    width, height = _size(places, reading)
    sides, short = _sides(plan.surround, needed, width, height)
    if not sides:
        return None
    start, end = plan.surround.stretch(shot.start, shot.end)
    scene = SceneRequest(start=start, end=end, camera=plan.surround.camera, width=width, height=height)
    mirror = places[0].mirror
    asked = PlateRequest(
        scene=scene,
        sides={_of_scene(side, mirror=mirror): one for side, one in sides.items()},
        excluded=plan.surround.excluded,
        outside=plan.surround.outside,
    )
    return ShotPlate(number, asked, short)


def _of_scene(side: Side, *, mirror: bool) -> Side:
    swapped: dict[Side, Side] = {"left": "right", "right": "left"}
    return swapped.get(side, side) if mirror else side


def _beyond(placed: Placed, held: SourceRect, opening: FrameRect) -> tuple[float, ...]:
    """How far the frame looks past the picture: left, right, above, below as it is seen, in percent of its sides."""
    spread, pixel = placed.spread(placed.rect, held), placed.frame.pixel_aspect
    rect = placed.rect
    middle = rect.x + rect.width / 2, rect.y + rect.height / 2
    corners = [(x, y) for x in (opening.x, opening.right) for y in (opening.y, opening.bottom)]
    turned = [placed.turn.back.apply(((x - middle[0]) * pixel, y - middle[1])) for x, y in corners]
    across = [float((x / pixel + middle[0] - spread.x) / spread.width) for x, _ in turned]
    down = [float((y + middle[1] - spread.y) / spread.height) for _, y in turned]
    return tuple(100 * max(0.0, reach) for reach in (-min(across), max(across) - 1, -min(down), max(down) - 1))


def _size(places: list[Placed], reading: ResolvedInterpretation) -> tuple[int, int]:
    """Pixels of the picture in the plate."""
    enlarged = max(
        max(placed.rect.width / placed.picture.width, placed.rect.height / placed.picture.height) for placed in places
    )
    scale = next((size for size in reversed(SIZES) if size >= ENOUGH * enlarged), Fraction(1))
    held = reading.cut.rect
    pixel = float(reading.picture.pixel_aspect)
    across, down = (scale, scale) if pixel == 1 else _square(scale, places[0])
    return max(2, round(held.width * across)), max(2, round(held.height * down))


def _square(scale: Fraction, placed: Placed) -> tuple[Fraction, Fraction]:
    """Scales across and down whose pixels have the frame's shape."""
    across, down = placed.rect.width / placed.picture.width, placed.rect.height / placed.picture.height
    most = max(across, down)
    return scale * across / most, scale * down / most


def _sides(
    extended: Extended, needed: dict[Side, float], width: int, height: int
) -> tuple[dict[Side, AskedSide], tuple[Side, ...]]:
    found: dict[Side, AskedSide] = {}
    short: list[Side] = []
    room = LONGEST_SIDE
    for side, how in extended.sides.items():
        wanted = Fraction(STEP_PERCENT * ceil(needed[side] / STEP_PERCENT - 1e-6))
        reach = wanted if how.reach is None else how.reach
        if how.reach is not None and how.reach * Fraction(101, 100) < Fraction(needed[side]):
            short.append(side)
        if reach <= 0:
            continue
        length = width if side in ("left", "right") else height
        pixels = min(pixels_of(reach, length), max(1, (room - length) // 2))
        found[side] = AskedSide(way=how.way, variant=how.variant, melt=how.melt, reach=pixels)
    return _within(found, width, height), tuple(short)


def _within(sides: dict[Side, AskedSide], width: int, height: int) -> dict[Side, AskedSide]:
    """Sides that together are not more than can be made."""
    across = width + sum(one.reach for side, one in sides.items() if side in ("left", "right"))
    down = height + sum(one.reach for side, one in sides.items() if side in ("top", "bottom"))
    if across * down <= MOST_PIXELS:
        return sides
    share = MOST_PIXELS / (across * down)
    return {side: one.model_copy(update={"reach": max(1, int(one.reach * share))}) for side, one in sides.items()}


def with_files(asked: PlateRequest, library: Library) -> PlateRequest:
    """A request with the files that it names.

    Raises:
        BadRequest, MissingSource: one is not to be had.
    """
    if asked.outside is None:
        return asked
    return asked.model_copy(update={"outside_file": library.state_of(asked.outside.of)})


def plate_in(library: Library, asked: PlateRequest, reading: ResolvedInterpretation) -> Plate | None:
    """A plate, where it has been made."""
    folder = library.plates(with_files(asked, library).model_dump_json())
    return None if folder is None else _read(folder, reading.colour)


@cached(LRUCache(PLATES_HELD), lock=threading.Lock())
def _read(folder: Path, colour: Colour) -> Plate | None:
    """A plate of a folder; nothing in it changes, and those that were looked at last are held."""
    manifest = Manifest.model_validate_json((folder / MANIFEST).read_text())
    if manifest.found is None:
        return None
    return read_plate(folder, PlateFound.model_validate(manifest.found), colour)


def plate_folders(plan: Plan, info: MediaInfo, library: Library) -> dict[str, Path | None]:
    """Where the plates that a plan asks for lie, by what is asked, as JSON; None where one is not there."""
    if not extends(plan):
        return {}
    texts = (with_files(one.asked, library).model_dump_json() for one in plates_asked(plan, info))
    return {text: library.plates(text) for text in texts}


def plates_there(plan: Plan, info: MediaInfo, library: Library) -> dict[str, Path]:
    """The same, of those that are there."""
    return {asked: folder for asked, folder in plate_folders(plan, info, library).items() if folder is not None}


def plate_states(plan: Plan, info: MediaInfo, library: Library) -> dict[str, str]:
    """The plates of a plan that are there: what is made of it changes with them."""
    folders = plate_folders(plan, info, library).values()
    return {f"plate {number}": "" if folder is None else folder.name for number, folder in enumerate(folders)}


def extends(plan: Plan) -> bool:
    """Whether anything of a plan goes on beyond its picture."""
    return any(isinstance(surround, Extended) for surround in plan.of_each_shot("surround"))
