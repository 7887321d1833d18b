"""The schedule by mark."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(
        commands,
        "schedule",
        "a row a mark: count, sizes, members, weight, bolts; printed, or written as .csv or .xlsx",
        "cli.marks:schedule",
    )
    p.add_argument("job")
    p.add_argument("file", nargs="?", default="", help="where to; its ending says how")
    p.add_argument("--where", default="", help="only these connections, like 'released=1'")
    p = command(commands, "marks", "how many marks there are, and what fewer would cost", "cli.marks:marks")
    p.add_argument("job")
    p.add_argument("--accept", type=int, default=0, metavar="N", help="make the first N merges, as overrides")
    p.add_argument("--reason", default="", help="why; 'made as mark ...' where it is left out")
    p.add_argument("--cause", default="", help="one of the shop's list of reasons")
