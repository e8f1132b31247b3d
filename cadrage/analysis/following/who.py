"""Identify which tracks of a shot are of one person or thing."""

from itertools import combinations

import numpy as np

from cadrage.analysis.detectors.box import Box
from cadrage.analysis.following.flow import alike
from cadrage.analysis.following.tracks import Track

LONGEST_GAP = 19
"""Samples that something may be hidden for."""
SPEED_OVER = 6
"""Samples over which its speed is taken."""
NEAR, FAR, ALIKE = 1.0, 2.5, 0.5
"""How many of its sides away from where it is expected something is taken as the same; farther only if it is alike."""
SIZES = 1.9
SHORTEST = 5
"""Samples that something that moves is to be seen for."""
TOGETHER, FEWEST = 0.7, 3
SMALLER = 0.6
"""Of its body: a face is smaller."""
COVERED = 0.55
"""Of the smaller of two boxes: the share that overlaps if one thing was detected twice."""
FLOATING = 2
RIGID_FOR, STAYS, GROWN = 6, 0.12, 0.15
"""Samples that parts of one thing move together for; of a side, how far they may come apart; how near they lie."""
LIMB = 0.35
"""Of a person: smaller tracks are a part of them."""


def kept(tracks: list[Track]) -> list[Track]:
    """Tracks that are worth it: detected often enough and long enough."""
    return [track for track in tracks if track.real and (track.kind == "face" or len(track.boxes) >= SHORTEST)]


def same(tracks: list[Track]) -> list[int]:
    """For each track the number of who it is; numbers begin at 0."""
    group = list(range(len(tracks)))
    for one, other in [*_parts(tracks), *_later(tracks)]:
        mine, theirs = ([at for at, name in enumerate(group) if name == group[end]] for end in (one, other))
        if group[one] != group[other] and (
            _belongs(tracks[one], tracks[other]) or not _elsewhere(tracks, mine, theirs)
        ):
            for at in theirs:
                group[at] = group[one]
    numbers = {name: number for number, name in enumerate(dict.fromkeys(group))}
    return [numbers[name] for name in group]


def _belongs(a: Track, b: Track) -> bool:
    """Whether one is somebody and the other so much smaller that it is an arm, or a seam, of theirs, or both are of
    something that moves as one.
    """
    if _rigid(a, b, range(max(a.start, b.start), min(a.end, b.end))):
        return True
    if {a.kind, b.kind} != {"person", "mover"}:
        return False
    person, part = (a, b) if a.kind == "person" else (b, a)
    samples = range(max(a.start, b.start), min(a.end, b.end))
    small = sum(part.boxes[at - part.start].area < LIMB * person.boxes[at - person.start].area for at in samples)
    return 2 * small > len(samples)


def _elsewhere(tracks: list[Track], mine: list[int], theirs: list[int]) -> bool:
    """Whether some of one group are in other places than some of another at the same time."""
    for a in (tracks[at] for at in mine):
        for b in (tracks[at] for at in theirs):
            samples = range(max(a.start, b.start), min(a.end, b.end))
            alike_kinds = (a.kind == "face") == (b.kind == "face")  # a face is elsewhere than legs
            if (
                alike_kinds
                and len(samples) >= FEWEST
                and 2 * sum(_is_part(a, b, sample) for sample in samples) < len(samples)
            ):
                return True
    return False


def _parts(tracks: list[Track]) -> list[tuple[int, int]]:
    """Tracks that are there at the same time and of one: a face in a body, one body detected in two ways."""
    found: list[tuple[int, int]] = []
    for one, other in combinations(range(len(tracks)), 2):
        a, b = tracks[one], tracks[other]
        samples = range(max(a.start, b.start), min(a.end, b.end))
        if len(samples) < FEWEST or (a.kind == b.kind and a.kind != "mover"):
            continue
        if sum(_is_part(a, b, sample) for sample in samples) > TOGETHER * len(samples) or _rigid(a, b, samples):
            found.append((one, other))
    return found


def _rigid(a: Track, b: Track, samples: range) -> bool:
    """Whether two that move touch one another and go the same way throughout: they are parts of one larger thing."""
    if a.kind != "mover" or b.kind != "mover" or len(samples) < RIGID_FOR:
        return False
    ones, others = ([track.boxes[sample - track.start] for sample in samples] for track in (a, b))
    side = min(max(ones[-1].width, ones[-1].height), max(others[-1].width, others[-1].height))
    away = np.array([np.subtract(one.middle, other.middle) for one, other in zip(ones, others, strict=True)])
    gone = np.ptp([one.middle for one in ones], axis=0).max()
    stays = np.abs(away - np.median(away, axis=0)).max(axis=1)
    touching = sum(_grown(one).shared(other) > 0 for one, other in zip(ones, others, strict=True))
    return bool(gone > side and np.median(stays) < STAYS * side and touching > TOGETHER * len(samples))


def _grown(box: Box) -> Box:
    more = GROWN * max(box.width, box.height)
    return Box(box.x - more, box.y - more, box.width + 2 * more, box.height + 2 * more)


def _is_part(a: Track, b: Track, sample: int) -> bool:
    if "face" in (a.kind, b.kind) and a.kind != b.kind:
        face, body = (a, b) if a.kind == "face" else (b, a)
        head, whole = face.boxes[sample - face.start], body.boxes[sample - body.start]
        x, y = head.middle
        inside = whole.x <= x <= whole.x + whole.width and whole.y <= y <= whole.y + whole.height
        return inside and head.area < SMALLER * whole.area
    one, other = a.boxes[sample - a.start], b.boxes[sample - b.start]
    return one.shared(other) > COVERED * min(one.area, other.area)


def _later(tracks: list[Track]) -> list[tuple[int, int]]:
    """Pairs of which the second is the first again, after it was hidden; each has at most one before and after."""
    pairs = []
    for one, a in enumerate(tracks):
        for other, b in enumerate(tracks):
            gap = b.start - a.end
            if a.kind == b.kind and a.start < b.start and -FLOATING <= gap <= LONGEST_GAP and a.end < b.end:
                away = _away(a, b, max(gap, 0) + 1)
                if away is not None:
                    pairs.append((away + 0.05 * max(gap, 0), one, other))
    found, before, after = [], set(), set()
    for _, one, other in sorted(pairs):
        if one not in before and other not in after:
            before.add(one)
            after.add(other)
            found.append((one, other))
    return found


def _away(a: Track, b: Track, gap: int) -> float | None:
    """How many of its sides a thing is from where another would be by then; None where it is not the same."""
    last, first = a.boxes[-1], b.boxes[0]
    size, other = max(last.width, last.height), max(first.width, first.height)
    if max(size, other) > SIZES * min(size, other):
        return None
    earlier = a.boxes[max(0, len(a.boxes) - 1 - SPEED_OVER)]
    over = min(SPEED_OVER, len(a.boxes) - 1) or 1
    speed = (np.array(last.middle) - np.array(earlier.middle)) / over
    away = float(np.abs(np.array(first.middle) - np.array(last.middle) - gap * speed).max() / size)
    like = max(alike(a.now, b.first), alike(a.first, b.first), alike(a.now, b.now))
    return away if away < NEAR or (away < FAR and like > ALIKE) else None
