"""Working together: progress, labels, releases, tables."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from handrail.cli.parsers import command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(
        commands,
        "progress",
        "how many connections are done, failing, awaiting, released; by level, person, over time",
        "cli.team:progress",
    )
    p.add_argument("job")
    p = command(
        commands,
        "revised",
        "what the newest revision left standing: what still passes, fails, is stale, new, gone",
        "cli.team:revised",
    )
    p.add_argument("job")
    p.add_argument(
        "--what",
        default="",
        help="list these: stands, resized, 'passes now', fails, 'still fails', stale, unchecked, new, gone",
    )
    p.add_argument("--limit", type=int, default=50, help="rows printed; 0 for all")
    p = command(
        commands,
        "reserve",
        "connections with much in reserve: what a step down would save, which parts hardly work",
        "cli.team:reserve",
    )
    p.add_argument("job")
    p.add_argument("--below", type=float, default=0.5, help="only those that are used less than this")
    p.add_argument("--where", default="")
    p.add_argument("--limit", type=int, default=30, help="rows printed; 0 for all")
    p = command(
        commands,
        "label",
        "tag connections, say who works on them, in which sequence they are erected",
        "cli.team:label",
    )
    _which(p)
    p.add_argument("--tag", action="append", default=[])
    p.add_argument("--untag", action="append", default=[])
    p.add_argument("--person", default=None, help="'' for nobody")
    p.add_argument("--sequence", default=None, help="'' for none")
    p = command(commands, "note", "a note to the shop on connections: what may be altered, and how", "cli.team:note")
    _which(p)
    p.add_argument("--words", required=True, help="'' takes it back")
    p = command(
        commands, "comment", "say something about a connection: comment JOB CONNECTION WORDS", "cli.team:comment"
    )
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument("words")
    p = command(
        commands,
        "release",
        "an engineer's word that connections may be drawn; it falls when what they rest on changes",
        "cli.team:release",
    )
    _which(p)
    p.add_argument("--word", default="", help="what is said of it; to withdraw takes one")
    p.add_argument("--withdraw", action="store_true", help="take the release back")
    p.add_argument("--skip", action="store_true", help="leave out those that cannot be released; else one refuses all")
    p = command(
        commands, "table", "the table of connections as a file: table JOB FILE.csv or FILE.xlsx", "cli.team:table"
    )
    p.add_argument("job")
    p.add_argument("file", help="where to; its ending says how")
    p.add_argument("--where", default="")
    p.add_argument("--sort", default="connection")
    p.add_argument("--columns", default="", help="between commas; all where it is left out")


def _which(p: ArgumentParser) -> None:
    p.add_argument("job")
    p.add_argument("connections", nargs="*")
    p.add_argument("--where", default="", help="those that this filter leaves")
    p.add_argument("--pattern", default="", help="those of a pattern, like P1")
    p.add_argument("--slot", type=int, default=None, help="of the pattern: those at one of its places")
