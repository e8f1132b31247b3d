"""The one door through which files get out: nothing that Cadrage did not write is ever replaced or removed.

A file appears under its name only once it is whole. What is there already is replaced only where it carries our mark,
is empty, or somebody said that it may go; a folder of stills keeps whatever else lies in it. All other code of the core
asks here; a test walks it to see that it does.
"""

import fcntl
import os
import re
import shutil
import socket
import tempfile
import uuid
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager, suppress
from hashlib import blake2b
from pathlib import Path
from typing import IO

from cadrage.errors import BadRequest, CannotWrite
from cadrage.marking import MARK, marked

NOTE = ".cadrage"
"""In a folder that is ours: the names of our files in it, after a line with the mark."""
PIECE = 2**20  # bytes that are read at once
LOOKED_AT = 4 * 2**20  # bytes at either end of a file that are searched for the mark
UNFINISHED = re.compile(r"\.?cadrage-([0-9a-f]{8})-(\d+)-[0-9a-f]{8}(\.part)?")


def check_apart(target: Path, sources: Iterable[Path]) -> None:
    """See that a result does not replace, and does not lie in, anything that it is made of; links are followed.

    Raises:
        BadRequest: it would.
    """
    for source in sources:
        if not source.exists():
            continue
        lies_in = source.is_dir() and source.resolve() in target.resolve().parents
        if (target.exists() and target.samefile(source)) or lies_in:
            raise BadRequest("The result would replace its own source.", remedy="Choose another name.", clip=source)


def check_target(target: Path, *, folder: bool = False, replace: bool = False) -> None:
    """See that a result may be written under a name.

    Args:
        target: the name.
        folder: whether it is a folder of files, not one file.
        replace: whether a plain file that is there may go, whoever wrote it.

    Raises:
        CannotWrite: something else is there, or there is no place for it.
    """
    if not target.parent.is_dir():
        raise _cannot("There is no such folder to write to.", "Make it first, or choose another.", target.parent)
    if not os.path.lexists(target):
        return
    if folder and target.is_dir():
        if not is_ours(target) and any(target.iterdir()):
            raise _cannot("This folder has other things in it.", "Name a folder that is new or empty.", target)
    elif folder or target.is_symlink() or not target.is_file():
        raise _cannot("This is there already, and is no file.", "Choose another name.", target)
    elif not replace and not is_ours(target):
        raise _cannot(
            "This is there already, and Cadrage did not write it.",
            "Choose another name, or say --replace.",
            target,
        )


def _cannot(problem: str, remedy: str, path: Path) -> CannotWrite:
    return CannotWrite(problem, remedy=remedy, clip=path)


def free_stem(folder: Path, stem: str, suffix: str) -> str:
    """A stem under which files may be written to a folder: the wanted one, with a number where others have it.

    Args:
        folder: to write to.
        stem: that is wanted.
        suffix: of the file among them that has our mark, by which those of before are known.
    """
    made, number = stem, 2
    while any(folder.glob(f"{made}.*")) and not is_ours(folder / f"{made}{suffix}"):
        made, number = f"{stem} {number}", number + 1
    return made


def is_ours(path: Path) -> bool:
    """Whether Cadrage wrote a file or a folder; an empty file is nobody's."""
    try:
        if path.is_dir():
            return (path / NOTE).read_text().startswith(MARK)
        size = path.stat().st_size
        with path.open("rb") as file:
            found = _marked(file.read(LOOKED_AT))
            file.seek(max(0, size - LOOKED_AT))
            return not size or found or _marked(file.read())
    except (OSError, UnicodeDecodeError):
        return False


def _marked(data: bytes) -> bool:
    return any(MARK.encode(code) in data for code in ("ascii", "utf-16-be"))  # the second is how MXF has text


@contextmanager
def written(
    target: Path, *, sources: Iterable[Path] = (), folder: bool = False, replace: bool = False
) -> Iterator[Path]:
    """A new name beside the target, for a file to be written to; it becomes the target's once all went well.

    Args:
        target: where the result shall be.
        sources: what it is made of.
        folder: whether a folder is written, which is made here.
        replace: whether a plain file that is there may go, whoever wrote it.

    Raises:
        BadRequest, CannotWrite: see `check_apart` and `check_target`.
    """
    check_apart(target, sources)
    check_target(target, folder=folder, replace=replace)
    sweep(target.parent)
    with _beside(target) as part:
        if folder:
            part.mkdir()
        yield part
        if folder:
            _note(part)
            _into(part, target)
        else:
            part.replace(target)


@contextmanager
def part_of(path: Path) -> Iterator[Path]:
    """A new name beside one of our own files, which takes its place once all went well."""
    with _beside(path) as part:
        yield part
        part.replace(path)


@contextmanager
def _beside(path: Path) -> Iterator[Path]:
    """A new name beside a path; what still has it in the end goes."""
    part = path.with_name(f".{unfinished_name()}.part")
    try:
        yield part
    finally:
        remove(part)


def write_data(target: Path, data: bytes, *, sources: Iterable[Path] = (), replace: bool = False) -> None:
    """Write a small file, with our mark in it.

    Raises:
        BadRequest, CannotWrite: see `written`; or there is no room, or no permission.
    """
    with written(target, sources=sources, replace=replace) as part:
        try:
            with part.open("wb") as file:
                file.write(marked(data))
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            raise _cannot(
                f"It could not be written: {error.strerror}.", "Make room or choose another place.", target
            ) from error


def add(folder: Path, name: str, data: bytes) -> None:
    """Put a file into a folder that is being written."""
    (folder / name).write_bytes(data)


def _note(folder: Path) -> None:
    names = sorted(one.name for one in folder.iterdir())
    (folder / NOTE).write_text("\n".join([MARK, *names]))


def _into(part: Path, target: Path) -> None:
    """Let a finished folder take its place; what else lies in one that was there stays."""
    if not target.exists():
        part.rename(target)
        return
    with suppress(OSError):
        for name in (target / NOTE).read_text().splitlines()[1:]:
            (target / Path(name).name).unlink(missing_ok=True)
    for one in sorted(part.iterdir(), key=lambda one: one.name != NOTE):
        one.replace(target / one.name)


def files_of(path: Path) -> list[Path]:
    """A file, or all files of a folder in order, without hidden ones."""
    if not path.is_dir():
        return [path]
    return sorted(one for one in path.iterdir() if not one.name.startswith("."))


def pieces_of(path: Path) -> Iterator[bytes]:
    """All bytes of a file, or of a folder's files one behind the other, a piece at a time."""
    for part in files_of(path):
        with part.open("rb") as file:
            while piece := file.read(PIECE):
                yield piece


def make_folder(path: Path) -> None:
    """Make a folder that is there for results, unless it is there.

    Raises:
        CannotWrite: it cannot be made.
    """
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise _cannot("There is no place for the results.", "Choose another folder.", path) from error


def write_whole(path: Path, text: str) -> None:
    """Write a file of our own so that nobody ever sees half of it."""
    with part_of(path) as part:
        part.write_text(text)


def write_whole_data(path: Path, data: bytes) -> None:
    """The same of bytes."""
    with part_of(path) as part:
        part.write_bytes(data)


def overwrite(path: Path, text: str) -> None:
    """Write a small file of our own, in one of our own folders."""
    path.write_text(text)


def opened_to_lock(path: Path) -> IO[str]:
    """A file of our own, open so that it can be locked; it is made where it is not there.

    Raises:
        FileNotFoundError: there is no such folder.
    """
    return path.open("a")


@contextmanager
def locked(path: Path) -> Iterator[bool]:
    """Lock a file for the block, and let go of it when the process ends however it ends; says whether it was free."""
    try:
        file = opened_to_lock(path)
    except FileNotFoundError:
        yield False  # its folder is gone: there is nothing left to do in it
        return
    with file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        yield True


def begin_folder(path: Path) -> None:
    """Make a folder for our own work, in the place of one that was there.

    Raises:
        CannotWrite: a folder is there that is not ours.
    """
    remove_folder(path)
    path.mkdir(parents=True)
    (path / NOTE).write_text(MARK)


def keep_folder(path: Path, texts: Mapping[str, str]) -> None:
    """Keep a folder of our own with some files, so that nobody ever sees half of it. One that is there stays."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with _beside(path) as part:
        part.mkdir()
        (part / NOTE).write_text(MARK)
        for name, text in texts.items():
            (part / name).write_text(text)
        with suppress(OSError):  # another made the same meanwhile
            part.rename(path)


def work_in(path: Path) -> None:
    """See that there is a folder for our own work; what lies in it stays.

    Raises:
        CannotWrite: there is no place for it.
    """
    make_folder(path)
    (path / NOTE).write_text(MARK)


def finish_folder(work: Path, path: Path) -> None:
    """Let a folder of our own work take the name under which it is kept. One that is there already stays."""
    try:
        work.rename(path)
    except OSError:  # another made the same meanwhile
        remove_folder(work)


def remove_folder(path: Path) -> None:
    """Take a folder of our own work away; it need not be there.

    Raises:
        CannotWrite: it is not ours.
    """
    if os.path.lexists(path) and not is_ours(path):
        raise _cannot("This folder is not one that Cadrage made.", "Move it elsewhere.", path)
    remove(path)


def remove(path: Path) -> None:
    """Take something of our own away, in our data folder or just made; it need not be there."""
    if path.is_dir() and not path.is_symlink():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)


@contextmanager
def scratch() -> Iterator[Path]:
    """A folder for the block, in the place that this machine has for such."""
    root = Path(tempfile.gettempdir())
    sweep(root)
    folder = root / unfinished_name()
    folder.mkdir(mode=0o700)
    try:
        yield folder
    finally:
        remove(folder)


def sweep(folder: Path) -> None:
    """Take away what processes of this machine left unfinished in a folder when they were killed."""
    with suppress(OSError):
        for path in folder.iterdir():
            found = UNFINISHED.fullmatch(path.name)
            if found and found[1] == _machine() and not _alive(int(found[2])):
                remove(path)


def unfinished_name(process: int | None = None) -> str:
    """A new name for what a process of this machine, this one unless told, has not finished yet."""
    return f"cadrage-{_machine()}-{process or os.getpid()}-{uuid.uuid4().hex[:8]}"


def _machine() -> str:
    return blake2b(socket.gethostname().encode(), digest_size=4).hexdigest()


def _alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True
