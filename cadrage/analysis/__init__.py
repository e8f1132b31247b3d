"""Detection in clips: requests, and results stored under the request's key."""

from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Subject, no_progress
from cadrage.analysis.store import AnalysisStore

__all__ = ["Analysis", "AnalysisRequest", "AnalysisStore", "Found", "NotFound", "Outcome", "Subject", "no_progress"]
