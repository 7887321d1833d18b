"""What the server's processes have in common: how they settle, notice that the server is gone, and end within
seconds."""

from __future__ import annotations

import ctypes
import logging
import multiprocessing
import os
import signal
import sys
import tempfile
import threading
import time
from multiprocessing.connection import wait
from pathlib import Path

from handrail.service.application.by_facts import serve_lists
from handrail.service.processes.logs import begin_log
from handrail.service.processes.parting import PATIENCE, RESTED, SCRATCH
from handrail.store import alive
from handrail.store.opening import RECORDS, open_database

PR_SET_PDEATHSIG = 1  # of Linux
HEAVY = 300 * 1024**2  # bytes that a process does not hold for nothing
SWITCH = 0.0005  # seconds that a thread works on while another, which may hold the records, wants to
log = logging.getLogger("handrail.serve")


def settle(home: Path) -> None:
    """Begin as a child of the server: log, records, temporary files in a folder that the server clears, an end with the
    server's."""
    _end_with_the_server()
    sys.setswitchinterval(SWITCH)
    begin_log()
    os.umask(0o077)
    tempfile.tempdir = str(home / SCRATCH)
    open_database(home / RECORDS)
    alive.locks_in(home / SCRATCH)
    serve_lists()


def _end_with_the_server() -> None:
    """Where the system can, this is ended the moment that the server is gone, however it went: the process that it
    parted from goes with the server. Else the watch sees it."""
    server, parted = multiprocessing.parent_process(), os.getppid()
    prctl = getattr(_libc(), "prctl", None)
    if prctl is not None:
        prctl(PR_SET_PDEATHSIG, signal.SIGKILL)

    def watch() -> None:
        if server is not None:
            wait([server.sentinel])
        os._exit(3)

    threading.Thread(target=watch, daemon=True).start()
    if os.getppid() != parted:  # it went before this was said
        os._exit(3)


class Rest:
    """How long a process has had nothing to do. One that holds much memory then ends, and one that holds nothing takes
    its place: that is cheaper than to find what of it nobody will want."""

    def __init__(self, seconds: float) -> None:
        self.seconds, self.since = seconds, time.monotonic()

    def look(self, busy: bool) -> None:
        """Ends the process where it is time to."""
        now = time.monotonic()
        if busy:
            self.since = now
        elif now - self.since > self.seconds:
            self.since = now
            if _held() > HEAVY:
                os._exit(RESTED)


def _held() -> int:
    """Bytes of memory that this process has; 0 where the system does not say."""
    try:
        return int(Path("/proc/self/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE")
    except (OSError, ValueError):
        return 0


def end_soon(stop: threading.Event) -> None:
    """Ask to end, and end anyway after a while: what was not written in full leaves no trace."""
    stop.set()

    def end() -> None:
        time.sleep(PATIENCE)
        sys.stderr.flush()
        os._exit(0)

    threading.Thread(target=end, daemon=True).start()


def _libc() -> ctypes.CDLL | None:
    try:
        return ctypes.CDLL(None)
    except (OSError, TypeError):
        return None
