"""The application with a project that holds one clip many times."""

from pathlib import Path

from tests.application import Application

FILL = """
from pathlib import Path
import shutil
from django.conf import settings
from django.contrib.auth import get_user_model
from cadrage.formats import Frame
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin_all
from server.studio.models import Analysis, ProjectFrame, Project

owner = get_user_model().objects.create(username="museum")
project = Project.objects.create(owner=owner, name="Filled")
for width, height in {frames!r}:
    ProjectFrame.from_value(project, Frame(width=width, height=height)).save()
for number in range({clips}):
    copy = Path(settings.INCOMING_DIR) / f"{{number}}.mp4"
    shutil.copyfile({source!r}, copy)
    import_file(project, f"Clip {{number:02d}}.mp4", copy)
Analysis.objects.update(state="cancelled")
begin_all(project)
"""


class Filled(Application):
    """A clip, some times, into some frames; all clips have been looked at."""

    def __init__(self, folder: Path, clip: Path, clips: int, frames: tuple[tuple[int, int], ...]) -> None:
        super().__init__(folder)
        self.filling = FILL.format(source=str(clip), clips=clips, frames=frames)

    def prepare(self) -> None:
        """Fill it."""
        self.manage("migrate", "--verbosity", "0")
        self.manage("shell", "--verbosity", "0", "-c", self.filling)
