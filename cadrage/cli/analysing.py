"""Looking at a clip before it is drawn, as far as nobody has said what it consists of."""

from fractions import Fraction
from pathlib import Path

from platformdirs import user_cache_path

from cadrage.analyses import find, look
from cadrage.analysis import AnalysisStore, Found, NotFound, Outcome, Subject
from cadrage.analysis.detectors.models import missing
from cadrage.analysis.fields import FieldsFound, as_found
from cadrage.analysis.sides.analysis import SidesFound
from cadrage.cli.progress import progress_bar
from cadrage.cli.telling import note
from cadrage.compose.extending import extends
from cadrage.compose.following import Seen, solved, unsolved
from cadrage.errors import BadRequest
from cadrage.extend.plate import PlateFound
from cadrage.extend.request import PlateRequest
from cadrage.footage import ClipIdentity, Interpretation, Material, MediaInfo, check_takes_effect, library_of_files
from cadrage.footage.interpretation import fields_of
from cadrage.footage.library import PlateFinder
from cadrage.plan import Plan
from cadrage.plates import finder, make, make_all
from cadrage.values import Value

TALLEST_IN_FIELDS, FASTEST_IN_FIELDS = 1088, Fraction(61, 2)
"""Lines and pictures a second beyond which no format has fields (ITU-R BT.709-6; coded lines are whole blocks)."""
DAYS_KEPT = 90


def found_in(kind: str, source: Path, info: MediaInfo, stated: Interpretation | None = None) -> Value | None:
    """What an analysis finds in a clip; kept in this user's cache folder, so that it is found once. None for nothing.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    outcome = find(kind, _store(), source, _clip(source), info, stated)
    return outcome.result if isinstance(outcome, Found) else None


def seen_for(source: Path, info: MediaInfo, stated: Interpretation) -> Seen:
    """What moves in a clip; kept in the same folder. It may take a while, which a terminal is told.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. BadRequest: there is nothing that moves.
    """
    with progress_bar("Looking at it") as report:
        seen = look(_store(), source, _clip(source), info, stated, report)
    if isinstance(seen, NotFound):
        raise BadRequest(seen.reason, remedy="Use another movement, such as --motion push:4%.", clip=source)
    for model in missing():
        note(f"A model is missing ({model.name}): {model.purpose}.")
    return seen


def with_ways(plan: Plan, source: Path, info: MediaInfo) -> Plan:
    """A plan with a way found wherever it is to follow and has none yet."""
    return solved(plan, info, seen_for(source, info, plan.interpretation)) if unsolved(plan) else plan


def plates_for(plan: Plan, source: Path, info: MediaInfo) -> PlateFinder | None:
    """Finds the plates of a clip in the same folder; None where a plan asks for none."""
    return finder(_store(), _subject(plan, source, info)) if extends(plan) else None


def with_plates(plan: Plan, source: Path, info: MediaInfo) -> Plan:
    """A plan that extends, with the stretch and the camera that its clip's sides advise, and its plates made.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read. BadRequest: a plate cannot be made.
    """
    if not extends(plan):
        return plan
    library = library_of_files(Material(source, info, plan.interpretation))
    with progress_bar("Making what lies beyond it") as report:
        make_all(_store(), _subject(plan, source, info), plan, library, report)
    return plan


def sides_for(source: Path, info: MediaInfo, stated: Interpretation) -> SidesFound | NotFound:
    """Whether the sides of a clip can go on; kept in the same folder.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    with progress_bar("Looking at its sides") as report:
        outcome = find("sides", _store(), source, _clip(source), info, stated, report)
    if isinstance(outcome, NotFound):
        return outcome
    assert isinstance(outcome.result, SidesFound)
    return outcome.result


def plate_made(asked: PlateRequest, plan: Plan, source: Path, info: MediaInfo) -> Outcome[PlateFound]:
    """One plate of a clip, made now where it is not there.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read.
    """
    library = library_of_files(Material(source, info, plan.interpretation))
    return make(_store(), _subject(plan, source, info), asked, library)


def _subject(plan: Plan, source: Path, info: MediaInfo) -> Subject:
    return Subject(source, _clip(source), info, plan.interpretation)


def _store() -> AnalysisStore:
    store = AnalysisStore(user_cache_path("cadrage") / "analyses")
    store.collect((), DAYS_KEPT)
    return store


def _clip(source: Path) -> str:
    return f"{source.resolve()} {ClipIdentity.of(source).fingerprint}"


def looked_at(plan: Plan, source: Path, info: MediaInfo) -> Plan:
    """A plan whose clip is taken as its pictures show, where nobody says more."""
    return plan.model_copy(update={"interpretation": as_seen(plan.interpretation, source, info)})


def as_seen(stated: Interpretation, source: Path, info: MediaInfo) -> Interpretation:
    """Return the interpretation that was typed, completed by the fields that an analysis finds.

    Raises:
        BadRequest: a part of it can have no effect on this clip.
    """
    check_takes_effect(info, stated, source.name)
    found = None
    if stated.fields is None and _may_have_fields(info):
        found = found_in("fields", source, info)
    assert found is None or isinstance(found, FieldsFound)
    taken = as_found(stated, found)
    if taken.deinterlace != "one_per_pair" and fields_of(info, taken) == "progressive":
        asked = taken.deinterlace.replace("_", "-")
        note(f"{source.name}: its pictures are whole, so deinterlace={asked} does nothing.")
    if found is not None and found.film != "no" and taken.deinterlace != "film":
        note(f"{source.name}: {found.summary}; --as deinterlace=film brings its pictures back.")
    return taken


def _may_have_fields(info: MediaInfo) -> bool:
    whole = any(one.kind == "film_by_flags" for one in info.findings)
    small = info.height <= TALLEST_IN_FIELDS and info.rate <= FASTEST_IN_FIELDS
    return info.kind == "clip" and small and not whole
