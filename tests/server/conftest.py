import shutil
from pathlib import Path
from sys import addaudithook
from threading import get_ident, local

import av
import pytest
from django.conf import settings
from django.db.transaction import Atomic
from django.test import Client

from cadrage.files import remove
from cadrage.footage.bounds import read_only_in
from cadrage.formats import Frame
from server.studio.actions.footage import import_file
from server.studio.actions.framing_plans import begin
from server.studio.apps import readable
from server.studio.models import Project, ProjectFrame
from server.studio.models.analysis import store


@pytest.fixture(autouse=True)
def nothing_rendered():
    """Numbers of renders begin anew with every test; so must their files, and what was found in clips."""
    yield
    for folder in (settings.RENDERS_DIR, settings.ANALYSES_DIR):
        for path in Path(folder).iterdir():
            remove(path)
    store._held.clear()


@pytest.fixture(autouse=True)
def bounded():
    """Files are read where a server reads them."""
    read_only_in(readable)
    yield
    read_only_in(None)


_in_transaction = local()


def _note_files(event, arguments):
    """Note files of clips, materials and renders that are opened while this thread holds the database."""
    files = getattr(_in_transaction, "files", None)
    if event == "open" and files is not None and str(arguments[0]).startswith(str(settings.MEDIA_DIR)):
        files.append(str(arguments[0]))


addaudithook(_note_files)  # for good: there is no way to remove one


@pytest.fixture(autouse=True)
def no_files_in_transactions(monkeypatch):
    """Nothing reads or writes a file, or decodes one, while it holds the database, which all others wait for."""
    outermost: dict[int, Atomic] = {}
    opened: list[str] = []
    enter, leave, decode = Atomic.__enter__, Atomic.__exit__, av.open

    def entered(self):
        if not self._from_testcase and outermost.setdefault(get_ident(), self) is self:
            _in_transaction.files = []
        return enter(self)

    def left(self, *error):
        if outermost.get(get_ident()) is self:
            del outermost[get_ident()]
            opened.extend(_in_transaction.files)
            _in_transaction.files = None
        return leave(self, *error)

    def opened_to_decode(file, *given, **named):
        if getattr(_in_transaction, "files", None) is not None:
            opened.append(str(file))
        return decode(file, *given, **named)

    monkeypatch.setattr(Atomic, "__enter__", entered)
    monkeypatch.setattr(Atomic, "__exit__", left)
    monkeypatch.setattr(av, "open", opened_to_decode)
    yield
    assert opened == []


@pytest.fixture
def people(django_user_model):
    """Two people who do not know each other."""
    return [django_user_model.objects.create_user(name, password="a long one") for name in ("ida", "joel")]


@pytest.fixture
def ida(people):
    client = Client()
    client.force_login(people[0])
    return client


@pytest.fixture
def joel(people):
    client = Client()
    client.force_login(people[1])
    return client


@pytest.fixture
def project(people):
    row = Project.objects.create(owner=people[0], name="Wall")
    ProjectFrame.from_value(row, Frame(width=180, height=320, name="Totem")).save()
    return row


@pytest.fixture
def framing(project, small_clip):
    """The small clip of Ida's in her upright frame."""
    copy = Path(settings.INCOMING_DIR) / "arriving.mp4"
    shutil.copyfile(small_clip, copy)
    return begin(import_file(project, "Small clip.mp4", copy), project.frames.get())
