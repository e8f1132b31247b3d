"""Slow lines hold nothing that others need."""

import socket
import time

import pytest

from tests.application import Application
from tests.siege import lines
from tests.siege.people import Person

pytestmark = pytest.mark.timeout(120)
MANY = 50
LARGE = 64_000_000  # bytes, more than connections hold
ENOUGH = 0.5  # seconds, for a preview


@pytest.fixture(scope="module")
def application(tmp_path_factory):
    with Application(tmp_path_factory.mktemp("served")) as started:
        yield started


@pytest.fixture(scope="module")
def bench(application, small_clip):
    """Somebody at a framing that is rendered, and the path of a large file to download."""
    person = Person(application.address)
    project = person.project("Bench")
    person.add(project, small_clip)
    framing = person.framing(project)
    number = person.rendered(project, framing["id"])
    (file,) = (application.folder / "renders").glob(f"{number}.*")
    file.write_bytes(bytes(LARGE))
    return person, project, framing, f"/api/renders/{number}/file"


def took(person, framing, shifts):
    """Seconds for a preview, of the middle one of several."""
    each = []
    for shift in shifts:
        begun = time.monotonic()
        answer = person.preview(framing, shift)
        assert answer.status_code == 200, answer.text
        each.append(time.monotonic() - begun)
    return sorted(each)[len(each) // 2]


def test_who_is_turned_away_while_still_sending_is_told_why(application):
    """As a proxy does that passes on a body while it comes; one that is reset says 502."""
    port = application.port
    for _ in range(5):
        with socket.create_connection(("127.0.0.1", port), timeout=20) as line:
            line.sendall(b"POST /sign-in/ HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 9000000\r\n\r\n")
            for _ in range(20):
                line.sendall(bytes(100_000))
                time.sleep(0.002)
            answer = b"".join(iter(lambda line=line: line.recv(4096), b""))
        assert answer.startswith(b"HTTP/1.1 413 ")
        assert b"too much" in answer


def test_trickling_posts_and_half_heads_hold_no_thread(application, bench):
    person, project, framing, _ = bench
    address = application.address
    slow = [
        *(lines.begin_post(address, "/sign-in/", length=60_000) for _ in range(MANY)),
        *(lines.begin_post(address, f"/api/projects/{project}/footage", person.cookies) for _ in range(MANY)),
        *(lines.half_a_head(address) for _ in range(MANY)),
    ]
    with lines.all_of(slow) as held:
        lines.trickle(held)
        assert took(person, framing, range(1, 10)) < ENOUGH
        lines.trickle(held)


def test_stalled_downloads_hold_no_thread_and_go_on_whole(application, bench):
    person, _, framing, file = bench
    with lines.all_of([lines.stalled(application.address, file, person.cookies) for _ in range(MANY)]) as held:
        assert took(person, framing, range(11, 20)) < ENOUGH
        assert lines.rest(held[0], LARGE) >= LARGE
    part = person.ask("GET", file, headers={"Range": "bytes=1000-1999"})
    assert (part.status_code, len(part.content), part.headers["Content-Range"]) == (
        206,
        1000,
        f"bytes 1000-1999/{LARGE}",
    )


def test_archives_that_stall_leave_threads_to_others(application, bench):
    person, project, framing, _ = bench
    path = f"/api/projects/{project}/delivery/files"
    with lines.all_of([lines.stalled(application.address, path, person.cookies) for _ in range(2)]):
        assert person.ask("GET", path, stream=True).status_code == 503
        assert took(person, framing, range(21, 30)) < ENOUGH


def test_what_is_not_welcome_is_turned_away_by_its_head(application, bench):
    person, project, _, _ = bench
    address, upload = application.address, f"/api/projects/{project}/footage"
    for path, length, answer in (("/sign-in/", 10**9, b"413"), (upload, 10**15, b"413")):
        with lines.begin_post(address, path, person.cookies, length) as line:
            assert line.recv(12) == b"HTTP/1.1 " + answer
