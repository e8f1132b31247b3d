"""Materials: adding files that plans use besides clips, and resolving the names in plans."""

import secrets
from collections.abc import Callable
from dataclasses import replace
from functools import cached_property
from pathlib import Path, PurePath
from typing import TypeVar

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile

from cadrage.analysis.closed_captions import CaptionsFound
from cadrage.compose.extending import plate_states
from cadrage.compose.heavy import look_at
from cadrage.compose.identity import clips_of, result_key
from cadrage.compose.quiet import Sample
from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import FrameStore, Interpretation, Library
from cadrage.footage import Material as CoreMaterial
from cadrage.footage.still_files import is_still
from cadrage.lettering import read_captions
from cadrage.plan import Plan
from cadrage.values import visible
from server.studio.actions.footage import store_file
from server.studio.actions.people import check_allowed
from server.studio.actions.plates import plates_of
from server.studio.actions.previews import in_turn, previewer, sample_of
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage, Material, Project
from server.studio.numbers import whole_number

Measured = TypeVar("Measured")

CAPTIONS = (".srt", ".vtt")
CHOOSE = "Choose another, or add it to the project again."


def accept(project: Project, name: str, upload: TemporaryUploadedFile) -> Material:
    """Take a picture or a file of captions in, once it has been read.

    Raises:
        CadrageError: it is neither, or cannot be read; nothing is kept.
    """
    check_allowed(project, upload.size)
    return import_file(project, name, Path(upload.temporary_file_path()))


def import_file(project: Project, name: str, arrived: Path) -> Material:
    """Make a file on the data folder's disk a project's material. It is moved, not copied."""
    shown = visible(PurePath(name).name[:240]) or "picture"
    kind, info = _read(arrived, shown)
    file = store_file(arrived, shown)
    return Material.objects.create(project=project, name=shown, kind=kind, file=file, info_json=info)


def import_data(project: Project, name: str, data: bytes, origin: str) -> Material:
    """Keep a picture that was made here as a project's material, and where it comes from."""
    shown = PurePath(name).name[:240] or "picture.png"
    arrived = Path(settings.INCOMING_DIR) / f"{secrets.token_hex(8)}{PurePath(shown).suffix.lower()}"
    try:
        arrived.write_bytes(data)
        material = import_file(project, shown, arrived)
    finally:
        arrived.unlink(missing_ok=True)
    material.origin = origin[:300]
    material.save(update_fields=["origin"])
    return material


def keep_captions(footage: Footage) -> Material:
    """Make the closed captions of a clip a captions file of its project.

    Raises:
        BadRequest: they are not read yet. NoRoom: the quota of the project's owner is used up.
    """
    found = footage.found.get("captions")
    if not isinstance(found, CaptionsFound):
        raise BadRequest("The captions of this clip are not read yet.", remedy="Read them first.", clip=footage.name)
    data = found.srt.encode()
    check_allowed(footage.project, len(data))
    return import_data(
        footage.project, f"{PurePath(footage.name).stem} captions.srt", data, f"captions of {footage.name}"
    )


def _read(path: Path, name: str) -> tuple[Material.Kind, dict[str, object] | None]:
    try:
        if PurePath(name).suffix.lower() in CAPTIONS:
            read_captions(path)
            return Material.Kind.CAPTIONS, None
        if is_still(path):
            return Material.Kind.PICTURE, previewer.probed(path).model_dump(mode="json")
    except CadrageError as error:
        error.clip = name
        raise
    raise BadRequest(
        "This is neither a picture nor captions.",
        remedy="Pictures are read from PNG, JPEG and TIFF, never from drawings such as SVG, which can hold scripts; "
        "captions from SRT and WebVTT.",
        clip=name,
    )


class Shelf:
    """All that a project has for plans to use, each thing read once. Names are never taken for paths.

    It has what is in all projects of its owner's; where others are let into it, only what is in it.
    """

    def __init__(self, project: Project) -> None:
        self._project = project
        self._found: dict[str, CoreMaterial] = {}
        self._removed: dict[str, str] = {}

    def find(self, name: str) -> CoreMaterial:
        """The file that a name refers to.

        Raises:
            BadRequest: nothing that it has.
        """
        if name not in self._found:
            self._found[name] = self._read(name)
        return self._found[name]

    def missing(self, plan: Plan) -> tuple[str, ...]:
        """Name the files of a plan that were removed from its project, or cannot be found any more."""
        for name in plan.asset_refs:
            if name and name not in self._found and name not in self._removed:
                try:
                    self.find(name)
                except BadRequest:
                    self._removed[name] = "something"
        return tuple(self._removed[name] for name in plan.asset_refs if name in self._removed)

    @cached_property
    def _within(self) -> dict[str, object]:
        if self._project.members.exists():
            return {"project": self._project}
        return {"project__owner": self._project.owner_id}

    def _read(self, name: str) -> CoreMaterial:
        kind, _, number = name.partition(":")
        key = whole_number(number)
        if kind == "footage":
            clip = Footage.everything.select_related("project").filter(pk=key, **self._within).first()
            if clip is not None:
                self._note(name, clip)
                said = RuleBook.of(clip.project).interpretation(clip)
                return CoreMaterial(clip.path, clip.info, said, clip.identity)
        if kind == "material":
            row = Material.everything.filter(pk=key, **self._within).first()
            if row is not None:
                self._note(name, row)
                return CoreMaterial(row.path, row.info)
        raise BadRequest("A picture or clip in the background is missing.", remedy=CHOOSE)

    def _note(self, name: str, row: Footage | Material) -> None:
        if row.removed is not None:
            self._removed[name] = row.name


def library_of(
    footage: Footage,
    said: Interpretation,
    store: FrameStore | None = None,
    shelf: Shelf | None = None,
    *,
    drafts: bool = False,
) -> Library:
    """The files that a plan about a clip may use: the clip, and all of its project.

    With `drafts`, of plates that are not there their drafts.
    """
    own = CoreMaterial(footage.path, footage.info, said, footage.identity)
    has = shelf or Shelf(footage.project)
    return Library(lambda name: has.find(name) if name else own, store, plates_of(footage, said, drafts=drafts))


def by_sample(work: Callable[[Plan, Sample], Measured], plan: Plan, footage: Footage) -> Measured:
    """The result of a core function for a plan and a few pictures of its clip.

    Raises:
        Busy, Cancelled: see `turn`.
    """
    library, own = library_of(footage, plan.interpretation, previewer.store), footage.identity_now

    def measured() -> Measured:
        if previewer.is_heavy(footage.info, own, plan, library):
            return previewer.measured(work, look_at(plan, footage.path, footage.info, library, own))
        return work(plan, replace(sample_of(footage, plan.interpretation), library=library))

    return in_turn(measured, heavy=previewer.is_heavy(footage.info, own, plan, library))


def key_of(plan: Plan, footage: Footage, shelf: Shelf | None = None) -> str:
    """The key of what a plan makes of a clip now; where something that it uses is gone, that of its being gone."""
    own = footage.identity_now
    library = library_of(footage, plan.interpretation, shelf=shelf, drafts=True)
    try:
        clips = clips_of(plan, own, library) | plate_states(plan, footage.info, library)
    except CadrageError as error:
        clips = {"": own.key, "gone": str(error)}
    return result_key(plan, clips)
