"""Where outcomes of analyses lie: a folder for each, named by the request's key, with a manifest in it.

A folder appears only once it is whole. Nothing in it changes after that, so outcomes are read once for a process.
"""

import threading
import time
from collections.abc import Collection
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from cachetools import LRUCache
from pydantic import ValidationError

from cadrage import files
from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.values import Value

MANIFEST = "manifest.json"
HELD = 10_000
DAY = 24 * 3600
LOOK_SECONDS = 0.5
WORK, BUSY = ".work-", ".busy-"
"""What the names begin with of a folder that is being filled, and of the file that whoever fills it holds locked."""


class Manifest(Value):
    """The manifest of a folder.

    Attributes:
        request: its parameters.
        made: when, in UTC.
        found: the result; None where there is none.
        reason: why there is none.
    """

    request: AnalysisRequest
    made: datetime
    found: dict[str, Any] | None = None
    reason: str = ""


class AnalysisStore:
    """Outcomes in a folder that several machines may share; safe to share between threads.

    Args:
        root: the folder; it is made when something is first kept.
    """

    def __init__(self, root: Path) -> None:
        self.root = root
        self._held: LRUCache[str, Outcome[Any]] = LRUCache(HELD)
        self._lock = threading.Lock()

    def folder(self, key: str) -> Path:
        """Where the outcome of a request lies."""
        return self.root / key

    def get(self, analysis: Analysis[Any], key: str) -> Outcome[Any] | None:
        """The outcome of a request; None where it is not there, or was kept in a form that is not known any more."""
        with self._lock:
            if (held := self._held.get(key)) is not None:
                return held
        try:
            manifest = Manifest.model_validate_json((self.folder(key) / MANIFEST).read_text())
            outcome = _outcome(analysis, manifest)
        except (OSError, ValidationError):
            return None
        with self._lock:
            self._held[key] = outcome
        return outcome

    def find(self, analysis: Analysis[Any], subject: Subject, report: Report = no_progress) -> Outcome[Any]:
        """The outcome for a clip, found now where it is not there yet.

        Raises:
            see `Analysis.find`; nothing is kept then.
        """
        request = analysis.request(subject)
        held = self.get(analysis, request.key)
        if held is not None:
            return held
        if analysis.keeps_files:
            return self._find_with_files(analysis, subject, request, report)
        return self.keep(request, analysis.find(subject, report))

    def _find_with_files(
        self, analysis: Analysis[Any], subject: Subject, request: AnalysisRequest, report: Report
    ) -> Outcome[Any]:
        """Find an outcome in a folder of work that becomes its own; who comes second waits for who came first."""
        files.make_folder(self.root)
        work = self.root / f"{WORK}{request.key}"
        while True:
            with files.locked(self.root / f"{BUSY}{request.key}") as mine:
                if (held := self.get(analysis, request.key)) is not None:
                    return held
                if mine:
                    files.work_in(work)
                    outcome = analysis.find(replace(subject, workspace=work), report)
                    files.overwrite(work / MANIFEST, _manifest(request, outcome).model_dump_json(indent=1))
                    files.finish_folder(work, self.folder(request.key))
                    return self._hold(request.key, outcome)
            report(0.0)
            time.sleep(LOOK_SECONDS)

    def keep(self, request: AnalysisRequest, outcome: Outcome[Any]) -> Outcome[Any]:
        """Keep an outcome that was found elsewhere; one that is there already stays."""
        texts = {MANIFEST: _manifest(request, outcome).model_dump_json(indent=1)}
        files.keep_folder(self.folder(request.key), texts)
        return self._hold(request.key, outcome)

    def _hold(self, key: str, outcome: Outcome[Any]) -> Outcome[Any]:
        with self._lock:
            self._held[key] = outcome
        return outcome

    def kept_pieces(self, key: str) -> int:
        """How many files of an outcome that is still being found were kept so far."""
        work = self.root / f"{WORK}{key}"
        return sum(1 for _ in work.iterdir()) if work.is_dir() else 0

    def collect(self, used: Collection[str], days: float) -> int:
        """Delete unused results that are older than some days; return how many."""
        gone = [path for path in (self.root.iterdir() if self.root.is_dir() else ()) if _is_old(path, used, days)]
        for path in gone:
            with self._lock:
                self._held.pop(path.name, None)
            files.remove(path) if path.name.startswith(BUSY) else files.remove_folder(path)
        return sum(not path.name.startswith(BUSY) for path in gone)


def _is_old(path: Path, used: Collection[str], days: float) -> bool:
    key = path.name.removeprefix(WORK).removeprefix(BUSY)
    ours = path.is_dir() or path.name.startswith(BUSY)
    return ours and key not in used and time.time() - path.stat().st_mtime > days * DAY


def _manifest(request: AnalysisRequest, outcome: Outcome[Any]) -> Manifest:
    made = datetime.now(UTC)
    if isinstance(outcome, NotFound):
        return Manifest(request=request, made=made, reason=outcome.reason)
    return Manifest(request=request, made=made, found=outcome.result.model_dump(mode="json"))


def _outcome(analysis: Analysis[Any], manifest: Manifest) -> Outcome[Any]:
    if manifest.found is None:
        return NotFound(reason=manifest.reason)
    return Found(result=analysis.result.model_validate(manifest.found))
