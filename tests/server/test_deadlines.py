"""Connections that would hold the server for long are ended, and it says that it is alive while all threads work."""

import socket
import threading
import time

import pytest

from server import serving


class Held:
    """An application all of whose answers wait, or are long, until they are let go."""

    def __init__(self):
        self.go, self.begun, self.closed = threading.Event(), threading.Event(), threading.Event()

    def __call__(self, environ, start_response):
        start_response("200 OK", [("Content-Type", "text/plain")])
        if environ["PATH_INFO"] == "/awaited":
            self.begun.set()
            while not environ["waitress.client_disconnected"]():
                time.sleep(0.02)
            self.closed.set()
            return []
        if environ["PATH_INFO"] == "/wait":
            self.go.wait(20)
            return [b"done"]
        return self._endless()

    def _endless(self):
        try:
            while True:
                yield bytes(1 << 16)
        finally:
            self.closed.set()


@pytest.fixture
def server(monkeypatch, settings, tmp_path):
    monkeypatch.setattr(serving, "HEAD_S", 0.5)
    monkeypatch.setattr(serving, "FORM_S", 0.5)
    monkeypatch.setattr(serving, "UNREAD_S", 0.5)
    monkeypatch.setattr(serving, "MAX_FROM_ADDRESS", 20)
    settings.INCOMING_DIR, settings.DEMO = tmp_path, True
    application = Held()
    made = serving.build_server(application, "127.0.0.1", 0, threads=2)
    made.held = application
    loop = threading.Thread(target=made.run, daemon=True)
    loop.start()
    yield made
    application.go.set()
    made.close()
    made.task_dispatcher.shutdown()
    loop.join(5)


def line(server, sent):
    opened = socket.create_connection(("127.0.0.1", server.effective_port), timeout=20)
    opened.sendall(sent)
    return opened


def ends(opened):
    """Whether the other side ends a connection, whatever it says before."""
    opened.settimeout(10)
    try:
        while opened.recv(1 << 16):
            pass
    except ConnectionResetError:
        pass
    return True


def test_a_head_and_a_form_have_deadlines(server):
    half = line(server, b"GET / HTTP/1.1\r\nHost: ")
    form = line(server, b"POST /sign-in/ HTTP/1.1\r\nHost: a\r\nContent-Length: 60000\r\n\r\nx")
    file = line(server, b"POST /api/x HTTP/1.1\r\nHost: a\r\nContent-Length: 60000\r\n\r\nx")
    assert ends(half)
    assert ends(form)
    file.settimeout(1)
    with pytest.raises(TimeoutError):  # files may take their time
        file.recv(1)


def test_an_answer_that_nobody_reads_is_ended(server):
    unread = socket.socket()
    unread.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4096)
    unread.connect(("127.0.0.1", int(server.effective_port)))
    unread.sendall(b"GET /endless HTTP/1.1\r\nHost: a\r\n\r\n")
    assert server.held.closed.wait(15)


def test_it_says_that_it_is_alive_while_all_threads_work(server):
    waiting = [line(server, b"GET /wait HTTP/1.1\r\nHost: a\r\n\r\n") for _ in range(4)]
    begun = time.monotonic()
    for method, body in ((b"GET", b'{"alive": true}'), (b"HEAD", b"")):
        asked = line(server, method + b" /healthz HTTP/1.1\r\nHost: whatever\r\n\r\n")
        answer = b"".join(iter(lambda asked=asked: asked.recv(4096), b""))
        assert answer.startswith(b"HTTP/1.1 200 ")
        assert answer.partition(b"\r\n\r\n")[2] == body
    assert time.monotonic() - begun < 10  # no thread is free for twenty seconds
    server.held.go.set()
    assert waiting[0].recv(12) == b"HTTP/1.1 200"


def test_one_address_does_not_take_all_connections(server):
    held = [line(server, b"GET /wait HTTP/1.1\r\nHost: a\r\n\r\n") for _ in range(20)]
    assert ends(socket.create_connection(("127.0.0.1", server.effective_port), timeout=20))
    held.pop().close()
    server.held.go.set()
    assert held[0].recv(12) == b"HTTP/1.1 200"


def test_an_application_is_told_that_a_client_has_gone(server):
    opened = line(server, b"GET /awaited HTTP/1.1\r\nHost: a\r\n\r\n")
    assert server.held.begun.wait(15)
    opened.close()
    assert server.held.closed.wait(15)
