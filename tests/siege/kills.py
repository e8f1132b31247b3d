"""Web and worker killed at random moments while people work; afterwards all is whole."""

import random
import signal
import sqlite3
import time
from pathlib import Path

import requests

from tests.application import Application, end
from tests.siege.people import Person

SEED = 17
LIVES, LONGEST = 0.3, 3.0
"""Seconds between two kills, on average and at most."""
BETWEEN = 20
"""Kills after which something is ordered."""


def killed(application: Application, clip: Path, count: int, seconds: float) -> str:
    """Kill one or the other many times while renders are made and changed, then see that all of it ends well.

    Args:
        application: that is running.
        clip: to be rendered.
        count: kills, at most.
        seconds: for which.
    """
    chance = random.Random(SEED)
    person = Person(application.address)
    project = person.project("Killed")
    person.add(project, clip)
    framing = person.framing(project)
    over, kills, ordered = time.monotonic() + seconds, 0, 0
    while time.monotonic() < over and kills < count:
        if chance.random() < 0.4:
            end(application.web, signal.SIGKILL)
            application.start_web()
        else:
            application.kill_worker()
            application.start_worker()
        kills += 1
        time.sleep(min(chance.expovariate(1 / LIVES), LONGEST))
        if kills % BETWEEN == 0:
            application.wait()
            ordered += _order(person, project, framing, ordered)
    application.wait()
    failed = _let_end(Person(application.address), project)
    _check(application.folder, failed)
    return f"{kills} kills, {ordered} renders ordered meanwhile"


def _order(person: Person, project: int, framing: dict[str, int], number: int) -> int:
    """Another render, if the web process happens to be there."""
    try:
        cells = {"framings": [framing["id"]], "action": {"do": "move", "offset_x": number + 1, "offset_y": 0}}
        moved = person.ask("POST", f"/api/projects/{project}/cells", json=cells, timeout=3)
        answer = person.ask("POST", f"/api/framings/{framing['id']}/renders", timeout=3)
    except requests.RequestException:
        return 0
    return int(moved.ok and answer.ok)


def _let_end(person: Person, project: int) -> set[int]:
    """Wait until nothing waits and nothing is at work; renders that were given up, since too many workers died."""
    over = time.monotonic() + 90
    while time.monotonic() < over:
        rows = person.get(f"/api/projects/{project}/renders")
        states = {row["state"] for row in rows}
        if not states & {"queued", "running"}:
            assert states <= {"done", "failed"}, states
            return {row["id"] for row in rows if row["state"] == "failed"}
        time.sleep(0.5)
    raise AssertionError(f"after 90 s there are still {states}")


def _check(folder: Path, failed: set[int]) -> None:
    """See that the database is whole, and that nothing half made lies about but what can be tried again."""
    with sqlite3.connect(f"file:{folder / 'cadrage.sqlite3'}?mode=ro", uri=True) as database:
        assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        assert database.execute("PRAGMA foreign_key_check").fetchall() == []
    over = time.monotonic() + 20
    kept = {f".workspace-{number}" for number in failed}
    while left := [path.name for path in (folder / "renders").glob(".*") if not path.name.startswith(".lock-")]:
        if set(left) <= kept:
            break
        assert time.monotonic() < over, left
        time.sleep(0.5)
    assert list((folder / "incoming").iterdir()) == []
