"""A web process: answers requests on the socket that the server opened, with the others of its kind."""

from __future__ import annotations

import os
import signal
import socket
import sys
import threading
from pathlib import Path

from handrail.service.api import limits
from handrail.service.api.app import create_app
from handrail.service.processes import children
from handrail.service.processes.parting import PATIENCE, SCRATCH
from handrail.store.questions import open_questions

SHORT = (
    0.0005  # seconds after which a thread that computes lets another go on: who only reads a little waits for it often
)


class Stopped(Exception):
    """The server said that it is over."""


def main(home: Path, sock: socket.socket, threads: int) -> None:
    """Serve until told to stop, or until the server that started this is gone."""
    children.settle(home)
    sys.setswitchinterval(SHORT)
    app = create_app(home, questions_elsewhere=open_questions(home / SCRATCH))
    server = limits.Server(limits.FewReaders(app), sock, threads)

    def stop(*_: object) -> None:
        children.end_soon(threading.Event())
        raise Stopped

    signal.signal(signal.SIGTERM, stop)
    try:
        server.run()
    except Stopped:
        server.task_dispatcher.shutdown(timeout=PATIENCE - 1)  # what is being answered is answered
    os._exit(0)
