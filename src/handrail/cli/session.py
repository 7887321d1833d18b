"""Which service, and with which token: option, environment, or the file that `login` wrote."""

from __future__ import annotations

import json
import os
import sys
import time
from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli.parsers import DEFAULT_SERVER
from handrail.client import Client

SOON = 1.0  # seconds that nobody needs to be told of


def login_file() -> Path:
    import platformdirs

    return Path(os.environ.get("HANDRAIL_CONFIG") or platformdirs.user_config_dir("handrail")) / "login.json"


def _kept() -> dict[str, str]:
    try:
        return json.loads(login_file().read_text())
    except (OSError, ValueError):
        return {}


def server_of(args: Namespace) -> str:
    return args.server or os.environ.get("HANDRAIL_SERVER") or _kept().get("server") or DEFAULT_SERVER


def client(args: Namespace) -> Client:
    """A client for the command's service and token."""
    server, kept = server_of(args), _kept()
    token = (
        args.token
        or os.environ.get("HANDRAIL_TOKEN")
        or (kept.get("token", "") if kept.get("server") == server else "")
    )
    return Client(server, token, progress=_Told())


class _Told:
    """Shows on a terminal how far the service is with what takes long; the line goes again."""

    def __init__(self) -> None:
        self.since = 0.0
        self.bar: Any = None

    def __call__(self, question: dict[str, Any] | None) -> None:
        if question is None:
            if self.bar is not None:
                self.bar.stop()
            self.since, self.bar = 0.0, None
            return
        self.since = self.since or time.monotonic()
        if time.monotonic() - self.since < SOON or not sys.stderr.isatty():
            return
        if self.bar is None:
            self.bar = _bar()
        words = "working it out"
        if question["state"] == "waiting":
            words = f"waiting, {question['ahead']} before it" if question["ahead"] else "waiting for its turn"
        self.bar.update(
            self.bar.task_ids[0], total=question["total"] or None, completed=question["done"], description=words
        )


def _bar() -> Any:
    from rich.console import Console
    from rich.progress import Progress

    bar = Progress(console=Console(stderr=True), transient=True)
    bar.add_task("", total=None)
    bar.start()
    return bar


def keep(server: str, token: str) -> Path:
    path = login_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    path.touch(mode=0o600)
    path.write_text(json.dumps({"server": server, "token": token}))
    return path


def forget() -> None:
    """The token that `login` kept."""
    login_file().unlink(missing_ok=True)
