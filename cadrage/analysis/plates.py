"""Scenes and plates as outcomes that are found once, kept by their key, and made again when anything they rest on is
another.
"""

import io
from pathlib import Path
from typing import Any

import numpy as np
from cachetools import LRUCache

from cadrage import files
from cadrage.analysis.base import Analysis, AnalysisRequest, Found, NotFound, Outcome, Report, Subject, no_progress
from cadrage.analysis.store import AnalysisStore
from cadrage.errors import BadRequest
from cadrage.extend.outside import outside_picture
from cadrage.extend.plate import SCENE_FILE, PlateFound, make_plate, read_scene, scene_data
from cadrage.extend.request import PlateRequest, SceneRequest
from cadrage.extend.scene import scene_of
from cadrage.extend.seeing import Seeing
from cadrage.extend.sides import Kept
from cadrage.footage import EMPTY, Interpretation, Library, resolve
from cadrage.pixels.planes import Working
from cadrage.values import Value


class SceneFound(Value):
    """A scene, in short; it lies beside."""

    width: int
    height: int


class SceneAnalysis(Analysis[SceneFound]):
    """The clip's own pixels of a stretch, merged."""

    kind = "scene"
    slow = True
    on_request = True
    keeps_files = True
    result = SceneFound

    def __init__(self, asked: SceneRequest) -> None:
        self.asked = asked

    def decoding(self, subject: Subject) -> Interpretation:
        """The complete interpretation of the clip."""
        return subject.stated

    def request(self, subject: Subject) -> AnalysisRequest:
        """Return the request for a clip."""
        plain = super().request(subject)
        return plain.model_copy(update={"parameters": {"scene": self.asked.model_dump_json()}})

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[SceneFound]:
        """Merge."""
        assert subject.workspace is not None
        seeing = Seeing(subject.path, subject.info, subject.stated)
        try:
            scene = scene_of(self.asked, seeing, report)
        except BadRequest as error:
            return NotFound(f"{error.problem} {error.remedy}")
        data = io.BytesIO()
        arrays: dict[str, Any] = dict(scene_data(scene))
        np.savez(data, allow_pickle=False, **arrays)
        files.write_whole_data(subject.workspace / SCENE_FILE, data.getvalue())
        rows, columns = scene.merged.seen.shape
        return Found(SceneFound(width=columns, height=rows))


DRAFTS_KEPT = 4
_drafts: LRUCache[str, Kept] = LRUCache(DRAFTS_KEPT)
"""Sides of drafts that this process made last, by their scene: ways of one side have the other alike."""


def _kept(asked: PlateRequest, scene: Path) -> Kept | None:
    """Sides that are kept of what a draft is made of; of larger plates none are."""
    if asked.shrink == 1:
        return None
    key = f"{scene} {asked.shrink} {asked.model_dump_json(include={'excluded'})}"
    return _drafts.setdefault(key, {})


class PlateAnalysis(Analysis[PlateFound]):
    """A plate.

    Args:
        asked: which.
        store: where its scene is found.
        library: where a picture from elsewhere is found, of which a plate may be a part.
    """

    kind = "plate"
    slow = True
    on_request = True
    keeps_files = True
    result = PlateFound

    def __init__(self, asked: PlateRequest, store: AnalysisStore, library: Library = EMPTY) -> None:
        self.asked, self._store, self._library = asked, store, library

    def decoding(self, subject: Subject) -> Interpretation:
        """The complete interpretation of the clip."""
        return subject.stated

    def request(self, subject: Subject) -> AnalysisRequest:
        """Return the request for a clip."""
        plain = super().request(subject)
        return plain.model_copy(update={"parameters": {"plate": self.asked.model_dump_json()}})

    def find(self, subject: Subject, report: Report = no_progress) -> Outcome[PlateFound]:
        """Make it, of a scene that is made first where it is not there."""
        assert subject.workspace is not None
        workspace: Path = subject.workspace
        scene = SceneAnalysis(self.asked.scene)
        outcome = self._store.find(scene, subject, lambda part: report(0.5 * part))
        if isinstance(outcome, NotFound):
            return outcome
        folder = self._store.folder(scene.request(subject).key)
        made = make_plate(
            self.asked,
            read_scene(folder),
            lambda name, data: files.write_whole_data(workspace / name, data),
            self._outside(subject),
            lambda part: report(0.5 + 0.5 * part),
            _kept(self.asked, folder),
        )
        return Found(made)

    def _outside(self, subject: Subject) -> Working | None:
        """The picture from elsewhere, at its size on the plate."""
        if self.asked.outside is None:
            return None
        colour = resolve(subject.info, subject.stated).colour
        return outside_picture(self.asked, self._library, colour)
