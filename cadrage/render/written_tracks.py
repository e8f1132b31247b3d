"""Which tracks of sound a file gets: those of the clip, chosen by number, with mono tracks joined where asked."""

from collections.abc import Sequence
from dataclasses import dataclass

from cadrage.footage import SoundInfo
from cadrage.footage.container import LAYOUTS

JOINABLE = range(2, max(LAYOUTS) + 1)
"""How many mono tracks can become one: 2 stereo, 6 as 5.1, 8 as 7.1, in the usual order of their channels."""


@dataclass(frozen=True, slots=True)
class WrittenTrack:
    """One track of sound of a file.

    Attributes:
        members: the tracks of the clip that it is made of, in the order of its channels; several are mono.
    """

    members: tuple[SoundInfo, ...]

    @property
    def is_joined(self) -> bool:
        """Whether it is made of several mono tracks."""
        return len(self.members) > 1

    @property
    def info(self) -> SoundInfo:
        """The track as one track of the clip would be: from the first sound of any member to the last."""
        first = self.members[0]
        if not self.is_joined:
            return first
        start = min(one.start for one in self.members)
        ends = [one.start + one.duration for one in self.members if one.duration is not None]
        duration = max(ends) - start if len(ends) == len(self.members) else None
        return first.model_copy(update={"channels": len(self.members), "start": start, "duration": duration})


def written_tracks(sounds: Sequence[SoundInfo], groups: Sequence[Sequence[int]]) -> tuple[WrittenTrack, ...]:
    """Return the tracks that a file gets.

    Args:
        sounds: the clip's tracks.
        groups: numbers of tracks, from 1. A group whose tracks are all mono is joined; the tracks of another stay
            apart. Numbers that the clip does not have are left out; no group at all stands for every track by itself.
    """
    if not groups:
        return tuple(WrittenTrack((sound,)) for sound in sounds)
    tracks: list[WrittenTrack] = []
    for group in groups:
        members = tuple(sounds[number - 1] for number in group if number <= len(sounds))
        if len(members) in JOINABLE and all(one.channels == 1 for one in members):
            tracks.append(WrittenTrack(members))
        else:
            tracks += [WrittenTrack((one,)) for one in members]
    return tuple(tracks)


def join_offer(sounds: Sequence[SoundInfo]) -> str:
    """Return the `tracks` setting that pairs mono tracks of one length into stereo; empty where there are none.

    Broadcast files carry each channel as a track of its own (common practice, no source).
    """
    alike = len(sounds) >= 2 and all(one.channels == 1 for one in sounds)
    lengths = [one.duration for one in sounds if one.duration is not None]
    if not alike or len(lengths) < len(sounds) or max(lengths) - min(lengths) > LENGTH_TOLERANCE_S:
        return ""
    pairs = [f"{number}+{number + 1}" for number in range(1, len(sounds), 2)]
    return "/".join([*pairs, *([str(len(sounds))] if len(sounds) % 2 else [])])


LENGTH_TOLERANCE_S = 0.1  # a few frames of any codec
