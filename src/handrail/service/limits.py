"""What a caller may send: how much by route, before it is read; how often a wrong password."""

from __future__ import annotations

import re
import threading
import time
from typing import Any

from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.utilities import RequestEntityTooLarge

UPLOAD = 1024**3
RULEBOOK = 1024**2
SIGN_IN = 4 * 1024
USUAL = 256 * 1024
_ROUTES = (
    (re.compile(r"^/api/v1/jobs/[^/]+/revisions/?$"), UPLOAD),
    (re.compile(r"^/api/v1/jobs/[^/]+/rulebook(/try)?/?$"), RULEBOOK),
    (re.compile(r"^/api/v1/(session|tokens|users)/?$"), SIGN_IN),
)
WRONG, WINDOW = 8, 300.0  # wrong passwords of one name from one address, in so many seconds


def most_body(method: str, path: str) -> int:
    """The largest body that a route takes, bytes."""
    return next((most for route, most in _ROUTES if method in ("POST", "PUT") and route.match(path)), USUAL)


class Parser(HTTPRequestParser):
    """Refuses a body that is too large for its route, or a large one from nobody, when its headers are there: before it is read."""

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        most = most_body(str(getattr(self, "command", "")), str(getattr(self, "path", "")))
        signed = "AUTHORIZATION" in self.headers or "COOKIE" in self.headers
        most = most if signed else min(most, USUAL)
        if self.content_length > most:
            self.error = RequestEntityTooLarge(f"at most {most} bytes are taken here" + ("" if signed else " without signing in"))
            self.completed = True
        elif self.chunked and self.body_rcv is not None:
            self.adj = _Bounded(self.adj, most)


class _Bounded:
    """The server's settings with another limit on the body."""

    def __init__(self, settings: Any, most: int) -> None:
        self._settings, self.max_request_body_size = settings, most

    def __getattr__(self, name: str) -> Any:
        return getattr(self._settings, name)


class Channel(HTTPChannel):
    """A connection that reads with the limits of its routes."""

    parser_class = Parser


class Throttle:
    """Wrong passwords are counted by name and address for a while; past the limit nobody is even asked."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._wrong: dict[tuple[str, str], list[float]] = {}

    def wait(self, name: str, address: str) -> float:
        """Seconds until the next try is taken; 0 for now."""
        with self._lock:
            recent = self._recent(name, address)
            return max(0.0, recent[-WRONG] + WINDOW - time.monotonic()) if len(recent) >= WRONG else 0.0

    def wrong(self, name: str, address: str) -> None:
        """Count one."""
        with self._lock:
            self._wrong[name[:64], address] = [*self._recent(name, address), time.monotonic()][-WRONG:]
            if len(self._wrong) > 10_000:
                self._wrong.pop(next(iter(self._wrong)))

    def right(self, name: str, address: str) -> None:
        """Forget what was wrong before."""
        with self._lock:
            self._wrong.pop((name[:64], address), None)

    def _recent(self, name: str, address: str) -> list[float]:
        since = time.monotonic() - WINDOW
        return [at for at in self._wrong.get((name[:64], address), []) if at > since]
