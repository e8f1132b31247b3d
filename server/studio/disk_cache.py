"""Caches in files, which all processes of this machine share."""

import logging
import sqlite3
from pathlib import Path

from diskcache import Cache, Timeout
from django.conf import settings

LOST = (OSError, sqlite3.Error, Timeout)
log = logging.getLogger(__name__)


class DiskCache(Cache):  # type: ignore[misc] - it comes without types
    """A cache in files; where its folder cannot be written or read, it has nothing and keeps nothing."""

    def get(self, key: object, default: object = None, **how: object) -> object:
        """See `Cache`."""
        try:
            return super().get(key, default, **how)
        except LOST as error:
            log.warning("The cache cannot be read: %s", error)
            return default

    def set(self, key: object, value: object, **how: object) -> bool:
        """See `Cache`."""
        try:
            return bool(super().set(key, value, **how))
        except LOST as error:
            log.warning("The cache cannot be written: %s", error)
            return False

    def count_one(self, key: str, seconds: float) -> int:
        """Count one more of something, for so many seconds since the first; how many there are, in all processes."""
        try:
            self.add(key, 0, expire=seconds)
            return int(self.incr(key, default=0))
        except LOST as error:
            log.warning("The cache cannot be written: %s", error)
            return 0


def on_disk(name: str, size: int) -> DiskCache:
    """A cache in files, which forgets what was not asked for the longest."""
    return DiskCache(Path(settings.CACHE_DIR) / name, size_limit=size, eviction_policy="least-recently-used")
