"""Slow lines: connections on which next to nothing goes."""

import socket
from collections.abc import Iterable, Iterator
from contextlib import ExitStack, contextmanager
from urllib.parse import urlsplit

SMALL_WINDOW = 4096


def _connected(address: str, window: int | None = None, source: str = "") -> socket.socket:
    to = urlsplit(address)
    line = socket.socket()
    if source:
        line.bind((source, 0))
    if window:
        line.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, window)
    line.settimeout(10)
    line.connect((to.hostname, to.port))
    return line


def begin_post(
    address: str, path: str, cookies: str = "", length: int = 1_000_000, more: str = "", source: str = ""
) -> socket.socket:
    """A post whose head is sent and of whose body there is only the first byte; from another address of this machine,
    where `source` names one.
    """
    line = _connected(address, source=source)
    host = urlsplit(address).netloc
    head = f"POST {path} HTTP/1.1\r\nHost: {host}\r\nCookie: {cookies}\r\nContent-Length: {length}\r\n{more}\r\n"
    line.sendall(head.encode() + b"x")
    return line


def stalled(address: str, path: str, cookies: str = "") -> socket.socket:
    """A download of which only the beginning is read."""
    line = _connected(address, SMALL_WINDOW)
    host = urlsplit(address).netloc
    line.sendall(f"GET {path} HTTP/1.1\r\nHost: {host}\r\nCookie: {cookies}\r\n\r\n".encode())
    assert line.recv(12) == b"HTTP/1.1 200", path
    return line


def rest(line: socket.socket, enough: int) -> int:
    """Read on until so many bytes have come; how many did."""
    read = 0
    while read < enough and (piece := line.recv(1 << 20)):
        read += len(piece)
    return read


def half_a_head(address: str) -> socket.socket:
    """A request whose head does not end."""
    line = _connected(address)
    line.sendall(b"GET / HTTP/1.1\r\nHost: ")
    return line


@contextmanager
def all_of(lines: Iterable[socket.socket]) -> Iterator[list[socket.socket]]:
    """Hold some for the block."""
    with ExitStack() as stack:
        yield [stack.enter_context(line) for line in lines]


def trickle(lines: list[socket.socket]) -> None:
    """One more byte on each."""
    for line in lines:
        line.sendall(b"x")
