"""The analysis: every picture of a clip is looked at once, and each side of each shot judged."""

from fractions import Fraction

from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.analysis.detectors.models import missing
from cadrage.analysis.detectors.parts import bars_of, rests_on
from cadrage.analysis.following.samples import Scene
from cadrage.analysis.sides.verdict import ShotSides, judged
from cadrage.analysis.sides.warnings import KINDS, even_bands, warnings_at
from cadrage.analysis.sides.watching import ShotSeen, watched
from cadrage.extend.request import SIDES
from cadrage.footage import Interpretation, effective_timing, open_footage
from cadrage.footage.pictures import PictureReader
from cadrage.values import Value

AREA = 480 * 270
FEWEST_PICTURES = 3


class SidesFound(Value):
    """Whether the sides of a clip's shots can go on.

    Attributes:
        shots: in the order of time.
        without: names of models of detectors that were missing.
        summary: the same in few words.
    """

    shots: tuple[ShotSides, ...]
    without: tuple[str, ...] = ()
    summary: str


class SidesAnalysis(Analysis[SidesFound]):
    """Which sides of which shots can go on beyond the picture."""

    kind = "sides"
    needs = ("bars",)
    slow = True
    on_request = True
    result = SidesFound

    def decoding(self, subject: Subject) -> Interpretation:
        """What the samples are taken to mean; bars and blanking are left out as they are found."""
        return subject.stated.model_copy(update={"burned_in_bars": None, "clean_aperture": None})

    def request(self, subject: Subject) -> AnalysisRequest:
        """The key also depends on detected bars, and on the available detectors."""
        return super().request(subject).model_copy(update={"parameters": rests_on(subject)})

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[SidesFound]:
        """Look at all of it."""
        if subject.info.kind != "clip":
            return NotFound("A still has nothing that moves: every side of it can go on as far as it looks right.")
        if subject.info.frames < FEWEST_PICTURES:
            return NotFound("There are too few pictures to say what moves.")
        shots = find_sides(subject, self.decoding(subject), report)
        if not shots:
            return NotFound("There are no pictures that can be read.")
        without = tuple(model.name for model in missing())
        return Found(SidesFound(shots=shots, without=without, summary=_summary(shots)))


def find_sides(subject: Subject, taken: Interpretation, report: Report = no_progress) -> tuple[ShotSides, ...]:
    """The sides of every shot of a clip; memory does not grow with its pictures.

    Raises:
        MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
    """
    info = subject.info
    scene = Scene.of(info, taken, bars_of(subject), AREA)
    lasts = effective_timing(info, taken).duration
    with open_footage(subject.path, info, taken, rough=True) as reader:
        seen = list(
            watched(reader.frames(), scene, lambda time: report(min(1.0, float(time / lasts)) if lasts else 1.0))
        )
    ends = [*(shot.start for shot in seen[1:]), max(lasts, seen[-1].start) if seen else lasts]
    with open_footage(subject.path, info, taken, rough=True) as reader:
        return tuple(_judged(shot, end, scene, reader) for shot, end in zip(seen, ends, strict=True))


def _judged(shot: ShotSeen, end: Fraction, scene: Scene, reader: PictureReader) -> ShotSides:
    """A shot, with the obstacles at its edges in most of three moments of it."""
    count = len(shot.times)
    moments = dict.fromkeys(shot.times[count * part // 4] for part in (1, 2, 3))
    looked = [reader.frame_at(time).planes for time in moments]
    found = [warnings_at(scene.colour(planes)) for planes in looked]
    warned = {
        side: tuple(one for one in KINDS if 2 * sum(one in seen[side] for seen in found) > len(found)) for side in SIDES
    }
    return judged(shot, end, scene.size, warned, even_bands(scene.small(looked[len(looked) // 2])))


def _summary(shots: tuple[ShotSides, ...]) -> str:
    sides = [side.verdict for shot in shots for name, side in shot.sides.items() if name in ("left", "right")]
    fits = sum(one == "fits" for one in sides)
    return f"{fits} of {len(sides)} sides can go on"
