"""What a render costs whose scene goes on beyond the picture, beside one with a plain colour there."""

import time
from dataclasses import dataclass
from pathlib import Path
from statistics import median

from benchmarks.plan import make_clip
from benchmarks.runs import REPEATS
from cadrage.analysis import AnalysisStore, Subject
from cadrage.compose import Compositor
from cadrage.extend.request import PlateSide
from cadrage.footage import ClipReader, Library, Material, MediaInfo, library_of_files, probe
from cadrage.formats import Frame
from cadrage.pixels.planes import Planes
from cadrage.plan import Plan
from cadrage.plates import finder, make_all
from cadrage.render import render
from cadrage.surrounds import Extended, Plain

SECONDS = 4
FRAME = Frame(width=1080, height=1920)
BOTH = {"left": None, "right": None, "top": PlateSide(), "bottom": PlateSide()}


@dataclass(frozen=True, slots=True)
class Cost:
    """Processor time of a render whose scene is extended, over that of one with a plain surround.

    Attributes:
        composing: of reading, composing and encoding, where only composing differs.
        whole: of the file as it is, which has a picture to encode where the other has one colour.
    """

    composing: float
    whole: float


@dataclass(frozen=True, slots=True)
class ExtendingFigures:
    """What a plate costs that stands, and one that moves."""

    still: Cost
    moving: Cost


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
    whole: dict[str, list[float]] = {name: [] for name in plans}
    composed: dict[str, list[float]] = {name: [] for name in plans}
    for turn in range(REPEATS):
        for name, plan in plans.items():
            begun = time.process_time()
            render(plan, clip, folder / f"{name} {turn}.mp4", info, library=library)
            whole[name].append(time.process_time() - begun)
            composed[name].append(_composing(plan, clip, info, library))
    files, alone = ({name: median(taken) for name, taken in found.items()} for found in (whole, composed))
    plain = files["plain"]
    still, moving = (
        Cost((plain - alone["plain"] + alone[name]) / plain, files[name] / plain) for name in ("still", "moving")
    )
    return ExtendingFigures(still, moving)


def _composing(plan: Plan, clip: Path, info: MediaInfo, library: Library) -> float:
    """Seconds of processor time for composing all of a clip."""
    spent, compositor, canvas = 0.0, None, None
    with ClipReader(clip, info) as reader:
        for picture in reader.frames():
            begun = time.process_time()
            if compositor is None or canvas is None:
                compositor = Compositor(plan, picture.planes.layout, info, library=library)
                canvas = Planes.empty(compositor.layout)
            compositor.compose(picture.planes, canvas, picture.time)
            spent += time.process_time() - begun
    return spent
