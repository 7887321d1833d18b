"""Starts the real service on loopback, in a process of its own."""

from __future__ import annotations

import atexit
import contextlib
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from functools import lru_cache
from pathlib import Path

import httpx

from handrail.client import Client


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


SHARED = Path(tempfile.gettempdir()) / f"handrail-tests-{os.environ.get('PYTEST_XDIST_TESTRUNUID', os.getpid())}"


@lru_cache(maxsize=1)
def loaded() -> Path:
    """A folder of records with the demo job, sized once for all processes of the tests: every service begins with a
    copy. The last that leaves clears it."""
    ready, own = SHARED / "ready", SHARED / f"user {os.getpid()}"
    try:
        SHARED.mkdir()
        made = True
    except FileExistsError:
        made = False
    own.touch()
    atexit.register(_leave, own)
    if made:
        subprocess.run(
            [sys.executable, "-m", "handrail.cli.main", "demo", "--home", str(SHARED / "home"), "--load-only"],
            check=True,
            capture_output=True,
        )
        ready.touch()
    while not ready.exists():
        time.sleep(0.2)
    return SHARED / "home"


def _leave(own: Path) -> None:
    own.unlink(missing_ok=True)
    if not list(SHARED.glob("user *")):
        shutil.rmtree(SHARED, ignore_errors=True)


class Patient(httpx.Client):
    """HTTP as it is, by somebody who asks again after what takes longer than a moment."""

    def request(self, method: str, url: str, **more) -> httpx.Response:
        response = super().request(method, url, **more)
        while response.status_code == 202 and "/questions/" in response.headers.get("Location", ""):
            time.sleep(0.05)
            response = super().request("GET", str(response.url.join(response.headers["Location"])))
        return response


class Service:
    """One service over `home`; the demo's people may sign in."""

    def __init__(self, home: Path, port: int | None = None, processes: int = 1) -> None:
        self.home, self.port, self.processes = home, port or free_port(), processes
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None
        self.tokens: dict[str, str] = {}

    def start(self) -> Service:
        if not self.home.exists():
            shutil.copytree(loaded(), self.home)
        log = (self.home.parent / f"{self.home.name}.log").open("ab")
        self.process = subprocess.Popen(
            [
                *(sys.executable, "-m", "handrail.cli.main", "serve", "--home", str(self.home)),
                *("--port", str(self.port), "--processes", str(self.processes)),
            ],
            stdout=log,
            stderr=log,
            start_new_session=True,
            env=os.environ | {"PYTHONUNBUFFERED": "1"},
        )
        for _ in range(1200):
            if self.process.poll() is not None:
                raise RuntimeError((self.home.parent / f"{self.home.name}.log").read_text()[-2000:])
            try:
                httpx.get(self.url + "/api/v1/me", timeout=5, trust_env=False)
                return self
            except httpx.HTTPError:
                time.sleep(0.1)
        raise RuntimeError("the service did not answer")

    def client(self, name: str = "engineer") -> Client:
        """A client of the demo's person, signed in once."""
        if name not in self.tokens:
            self.tokens[name] = Client(self.url).login(name, "alder-street")
        return Client(self.url, self.tokens[name])

    def stop(self) -> int:
        assert self.process
        self.process.send_signal(signal.SIGTERM)
        return self.process.wait(timeout=60)

    def kill(self) -> None:
        """kill -9, as a power cut would."""
        assert self.process
        self.process.kill()
        self.process.wait(timeout=60)


def processes(service: Service, kind: str) -> list[int]:
    """Process numbers of the service's `worker` or `web` processes."""
    found = []
    for folder in Path("/proc").iterdir():
        if folder.name.isdigit():
            with contextlib.suppress(OSError):
                words = (folder / "cmdline").read_bytes().split(b"\0")
                if words[0] == f"handrail: {kind} {service.home}".encode():
                    found.append(int(folder.name))
    return found
