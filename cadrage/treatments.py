"""Treatments: a placement, a surround and a finish under a name, to use on other clips and projects."""

import json
from fractions import Fraction
from typing import Annotated, Any, Literal

from pydantic import Field

from cadrage.finish import Finish
from cadrage.finish.specification import Edge, Grade, Grain, Shadow, Vignette
from cadrage.geometry import Placement
from cadrage.plan import PARTS, Part, Plan, ReusableStyle
from cadrage.surrounds import AnimatedPattern, Blurred, EdgeExtend, Gradient, Graphic, Loop, Mirrored, Plain
from cadrage.values import VisibleText, named_or_read, read_form


class Treatment(ReusableStyle):
    """One treatment.

    Attributes:
        version: of this form, 2; treatments of version 1 are read as well.
        name: what it is called.
    """

    version: Literal[2] = 2
    name: Annotated[VisibleText, Field(min_length=1, max_length=80)]

    @classmethod
    def of(cls, name: str, plan: Plan) -> "Treatment":
        """What a plan does, under a name."""
        return cls(name=name, **cls.parts_of(plan))

    def differences(self, plan: Plan) -> tuple[Part, ...]:
        """In which parts a plan differs from this treatment; none where it follows it."""
        return tuple(part for part in PARTS if getattr(self, part) != getattr(plan, part))


def read_treatment(given: dict[str, Any]) -> Treatment:
    """Read a treatment that was written as JSON.

    Raises:
        BadRequest: it is of a newer version, or no treatment at all.
    """
    return read_form(Treatment, given, "treatment")


def find_treatment(name: str) -> Treatment:
    """A treatment that comes with Cadrage, by its name, or one from a file, by its path.

    Raises:
        BadRequest: there is neither, or the file holds none that can be read.
    """
    return named_or_read(Treatment, SHIPPED, name, "treatment")


def treatment_schema() -> str:
    """The published form of a treatment as a file: a JSON Schema, as text."""
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **Treatment.model_json_schema()}
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


def _soft(percent: float) -> Edge:
    return Edge(left=percent, right=percent, top=percent, bottom=percent)


SHIPPED = (
    Treatment(name="Soft copy", surround=Blurred(softness=4, brightness=55), finish=Finish(shadow=Shadow(opacity=55))),
    Treatment(
        name="Deep blur, soft edge",
        surround=Blurred(softness=9, brightness=50, saturation=70),
        finish=Finish(edge=_soft(4), vignette=Vignette(amount=30)),
    ),
    Treatment(
        name="Tight over its copy",
        placement=Placement(tightness=Fraction(3, 5)),
        surround=Blurred(softness=5, brightness=60),
    ),
    Treatment(
        name="Quiet gradient",
        surround=Gradient(first="#2c3a40", last="#12171b"),
        finish=Finish(shadow=Shadow(opacity=60, distance=0.5, softness=2)),
    ),
    Treatment(name="Stretched edges", surround=EdgeExtend(softness=6, brightness=75)),
    Treatment(
        name="Mirrored, dim",
        surround=Mirrored(brightness=45, saturation=60),
        finish=Finish(edge=_soft(2), grade=Grade(surround_only=True, contrast=85)),
    ),
    Treatment(
        name="Drifting clouds",
        surround=AnimatedPattern(pattern="clouds", first="#1b262d", second="#4d666c"),
        finish=Finish(shadow=Shadow(opacity=60)),
    ),
    Treatment(name="Itself, slow and soft", surround=Loop(speed=40, softness=6, brightness=45)),
    Treatment(
        name="Title card",
        surround=Graphic(family="Source Serif", size=7, ground=Gradient(first="#26343a", last="#10161a")),
        finish=Finish(shadow=Shadow(opacity=60)),
    ),
    Treatment(
        name="Gallery card",
        surround=Plain(colour="#d8d2c4"),
        finish=Finish(
            shadow=Shadow(opacity=45, distance=1.2, softness=2.2), edge=Edge(corners=1.5), grain=Grain(amount=0.6)
        ),
    ),
)
"""Treatments that come with Cadrage."""
