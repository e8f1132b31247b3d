"""A worker that dies in the middle of a render, and one that takes over."""

import time

import pytest
from playwright.sync_api import Playwright

from tests.application import Application
from tests.clips import write_clip

pytestmark = pytest.mark.timeout(240)


class Visitor:
    """Somebody who talks to the API as the page does."""

    def __init__(self, playwright: Playwright, application: Application) -> None:
        self.request = playwright.request.new_context(base_url=application.address)
        self.request.get("/")
        cookies = {cookie["name"]: cookie["value"] for cookie in self.request.storage_state()["cookies"]}
        self.headers = {"X-CSRFToken": cookies["csrftoken"], "Referer": application.address}

    def post(self, address, **options):
        answer = self.request.post(address, headers=self.headers, **options)
        assert answer.ok, answer.text()
        return answer.json()

    def get(self, address):
        return self.request.get(address).json()


def until(condition, seconds):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if found := condition():
            return found
        time.sleep(0.1)
    raise AssertionError("it did not happen in time")


def test_a_killed_worker_leaves_no_half_file_and_the_render_is_done_again(application, driver, tmp_path):
    clip = write_clip(tmp_path / "long.mp4", frames=160)
    visitor = Visitor(driver, application)
    project = visitor.post("/api/projects", data={"name": "Mortal"})["id"]
    upload = {"name": "long.mp4", "mimeType": "video/mp4", "buffer": clip.read_bytes()}
    visitor.post(f"/api/projects/{project}/footage", multipart={"file": upload})
    framing = visitor.get(f"/api/projects/{project}")["cells"][0]["id"]
    job = visitor.post(f"/api/framings/{framing}/renders")["id"]

    def state():
        return visitor.get(f"/api/projects/{project}/renders")[0]

    until(lambda: state()["state"] == "running" and state()["done"] > 10, 60)
    application.kill_worker()
    assert state()["state"] == "running"
    assert visitor.request.get(f"/api/renders/{job}/file").status == 404

    application.start_worker()
    until(lambda: state()["attempts"] == 2, 60)
    done = until(lambda: state()["state"] == "done" and state(), 120)
    assert done["report"]["right"]
    assert list((application.folder / "renders").glob("*.part")) == []
