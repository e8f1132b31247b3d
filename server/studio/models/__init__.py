"""What is stored."""

from server.studio.models.footage import Footage
from server.studio.models.framing import Framing, Step
from server.studio.models.project import OrderedFrame, Project
from server.studio.models.render import Render

__all__ = ["Footage", "Framing", "OrderedFrame", "Project", "Render", "Step"]
