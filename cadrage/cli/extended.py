"""Plans that extend a scene, once their clip is known."""

from fractions import Fraction
from pathlib import Path

from cadrage.analysis import NotFound
from cadrage.cli.analysing import sides_for, with_plates
from cadrage.cli.telling import note
from cadrage.compose.advice import advised, shot_of
from cadrage.compose.extending import extends
from cadrage.footage import MediaInfo
from cadrage.plan import Plan
from cadrage.surrounds import Extended

SAID = ("camera", "start", "end")
"""What nobody has to be advised about who said it."""


def extended_as_advised(plan: Plan, source: Path, info: MediaInfo, typed: str | None) -> Plan:
    """A plan whose scene is extended from the pictures that are best for it, as far as nobody said which; with its
    plates made. A side that does not fit is told, and extended all the same: somebody asked for it.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read. BadRequest: a plate cannot be made.
    """
    if not extends(plan):
        return plan
    said = any(f"{name}=" in (typed or "") for name in SAID)
    return with_plates(plan if said else as_advised(plan, source, info), source, info)


def as_advised(plan: Plan, source: Path, info: MediaInfo) -> Plan:
    """A plan whose surround is extended as the verdict on its clip's sides advises; what does not fit is told."""
    found = sides_for(source, info, plan.interpretation)
    surround = plan.surround
    if isinstance(found, NotFound) or not isinstance(surround, Extended):
        return plan
    time = plan.range.start
    shot = shot_of(found, time)
    for side in surround.sides:
        verdict = shot.sides[side]
        if verdict.verdict != "fits":
            note(f"{source.name}, {side}: {verdict.verdict}: {verdict.summary}.")
    return plan.model_copy(update={"surround": advised(surround, found, Fraction(time))})
