"""What the server's processes have in common: how they begin, notice that the server is gone, and end within
seconds."""

from __future__ import annotations

import ctypes
import logging
import os
import signal
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path

from handrail.service.application.by_facts import serve_lists
from handrail.service.processes.logs import begin_log
from handrail.store import alive
from handrail.store.opening import RECORDS, open_database

SCRATCH = "scratch"
PARENT = "HANDRAIL_SERVER_PROCESS"  # of the environment: the number of the server that started this one
PR_SET_PDEATHSIG = 1  # of Linux
PATIENCE = 3.0  # seconds that a child has to end by itself
log = logging.getLogger("handrail.serve")


def settle(home: Path) -> None:
    """Begin as a child of the server: log, records, temporary files in a folder that the server clears, a watch on the
    server."""
    parent = int(os.environ[PARENT])  # the server may be gone before this line

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(0.3)
        os._exit(3)

    threading.Thread(target=watch, daemon=True).start()
    begin_log()
    os.umask(0o077)
    tempfile.tempdir = str(home / SCRATCH)
    open_database(home / RECORDS)
    alive.locks_in(home / SCRATCH)
    serve_lists()


def end_soon(stop: threading.Event) -> None:
    """Ask to end, and end anyway after a while: what was not written in full leaves no trace."""
    stop.set()

    def end() -> None:
        time.sleep(PATIENCE)
        sys.stderr.flush()
        os._exit(0)

    threading.Thread(target=end, daemon=True).start()


def die_with(server: int) -> Callable[[], None]:
    """What a child does before anything else, as a function to be called in it: where the system can, it is ended the
    moment that the server is gone, however it went; else its own watch sees it."""
    prctl = getattr(_libc(), "prctl", None)

    def bind() -> None:
        if prctl is not None:
            prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
        if os.getppid() != server:  # it went before this was said
            os._exit(3)

    return bind


def _libc() -> ctypes.CDLL | None:
    try:
        return ctypes.CDLL(None)
    except (OSError, TypeError):
        return None
