"""The Plan: one framing, said completely. The contract between page, server, command line and pixels."""

import json
from fractions import Fraction
from pathlib import Path
from typing import Annotated, Any, Literal, Self

from pydantic import Field, ValidationError, model_validator

from cadrage.errors import BadRequest
from cadrage.finish import Finish
from cadrage.footage import Interpretation
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.surrounds import Blurred, Graphic, Surround
from cadrage.upgrade import upgraded
from cadrage.values import Exact, Value

VERSION: Literal[2] = 2
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


class Design(Value):
    """What people decide about a framing, whatever its clip and its frame are.

    Attributes:
        placement: where the picture sits and how large.
        surround: what is seen where the picture is not.
        finish: what is laid over the join and over all.
    """

    placement: Placement = Placement()
    surround: Surround = Blurred()
    finish: Finish = Finish()

    def on(self, plan: "Plan") -> "Plan":
        """A plan with this design; its clip and its frame stay."""
        return plan.model_copy(update={part: getattr(self, part) for part in PARTS})


Part = Literal["placement", "surround", "finish"]
PARTS: tuple[Part, ...] = ("placement", "surround", "finish")


class Plan(Value):
    """Everything about one framing; the same plan means the same at every size it is drawn.

    Attributes:
        version: of this form, 2; plans of version 1 are read as well.
        source: what the source is called where the plan is kept; a path for the command line.
        interpretation: what the stored samples are taken to mean.
        frame: what is delivered.
        placement: where the picture sits and how large.
        surround: what is seen where the picture is not.
        finish: what is laid over the join and over all.
        range: the part of the clip that is delivered.
    """

    version: Literal[2] = VERSION
    source: Annotated[str, Field(max_length=4096)] = ""
    interpretation: Interpretation = Interpretation()
    frame: Frame
    placement: Placement = Placement()
    surround: Surround = Blurred()
    finish: Finish = Finish()
    range: Range = Range()

    @model_validator(mode="before")
    @classmethod
    def _of_any_version(cls, given: Any) -> Any:  # noqa: ANN401 - whatever is to be validated
        old = isinstance(given, dict) and given.get("version") == 1
        return upgraded(given) if old else given

    @property
    def design(self) -> Design:
        """What people decided."""
        return Design(placement=self.placement, surround=self.surround, finish=self.finish)

    @property
    def without_text(self) -> "Plan":
        """The same without words: what they stand on."""
        surround = self.surround.ground if isinstance(self.surround, Graphic) else self.surround
        return self.model_copy(update={"surround": surround, "finish": self.finish.without_text})

    @property
    def asset_refs(self) -> tuple[str, ...]:
        """What it uses of a library; "" where that is its own clip."""
        return (*self.surround.asset_refs, *self.finish.asset_refs)


def plan_schema() -> str:
    """The published form of a plan as a file: a JSON Schema, as text."""
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **Plan.model_json_schema()}
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


def read_plan(path: Path) -> Plan:
    """Read a plan that was written as JSON.

    Raises:
        BadRequest: there is no such file, or what it holds is no plan of this version.
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
            remedy="Write it anew with `cadrage plan`.",
            clip=path,
        ) from error
