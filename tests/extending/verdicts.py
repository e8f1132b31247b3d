"""What the verdict says of made sides, against what is true of them."""

from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory

import cv2

from cadrage import analyses
from cadrage.analysis import AnalysisStore, Found
from cadrage.analysis.sides.analysis import SidesFound
from cadrage.footage import probe
from tests.extending.cases import CASES, SideCase

SIDES = ("left", "right")


@dataclass(frozen=True)
class Judged:
    """What was said of a clip.

    Attributes:
        name, kind: of the case.
        verdicts: of the sides of its last shot: which, whether it is crossed, what was said.
        step: of the camera, found and true, in pixels.
        drift: the same.
        shots: how many there are.
    """

    name: str
    kind: str
    verdicts: tuple[tuple[str, bool, str], ...]
    step: tuple[float, float]
    drift: tuple[float, float]
    shots: int


def found_in(path: Path) -> SidesFound:
    """The verdict on a file."""
    with TemporaryDirectory() as folder:
        outcome = analyses.find("sides", AnalysisStore(Path(folder)), path, path.name, probe(path))
    assert isinstance(outcome, Found), outcome
    found = outcome.result
    assert isinstance(found, SidesFound)
    return found


def judged(case: SideCase) -> Judged:
    """Write a case and look at it."""
    with TemporaryDirectory() as folder:
        found = found_in(case.write(Path(folder)))
    shot = found.shots[-1]
    verdicts = tuple((side, side in case.crossed, shot.sides[side].verdict) for side in SIDES)
    return Judged(
        case.name,
        case.kind,
        verdicts,
        (shot.camera.step, case.step()),
        (shot.camera.drift, case.drift()),
        len(found.shots),
    )


def of_number(number: int) -> Judged:
    """One of all cases."""
    cv2.setNumThreads(1)
    return judged(CASES[number])
