"""What is laid over the join of picture and surround, and over all. A part that is off costs nothing."""

from cadrage.finish.captions import Captions, CaptionsPainter
from cadrage.finish.over import OverPainter
from cadrage.finish.specification import (
    Edge,
    Finish,
    FinishPart,
    Grade,
    caption_controls,
    offered_parts,
    title_controls,
)
from cadrage.finish.titles import Title, TitlesPainter
from cadrage.finish.under import UnderPainter

__all__ = [
    "Captions",
    "CaptionsPainter",
    "Edge",
    "Finish",
    "FinishPart",
    "Grade",
    "OverPainter",
    "Title",
    "TitlesPainter",
    "UnderPainter",
    "caption_controls",
    "offered_parts",
    "title_controls",
]
