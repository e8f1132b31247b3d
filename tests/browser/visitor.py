"""Somebody who talks to the API as the page does."""

import time

from playwright.sync_api import APIRequestContext


class Visitor:
    """Somebody who talks to the API as the page does."""

    def __init__(self, request: APIRequestContext) -> None:
        self.request = request
        self.request.get("/")
        cookies = {cookie["name"]: cookie["value"] for cookie in self.request.storage_state()["cookies"]}
        self.headers = {"X-CSRFToken": cookies["csrftoken"]}

    def post(self, address, **options):
        answer = self.request.post(address, headers=self.headers, **options)
        assert answer.ok, answer.text()
        return answer.json()

    def get(self, address):
        return self.request.get(address).json()

    def project(self, name):
        """The id of a new project."""
        return self.post("/api/projects", data={"name": name})["id"]

    def add(self, project, clip):
        """Add a clip to a project."""
        upload = {"name": clip.name, "mimeType": "video/mp4", "buffer": clip.read_bytes()}
        self.post(f"/api/projects/{project}/footage", multipart={"file": upload})

    def framing(self, project, cell=0):
        """The id of a framing of a project."""
        return self.get(f"/api/projects/{project}")["cells"][cell]["id"]

    def project_with(self, clip):
        """A new project with a clip: its id and that of the clip's framing."""
        project = self.project("Mortal")
        self.add(project, clip)
        return project, self.framing(project)


def until(condition, seconds):
    """What a condition comes to, once it is something."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if found := condition():
            return found
        time.sleep(0.1)
    raise AssertionError("it did not happen in time")


def becomes(read, wanted, seconds):
    """Wait until what is read is what is wanted; what it was instead is told."""
    end = time.monotonic() + seconds
    while (found := read()) != wanted:
        assert time.monotonic() < end, f"{found!r} and not {wanted!r} after {seconds} s"
        time.sleep(0.1)
