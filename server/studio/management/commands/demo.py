"""`manage.py demo`: the demonstration account and its project."""

import shutil
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from cadrage.formats import Frame
from demo.clips import CLIPS, PHOTOGRAPH, draw_all
from server.studio.actions.footage import adopt
from server.studio.actions.framings import begin_all
from server.studio.models import OrderedFrame, Project

PROJECT = "Centenary wall"
FRAMES = (
    Frame(name="Foyer screen", width=1920, height=1080),
    Frame(name="Totem", width=1080, height=1920),
    Frame(name="Archive monitor", width=1440, height=1080),
)


class Command(BaseCommand):
    """Draws the demonstration footage and loads it, where that has not been done."""

    help = "Draw the demonstration footage and load the demonstration project."

    def handle(self, *args: Any, **options: Any) -> None:
        """Do what is not done yet."""
        account, new = get_user_model().objects.get_or_create(username=settings.DEMO_USER)
        if new:
            account.set_unusable_password()
            account.save(update_fields=["password"])
        if Project.objects.filter(owner=account).exists():
            return
        drawn = Path(settings.DATA_DIR) / "drawn"
        self.stdout.write("Drawing the demonstration footage (about half a minute) …")
        draw_all(drawn)
        project = Project.objects.create(owner=account, name=PROJECT)
        frames = [OrderedFrame.from_value(project, frame) for frame in FRAMES]
        for frame in frames:
            frame.save()
        named = {clip.file: f"{clip.name}.mp4" for clip in CLIPS} | {PHOTOGRAPH: "Waiting for visitors.jpg"}
        for file, name in named.items():
            copy = Path(settings.INCOMING_DIR) / file
            shutil.copyfile(drawn / file, copy)
            adopt(project, name, copy)
        begin_all(project)
        self.stdout.write(f"Loaded “{PROJECT}”: {len(named)} clips, {len(frames)} frames.")
