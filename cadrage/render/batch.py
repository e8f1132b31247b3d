"""Many clips into some frames at once: rendered, inspected, and listed on a delivery sheet."""

import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from cadrage.compose import Previewer
from cadrage.errors import CadrageError
from cadrage.files import free_stem, write_data
from cadrage.footage import Facts, Interpretation, Material, library_of_files, read_as
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.render.desk import Desk
from cadrage.render.inspection import inspect_file
from cadrage.render.kinds import KINDS
from cadrage.render.names import file_name
from cadrage.render.order import Order, facts_to_render, frame_written
from cadrage.render.progress import Progress
from cadrage.render.segments import finish, help_out
from cadrage.render.settings import Settings, check_decided, writing_of
from cadrage.render.sheet import SheetRow, digest_of, sheet_forms
from cadrage.rules import sensible_rule
from cadrage.treatments import Treatment

THUMBNAIL = 400
DESK = ".desk "
LOOK_SECONDS = 0.2
SHEET = "delivery sheet"


@dataclass(frozen=True, slots=True)
class Delivered:
    """One file: its line of the sheet, and a small picture of it, JPEG."""

    row: SheetRow
    picture: bytes


@dataclass(frozen=True, slots=True)
class Failed:
    """A file that could not be made, and why."""

    clip: str
    frame: str
    error: CadrageError


@dataclass(frozen=True, slots=True)
class Batch:
    """What is to be done with every clip.

    Attributes:
        frames: that each goes into.
        settings: how files are written.
        folder: where to.
        treatment: what each is given; without one, what is done before anyone asks.
        project: what the whole is called.
    """

    frames: tuple[Frame, ...]
    settings: Settings
    folder: Path
    treatment: Treatment | None = None
    project: str = "batch"

    def run(self, clips: list[Path], report: Callable[[str, Progress], None]) -> Iterator[Delivered | Failed]:
        """Every clip into every frame, one after another; one that fails does not stop the others.

        Raises:
            BadRequest: the settings cannot write one of the frames.
        """
        for frame in self.frames:
            writing_of(self.settings, frame_written(frame, self.settings))
        for clip in clips:
            for frame in self.frames:
                try:
                    yield self._one(clip, frame, report)
                except CadrageError as error:
                    yield Failed(clip.name, frame.name, error)

    def plan(self, clip: Path, facts: Facts, frame: Frame) -> Plan:
        """How a clip goes into a frame."""
        plan = Plan(source=str(clip), frame=frame)
        if self.treatment is not None:
            return self.treatment.on(plan)
        rule = sensible_rule(read_as(facts, Interpretation()).picture, frame)
        return plan.model_copy(update={"placement": rule.placement, "surround": rule.surround})

    def _one(self, clip: Path, frame: Frame, report: Callable[[str, Progress], None]) -> Delivered:
        facts = facts_to_render(clip)
        plan = self.plan(clip, facts, frame)
        library = library_of_files(Material(clip, facts))
        order = Order(plan, clip, facts, library, self.settings)
        check_decided(self.settings, plan.frame, clip.name)
        target = self.folder / self._name(clip, frame)
        desk = Desk.laid_out(self._desk(clip, frame), order)
        finish(desk, target, report=lambda progress: report(target.name, progress))
        desk.clear()
        inspection = inspect_file(target, order)
        row = SheetRow.of(target.name, order, target, digest_of(target), datetime.now(UTC), inspection)
        picture = Previewer().middle(plan, clip, facts, THUMBNAIL, library)
        return Delivered(row, picture)

    def _desk(self, clip: Path, frame: Frame) -> Path:
        """Where its parts are drawn: the same place when the same is asked again."""
        return self.folder / f"{DESK}{clip.name} {frame.width}x{frame.height}"

    def _name(self, clip: Path, frame: Frame) -> str:
        """A name that no file in the folder has."""
        parts = {
            "project": self.project,
            "clip": clip.stem,
            "frame": frame.name or f"{frame.width}x{frame.height}",
            "width": str(frame.width),
            "height": str(frame.height),
            "settings": self.settings.name,
        }
        taken = {path.name for path in self.folder.iterdir()}
        return file_name(self.settings.names, parts, KINDS[self.settings.kind].suffix, taken)


@contextmanager
def helpers(folder: Path, count: int) -> Iterator[None]:
    """Some processes that draw parts of whatever is rendered into a folder."""
    command = [sys.executable, "-m", "cadrage", "parts", str(folder)]
    started = [subprocess.Popen(command, stdin=subprocess.DEVNULL) for _ in range(count)]  # noqa: S603 - our own
    try:
        yield
    finally:
        for process in started:
            process.terminate()
        for process in started:
            process.wait()


def help_in(folder: Path) -> None:
    """Draw parts of whatever is rendered into a folder, until this process is stopped."""
    while True:
        drew = False
        for desk in map(Desk, sorted(folder.glob(f"{DESK}*"))):
            try:
                drew = (desk.there and help_out(desk, stopped=lambda desk=desk: not desk.there)) or drew  # type: ignore[misc]
            except CadrageError:
                continue  # whoever finishes the render meets the same, and says so
        if not drew:
            time.sleep(LOOK_SECONDS)


def write_sheet(folder: Path, title: str, made: list[Delivered]) -> None:
    """The delivery sheet in its three forms, in the place of older ones."""
    rows = [one.row for one in made]
    stem = free_stem(folder, SHEET, ".html")
    for form, text in sheet_forms(title, rows, [one.picture for one in made]).items():
        write_data(folder / f"{stem}.{form}", text.encode(errors="replace"), replace=True)
