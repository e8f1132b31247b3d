"""Analyses of clips: requesting, finding, cancelling and retrying them."""

import logging
import time
from collections.abc import Iterable, Iterator
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet

from cadrage.analyses import ANALYSES
from cadrage.analysis import NotFound, Subject
from cadrage.analysis.sound_levels import SoundLevelsAnalysis, levels_in
from cadrage.files import remove
from cadrage.footage import MediaInfo
from cadrage.rules import format_key
from server.studio.actions import jobs
from server.studio.actions.calls import call, called
from server.studio.actions.rules import RuleBook
from server.studio.actions.turns import waiting
from server.studio.models import Analysis, Footage, Plate
from server.studio.models.analysis import store

State = Analysis.State
AFTER_QUICK_ONES = 1e9  # seconds of rank
NOT_FOR_RENDERS = (
    *("following", "sides", "captions"),
    *(kind for kind, analysis in ANALYSES.items() if analysis.background),
)
"""Kinds that no render waits for: their results are in its plan already, or it is not ordered."""
DAYS_KEPT = 30
"""An outcome that no clip has any more is kept for so long, for a clip that comes back."""
log = logging.getLogger(__name__)


def ask(footage: Footage) -> None:
    """Request the analyses that a clip lacks as it is read now; existing ones stay. Called after every change of it."""
    there = {row.kind: row for row in footage.analyses.all()}
    for kind, analysis in ANALYSES.items():
        row = there.get(kind)
        if row is None:
            if not analysis.on_request and (kind != "pictures" or footage.info.counted != "decoded"):
                rank = time.time() + AFTER_QUICK_ONES * analysis.slow
                Analysis.objects.create(footage=footage, kind=kind, rank=rank)
        elif row.ended and row.key != analysis.request(subject_of(footage)).key:
            jobs.begin_anew(row, key="")
    _read_anew(footage)
    call("analysis")


def request(footage: Footage, kind: str) -> None:
    """Request an analysis that is made only on demand; a result or a job that exists stays."""
    row, new = Analysis.objects.get_or_create(
        footage=footage, kind=kind, defaults={"rank": time.time() + AFTER_QUICK_ONES * ANALYSES[kind].slow}
    )
    if not new and row.state in (State.FAILED, State.CANCELLED):
        jobs.begin_anew(row)
    _read_anew(footage)
    call("analysis")


def sound_levels(footage: Footage) -> bytes | None:
    """The levels of a clip's sound, empty if there is none; None until they are analysed. See `levels_in`."""
    if not footage.info.sounds:
        return b""
    row = footage.analysis(SoundLevelsAnalysis.kind)
    if row is None:  # it was added before levels were analysed
        request(footage, SoundLevelsAnalysis.kind)
        return None
    if row.result is not None:
        return levels_in(store.folder(row.key))
    return b"" if row.ended else None


def forget(footage: Footage) -> None:
    """Another file has come in the place of a clip's: nothing is known of it."""
    footage.analyses.all().delete()
    _read_anew(footage)


def subject_of(footage: Footage) -> Subject:
    """A clip as analyses look at it."""
    stated = RuleBook.of(footage.project).stated(footage)
    return Subject(footage.path, footage.identity_now.key, footage.info, stated, footage.found)


def _read_anew(footage: Footage) -> None:
    """Forget values cached on a row that has changed."""
    for name in ("found", "facts", "_prefetched_objects_cache"):
        footage.__dict__.pop(name, None)


def perform_next(person: int | None = None) -> bool:
    """Do the first analysis that waits, whose needs have ended, and that nobody else does; say whether there was one.

    Args:
        person: whose; None for the first of all.
    """
    for row in _ready(person):
        if _perform(row):
            call("analysis")
            return True
    return False


def _ready(person: int | None = None) -> Iterator[Analysis]:
    rows = waiting(Analysis, person).filter(footage__removed=None).select_related("footage__project")
    return (row for row in rows if not _held_up(row))


def _held_up(row: Analysis) -> bool:
    """Whether one that it needs has not ended."""
    needs = ANALYSES[row.kind].needs
    return bool(needs) and row.footage.analyses.filter(kind__in=needs).exclude(state__in=Analysis.ENDED).exists()


def settled(footage: Footage) -> bool:
    """See that nothing is still to be found out about a clip that a render needs, by finding it out; says whether that
    is so. It is not where another worker is at it, who calls when it is done.
    """
    ask(footage)
    needed = footage.analyses.exclude(kind__in=NOT_FOR_RENDERS)
    for row in needed.filter(state=State.QUEUED).order_by("rank", "pk"):
        if not _held_up(row):
            _perform(row)
    _read_anew(footage)
    return not needed.filter(state__in=(State.QUEUED, State.RUNNING)).exists()


def _perform(row: Analysis) -> bool:
    """Do an analysis, unless another does; says whether it was done here."""
    with jobs.held(row) as mine:
        if not mine or not jobs.claim(row):
            return False
        with jobs.ended_in_words(row):
            _find(row)
    call("render")  # one may have waited for it
    if row.kind == "following":
        call("following", row.footage.project_id)
    return True


def _find(row: Analysis) -> None:
    footage = Footage.everything.select_related("project").get(pk=row.footage_id)
    analysis, subject = ANALYSES[row.kind], subject_of(footage)
    # Of most nothing comes before they are done, so each attempt beyond the first was in vain; of one that keeps files,
    # each from which nothing more lay there.
    key = analysis.request(subject).key
    there = store.kept_pieces(key) if analysis.keeps_files else 0
    stalled = row.stalled_attempts + 1 if row.attempts > 1 and there <= row.pieces else 0
    stalled = stalled if analysis.keeps_files else row.attempts - 1
    jobs.save(row, key=key, phase="analysing", total=100, stalled_attempts=stalled, pieces=there)
    outcome = store.find(analysis, subject, jobs.Watch(row))
    if isinstance(outcome, NotFound):
        jobs.end_if_there(row, State.DONE, done=100, problem=outcome.reason)
        return
    if isinstance(outcome.result, MediaInfo):
        _take_facts(footage, outcome.result)
    jobs.end_if_there(row, State.DONE, done=100)


def _take_facts(footage: Footage, info: MediaInfo) -> None:
    footage.info_json, footage.format_key = info.model_dump(mode="json"), format_key(info)
    footage.save(update_fields=["info_json", "format_key"])
    _read_anew(footage)


def retry(row: Analysis) -> Analysis:
    """Let an analysis that has ended be done again.

    Raises:
        NotAllowed: it has not.
    """
    jobs.begin_anew(row)
    call("analysis")
    return row


def pick_up() -> None:
    """Recover analyses of a dead worker, and those without a task. Called by a worker, now and then."""
    jobs.pick_up(Analysis.objects.filter(state=State.RUNNING).select_related("footage"), lambda _: None)
    if not called("analysis") and next(_ready(), None) is not None:
        call("analysis")


def collect() -> None:
    """Take away outcomes that no clip has, and locks of analyses that are not there. Called by a worker."""
    used = set(Analysis.objects.values_list("key", flat=True)) | set(Plate.objects.values_list("key", flat=True))
    store.collect(used, DAYS_KEPT)
    there = set(Analysis.objects.values_list("pk", flat=True))
    sweep_locks(Path(settings.ANALYSES_DIR).glob(".lock-*"), there)


def sweep_locks(locks: Iterable[Path], there: set[int]) -> None:
    """Take away locks of jobs that are not there."""
    for path in locks:
        number = path.name.rpartition("-")[2]
        if number.isdecimal() and int(number) not in there:
            remove(path)


def ask_for_all(clips: QuerySet[Footage]) -> None:
    """Request analyses for clips that are all read differently now."""
    for clip in clips.select_related("project"):
        with transaction.atomic():
            ask(clip)
