"""serve, demo, backup, restore."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import command


def add(commands: Any) -> None:
    """The commands of this group."""
    for name, words in (("serve", "start the service"), ("demo", "start the service with the demo job")):
        p = command(commands, name, words, f"cli.server:{name}", remote=False)
        p.add_argument("--home", default=None, help="folder of the records")
        p.add_argument("--host", default="127.0.0.1")
        p.add_argument("--port", type=int, default=8740)
        p.add_argument("--processes", type=int, default=0, help="that answer requests (0: one a core, four at most)")
        p.add_argument(
            "--secure-cookies",
            action="store_true",
            help="the console is reached by TLS: its cookie goes over nothing else",
        )
        if name == "demo":
            p.add_argument("--load-only", action="store_true", help="load the demo job and stop")
    p = command(commands, "backup", "write a consistent copy of the records", "cli.server:backup", remote=False)
    p.add_argument("file")
    p.add_argument("--home", default=None)
    p = command(
        commands,
        "restore",
        "put the records of a backup in place (the service must be stopped)",
        "cli.server:restore",
        remote=False,
    )
    p.add_argument("file")
    p.add_argument("--home", default=None)
    p.add_argument(
        "--replace", action="store_true", help="replace records that are there; the old ones are kept beside"
    )
