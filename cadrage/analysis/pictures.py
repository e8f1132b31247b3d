"""Count the pictures of a clip and find the damaged ones: every picture is decoded."""

from cadrage.analysis.base import Analysis, Found, Outcome, Report, Subject, no_progress
from cadrage.footage import MediaInfo, probe
from cadrage.footage.index import index_of, needs_index


class PicturesAnalysis(Analysis[MediaInfo]):
    """What a clip is, from all of its pictures; for clips that were too long for that when they were added."""

    kind = "pictures"
    result = MediaInfo
    slow = True

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[MediaInfo]:
        """Go through the whole file."""
        info = probe(subject.path, thorough=True, report=report)
        if needs_index(info):
            index_of(subject.path, info)  # it is kept, so that the first picture from the middle need not wait for it
        return Found(result=info)
