"""Files without rows and rows without files: found, reported and, if certainly unused, deleted."""

import logging
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from django.conf import settings
from django.core.management import call_command

from cadrage.files import remove
from server.studio.actions.sharing import forget_old_links
from server.studio.actions.uploads import forget_old
from server.studio.models import Footage, Material, Render, Upload

OLD = 24 * 3600.0
"""Seconds after which what lies about is nobody's: whoever was at work on it has long ended."""
A_DAY = 24 * 3600.0
log = logging.getLogger(__name__)


@dataclass
class Found:
    """What lies where it should not, and what does not lie where it should.

    Attributes:
        arriving: unfinished uploads.
        orphans: files of clips and results that no row names.
        missing: what clips and results have lost their file.
    """

    arriving: list[Path] = field(default_factory=list)
    orphans: list[Path] = field(default_factory=list)
    missing: list[str] = field(default_factory=list)

    @property
    def summary(self) -> str:
        """In one line."""
        return (
            f"{len(self.arriving)} left on their way in, {len(self.orphans)} files without a row, "
            f"{len(self.missing)} rows without their file"
        )


def look() -> Found:
    """See what lies about. Nothing is changed."""
    return Found(list(_arriving()), list(_orphans()), list(_missing()))


def sweep() -> Found:
    """Delete unused files and expired rows; return a report."""
    forget_old()
    forget_old_links()
    call_command("clearsessions")
    found = look()
    for path in (*found.arriving, *found.orphans):
        remove(path)
    if found.arriving or found.orphans or found.missing:
        log.warning("Swept: %s.", found.summary)
    return found


class Daily:
    """Something that is done at the start and then once a day."""

    def __init__(self) -> None:
        self._next = 0.0

    def sweep(self) -> None:
        """Sweep where it is time to."""
        if time.monotonic() >= self._next:
            self._next = time.monotonic() + A_DAY
            sweep()


def _is_old(path: Path) -> bool:
    try:
        return time.time() - path.stat().st_mtime > OLD
    except FileNotFoundError:
        return False


def _arriving() -> Iterator[Path]:
    awaited = set(Upload.objects.values_list("token", flat=True))
    for path in Path(settings.INCOMING_DIR).iterdir():
        token = path.name.removeprefix("upload-").removesuffix(".lock")
        if token not in awaited and _is_old(path):
            yield path


def _orphans() -> Iterator[Path]:
    # First the files: what comes between has its row before it is looked for.
    footage, results = list(Path(settings.FOOTAGE_DIR).iterdir()), list(Path(settings.RENDERS_DIR).glob("[0-9]*.*"))
    kept = set(Footage.everything.values_list("file", flat=True)) | set(
        Material.everything.values_list("file", flat=True)
    )
    yield from (path for path in footage if path.name not in kept and _is_old(path))
    rows = {str(pk) for pk in Render.objects.values_list("pk", flat=True)}
    yield from (path for path in results if path.name.partition(".")[0] not in rows and _is_old(path))


def _missing() -> Iterator[str]:
    for clip in Footage.objects.only("name", "file", "linked"):
        if not clip.path.exists():
            yield f"clip {clip.name}"
    for material in Material.objects.all():
        if not material.path.exists():
            yield f"picture {material.name}"
    for job in Render.objects.filter(state=Render.State.DONE, cleared=None).only("state", "settings_json", "cleared"):
        if not job.file_exists:
            yield f"result {job.pk}"
