"""What the API sends and takes, beside the core's own values."""

from server.studio.api.schemas.board import (
    Board,
    CellOut,
    CellsIn,
    Changes,
    FrameIn,
    FrameOut,
    GuidesOut,
    ProjectIn,
    ProjectLine,
)
from server.studio.api.schemas.catalogue import Catalogue, OwnFrameOut, OwnSettingsOut, Visitor
from server.studio.api.schemas.footage import AnalysisOut, FootageOut, InterpretIn, MarkIn, Marks, PathIn, RenameIn
from server.studio.api.schemas.framing import (
    EstimateOut,
    FramingOut,
    LineIn,
    MeasureIn,
    PreviewIn,
    StepsIn,
    VersionIn,
    WindowIn,
)
from server.studio.api.schemas.material import MaterialOut
from server.studio.api.schemas.render import KeepIn, KeptOut, PlaceIn, QueueIn, QueueOut, RenderOut, RendersIn

__all__ = [
    "AnalysisOut",
    "Board",
    "Catalogue",
    "CellOut",
    "CellsIn",
    "Changes",
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
    "MarkIn",
    "Marks",
    "MaterialOut",
    "MeasureIn",
    "OwnFrameOut",
    "OwnSettingsOut",
    "PathIn",
    "PlaceIn",
    "PreviewIn",
    "ProjectIn",
    "ProjectLine",
    "QueueIn",
    "QueueOut",
    "RenameIn",
    "RenderOut",
    "RendersIn",
    "StepsIn",
    "VersionIn",
    "Visitor",
    "WindowIn",
]
