"""What is laid over the join of picture and surround, and over all. A part that is off costs nothing."""

from cadrage.finish.over import OverPainter
from cadrage.finish.specification import Finish, FinishPart, offered_parts
from cadrage.finish.under import UnderPainter

__all__ = ["Finish", "FinishPart", "OverPainter", "UnderPainter", "offered_parts"]
