"""Captions from a file, laid over all; in the free bar where there is one."""

from bisect import bisect_right
from collections import OrderedDict
from fractions import Fraction
from typing import ClassVar, Literal

from pydantic import Field

from cadrage.errors import BadRequest
from cadrage.fields import named, percent, plain_number
from cadrage.finish.titles import Plated, draw_block
from cadrage.footage.library import Library
from cadrage.formats.guides import TITLE_SAFE_INSET
from cadrage.geometry import FrameRect, Opening, Placed
from cadrage.geometry.free import free_places, safe_area
from cadrage.lettering.captions import Cue, read_captions
from cadrage.lettering.fonts import FAMILIES, runs
from cadrage.lettering.ink import Ink, Laid
from cadrage.lettering.text import set_text
from cadrage.pixels.planes import Layout, Planes

Place = Literal["where it is free", "low", "high"]
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
    place: Place = Field(default="where it is free", title="Place")
    later: float = plain_number(-3600, 3600, 0, "Later, in seconds", 0.1)
    size: float = percent(1, 25, 4.5, "Size", 0.1)
    weight: float = plain_number(100, 900, 500, "Weight", 50)
    plate: float = percent(0, 100, 55, "Plate")

    @property
    def off(self) -> bool:
        """Whether it does nothing."""
        return not self.of


class CaptionsPainter:
    """Lays on the captions of a time.

    Args:
        captions: which, and how they look.
        library: where the file is found.
        placed: the picture in its frame.
        opening: the part of the frame that is filled.
        canvas: what is painted on.
        pixel_aspect: width of one luma sample of the canvas for its height.

    Raises:
        BadRequest: the file cannot be read as captions, or has a letter that the font has not; it says at which line.
    """

    def __init__(
        self,
        captions: Captions,
        library: Library,
        placed: Placed,
        opening: Opening,
        canvas: Layout,
        pixel_aspect: float,
    ) -> None:
        self.captions, self.canvas, self.pixel_aspect = captions, canvas, pixel_aspect
        path = library.material(captions.of).path
        self.cues = read_captions(path)
        _check_letters(self.cues, captions, str(path.name))
        frame = placed.frame
        self.starts = [cue.start for cue in self.cues]
        self.longest = max(cue.end - cue.start for cue in self.cues)
        self.rect, self.low = _place(captions, placed, opening)
        self._scale = (pixel_aspect * canvas.width / frame.width, canvas.height / frame.height)
        self._ready: OrderedDict[tuple[Cue, ...], Laid | None] = OrderedDict()

    def shown(self, time: Fraction) -> tuple[Cue, ...]:
        """The captions of a time, the first to come first; at most a few."""
        at = time - Fraction(str(self.captions.later))
        end = bisect_right(self.starts, at)
        begin = bisect_right(self.starts, at - self.longest)
        return tuple(cue for cue in self.cues[begin:end] if at < cue.end)[:AT_ONCE]

    def paint(self, canvas: Planes, time: Fraction) -> None:
        """Lay them on."""
        cues = self.shown(time)
        if not cues:
            return
        if cues not in self._ready:
            self._ready[cues] = self._draw(cues)
            if len(self._ready) > KEPT:
                self._ready.popitem(last=False)
        laid = self._ready[cues]
        if laid:
            laid.lay(canvas)

    def _draw(self, cues: tuple[Cue, ...]) -> Laid | None:
        ink = Ink(self.canvas, self.pixel_aspect)
        left, width = float(self.rect.x) * self._scale[0], float(self.rect.width) * self._scale[0]
        top, height = float(self.rect.y) * self._scale[1], float(self.rect.height) * self._scale[1]
        block = set_text(
            "\n".join(cue.text for cue in cues), self.captions, self.captions.size / 100 * ink.height, width
        )
        y = top + height - block.height if self.low else top
        draw_block(block, self.captions, ink, left + (width - block.width) / 2, y, "centre")
        return ink.laid()


def _place(captions: Captions, placed: Placed, opening: Opening) -> tuple[FrameRect, bool]:
    """Where captions stand, and whether they stand at its lower end: under the picture they follow its edge."""
    frame = placed.frame
    if captions.place == "where it is free":
        free = free_places(placed, opening, TITLE_SAFE_INSET, GAP * frame.height)
        needed = LEAST_LINES * Fraction(str(captions.size)) / 100 * frame.height
        if "below" in free and free["below"].height >= needed:
            return free["below"], False
        if "above" in free and free["above"].height >= needed:
            return free["above"], True
    return safe_area(frame, TITLE_SAFE_INSET), captions.place != "high"


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
