"""Removing clips, materials, frames and projects: first out of sight, for good only after a while."""

from collections.abc import Iterable
from datetime import datetime
from pathlib import Path
from typing import TypeVar

from django.db import transaction
from django.utils import timezone

from server.studio.actions import jobs
from server.studio.actions.footage import UNDO_TIME, delete_file
from server.studio.actions.history import only, recorded
from server.studio.actions.uses import check_unused
from server.studio.models import Footage, Material, Project, ProjectFrame, Render

Removable = TypeVar("Removable", Footage, Material, Project, ProjectFrame)


def remove(row: Footage | Material | Project | ProjectFrame, *, confirmed: bool = False) -> None:
    """Take a clip, a material or a frame out of its project, or a project away.

    It can be brought back for a while; see `UNDO_TIME`.

    Args:
        row: what is removed.
        confirmed: whether a clip or a material is removed even if something else uses it.

    Raises:
        InUse: something else does.
    """
    if isinstance(row, Footage | Material) and not confirmed:
        check_unused(row)
    _set_removed(row, timezone.now(), "Remove")


def bring_back(row: Removable) -> Removable:
    """Undo a removal."""
    _set_removed(row, None, "Restore")
    return row


def _set_removed(row: Removable, when: datetime | None, verb: str) -> None:
    row.removed = when
    if isinstance(row, Project):
        row.save(update_fields=["removed"])
        return
    name = row.value.name if isinstance(row, ProjectFrame) else row.name
    with recorded(row.project, f"{verb} {name}", only(row)):
        row.save(update_fields=["removed"])


def purge() -> None:
    """Delete, for good, what was removed long enough ago: rows, files and all that was rendered from them."""
    over = timezone.now() - UNDO_TIME
    jobs.each(Footage.everything.filter(removed__lt=over), _purge_clip)
    jobs.each(Material.everything.filter(removed__lt=over), _purge_material)
    jobs.each(ProjectFrame.everything.filter(removed__lt=over), _purge_frame)
    jobs.each(Project.everything.filter(removed__lt=over), _purge_project)


def _purge_clip(footage: Footage) -> None:
    paths = _files_of(footage)
    footage.delete()
    _delete(paths)


def _purge_material(material: Material) -> None:
    path = material.path
    material.delete()
    _delete([path])


def _purge_frame(frame: ProjectFrame) -> None:
    paths = _written(Render.objects.filter(framing__frame=frame))
    frame.delete()
    _delete(paths)


def _purge_project(project: Project) -> None:
    clips = Footage.everything.filter(project=project)
    paths = [path for clip in clips for path in _files_of(clip)]
    paths += [material.path for material in Material.everything.filter(project=project)]
    project.delete()
    _delete(paths)


def _files_of(footage: Footage) -> list[Path]:
    """What is ours of a clip: its own file, and all that was rendered from it."""
    paths = _written(Render.objects.filter(framing__footage=footage))
    return paths if footage.linked else [*paths, footage.path]


def _written(renders: Iterable[Render]) -> list[Path]:
    return [path for render in renders for path in (render.path, render.workspace.folder)]


def _delete(paths: list[Path]) -> None:
    for path in paths:
        transaction.on_commit(lambda path=path: delete_file(path))
