"""How well a box that is drawn round somebody is followed in made clips, against where they are known to be."""

from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from cadrage.compose.following import Seen, scene_of
from cadrage.compose.shots import planned_shots
from cadrage.footage import MediaInfo
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.motion.follow import Follow, SubjectBox
from cadrage.plan import Plan
from tests.following.cases import CASES, Case

FOLLOWED = (
    *("crosses", "goes out", "comes in late", "behind a pillar", "shaking camera", "noise", "dark"),
    *("comes nearer", "camera pans past", "turns back", "runs", "car passes fast"),
)
SIDES = (0.09, 0.4)


@dataclass(frozen=True)
class BoxFigures:
    """What came out: the share of samples in which it is found, of those in which there is something to be found; how
    far it is off then, in parts of the picture's width; and for how many pictures it is found after it is gone.
    """

    name: str
    found: float
    drift: float
    ghost: float


def box_cases() -> list[Case]:
    """The cases in which a box is followed."""
    return [case for case in CASES if case.name in FOLLOWED]


def drawn_on(case: Case) -> int:
    """The number of a picture on which somebody can be seen well."""
    number = case.frames // 2 if case.name != "behind a pillar" else 55
    while case.subjects[0](number) is None:
        number += 1
    return number


def boxed(case: Case, info: MediaInfo, seen: Seen) -> BoxFigures:
    """Draw a box in the middle of a case, follow it, and compare."""
    number = drawn_on(case)
    x, y = case.subjects[0](number)
    sides = {"width": f"{SIDES[0]}", "height": f"{SIDES[1]}"}
    place = {"x": f"{x / case.size[0]:.4f}", "y": f"{y / case.size[1]:.4f}"}
    subject = SubjectBox(time=Fraction(number) / info.rate, drawn=True, **place, **sides)
    plan = Plan(frame=Frame(width=1080, height=1920), placement=Placement(tightness=Fraction(1)))
    shot, _, _ = scene_of(plan, info, seen, Follow(subjects=(subject,)), planned_shots(plan, info)[0])
    places = shot.actors[0].boxes[:, 0] + 0.5
    off, ghost = [], 0
    for time, place_found in zip(shot.times, places, strict=True):
        where = case.subjects[0](round(time * float(info.rate)))
        if where is None:
            ghost += not np.isnan(place_found)
        else:
            off.append(abs(place_found - where[0] / case.size[0]))
    pictures = ghost * 0.16 * float(info.rate)
    return BoxFigures(case.name, 1 - float(np.isnan(off).mean()), float(np.nanmean(off)), pictures)
