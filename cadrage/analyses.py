"""Every kind of analysis, in the order in which a clip is looked at; a new one is a file and a line here."""

from dataclasses import replace
from pathlib import Path
from typing import Any

from cadrage.analysis import Analysis, AnalysisStore, Found, NotFound, Outcome, Subject, no_progress
from cadrage.analysis.base import Report
from cadrage.analysis.burned_in_bars import BarsAnalysis
from cadrage.analysis.closed_captions import ClosedCaptionsAnalysis
from cadrage.analysis.fields import FieldsAnalysis
from cadrage.analysis.following.analysis import FollowingAnalysis
from cadrage.analysis.pictures import PicturesAnalysis
from cadrage.analysis.shots import ShotsAnalysis
from cadrage.analysis.sides.analysis import SidesAnalysis
from cadrage.analysis.sound_levels import SoundLevelsAnalysis
from cadrage.compose.following import Seen
from cadrage.compose.quiet_copy import QuietCopyAnalysis
from cadrage.compose.seen import seen_in
from cadrage.footage import Interpretation, MediaInfo

ANALYSES: dict[str, Analysis[Any]] = {
    one.kind: one
    for one in (
        BarsAnalysis(),
        FieldsAnalysis(),
        QuietCopyAnalysis(),
        PicturesAnalysis(),
        ShotsAnalysis(),
        FollowingAnalysis(),
        SidesAnalysis(),
        ClosedCaptionsAnalysis(),
        SoundLevelsAnalysis(),
    )
}
"""Each by its name."""


def subject_for(
    kind: str, store: AnalysisStore, path: Path, clip: str, info: MediaInfo, stated: Interpretation | None = None
) -> Subject:
    """A clip as one kind of analysis looks at it, with what that needs found first.

    Raises:
        MissingSource, UnreadableFile: it cannot be read.
    """
    plain = Subject(path, clip, info, stated or Interpretation())
    known = {}
    for need in ANALYSES[kind].needs:
        outcome = find(need, store, path, clip, info, stated)
        if isinstance(outcome, Found):
            known[need] = outcome.result
    return replace(plain, known=known)


def find(
    kind: str,
    store: AnalysisStore,
    path: Path,
    clip: str,
    info: MediaInfo,
    stated: Interpretation | None = None,
    report: Report = no_progress,
) -> Outcome[Any]:
    """What one kind of analysis finds in a clip, with all that it needs; found now where it is not there yet.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
    """
    return store.find(ANALYSES[kind], subject_for(kind, store, path, clip, info, stated), report)


def look(
    store: AnalysisStore,
    path: Path,
    clip: str,
    info: MediaInfo,
    stated: Interpretation | None = None,
    report: Report = no_progress,
) -> Seen | NotFound:
    """What moves in a clip, with all that lies beside what was found; looked at now where nobody has.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
    """
    analysis = ANALYSES[FollowingAnalysis.kind]
    subject = subject_for(analysis.kind, store, path, clip, info, stated)
    outcome = store.find(analysis, subject, report)
    if isinstance(outcome, NotFound):
        return outcome
    return seen_in(store.folder(analysis.request(subject).key), outcome.result)
