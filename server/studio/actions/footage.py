"""Footage: adding clips, setting how they are read, replacing and removing them."""

import logging
import secrets
import time
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path, PurePath

from cachetools import LRUCache
from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction

from cadrage import files
from cadrage.errors import CadrageError, MissingSource
from cadrage.footage import ClipIdentity, Interpretation, MediaInfo, check_takes_effect, resolve
from cadrage.footage.sequences import Group, grouped
from cadrage.plan import Range
from cadrage.rules import format_key
from cadrage.values import visible
from server.studio.actions import analyses, following, history, jobs, plates
from server.studio.actions.change_labels import interpretation_label
from server.studio.actions.people import check_allowed
from server.studio.actions.previews import previewer
from server.studio.actions.rules import set_source_rule
from server.studio.models import Footage, Project

_unreadable: LRUCache[int, str] = LRUCache(1000)
log = logging.getLogger(__name__)
STILL_SECONDS = 5
UNDO_TIME = timedelta(minutes=15)
"""How long a removed clip can be brought back; after that its file goes."""


def accept(project: Project, name: str, upload: TemporaryUploadedFile) -> Footage:
    """Take an uploaded file in, once it has been found to be footage.

    Raises:
        CadrageError: it is none; nothing is kept. NoRoom: the owner's quota is used up.
    """
    check_allowed(project, upload.size)
    return import_file(project, name, Path(upload.temporary_file_path()))


def accept_all(project: Project, arrived: Sequence[tuple[str, Path]]) -> list[Footage]:
    """Take files in under their names: stills that are numbered alike as one sequence, the others each as a clip.

    Raises:
        CadrageError: one of them is no footage; then none is kept.
    """
    taken: list[Arrived] = []
    try:
        for names in _unlike_each(arrived):
            for group in grouped(names):
                taken.append(_arrived(group.title, _gathered(group, names)))  # noqa: PERF401 - is given up
    except CadrageError:
        for one in taken:
            delete_file(Path(settings.FOOTAGE_DIR) / one.file)
        raise
    with transaction.atomic(), history.as_one("Add stills"):  # nothing is decoded or hashed in it
        return [_begin(project, one.name, one.info, one.where) for one in taken]


def _unlike_each(arrived: Sequence[tuple[str, Path]]) -> Iterator[dict[str, Path]]:
    """Files by their names; those whose name another has already, after it."""
    while arrived:
        names, again = dict[str, Path](), list[tuple[str, Path]]()
        for given, path in arrived:
            if names.setdefault(PurePath(given).name, path) is not path:
                again.append((given, path))
        yield names
        arrived = again


def _gathered(group: Group, arrived: dict[str, Path]) -> Path:
    """A still, or a folder that the stills of a sequence were moved to."""
    if len(group.names) == 1:
        return arrived[group.names[0]]
    folder = Path(settings.INCOMING_DIR) / secrets.token_hex(8)
    folder.mkdir()
    for name in group.names:
        arrived[name].rename(folder / name)
    return folder


def import_file(project: Project, name: str, arrived: Path) -> Footage:
    """Make a file on the data folder's disk, or a folder of stills, a clip of a project. It is moved, not copied."""
    one = _arrived(name, arrived)
    return _begin(project, one.name, one.info, one.where)


@dataclass(frozen=True, slots=True)
class Arrived:
    """A file, or a folder of stills, that was found to be footage and moved to where such is kept."""

    name: str
    info: MediaInfo
    file: str
    size: int
    identity: ClipIdentity

    @property
    def where(self) -> dict[str, object]:
        """The same as fields of a row."""
        return {"file": self.file, "linked": "", "size": self.size, **self.identity.model_dump()}


def _arrived(name: str, path: Path) -> Arrived:
    """Add files that have arrived; those that are no footage are deleted.

    Raises:
        CadrageError: it is none.
    """
    clip = PurePath(name).name[:240] or "clip"
    try:
        info = _probed(path, clip)
    except CadrageError:
        if path.is_dir():
            files.remove(path)
        raise
    size, identity = _size(path), ClipIdentity.read(path)
    return Arrived(clip, info, store_file(path, clip), size, identity)


def link(project: Project, path: Path) -> Footage:
    """Make a file in an allowed folder a clip of a project, where it lies.

    Raises:
        BadRequest: see `folders.allowed`. CadrageError: it is no footage.
    """
    info = _probed(path, path.name)
    return _begin(project, path.name, info, _where_linked(path))


def _where_linked(path: Path) -> dict[str, object]:
    """A linked file as fields of a row."""
    return {"file": "", "linked": str(path), "size": _size(path), **ClipIdentity.read(path).model_dump()}


def _begin(project: Project, name: str, info: MediaInfo, where: dict[str, object]) -> Footage:
    row = Footage.objects.create(
        project=project,
        name=_unlike(project, name),
        info_json=info.model_dump(mode="json"),
        format_key=format_key(info),
        **where,
    )
    history.note_added(project, f"Add {row.name}", row)
    analyses.ask(row)
    following.call_if_any_follows(row.project)
    plates.call_if_any_extends(row.project)
    return row


def _probed(path: Path, clip: str) -> MediaInfo:
    try:
        return previewer.probed(path)
    except CadrageError as error:
        error.clip = clip
        raise


def store_file(arrived: Path, name: str) -> str:
    """Move a file or a folder of stills to where such are kept; its name there."""
    suffix = "" if arrived.is_dir() else PurePath(name).suffix[:10].lower()
    kept = Path(settings.FOOTAGE_DIR) / f"{secrets.token_hex(8)}{suffix}"
    arrived.rename(kept)
    kept.chmod(0o750 if kept.is_dir() else 0o640)
    return kept.name


def _size(path: Path) -> int:
    """Bytes of a file, or of all files of a folder."""
    return sum(file.stat().st_size for file in files.files_of(path))


def _unlike(project: Project, name: str) -> str:
    """A name that no other clip of a project has: the same with a number, where it is taken."""
    taken = set(project.footage.values_list("name", flat=True))
    name = visible(name) or "clip"
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
    """Set the interpretation of one clip, or with None let it use its format preset. Queued renders stay as they are.

    Raises:
        BadRequest: the bars to crop leave no picture, or a part of it can have no effect on this clip.
    """
    if interpretation is not None:
        check_takes_effect(footage.info, interpretation, footage.name)
        resolve(footage.info, interpretation)
    label = interpretation_label(footage.own_interpretation, interpretation)
    with history.recorded(footage.project, label, history.only(footage)):
        footage.interpretation_json = None if interpretation is None else interpretation.model_dump(mode="json")
        footage.save(update_fields=["interpretation_json"])
    analyses.ask(footage)
    return footage


def interpret_format(footage: Footage, interpretation: Interpretation) -> Footage:
    """Set the interpretation of this clip's format, which this clip and all clips without their own then use.

    Raises:
        BadRequest: the bars to crop leave no picture, or a part of it can have no effect on this clip.
    """
    check_takes_effect(footage.info, interpretation, footage.name)
    resolve(footage.info, interpretation)
    set_source_rule(footage, interpretation)
    analyses.ask_for_all(footage.project.footage.filter(format_key=footage.format_key))
    return footage


def mark(footage: Footage, part: Range) -> None:
    """Set the part of a clip that is delivered."""
    with history.recorded(footage.project, "In and out points", history.only(footage)):
        footage.range_json = part.model_dump(mode="json")
        footage.save(update_fields=["range_json"])


def rename(footage: Footage, name: str) -> Footage:
    """Give a clip another name."""
    if name != footage.name:
        with history.recorded(footage.project, "Rename clip", history.only(footage)):
            footage.name = _unlike(footage.project, name)
            footage.save(update_fields=["name"])
    return footage


def replace(footage: Footage, name: str, upload: TemporaryUploadedFile) -> Footage:
    """Replace the file of a clip; its framings stay, the findings in its pictures do not.

    Raises:
        CadrageError: it is no footage; nothing changes.
    """
    check_allowed(footage.project, upload.size - footage.size)
    one = _arrived(name, Path(upload.temporary_file_path()))
    return _point(footage, one.info, one.where)


def find_again(footage: Footage, path: Path) -> Footage:
    """Point a clip at a file in an allowed folder, where its own is missing or has moved."""
    info = _probed(path, path.name)
    return _point(footage, info, _where_linked(path))


def read_anew() -> None:
    """Read linked clips anew whose file was changed where it lies, once it stands still. Called by a worker."""
    jobs.each(Footage.objects.exclude(linked="").select_related("project"), _read_anew)


def _read_anew(footage: Footage) -> None:
    now = footage.identity_now.fingerprint
    if footage.changed and _unreadable.get(footage.pk) != now and _stands_still(footage.path):
        try:
            find_again(footage, footage.path)
        except CadrageError as error:  # the old values are kept until it can be read, or is found again
            _unreadable[footage.pk] = now
            log.info("A changed clip could not be read: %s", error)


def _stands_still(path: Path) -> bool:
    """Whether a file has not been written to for a while."""
    newest = max((file.stat().st_mtime for file in files.files_of(path)), default=0)
    return time.time() - newest > STILL_SECONDS


def _fits(part: Range, info: MediaInfo) -> bool:
    return part.start < info.duration and (part.end is None or part.end <= info.duration)


def _point(footage: Footage, info: MediaInfo, where: dict[str, object]) -> Footage:
    old, ours = footage.path, not footage.linked
    changed = {
        **where,
        "info_json": info.model_dump(mode="json"),
        "format_key": format_key(info),
        "range_json": footage.range_json if _fits(footage.range, info) else {},
    }
    for field, value in changed.items():
        setattr(footage, field, value)
    footage.save(update_fields=list(changed))
    analyses.forget(footage)
    footage.plates.all().delete()
    analyses.ask(footage)
    following.call_if_any_follows(footage.project)
    plates.call_if_any_extends(footage.project)
    if ours:
        transaction.on_commit(lambda: delete_file(old))
    return Footage.objects.select_related("project").get(pk=footage.pk)


def delete_file(path: Path) -> None:
    """Delete a file, or a folder of stills, that nothing needs any more."""
    previewer.store.forget(path)
    files.remove(path)


def check_there(footage: Footage) -> None:
    """Make sure that a clip's file is where it was.

    Raises:
        MissingSource: it is not.
    """
    if not footage.path.exists():
        raise MissingSource(
            "Its file is missing.", remedy="Find it again, or replace it, on the board.", clip=footage.name
        )
