"""What a render costs whose scene goes on beyond the picture, beside one with a plain colour there."""

import time
from dataclasses import dataclass
from pathlib import Path
from statistics import median

from benchmarks.plan import make_clip
from benchmarks.runs import REPEATS
from cadrage.analysis import AnalysisStore, Subject
from cadrage.extend.request import PlateSide
from cadrage.footage import Material, library_of_files, probe
from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.plates import finder, make_all
from cadrage.render import render
from cadrage.surrounds import Extended, Plain

SECONDS = 4
FRAME = Frame(width=1080, height=1920)
BOTH = {"left": None, "right": None, "top": PlateSide(), "bottom": PlateSide()}


@dataclass(frozen=True, slots=True)
class ExtendingFigures:
    """Processor time of a render with a plate that stands, and with one that moves, over that of a plain surround."""

    still: float
    moving: float


def extending(folder: Path) -> ExtendingFigures:
    """All three in turn, of the same clip."""
    clip = make_clip(folder / "extended.mp4", SECONDS)
    info = probe(clip)
    store, subject = AnalysisStore(folder / "plates"), Subject(clip, clip.name, info)
    library = library_of_files(Material(clip, info), plates=finder(store, subject))
    plans = {
        "plain": Plan(frame=FRAME, surround=Plain(colour="#203040")),
        "still": Plan(frame=FRAME, surround=Extended.model_validate(BOTH)),
        "moving": Plan(frame=FRAME, surround=Extended.model_validate({**BOTH, "camera": "moving"})),
    }
    for plan in plans.values():
        make_all(store, subject, plan, library)
    found: dict[str, list[float]] = {name: [] for name in plans}
    for turn in range(REPEATS):
        for name, plan in plans.items():
            begun = time.process_time()
            render(plan, clip, folder / f"{name} {turn}.mp4", info, library=library)
            found[name].append(time.process_time() - begun)
    each = {name: median(taken) for name, taken in found.items()}
    return ExtendingFigures(still=each["still"] / each["plain"], moving=each["moving"] / each["plain"])
