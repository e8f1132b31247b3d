"""What is stored."""

from server.studio.models.footage import Footage
from server.studio.models.framing import Framing, Step
from server.studio.models.material import Material
from server.studio.models.project import OrderedFrame, OwnFrame, OwnSettings, Project
from server.studio.models.render import Render
from server.studio.models.rule import FramingRule, SourceRule
from server.studio.models.treatment import Treatment

__all__ = [
    "Footage",
    "Framing",
    "FramingRule",
    "Material",
    "OrderedFrame",
    "OwnFrame",
    "OwnSettings",
    "Project",
    "Render",
    "SourceRule",
    "Step",
    "Treatment",
]
