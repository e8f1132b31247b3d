"""Looking at a clip before it is drawn, as far as nobody has said what it consists of."""

from fractions import Fraction
from pathlib import Path

from platformdirs import user_cache_path

from cadrage.analyses import find, look
from cadrage.analysis import AnalysisStore, Found, NotFound
from cadrage.analysis.detectors.models import missing
from cadrage.analysis.fields import FieldsFound, as_found
from cadrage.cli.progress import progress_bar
from cadrage.cli.telling import note
from cadrage.compose.following import Seen, solved, unsolved
from cadrage.errors import BadRequest
from cadrage.footage import ClipIdentity, Interpretation, MediaInfo
from cadrage.footage.interpretation import fields_of
from cadrage.plan import Plan
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
    """What a clip is taken to be: as said, else its fields as they are found; what cannot be done is told."""
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
