"""Materials: taking in what plans use besides clips, and finding what they name among what their owner has."""

from dataclasses import replace
from pathlib import Path, PurePath

from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction

from cadrage.compose.quiet import Sample
from cadrage.errors import BadRequest, CadrageError
from cadrage.footage import FrameStore, Interpretation, Library
from cadrage.footage import Material as CoreMaterial
from cadrage.footage.stills import is_still, probe_still
from cadrage.lettering import read_captions
from cadrage.plan import Plan
from server.studio.actions.footage import delete_file, take_in
from server.studio.actions.looking import looker, sample_of
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage, Material, Project

CAPTIONS = (".srt", ".vtt")
CHOOSE = "Choose another, or add it to the project again."


def accept(project: Project, name: str, upload: TemporaryUploadedFile) -> Material:
    """Take a picture or a file of captions in, once it has been read.

    Raises:
        CadrageError: it is neither, or cannot be read; nothing is kept.
    """
    return adopt(project, name, Path(upload.temporary_file_path()))


def adopt(project: Project, name: str, arrived: Path) -> Material:
    """Make a file on the data folder's disk a project's material. It is moved, not copied."""
    shown = PurePath(name).name[:240] or "picture"
    kind, facts = _read(arrived, shown)
    file = take_in(arrived, shown)
    return Material.objects.create(project=project, name=shown, kind=kind, file=file, facts_json=facts)


def _read(path: Path, name: str) -> tuple[Material.Kind, dict[str, object] | None]:
    try:
        if PurePath(name).suffix.lower() in CAPTIONS:
            read_captions(path)
            return Material.Kind.CAPTIONS, None
        if is_still(path):
            return Material.Kind.PICTURE, probe_still(path).model_dump(mode="json")
    except CadrageError as error:
        error.clip = name
        raise
    raise BadRequest(
        "This is neither a picture nor captions.",
        remedy="Pictures are read from PNG, JPEG and TIFF, never from drawings such as SVG, which can hold scripts; "
        "captions from SRT and WebVTT.",
        clip=name,
    )


def remove(material: Material) -> None:
    """Take a material away. What still uses it says so."""
    path = material.path
    material.delete()
    transaction.on_commit(lambda: delete_file(path))


def library_of(footage: Footage, said: Interpretation, store: FrameStore | None = None) -> Library:
    """What a plan about a clip may use: all that the clip's owner has. Names are never taken for paths."""

    def find(name: str) -> CoreMaterial:
        if not name:
            return CoreMaterial(footage.path, footage.facts, said)
        kind, _, number = name.partition(":")
        key = int(number) if number.isdecimal() and len(number) < 18 else -1
        owner = footage.project.owner_id
        if kind == "footage":
            clip = Footage.everything.select_related("project").filter(pk=key, project__owner=owner).first()
            if clip is not None:
                return CoreMaterial(clip.path, clip.facts, RuleBook.of(clip.project).interpretation(clip))
        if kind == "material":
            row = Material.objects.filter(pk=key, project__owner=owner).first()
            if row is not None:
                return CoreMaterial(row.path, row.facts)
        raise BadRequest("What stands behind or over the picture is not here any more.", remedy=CHOOSE)

    return Library(find, store)


def sampled(plan: Plan, footage: Footage) -> Sample:
    """A few pictures of a clip as a plan takes it, to measure by, with what the plan may use."""
    library = library_of(footage, plan.interpretation, looker.store)
    return replace(sample_of(footage, plan.interpretation), library=library)


def state_of(footage: Footage, names: tuple[str, ...]) -> str:
    """A text that changes when what a plan uses does; of what is gone, that it is."""
    if not names:
        return ""
    try:
        return library_of(footage, Interpretation()).state_of(names)
    except CadrageError as error:
        return str(error)
