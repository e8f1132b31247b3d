"""What was seen in a clip, read from where its analysis lies; the clips looked at last are held."""

import threading
from pathlib import Path

from cachetools import LRUCache

from cadrage.analysis.following.analysis import FollowingFound
from cadrage.analysis.following.evidence import read_evidence
from cadrage.compose.following import Seen
from cadrage.errors import BadRequest

HELD = 8
_held: LRUCache[Path, Seen] = LRUCache(HELD)
_lock = threading.Lock()


def seen_in(folder: Path, found: FollowingFound) -> Seen:
    """What an analysis saw, from the folder in which it lies.

    Raises:
        BadRequest: it lies there no more.
    """
    with _lock:
        if (held := _held.get(folder)) is not None:
            return held
    try:
        seen = Seen(read_evidence(folder), found.starts)
    except (OSError, ValueError, KeyError) as error:
        raise BadRequest("What was seen in this clip is gone.", remedy="Let it be looked at again.") from error
    with _lock:
        _held[folder] = seen
    return seen
