"""The Plan: one framing, said completely. The contract between page, server, command line and pixels."""

import json
from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import AfterValidator, Field, ValidationError, field_validator, model_validator

from cadrage.errors import BadRequest
from cadrage.finish import Finish
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion import Motion
from cadrage.surrounds import Blurred, Extended, Graphic, Surround
from cadrage.upgrade import upgraded
from cadrage.values import Exact, Value

VERSION: Literal[2] = 2
MOST_SHOTS = 2000
LONGEST_SECONDS = 7 * 24 * 3600


class Range(Value):
    """The part of a clip that is delivered.

    Attributes:
        start: seconds from the clip's first picture.
        end: seconds, not included; None is the clip's end.
    """

    start: Annotated[Exact, Field(ge=0, le=LONGEST_SECONDS)] = Fraction(0)
    end: Annotated[Exact, Field(gt=0, le=LONGEST_SECONDS)] | None = None

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.end is not None and self.end <= self.start:
            raise ValueError("a range ends after it starts")
        return self

    @property
    def whole(self) -> bool:
        """Whether it is all of the clip."""
        return self.start == 0 and self.end is None

    def length(self, duration: Fraction) -> Fraction:
        """How long it is in a clip that lasts so long, in seconds."""
        return max(Fraction(0), (duration if self.end is None else min(self.end, duration)) - self.start)


class Shot(Value):
    """A shot of the clip. None means: same as the whole clip.

    Attributes:
        start: time of its first picture, in seconds of the clip; it lasts to the next one's.
        placement: where the picture sits and how large.
        motion: how that varies.
        surround: the background beside the picture.
        finish: over the join and over everything.
    """

    start: Annotated[Exact, Field(ge=0, le=LONGEST_SECONDS)]
    placement: Placement | None = None
    motion: Motion | None = None
    surround: Surround | None = None
    finish: Finish | None = None

    @property
    def own(self) -> dict[str, Any]:
        """The custom parts, by name."""
        return {part: getattr(self, part) for part in PARTS if getattr(self, part) is not None}


def _in_order(shots: tuple[Shot, ...]) -> tuple[Shot, ...]:
    """See that shots follow one another from the clip's beginning.

    Raises:
        ValueError: they do not.
    """
    if shots and (shots[0].start != 0 or any(later.start <= earlier.start for earlier, later in pairwise(shots))):
        raise ValueError("shots stand in the order of time, the first from the beginning of the clip")
    return shots


Shots = Annotated[tuple[Shot, ...], Field(max_length=MOST_SHOTS), AfterValidator(_in_order)]


class Style(Value):
    """What may be decided about any clip and any frame.

    Attributes:
        placement: where the picture sits and how large.
        motion: how that varies over time.
        surround: the background beside the picture.
        finish: over the join and over everything.
    """

    placement: Placement = Placement()
    motion: Motion = Motion()
    surround: Surround = Blurred()
    finish: Finish = Finish()

    def on(self, plan: "Plan") -> "Plan":
        """A plan with this style; its clip, frame and shots stay, with their custom parts."""
        return plan.model_copy(update={part: getattr(self, part) for part in PARTS})

    def over(self, design: "Design") -> "Design":
        """A design with this style; its shots stay, with their custom parts."""
        return design.model_copy(update={part: getattr(self, part) for part in PARTS})


class ReusableStyle(Style):
    """A style for other clips as well: its moves are over the length of a shot, never keys at moments of one clip."""

    @field_validator("motion")
    @classmethod
    def _no_keys(cls, given: Motion) -> Motion:
        if given != given.reusable:
            raise ValueError("keys, and a way that was found, belong to one clip; other clips are given a move")
        return given

    @classmethod
    def parts_of(cls, style: "Style | Plan") -> dict[str, Any]:
        """What of a style, or of a plan, means something for other clips."""
        parts: dict[str, Any] = {part: getattr(style, part) for part in PARTS}
        surround = style.surround.reusable if isinstance(style.surround, Extended) else style.surround
        return parts | {"motion": style.motion.reusable, "surround": surround}


class Design(Style):
    """What people decide about a framing.

    Attributes:
        shots: of the clip, in the order of time, the first from its beginning; none where it is all one.
    """

    shots: Shots = ()

    def on(self, plan: "Plan") -> "Plan":
        """A plan with this design; its clip and its frame stay."""
        return super().on(plan).model_copy(update={"shots": self.shots})

    def over(self, design: "Design") -> "Design":
        """Itself: it says all there is."""
        del design
        return self


Part = Literal["placement", "motion", "surround", "finish"]
PARTS: tuple[Part, ...] = ("placement", "motion", "surround", "finish")


class Plan(Value):
    """Everything about one framing; the same plan means the same at every size it is drawn.

    Attributes:
        version: of this form, 2; plans of version 1 are read as well.
        source: what the source is called where the plan is kept; a path for the command line.
        interpretation: what the stored samples are taken to mean.
        frame: to deliver.
        placement: where the picture sits and how large.
        motion: how that varies over time.
        surround: the background beside the picture.
        finish: over the join and over everything.
        shots: of the clip, as in `Design`.
        range: the part of the clip that is delivered.
    """

    version: Literal[2] = VERSION
    source: Annotated[str, Field(max_length=4096)] = ""
    interpretation: Interpretation = Interpretation()
    frame: Frame
    placement: Placement = Placement()
    motion: Motion = Motion()
    surround: Surround = Blurred()
    finish: Finish = Finish()
    shots: Shots = ()
    range: Range = Range()

    @model_validator(mode="before")
    @classmethod
    def _of_any_version(cls, given: Any) -> Any:  # noqa: ANN401 - whatever is to be validated
        old = isinstance(given, dict) and given.get("version") == 1
        return upgraded(given) if old else given

    @property
    def design(self) -> Design:
        """What people decided."""
        return Design(**{part: getattr(self, part) for part in (*PARTS, "shots")})

    def of_shot(self, shot: Shot) -> "Plan":
        """The plan of one shot, with its custom parts; it has no shots."""
        return self.model_copy(update={**shot.own, "shots": ()})

    def map_shots(self, change: "Callable[[Plan], dict[str, Any]]") -> "Plan":
        """The same with parts changed: of the whole clip, and of every shot what it has of its own.

        Args:
            change: the parts that a plan without shots is to have instead, by their names.
        """
        shots = []
        for shot in self.shots:
            given = change(self.of_shot(shot))
            shots.append(shot.model_copy(update={name: given[name] for name in shot.own if name in given}))
        return self.model_copy(update={**change(self), "shots": tuple(shots)})

    @property
    def each_shot(self) -> tuple["Plan", ...]:
        """The plans of all shots; only this one if the clip has none."""
        return tuple(self.of_shot(shot) for shot in self.shots) or (self,)

    @property
    def without_text(self) -> "Plan":
        """The same without titles and captions: the picture under them."""
        bare = [_without_text(shot) for shot in self.shots]
        return _without_text(self).model_copy(update={"shots": tuple(bare)})

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """The names of library items that it uses; "" is the clip."""
        parts = (*self.of_each_shot("surround"), *self.of_each_shot("finish"))
        return tuple(dict.fromkeys(ref for part in parts for ref in part.asset_refs))

    def of_each_shot(self, part: Part) -> list[Any]:
        """Return a part of the plan as it is in each shot, one value where it is the plan's own in several shots."""
        own = [getattr(shot, part) for shot in self.shots]
        common = [getattr(self, part)] if None in own or not own else []
        return common + [value for value in own if value is not None]


T = TypeVar("T", Plan, Shot)


def _without_text(value: T) -> T:
    surround, finish = value.surround, value.finish
    return value.model_copy(
        update={
            "surround": surround.ground if isinstance(surround, Graphic) else surround,
            "finish": finish and finish.without_text,
        }
    )


def plan_schema() -> str:
    """The published form of a plan as a file: a JSON Schema, as text."""
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **Plan.model_json_schema()}
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


def read_plan(path: Path) -> Plan:
    """Read a plan that was written as JSON.

    Raises:
        BadRequest: there is no such file, or it holds no plan of this version.
    """
    try:
        return Plan.model_validate_json(path.read_text())
    except (OSError, UnicodeDecodeError) as error:
        raise BadRequest("The plan cannot be read.", remedy="Check its name.", clip=path) from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "the whole"
        raise BadRequest(
            f"This is no plan of version {VERSION}: {place}: {first['msg']}.",
            remedy="Write it again with `cadrage plan`.",
            clip=path,
        ) from error
