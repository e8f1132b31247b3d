"""A workspace: the folder where the parts of one render are drawn, by any number of workers on any number of machines.

Everything a worker needs lies in the folder, and nothing else is asked: no database, no message. A part is taken by
locking its file, so that a worker that dies lets go of it; it is done when its record lies there. A file system that
several machines share must know locks, as NFS 4 does.
"""

import os
import socket
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from fractions import Fraction
from pathlib import Path
from typing import Literal, Self

from pydantic import Field

from cadrage import files
from cadrage.compose.extending import plates_there
from cadrage.compose.identity import ENGINE_VERSION
from cadrage.errors import BadRequest, SourceChanged
from cadrage.footage import ClipIdentity, Contents, Interpretation, Material, MediaInfo
from cadrage.output.settings import Settings
from cadrage.plan import Plan
from cadrage.render.frame_timing import Segment, segments_of
from cadrage.render.request import RenderRequest
from cadrage.values import Value

SEGMENT_SECONDS = 8
Stage = Literal["measure", "draw"]


class StoredMaterial(Value):
    """A file that a plan uses besides its clip."""

    path: str
    info: MediaInfo | None
    interpretation: Interpretation


class StoredRequest(Value):
    """A request as it lies in a folder of its own. Paths count from the root where they lie in it.

    Attributes:
        key: of the result; parts of another are never kept.
        engine: version of what draws the parts; only workers of the same draw them.
        identities: which files it is of, by name.
        plates: where those lie that it needs, by what was asked.
        count: of its parts.
    """

    key: str
    engine: int = ENGINE_VERSION
    plan: Plan
    settings: Settings
    source: str
    info: MediaInfo
    clip: str
    materials: dict[str, StoredMaterial]
    identities: dict[str, ClipIdentity]
    plates: dict[str, str] = Field(default_factory=dict)
    count: int


class Record(Value):
    """The result of one part.

    Attributes:
        frames: how many are in it.
        bits: of all of its pictures.
        by: the machine and the process that made it.
    """

    frames: int
    bits: int
    by: str = Field(default_factory=lambda: f"{socket.gethostname()}:{os.getpid()}")


class RenderWorkspace:
    """The folder of one render.

    Args:
        folder: where it lies.
        root: folder that machines share, under whatever name each has for it; paths in it are stored without that.
    """

    def __init__(self, folder: Path, root: Path | None = None) -> None:
        self.folder, self.root = folder, root or folder.parent
        self._request: RenderRequest | None = None
        self._stored: StoredRequest | None = None
        self._records: dict[tuple[Stage, int], Record] = {}

    @classmethod
    def create_or_resume(
        cls, folder: Path, request: RenderRequest, root: Path | None = None, seconds: float = SEGMENT_SECONDS
    ) -> Self:
        """A workspace for a request. One that is there for just the same is kept with all that is done on it."""
        workspace = cls(folder, root)
        stored = workspace._stored_of(request, seconds)
        text = stored.model_dump_json()
        if workspace.has_request and workspace._form.read_text() == text:
            files.remove(workspace._mark)
            return workspace
        workspace.clear()
        files.begin_folder(folder)
        files.write_whole(workspace._form, text)
        return workspace

    def _stored_of(self, request: RenderRequest, seconds: float) -> StoredRequest:
        request.encoder_config  # noqa: B018 - one that cannot be written is refused here
        frames, rate = request.wanted.frames, request.wanted.rate
        found = {name: request.library.material(name) for name in request.plan.asset_refs}
        return StoredRequest(
            key=request.key,
            plan=request.plan,
            settings=request.settings,
            source=self._told(request.source),
            info=request.info,
            clip=request.clip,
            materials={
                name: StoredMaterial(path=self._told(one.path), info=one.info, interpretation=one.interpretation)
                for name, one in found.items()
            },
            identities=request.identities,
            plates={
                asked: self._told(folder)
                for asked, folder in plates_there(request.written, request.info, request.library).items()
            },
            count=max(1, round(frames / (rate * Fraction(seconds)))),
        )

    def _told(self, path: Path) -> str:
        path = path.resolve()
        root = self.root.resolve()
        return str(path.relative_to(root) if path.is_relative_to(root) else path)

    @property
    def _form(self) -> Path:
        return self.folder / "request.json"

    @property
    def has_request(self) -> bool:
        """Whether there is a request on it."""
        return self._form.exists()

    @property
    def ours(self) -> bool:
        """Whether this version of the engine may draw parts of it."""
        return self.stored.engine == ENGINE_VERSION

    @property
    def stored(self) -> StoredRequest:
        """The request as it is stored.

        Raises:
            BadRequest: the workspace was cleared.
        """
        if self._stored is None:
            try:
                self._stored = StoredRequest.model_validate_json(self._form.read_text())
            except FileNotFoundError as error:
                raise BadRequest("This render is over.", remedy="Order it again.") from error
        return self._stored

    @property
    def request(self) -> RenderRequest:
        """The request."""
        if self._request is None:
            stored = self.stored
            materials = {
                name: Material(self.root / one.path, one.info, one.interpretation, stored.identities.get(name))
                for name, one in stored.materials.items()
            }
            plates = {asked: self.root / folder for asked, folder in stored.plates.items()}
            library = Contents(materials, plates).library()
            source = self.root / stored.source
            own = stored.identities[""]
            self._request = RenderRequest(stored.plan, source, stored.info, library, stored.settings, stored.clip, own)
        return self._request

    def check_source(self) -> None:
        """Check that the clip, and all files of the plan, are the same as when this was ordered.

        Raises:
            SourceChanged: it is not. MissingSource: it is gone.
        """
        request = self.request
        if request.identities != self.stored.identities:
            raise SourceChanged(
                "The file was changed after the render was ordered.",
                remedy="Order it again, so that all of it is of one file.",
                clip=request.clip or request.source,
            )

    @property
    def segments(self) -> list[Segment]:
        """The parts of the delivered range."""
        return segments_of(self.request.timing, self.stored.count)

    @property
    def stages(self) -> tuple[Stage, ...]:
        """The stages that every part goes through."""
        return ("measure", "draw") if self.request.encoder_config.measured_first else ("draw",)

    def path(self, stage: Stage, number: int, suffix: str) -> Path:
        """A file of a part: `.record`, `.lock`, `.stats` of the encoder, `.pictures` and their `.stamps`."""
        return self.folder / f"{stage}-{number:05}{suffix}"

    def record(self, stage: Stage, number: int) -> Record | None:
        """The result of a part; None if it is not done."""
        if (stage, number) not in self._records:
            try:
                text = self.path(stage, number, ".record").read_text()
            except FileNotFoundError:
                return None
            self._records[stage, number] = Record.model_validate_json(text)
        return self._records[stage, number]

    def records(self, stage: Stage) -> list[Record]:
        """The results of all parts, in order; of a stage that is done."""
        found = [self.record(stage, number) for number in range(self.stored.count)]
        return [one for one in found if one is not None]

    def undone(self, stage: Stage) -> list[int]:
        """Parts that are not done."""
        return [number for number in range(self.stored.count) if self.record(stage, number) is None]

    @property
    def stage(self) -> Stage | None:
        """The next stage; None once all parts are done."""
        return next((stage for stage in self.stages if self.undone(stage)), None)

    @contextmanager
    def taken(self, stage: Stage, number: int) -> Iterator[bool]:
        """Take a part, until the end of the block or of this process; says whether nobody else has it."""
        with files.locked(self.path(stage, number, ".lock")) as mine:
            yield mine and self.record(stage, number) is None

    def report_progress(self, stage: Stage, number: int, frames: int) -> None:
        """Tell others how far a part is."""
        with suppress(OSError):
            files.overwrite(self.path(stage, number, ".lock"), str(frames))

    def done(self) -> int:
        """Frames that are done, of all stages, with those of parts that are being drawn."""
        total = 0
        for stage in self.stages:
            for number in range(self.stored.count):
                total += self._done(stage, number)
        return total

    def _done(self, stage: Stage, number: int) -> int:
        record = self.record(stage, number)
        if record is not None:
            return record.frames
        with suppress(OSError, ValueError):
            return int(self.path(stage, number, ".lock").read_text() or 0)
        return 0

    @property
    def paused(self) -> bool:
        """Whether parts may not be taken now."""
        return self._mark.exists()

    def pause(self) -> None:
        """Lay it aside until it is laid out again."""
        with suppress(FileNotFoundError):
            files.overwrite(self._mark, "")

    @property
    def _mark(self) -> Path:
        return self.folder / "paused"

    def clear(self) -> None:
        """Take all of it away."""
        if self.has_request:
            files.remove(self.folder)
        files.remove_folder(self.folder)
