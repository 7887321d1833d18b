"""What a caller may send: how much by route, before it is read; how slowly; over how many connections."""

from __future__ import annotations

import logging
import re
import socket
import threading
import time
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.utilities import Error, RequestEntityTooLarge

from handrail.service.api.turns import Dispatcher
from handrail.store.trouble import FULL, trouble

log = logging.getLogger("handrail.http")
UPLOAD = 1024**3
RULEBOOK = 8 * 1024**2
SIGN_IN = 4 * 1024
FILE = 11 * 1024**2
MANY = 2 * 1024**2  # names of thousands of connections or decisions
BCF = 64 * 1024**2
USUAL = 256 * 1024
_ROUTES = (
    (re.compile(r"^/api/v1/jobs/[^/]+/imports/?$"), UPLOAD),
    (
        re.compile(r"^/api/v1/jobs/[^/]+/(rulebook(/(try(-on)?|edit))?|imports/[0-9]+/map|output(/(try|file))?)/?$"),
        RULEBOOK,
    ),
    (re.compile(r"^/api/v1/house/[^/]+/?$"), RULEBOOK),
    (re.compile(r"^/api/v1/designs/table/?$"), RULEBOOK),
    (re.compile(r"^/api/v1/designs/(file|[^/]+/[0-9]+/files)/?$"), FILE),
    (re.compile(r"^/api/v1/jobs/[^/]+/overrides/[0-9]+/attachments/?$"), FILE),
    (re.compile(r"^/api/v1/jobs/[^/]+/(changes|overrides/review|labels|releases|shop-notes|groups/[^/]+)/?$"), MANY),
    (re.compile(r"^/api/v1/profiles/[^/]+/?$"), MANY),
    (re.compile(r"^/api/v1/jobs/[^/]+/queries\.bcf/?$"), BCF),
    (re.compile(r"^/api/v1/(session|tokens|users|me/password|users/[^/]+/password)/?$"), SIGN_IN),
)
CONNECTIONS, OF_ONE_ADDRESS = 1000, 250  # open at a time, of each process
IDLE, HEADERS = 60.0, 20.0  # seconds without a request, and for the headers of one
READERS = 2
PLACE = "handrail.place"  # of a request: where it has its place among those that are worked at
SLOWEST = 10_000.0  # bytes a second of a body


def most_body(method: str, path: str) -> int:
    """The largest body that a route takes, bytes."""
    return next((most for route, most in _ROUTES if method in ("POST", "PUT") and route.match(path)), USUAL)


class Parser(HTTPRequestParser):
    """Refuses a body that is too large for its route, or a large one from nobody, when its headers are there: before it
    is read."""

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        most = most_body(str(getattr(self, "command", "")), str(getattr(self, "path", "")))
        signed = "AUTHORIZATION" in self.headers or "COOKIE" in self.headers
        most = most if signed else min(most, USUAL)
        if self.content_length > most:
            self.error = RequestEntityTooLarge(
                f"at most {most} bytes are taken here" + ("" if signed else " without signing in")
            )
            self.completed = True
        elif self.chunked and self.body_rcv is not None:
            self.adj: Any = _Bounded(self.adj, most)

    def received(self, data: bytes) -> int:
        try:
            return int(super().received(data))
        except OSError as exc:  # what is sent is set down in a file until it is whole
            log.error("what was sent could not be set down: %s", exc)
            self.error, self.completed = NoRoom((trouble(exc) or FULL).words), True
            return len(data)


class NoRoom(Error):
    """The answer where a body finds no room."""

    code, reason = 507, "Insufficient Storage"


class _Bounded:
    """The server's settings with another limit on the body."""

    def __init__(self, settings: Any, most: int) -> None:
        self._settings, self.max_request_body_size = settings, most

    def __getattr__(self, name: str) -> Any:
        return getattr(self._settings, name)


class Channel(HTTPChannel):
    """A connection that reads with the limits of its routes, and is dropped when it idles, drips or crowds others
    out."""

    parser_class = Parser
    begun = 0.0  # when the request that is being read began

    def __init__(self, server: Any, sock: Any, addr: Any, adj: Any, map: Any = None) -> None:
        super().__init__(server, sock, addr, adj, map=map)
        others = list(server.active_channels.values())
        _make_room([c for c in others if c.addr[:1] == self.addr[:1] and c is not self], OF_ONE_ADDRESS)
        _make_room([c for c in others if c is not self], CONNECTIONS)

    def received(self, data: bytes) -> bool:
        if self.request is None:
            self.begun = time.time()
        return bool(super().received(data))

    def late(self, now: float) -> bool:
        """Whether nothing is owed to the caller and the caller keeps us waiting for too long."""
        if self.requests and not self.total_outbufs_len:
            return False
        if self.request is None or self.total_outbufs_len:
            return now - self.last_activity > IDLE
        if not self.request.headers_finished:
            return now - self.begun > HEADERS
        return now - self.begun > HEADERS + self.request.body_bytes_received / SLOWEST


def _make_room(others: list[Channel], most: int) -> None:
    """Where there are too many, the one that has been silent the longest and waits for no answer goes."""
    if len(others) >= most and (silent := [c for c in others if not c.requests and not c.will_close]):
        min(silent, key=lambda c: c.last_activity).handle_close()


class FewReaders:
    """Lets few reading requests of a process be worked at once: they share one interpreter, and more at a time only get
    in each other's way. Requests that write, which may wait for a lock, take none of their places."""

    def __init__(self, app: Any) -> None:
        self._app, self._places = app, threading.BoundedSemaphore(READERS)

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Any:
        if environ["REQUEST_METHOD"] not in ("GET", "HEAD"):
            return self._app(environ, start_response)
        with self._places:
            environ[PLACE] = self._places
            return self._app(environ, start_response)


class Server(TcpWSGIServer):
    """The web server of one process, on a socket that all share; late connections are dropped."""

    channel_class = Channel

    def __init__(self, app: Any, sock: socket.socket, threads: int) -> None:
        settings = Adjustments(
            sockets=[sock],
            threads=threads,
            ident="handrail",
            max_request_body_size=UPLOAD,
            connection_limit=CONNECTIONS + 100,
            cleanup_interval=5,
            asyncore_use_poll=True,
            max_request_header_size=64 * 1024,
            channel_request_lookahead=1,  # so that who hangs up is noticed
        )
        work = Dispatcher()
        work.set_thread_count(threads)
        about = (sock.family, sock.type, sock.proto, sock.getsockname())
        super().__init__(app, {}, True, sock, dispatcher=work, adj=settings, bind_socket=False, sockinfo=about)

    def maintenance(self, now: float) -> None:
        for channel in list(self.active_channels.values()):
            if channel.late(now):
                channel.will_close = True
