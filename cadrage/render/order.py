"""What is asked for: a plan, the clip it is about, and how the file is written."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

from cadrage.compose import Compositor
from cadrage.compose.framed import bare_frame, without_bars
from cadrage.compose.layers import PictureAlone, layer_plan
from cadrage.compose.target import target_colour
from cadrage.footage import EMPTY, Facts, Library, picture_times, probe, read_as
from cadrage.formats import Frame
from cadrage.pixels.planes import Layout
from cadrage.plan import Plan
from cadrage.render.encoder import stored_colour
from cadrage.render.pace import Pace, pace_of
from cadrage.render.settings import DEFAULT, Settings, Writing, writing_of

INDEXED = ("mov", "mxf")  # containers that list every picture


@dataclass(frozen=True, slots=True)
class Order:
    """What was asked for.

    Attributes:
        plan: the framing.
        source: the clip.
        facts: what it is.
        library: what else the plan may use.
        settings: how the file is written.
        clip: what the clip is called; as its file, where empty.
    """

    plan: Plan
    source: Path
    facts: Facts
    library: Library = EMPTY
    settings: Settings = DEFAULT
    clip: str = ""

    @property
    def sources(self) -> tuple[Path, ...]:
        """Every file that it is made of."""
        return (self.source, *(self.library.material(name).path for name in self.plan.names))

    @property
    def written(self) -> Plan:
        """The plan whose frame is exactly what the file holds."""
        return plan_written(self.plan, self.facts, self.settings)

    @property
    def writing(self) -> Writing:
        """The settings, settled."""
        return writing_of(self.settings, self.written.frame, self.clip or self.source.name)

    @property
    def converted_sound(self) -> str | None:
        """How sound is written that should be kept and cannot be; None where it is kept, or was not to be."""
        return self.writing.sound if self.settings.sound != self.writing.sound else None

    @property
    def pace(self) -> Pace:
        """When each frame shows what."""
        return pace_of(self.plan, self.facts, self.settings)

    @property
    def picture_times(self) -> list[Fraction] | None:
        """When each picture of the clip comes, in seconds from the first; None where they last equally long."""
        return picture_times(self.source, self.facts) if self.pace.varies else None

    @property
    def wanted(self) -> Facts:
        """The clip as it is to be delivered."""
        return self.pace.facts

    @property
    def layout(self) -> Layout:
        """The samples that are composed for the file."""
        plan, writing = self.written, self.writing
        colour = stored_colour(writing, target_colour(read_as(self.facts, plan.interpretation).colour, plan.frame))
        return Layout(plan.frame.width, plan.frame.height, writing.format.depth, writing.format.chroma, colour)

    def compositor(self, source: Layout) -> Compositor | PictureAlone:
        """A compositor whose frames are what the file stores.

        Args:
            source: the layout of the clip's pictures as decoded.
        """
        plan, layer = self.written, self.settings.layer
        if layer == "picture alone":
            return PictureAlone(plan, source, self.facts, self.layout, library=self.library)
        drawn = layer_plan(plan, layer)
        picture: Literal["over", "left out"] = "left out" if layer == "surround alone" else "over"
        return Compositor(drawn, source, self.facts, self.layout, library=self.library, picture=picture)


def frame_written(frame: Frame, settings: Settings) -> Frame:
    """The frame that a file holds."""
    return bare_frame(frame) if settings.bars == "active picture only" else frame


def plan_written(plan: Plan, facts: Facts, settings: Settings) -> Plan:
    """The plan whose frame is exactly what the file holds."""
    return without_bars(plan, facts) if settings.bars == "active picture only" else plan


def facts_to_render(source: Path, *, whole: bool = True) -> Facts:
    """What a clip is, known well enough to render it: its pictures are counted to the last.

    Those of containers that have a complete index are counted by it, and of a clip of which only a part is delivered by
    its packets; damage in them is read past when it is met.

    Args:
        source: the clip.
        whole: whether all of it is delivered.

    Raises:
        MissingSource, UnreadableFile: see `probe`.
    """
    facts = probe(source)
    by_packets = not whole or facts.demuxer in INDEXED
    if facts.counted == "decoded" or (facts.counted == "packets" and by_packets):
        return facts
    return probe(source, thorough=not by_packets, counted=by_packets)
