"""The board: projects, their frames and all their cells."""

from datetime import datetime
from functools import lru_cache
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from cadrage.compose import measure
from cadrage.compose.concerns import Concern, concerns, doubts_of
from cadrage.compose.following import follows, unsolved
from cadrage.compose.over_time import movement_summary, over_time
from cadrage.compose.summary import NOTHING_TO_FILL
from cadrage.errors import BadRequest
from cadrage.formats import Delivery, Frame, Guide
from cadrage.formats.active_measures import ActiveMeasures, Bars, Measured, active_measures
from cadrage.formats.aspect_names import aspect_name
from cadrage.geometry import Placement
from cadrage.motion.follow import Follow
from cadrage.motion.moves import Move
from cadrage.output import DEFAULT, Settings
from cadrage.render.offers import BarsChoice, bars_choice, settings_summary
from cadrage.treatments import Part, Treatment
from cadrage.values import Exact, VisibleText
from server.studio.actions.frames import Loss
from server.studio.actions.materials import Shelf, key_of
from server.studio.actions.rules import RuleBook
from server.studio.api.schemas.footage import FootageOut
from server.studio.models import Framing, ProjectFrame


class ProjectIn(Schema):
    """A new name for a project."""

    name: VisibleText = Field(min_length=1, max_length=120)


class Changes(Schema):
    """Short texts that change when a project's clips do, and when its renders do."""

    clips: str
    renders: str


class ProjectChange(Schema):
    """Changes of a project; None changes nothing."""

    name: VisibleText | None = Field(None, min_length=1, max_length=120)
    put_away: bool | None = None


class ProjectLine(Schema):
    """A project in a list. `framings` are examples for its pictures, `delivers` the names of its frames, `rendering` is
    the number of running and queued renders.

    `role` is the visitor's role, `shared` the number of other members; `membership` is the visitor's own membership in
    a project of another person.
    """

    owner: str
    role: Literal["own", "work", "see"]
    shared: int
    membership: int | None
    id: int
    name: str
    clips: int
    frames: int
    put_away: bool
    created: datetime
    framings: list[int]
    delivers: list[str]
    rendering: int


class FrameIn(Schema):
    """A frame, with its delivery limits and its file settings."""

    frame: Frame
    delivery: Delivery = Delivery()
    settings: Settings = DEFAULT


class ActiveIn(Schema):
    """An active picture of a frame, by its aspect, by the pixels of height or width that stay, or by percent a side."""

    frame: Frame
    by: Measured
    value: Exact
    bars: Bars = "above_below"


class FrameOut(Schema):
    """A frame of a project."""

    id: int
    frame: Frame
    delivery: Delivery
    settings: Settings
    file: str
    bars: BarsChoice | None
    active: ActiveMeasures
    shape: str

    @classmethod
    def of(cls, row: ProjectFrame) -> "FrameOut":
        """From its row."""
        frame = row.value
        return cls(
            id=row.pk,
            frame=frame,
            delivery=row.delivery,
            settings=row.settings,
            file=settings_summary(frame, row.settings),
            bars=bars_choice(frame, row.settings),
            active=active_measures(frame),
            shape=aspect_name(frame.raster.display_aspect),
        )


class LossOut(Schema):
    """A framing that keeps less of its picture than before, in percent."""

    framing: int
    clip: str
    before: Exact
    after: Exact


class FrameChanged(FrameOut):
    """A frame that was changed, and the framings that keep less since."""

    losses: list[LossOut]

    @classmethod
    def after(cls, row: ProjectFrame, losses: list[Loss]) -> "FrameChanged":
        """From its row and the framings that lose picture."""
        told = [
            LossOut(framing=one.framing.pk, clip=one.framing.footage.name, before=one.before, after=one.after)
            for one in losses
        ]
        return cls(**dict(FrameOut.of(row)), losses=told)


class OrderIn(Schema):
    """The order of a project's frames, clips, or both; None changes nothing."""

    frames: list[int] | None = Field(None, max_length=100)
    footage: list[int] | None = Field(None, max_length=20_000)


class GuidesOut(Schema):
    """Every guide that a frame has."""

    guides: list[Guide]


MEASURES_KEPT = 4096
measured = lru_cache(MEASURES_KEPT)(measure)
measured_over_time = lru_cache(MEASURES_KEPT)(over_time)
"""The numbers of a plan; the same plan has the same."""


class CellOut(Schema):
    """A framing as the board shows it: how it moves, and the least that it keeps. `stamp` changes with whatever its
    thumbnail depends on; `unsolved` says that its window is to follow and its way is still to be found; `sure` is how
    sure a window that follows is at its worst, percent.
    """

    id: int
    version: int
    footage: int
    frame: int
    stamp: str
    obeys: bool
    rule_set: bool
    placement: str
    surround: str
    movement: str
    kept_percent: Exact
    loses: bool
    concerns: list[Concern]
    unsolved: bool
    sure: int | None

    @classmethod
    def of(cls, row: Framing, book: RuleBook, shelf: Shelf) -> "CellOut":
        """From its row, with its project's rules and what its owner has to use."""
        plan, info = book.plan(row, row.own), row.footage.info
        numbers, over = measured(plan, info), measured_over_time(plan, info)
        return cls(
            id=row.pk,
            version=row.version,
            footage=row.footage_id,
            frame=row.frame_id,
            stamp=key_of(plan, row.footage, shelf),
            obeys=row.own is None,
            rule_set=(row.footage.format_key, row.frame_id) in book.framings,
            placement=numbers.summary.placement,
            surround="" if numbers.summary.surround == NOTHING_TO_FILL else numbers.summary.surround,
            movement="" if over is None and not follows(plan) else movement_summary(plan),
            kept_percent=numbers.cost.kept_percent if over is None else over.kept_least.value,
            loses=numbers.summary.loses,
            concerns=concerns(plan, info, numbers, over, row.footage.bars, row.frame.delivery, shelf.missing(plan)),
            unsolved=unsolved(plan),
            sure=min((doubt.sure for doubt in doubts_of(plan)), default=None),
        )


class Gone(Schema):
    """A clip, a frame or a material that was removed and can still be brought back."""

    id: int
    name: str


class Board(Schema):
    """A project with all its cells, or with those of its first clips; `clips` says how many it has in all.

    `role` is what the visitor is in it; `downloads` says whether they may take files along.
    """

    id: int
    name: str
    owner: str
    role: Literal["own", "work", "see"]
    downloads: bool
    clips: int
    footage: list[FootageOut]
    frames: list[FrameOut]
    cells: list[CellOut]
    gone: list[Gone]
    gone_frames: list[Gone]
    gone_materials: list[Gone]


class PasteCells(Schema):
    """Give cells the placement, the surround or both of another."""

    do: Literal["paste"]
    source: int
    parts: list[Part]


class PlaceCells(Schema):
    """Give cells a placement."""

    do: Literal["place"]
    placement: Placement


class MoveCells(Schema):
    """Set the offset of cells."""

    do: Literal["move"]
    offset_x: Exact
    offset_y: Exact


class MotionCells(Schema):
    """Give cells a move, or let their windows follow, or take all movement away, also that of their shots; keys belong
    to one clip.
    """

    do: Literal["motion"]
    move: Move | None = None
    follow: Follow | None = None


class TreatCells(Schema):
    """Give cells a treatment; with `saved`, the one of the visitor's that they follow from then on."""

    do: Literal["treat"]
    treatment: Treatment
    saved: int | None = None


class EachCell(Schema):
    """Bring cells back to their rules, or make each the rule for its format and frame."""

    do: Literal["obey", "rule"]


CellAction = Annotated[
    PasteCells | PlaceCells | MoveCells | MotionCells | TreatCells | EachCell, Field(discriminator="do")
]


class CellsIn(Schema):
    """Something to do with many cells. `versions`, where given, are those of the framings that the visitor saw.

    In the history it has the label; requests with the same `batch`, one after another, are one change there.
    """

    framings: list[int] = Field(max_length=5000)
    versions: list[int] | None = Field(None, max_length=5000)
    action: CellAction
    label: str = Field("", max_length=80)
    batch: str = Field("", max_length=40)

    @property
    def seen(self) -> dict[int, int]:
        """The versions that the visitor saw, by the framings' ids.

        Raises:
            BadRequest: there are not as many of them as of framings.
        """
        if self.versions is not None and len(self.versions) != len(self.framings):
            raise BadRequest("There is not one version for each framing.", remedy="Load the page again.")
        return dict(zip(self.framings, self.versions or (), strict=False))
