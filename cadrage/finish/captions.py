"""Captions from a file, laid over all; in the free bar where there is one."""

from bisect import bisect_right
from fractions import Fraction
from typing import ClassVar, Literal

from cachetools import LRUCache
from pydantic import Field

from cadrage.errors import BadRequest
from cadrage.fields import named, percent, plain_number
from cadrage.finish.titles import Plated, draw_block
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.geometry import FrameRect
from cadrage.geometry.free import free_places, safe_area
from cadrage.lettering.captions import Cue, read_captions
from cadrage.lettering.fonts import FAMILIES, runs
from cadrage.lettering.text import set_text
from cadrage.lettering.text_layer import Laid, TextLayer
from cadrage.motion.track import TimeSpan
from cadrage.pixels.planes import Planes
from cadrage.surrounds.base import FrameState, Scene
from cadrage.values import Exact

Place = Literal["free_area", "low", "high"]
GAP = Fraction(15, 1000)  # of the frame's height, from the picture
LEAST_LINES = Fraction(3, 2)  # a bar is used where so many sizes of the letters fit into its height
AT_ONCE = 4  # captions shown together
KEPT = 4  # sets of captions made ready that are held: the next frame mostly has the same


class Captions(Plated):
    """Captions of a file.

    Attributes:
        of: the file, by the name it has where the plan is kept; empty for none.
        place: in the bar below or above the picture where one is free, else low; or always low, or high.
        later: seconds by which they come later than the file says.
    """

    title: ClassVar[str] = "Captions"
    of: str = named("File", "captions")
    place: Place = Field(default="free_area", title="Place")
    later: Exact = plain_number(-3600, 3600, 0, "Later, in seconds", 0.1)
    size: Exact = percent(1, 25, 4.5, "Size", 0.1)
    weight: Exact = plain_number(100, 900, 500, "Weight", 50)
    plate: Exact = percent(0, 100, 55, "Plate")

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not self.of


class CaptionsPainter:
    """Lays on the captions of a time.

    Args:
        captions: which, and how they look.
        scene: what is painted.

    Raises:
        BadRequest: the file cannot be read as captions, or has a letter that the font has not; it says at which line.
    """

    def __init__(self, captions: Captions, scene: Scene) -> None:
        self.captions, self.canvas, self.pixel_aspect = captions, scene.canvas, scene.pixel_aspect
        path = scene.library.material(captions.of).path
        self.cues = read_captions(path)
        _check_letters(self.cues, captions, str(path.name))
        self.starts = [cue.start for cue in self.cues]
        self.longest = max(cue.end - cue.start for cue in self.cues)
        self._scene = scene
        down = scene.canvas.height / scene.frame.height
        self._scale = (scene.pixel_aspect * scene.canvas.width / scene.frame.width, down)
        self._ready: LRUCache[object, Laid | None] = LRUCache(KEPT)

    def shown(self, time: Fraction) -> tuple[Cue, ...]:
        """The captions of a time, the first to come first; at most a few."""
        at = time - self.captions.later
        end = bisect_right(self.starts, at)
        begin = bisect_right(self.starts, at - self.longest)
        return tuple(cue for cue in self.cues[begin:end] if at < cue.end)[:AT_ONCE]

    def paint(self, state: FrameState, canvas: Planes) -> None:
        """Lay them on."""
        cues = self.shown(state.time)
        if not cues:
            return
        if cues not in self._ready:
            self._ready[cues] = self._draw(cues, *self._place(cues))
        laid = self._ready[cues]
        if laid:
            laid.blend(canvas)

    def _place(self, cues: tuple[Cue, ...]) -> tuple[FrameRect, bool]:
        """Where they stand for all of their time."""
        later = self.captions.later
        during = (min(cue.start for cue in cues) + later, max(cue.end for cue in cues) + later)
        return _place(self.captions, self._scene, during)

    def _draw(self, cues: tuple[Cue, ...], rect: FrameRect, low: bool) -> Laid | None:
        ink = TextLayer(self.canvas, self.pixel_aspect)
        left, width = float(rect.x) * self._scale[0], float(rect.width) * self._scale[0]
        top, height = float(rect.y) * self._scale[1], float(rect.height) * self._scale[1]
        block = set_text(
            "\n".join(cue.text for cue in cues), self.captions, float(self.captions.size) / 100 * ink.height, width
        )
        y = top + height - block.height if low else top
        draw_block(block, self.captions, ink, left + (width - block.width) / 2, y, "centre")
        return ink.laid()


def _place(captions: Captions, scene: Scene, during: TimeSpan) -> tuple[FrameRect, bool]:
    """Where captions stand, and whether they stand at its lower end: under the picture they follow its edge."""
    frame = scene.frame
    if captions.place == "free_area":
        free = free_places(scene.taken(during), frame, scene.opening, TITLE_SAFE_INSET, GAP * frame.height)
        needed = LEAST_LINES * captions.size / 100 * frame.height
        if "below" in free and free["below"].height >= needed:
            return free["below"], False
        if "above" in free and free["above"].height >= needed:
            return free["above"], True
    # Within the active picture, and as far from its edge as from that of the frame.
    active = scene.opening.rect.scaled(1 - 2 * TITLE_SAFE_INSET)
    return safe_area(frame, TITLE_SAFE_INSET).clipped(active), captions.place != "high"


def _check_letters(cues: tuple[Cue, ...], captions: Captions, name: str) -> None:
    """Every letter of every caption, before any of them is needed."""
    family, known = FAMILIES[captions.family], set[str]()
    for cue in cues:
        new = set(cue.text) - known - {"\n"}
        try:
            runs("".join(sorted(new)), family)
        except BadRequest as error:
            raise BadRequest(f"Line {cue.line}: {error.problem}", remedy=error.remedy, clip=name) from error
        known |= new
