"""The analysis: a clip is read once, sampled, cut into shots, and what moves in each is followed both ways.

A minute at a time is looked at and kept, so that a clip of any length takes the same memory, and one that was stopped
goes on where it was.
"""

import io
from fractions import Fraction

import numpy as np

from cadrage import files
from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.analysis.detectors.models import missing
from cadrage.analysis.detectors.parts import bars_of, rests_on
from cadrage.analysis.following.evidence import FILE, Evidence
from cadrage.analysis.following.pieces import joined, pieces_in
from cadrage.analysis.following.samples import Scene
from cadrage.analysis.following.watching import new_pieces
from cadrage.analysis.shots import shots_summary
from cadrage.footage import Interpretation
from cadrage.values import Exact, Value

FEWEST_PICTURES = 2


class FollowingFound(Value):
    """A summary of the evidence; all of it is in files beside, see `read_evidence`.

    Attributes:
        starts: time of the first picture of each shot, in seconds from the clip's first.
        subjects: how many people and things there are, in all shots.
        without: names of models of detectors that were missing.
        summary: the same in few words.
    """

    starts: tuple[Exact, ...]
    subjects: int
    without: tuple[str, ...] = ()
    summary: str


class FollowingAnalysis(Analysis[FollowingFound]):
    """Who and what moves in a clip, and how its camera does."""

    kind = "following"
    needs = ("bars",)
    slow = True
    on_request = True
    keeps_files = True
    result = FollowingFound

    def decoding(self, subject: Subject) -> Interpretation:
        """Which way is up and how wide a pixel is, so that faces have their shape."""
        kept = {name: getattr(subject.stated, name) for name in ("rotation", "pixel_aspect")}
        return Interpretation(fields="progressive").model_copy(update=kept)

    def request(self, subject: Subject) -> AnalysisRequest:
        """The key also depends on detected bars, which are left out, and on the available detectors."""
        return super().request(subject).model_copy(update={"parameters": rests_on(subject)})

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[FollowingFound]:
        """Look at all of it."""
        if subject.info.kind != "clip":
            return NotFound("A still does not move; a slow push may do.")
        if subject.info.frames < FEWEST_PICTURES:
            return NotFound("There is one picture only.")
        folder = subject.workspace
        assert folder is not None, "it keeps files"
        scene = Scene.of(subject.info, self.decoding(subject), bars_of(subject))
        for piece in new_pieces(subject, self.decoding(subject), scene, pieces_in(folder), report):
            piece.keep(folder)
        starts, evidence = joined(pieces_in(folder))
        data = io.BytesIO()
        np.savez_compressed(data, allow_pickle=False, **evidence.arrays())
        files.write_whole_data(folder / FILE, data.getvalue())
        return Found(_summed_up(starts, evidence))


def _summed_up(starts: tuple[Fraction, ...], evidence: Evidence) -> FollowingFound:
    subjects = len({thing.who for thing in evidence.things})
    shots = shots_summary(len(starts))
    return FollowingFound(
        starts=starts,
        subjects=subjects,
        without=tuple(model.name for model in missing()),
        summary=f"{shots}, {subjects} {'subject' if subjects == 1 else 'subjects'}",
    )
