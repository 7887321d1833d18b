"""`handrail serve`: the web server and the run worker, started together and stopped together."""

from __future__ import annotations

import fcntl
import logging
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import TextIO

from handrail import __version__
from handrail.core.errors import InputError
from handrail.service import limits
from handrail.service.app import create_app
from handrail.store import connections, revisions, runs
from handrail.store.database import proxy, writing

log = logging.getLogger("handrail.serve")
LOCK = "serving"


class Stopped(Exception):
    """The service was told to stop."""


def serve(home: Path, host: str = "127.0.0.1", port: int = 8740, threads: int = 8, ready: Callable[[], None] = lambda: None) -> None:
    """Serve until a signal; a worker that dies is started again, and its run marked interrupted.

    Raises InputError where the records are served already or the port is taken, before anything else is begun; `ready` is called
    when both are ours.
    """
    logging.basicConfig(level=logging.INFO, format="%(asctime)s %(name)s %(message)s", stream=sys.stderr)
    held = hold(home)
    sock = _listen(host, port)
    ready()
    app = create_app(home)
    with proxy.connection_context():
        left = runs.interrupt_left_over()
        with writing():
            connections.mark_other_engines(__version__)
            revisions.drop_left_over()
        for run_id in runs.waiting():  # one that was acknowledged but not queued yet; twice in the queue does no harm
            app.extensions["handrail.queue"].enqueue_run(run_id)
    if left:
        log.info("%s run(s) were under way when the service stopped; they can be started again", left)
    from waitress.server import create_server

    server = create_server(app, sockets=[sock], threads=threads, ident="handrail", max_request_body_size=limits.UPLOAD, channel_timeout=60)
    server.channel_class = limits.Channel
    halt = threading.Event()
    keeper = threading.Thread(target=_keep_worker, args=(home, halt), daemon=True)
    keeper.start()

    def stop(*_: object) -> None:
        raise Stopped

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    try:
        server.run()
    except Stopped:
        pass
    finally:
        halt.set()
        server.close()
        keeper.join(timeout=10)
        held.close()


def hold(home: Path) -> TextIO:
    """The lock on the records' folder. Raises InputError that names who holds it."""
    home.mkdir(parents=True, exist_ok=True)
    stream = (home / LOCK).open("a+", encoding="utf-8")
    try:
        fcntl.flock(stream, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as exc:
        stream.seek(0)
        holder = stream.read().strip() or "another process"
        stream.close()
        raise InputError(f"the records in {home} are served already by {holder}; stop that one first") from exc
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
    try:
        sock.bind((host, port))
    except OSError as exc:
        sock.close()
        raise InputError(f"cannot listen on {host}:{port} ({exc.strerror}); choose another with --port") from exc
    return sock


def _keep_worker(home: Path, halt: threading.Event) -> None:
    while not halt.is_set():
        worker = subprocess.Popen([sys.executable, "-m", "handrail.service.worker", str(home)])
        while worker.poll() is None and not halt.is_set():
            halt.wait(0.2)
        if halt.is_set():
            worker.send_signal(signal.SIGTERM)
            try:
                worker.wait(timeout=8)
            except subprocess.TimeoutExpired:
                worker.kill()
            return
        log.warning("the run worker ended with %s; starting it again", worker.returncode)
        with proxy.connection_context():
            runs.interrupt_left_over()
        time.sleep(0.5)
