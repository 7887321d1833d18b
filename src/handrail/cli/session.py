"""Which service, and with which token: option, environment, or the file that `login` wrote."""

from __future__ import annotations

import json
import os
from argparse import Namespace
from pathlib import Path

from handrail.cli.parsers import DEFAULT_SERVER
from handrail.client import Client


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
    return Client(server, token)


def keep(server: str, token: str) -> Path:
    path = login_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    path.touch(mode=0o600)
    path.write_text(json.dumps({"server": server, "token": token}))
    return path


def forget() -> None:
    """The token that `login` kept."""
    login_file().unlink(missing_ok=True)
