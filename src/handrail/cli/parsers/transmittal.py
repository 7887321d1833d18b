"""What leaves the house."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command


def add(commands: Any) -> None:
    """The command transmittal, and what it does."""
    p = command(commands, "transmittal", "what leaves the house: numbered, frozen, proved", "cli.transmittal:listed")
    actions = Actions(p, where="", anyway="", preview=False, to="", file="")
    one = actions.add("make", "freeze what is released: drawings, lists, what changed since it was last sent",
                      ("JOB", "whose"))  # fmt: skip
    one.set_defaults(call="cli.transmittal:make")
    one.add_argument("--to", required=True, help="to whom it goes")
    one.add_argument("--why", required=True, help="what for, like 'for fabrication'")
    one.add_argument("--where", help="only these connections, like 'level=2'")
    one.add_argument("--anyway", metavar="REASON", help="what is not released goes along, marked so")
    one.add_argument("--preview", action="store_true", help="what would be in it; nothing is made")
    one.add_argument("--file", metavar="FILE.zip", help="write it here, too")
    actions.add("list", "all of a job, the newest first", ("JOB", "whose"))
    one = actions.add("show", "one, with what was changed in it", ("JOB", "whose"), ("NUMBER", "like T003"))
    one.set_defaults(call="cli.transmittal:show")
    one.add_argument("--to", metavar="FILE.zip", help="write it here")
    one = actions.add("verify", "whether a file is what was sent", ("FILE", "the zip"))
    one.set_defaults(call="cli.transmittal:verify")
