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
from typing import TextIO

from peewee import PeeweeException

from handrail import __version__
from handrail.core.errors import InputError
from handrail.service.api import metrics
from handrail.service.application import designing
from handrail.service.application.importing import UPLOADS
from handrail.service.processes.children import PATIENCE, READY, RESTED, SCRATCH, begin
from handrail.service.processes.logs import begin_log
from handrail.store import connections, heads, questions, revisions, works
from handrail.store.database import proxy, writing
from handrail.store.models import Import
from handrail.store.opening import RECORDS, open_database

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
    workers do runs and imports. Raises InputError where
    the records are served already, cannot be written, or the port is taken, before anything else is begun; `ready` is
    called when both are ours."""
    begin_log()
    os.umask(0o077)
    stopping: list[int] = []
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda got, _: stopping.append(got))
    held = hold(home)
    sock = _listen(host, port)
    ready()
    counters = _clear(home)
    kinds = {"web": processes or min(os.cpu_count() or 1, 4), "answering": questions.HOUSES, "worker": WORKERS}
    _PROCESSES.set_forkserver_preload([READY])
    children = [_Child(kind, k) for kind, number in kinds.items() for k in range(number)]
    try:
        while not stopping:
            for child in children:
                _keep_alive(child, home, sock)
            time.sleep(0.1)
    finally:
        _stop(children)
        sock.close()
        shutil.rmtree(counters, ignore_errors=True)
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
            _give_up(child)
        child.start(home, sock)


def _give_up(child: _Child) -> None:
    if child.kind == "answering":
        questions.release(child.owner)
        return
    try:
        with proxy.connection_context(), writing():
            works.release(child.owner)
    except PeeweeException:
        log.exception("what a worker had could not be given up; the end of its lease does it")


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
    """What an earlier service left over goes: works under way, half-kept revisions, temporary files, uploads that
    nobody waits for. The folder where this one's processes count."""
    for folder in (home / SCRATCH, home / UPLOADS):
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    counters = metrics.count_together(home / SCRATCH)
    for path in (home / SCRATCH).iterdir():
        if path.name != metrics.SAID and path != counters:
            shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
    if not questions.open_questions(home / SCRATCH, make=True):
        log.warning("there is no room for questions: what takes long is answered where it is asked")
    database = open_database(home / RECORDS)
    with database.connection_context():
        with writing():
            left = works.release()
            connections.mark_other_engines(__version__)
            revisions.drop_left_over()
        waiting = {
            file for (file,) in Import.select(Import.file).where(Import.state.in_(("queued", works.HELD))).tuples()
        }
        if new := designing.ship():
            log.info("%s designs come with this version", new)
        for words in _watched(home):
            log.warning("the ledger is not what was signed: %s", words)
    for path in (home / UPLOADS).iterdir():
        if path.name not in waiting:
            path.unlink(missing_ok=True)
    if left:
        log.info(
            "%s run(s) or import(s) were under way when the service stopped; runs can be started again, imports are",
            left,
        )
    return counters


def _watched(home: Path) -> list[str]:
    """What ledgers are not, of what was signed; their heads are signed again. A disk that cannot be written holds no
    service up."""
    try:
        return heads.watch(home, "start", home / RECORDS)
    except (OSError, PeeweeException) as exc:
        return [f"it could not be looked at ({exc})"]


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
