"""How the server and its processes part: what both sides of it know. The server imports nothing that computes, and is
there at once."""

from __future__ import annotations

import signal
from importlib import import_module
from pathlib import Path
from typing import Any

from setproctitle import setproctitle

SCRATCH = "scratch"
READY = "handrail.service.processes.ready"  # what they part from has imported it
RESTED = 75  # how one ends that makes room for another
PATIENCE = 3.0  # seconds that a child has to end by itself


def begin(kind: str, home: Path, *more: Any) -> None:
    """Be a process of a kind. Called where everything that it needs is imported already."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C reaches the server, which says when
    setproctitle(f"handrail: {kind} {home}")
    import_module(READY).KINDS[kind](home, *more)
