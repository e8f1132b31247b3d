"""What one person does to the others with clips that take long, streams that are not read, and work that is ordered."""

import subprocess
import tempfile
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from fractions import Fraction
from pathlib import Path

import requests

from tests.siege import lines
from tests.siege.attacks import Field
from tests.siege.people import Person

POSTS = 1060
SOURCES = tuple(f"127.0.0.{number}" for number in range(2, 8))
"""Other addresses of this machine, from which an attack comes."""
PLAYED_SECONDS = 20.0
LOOKS = 16
SAMPLES = 27
ANOTHER = """
from django.contrib.auth.models import User
User.objects.create_user("otto", password="tram-depot-9")
"""


def strangers_posts(field: Field) -> str:
    """1,060 posts without an account from six addresses, of each of which a byte comes now and then."""
    refused, held = 0, []
    try:
        for number in range(POSTS):
            try:
                source = SOURCES[number % len(SOURCES)]
                held.append(lines.begin_post(field.address, "/sign-in/", length=60_000, source=source))
            except OSError:
                refused += 1
        until = time.monotonic() + 15
        while time.monotonic() < until:
            for line in list(held):
                try:
                    line.sendall(b"x")
                except OSError:
                    held.remove(line)
            time.sleep(1)
        return f"{len(held)} lines were still held after 15 s"
    finally:
        for line in held:
            line.close()


def gif(path: Path, side: int, frames: int) -> Path:
    """Write a GIF whose pictures are large and change by one pixel each (GIF89a)."""
    size = side.to_bytes(2, "little")
    screen = b"GIF89a" + size + size + b"\x80\x00\x00" + bytes(3) + b"\xff\xff\xff"
    control = b"\x21\xf9\x04\x00\x04\x00\x00\x00"
    pixel = b"\x2c" + bytes(4) + b"\x01\x00\x01\x00\x00" + b"\x02\x02\x44\x01\x00"
    path.write_bytes(screen + (control + pixel) * frames + b"\x3b")
    return path


def avc(path: Path, side: int, frames: int) -> Path:
    """Write an H.264 clip of large grey pictures with one keyframe."""
    source = f"color=gray:s={side}x{side}:r=25"
    options = ["-frames:v", str(frames), "-c:v", "libx264", "-preset", "ultrafast", "-g", "100000", "-crf", "40"]
    subprocess.run(["ffmpeg", "-v", "error", "-f", "lavfi", "-i", source, *options, "-y", path], check=True)
    return path


def small_file_long_clip(field: Field) -> str:
    """A GIF of 4.6 MB that holds 200,000 pictures of 8000×8000."""
    with tempfile.TemporaryDirectory() as folder, gif(Path(folder) / "long.gif", 8000, 200_000).open("rb") as file:
        path = f"/api/projects/{field.project}/footage"
        answer = Person(field.address).ask("POST", path, files={"file": ("long.gif", file)})
    assert answer.status_code == 422, answer.text
    return answer.json()["title"]


def heavy_clips(field: Field) -> str:
    """A GIF of 3,000 pictures of 8000×8000, an H.264 clip of 250 of 8192×8192, and 16 looks at once near their ends."""
    person = Person(field.address)
    project = person.project("Heavy")
    with tempfile.TemporaryDirectory() as folder:
        clips = [gif(Path(folder) / "heavy.gif", 8000, 3000), avc(Path(folder) / "heavy.mp4", 8192, 250)]
        rows = [person.add(project, clip) for clip in clips]

    def look(number: int) -> int:
        row = rows[number % len(rows)]
        late = float(Fraction(row["timing"]["duration"])) * (0.9 + number / 1000)
        path = f"/api/footage/{row['id']}/picture?width=320&time={late:.3f}"
        return person.ask("GET", path, timeout=300).status_code

    with ThreadPoolExecutor(LOOKS) as many:
        answers = Counter(many.map(look, range(LOOKS)))
    assert set(answers) <= {200, 422, 503}, answers
    return ", ".join(f"{count} answered {status}" for status, count in sorted(answers.items()))


def held_streams(field: Field) -> str:
    """12 streams that play for one person and of which nothing is read."""
    person = Person(field.address)
    design = {part: field.framing["plan"][part] for part in ("placement", "surround", "finish", "motion", "shots")}
    answers = []
    for number in range(12):
        body = {"designs": [design], "time": "0", "viewer": f"page {number}", "lines": 360}
        answers.append(person.ask("POST", f"/api/framings/{field.framing['id']}/play", json=body, stream=True))
    time.sleep(5)
    other = Person(field.address)
    body = {"designs": [design], "time": "0", "viewer": "another", "lines": 360}
    theirs = other.ask("POST", f"/api/framings/{field.framing['id']}/play", json=body, stream=True)
    for answer in (*answers, theirs):
        answer.close()
    assert theirs.status_code == 200, theirs.text
    return f"{Counter(answer.status_code for answer in answers)[200]} begun; another person's plays"


def heavy_playing(field: Field) -> str:
    """An H.264 clip of 8192×8192 that two pages of one person play for 20 seconds."""
    person = Person(field.address)
    project = person.project("Heavy playing")
    with tempfile.TemporaryDirectory() as folder:
        person.add(project, avc(Path(folder) / "heavy.mp4", 8192, 100))
    framing = person.framing(project)
    design = {part: framing["plan"][part] for part in ("placement", "surround", "finish", "motion", "shots")}

    def play(number: int) -> tuple[int, int]:
        body = {"designs": [design], "time": "0", "viewer": f"heavy {number}", "lines": 360}
        with person.ask("POST", f"/api/framings/{framing['id']}/play", json=body, stream=True) as answer:
            read, until = 0, time.monotonic() + PLAYED_SECONDS
            if answer.status_code == 200:
                with suppress(requests.ConnectionError):  # nothing came for as long as a request waits
                    for part in answer.iter_content(65_536):
                        read += len(part)
                        if time.monotonic() > until:
                            break
            return answer.status_code, read

    with ThreadPoolExecutor(2) as many:
        answers = list(many.map(play, range(2)))
    assert {status for status, _ in answers} <= {200, 503}, answers
    return ", ".join(f"answered {status} and {read // 1000} KB" for status, read in answers)


def many_samples(field: Field) -> str:
    """27 sample projects of one person, while another orders a render."""
    field.application.manage("shell", "--verbosity", "0", "-c", ANOTHER)
    person = Person(field.address, "otto", "tram-depot-9")
    answers = Counter(person.ask("POST", "/api/samples").status_code for _ in range(SAMPLES))
    moved = {"do": "move", "offset_x": 7, "offset_y": 0}  # so that it has to be rendered anew
    field.person.post(f"/api/projects/{field.project}/cells", {"framings": [field.framing["id"]], "action": moved})
    begun = time.monotonic()
    field.person.rendered(field.project, field.framing["id"])
    return f"{answers[200]} begun; another's render took {time.monotonic() - begun:.0f} s"
