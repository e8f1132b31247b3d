import shutil
from pathlib import Path
from threading import get_ident
from time import thread_time

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


LONGEST_TRANSACTION = 0.5  # seconds of work


@pytest.fixture(autouse=True)
def short_transactions(monkeypatch):
    """No work on files or pixels while the database is locked: what a transaction does itself takes little time."""
    begun: dict[int, tuple[Atomic, float]] = {}
    taken: list[float] = []
    enter, leave = Atomic.__enter__, Atomic.__exit__

    def entered(self):
        if not self._from_testcase:
            begun.setdefault(get_ident(), (self, thread_time()))
        return enter(self)

    def left(self, *error):
        outermost = begun.get(get_ident())
        if outermost and outermost[0] is self:
            del begun[get_ident()]
            taken.append(thread_time() - outermost[1])
        return leave(self, *error)

    monkeypatch.setattr(Atomic, "__enter__", entered)
    monkeypatch.setattr(Atomic, "__exit__", left)
    yield
    assert max(taken, default=0) < LONGEST_TRANSACTION


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
