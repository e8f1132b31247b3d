"""What is laid over the join of picture and surround, and over all. A part that is off costs nothing."""

from cadrage.finish.captions import Captions, CaptionsPainter
from cadrage.finish.global_grade import GlobalGrade
from cadrage.finish.shadow_outline import ShadowOutline
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

__all__ = [
    "Captions",
    "CaptionsPainter",
    "Edge",
    "Finish",
    "FinishPart",
    "GlobalGrade",
    "Grade",
    "ShadowOutline",
    "Title",
    "TitlesPainter",
    "caption_controls",
    "offered_parts",
    "title_controls",
]
