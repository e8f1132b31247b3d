"""The rows of the database."""

from server.studio.models.analysis import Analysis
from server.studio.models.change import Change
from server.studio.models.footage import Footage
from server.studio.models.framing import Framing, Step
from server.studio.models.generation import Generation
from server.studio.models.material import Material
from server.studio.models.people import Allowance, Invitation
from server.studio.models.plate import Plate
from server.studio.models.project import OwnFrame, OwnSettings, Project, ProjectFrame
from server.studio.models.render import Render
from server.studio.models.rule import FramingRule, SourceRule
from server.studio.models.sample_clip import SampleClip
from server.studio.models.sharing import LookLink, Member
from server.studio.models.size import Size
from server.studio.models.treatment import Treatment
from server.studio.models.upload import Upload

__all__ = [
    "Allowance",
    "Analysis",
    "Change",
    "Footage",
    "Framing",
    "FramingRule",
    "Generation",
    "Invitation",
    "LookLink",
    "Material",
    "Member",
    "OwnFrame",
    "OwnSettings",
    "Plate",
    "Project",
    "ProjectFrame",
    "Render",
    "SampleClip",
    "Size",
    "SourceRule",
    "Step",
    "Treatment",
    "Upload",
]
