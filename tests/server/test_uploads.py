"""Files in pieces, over real connections, by a library that speaks the tus protocol from the other side."""

import hashlib
from base64 import b64encode
from concurrent.futures import ThreadPoolExecutor

import cv2
import numpy as np
import pytest
from tusclient.client import TusClient

from tests.application import Application
from tests.siege.people import Person

pytestmark = pytest.mark.timeout(120)
GOOD = {"Tus-Resumable": "1.0.0", "Content-Type": "application/offset+octet-stream"}


@pytest.fixture(scope="module")
def application(tmp_path_factory):
    with Application(tmp_path_factory.mktemp("served")) as started:
        yield started


@pytest.fixture
def person(application):
    return Person(application.address)


@pytest.fixture
def project(person):
    return person.project("Arriving")


def sender(person, project):
    client = TusClient(f"{person.address}/api/projects/{project}/uploads")
    client.set_headers({"Cookie": person.cookies, "X-CSRFToken": person.token, "Referer": person.address})
    return client


def begin(person, project, size=1000, name="QS5tcDQ=", **more):
    headers = {"Tus-Resumable": "1.0.0", "Upload-Length": str(size), "Upload-Metadata": f"filename {name}", **more}
    return person.ask("POST", f"/api/projects/{project}/uploads", headers=headers)


def send(person, address, offset, data):
    return person.ask("PATCH", address, headers={**GOOD, "Upload-Offset": str(offset)}, data=data)


def left(person, project):
    return [(one["name"], one["received"]) for one in person.get(f"/api/projects/{project}/uploads")]


def test_a_file_arrives_in_pieces_over_a_line_that_breaks(application, person, project, small_clip):
    first = sender(person, project).uploader(
        str(small_clip), chunk_size=10_000, metadata={"filename": "Kept.mp4"}, metadata_encoding="utf-8"
    )
    first.upload(stop_at=20_000)
    assert left(person, project) == [("Kept.mp4", 20_000)]
    again = sender(person, project).uploader(str(small_clip), chunk_size=50_000, url=first.url)
    assert again.offset == 20_000
    again.upload()
    (clip,) = person.post(f"/api/projects/{project}/sent", {"uploads": [first.url.rpartition("/")[2]]})
    assert clip["name"] == "Kept.mp4"
    (kept,) = (application.folder / "footage").iterdir()
    assert hashlib.sha256(kept.read_bytes()).digest() == hashlib.sha256(small_clip.read_bytes()).digest()
    assert left(person, project) == []
    assert list((application.folder / "incoming").iterdir()) == []


def test_what_has_not_arrived_whole_is_not_taken_in_and_stays(person, project):
    address = begin(person, project).headers["Location"]
    assert send(person, address, 0, b"x" * 10).headers["Upload-Offset"] == "10"
    answer = person.ask("POST", f"/api/projects/{project}/sent", json={"uploads": [address.rpartition("/")[2]]})
    assert answer.status_code == 422
    assert answer.json()["title"] == "It has not arrived whole."
    assert left(person, project) == [("A.mp4", 10)]
    assert person.ask("DELETE", address, headers=GOOD).status_code == 204
    assert person.ask("HEAD", address).status_code == 404


def test_a_piece_goes_where_the_file_ends_and_nowhere_else(person, project):
    address = begin(person, project).headers["Location"]
    assert send(person, address, 5, b"late").status_code == 409
    assert send(person, address, "five", b"late").status_code == 422
    assert send(person, address, 0, b"y" * 2000).headers["Upload-Offset"] == "1000"  # and not more than was said
    with ThreadPoolExecutor(8) as many:
        address = begin(person, project, 8_000_000).headers["Location"]
        answers = list(many.map(lambda _: send(person, address, 0, b"z" * 1_000_000).status_code, range(8)))
    assert answers.count(204) == 1
    assert set(answers) <= {204, 409, 503}
    assert person.ask("HEAD", address).headers["Upload-Offset"] == "1000000"


def test_another_version_a_wrong_name_and_too_much_are_told(person, project):
    assert begin(person, project, **{"Tus-Resumable": "0.2.2"}).headers["Tus-Version"] == "1.0.0"
    assert begin(person, project, 10**15 - 1).status_code == 413
    assert begin(person, project, "-1").status_code == 422
    assert begin(person, project, name="%%%").ok
    assert begin(person, project, name="Li4vLi4vZXRjL3Bhc3N3ZAA=").ok  # ../../etc/passwd and a NUL
    assert [name for name, _ in left(person, project)] == ["clip", "passwd"]


def test_three_hundred_stills_are_one_sequence(person, project):
    picture = cv2.imencode(".png", np.full((32, 32, 3), 90, np.uint8))[1].tobytes()
    tokens = []
    for number in range(300):
        name = {"Upload-Metadata": f"filename {b64encode(b'Slow.%04d.png' % number).decode()}"}
        headers = {**GOOD, "Upload-Length": str(len(picture)), **name}
        answer = person.ask("POST", f"/api/projects/{project}/uploads", headers=headers, data=picture)
        tokens.append(answer.headers["Location"].rpartition("/")[2])
    (clip,) = person.post(f"/api/projects/{project}/sent", {"uploads": tokens})
    assert clip["name"] == "Slow.png"
    assert clip["info"]["frames"] == 300
