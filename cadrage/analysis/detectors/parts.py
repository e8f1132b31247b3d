"""Further inputs of analyses with detectors: the bars that they leave out, and the available detectors."""

from cadrage.analysis.base import Subject
from cadrage.analysis.burned_in_bars import BurnedInBars
from cadrage.analysis.detectors.models import missing
from cadrage.footage.interpretation import Edges


def bars_of(subject: Subject) -> Edges | None:
    """Bars, or soft wings, that are part of the picture and in which nothing is to be looked for."""
    found = subject.known.get("bars")
    return found.edges if isinstance(found, BurnedInBars) and found.kind in ("bars", "surround") else None


def rests_on(subject: Subject) -> dict[str, str]:
    """The same as parameters of a request."""
    bars = bars_of(subject)
    return {
        "bars": "/".join(str(side) for side in bars.model_dump().values()) if bars else "",
        "without": " ".join(model.name for model in missing()),
    }
