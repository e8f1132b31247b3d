"""Footage: taking files in, saying what they are, replacing them, and giving them up."""

import hashlib
import secrets
import shutil
from collections.abc import Iterable
from datetime import timedelta
from pathlib import Path, PurePath

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction
from django.utils import timezone

from cadrage.compose.quiet import Sample, quiet_copy
from cadrage.errors import CadrageError, MissingSource
from cadrage.footage import Facts, Interpretation, probe, read_as
from cadrage.footage.baked import find_baked
from cadrage.footage.fields import find_fields
from cadrage.footage.sequences import grouped
from cadrage.plan import Range
from cadrage.rules import format_key
from server.studio.actions.looking import looker
from server.studio.actions.rules import RuleBook
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
    taken: list[Footage] = []
    with transaction.atomic():
        for group in grouped(arrived):
            if len(group.names) == 1:
                taken.append(adopt(project, group.names[0], arrived[group.names[0]]))
                continue
            folder = Path(settings.INCOMING_DIR) / secrets.token_hex(8)
            folder.mkdir()
            for name in group.names:
                arrived[name].rename(folder / name)
            try:
                taken.append(adopt(project, group.title, folder))
            except CadrageError:
                shutil.rmtree(folder)
                raise
    return taken


def adopt(project: Project, name: str, arrived: Path) -> Footage:
    """Make a file on the data folder's disk, or a folder of stills, a clip of a project. It is moved, not copied."""
    clip = PurePath(name).name[:240] or "clip"
    facts = _probed(arrived, clip)
    kept, size, digest = _keep(arrived, clip)
    return _begin(project, clip, facts, {"file": kept, "size": size, "digest": digest})


def link(project: Project, path: Path) -> Footage:
    """Make a file in an allowed folder a clip of a project, where it lies.

    Raises:
        BadRequest: see `folders.allowed`. CadrageError: it is no footage.
    """
    facts = _probed(path, path.name)
    return _begin(project, path.name, facts, {"linked": str(path), **_size_and_digest(path)})


def _begin(project: Project, name: str, facts: Facts, where: dict[str, object]) -> Footage:
    from server.studio.tasks import look_task  # noqa: PLC0415 - the task calls `look` below

    row = Footage.objects.create(
        project=project,
        name=_unlike(project, name),
        facts_json=facts.model_dump(mode="json"),
        format_key=format_key(facts),
        **where,
    )
    transaction.on_commit(lambda: look_task.enqueue(row.pk))
    return row


def _probed(path: Path, clip: str) -> Facts:
    try:
        return probe(path)
    except CadrageError as error:
        error.clip = clip
        raise


def _keep(arrived: Path, clip: str) -> tuple[str, int, str]:
    """Move what has arrived to where footage is kept: its name there, its size and its digest."""
    known = _size_and_digest(arrived)
    return take_in(arrived, clip), int(known["size"]), str(known["digest"])


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


def look(footage_id: int) -> None:
    """Look at a clip's pictures: bars in them, fields, and how quiet a copy must be. Called by a worker."""
    footage = Footage.objects.filter(pk=footage_id, looked=False).select_related("project").first()
    if footage is None:
        return
    try:
        said = RuleBook.of(footage.project).said(footage)
        footage.bars_json = find_baked(footage.path, footage.facts, said).model_dump(mode="json")
        footage.fields_json = find_fields(footage.path, footage.facts).model_dump(mode="json")
        taken = RuleBook.of(footage.project).interpretation(footage)
        footage.copy_json = quiet_copy(Sample.of(taken, footage.facts, footage.path), taken).model_dump(mode="json")
    finally:
        footage.looked = True
        footage.save(update_fields=["bars_json", "fields_json", "copy_json", "looked"])


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
    arrived = Path(upload.temporary_file_path())
    facts = _probed(arrived, PurePath(name).name)
    kept, size, digest = _keep(arrived, name)
    return _point(footage, facts, {"file": kept, "linked": "", "size": size, "digest": digest})


def find_again(footage: Footage, path: Path) -> Footage:
    """Point a clip at a file in an allowed folder, where its own is missing or has moved."""
    facts = _probed(path, path.name)
    return _point(footage, facts, {"file": "", "linked": str(path), **_size_and_digest(path)})


def _point(footage: Footage, facts: Facts, where: dict[str, object]) -> Footage:
    from server.studio.tasks import look_task  # noqa: PLC0415 - as above

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
    }
    for field, value in changed.items():
        setattr(footage, field, value)
    footage.save(update_fields=list(changed))
    transaction.on_commit(lambda: look_task.enqueue(footage.pk))
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
