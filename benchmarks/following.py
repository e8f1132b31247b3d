"""What letting a window follow costs: looking at a clip, finding a way, correcting it."""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from statistics import median

import cv2
import numpy as np

from benchmarks.runs import REPEATS
from cadrage.analyses import ANALYSES, look, subject_for
from cadrage.analysis import AnalysisStore
from cadrage.analysis.following.samples import EACH
from cadrage.compose.following import Seen, with_follow
from cadrage.compose.seen import _boxes
from cadrage.footage import open_footage, probe
from cadrage.formats import Frame
from cadrage.motion.follow import Follow, Pin, SubjectBox
from cadrage.motion.solver import TEMPI, solve
from cadrage.motion.wanted import Wanted
from cadrage.plan import Plan

FRAMES = tuple(Frame(width=width, height=height) for width, height in ((1080, 1920), (1080, 1080), (1080, 1350)))
WINDOW, REACH = 0.316, 0.342


@dataclass(frozen=True, slots=True)
class FollowingFigures:
    """Times of real time that a clip is looked at on one core, decoding included; of one without grain; the share of
    the latter that decoding takes; milliseconds that ways of 900 and 3600 pictures take; seconds that a pin, and a box
    that is drawn, take in a shot of a minute; and what three frames cost over what looking does.
    """

    grained: float
    plain: float
    decoding: float
    short: float
    long: float
    pin: float
    box: float
    frames: float


def following(ten: Path, sixty: Path, folder: Path) -> FollowingFigures:
    """All of it; `ten` and `sixty` are clips of so many seconds."""
    plain = folder / "plain.mp4"
    command = f"ffmpeg -y -v error -i {sixty} -vf hqdn3d -c:v libx264 -preset medium -crf 21 -an {plain}"
    subprocess.run(command.split(), check=True)
    decoding = _on_one_core("decode", plain)
    looked = _on_one_core("look", plain)
    grained = _on_one_core("look", ten)
    corrected = _corrections(plain)
    return FollowingFigures(
        grained=10 / grained,
        plain=60 / looked,
        decoding=decoding / looked,
        short=_solving(900),
        long=_solving(3600),
        pin=corrected[0],
        box=corrected[1],
        frames=1 + corrected[2] / looked,
    )


def _on_one_core(what: str, clip: Path) -> float:
    """Seconds that something takes in a process of its own, on one core."""
    command = [sys.executable, "-m", "benchmarks.following", what, str(clip)]
    return float(subprocess.run(command, capture_output=True, check=True, text=True).stdout)


def _solving(pictures: int) -> float:
    """Milliseconds for a way over so many pictures of 25 a second, in which somebody goes here and there."""
    count = round(pictures / 25 / float(EACH))
    random, times = np.random.default_rng(1), np.arange(count) * float(EACH)
    marks = np.arange(0, times[-1] + 5, 4)
    places = np.interp(times, marks, random.uniform(-REACH, REACH, len(marks))) + random.normal(0, 0.01, count)
    edge = np.full(count, REACH)
    wanted = Wanted(times, np.clip(places, -REACH, REACH), np.ones(count), WINDOW, -edge, edge)
    length = Fraction(round(times[-1] * 1000), 1000)
    return 1000 * _taken(lambda: solve(wanted, length, TEMPI["medium"], EACH))


def _taken(do: Callable[[], object]) -> float:
    """Seconds, the median of several times."""
    found = []
    for _ in range(REPEATS):
        begun = time.perf_counter()
        do()
        found.append(time.perf_counter() - begun)
    return median(found)


def _corrections(clip: Path) -> tuple[float, float, float]:
    """Seconds that a pin takes, that a drawn box takes, and that three frames take."""
    info, plan = probe(clip), Plan(frame=FRAMES[0])
    with tempfile.TemporaryDirectory() as root:
        seen = look(AnalysisStore(Path(root)), clip, "clip", info)
        assert isinstance(seen, Seen)
        pinned = Follow(pins=(Pin(time=Fraction(20), x=Fraction(1, 10), y=Fraction(0)),))
        drawn = SubjectBox(time=Fraction(30), x="0.5", y="0.6", width="0.2", height="0.3", drawn=True)

        def box() -> object:
            _boxes.clear()
            return with_follow(plan, info, seen, Follow(subjects=(drawn,)))

        return (
            _taken(lambda: with_follow(plan, info, seen, pinned)),
            _taken(box),
            sum(_taken(lambda: with_follow(Plan(frame=frame), info, seen, Follow())) for frame in FRAMES),  # noqa: B023
        )


def main() -> None:
    """Look at a clip, or only decode it, on one core; print how long that took."""
    what, clip = sys.argv[1], Path(sys.argv[2])
    os.sched_setaffinity(0, {0})
    cv2.setNumThreads(1)  # more would wait for one another on one core
    info = probe(clip)
    with tempfile.TemporaryDirectory() as root:
        store = AnalysisStore(Path(root))
        subject = subject_for("following", store, clip, "clip", info)  # bars are known of every clip
        begun = time.perf_counter()
        if what == "decode":
            with open_footage(clip, info) as reader:
                for _ in reader.frames():
                    pass
        else:
            store.find(ANALYSES["following"], subject)
        print(time.perf_counter() - begun)


if __name__ == "__main__":
    main()
