"""How much may be sent, and whether there is room for it."""

import shutil

from django.conf import settings

from cadrage.errors import CadrageError

ROOM_LEFT = 1_000_000_000
"""Bytes that stay free on the disk whatever is sent: the database and what is at work need some."""
GIGABYTE = 1e9
SMALL = 2_500_000
"""Bytes for which there is always room."""


class TooMuch(CadrageError):
    """More is sent at a time than this server takes."""


class NoRoom(CadrageError):
    """There is no room for it on the server's disk, or in what somebody may have there."""


def check_room(length: int) -> None:
    """See that so many bytes can be taken in.

    Raises:
        TooMuch: they are more than is taken at a time. NoRoom: the disk is too full.
    """
    if length > settings.UPLOAD_BYTES:
        most = settings.UPLOAD_BYTES / GIGABYTE
        raise TooMuch("That was too much at once.", remedy=f"Send at most {most:g} GB at a time.")
    if length > SMALL and length + ROOM_LEFT > free():
        raise NoRoom("There is no room for it on the server.", remedy="Tell the administrator.")


def free() -> int:
    """Bytes that are free where files arrive."""
    return shutil.disk_usage(settings.INCOMING_DIR).free
