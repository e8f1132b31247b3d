"""Many clips into some frames at once: rendered, inspected, and listed on a delivery sheet."""

import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path

from cadrage.compose import Previewer
from cadrage.errors import CadrageError
from cadrage.files import free_stem, write_data
from cadrage.footage import Interpretation, Library, Material, MediaInfo, library_of_files, resolve
from cadrage.formats import Frame
from cadrage.inspection.inspect import inspect_file
from cadrage.inspection.sheet import SheetRow, digest_of, sheet_forms
from cadrage.motion import Motion
from cadrage.output.kinds import OUTPUT_FORMATS
from cadrage.output.names import file_name
from cadrage.output.settings import Settings, check_decided, encoder_config
from cadrage.plan import Plan, Range
from cadrage.render.progress import Progress
from cadrage.render.request import RenderRequest, frame_written, info_to_render
from cadrage.render.segments import finish, help_out
from cadrage.render.workspace import RenderWorkspace
from cadrage.rules import sensible_rule
from cadrage.treatments import Treatment

THUMBNAIL = 400
DESK = ".workspace "
LOOK_SECONDS = 0.2
SHEET = "delivery sheet"


@dataclass(frozen=True, slots=True)
class Delivered:
    """One file: its line of the sheet, and small pictures of it, JPEG."""

    row: SheetRow
    pictures: tuple[bytes, ...]


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
        interpretation: what every clip is taken to be.
        range: the part that is delivered of each.
        motion: how each moves, where that is not as its treatment has it.
        finished: a plan with what only looking at its clip can tell, such as its shots, and the way of a window that
            follows; from the plan, the clip's file and what that is.
        look: what a clip is taken to be once it was looked at, by what is said of it, its file and what that is.
        library: what a plan about a clip may use.
    """

    frames: tuple[Frame, ...]
    settings: Settings
    folder: Path
    treatment: Treatment | None = None
    project: str = "batch"
    interpretation: Interpretation = field(default_factory=Interpretation)
    range: Range = field(default_factory=Range)
    motion: Motion = field(default_factory=Motion)
    finished: Callable[[Plan, Path, MediaInfo], Plan] = lambda plan, _, __: plan
    look: Callable[[Interpretation, Path, MediaInfo], Interpretation] = lambda stated, _, __: stated
    library: Callable[[Plan, Path, MediaInfo], Library] = lambda _, clip, info: library_of_files(Material(clip, info))

    def run(self, clips: list[Path], report: Callable[[str, Progress], None]) -> Iterator[Delivered | Failed]:
        """Every clip into every frame, one after another; one that fails does not stop the others.

        Raises:
            BadRequest: the settings cannot write one of the frames.
        """
        for frame in self.frames:
            encoder_config(self.settings, frame_written(frame, self.settings))
        for clip in clips:
            for frame in self.frames:
                try:
                    yield self._one(clip, frame, report)
                except CadrageError as error:
                    yield Failed(clip.name, frame.name, error)

    def plan(self, clip: Path, info: MediaInfo, frame: Frame) -> Plan:
        """How a clip goes into a frame."""
        taken = self.look(self.interpretation, clip, info)
        plan = Plan(source=str(clip), frame=frame, interpretation=taken, range=self.range)
        if self.treatment is not None:
            styled = self.treatment.on(plan)
        else:
            styled = sensible_rule(resolve(info, taken).picture, frame).on(plan)
        moving = styled if self.motion == Motion() else styled.model_copy(update={"motion": self.motion})
        return self.finished(moving, clip, info)

    def _one(self, clip: Path, frame: Frame, report: Callable[[str, Progress], None]) -> Delivered:
        info = info_to_render(clip, whole=self.range.whole)
        plan = self.plan(clip, info, frame)
        library = self.library(plan, clip, info)
        request = RenderRequest(plan, clip, info, library, self.settings)
        check_decided(self.settings, plan.frame, clip.name)
        target = self.folder / self._name(clip, frame)
        workspace = RenderWorkspace.create_or_resume(self._desk(clip, frame), request)
        finish(workspace, target, report=lambda progress: report(target.name, progress))
        workspace.clear()
        inspection = inspect_file(target, request)
        row = SheetRow.of(target.name, request, target, digest_of(target), datetime.now(UTC), inspection)
        return Delivered(row, Previewer().telling(plan, clip, info, THUMBNAIL, library))

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
        return file_name(self.settings.filename_template, parts, OUTPUT_FORMATS[self.settings.kind].suffix, taken)


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


def _gone(workspace: RenderWorkspace) -> Callable[[], bool]:
    return lambda: not workspace.has_request


def help_in(folder: Path) -> None:
    """Draw parts of whatever is rendered into a folder, until this process is stopped."""
    while True:
        drew = False
        for workspace in map(RenderWorkspace, sorted(folder.glob(f"{DESK}*"))):
            try:
                drew = (workspace.has_request and help_out(workspace, stopped=_gone(workspace))) or drew
            except CadrageError:
                continue  # whoever finishes the render meets the same, and says so
        if not drew:
            time.sleep(LOOK_SECONDS)


def write_sheet(folder: Path, title: str, made: list[Delivered]) -> None:
    """The delivery sheet in its three forms, in the place of older ones."""
    rows = [one.row for one in made]
    stem = free_stem(folder, SHEET, ".html")
    for form, text in sheet_forms(title, rows, [one.pictures for one in made]).items():
        write_data(folder / f"{stem}.{form}", text.encode(errors="replace"), replace=True)
