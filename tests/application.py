"""Starting the whole application for tests, as a person would."""

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path
from types import TracebackType
from typing import Self

ROOT = Path(__file__).resolve().parent.parent
BEGIN = """
from django.core.management import call_command
call_command("migrate", verbosity=0)
from django.contrib.auth import get_user_model
get_user_model().objects.get_or_create(username="museum")
"""


DATABASE = "cadrage.sqlite3"
_begun: list[bytes] = []
"""The database as everything begins with it, once it was made."""


class Application:
    """A web process and a worker process over one data folder."""

    def __init__(self, folder: Path, port: int | None = None, **environment: str) -> None:
        self.folder = folder
        self.port = port or free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.environment = {
            **os.environ,
            "CADRAGE_DATA": str(folder),
            "CADRAGE_DEMO": "1",
            "DJANGO_SETTINGS_MODULE": "server.settings",
            **environment,
        }
        self.web: subprocess.Popen[bytes] | None = None
        self.worker: subprocess.Popen[bytes] | None = None

    def __enter__(self) -> Self:
        self.prepare()
        self.start_web()
        self.start_worker()
        self.wait()
        return self

    def prepare(self) -> None:
        """Make the database and the account that visitors are signed in to; once for all that this process starts."""
        database = self.folder / DATABASE
        if _begun and not database.exists():
            self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            database.write_bytes(_begun[0])
            return
        new = not database.exists()
        self.manage("shell", "--verbosity", "0", "-c", BEGIN)
        if new:
            _begun.append(database.read_bytes())

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        for process in (self.worker, self.web):
            end(process, signal.SIGTERM)

    def manage(self, *command: str) -> None:
        """Run a management command to its end."""
        subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=self.environment, check=True)

    def start_web(self) -> None:
        """Start a web process, in place of one that has ended."""
        self.web = self._start("manage.py", "serve", "--port", str(self.port))

    def start_worker(self) -> None:
        """Start a worker, in place of one that has ended."""
        self.worker = self._start("manage.py", "work")

    def kill_worker(self) -> None:
        """End the worker at once, as a crash would."""
        end(self.worker, signal.SIGKILL)

    def start_parts_worker(self, name: str) -> subprocess.Popen[bytes]:
        """Start a worker as on another machine: it shares the media folder, and has no database."""
        return self._start("manage.py", "work", "--parts", CADRAGE_DATA=str(self.folder / name))

    def _start(self, *command: str, **environment: str) -> subprocess.Popen[bytes]:
        return subprocess.Popen(
            [sys.executable, *command],
            cwd=ROOT,
            env=self.environment | environment,
            start_new_session=True,
            stdout=subprocess.DEVNULL,
            stderr=(self.folder / "log").open("ab"),
        )

    def wait(self) -> None:
        """Wait until it answers."""
        for _ in range(120):
            try:
                with urllib.request.urlopen(self.address + "/api/visitor", timeout=5):
                    return
            except urllib.error.HTTPError:
                return
            except OSError:
                time.sleep(0.25)
        raise RuntimeError((self.folder / "log").read_text())


def end(process: subprocess.Popen[bytes] | None, how: signal.Signals) -> None:
    """End a process; at once, and with all that it started, where it is killed."""
    if process is not None and process.poll() is None:
        if how == signal.SIGKILL:
            os.killpg(process.pid, how)
        else:
            process.send_signal(how)
        try:
            process.wait(20)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
