"""One request to the service and its answer, or its refusal."""

from __future__ import annotations

import contextlib
import ssl
import time
from collections.abc import Callable, Iterable, Iterator
from functools import lru_cache
from typing import Any, Self
from urllib.parse import quote

import httpx

Data = dict[str, Any]
PREFIX = "/api/v1"
QUESTIONS = f"{PREFIX}/questions/"  # where what takes long is asked after
ASKED, BUSY, AGAIN = 202, 429, "Retry-After"
FIRST, LAST = 0.05, 1.0  # seconds between two times that it is asked after


@lru_cache(maxsize=1)
def _trusted() -> ssl.SSLContext:
    """Whom certificates are believed from, read once."""
    return httpx.create_ssl_context(trust_env=False)


class ServiceError(RuntimeError):
    """The service refused: `status`, what to do in words, and `problems` where it named several."""

    def __init__(self, status: int, detail: str, problems: list[Data] | None = None) -> None:
        super().__init__(detail)
        self.status = status
        self.problems = problems or []


class Calling:
    """A service and a caller."""

    def __init__(
        self,
        server: str,
        token: str = "",
        timeout: float = 600.0,
        progress: Callable[[Data | None], None] = lambda question: None,
    ) -> None:
        """`timeout` is how long (s) one answer is waited for; what takes longer than a moment is asked after until it
        is there, and `progress` is told how far it is, and None when it is there."""
        headers = {"Authorization": f"Bearer {token}"} if token else {}
        self._http = httpx.Client(
            base_url=server.rstrip("/") + PREFIX,
            headers=headers,
            timeout=timeout,
            trust_env=False,
            verify=_trusted(),
        )
        self.server, self.waiting = server, progress

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        self._http.close()

    def _bytes(self, path: str) -> bytes:
        return bytes(self._call("GET", path, raw=True))

    def _call(self, method: str, path: str, raw: bool = False, **more: Any) -> Any:
        response = self._answered(method, path, **more)
        if response.is_success:
            return (response.content if raw else response.json()) if response.content else None
        try:
            body = response.json()
        except ValueError:
            body = {"detail": response.text[:200] or response.reason_phrase}
        raise ServiceError(response.status_code, str(body.get("detail", "refused")), body.get("problems"))

    def _answered(self, method: str, path: str, **more: Any) -> httpx.Response:
        """The answer to a request; one that takes longer than a moment is asked after until it is there."""
        response = self._once(method, path, **more)
        while response.status_code == BUSY and AGAIN in response.headers:
            time.sleep(float(response.headers[AGAIN]))
            response = self._once(method, path, **more)
        at = response.headers.get("Location", "")
        return self._awaited(response, at.removeprefix(PREFIX)) if at.startswith(QUESTIONS) else response

    def _awaited(self, response: httpx.Response, at: str) -> httpx.Response:
        """The answer to a question, once it is there. Who leaves (Ctrl-C) says so."""
        pause = FIRST
        try:
            while response.status_code == ASKED:
                self.waiting(response.json())
                time.sleep(pause)
                pause = min(pause * 1.5, LAST)
                response = self._once("GET", at)
        except BaseException:
            with contextlib.suppress(ServiceError):
                self._once("DELETE", at)
            raise
        finally:
            self.waiting(None)
        return response

    def _once(self, method: str, path: str, **more: Any) -> httpx.Response:
        try:
            return self._http.request(method, path, **more)
        except httpx.HTTPError as exc:
            raise ServiceError(
                0, f"no answer from {self.server} ({exc}); is the service running? try 'handrail serve'"
            ) from exc

    def _pages(self, path: str, **query: Any) -> Iterator[Any]:
        cursor: int | None = 0
        while cursor is not None:
            page = self._call("GET", path, params={**query, "cursor": cursor, "limit": 1000})
            yield from page["items"]
            cursor = page["next"]


def seen(tag: str | int | None) -> dict[str, str]:
    """The header by which a change names what it saw; none where it does not."""
    return {} if tag is None else {"If-Match": f'"{tag}"'}


def at(name: str) -> str:
    """A name as part of an address, whatever characters it has."""
    return quote(name, safe="")


def chosen(connections: Iterable[str] = (), where: str = "", pattern: str = "", slot: int | None = None) -> Data:
    """Which connections: by name, by a filter, or those of a pattern."""
    return {"connections": list(connections), "where": where, "pattern": pattern, "slot": slot}
