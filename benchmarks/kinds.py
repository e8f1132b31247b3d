"""What each surround and each finish costs: processor time of composing, on the floor of decoding and encoding."""

import time
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from benchmarks.plan import PLAN
from cadrage.compose import Compositor
from cadrage.finish import Finish, Title, offered_parts
from cadrage.footage import ClipReader, Material, library_of_files, probe
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from cadrage.surrounds import SURROUND_KINDS, Plain

FIRST = Fraction(17, 20)  # of a loop with a crossfade of one second, as much is measured in it as it has in ten
FRAMES, IN_TEN_SECONDS = 45, 300
REPEATS = 5
STILL, MOVING = 1.10, 1.25
"""Aims: with what static, and with what moves."""


@dataclass(frozen=True, slots=True)
class KindFigure:
    """One surround or finish.

    Attributes:
        name: of it.
        animated: whether it changes while the picture static.
        ratio: floor and composing, over the floor.
    """

    name: str
    animated: bool
    ratio: float


def kinds(clip: Path, floor: float) -> list[KindFigure]:
    """Every one in turn. `floor` is the processor time, in seconds, of decoding and encoding one frame."""
    info = probe(clip)
    with ClipReader(clip, info) as reader:
        pictures = [frame for frame, _ in zip(reader.frames(), range(FRAMES), strict=False)]
    plans = {
        f"surround: {kind.title.lower()}": PLAN.model_copy(update={"surround": kind()})
        for kind in SURROUND_KINDS.values()
    }
    plain = PLAN.model_copy(update={"surround": Plain()})
    for part in offered_parts():
        finish = Finish.model_validate({part.name: part.example})
        plans[f"finish: {part.title.lower()}"] = plain.model_copy(update={"finish": finish})
    plans["finish: a title"] = plain.model_copy(update={"finish": Finish(titles=(Title(text="Number 7"),))})
    library = library_of_files(Material(clip, info))
    found: dict[str, list[float]] = {name: [] for name in plans}
    for _ in range(REPEATS):
        for name, plan in plans.items():
            begun = time.process_time()
            compositor = Compositor(plan, pictures[0].planes.layout, info, library=library)
            canvas = Planes.empty(compositor.layout)
            compositor.compose(pictures[0].planes, canvas, FIRST)  # whatever must be found first is found
            made = time.process_time()
            for number, picture in enumerate(pictures[1:], 1):
                compositor.compose(picture.planes, canvas, FIRST + Fraction(number, 30))
            each = (time.process_time() - made) / (len(pictures) - 1)
            found[name].append(each + (made - begun) / IN_TEN_SECONDS)
    return [KindFigure(name, _moves(plans[name]), (floor + min(costs)) / floor) for name, costs in found.items()]


def _moves(plan: Plan) -> bool:
    return plan.surround.animated or plan.finish.animated
