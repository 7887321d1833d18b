"""Whose turn it is: callers are answered one after the other, each a few at a time, however many requests each has
sent."""

from __future__ import annotations

import hashlib
import threading
from collections import Counter, OrderedDict, deque
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from waitress.task import ThreadedTaskDispatcher

AT_ONCE = 1  # requests of one caller that a process answers at a time: they share one interpreter
_of = threading.local()


class Turns:
    """What waits to be answered, by caller; as long as nothing of it may be taken now it counts as empty. Every call is
    made under the lock of `dispatcher`."""

    def __init__(self, dispatcher: ThreadedTaskDispatcher) -> None:
        self._dispatcher = dispatcher
        self._waiting: OrderedDict[str, deque[Any]] = OrderedDict()
        self._busy: Counter[str] = Counter()

    def __len__(self) -> int:
        return sum(max(0, min(len(own), AT_ONCE - self._busy[caller])) for caller, own in self._waiting.items())

    def append(self, channel: Any) -> None:
        self._waiting.setdefault(_caller(channel), deque()).append(channel)

    def popleft(self) -> _Turn:
        """The next one: of the caller who was served the longest ago."""
        caller = next(c for c in self._waiting if self._busy[c] < AT_ONCE)
        own = self._waiting.pop(caller)
        channel = own.popleft()
        if own:
            self._waiting[caller] = own  # behind all others
        self._busy[caller] += 1
        return _Turn(self, caller, channel)

    def again(self, caller: str) -> None:
        """A caller's request that waited is worked at again. Takes the lock itself."""
        with self._dispatcher.lock:
            self._busy[caller] += 1

    def over(self, caller: str) -> None:
        """One of a caller's requests is answered, or waits. Takes the lock itself."""
        with self._dispatcher.lock:
            self._busy[caller] -= 1
            if not self._busy[caller]:
                del self._busy[caller]
            self._dispatcher.queue_cv.notify()


class _Turn:
    """A request whose turn it is."""

    def __init__(self, turns: Turns, caller: str, channel: Any) -> None:
        self._turns, self._caller, self._channel = turns, caller, channel

    def service(self) -> None:
        _of.turn = self
        try:
            self._channel.service()
        finally:
            self._turns.over(self._caller)
            del _of.turn

    @contextmanager
    def aside(self) -> Iterator[None]:
        self._turns.over(self._caller)
        try:
            yield
        finally:
            self._turns.again(self._caller)

    def cancel(self) -> None:
        self._channel.cancel()


@contextmanager
def aside() -> Iterator[None]:
    """While the request that this thread answers only waits, another one of its caller may have its turn."""
    turn: _Turn | None = getattr(_of, "turn", None)
    if turn is None:
        yield
        return
    with turn.aside():
        yield


class Dispatcher(ThreadedTaskDispatcher):
    """Threads that answer in turns."""

    def __init__(self) -> None:
        super().__init__()
        self.queue = Turns(self)


def _caller(channel: Any) -> str:
    """Who sent the request that is next on a connection: by what lets them in, else by their address."""
    requests = channel.requests
    headers = requests[0].headers if requests else {}
    let_in = headers.get("AUTHORIZATION") or headers.get("COOKIE") or f"from {channel.addr[0] if channel.addr else ''}"
    return hashlib.blake2b(let_in.encode("latin-1", "replace"), digest_size=8).hexdigest()
