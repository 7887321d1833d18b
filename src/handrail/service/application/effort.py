"""How far a thread is with what it was asked, and whether anybody still wants to know."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from handrail.service.application.refused import Refused

_of = threading.local()


@dataclass
class Effort:
    """`done` of `total` steps; `over` says why it is to end, where it is."""

    done: int = 0
    total: int = 0
    over: str = ""


class Ended(Refused):
    """The effort is over before it came to its end; nothing of it is kept."""


@contextmanager
def beginning(effort: Effort) -> Iterator[None]:
    """What this thread does until the end is `effort`."""
    _of.effort = effort
    try:
        yield
    finally:
        del _of.effort


def step(done: int | None = None, total: int | None = None) -> None:
    """Say how far it is, one step further where no number is said. Raises Ended where nobody waits for it. Whoever
    computes for longer than a moment calls this every now and then; where no effort was begun it does nothing."""
    effort: Effort | None = getattr(_of, "effort", None)
    if effort is None:
        return
    if effort.over:
        raise Ended(503, effort.over)
    effort.done = effort.done + 1 if done is None else done
    effort.total = effort.total if total is None else total
