"""Many clips into some frames at once: rendered, inspected, and listed on a delivery sheet."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from cadrage.compose import Previewer
from cadrage.errors import CadrageError
from cadrage.footage import Facts, Interpretation, Material, library_of_files, probe, read_as
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.render.inspection import Order, inspect_file
from cadrage.render.job import Progress, frame_written, render
from cadrage.render.kinds import KINDS
from cadrage.render.names import file_name
from cadrage.render.settings import Settings, writing_of
from cadrage.render.sheet import SheetRow, digest_of, sheet_csv, sheet_html, sheet_json
from cadrage.rules import sensible_rule
from cadrage.treatments import Treatment

THUMBNAIL = 400
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
        facts = probe(clip)
        plan = self.plan(clip, facts, frame)
        library = library_of_files(Material(clip, facts))
        order = Order(plan, clip, facts, library, self.settings)
        target = self.folder / self._name(clip, frame)
        render(
            plan,
            clip,
            target,
            facts,
            settings=self.settings,
            library=library,
            report=lambda progress: report(target.name, progress),
        )
        inspection = inspect_file(target, order)
        row = SheetRow.of(target.name, order, target, digest_of(target), datetime.now(UTC), inspection)
        picture = Previewer().middle(plan, clip, facts, THUMBNAIL, library)
        return Delivered(row, picture)

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


def write_sheet(folder: Path, title: str, made: list[Delivered]) -> None:
    """The delivery sheet in its three forms, in the place of older ones."""
    rows = [one.row for one in made]
    pages = {
        "html": sheet_html(title, rows, [one.picture for one in made]),
        "csv": sheet_csv(rows),
        "json": sheet_json(title, rows),
    }
    for form, text in pages.items():
        (folder / f"{SHEET}.{form}").write_text(text)
