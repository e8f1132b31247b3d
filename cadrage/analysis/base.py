"""What every analysis has in common.

An analysis looks at a clip and finds something out, which may take minutes. What it asks is a request; two requests
with the same key have the same outcome, so it is found once. Coordinates in results are those of the stored, upright
raster, so that they stay right when bars are taken off or a line's blanking is.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from hashlib import blake2b
from pathlib import Path
from typing import ClassVar, Generic, TypeVar

from pydantic import Field

from cadrage.footage import Interpretation, MediaInfo
from cadrage.values import Value

Result = TypeVar("Result", bound=Value)
Report = Callable[[float], None]
"""Told the fraction that is done, 0 to 1; raises Cancelled where the work is not wanted any more."""


def no_progress(_: float) -> None:
    """Ignore progress."""


class AnalysisRequest(Value):
    """The parameters of an analysis.

    Attributes:
        kind: of analysis, by its name.
        method: version of how it is found out.
        clip: which file, as `ClipIdentity.key` has it.
        decoding: what the samples are taken to mean, as far as the outcome depends on it.
        parameters: what else it depends on, by name.
    """

    kind: str
    method: int
    clip: str
    decoding: Interpretation = Interpretation()
    parameters: dict[str, str] = Field(default_factory=dict)

    @property
    def key(self) -> str:
        """A text that two requests share just where they ask the same."""
        return blake2b(self.model_dump_json().encode(), digest_size=16).hexdigest()


@dataclass(frozen=True, slots=True)
class Found(Generic[Result]):
    """Something was found."""

    result: Result


@dataclass(frozen=True, slots=True)
class NotFound:
    """Nothing could be found; `reason` is one sentence."""

    reason: str


Outcome = Found[Result] | NotFound


@dataclass(frozen=True, slots=True)
class Subject:
    """The clip that is looked at.

    Attributes:
        path: its file.
        clip: which file that is, as `ClipIdentity.key` has it.
        info: of the clip.
        stated: how people have set it to be read.
        known: results of the analyses that this one needs, by kind; without those that found nothing.
        workspace: the folder for files of an analysis that keeps some; what was left there when it was stopped lies in
            it still.
    """

    path: Path
    clip: str
    info: MediaInfo
    stated: Interpretation = field(default_factory=Interpretation)
    known: Mapping[str, Value] = field(default_factory=dict)
    workspace: Path | None = None


class Analysis(ABC, Generic[Result]):
    """One kind of analysis.

    Attributes:
        kind: its name, by which it is stored.
        method: raised whenever it would find something else in the same clip.
        needs: kinds whose outcome it rests on.
        slow: whether it goes through all of a clip, so that quick ones of other clips come first.
        on_request: whether it is made only when a person asks for it, not for every clip.
        background: whether nothing waits for it: neither renders, nor a clip that counts as analysed.
        keeps_files: whether it leaves files beside what it found; where it was stopped, it goes on from them.
        result: the type of its result.
    """

    kind: ClassVar[str]
    method: ClassVar[int] = 1
    needs: ClassVar[tuple[str, ...]] = ()
    slow: ClassVar[bool] = False
    on_request: ClassVar[bool] = False
    background: ClassVar[bool] = False
    keeps_files: ClassVar[bool] = False
    result: ClassVar[type[Value]]

    def decoding(self, subject: Subject) -> Interpretation:  # noqa: ARG002 - others need it
        """The part of the interpretation that the result depends on; none, unless a kind says more."""
        return Interpretation()

    @abstractmethod
    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[Result]:
        """Look.

        Raises:
            MissingSource, UnreadableFile: it cannot be read. Cancelled: `report` said so.
        """

    def request(self, subject: Subject) -> AnalysisRequest:
        """Return the request for a clip."""
        return AnalysisRequest(kind=self.kind, method=self.method, clip=subject.clip, decoding=self.decoding(subject))
