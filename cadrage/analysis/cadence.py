"""Looking for film in fields: 23.976 pictures a second spread over 59.94 fields, two and three in turn.

Of five pictures of two fields each, one then has its upper field twice, from the picture before it, and another its
lower field. Which of the two comes two pictures after the other says which field is shown first:

    film                 A     B     C     D
    fields           A a | B b | B c | C d | D d     upper lines in capitals, upper field first
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cadrage.pixels.planes import Samples

Kind = Literal["upper_first", "lower_first", "other"]

CYCLE = 5
PICTURES_IN_RUN = 16  # three cycles
APART: dict[int, Kind] = {2: "upper_first", 3: "lower_first"}
"""Which field is shown first, by how many pictures later the lower one is repeated."""
CLEAR = 0.6  # of the cycles of a run must say the same
REPEATED = 0.45  # of what fields mostly change by in a cycle, below which one is the one before it again (tried out)
ALIVE = 0.25  # codes of 8 bits that fields must change by on average
COLUMNS = 2  # every second is looked at


def cadence_of(run: Sequence[Samples]) -> Kind | None:
    """What a run of neighbouring pictures says of film in fields; None where too little moves.

    Args:
        run: luma, (rows, columns), codes of 8 bits.
    """
    changes = np.array([_changes(before, now) for before, now in pairwise(run)])
    if len(changes) < 2 * CYCLE or changes.mean() < ALIVE:
        return None
    votes = Counter(_orders(changes))
    order, count = votes.most_common(1)[0] if votes else ("other", 0)
    return order if count >= CLEAR * (len(changes) // CYCLE) else "other"


def _changes(before: Samples, now: Samples) -> tuple[float, float]:
    """How much the upper and the lower lines changed, on average, in codes."""
    rows = len(now) // 2 * 2
    change = np.abs(now[:rows, ::COLUMNS].astype(np.int16) - before[:rows, ::COLUMNS])
    return float(change[::2].mean()), float(change[1::2].mean())


def _orders(changes: NDArray[np.float64]) -> Iterator[Kind]:
    """What each cycle says in which one upper and one lower field are clearly repeated.

    Where a cut was made in the video the cycle there is broken, and the next begins elsewhere.
    """
    for at in range(0, len(changes) // CYCLE * CYCLE, CYCLE):
        cycle = changes[at : at + CYCLE]
        upper, lower = cycle.argmin(axis=0)
        rest = [np.median(np.delete(cycle[:, field], place)) for field, place in enumerate((upper, lower))]
        if cycle[upper, 0] < REPEATED * rest[0] and cycle[lower, 1] < REPEATED * rest[1]:
            yield APART.get(int(lower - upper) % CYCLE, "other")
