"""Deliveries: finished files handed over together, and the sheet that goes with them."""

import io
import shutil
import zipfile
from collections.abc import Iterator
from pathlib import Path

from cadrage import files
from cadrage.errors import CannotWrite
from cadrage.render import Inspection, Order
from cadrage.render.names import free_name
from cadrage.render.sheet import SheetRow, sheet_forms
from server.studio.actions.looking import looker
from server.studio.actions.materials import library_of
from server.studio.models import Project, Render

PIECE = 2**20
THUMBNAIL = 400


def finished(project: Project, chosen: list[int] | None = None) -> list[Render]:
    """The newest finished file of every framing of a project, or only some renders, in the order of the board."""
    rows = Render.objects.filter(
        framing__footage__project=project, framing__footage__removed__isnull=True, state=Render.State.DONE
    ).select_related("framing__footage__project", "framing__frame")
    if chosen is not None:
        rows = rows.filter(pk__in=chosen)
    newest: dict[int, Render] = {}
    for row in rows.order_by("pk"):
        if row.there:
            newest[row.pk if chosen is not None else row.framing_id] = row
    return sorted(newest.values(), key=lambda row: (row.framing.footage_id, row.framing.frame_id, row.pk))


def named(rows: list[Render]) -> list[tuple[str, Render]]:
    """Each with a name that no other has."""
    found: dict[str, Render] = {}
    for row in rows:
        found[row.name_among(found)] = row
    return list(found.items())


class _Pipe(io.RawIOBase):
    """Takes what an archive writes, to be fetched in pieces."""

    def __init__(self) -> None:
        self.held = bytearray()

    def writable(self) -> bool:
        """It only is."""
        return True

    def write(self, data: object) -> int:
        """Hold it."""
        view = memoryview(data).cast("B")  # type: ignore[arg-type]
        self.held += view
        return len(view)

    def fetch(self) -> bytes:
        """What is held, which is then let go."""
        data = bytes(self.held)
        self.held.clear()
        return data


def archive(rows: list[Render]) -> Iterator[bytes]:
    """All files as one ZIP archive, written as it is sent: nothing is copied, and memory does not grow."""
    pipe = _Pipe()
    with zipfile.ZipFile(pipe, "w", zipfile.ZIP_STORED, allowZip64=True) as made:
        for name, row in named(rows):
            for file in files.files_of(row.path):
                inside = f"{name}/{file.name}" if row.path.is_dir() else name
                with file.open("rb") as source, made.open(zipfile.ZipInfo(inside), "w", force_zip64=True) as entry:
                    while piece := source.read(PIECE):
                        entry.write(piece)
                        yield pipe.fetch()
    yield pipe.fetch()


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
        order = Order(row.plan, footage.path, footage.facts, settings=row.settings, clip=footage.name)
        report = Inspection.model_validate(row.report_json)
        found.append(SheetRow.of(name, order, row.path, row.digest, row.finished or row.ordered, report))
    return found


def pictures(rows: list[Render]) -> list[bytes]:
    """A small picture of each as it was framed, from the middle of the clip."""
    found = []
    for row in rows:
        footage, plan = row.framing.footage, row.plan
        library = library_of(footage, plan.interpretation, looker.store)
        found.append(looker.middle(plan, footage.path, footage.facts, THUMBNAIL, library))
    return found
