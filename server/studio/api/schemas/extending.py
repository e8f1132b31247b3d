"""Scenes that go on beyond the picture."""

from ninja import Schema
from pydantic import Field

from cadrage.analysis.sides.verdict import ShotSides
from cadrage.compose.extension_shares import FrameShares
from cadrage.extend.request import Side
from cadrage.plan import Design
from cadrage.values import Exact
from server.studio.api.schemas.footage import AnalysisOut
from server.studio.api.schemas.framing import MomentIn
from server.studio.models import Generation, Plate


class PlateOut(Schema):
    """A plate that is being made, or was; `draft` says that it is a small one to choose by."""

    id: int
    state: Plate.State
    done_percent: int
    draft: bool
    problem: str
    remedy: str
    summary: str

    @classmethod
    def of(cls, row: Plate) -> "PlateOut":
        """From its row."""
        found = row.found if row.state == Plate.State.DONE else None
        return cls(
            id=row.pk,
            state=row.state,
            done_percent=min(100, row.done),
            draft=row.asked_json.get("shrink", 1) > 1,
            problem=row.problem,
            remedy=row.remedy,
            summary="" if found is None else found.summary,
        )


class GenerationOut(Schema):
    """Pictures that an outside generator was asked for, and those that came."""

    class Made(Schema):
        """One picture: the material it is, and what had to be done to it."""

        material: str
        about: str

    id: int
    state: Generation.State
    done_percent: int
    prompt: str
    problem: str
    remedy: str
    variants: list[Made]

    @classmethod
    def of(cls, row: Generation) -> "GenerationOut":
        """From its row."""
        return cls(
            id=row.pk,
            state=row.state,
            done_percent=min(100, row.done),
            prompt=row.prompt,
            problem=row.problem,
            remedy=row.remedy,
            variants=row.variants_json,
        )


class ExtensionOut(Schema):
    """How a framing stands that extends its scene, in the shot of a time.

    `looking` is the job of looking at its sides and `verdict` what came of it, of the shot; `shot_number` is of that
    shot among all that the clip has. `plates` are those that the design needs in this shot; `stamp` is another whenever
    what is seen changes with them. `shares` is what the frame consists of at the time. `short` are sides whose plate
    ends within the frame.
    """

    looking: AnalysisOut | None
    verdict: ShotSides | None
    plates: list[PlateOut]
    stamp: str
    shares: FrameShares | None
    short: list[Side]
    generator: bool
    generations: list[GenerationOut]


class StandingIn(MomentIn):
    """A design that extends, at a time; with `drafts`, a draft of its plate will do."""

    drafts: bool = False


class VariantsIn(MomentIn):
    """Ways in which a side is to go on: so many, from a number on."""

    side: Side
    first: int = Field(0, ge=0, le=990)
    count: int = Field(4, ge=1, le=8)


class VariantOut(Schema):
    """One way, and the draft of it."""

    variant: int
    plate: PlateOut


class VariantPictureIn(MomentIn):
    """The frame as one way of a side makes it."""

    side: Side
    variant: int = Field(ge=0, le=999)
    width: int = Field(320, ge=16, le=1920)


class OriginsIn(MomentIn):
    """Where the pixels of a frame come from."""

    width: int = Field(640, ge=16, le=1920)


class GenerateIn(MomentIn):
    """What an outside generator is asked for."""

    prompt: str = Field("", max_length=2000)
    count: int = Field(2, ge=1, le=8)


class UseIn(MomentIn):
    """A picture that came of a generator, to be used."""

    material: str = Field(max_length=40)


class TakenOut(Schema):
    """A design with a picture that was finished elsewhere, and what had to be done to it."""

    design: Design
    about: str


class ToFitIn(MomentIn):
    """A stretch that fits, at whose ends the clip is to be cut."""

    start: Exact
    end: Exact
