"""What the API sends and takes, beside the core's own values."""

from server.studio.api.schemas.board import (
    Board,
    CellOut,
    CellsIn,
    FrameIn,
    FrameOut,
    GuidesOut,
    ProjectIn,
    ProjectLine,
)
from server.studio.api.schemas.catalogue import Catalogue, OwnFrameOut, OwnSettingsOut, Visitor
from server.studio.api.schemas.footage import FootageOut, InterpretIn, Marks, PathIn, RenameIn
from server.studio.api.schemas.framing import EstimateOut, FramingOut, LineIn, MeasureIn, PlanIn, PreviewIn, WindowIn
from server.studio.api.schemas.material import MaterialOut
from server.studio.api.schemas.render import KeepIn, KeptOut, PlaceIn, QueueIn, QueueOut, RenderOut, RendersIn

__all__ = [
    "Board",
    "Catalogue",
    "CellOut",
    "CellsIn",
    "EstimateOut",
    "FootageOut",
    "FrameIn",
    "FrameOut",
    "FramingOut",
    "GuidesOut",
    "InterpretIn",
    "KeepIn",
    "KeptOut",
    "LineIn",
    "Marks",
    "MaterialOut",
    "MeasureIn",
    "OwnFrameOut",
    "OwnSettingsOut",
    "PathIn",
    "PlaceIn",
    "PlanIn",
    "PreviewIn",
    "ProjectIn",
    "ProjectLine",
    "QueueIn",
    "QueueOut",
    "RenameIn",
    "RenderOut",
    "RendersIn",
    "Visitor",
    "WindowIn",
]
