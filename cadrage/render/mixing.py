"""Channels mixed to fewer, by stated coefficients, or chosen by their numbers."""

from __future__ import annotations  # NDArray of a type alias

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from cadrage.footage.container import LAYOUTS

HALF_POWER = sqrt(1 / 2)
TO_STEREO: dict[str, tuple[float, float]] = {
    "FL": (1, 0),
    "FR": (0, 1),
    "FC": (HALF_POWER, HALF_POWER),
    "LFE": (0, 0),
    "SL": (HALF_POWER, 0),
    "SR": (0, HALF_POWER),
    "BL": (HALF_POWER, 0),
    "BR": (0, HALF_POWER),
    "BC": (1 / 2, 1 / 2),
    "FLC": (1, 0),
    "FRC": (0, 1),
    "DL": (1, 0),
    "DR": (0, 1),
    "TFL": (HALF_POWER, 0),
    "TFR": (0, HALF_POWER),
    "TFC": (1 / 2, 1 / 2),
    "TBL": (HALF_POWER, 0),
    "TBR": (0, HALF_POWER),
    "TSL": (HALF_POWER, 0),
    "TSR": (0, HALF_POWER),
}
"""What each channel gives to left and right. ITU-R BS.775-3, annex 4, table 2, for 1/0 to 3/2; low frequency effects
are left out, as it says. Channels that it does not know are taken as their neighbours (common practice, no source)."""
MOST_NAMED = max(LAYOUTS)
WITHOUT_LAYOUT = 7  # channels, for which ISO/IEC 14496-3, table 1.19, has no configuration (from memory)


@dataclass(frozen=True)
class Mix:
    """What becomes of the channels of a stream.

    Attributes:
        layout: of what comes out, as FFmpeg's libraries call it.
        matrix: (channels that come out, channels that go in); None where they stay as they are.
        told: what somebody should know of it; empty where it is as was asked for.
    """

    layout: str
    matrix: NDArray[np.float32] | None = None
    told: str = ""


def mix_of(names: Sequence[str], *, picked: Sequence[int] = (), stereo: bool = False) -> Mix:
    """What becomes of channels.

    Args:
        names: of the channels, in their order, such as "FL"; "NONE" where nobody says.
        picked: numbers of the channels to keep, from 1; all where empty. Those that there are not are passed over.
        stereo: whether they are mixed to two.
    """
    chosen = [number - 1 for number in picked if number <= len(names)]
    if chosen:
        matrix = np.eye(len(names), dtype=np.float32)[chosen]
        mixed = mix_of(usual_names(len(chosen)), stereo=stereo)
        return Mix(mixed.layout, matrix if mixed.matrix is None else mixed.matrix @ matrix)
    named = all(name in TO_STEREO for name in names)
    if not named and len(names) > MOST_NAMED:
        told = f"{len(names)} channels without names: 1 and 2 are taken, channels=3+4 takes others"
        return Mix("stereo", np.eye(len(names), dtype=np.float32)[:2], told)
    own = names if named else usual_names(len(names))
    if not (stereo or len(own) == WITHOUT_LAYOUT or len(own) > MOST_NAMED) or own == usual_names(2):
        return Mix(LAYOUTS[len(own)])
    return Mix("stereo", np.array([TO_STEREO[name] for name in own], np.float32).T)


def usual_names(count: int) -> tuple[str, ...]:
    """Names of so many channels in their usual order."""
    return {
        1: ("FC",),
        2: ("FL", "FR"),
        3: ("FL", "FR", "FC"),
        4: ("FL", "FR", "FC", "BC"),
        5: ("FL", "FR", "FC", "BL", "BR"),
        6: ("FL", "FR", "FC", "LFE", "BL", "BR"),
        7: ("FL", "FR", "FC", "LFE", "BC", "SL", "SR"),
        8: ("FL", "FR", "FC", "LFE", "BL", "BR", "SL", "SR"),
    }[count]
