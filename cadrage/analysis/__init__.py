"""What is found out about a clip by looking at it: asked for by a request, kept under the request's key."""

from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Subject, no_progress
from cadrage.analysis.store import AnalysisStore

__all__ = ["Analysis", "AnalysisRequest", "AnalysisStore", "Found", "NotFound", "Outcome", "Subject", "no_progress"]
