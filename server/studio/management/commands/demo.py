"""`manage.py demo`: the demonstration account and its project."""

import shutil
from fractions import Fraction
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from cadrage.finish import Captions, Finish
from cadrage.finish.specification import Shadow
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Key, Motion, Pan, Push, Tilt
from cadrage.motion.follow import Follow
from cadrage.plan import Shot
from cadrage.surrounds import Extended, Graphic
from demo.clips import CLIPS, PHOTOGRAPH, draw_all
from demo.museum import CAPTIONS, EMBLEM, write_things
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin_all, plan_of
from server.studio.actions.framings import change
from server.studio.actions.materials import import_file as adopt_material
from server.studio.actions.projects import begin
from server.studio.models import Framing, Project

PROJECT = "Centenary wall"
FRAMES = (
    Frame(name="Foyer screen", width=1920, height=1080),
    Frame(name="Totem", width=1080, height=1920),
    Frame(name="Archive monitor", width=1440, height=1080),
)


TITLED, CAPTIONED = ("Number 7 leaves the depot.mp4", FRAMES[0]), ("Open day, visitor's tape.mp4", FRAMES[1])
FOLLOWED = ("Crossing the square.mp4", FRAMES[1])
EDITED, SLOW = ("Number 7, a portrait.mp4", FRAMES[1]), ("Up the depot, too slow.mp4", FRAMES[0])
EXTENDED = {
    "The depot yard.mp4": Extended(),
    "Out of the gate.mp4": Extended(end=Fraction(3)),
    "Along Harbour Row.mp4": Extended(camera="moving"),
}
"""Into the foyer's screen: what goes on beyond the picture."""
WHOLE, FILL = Placement(), Placement(tightness=Fraction(1))
SHOTS = (
    Shot(start=Fraction(0), placement=FILL, motion=Motion(move=Pan(way="left_right"))),
    Shot(start=Fraction(8, 5), placement=Placement(tightness=Fraction(3, 5))),
    Shot(start=Fraction(16, 5), motion=Motion(move=Push(percent=Fraction(12)))),
    Shot(
        start=Fraction(24, 5),
        placement=FILL,
        motion=Motion(
            keys=(
                Key(time=Fraction(24, 5), x=Fraction(0), y=Fraction(0), tightness=Fraction(1)),
                Key(time=Fraction(28, 5), x=Fraction(3, 25), y=Fraction(-1, 20), tightness=Fraction(6, 5)),
            )
        ),
    ),
    Shot(start=Fraction(33, 5), placement=FILL, motion=Motion(move=Pan(way="right_left"))),
)
"""Of the edited clip: four as they are found, and the last, which a dissolve begins, cut by hand."""


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
        self.stdout.write("Drawing the demonstration footage (about a minute) …")
        draw_all(drawn)
        project = begin(account, PROJECT, FRAMES)
        named = {clip.file: f"{clip.name}.mp4" for clip in CLIPS} | {PHOTOGRAPH: "Waiting for visitors.jpg"}
        for file, name in named.items():
            copy = Path(settings.INCOMING_DIR) / file
            shutil.copyfile(drawn / file, copy)
            import_file(project, name, copy)
        begin_all(project)
        _dress(project, drawn)
        self.stdout.write(f"Loaded “{PROJECT}”: {len(named)} clips, {len(FRAMES)} frames.")


def _dress(project: Project, drawn: Path) -> None:
    """Give one framing a panel with the museum's emblem, one its captions, two a placement that moves, one a window
    that follows, and three a scene that goes on.
    """
    write_things(drawn)
    things = {}
    for file in (EMBLEM, CAPTIONS):
        copy = Path(settings.INCOMING_DIR) / file
        shutil.copyfile(drawn / file, copy)
        things[file] = adopt_material(project, file, copy).ref
    panel = Graphic(
        heading="Number 7 leaves the depot",
        subtitle="One hundred years of the Brackwater Tramway",
        small_print="From the museum’s film store, 1926–2026",
        family="Source Serif",
        size=7,
        logo=things[EMBLEM],
        logo_size=20,
    )
    _change(project, TITLED, {"surround": panel, "finish": Finish(shadow=Shadow(opacity=55))}, "Panel")
    _change(project, EDITED, {"placement": WHOLE, "shots": SHOTS}, "Shots")
    slow = {"placement": Placement(tightness=Fraction(13, 10)), "motion": Motion(move=Tilt(way="down_up"))}
    _change(project, SLOW, slow, "Move")
    _change(project, FOLLOWED, {"motion": Motion(follow=Follow())}, "Follow")
    for name, surround in EXTENDED.items():
        _change(project, (name, FRAMES[0]), {"surround": surround}, "Extended")
    _change(project, CAPTIONED, {"finish": Finish(captions=Captions(of=things[CAPTIONS], size=3))}, "Captions")


def _change(project: Project, which: tuple[str, Frame], update: dict[str, object], label: str) -> None:
    rows = Framing.objects.filter(footage__project=project, footage__name=which[0])
    framing = next(
        row for row in rows.select_related("footage__project", "frame") if row.frame.value.name == which[1].name
    )
    change(framing, plan_of(framing).design.model_copy(update=update), label)
