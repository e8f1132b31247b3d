"""Files that arrive piece by piece, so that a line that breaks loses nothing."""

from collections.abc import Iterable
from datetime import timedelta
from pathlib import PurePath
from typing import Protocol

from django.contrib.auth.models import AbstractBaseUser
from django.utils import timezone

from cadrage.errors import BadRequest, Busy, CadrageError, Stale
from cadrage.files import locked, remove
from server.studio.actions.footage import accept_all
from server.studio.actions.people import check_allowed
from server.studio.models import Footage, Project, Upload
from server.studio.room import check_room

MAX_UNFINISHED = 20_000  # files of one person that are on their way: several long sequences of stills
KEPT = timedelta(days=7)
"""How long a file that does not arrive whole is waited for."""
PIECE = 1 << 20


class Body(Protocol):
    """A file being sent."""

    def read(self, size: int, /) -> bytes:
        """At most so many bytes of it; none at its end."""


def begin(project: Project, sender: AbstractBaseUser, name: str, size: int) -> Upload:
    """A file that is about to be sent.

    Raises:
        TooMuch, NoRoom: there is no room for it. Busy: too many files of this person are unfinished.
    """
    if Upload.objects.filter(sender=sender).count() >= MAX_UNFINISHED:
        raise Busy(
            f"{MAX_UNFINISHED} files of yours are on their way.", remedy="Finish or cancel some first.", clip=name
        )
    check_room(size)
    check_allowed(project, size)
    upload = Upload.objects.create(
        project=project, sender=sender, name=PurePath(name).name.replace("\0", "")[:240] or "clip", size=size
    )
    upload.path.touch(mode=0o640)
    return upload


def append(upload: Upload, offset: int, body: Body) -> int:
    """Write what is sent behind what is there; how many bytes are there now. What arrived before a line broke stays.

    Raises:
        Stale: it is not as far as the sender thinks. Busy: another piece of it is being written.
    """
    with locked(upload.lock) as mine:
        if not mine:
            raise Busy("Another piece of this file is being sent.", remedy="Wait for it.", clip=upload.name)
        if offset != upload.received:
            raise Stale(
                "It is not that far.", remedy="Ask how far it is, and go on there.", changed=(), clip=upload.name
            )
        left = upload.size - offset
        with upload.path.open("ab") as file:
            while left > 0 and (piece := body.read(min(PIECE, left))):
                file.write(piece)
                left -= len(piece)
    return upload.size - left


def take_in(project: Project, uploads: Iterable[Upload]) -> list[Footage]:
    """Make files that have arrived clips; stills that are numbered alike become one.

    Raises:
        BadRequest: one has not arrived whole. CadrageError: one is no footage; none is kept.
    """
    rows = list(uploads)
    for row in rows:
        if row.received < row.size:
            raise BadRequest("It has not arrived whole.", remedy="Send the rest of it.", clip=row.name)
    try:
        taken = accept_all(project, [(row.name, row.path) for row in rows])
    except CadrageError:
        _forget_all(rows)
        raise  # what stops it otherwise, such as a full disk, loses nothing that has arrived
    _forget_all(rows)
    return taken


def _forget_all(rows: Iterable[Upload]) -> None:
    for row in rows:
        forget(row)


def forget(upload: Upload) -> None:
    """Cancel a file that is being sent, or forget one that was added."""
    path, lock = upload.path, upload.lock
    upload.delete()
    for one in (path, lock):
        remove(one)


def forget_old() -> None:
    """Delete uploads that have not continued for long. Called by a worker, now and then."""
    for row in Upload.objects.filter(begun__lt=timezone.now() - KEPT):
        forget(row)
