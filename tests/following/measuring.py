"""How well a window follows in a made clip, against where the subject is known to be."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from cadrage.analyses import look
from cadrage.analysis import AnalysisStore
from cadrage.compose.following import Seen, with_follow
from cadrage.compose.shots import track_of
from cadrage.footage import MediaInfo, probe
from cadrage.formats import Frame
from cadrage.geometry import window_of
from cadrage.motion.follow import Follow
from cadrage.plan import Plan
from tests.following.cases import Case


@dataclass(frozen=True)
class Figures:
    """What came out.

    Attributes:
        name: of the case.
        inside: share of the pictures in which every subject that can be seen has its middle inside the window.
        error: how far the window's middle is from where it ought to be, in window sides, on average.
        worst: the same at its worst.
        still: share of the pictures in which the window stands perfectly still.
        jerk: mean of the third derivative, windows a second³.
        average_jerk: the same of an exponential average of the truth that lags as much.
        reversals: changes of direction a minute.
        at_cuts: whether anything moved within two pictures of a cut.
        sure: for each second, how sure it was and whether it was right.
    """

    name: str
    inside: float
    error: float
    worst: float
    still: float
    jerk: float
    average_jerk: float
    reversals: float
    at_cuts: bool
    sure: tuple[tuple[float, float], ...]


def looked_at(path: Path, folder: Path) -> tuple[MediaInfo, Seen]:
    """What is seen in a clip."""
    info = probe(path)
    store = AnalysisStore(folder)
    seen = look(store, path, path.name, info)
    assert isinstance(seen, Seen), seen
    return info, seen


def measured(case: Case, follow: Follow | None = None) -> Figures:
    """Write a case, look at it, follow, and compare."""
    with TemporaryDirectory() as folder:
        path = case.write(Path(folder))
        info, seen = looked_at(path, Path(folder) / "analyses")
    return compared(case, info, seen, follow or Follow())


def compared(case: Case, info: MediaInfo, seen: Seen, follow: Follow) -> Figures:
    """Follow, and compare with the truth."""
    plan = Plan(frame=Frame(width=case.frame[0], height=case.frame[1]))
    plan = with_follow(plan, info, seen, follow)
    return figures(case, plan, info)


def figures(case: Case, plan: Plan, info: MediaInfo) -> Figures:
    """How a plan follows."""
    track = track_of(plan, info)
    axis = 0 if case.size[0] * case.frame[1] > case.size[1] * case.frame[0] else 1
    turned = case.how.get("rotation", 0) == 180
    middles, sides, wanted, inside = [], [], [], []
    for number in range(case.frames):
        window = window_of(track.at(Fraction(number) / info.rate))
        middle = float((window.x, window.y)[axis])
        side = float((window.width, window.height)[axis])
        middles.append(middle)
        sides.append(side)
        places = [where(number) for where in case.subjects]
        seen = [one[axis] for one in places if one is not None]
        if turned:
            seen = [case.size[axis] - one for one in seen]
        wanted.append(np.clip(np.mean(seen), side / 2, case.size[axis] - side / 2) if seen else np.nan)
        inside.append(all(abs(one - middle) <= side / 2 for one in seen) if seen else np.nan)
    middle, side, want = np.array(middles), np.array(sides), np.array(wanted)
    error = np.abs(middle - want) / side
    jerk, reversals, still = _movement(middle / side, float(info.rate), case.cuts)
    there = [value for value in inside if not np.isnan(value)]
    return Figures(
        case.name,
        float(np.mean(there)),
        float(np.nanmean(error)),
        float(np.nanmax(error)),
        still,
        jerk,
        _average_jerk(want / side, middle / side, float(info.rate), case.cuts),
        reversals,
        _moves_at_cuts(middle, case.cuts),
        tuple(_sure(plan, inside, float(info.rate))),
    )


def _pieces(values: np.ndarray, cuts: tuple[int, ...]) -> list[np.ndarray]:
    return [part for part in np.split(values, list(cuts)) if len(part) > 4]


def _movement(places: np.ndarray, rate: float, cuts: tuple[int, ...]) -> tuple[float, float, float]:
    jerks, turns, stands = [], 0, []
    for part in _pieces(places, cuts):
        steps = np.diff(part)
        jerks.append(np.abs(np.diff(part, 3)) * rate**3)
        way = np.sign(steps[np.abs(steps) > 1e-9])
        turns += int((np.diff(way) != 0).sum())
        stands.append(np.abs(steps) < 1e-9)
    return float(np.concatenate(jerks).mean()), turns / (len(places) / rate / 60), float(np.concatenate(stands).mean())


def _average_jerk(want: np.ndarray, got: np.ndarray, rate: float, cuts: tuple[int, ...]) -> float:
    """Of an exponential average of 0.3 s, as a plain follower has it."""
    jerks = []
    for part in _pieces(want, cuts):
        known = part[~np.isnan(part)]
        if len(known) < 5:
            continue
        known = known + np.random.default_rng(1).normal(0, 0.01, len(known))  # what a detector is off by
        smooth, share = [known[0]], 1 - np.exp(-1 / (0.3 * rate))
        for value in known[1:]:
            smooth.append(smooth[-1] + share * (value - smooth[-1]))
        jerks.append(np.abs(np.diff(smooth, 3)) * rate**3)
    return float(np.concatenate(jerks).mean())


def _moves_at_cuts(middle: np.ndarray, cuts: tuple[int, ...]) -> bool:
    steps = np.abs(np.diff(middle))
    near = [at for cut in cuts for at in (cut - 3, cut - 2, cut, cut + 1)]
    return any(steps[at] > 1e-9 for at in near if 0 <= at < len(steps))


def _sure(plan: Plan, inside: list[float], rate: float) -> list[tuple[float, float]]:
    follow = plan.motion.follow
    assert follow is not None
    found = []
    for way in follow.path:
        for second, percent in enumerate(way.sure, int(way.start * Fraction(rate))):
            first = int(way.start * Fraction(rate)) + (second - int(way.start * Fraction(rate))) * int(rate)
            part = [value for value in inside[first : first + int(rate)] if not np.isnan(value)]
            if part:
                found.append((percent / 100, float(np.mean(part))))
    return found
