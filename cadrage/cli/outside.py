"""Stills that leave to be finished elsewhere, and come back."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from cadrage.cli.app import library_for
from cadrage.cli.extended import extended_as_advised
from cadrage.compose.outside_still import still_out, take_back
from cadrage.errors import BadRequest
from cadrage.files import write_data
from cadrage.footage import MediaInfo
from cadrage.plan import Plan
from cadrage.surrounds import Extended


@dataclass(frozen=True, slots=True)
class Still:
    """What is to be done with stills.

    Attributes:
        out: the still to write.
        back: a picture that was finished elsewhere.
        picture: where that is kept as it is used.
        plan: where the plan is written that uses it.
        replace: whether files are replaced.
    """

    out: Path | None
    back: Path | None
    picture: Path | None
    plan: Path | None
    replace: bool


def finish_elsewhere(plan: Plan, source: Path, info: MediaInfo, time: Fraction, still: Still) -> dict[str, str]:
    """Write a still, or take one back; what was done, by its name.

    Raises:
        BadRequest: it is no such picture, or nobody said where it is to be kept.
    """
    done: dict[str, str] = {}
    library = library_for(plan, source, info)
    if still.out is not None:
        write_data(still.out, still_out(plan, source, info, time, library), sources=[source], replace=still.replace)
        done["still"] = str(still.out)
    if still.back is None:
        return done
    if still.picture is None or still.plan is None:
        raise BadRequest(
            "Nobody said where the picture and the plan are to be kept.",
            remedy="Name a PNG with --picture and a JSON file with --out.",
        )
    try:
        taken = take_back(plan, source, info, time, still.back.read_bytes(), library)
    except OSError as error:
        raise BadRequest("The picture cannot be read.", remedy="Check its name.", clip=still.back) from error
    write_data(still.picture, taken.png, sources=[source, still.back], replace=still.replace)
    outside = taken.place.model_copy(update={"of": str(still.picture.resolve())})
    assert isinstance(plan.surround, Extended)
    made = plan.model_copy(update={"surround": plan.surround.model_copy(update={"outside": outside})})
    made = extended_as_advised(made, source, info, None)
    write_data(still.plan, made.model_dump_json(indent=2).encode(), sources=[source], replace=still.replace)
    return done | {"taken back": taken.about.summary, "picture": str(still.picture), "plan": str(still.plan)}
