"""Footage: taking a file in, and giving it up."""

import secrets
from pathlib import Path, PurePath

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction

from cadrage.errors import CadrageError
from cadrage.footage import Interpretation, probe
from server.studio.actions.looking import looker
from server.studio.models import Footage, Project


def accept(project: Project, name: str, upload: TemporaryUploadedFile) -> Footage:
    """Take an uploaded file in, once it has been found to be footage.

    Raises:
        CadrageError: it is none; nothing is kept.
    """
    return adopt(project, name, Path(upload.temporary_file_path()))


def adopt(project: Project, name: str, arrived: Path) -> Footage:
    """Make a file that lies on the data folder's disk a clip of a project. The file is moved, not copied."""
    clip = PurePath(name).name[:255] or "clip"
    try:
        facts = probe(arrived)
    except CadrageError as error:
        error.clip = clip
        raise
    suffix = PurePath(clip).suffix[:10].lower()
    kept = Path(settings.FOOTAGE_DIR) / f"{secrets.token_hex(8)}{suffix}"
    size = arrived.stat().st_size
    arrived.rename(kept)
    kept.chmod(0o640)
    return Footage.objects.create(
        project=project, name=clip, file=kept.name, size=size, facts_json=facts.model_dump(mode="json")
    )


def interpret(footage: Footage, interpretation: Interpretation) -> Footage:
    """Take a clip's samples to mean something else, in all its framings. Renders already ordered stay as they are."""
    footage.interpretation_json = interpretation.model_dump(mode="json")
    footage.save(update_fields=["interpretation_json"])
    return footage


def remove(footage: Footage) -> None:
    """Take a clip, its framings and its file away."""
    path = footage.path
    results = [render.path for framing in footage.framings.all() for render in framing.renders.all()]
    footage.delete()

    def delete_files() -> None:
        looker.store.forget(path)
        for file in (path, *results):
            file.unlink(missing_ok=True)

    transaction.on_commit(delete_files)
