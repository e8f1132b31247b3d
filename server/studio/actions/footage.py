"""Footage: taking files in, saying what they are, replacing them, and giving them up."""

import hashlib
import secrets
import shutil
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path, PurePath

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction
from django.utils import timezone

from cadrage.errors import CadrageError, MissingSource
from cadrage.footage import Facts, Interpretation, probe, read_as
from cadrage.footage.sequences import Group, grouped
from cadrage.plan import Range
from cadrage.rules import format_key
from server.studio.actions.looking import looker
from server.studio.actions.seeing import ask_to_look
from server.studio.models import Footage, Project

UNDO_TIME = timedelta(minutes=15)
"""How long a removed clip can be brought back; after that its file goes."""

HASHED = 2**20


def accept(project: Project, name: str, upload: TemporaryUploadedFile) -> Footage:
    """Take an uploaded file in, once it has been found to be footage.

    Raises:
        CadrageError: it is none; nothing is kept.
    """
    return adopt(project, name, Path(upload.temporary_file_path()))


def accept_stills(project: Project, uploads: list[tuple[str, TemporaryUploadedFile]]) -> list[Footage]:
    """Take uploaded stills in: those that are numbered alike as one sequence, the others each as a clip.

    Raises:
        CadrageError: one of them is no still; none is kept.
    """
    arrived = {PurePath(name).name: Path(upload.temporary_file_path()) for name, upload in uploads}
    taken: list[Arrived] = []
    try:
        for group in grouped(arrived):
            taken.append(_arrived(group.title, _gathered(group, arrived)))  # noqa: PERF401 - what was taken is given up
    except CadrageError:
        for one in taken:
            delete_file(Path(settings.FOOTAGE_DIR) / one.file)
        raise
    with transaction.atomic():  # nothing is decoded or hashed in it
        return [_begin(project, one.name, one.facts, one.where) for one in taken]


def _gathered(group: Group, arrived: dict[str, Path]) -> Path:
    """A still, or a folder that the stills of a sequence were moved to."""
    if len(group.names) == 1:
        return arrived[group.names[0]]
    folder = Path(settings.INCOMING_DIR) / secrets.token_hex(8)
    folder.mkdir()
    for name in group.names:
        arrived[name].rename(folder / name)
    return folder


def adopt(project: Project, name: str, arrived: Path) -> Footage:
    """Make a file on the data folder's disk, or a folder of stills, a clip of a project. It is moved, not copied."""
    one = _arrived(name, arrived)
    return _begin(project, one.name, one.facts, one.where)


@dataclass(frozen=True, slots=True)
class Arrived:
    """A file, or a folder of stills, that was found to be footage and moved to where such is kept."""

    name: str
    facts: Facts
    file: str
    size: int
    digest: str

    @property
    def where(self) -> dict[str, object]:
        """The same as fields of a row."""
        return {"file": self.file, "linked": "", "size": self.size, "digest": self.digest}


def _arrived(name: str, path: Path) -> Arrived:
    """Take what has arrived in; what is no footage is not kept.

    Raises:
        CadrageError: it is none.
    """
    clip = PurePath(name).name[:240] or "clip"
    try:
        facts = _probed(path, clip)
    except CadrageError:
        if path.is_dir():
            shutil.rmtree(path)
        raise
    known = _size_and_digest(path)
    return Arrived(clip, facts, take_in(path, clip), int(known["size"]), str(known["digest"]))


def link(project: Project, path: Path) -> Footage:
    """Make a file in an allowed folder a clip of a project, where it lies.

    Raises:
        BadRequest: see `folders.allowed`. CadrageError: it is no footage.
    """
    facts = _probed(path, path.name)
    return _begin(project, path.name, facts, {"linked": str(path), **_size_and_digest(path)})


def _begin(project: Project, name: str, facts: Facts, where: dict[str, object]) -> Footage:
    row = Footage.objects.create(
        project=project,
        name=_unlike(project, name),
        facts_json=facts.model_dump(mode="json"),
        format_key=format_key(facts),
        **where,
    )
    ask_to_look(row)
    return row


def _probed(path: Path, clip: str) -> Facts:
    try:
        return probe(path)
    except CadrageError as error:
        error.clip = clip
        raise


def take_in(arrived: Path, name: str) -> str:
    """Move a file or a folder of stills to where such are kept; its name there."""
    suffix = "" if arrived.is_dir() else PurePath(name).suffix[:10].lower()
    kept = Path(settings.FOOTAGE_DIR) / f"{secrets.token_hex(8)}{suffix}"
    arrived.rename(kept)
    kept.chmod(0o750 if kept.is_dir() else 0o640)
    return kept.name


def _size_and_digest(path: Path) -> dict[str, int | str]:
    """Size in bytes and BLAKE2 of all bytes; of a folder, of all its files in order."""
    files = sorted(path.iterdir()) if path.is_dir() else [path]
    digest, size = hashlib.blake2b(digest_size=16), 0
    for part in files:
        with part.open("rb") as file:
            while piece := file.read(HASHED):
                digest.update(piece)
                size += len(piece)
    return {"size": size, "digest": digest.hexdigest()}


def _unlike(project: Project, name: str) -> str:
    """A name that no other clip of a project has: the same with a number, where it is taken."""
    taken = set(project.footage.values_list("name", flat=True))
    stem, suffix = PurePath(name).stem, PurePath(name).suffix
    number = 2
    while name in taken:
        name = f"{stem} {number}{suffix}"
        number += 1
    return name


def first_of_each(footage: Iterable[Footage]) -> dict[str, Footage]:
    """The first clip with each file, by the file's digest."""
    firsts: dict[str, Footage] = {}
    for clip in footage:
        firsts.setdefault(clip.digest, clip)
    return firsts


def twin_of(footage: Footage, firsts: dict[str, Footage] | None = None) -> str | None:
    """The name of another clip of the project with the very same file, added earlier; None where there is none."""
    if not footage.digest:
        return None
    first = (first_of_each(footage.project.footage.all()) if firsts is None else firsts)[footage.digest]
    return None if first.pk == footage.pk else first.name


def interpret(footage: Footage, interpretation: Interpretation | None) -> Footage:
    """Take a clip to mean something of its own, or None: as its format's rule says. Ordered renders stay as they are.

    Raises:
        BadRequest: the bars to take off leave no picture.
    """
    if interpretation is not None:
        read_as(footage.facts, interpretation)
    footage.interpretation_json = None if interpretation is None else interpretation.model_dump(mode="json")
    footage.save(update_fields=["interpretation_json"])
    return footage


def mark(footage: Footage, part: Range) -> None:
    """Set the part of a clip that is delivered."""
    footage.range_json = part.model_dump(mode="json")
    footage.save(update_fields=["range_json"])


def rename(footage: Footage, name: str) -> Footage:
    """Give a clip another name."""
    if name != footage.name:
        footage.name = _unlike(footage.project, name)
        footage.save(update_fields=["name"])
    return footage


def replace(footage: Footage, name: str, upload: TemporaryUploadedFile) -> Footage:
    """Put another file in the place of a clip's; its framings stay, what was found in its pictures does not.

    Raises:
        CadrageError: it is no footage; nothing changes.
    """
    one = _arrived(name, Path(upload.temporary_file_path()))
    return _point(footage, one.facts, one.where)


def find_again(footage: Footage, path: Path) -> Footage:
    """Point a clip at a file in an allowed folder, where its own is missing or has moved."""
    facts = _probed(path, path.name)
    return _point(footage, facts, {"file": "", "linked": str(path), **_size_and_digest(path)})


def _point(footage: Footage, facts: Facts, where: dict[str, object]) -> Footage:
    old, ours = footage.path, not footage.linked
    changed = {
        **where,
        "facts_json": facts.model_dump(mode="json"),
        "format_key": format_key(facts),
        "bars_json": None,
        "fields_json": None,
        "copy_json": None,
        "range_json": {},
        "looked": False,
        "look_attempts": 0,
    }
    for field, value in changed.items():
        setattr(footage, field, value)
    footage.save(update_fields=list(changed))
    ask_to_look(footage)
    if ours:
        transaction.on_commit(lambda: delete_file(old))
    return Footage.objects.select_related("project").get(pk=footage.pk)


def remove(footage: Footage) -> None:
    """Take a clip out of its project. It can be brought back for a while; see `UNDO_TIME`."""
    footage.removed = timezone.now()
    footage.save(update_fields=["removed"])


def bring_back(footage: Footage) -> Footage:
    """Undo a removal."""
    footage.removed = None
    footage.save(update_fields=["removed"])
    return footage


def purge() -> None:
    """Delete, for good, what was removed long enough ago: rows, files and all that was rendered from them."""
    for footage in Footage.everything.filter(removed__lt=timezone.now() - UNDO_TIME):
        renders = [render for framing in footage.framings.all() for render in framing.renders.all()]
        files = [path for render in renders for path in (render.path, render.desk.folder)]
        if not footage.linked:
            files.append(footage.path)
        footage.delete()
        for file in files:
            transaction.on_commit(lambda file=file: delete_file(file))


def delete_file(path: Path) -> None:
    """Delete a file, or a folder of stills, that nothing needs any more."""
    looker.store.forget(path)
    if path.is_dir():
        shutil.rmtree(path)
    else:
        path.unlink(missing_ok=True)


def check_there(footage: Footage) -> None:
    """Make sure that a clip's file is where it was.

    Raises:
        MissingSource: it is not.
    """
    if not footage.path.exists():
        raise MissingSource(
            "Its file is missing.", remedy="Find it again, or replace it, on the board.", clip=footage.name
        )
