"""Every kind of analysis, in the order in which a clip is looked at; a new one is a file and a line here."""

from typing import Any

from cadrage.analysis import Analysis
from cadrage.analysis.burned_in_bars import BarsAnalysis
from cadrage.analysis.fields import FieldsAnalysis
from cadrage.analysis.pictures import PicturesAnalysis
from cadrage.analysis.shots import ShotsAnalysis
from cadrage.compose.quiet_copy import QuietCopyAnalysis

ANALYSES: dict[str, Analysis[Any]] = {
    one.kind: one
    for one in (BarsAnalysis(), FieldsAnalysis(), QuietCopyAnalysis(), PicturesAnalysis(), ShotsAnalysis())
}
"""Each by its name."""
