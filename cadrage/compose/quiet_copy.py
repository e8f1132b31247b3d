"""The blurred copy that a clip's framings begin with, found by looking at its pictures."""

from cadrage.analysis import Analysis, Found, Outcome, Subject, no_progress
from cadrage.analysis.base import Report
from cadrage.analysis.fields import FieldsFound, as_found
from cadrage.compose.quiet import Sample, quiet_copy
from cadrage.footage import Interpretation
from cadrage.surrounds import Blurred


class QuietCopyAnalysis(Analysis[Blurred]):
    """How soft and dark a blurred copy must be to keep quiet beside a clip's own picture."""

    kind = "quiet_copy"
    needs = ("fields",)
    result = Blurred

    def decoding(self, subject: Subject) -> Interpretation:
        """All of it but what is taken off the picture, which leaves the rest as it is."""
        fields = subject.known.get("fields")
        taken = as_found(subject.stated, fields if isinstance(fields, FieldsFound) else None)
        return taken.model_copy(update={"burned_in_bars": None, "clean_aperture": None})

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[Blurred]:
        """Measure some pictures with copies that are softer and darker, until one is calm."""
        taken = self.decoding(subject)
        sample = Sample.of(taken, subject.info, subject.path)
        report(0.3)
        return Found(result=quiet_copy(sample, taken))
