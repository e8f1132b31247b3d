"""How soon a composed frame is seen."""

import time
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from random import Random

from benchmarks.plan import PLAN
from cadrage.compose import Previewer
from cadrage.footage import probe

WIDTH, TIMES = 960, 60


@dataclass(frozen=True, slots=True)
class Waits:
    """Milliseconds from asking for a 960-wide JPEG to having it: median and 95th percentile."""

    median: float
    most: float


def _waits(taken: list[float]) -> Waits:
    ordered = sorted(taken)
    return Waits(ordered[len(ordered) // 2] * 1000, ordered[int(len(ordered) * 0.95)] * 1000)


def previews(source: Path) -> tuple[Waits, Waits]:
    """At a time whose picture is held, with the surround changed each time as a slider does; and at new times."""
    info, random, previewer = probe(source), Random(4), Previewer()
    held, new = [], []
    moment = info.duration / 2
    previewer.image(PLAN, source, info, moment, WIDTH)
    for number in range(TIMES):
        surround = PLAN.surround.model_copy(update={"softness": Fraction(10 + number, 10)})
        plan = PLAN.model_copy(update={"surround": surround})
        began = time.perf_counter()
        previewer.image(plan, source, info, moment, WIDTH)
        held.append(time.perf_counter() - began)
    for _ in range(TIMES):
        moment = info.duration * Fraction(random.randrange(10_000), 10_000)
        began = time.perf_counter()
        previewer.image(PLAN, source, info, moment, WIDTH)
        new.append(time.perf_counter() - began)
    return _waits(held), _waits(new)
