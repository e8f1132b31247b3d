"""Workers on other machines: told through a real Redis, with the media folder and without the database."""

import shutil
import signal
import subprocess
import time
from contextlib import suppress

import pytest
import redis

from cadrage.errors import BadRequest
from cadrage.footage import probe
from cadrage.render.workspace import RenderWorkspace
from tests.application import Application, end, free_port
from tests.browser.visitor import Visitor, until
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


@pytest.fixture
def address(tmp_path):
    """A Redis server of this test's own."""
    port = free_port()
    program = shutil.which("redis-server")
    assert program
    command = [program, "--port", str(port), "--bind", "127.0.0.1", "--save", "", "--dir", str(tmp_path)]
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    client = redis.Redis(port=port)
    until(lambda: _answers(client), 20)
    yield f"redis://127.0.0.1:{port}/0"
    client.close()
    end(server, signal.SIGTERM)


def _answers(client):
    try:
        return client.ping()
    except redis.ConnectionError:
        return False


@pytest.mark.long
def test_two_machines_draw_parts_and_one_of_them_dies(tmp_path, driver, address):
    clip = write_clip(tmp_path / "long.mp4", frames=150)
    media = tmp_path / "media"
    workers = {}
    shared = {"CADRAGE_REDIS": address, "CADRAGE_MEDIA": str(media), "CADRAGE_PART_SECONDS": "1.5"}
    with Application(tmp_path / "main", **shared) as application:
        try:
            for name in ("second", "third"):
                workers[name] = application.start_parts_worker(name)
            visitor = Visitor(driver.request.new_context(base_url=application.address))
            project, framing = visitor.project_with(clip)
            time.sleep(3)  # both are up and wait at the queue
            job = visitor.post(f"/api/framings/{framing}/renders")["id"]
            workspace = RenderWorkspace(media / "renders" / f".workspace-{job}", media)
            until(lambda: workspace.has_request and sum(map(bool, _being_drawn(workspace))) >= 2, 60)
            end(workers["second"], signal.SIGKILL)
            seen = set()

            def finished():
                with suppress(BadRequest):  # it is cleared as soon as the render is done
                    seen.update(_makers(workspace))
                row = visitor.get(f"/api/projects/{project}/renders")[0]
                return row["state"] == "done" and row

            row = until(finished, 150)
            assert row["report"]["right"], row["report"]
            assert len(seen) >= 2  # the machine with the database, and another
            assert probe(media / "renders" / f"{job}.mp4").frames == 150
            left = sorted(path.name for path in (media / "renders").iterdir())
            assert left == sorted([f".lock-{job}", f"{job}.mp4"])
            assert not (tmp_path / "main" / "third" / "cadrage.sqlite3").exists()
        finally:
            for worker in workers.values():
                end(worker, signal.SIGKILL)


def _being_drawn(workspace):
    """Frames noted by whoever draws each part that is not done."""
    noted = (workspace.path("draw", number, ".lock") for number in workspace.undone("draw"))
    return [int(path.read_text() or 0) for path in noted if path.exists()]


def _makers(workspace):
    """The processes that parts were made by."""
    fresh = RenderWorkspace(workspace.folder, workspace.root)
    return {record.by for record in fresh.records("draw")}
