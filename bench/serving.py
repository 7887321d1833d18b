"""A service of its own for figures that are taken of one."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

DEVNULL = subprocess.DEVNULL


@contextmanager
def served(home: Path, command: str = "serve", password: str = "") -> Iterator[int]:
    """`handrail serve` (or `demo`) of a home on a free port, which it gives; ended in the end."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    asked = [sys.executable, "-m", "handrail.cli.main", command, "--home", str(home), "--port", str(port)]
    env = os.environ | ({"HANDRAIL_PASSWORD": password} if password else {})
    service = subprocess.Popen(asked, env=env, stdout=DEVNULL, stderr=DEVNULL)
    try:
        yield port
    finally:
        service.terminate()
        service.wait(timeout=30)
