"""What is asked of the engineer of record."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command

JOB, QUERY = ("JOB", "whose"), ("QUERY", "like Q7")


def add(commands: Any) -> None:
    """The command query, and what it does."""
    p = command(commands, "query", "what is asked of the engineer of record: asked, answered, closed",
                "cli.queries:listed")  # fmt: skip
    more: dict[str, Any] = dict.fromkeys(("connection", "joint", "member", "finding"))
    actions = Actions(p, state="", words="", to="", due="", holds=False, version="2.1", picture="", **more)
    one = actions.add("list", "all of a job, the newest first", JOB)
    one.add_argument("--state", choices=("open", "answered", "closed"))
    one = actions.add("ask", "ask something", JOB, ("TITLE", "what is asked, in a line"))
    one.set_defaults(call="cli.queries:ask")
    for kind in more:
        one.add_argument(f"--{kind}", action="append", metavar="NAME", help="what it is about; more than once for many")
    one.add_argument("--words", help="all that is to be said of it")
    one.add_argument("--to", help="who is asked")
    one.add_argument("--due", metavar="DATE", help="like 2026-12-24")
    one.add_argument("--holds", action="store_true", help="while it is open what it is about cannot be released")
    one = actions.add("show", "one, with what was said of it", JOB, QUERY)
    one.set_defaults(call="cli.queries:show")
    one.add_argument("--picture", metavar="FILE.png", help="the building with what it is about")
    for name, words, needed in (
        ("answer", "write down what was answered", True),
        ("close", "what it asked is settled", False),
        ("again", "ask again what was answered or closed", True),
    ):
        one = actions.add(name, words, JOB, QUERY)
        one.set_defaults(call=f"cli.queries:{name}")
        one.add_argument("--words", required=needed)
    one = actions.add("put", "as a file: .pdf, a list to print, or .bcf", JOB)
    one.set_defaults(call="cli.queries:put")
    one.add_argument("--to", required=True, metavar="FILE")
    one.add_argument("--state", choices=("open", "answered", "closed"))
    one.add_argument("--version", choices=("2.1", "3.0"), help="of BCF")
    one = actions.add("take-in", "take in a BCF file: answers to ours, and new ones", JOB, ("FILE", "the BCF file"))
    one.set_defaults(call="cli.queries:take_in")
