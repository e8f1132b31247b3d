"""People who talk to a server over real connections."""

import time
from pathlib import Path
from typing import Any

import requests

PATIENCE = 60.0  # seconds


class Person:
    """Somebody with a browser of their own: signed in with a password, or let in by the demonstration."""

    def __init__(self, address: str, name: str = "", password: str = "") -> None:
        self.address = address
        self.session = requests.Session()
        self.session.headers["Referer"] = address
        page = self.session.get(f"{address}/sign-in/" if name else f"{address}/", timeout=PATIENCE)
        page.raise_for_status()
        if name:
            given = {"username": name, "password": password, "csrfmiddlewaretoken": self.token}
            self.session.post(f"{address}/sign-in/", given, timeout=PATIENCE).raise_for_status()

    @property
    def token(self) -> str:
        """What goes with everything that changes something."""
        return self.session.cookies.get("csrftoken", "")

    @property
    def cookies(self) -> str:
        """All that the browser keeps, as a header."""
        return "; ".join(f"{cookie.name}={cookie.value}" for cookie in self.session.cookies)

    def ask(self, method: str, path: str, **given: Any) -> requests.Response:
        """Any answer."""
        headers = {"X-CSRFToken": self.token, **given.pop("headers", {})}
        return self.session.request(
            method, f"{self.address}{path}", headers=headers, timeout=given.pop("timeout", PATIENCE), **given
        )

    def get(self, path: str) -> Any:
        """What is there."""
        return _checked(self.ask("GET", path)).json()

    def post(self, path: str, body: object = None) -> Any:
        """What comes of something that is asked for."""
        return _checked(self.ask("POST", path, json=body)).json()

    def project(self, name: str) -> int:
        """A new project."""
        return int(self.post("/api/projects", {"name": name})["id"])

    def add(self, project: int, clip: Path) -> dict[str, Any]:
        """A clip in a project."""
        with clip.open("rb") as file:
            answer = self.ask("POST", f"/api/projects/{project}/footage", files={"file": (clip.name, file)})
        return dict(_checked(answer).json())

    def cells(self, project: int) -> list[dict[str, Any]]:
        """The cells of a project's board."""
        return list(self.get(f"/api/projects/{project}")["cells"])

    def framing(self, project: int) -> dict[str, Any]:
        """The first framing of a project."""
        return dict(self.get(f"/api/framings/{self.cells(project)[0]['id']}"))

    def preview(self, framing: dict[str, Any], shift: int, width: int = 640) -> requests.Response:
        """A picture of a framing moved by some pixels, as the bench asks for it."""
        design = {part: framing["plan"][part] for part in ("placement", "surround", "finish", "motion", "shots")}
        design["placement"] = {**design["placement"], "offset_x": str(shift)}
        body = {"design": design, "time": "0", "width": width}
        return self.ask("POST", f"/api/framings/{framing['id']}/preview", json=body)

    def rendered(self, project: int, framing: int, seconds: float = 60) -> int:
        """A render of a framing, once it is done."""
        number = self.post(f"/api/framings/{framing}/renders")["id"]
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            states = {row["id"]: row["state"] for row in self.get(f"/api/projects/{project}/renders")}
            if states[number] == "done":
                return int(number)
            assert states[number] != "failed"
            time.sleep(0.2)
        raise AssertionError(f"render {number} did not end in time")


def _checked(answer: requests.Response) -> requests.Response:
    assert answer.ok, f"{answer.status_code} {answer.text[:500]}"
    return answer
