"""Shots as a CMX 3600 edit list: one event a shot, each cut on where the one before ends.

The form is common practice, from memory: a title, how time code counts, and for each event its number, reel, track,
kind, and four time codes, the ends not included.
"""

from collections.abc import Sequence
from fractions import Fraction
from pathlib import PurePath

from cadrage.footage import MediaInfo
from cadrage.footage.timecode import Timecode, nominal_of

REEL = "AX"
"""What a reel is called that has no name of its own."""
MOST_EVENTS = 999


def to_edl(name: str, info: MediaInfo, starts: Sequence[Fraction]) -> str:
    """An edit list of the shots of a clip.

    Args:
        name: of its file.
        info: what it is.
        starts: time of the first picture of each shot, in seconds from the clip's first; at most 999 are listed.
    """
    begun = Timecode.read(info.timecode, info.rate) or Timecode(0, nominal_of(info.rate))
    ends = [*starts[1:], info.duration]
    title = PurePath(name).name
    lines = [f"TITLE: {_plain(title)}", f"FCM: {'DROP FRAME' if begun.drop else 'NON-DROP FRAME'}", ""]
    for number, (start, end) in enumerate(zip(starts, ends, strict=True), 1):
        if number > MOST_EVENTS:
            break
        first, after = (begun.later(round(time * info.rate)) for time in (start, end))
        lines += [
            f"{number:03}  {REEL:<8} V     C        {first} {after} {first} {after}",
            f"* FROM CLIP NAME: {title}",
        ]
    return "\n".join(lines) + "\n"


def _plain(text: str) -> str:
    return text.encode("ascii", "replace").decode()
