"""The web process: how requests come in and answers go out.

A thread is taken by a request only once all of it is there, and let go of once its answer is made: one loop reads and
writes for all connections, so that slow lines hold nothing that others need.
"""

import json
import socket
import tempfile
import time
from collections import Counter
from contextlib import suppress
from itertools import chain
from typing import Any

from django.conf import settings
from django.core.handlers.wsgi import WSGIHandler
from django.core.management import CommandError
from django.db import DatabaseError, connection
from django.http import HttpResponse
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import BaseWSGIServer, MultiSocketServer, create_server
from waitress.utilities import Error

from server.studio.guard import API, refusal
from server.studio.health import ALIVE
from server.studio.signed_in import is_signed_in

THREADS = 12
CONNECTIONS = 1000
STALLED_SECONDS = 120
"""For which a connection may lie idle."""
HEAD_S, FORM_S = 20.0, 30.0
"""Deadlines for the head of a request, and for a form that is sent to a page rather than the API, as to sign in."""
UNREAD_S = 20.0
"""An answer that is made while it is sent, and of which nothing is read for so long, is ended: it holds a thread."""
MAX_FROM_ADDRESS = 300
"""Connections of one address, of all that there may be; a trusted proxy may have them all."""
KEPT_FREE = 100
"""Connections that are kept free: where fewer are, the one is ended that has been idle or arriving for the longest."""
ALIVE_BODY = json.dumps(ALIVE).encode()
ALIVE_HEAD = (
    "HTTP/1.1 200 OK\r\nContent-Type: application/json\r\n"
    f"Content-Length: {len(ALIVE_BODY)}\r\nConnection: close\r\n\r\n"
).encode()
ACCEPTED_AT_ONCE = 250
"""Connections that are accepted in one round of the loop, which looks at all there are; none waits behind hundreds."""
LINGERS = 5.0
"""Seconds for which what is still sent behind a last answer is taken in."""
IN_MEMORY = 64 * 1024
"""Bytes of a body, beyond which it goes to the disk."""


class Refused(Error):
    """A request that is turned away by its head: its body is not read."""

    def __init__(self, answer: HttpResponse) -> None:
        super().__init__(answer.content)
        self.status = f"{answer.status_code} {answer.reason_phrase}"
        self.headers = [("Content-Type", answer.headers["Content-Type"])]

    def to_response(self, ident: str | None = None) -> tuple[str, list[tuple[str, str]], bytes]:
        """Its answer, as the server sends it."""
        return self.status, self.headers, self.body


class Parser(HTTPRequestParser):
    """Reads the head of a request, and its body only where that is welcome."""

    def parse_header(self, header_plus: bytes) -> None:
        """Read the head; what is turned away by it ends here."""
        super().parse_header(header_plus)
        if self.content_length <= 0 and not self.chunked:
            return
        cookies = self.headers.get("COOKIE", "")
        refused = refusal(self.path, self.content_length, chunked=self.chunked, signed_in=lambda: _known(cookies))
        if refused:
            self.error = Refused(refused)
            self.body_rcv, self.content_length, self.expect_continue = None, 0, False


class Channel(HTTPChannel):
    """A connection. One that ends with an answer goes on taking in what is still sent, for a while.

    To close it with something unread would take the answer away from who has not read it yet: a proxy then says 502
    instead of why something was turned away (RFC 9112, section 9.6).
    """

    parser_class = Parser
    _answered = False
    _until: float | None = None
    _begun: float | None = None  # when the request that is not there whole yet began
    _unread, _unread_since = 0, 0.0  # bytes that wait to be sent, and since when they are as many

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        channels = self.server.active_channels
        self.server.from_address[self.addr[0]] += 1
        if self.server.from_address[self.addr[0]] > MAX_FROM_ADDRESS and self.addr[0] != settings.PROXY:
            self.will_close = True
        elif len(channels) > CONNECTIONS - KEPT_FREE:
            oldest_first = list(channels.values())[:-1]
            arriving = (one for one in oldest_first if one.arriving_since is not None and not one.will_close)
            one = next(chain(arriving, (one for one in oldest_first if one.is_idle)), None)
            if one is not None:
                one.will_close = True

    def del_channel(self, map: Any = None) -> None:  # noqa: A002 - waitress names it so
        """Forget the connection, once."""
        if self._fileno is not None:
            self.server.from_address[self.addr[0]] -= 1
        super().del_channel(map)

    def answer_alive(self) -> bool:
        """Answer a health check at once; return whether this was one.

        It takes no thread, so that it is answered while all of them are at work.
        """
        request = self.requests[0]
        if request.error or request.path != "/healthz" or request.command not in ("GET", "HEAD"):
            return False
        answer = ALIVE_HEAD + (ALIVE_BODY if request.command == "GET" else b"")
        with self.outbuf_lock:
            self.outbufs[-1].append(answer)
            self.total_outbufs_len += len(answer)
        self.requests, self.close_when_flushed = [], True
        return True

    @property
    def is_idle(self) -> bool:
        """Whether no request is being answered, and no file arrives."""
        return not (self.requests or self._brings_file or self.will_close)

    @property
    def _brings_file(self) -> bool:
        """Whether what arrives goes to the API: whoever sends there is signed in, and files may take their time."""
        return self.request is not None and self.request.headers_finished and self.request.path.startswith(API)

    @property
    def arriving_since(self) -> float | None:
        """When the head or the form that is still arriving began; None where nothing is, or a file is."""
        return None if self.request is None or self._brings_file else self._begun

    def _is_late(self) -> bool:
        """Whether a request has taken too long to arrive."""
        now = time.monotonic()
        self._begun = None if self.request is None else self._begun or now
        since = self.arriving_since
        if self.request is None or since is None:
            return False
        return now - since > (FORM_S if self.request.headers_finished else HEAD_S)

    def writable(self) -> bool:
        """Whether anything is to be sent; a reader that reads nothing is let go."""
        waiting, now = self.total_outbufs_len, time.monotonic()
        if not (self.requests and waiting) or waiting != self._unread:
            self._unread, self._unread_since = waiting, now
        elif now - self._unread_since > UNREAD_S:
            self.handle_close()  # at once: a line on which nothing is read never becomes ready to be written to
            return False
        return bool(super().writable())

    def handle_write(self) -> None:
        """Send what there is."""
        self._answered = self.close_when_flushed
        super().handle_write()

    def handle_close(self) -> None:
        """End it, or say that nothing more comes."""
        if self._answered and self._until is None and not self.total_outbufs_len:
            self.will_close, self._until = False, time.monotonic() + LINGERS
            with suppress(OSError):
                self.socket.shutdown(socket.SHUT_WR)
                return
        super().handle_close()

    def readable(self) -> bool:
        """Whether anything is to be taken in."""
        if self._until is None:
            self.will_close = self.will_close or self._is_late()
            return super().readable()
        self.will_close = time.monotonic() > self._until
        return not self.will_close

    def handle_read(self) -> None:
        """Take something in; of what comes behind an answer nothing is kept."""
        if self._until is None:
            super().handle_read()
            return
        try:
            self.recv(IN_MEMORY)  # which ends it where the other side has
        except OSError:
            self.handle_close()


def _known(cookies: str) -> bool:
    """Whether somebody is signed in; yes where that cannot be told yet, since it is asked again later."""
    try:
        return settings.DEMO or is_signed_in(cookies)
    except DatabaseError:
        connection.close()
        return True


def serve(application: WSGIHandler, host: str, port: int, threads: int = THREADS) -> None:
    """Serve until the process is ended.

    Args:
        application: that makes the answers.
        host: address to listen on.
        port: of it.
        threads: how many answers are made at a time.
    """
    build_server(application, host, port, threads).run()


def build_server(application: WSGIHandler, host: str, port: int, threads: int) -> BaseWSGIServer:
    """Return a server that listens and waits to be run; arguments as for `serve`.

    Raises:
        CommandError: the host is more than one address.
    """
    tempfile.tempdir = str(settings.INCOMING_DIR)  # bodies go to the disk whose room is watched
    server = create_server(
        application,
        listen=f"{host}:{port}",
        threads=threads,
        connection_limit=CONNECTIONS,
        channel_request_lookahead=1,  # so that it is seen when a client goes while its answer is made
        channel_timeout=STALLED_SECONDS,
        inbuf_overflow=IN_MEMORY,
        max_request_body_size=settings.UPLOAD_BYTES + 1,
        asyncore_use_poll=True,
        ident=None,
        log_socket_errors=False,
        **_proxy(),
    )
    if isinstance(server, MultiSocketServer):
        raise CommandError(f"{host} is more than one address; name one of them.")
    server.channel_class, server.from_address = Channel, Counter[str]()  # open connections of each address
    accept_one = server.handle_accept

    def accept_some() -> None:
        for _ in range(ACCEPTED_AT_ONCE):
            accept_one()

    server.handle_accept = accept_some
    to_threads = server.add_task
    server.add_task = lambda channel: channel.answer_alive() or to_threads(channel)
    return server


def _proxy() -> dict[str, object]:
    """What is believed of a proxy before the server: who asks, and whether over TLS. One with TLS need not say so."""
    if not settings.PROXY:
        return {}
    trusted = {"trusted_proxy": settings.PROXY, "trusted_proxy_headers": "x-forwarded-for x-forwarded-proto"}
    return trusted | ({"url_scheme": "https"} if settings.TLS else {})
