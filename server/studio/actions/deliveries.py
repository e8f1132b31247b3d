"""Deliveries: finished files handed over together, and the sheet that goes with them."""

import shutil
from collections.abc import Collection, Generator, Iterator
from functools import partial
from pathlib import Path

from zipstream import ZIP_STORED, ZipStream

from cadrage import files
from cadrage.errors import BadRequest, CannotWrite
from cadrage.inspection import Inspection
from cadrage.inspection.sheet import SheetRow, sheet_forms
from cadrage.output.names import free_name
from cadrage.render import RenderRequest
from server.studio.actions.materials import library_of
from server.studio.actions.previews import in_turn, previewer
from server.studio.actions.streams import ConcurrencyLimit, start_stream
from server.studio.models import Project, Render

THUMBNAIL = 400
archives = ConcurrencyLimit(4, "The server is already packing archives for others.", limit_each=2)


def finished(project: Project, chosen: Collection[int] | None = None) -> list[Render]:
    """The newest finished file of every framing of a project, or only some renders, in the order of the board."""
    rows = Render.objects.filter(
        framing__footage__project=project, framing__footage__removed__isnull=True, state=Render.State.DONE
    ).select_related("framing__footage__project", "framing__frame")
    if chosen is not None:
        rows = rows.filter(pk__in=chosen)
    newest: dict[int, Render] = {}
    for row in rows.order_by("pk"):
        if row.file_exists:
            newest[row.pk if chosen is not None else row.framing_id] = row
    return sorted(newest.values(), key=lambda row: (row.framing.footage_id, row.framing.frame_id, row.pk))


def passed(rows: list[Render]) -> list[Render]:
    """Those whose check found nothing wrong.

    Raises:
        BadRequest: there are none.
    """
    right = [row for row in rows if (row.report_json or {}).get("right", True)]
    if not right:
        raise BadRequest("Every finished file failed its check.", remedy="Render again, or download the failed files.")
    return right


def named(rows: list[Render]) -> list[tuple[str, Render]]:
    """Each with a name that no other has."""
    found: dict[str, Render] = {}
    for row in rows:
        found[row.name_among(found)] = row
    return list(found.items())


def archive(rows: list[Render], whose: str) -> Iterator[bytes]:
    """Pack all files as one ZIP archive while it is sent: nothing is copied, and memory does not grow.

    Args:
        rows: finished renders.
        whose: the person, or the link, that asks.

    Raises:
        Busy: too many are being packed, in all or for them.
    """
    return start_stream(_archived(rows, whose))


def _archived(rows: list[Render], whose: str) -> Generator[bytes, None, None]:
    with archives.slot(whose):
        made = ZipStream(compress_type=ZIP_STORED, sized=False)
        for name, row in named(rows):
            for file in files.files_of(row.path):
                made.add_path(str(file), f"{name}/{file.name}" if row.path.is_dir() else name)
        yield from made


def write_to(folder: Path, title: str, rows: list[Render]) -> list[str]:
    """Write files and their sheet into a folder, under names that are free there; says which.

    Raises:
        CannotWrite: there is no room, or no permission. What was written whole stays.
    """
    written: dict[str, Render] = {}
    try:
        there = {path.name for path in folder.iterdir()}
        for row in rows:
            name = row.name_among({*there, *written})
            with files.written(folder / name, folder=row.path.is_dir()) as part:
                if row.path.is_dir():
                    shutil.copytree(row.path, part, dirs_exist_ok=True)
                else:
                    shutil.copyfile(row.path, part)
            written[name] = row
        for form, text in sheet_forms(title, sheet_rows(rows), pictures(rows)).items():
            name = free_name(f"{title} delivery", f".{form}", there)
            files.write_data(folder / name, text.encode())
    except OSError as error:
        raise CannotWrite(
            f"{len(written)} of {len(rows)} files were written: {error.strerror or error}.",
            remedy="Make room in the folder, or see that it may be written to, then write again.",
            clip=folder,
        ) from error
    return list(written)


def sheet_rows(rows: list[Render]) -> list[SheetRow]:
    """What a delivery sheet says of each."""
    found = []
    for name, row in named(rows):
        footage = row.framing.footage
        request = RenderRequest(row.plan, footage.path, footage.info, settings=row.settings, clip=footage.name)
        report = Inspection.model_validate(row.report_json)
        found.append(SheetRow.of(name, request, row.path, row.digest, row.finished or row.ordered, report))
    return found


def pictures(rows: list[Render]) -> list[tuple[bytes, ...]]:
    """Small pictures of each as it was framed."""
    found = []
    for row in rows:
        footage, plan = row.framing.footage, row.plan
        library = library_of(footage, plan.interpretation, previewer.store)
        heavy = previewer.is_heavy(footage.info, footage.identity_now, plan, library)
        telling = partial(previewer.telling, plan, footage.path, footage.info, THUMBNAIL, library)
        found.append(in_turn(telling, heavy=heavy))
    return found
