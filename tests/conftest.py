"""What several tests share."""

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import settings

from cadrage.footage.bounds import read_only_in
from demo.clips import CLIPS
from demo.film import write
from demo.sound import street
from tests.application import Application
from tests.clips import write_clip

# The suite draws the same examples every time; `make test-long` looks for others.
settings.register_profile("same", derandomize=True)
settings.register_profile("searching", derandomize=False, print_blob=True)
settings.load_profile("same")


@pytest.fixture(autouse=True, scope="session")
def unbounded() -> None:
    """The core by itself reads files wherever they lie; the server's tests bound it as a server does."""
    read_only_in(None)


@pytest.fixture(scope="session")
def small_clip(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """One second of 320×180 at 25 frames a second with sound."""
    return write_clip(tmp_path_factory.mktemp("clips") / "small.mp4")


class Museum(dict[str, Path]):
    """The demonstration clips, one second of each, by file name; each is drawn when it is first asked for."""

    def __init__(self, folder: Path) -> None:
        super().__init__()
        self.folder = folder

    def __missing__(self, file: str) -> Path:
        clip = next(clip for clip in CLIPS if clip.file == file)
        film, path = replace(clip.film, seconds=1), self.folder / file
        write(film, path, clip.draw(film), street(film.frames / film.rate, 90))
        self[file] = path
        return path


@pytest.fixture(scope="session")
def museum(tmp_path_factory: pytest.TempPathFactory) -> Museum:
    return Museum(tmp_path_factory.mktemp("museum"))


@pytest.fixture(scope="session")
def application(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Application]:
    """Cadrage as it is really run: a web process and a worker process over a data folder of their own."""
    # What says that it is a proxy may say who asks: so there are visitors from elsewhere.
    with Application(tmp_path_factory.mktemp("application"), CADRAGE_PROXY="127.0.0.1") as running:
        yield running
