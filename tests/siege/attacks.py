"""Attacks and mistakes, each bounded, and the expected answers."""

import io
import json
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from time import sleep
from typing import Any

import cv2
import numpy as np
from PIL import Image

from tests.application import Application
from tests.siege import lines
from tests.siege.people import Person

MANY = 50
HELD = 3.0
"""Seconds for which slow lines are held."""
LARGE = 64_000_000
LONG = 10_000_000
"""Characters of a text that is far too long."""


@dataclass(frozen=True)
class Field:
    """The targets of the attacks.

    Attributes:
        application: the server.
        person: signed in to it.
        project: a project of this person.
        framing: a framing in the project.
        download: path of a file that is larger than what connections hold.
    """

    application: Application
    person: Person
    project: int
    framing: dict[str, Any]
    download: str

    @property
    def address(self) -> str:
        """The address of the server."""
        return self.application.address


Attack = Callable[[Field], str]


def slow_posts(field: Field) -> str:
    """Send 50 slow posts signed in, 50 signed out, and 50 heads that do not end."""
    upload = f"/api/projects/{field.project}/footage"
    slow = [
        *(lines.begin_post(field.address, upload, field.person.cookies) for _ in range(MANY)),
        *(lines.begin_post(field.address, "/sign-in/", length=60_000) for _ in range(MANY)),
        *(lines.half_a_head(field.address) for _ in range(MANY)),
    ]
    with lines.all_of(slow) as held:
        for _ in range(3):
            lines.trickle(held)
            sleep(HELD / 3)
    return f"{len(slow)} lines held"


def stalled_downloads(field: Field) -> str:
    """50 downloads of which nothing is read."""
    with lines.all_of([lines.stalled(field.address, field.download, field.person.cookies) for _ in range(MANY)]):
        sleep(HELD)
    return f"{MANY} lines held"


def unwelcome_bodies(field: Field) -> str:
    """20 bodies of 100 GB that begin at the sign-in page."""
    with lines.all_of([lines.begin_post(field.address, "/sign-in/", length=10**11) for _ in range(20)]) as held:
        answers = {line.recv(12).decode() for line in held}
    assert answers == {"HTTP/1.1 413"}, answers
    return "refused by their heads"


def forty_photographs(field: Field) -> str:
    """40 photographs of 12 million pixels at once, by four."""
    noise = np.random.default_rng(1).integers(0, 255, (75, 100, 3), np.uint8)
    data = cv2.imencode(".jpg", cv2.resize(noise, (4000, 3000)), [cv2.IMWRITE_JPEG_QUALITY, 80])[1].tobytes()

    def send(part: int) -> int:
        person = Person(field.address)
        files = [("files", (f"p{part}-{number * 3}.jpg", io.BytesIO(data), "image/jpeg")) for number in range(10)]
        return person.ask("POST", f"/api/projects/{field.project}/stills", files=files).status_code

    with ThreadPoolExecutor(4) as many:
        answers = list(many.map(send, range(4)))
    assert answers == [200] * 4, answers
    return "40 taken in"


def small_files_large_pictures(field: Field) -> str:
    """4 PNG files of some 100 KB that hold 80 million pixels each, at once, and one look at each."""
    data = io.BytesIO()
    Image.new("RGBA", (8900, 8900), (90, 80, 70, 255)).save(data, "PNG")

    def send(number: int) -> int:
        person = Person(field.address)
        files = [("files", (f"large-{number}.png", io.BytesIO(data.getvalue()), "image/png"))]
        answer = person.ask("POST", f"/api/projects/{field.project}/stills", files=files)
        if not answer.ok:
            return answer.status_code
        return person.ask("GET", f"/api/footage/{answer.json()[0]['id']}/picture?width=320").status_code

    with ThreadPoolExecutor(4) as many:
        answers = list(many.map(send, range(4)))
    assert set(answers) <= {200, 422, 503}, answers
    return f"{len(data.getvalue()) // 1000} KB each, answered {sorted(set(answers))}"


def long_captions(field: Field) -> str:
    """A file of captions of 100 MB."""
    line = b"1\n00:00:00,000 --> 00:00:01,000\nwords\n\n"
    files = {"file": ("long.srt", io.BytesIO(line * (100_000_000 // len(line))), "text/plain")}
    answer = field.person.ask("POST", f"/api/projects/{field.project}/materials", files=files)
    assert answer.status_code in (413, 422), answer.status_code
    return f"answered {answer.status_code}"


def long_texts(field: Field) -> str:
    """Ten million characters wherever a text is taken, and JSON that is deep and wide."""
    long = "a" * LONG
    number, project = field.framing["id"], field.project
    bodies = [
        ("POST", "/api/projects", json.dumps({"name": long})),
        ("PATCH", f"/api/projects/{project}", json.dumps({"name": long})),
        ("POST", f"/api/projects/{project}/linked", json.dumps({"path": "/" + long})),
        ("POST", f"/api/projects/{project}/members", json.dumps({"name": long, "role": "see"})),
        ("POST", f"/api/framings/{number}/preview", json.dumps({"design": {"placement": {"offset_x": "9" * LONG}}})),
        ("POST", f"/api/framings/{number}/preview", "[" * 1_000_000),
        ("POST", f"/api/framings/{number}/preview", json.dumps({"design": {}, "time": "1/" + "9" * LONG})),
        ("POST", "/api/settings", json.dumps({"name": "x", "filename_template": "{clip}" * (LONG // 6)})),
    ]
    answers = {field.person.ask(way, path, data=body, headers=AS_JSON).status_code for way, path, body in bodies}
    assert all(400 <= answer < 500 for answer in answers), answers
    return f"{len(bodies)} refused"


AS_JSON = {"Content-Type": "application/json"}


def many_sign_ins(field: Field) -> str:
    """60 guesses of a password."""
    person = Person(field.address)

    def guess(number: int) -> int:
        given = {"username": "nobody", "password": f"guess {number}", "csrfmiddlewaretoken": person.token}
        return person.session.post(f"{field.address}/sign-in/", given, timeout=60).status_code

    answers = [guess(number) for number in range(60)]
    assert answers.count(429) >= 49, answers
    return f"{answers.count(429)} of 60 not looked at"


def many_cells(field: Field, clip: Path, count: int = 120) -> str:
    """All cells of a board of 720 are changed at once, and that is undone at once."""
    project = field.person.project("Bulk")
    field.person.add(project, clip)
    for side in range(5):
        frame = {"frame": {"width": 400 + 20 * side, "height": 300, "name": f"F{side}"}}
        assert field.person.ask("POST", f"/api/projects/{project}/frames", json=frame["frame"]).ok
    field.application.manage("shell", "--verbosity", "0", "-c", COPIES.format(project=project, count=count - 1))
    cells = [cell["id"] for cell in field.person.cells(project)]
    place = {"do": "move", "offset_x": 3, "offset_y": 0}
    for way, body in (("cells", {"framings": cells, "action": place}), ("undo", {})):
        answer = field.person.ask("POST", f"/api/projects/{project}/{way}", json=body, timeout=120)
        assert answer.ok, answer.text[:200]
    return f"{len(cells)} cells"


COPIES = """
from server.studio.models import Footage
clip = Footage.objects.get(project={project})
for number in range({count}):
    clip.pk, clip._state.adding, clip.name = None, True, f"copy {{number}}"
    clip.save()
"""
