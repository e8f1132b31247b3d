"""An outside generator may answer anything: what cannot be used ends in words, within a bounded time."""

import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest

from cadrage.errors import BadRequest
from server.studio import generator as module
from server.studio.generator import Generator

DEEP = b"[" * 200_000


@pytest.fixture
def answering():
    """A server at a free port that answers every request with the bytes that it is given, and its address."""

    class Answer(BaseHTTPRequestHandler):
        raw = b""
        address = ""

        def answer(self):
            type(self).address = self.path
            self.rfile.read(int(self.headers.get("Content-Length", 0)))
            self.wfile.write(self.raw)

        def log_message(self, *_):
            pass

    for method in ("GET", "POST", "DELETE"):
        setattr(Answer, f"do_{method}", Answer.answer)

    server = ThreadingHTTPServer(("127.0.0.1", 0), Answer)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield Answer, Generator(f"http://127.0.0.1:{server.server_port}")
    server.shutdown()
    server.server_close()


def body(data: bytes) -> bytes:
    return b"HTTP/1.0 200 OK\r\nContent-Length: %d\r\n\r\n" % len(data) + data


@pytest.mark.parametrize(
    "raw",
    [
        b"",
        b"nothing of HTTP\r\n\r\n",
        b"HTTP/1.0 200 OK\r\nContent-Length: 900\r\n\r\nshort",
        b"HTTP/1.0 302 Found\r\nLocation: http://127.0.0.1:9/\r\n\r\n",
        b"HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n",
        body(b""),
        body(DEEP),
        body(b"\xff\xfe"),
        body(b"null"),
        body(b"[]"),
        body(b'{"id": 7, "state": "gone"}'),
        body(b'{"id": "", "state": "done", "percent": NaN}'),
        body(b'{"id": "../a", "state": ["done"], "variants": 1}'),
        body(b'{"state": "done", "percent": 1' + b"0" * 6000 + b"}"),
        body(b'{"state": "done", "percent": 100, "variants": 9}'),
        body(b'{"state": "done", "percent": 100, "variants": true}'),
        body(b'{"state": "done", "problem": {"a": 1}}'),
    ],
)
def test_an_answer_that_is_none_of_the_contract_is_told(answering, raw):
    answer, generator = answering
    answer.raw = raw
    with pytest.raises(BadRequest):
        generator.begin(b"still", b"mask", "a sky", 1)
    with pytest.raises(BadRequest):
        generator.standing("name")
    generator.cancel("name")


def test_names_are_sent_as_one_part_of_the_address(answering):
    answer, generator = answering
    answer.raw = body(json.dumps({"id": "a b?c#d"}).encode())
    name = generator.begin(b"still", b"mask", "a sky", 1)
    answer.raw = body(b'{"state": "running", "percent": 130}')
    assert generator.standing(name).percent == 100
    assert answer.address == "/jobs/a%20b%3Fc%23d"


def test_an_answer_that_drips_without_end_is_given_up(monkeypatch):
    monkeypatch.setattr(module, "PICTURE_SECONDS", 0.5)
    ended = threading.Event()

    class Drip(BaseHTTPRequestHandler):
        def do_GET(self):
            self.send_response(200)
            self.end_headers()
            try:
                while not ended.wait(0.05):
                    self.wfile.write(b" ")
            except OSError:
                ended.set()

        def log_message(self, *_):
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), Drip)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        with pytest.raises(BadRequest):
            Generator(f"http://127.0.0.1:{server.server_port}").picture("name", 0)
        assert ended.wait(10)  # and its connection is closed
    finally:
        ended.set()
        server.shutdown()
        server.server_close()
