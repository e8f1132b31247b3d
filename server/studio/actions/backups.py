"""Backups: the database as it is at a moment and all files that it names, in one archive; and back again."""

import io
import json
import os
import sqlite3
import tarfile
from collections.abc import Callable, Iterator
from hashlib import sha256
from pathlib import Path

from django.conf import settings
from django.db import connection

from cadrage.errors import BadRequest, CannotWrite, UnreadableFile
from cadrage.files import files_of, remove, scratch

FORMAT = "cadrage backup 1"
DATABASE, LIST = "cadrage.sqlite3", "list.json"
FOLDERS = ("footage", "renders", "analyses")
PIECE = 1 << 20
AGAIN = "Make the backup again."


def back_up(target: Path, *, results: bool = True, report: Callable[[str], None] = print) -> int:
    """Write a backup, while people work; how many files are in it.

    Files never change once they are there, so that those the database names at its moment are those of that moment;
    one that was deleted since is left out, and told.

    Args:
        target: the archive; it must not be there.
        results: whether finished renders go with it.
        report: is told of what is left out.

    Raises:
        CannotWrite: it is there already, or there is no room.
    """
    if target.exists():
        raise CannotWrite("There is a file of that name.", remedy="Choose another name.", clip=target)
    with scratch() as folder:
        snapshot = folder / DATABASE
        _snapshot(snapshot)
        part = target.with_name(f".{target.name}.part")
        try:
            part.touch(mode=0o600)  # it holds what everybody has sent, and their password hashes
            with tarfile.open(part, "w") as archive:
                listed = {name: _added(archive, path, name, report) for name, path in _files(snapshot, results=results)}
                told = {"format": FORMAT, "files": {name: one for name, one in listed.items() if one}}
                data = json.dumps(told).encode()
                head = tarfile.TarInfo(LIST)
                head.size = len(data)
                archive.addfile(head, io.BytesIO(data))
            part.rename(target)
        except OSError as error:
            remove(part)
            problem = f"The backup could not be written: {error.strerror}."
            raise CannotWrite(problem, remedy="Make room, then back up again.", clip=target) from error
    return len(told["files"])


def _snapshot(target: Path) -> None:
    connection.ensure_connection()
    with sqlite3.connect(target) as copy:
        connection.connection.backup(copy)
    copy.close()


def _files(snapshot: Path, *, results: bool) -> Iterator[tuple[str, Path]]:
    """Names in the archive, and the files themselves: the database first."""
    yield DATABASE, snapshot
    for folder in FOLDERS:
        if folder == "renders" and not results:
            continue
        top = Path(settings.MEDIA_DIR) / folder
        for path in sorted(top.iterdir()):
            if not path.name.startswith("."):
                for file in files_of(path):
                    yield f"{folder}/{file.relative_to(top)}", file


def _added(archive: tarfile.TarFile, path: Path, name: str, report: Callable[[str], None]) -> tuple[str, int] | None:
    """A file's digest, and when it was changed: a clip is known by that to be what it was, to the nanosecond."""
    try:
        told = _digest(path), path.stat().st_mtime_ns
        archive.add(path, name, recursive=False)
    except FileNotFoundError:
        report(f"{name} was deleted meanwhile and is left out.")
        return None
    return told


def _digest(path: Path) -> str:
    found = sha256()
    with path.open("rb") as file:
        while piece := file.read(PIECE):
            found.update(piece)
    return found.hexdigest()


def restore(source: Path) -> int:
    """Fill an empty data folder from a backup; how many files were put back. Every one is held against its checksum.

    Raises:
        BadRequest: the folder is not empty. UnreadableFile: the backup is damaged, or none.
    """
    database, media = Path(settings.DATA_DIR) / DATABASE, Path(settings.MEDIA_DIR)
    if database.exists():
        raise BadRequest(
            "There is a database already.",
            remedy="Stop Cadrage, move its data folder away, and restore into a new one.",
        )
    try:
        with tarfile.open(source) as archive:
            told = json.load(archive.extractfile(LIST) or io.BytesIO(b"{}"))
            if told.get("format") != FORMAT:
                raise UnreadableFile("This is no backup of Cadrage.", remedy="Choose another file.", clip=source)
            for member in archive:
                if member.name != LIST:
                    into = database.parent if member.name == DATABASE else media
                    archive.extract(member, into, filter="data")
    except (tarfile.TarError, KeyError, ValueError, EOFError) as error:
        remove(database)
        raise UnreadableFile("The backup is damaged, or none.", remedy=AGAIN, clip=source) from error
    wrong = [name for name, (digest, _) in told["files"].items() if not _is_whole(name, digest)]
    if wrong:
        remove(database)
        raise UnreadableFile(f"{len(wrong)} files of the backup are damaged.", remedy=AGAIN, clip=wrong[0])
    for name, (_, changed) in told["files"].items():
        os.utime(_place(name), ns=(changed, changed))
    return len(told["files"])


def _place(name: str) -> Path:
    return Path(settings.DATA_DIR if name == DATABASE else settings.MEDIA_DIR) / name


def _is_whole(name: str, digest: str) -> bool:
    path = _place(name)
    return path.exists() and _digest(path) == digest
