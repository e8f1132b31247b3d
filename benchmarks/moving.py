"""What a placement that moves costs to compose, beside one that stands."""

import time
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from statistics import median

from benchmarks.plan import PLAN
from benchmarks.runs import REPEATS
from cadrage.compose import Compositor
from cadrage.footage import ClipReader, probe
from cadrage.geometry import Placement
from cadrage.motion import Motion, Pan, Push
from cadrage.pixels.planes import Planes

FRAMES, RATE = 60, 30


@dataclass(frozen=True, slots=True)
class MovingFigures:
    """Processor time of composing what pans, and what is pushed, over that of what stands."""

    pan: float
    push: float


def moving(clip: Path) -> MovingFigures:
    """All three in turn, over the same pictures."""
    info = probe(clip)
    with ClipReader(clip, info) as reader:
        pictures = [frame for frame, _ in zip(reader.frames(), range(FRAMES), strict=False)]
    half = PLAN.model_copy(update={"placement": Placement(tightness=Fraction(1, 2))})
    plans = {
        "still": half,
        "pan": half.model_copy(update={"motion": Motion(move=Pan(beyond=True))}),
        "push": PLAN.model_copy(update={"motion": Motion(move=Push(percent=Fraction(10)))}),
        "whole": PLAN,
    }
    found: dict[str, list[float]] = {name: [] for name in plans}
    for _ in range(REPEATS):
        for name, plan in plans.items():
            compositor = Compositor(plan, pictures[0].planes.layout, info)
            canvas = Planes.empty(compositor.layout)
            compositor.compose(pictures[0].planes, canvas, Fraction(0))  # whatever is found out once is found out
            begun = time.process_time()
            for number, picture in enumerate(pictures[1:], 1):
                compositor.compose(picture.planes, canvas, Fraction(number, RATE))
            found[name].append(time.process_time() - begun)
    each = {name: median(taken) for name, taken in found.items()}
    return MovingFigures(pan=each["pan"] / each["still"], push=each["push"] / each["whole"])
