"""Analyses: what is being found out about clips."""

from collections.abc import Callable
from typing import Literal

from django.http import HttpRequest
from ninja import Router

from server.studio.actions import analyses as actions
from server.studio.actions import jobs
from server.studio.api import owned
from server.studio.api.schemas import AnalysisOut
from server.studio.models import Analysis

router = Router(tags=["analyses"])
Verb = Literal["retry", "cancel", "pause", "resume"]
VERBS: dict[Verb, Callable[[Analysis], Analysis]] = {
    "retry": actions.retry,
    "cancel": jobs.cancel,
    "pause": jobs.pause,
    "resume": jobs.resume,
}


@router.post("/analyses/{analysis_id}/{verb}", response=AnalysisOut)
def do(request: HttpRequest, analysis_id: int, verb: Verb) -> AnalysisOut:
    """Try an analysis again, stop it, lay it aside, or let it go on."""
    return AnalysisOut.of(VERBS[verb](owned.analysis(request, analysis_id)))
