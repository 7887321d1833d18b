"""`handrail serve`: opens the socket and the records' lock, and keeps the web processes and the workers alive until a
signal."""

from __future__ import annotations

import contextlib
import errno
import fcntl
import logging
import multiprocessing
import os
import secrets
import shutil
import signal
import socket
import time
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.context import ForkServerProcess
from pathlib import Path
from typing import Any, TextIO

from handrail.core.errors import InputError
from handrail.service import counters
from handrail.service.processes.logs import begin_log
from handrail.service.processes.parting import PATIENCE, READY, RESTED, SCRATCH, begin
from handrail.store.questions import HOUSES

log = logging.getLogger("handrail.serve")
LOCK = "serving"
WORKERS, THREADS = 2, 8
_PROCESSES = multiprocessing.get_context("forkserver")


@dataclass
class _Child:
    """One process of the service; `owner` is the name under which a worker holds its works, or one that answers its
    questions."""

    kind: str
    number: int = 0  # of its kind
    owner: str = ""
    process: ForkServerProcess | None = None
    begun: float = 0.0

    def start(self, home: Path, sock: socket.socket) -> None:
        """Part it from the process that is ready."""
        self.owner = "" if self.kind == "web" else secrets.token_hex(8)
        own = {"web": (sock, THREADS), "answering": (self.owner, self.number), "worker": (self.owner,)}[self.kind]
        self.process = _PROCESSES.Process(target=begin, args=(self.kind, home, *own))
        self.process.start()
        self.begun = time.monotonic()


def serve(
    home: Path, host: str = "127.0.0.1", port: int = 8740, processes: int = 0, ready: Callable[[], None] = lambda: None
) -> None:
    """Serve until a signal; a process that dies is started again, and what a worker had is given up at once.

    `processes` answer requests (0: one a core, four at most), two more answer what takes longer than a moment, two
    workers do runs and imports. `ready` is called when the records are ours and before anything is answered. Raises
    InputError where the records are served already, cannot be opened or written, or the port is taken."""
    begin_log()
    os.umask(0o077)
    stopping: list[int] = []
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda got, _: stopping.append(got))
    held = hold(home)
    sock = _listen(host, port)
    counted = _clear(home)
    _PROCESSES.set_forkserver_preload([READY])
    _once("opening", home)
    ready()
    kinds = {"web": processes or min(os.cpu_count() or 1, 4), "answering": HOUSES, "worker": WORKERS}
    children = [_Child(kind, k) for kind, number in kinds.items() for k in range(number)]
    try:
        while not stopping:
            for child in children:
                _keep_alive(child, home, sock)
            time.sleep(0.1)
    finally:
        _stop(children)
        sock.close()
        shutil.rmtree(counted, ignore_errors=True)
        held.close()


def _keep_alive(child: _Child, home: Path, sock: socket.socket) -> None:
    if child.process is None:
        child.start(home, sock)
    elif (
        ended := child.process.exitcode
    ) is not None and time.monotonic() - child.begun > 1.0:  # not faster than once a second
        if ended != RESTED:
            log.warning("a %s process ended with %s; starting it again", child.kind, ended)
        if child.owner:
            _give_up(child, home)
        child.start(home, sock)


def _give_up(child: _Child, home: Path) -> None:
    try:
        _once("giving up", home, child.kind, child.owner)
    except (InputError, RuntimeError):
        log.exception("what a process had could not be given up; the end of its lease does it")


def first_account(home: Path) -> None:
    """A service without accounts gets an administrator; its password is printed once."""
    _once("first account", home)


def _stop(children: list[_Child]) -> None:
    """End every process within seconds."""
    running = [c.process for c in children if c.process is not None and c.process.is_alive()]
    for process in running:
        process.terminate()
    until = time.monotonic() + PATIENCE + 1.0
    for process in running:
        process.join(max(0.1, until - time.monotonic()))
        if process.is_alive():
            process.kill()
            process.join()


def _clear(home: Path) -> Path:
    """The folder where this service's processes count; temporary files that an earlier one left over go."""
    scratch = home / SCRATCH
    scratch.mkdir(mode=0o700, parents=True, exist_ok=True)
    folder = counters.count_together(scratch)
    for path in scratch.iterdir():
        if path.name != counters.SAID and path != folder:
            shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
    return folder


def _once(kind: str, home: Path, *more: Any) -> None:
    """A process that does one thing with the records and ends. Raises InputError with its words where it cannot."""
    told, words = multiprocessing.Pipe(duplex=False)
    process = _PROCESSES.Process(target=begin, args=(kind, home, words, *more))
    process.start()
    words.close()
    with contextlib.suppress(EOFError):
        raise InputError(told.recv())
    process.join()
    if process.exitcode and process.exitcode < 0:
        raise InputError(f"{kind}: ended from outside (signal {-process.exitcode})")
    if process.exitcode:
        raise RuntimeError(f"{kind} ended with {process.exitcode}; what it was stands above")


def hold(home: Path) -> TextIO:
    """The lock on the records' folder. Raises InputError that names who holds it, or why the folder cannot be
    written."""
    try:
        home.mkdir(mode=0o700, parents=True, exist_ok=True)
        home.chmod(0o700)  # the records are their owner's alone
        stream = (home / LOCK).open("a+", encoding="utf-8")
    except OSError as exc:
        raise InputError(
            f"the records' folder {home} cannot be used ({exc.strerror}); name another with --home, or mend this one"
        ) from exc
    try:
        fcntl.flock(stream, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as exc:
        stream.seek(0)
        holder = stream.read().strip() or "another process"
        stream.close()
        raise InputError(f"the records in {home} are served already by {holder}; stop that one first") from exc
    with contextlib.suppress(OSError):  # on a full disk it is held all the same
        stream.truncate(0)
        stream.write(f"process {os.getpid()}\n")
        stream.flush()
    return stream


def _listen(host: str, port: int) -> socket.socket:
    """A socket on the port, before anything else is begun. Raises InputError."""
    if not 0 < port < 65536:
        raise InputError(f"--port {port}: a port is a number from 1 to 65535")
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    sock = socket.socket(family, socket.SOCK_STREAM)
    sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    until = time.monotonic() + 5.0  # the processes of a service that was killed may still be going
    while True:
        try:
            sock.bind((host, port))
            sock.listen(256)
            return sock
        except OSError as exc:
            if exc.errno == errno.EADDRINUSE and time.monotonic() < until:
                time.sleep(0.1)
                continue
            sock.close()
            raise InputError(
                f"cannot listen on {host}:{port} ({exc.strerror or exc}); choose another with --port"
            ) from exc
