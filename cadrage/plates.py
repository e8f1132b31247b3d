"""Making the plates that plans ask for, and finding those that were made."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from cadrage.analysis import AnalysisStore, Found, NotFound, Outcome, Subject, no_progress
from cadrage.analysis.base import Report
from cadrage.analysis.plates import PlateAnalysis
from cadrage.compose.extending import plates_asked, with_files
from cadrage.errors import BadRequest
from cadrage.extend.plate import PlateFound
from cadrage.extend.request import PlateRequest
from cadrage.footage import Library
from cadrage.plan import Plan


def finder(store: AnalysisStore, subject: Subject) -> Callable[[str], Path | None]:
    """Finds plates of a clip, for a library."""

    def find(asked: str) -> Path | None:
        analysis = PlateAnalysis(PlateRequest.model_validate_json(asked), store)
        key = analysis.request(subject).key
        outcome = store.get(analysis, key)
        return store.folder(key) if isinstance(outcome, Found) else None

    return find


def make(
    store: AnalysisStore, subject: Subject, asked: PlateRequest, library: Library, report: Report = no_progress
) -> Outcome[PlateFound]:
    """A plate, made now where it is not there yet.

    Raises:
        MissingSource, UnreadableFile: the clip cannot be read. Cancelled: `report` said so.
    """
    return store.find(PlateAnalysis(with_files(asked, library), store, library), subject, report)


def make_all(
    store: AnalysisStore, subject: Subject, plan: Plan, library: Library, report: Report = no_progress
) -> None:
    """Every plate that a plan asks for.

    Raises:
        BadRequest: one cannot be made.
    """
    asked = plates_asked(plan, subject.info)
    for number, one in enumerate(asked):
        part = _part(report, number, len(asked))
        outcome = make(store, replace(subject, stated=plan.interpretation), one.asked, library, part)
        if isinstance(outcome, NotFound):
            raise BadRequest(outcome.reason, remedy="Choose another stretch, or another surround.", clip=subject.path)


def _part(report: Report, number: int, count: int) -> Report:
    return lambda part: report((number + part) / count)
