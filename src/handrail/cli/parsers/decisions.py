"""Decisions against the rules."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from handrail.cli.parsers import Actions, command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "override", "decisions against the rules", "cli.decisions:override")
    asked = dict.fromkeys(("state", "by", "cause", "level", "where", "mark", "pattern"), "")
    actions = Actions(p, **asked, slot=None, reason="", word="", file="", head="", csv=False, preview=False, both=False)
    _setting(actions)
    _asked(actions.add("list", "the decisions of a job, newest first", JOB))
    for name, words in (
        ("accept", "an engineer's word that a decision stands"),
        ("return", "an engineer's word that it does not: its connection is by its rule again; takes --word"),
        ("confirm", "it was looked at again, and stands on what there is now"),
        ("clear", "take it back: its connection is by its rule again"),
    ):
        one = actions.add(name, words, JOB, more=("NUMBER", "of the decision, as list has it; else all of a filter"))
        one.add_argument("--word", help="what is said of it")
        if name == "clear":
            one.add_argument("--reason", help="the same")
        _asked(one)
    actions.add("back", "go back over your last change of sizes or standards", JOB)
    actions.add("forward", "go forward over it again", JOB)
    actions.add("attach", "a file that belongs to a decision", JOB, ("NUMBER", "of the decision"), ("FILE", ""))
    more = ("FILE_NUMBER", "of one of them: its content, to standard output")
    actions.add("files", "the files of a decision", JOB, ("NUMBER", "of the decision"), more=more)
    actions.add("export", "the ledger, entry by entry", JOB).add_argument("--csv", action="store_true", help="as CSV")
    one = actions.add("verify", "that each entry of a ledger follows from the one before")
    one.add_argument("job", metavar="JOB", nargs="?", default="", help="of the service; or a file:")
    one.add_argument("--file", help="an export, proved without the service")
    one.add_argument("--head", help="the digest of the last entry as it was noted once")
    p = command(
        commands, "causes", "the shop's short list of reasons for deciding against a rule", "cli.decisions:causes"
    )
    p.add_argument("--put", nargs="+", metavar="REASON", default=[], help="another list, for administrators")
    p = command(
        commands,
        "earlier",
        "designs that pass between like members, here and in other jobs, tried on a connection",
        "cli.decisions:earlier",
    )
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument("--exact", action="store_true", help="between the same sections only")
    p = command(
        commands,
        "alternatives",
        "other standards or sizes of a connection side by side; nothing is kept",
        "cli.decisions:alternatives",
    )
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument(
        "alternative", nargs="+", help="like double_angle, or 'rows=5', or 'double_angle rows=4 bolt=7/8_A325-N'"
    )


JOB = ("JOB", "")


def _setting(actions: Actions) -> None:
    one = actions.add("set", "set sizes, the standard, the framing or the actions of connections", JOB)
    one.add_argument(
        "rest",
        nargs="+",
        metavar="CONNECTION PARAMETER=VALUE",
        help="the connection (or a filter or a pattern in its place), and what is to be",
    )
    one.add_argument("--where", help="for all connections that this filter leaves")
    one.add_argument("--pattern", help="for the connections of a pattern, like P1")
    one.add_argument("--slot", type=int, help="of the pattern: those at one of its places")
    one.add_argument("--skip", action="store_true", default=False, help="leave out those of which it cannot be made")
    one.add_argument(
        "--hold",
        action="store_true",
        default=False,
        help="of one connection: what a ladder climbed stays as it stands, by overrides too",
    )
    one.add_argument(
        "--remedy", type=int, default=0, metavar="N", help="what its remedy of this number changes (handrail show)"
    )
    _said(one)
    taken = ("CONNECTION", "that is to be like another"), ("FROM", "the other")
    _said(actions.add("take", "make a connection like another: its standard and chosen sizes", JOB, *taken))


def _said(one: ArgumentParser) -> None:
    """Why, and whether it is to be kept."""
    one.add_argument("--reason", help="why, in words; these or --cause are needed")
    one.add_argument("--cause", help="one of the shop's list of reasons (handrail causes)")
    one.add_argument("--preview", action="store_true", help="show before and after, keep nothing")
    one.add_argument("--both", action="store_true", help="change what is shared for the connection opposite too")


def _asked(one: ArgumentParser) -> None:
    """Which decisions."""
    states = "awaiting, accepted, returned, cleared, holding or look (asks to be looked at again)"
    one.add_argument("--state", help=states)
    one.add_argument("--by", help="only those of this person")
    one.add_argument("--cause", help="only those with this reason of the shop's list")
    one.add_argument("--level", help="only those on this level")
    one.add_argument("--where", help="only those on connections that this filter leaves")
    one.add_argument("--pattern", help="only those on connections of a pattern, like P1")
    one.add_argument(
        "--mark",
        choices=("agrees", "worse", "carries"),
        help="the rule gives the same; used more by it; passes by it only",
    )
