"""Reads the command line and hands over to the command's own module, imported only then."""

from __future__ import annotations

import argparse
import importlib
import os
import sys
from typing import Any, NoReturn

DEFAULT_SERVER = "http://127.0.0.1:8740"


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        print(f"handrail: {message}; see '{self.prog} --help'", file=sys.stderr)
        raise SystemExit(2)


def parser() -> argparse.ArgumentParser:
    """The whole command line."""
    top = _Parser(
        prog="handrail",
        description="Standard steel connections for a whole building: framed, ruled, checked, traceable.",
    )
    top.add_argument("--version", action="store_true", help="print the version")
    commands = top.add_subparsers(dest="command", metavar="COMMAND")
    _service(commands)
    _accounts(commands)
    _job(commands)
    _survey(commands)
    _rules(commands)
    _decisions(commands)
    _team(commands)
    _marks(commands)
    _local(commands)
    return top


def _command(commands: Any, name: str, words: str, where: str, remote: bool = True) -> argparse.ArgumentParser:
    found = commands.add_parser(name, help=words, description=words)
    found.set_defaults(call=where)
    if remote:
        found.add_argument(
            "--server",
            default=None,
            help=f"address of the service (else HANDRAIL_SERVER, the sign-in, {DEFAULT_SERVER})",
        )
        found.add_argument("--token", default=None, help="a token (else HANDRAIL_TOKEN, the sign-in)")
        found.add_argument("--json", action="store_true", help="print JSON")
    return found


def _service(commands: Any) -> None:
    for name, words in (("serve", "start the service"), ("demo", "start the service with the demo job")):
        p = _command(commands, name, words, f"cli.server:{name}", remote=False)
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
    p = _command(commands, "backup", "write a consistent copy of the records", "cli.server:backup", remote=False)
    p.add_argument("file")
    p.add_argument("--home", default=None)
    p = _command(
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


def _accounts(commands: Any) -> None:
    p = _command(commands, "login", "sign in and keep a token for the next commands", "cli.accounts:login")
    p.add_argument("name")
    p.add_argument("--password", default=None, help="else HANDRAIL_PASSWORD, else asked for")
    p.add_argument("--days", type=int, default=90, help="how long the token is good for")
    _command(commands, "whoami", "who you are to the service", "cli.accounts:whoami")
    _command(commands, "logout", "end the token of the sign-in", "cli.accounts:logout")
    p = _command(commands, "tokens", "your tokens and sessions: list, new LABEL, revoke NUMBER", "cli.accounts:tokens")
    p.add_argument("action", nargs="?", choices=("list", "new", "revoke"), default="list")
    p.add_argument("rest", nargs="*")
    p.add_argument("--password", default=None, help="for a new token (else HANDRAIL_PASSWORD, else asked for)")
    p.add_argument("--days", type=int, default=90, help="how long a new token is good for")
    p = _command(
        commands, "password", "change your password; every other session and token ends", "cli.accounts:password"
    )
    p.add_argument("--old", default=None, help="else asked for")
    p.add_argument("--new", default=None, help="else asked for")
    p = _command(
        commands,
        "users",
        "accounts: list, add NAME, password NAME, remove NAME, role JOB NAME ROLE",
        "cli.accounts:users",
    )
    p.add_argument("action", nargs="?", choices=("list", "add", "password", "remove", "role"), default="list")
    p.add_argument("rest", nargs="*")
    p.add_argument("--password", default=None, help="for add and password (else HANDRAIL_PASSWORD, else asked for)")
    p.add_argument("--admin", action="store_true", help="a new user administers the service")


def _coming_in(commands: Any) -> None:
    p = _command(commands, "import", "import a model revision and print its audit", "cli.jobs:import_model")
    p.add_argument("job")
    p.add_argument("path", help="a bundle (folder, zip or workbook), or tables of another program")
    p.add_argument(
        "--map", help="the column map that tables are read through; else map.toml beside them, or the job's last one"
    )
    p = _command(
        commands,
        "watch",
        "send what an analysis writes into a folder, as a revision that waits for a look",
        "cli.watching:watch",
    )
    p.add_argument("job")
    p.add_argument("folder")
    p.add_argument("--map", help="the column map that tables are read through; else as for an import")
    p.add_argument("--still", type=float, default=5.0, help="seconds that nothing changes before it is sent; 5")
    p.add_argument("--now", action="store_true", help="send what is there already")
    p.add_argument("--once", action="store_true", help="end after it was sent once")
    p = _command(commands, "confirm", "take in an import that waits for a look", "cli.watching:confirm")
    p.add_argument("job")
    p.add_argument("number", type=int, help="of the import")
    p = _command(
        commands,
        "map",
        "propose a column map for tables of another program, or see what is understood through one",
        "cli.maps:column_map",
    )
    p.add_argument("path", help="a folder, zip or workbook")
    p.add_argument("--map", help="a column map to look through, in place of proposing one")
    p.add_argument("--house", help="one of the house's maps by its name, in place of proposing one")
    p = _command(
        commands, "maps", "column maps that the house keeps: list, get NAME, put NAME FILE, leave NAME", "cli.maps:maps"
    )
    p.add_argument("action", nargs="?", choices=("list", "get", "put", "leave"), default="list")
    p.add_argument("rest", nargs="*", help="the map's name; put: and a file")
    p.add_argument("--note", default="", help="put: what it is for")


def _job(commands: Any) -> None:
    p = _command(commands, "jobs", "the jobs that you can see", "cli.jobs:jobs")
    p.add_argument(
        "--closed",
        action="store_true",
        help="what is left of the ledgers of jobs that were deleted, for administrators",
    )
    p = _command(
        commands, "job", "job new NAME: make a job; job set NAME: change its title, code or method", "cli.jobs:job"
    )
    p.add_argument("action", choices=("new", "set"))
    p.add_argument("name")
    p.add_argument("--title")
    p.add_argument("--code", help="AISC 360-22 (unless set) or AISC 360-16")
    p.add_argument("--method", choices=("LRFD", "ASD"), help="LRFD unless set")
    p.add_argument(
        "--rulebook",
        default="",
        help=(
            "job new: the rulebook of the house that it begins with, like 'shop-practice R2', or none; the only "
            "one that is approved, where it is left out"
        ),
    )
    p.add_argument(
        "--tolerance",
        type=float,
        help="job set: how far actions (a share) and utilisation may move before decisions ask for a look; 0.05",
    )
    p.add_argument(
        "--set",
        dest="combination_set",
        help="job set: the set of combinations that results are by; strength unless set",
    )
    p.add_argument(
        "--anyway", action="store_true", help="job set: also a method or set of which the model has no combinations"
    )
    _coming_in(commands)
    p = _command(commands, "audit", "the audit of the current revision", "cli.jobs:audit")
    p.add_argument("job")
    for name, words in (("joints", "joints and how they stand"), ("connections", "connections, filtered and sorted")):
        p = _command(commands, name, words, f"cli.jobs:{name}")
        p.add_argument("job")
        p.add_argument("--where", default="", help="like 'status=fail, utilisation>0.9, section~W16'")
        p.add_argument("--limit", type=int, default=50, help="rows printed; 0 for all")
        if name == "connections":
            p.add_argument(
                "--sort",
                default="connection",
                help="a field; '-utilisation' for falling order (write --sort=-utilisation)",
            )
    p = _command(commands, "show", "one connection: sizes with sources, checks, peaks", "cli.jobs:show")
    p.add_argument("job")
    p.add_argument("connection", help="member and end, like B12.i")
    p.add_argument("--trace", action="store_true", help="the worked lines of every check")
    p = _command(commands, "run", "size connections by the rulebook, or verify them", "cli.jobs:run")
    p.add_argument("job")
    p.add_argument("--where", default="", help="only these connections, like 'stale=1'")
    p.add_argument("--pattern", default="", help="only those of a pattern, like P1")
    p.add_argument("--verify", action="store_true", help="check sizes as they stand")
    p.add_argument(
        "--as-one",
        action="store_true",
        help="one set of sizes for all that is named, checked for each one's own forces; nothing is kept ...",
    )
    p.add_argument("--keep", action="store_true", help="... unless with this, as overrides")
    p.add_argument("--reason", default="", help="of --keep")
    p.add_argument("--cause", default="", help="of --keep, one of the shop's list of reasons")
    p.add_argument(
        "--set",
        dest="combination_set",
        default="",
        help="another set of combinations: look by it, and change no result",
    )
    p.add_argument(
        "--only",
        action="append",
        default=[],
        metavar="COMBINATION",
        help="single combinations (may be given again): look by them alone",
    )
    p.add_argument("--again", type=int, default=None, metavar="RUN", help="start an interrupted run again")


def _survey(commands: Any) -> None:
    p = _command(commands, "acknowledge", "let a finding of the audit stand, with a reason", "cli.survey:acknowledge")
    p.add_argument("job")
    p.add_argument("code", help="of the finding, like braces_cross")
    p.add_argument("--node", default="")
    p.add_argument("--member", default="", help="or the combination that the finding is about")
    p.add_argument("--reason", default="")
    p.add_argument("--all", action="store_true", help="every finding of that code that is open")
    p.add_argument("--take-back", action="store_true", help="let it count again")
    p = _command(
        commands,
        "survey",
        "what is in the model: sections, joints by kind, the largest forces and demands",
        "cli.survey:survey",
    )
    p.add_argument("job")
    p.add_argument("--limit", type=int, default=20, help="rows of each table; 0 for all")
    p = _command(
        commands,
        "patterns",
        "joints that are alike: patterns JOB, or one with its peaks: patterns JOB P1",
        "cli.patterns:patterns",
    )
    p.add_argument("job")
    p.add_argument("pattern", nargs="?")
    p.add_argument("--limit", type=int, default=20, help="rows printed; 0 for all")
    p.add_argument("--workbook", metavar="FILE", help="write the pattern as .xlsx for whoever designs it elsewhere")
    p.add_argument("--put", metavar="JOINT", help="put a joint into the pattern that is named, with --reason")
    p.add_argument("--take-out", metavar="JOINT", help="take a joint out of its pattern, with --reason")
    p.add_argument("--leave", metavar="JOINT", help="the joint goes back to where it was found to belong")
    p.add_argument("--reason", default="")
    p = _command(
        commands,
        "groups",
        "connections that people put together: groups JOB, or one: groups JOB NAME",
        "cli.patterns:groups",
    )
    p.add_argument("job")
    p.add_argument("group", nargs="?", help="lists and runs take it by --where 'group=NAME'")
    p.add_argument("--where", default="", help="a filter: make it of these")
    p.add_argument("--add", nargs="*", default=[], metavar="CONNECTION", help="add connections (and those of --where)")
    p.add_argument("--take", nargs="*", default=[], metavar="CONNECTION", help="take connections out")
    p.add_argument("--drop", action="store_true", help="take the group away; its connections stay")
    p = _command(
        commands, "compare", "what changed from one revision to another: compare JOB [R1 R2]", "cli.survey:compare"
    )
    p.add_argument("job")
    p.add_argument("revisions", nargs="*", help="like R1 R2; the last two where left out")
    p.add_argument("--limit", type=int, default=30, help="changes printed; 0 for all")
    p = _command(commands, "combinations", "combinations get, generate or put JOB [FILE]", "cli.survey:combinations")
    p.add_argument("action", choices=("get", "generate", "put"))
    p.add_argument("job")
    p.add_argument("file", nargs="?", help="for put: JSON as get --json prints it")
    p.add_argument("--edition", choices=("7-22", "7-16"), default="7-22", help="of ASCE 7")
    p.add_argument(
        "--method", action="append", choices=("LRFD", "ASD"), help="may be given twice; the job's where it is left out"
    )
    p.add_argument("--sds", type=float, default=0.0, help="S_DS")
    p.add_argument("--rho", type=float, default=1.0, help="redundancy factor")
    p.add_argument("--omega", type=float, default=0.0, help="overstrength factor; 0 for no such set")
    p.add_argument("--category", choices=tuple("ABCDEF"), default="B", help="seismic design category")
    p.add_argument("--one-way", action="append", default=[], metavar="CASE", help="not also taken the other way round")
    p.add_argument("--keep", action="store_true", help="keep what was generated as the model's next revision")


def _rules(commands: Any) -> None:
    words = (
        "the rules: get JOB, put JOB FILE, try JOB FILE (what it would change), why JOB CONNECTION, like JOB CONNECTION"
        " (a rule made from it), practice JOB, revisions JOB, compare JOB [OLD NEW], back JOB [NUMBER], words (what"
        " they are written with)"
    )
    p = _command(commands, "rulebook", words, "cli.rules:rulebook")
    p.add_argument(
        "action", choices=("get", "put", "try", "why", "like", "practice", "revisions", "compare", "back", "words")
    )
    p.add_argument("job", nargs="?", default="")
    p.add_argument("rest", nargs="*")
    p.add_argument("--if-version", type=int, dest="seen", help="put: only if the newest revision is still this one")
    p.add_argument("--name", default="", help="put, back: what the revision is called, or is for")
    p.add_argument("--revision", type=int, default=0, help="get: an earlier one")
    p.add_argument(
        "--to", metavar="FOLDER", help="get, like: write it there, with the CSV files that its tables are in"
    )
    p.add_argument("--no-compare", action="store_true", help="try: only what it would take, not what would change")
    p.add_argument("--limit", type=int, default=20, help="try: connections printed; 0 for all")
    p.add_argument("--on", metavar="CONNECTION", default="", help="try: on one connection")
    p.add_argument("--table", default="", help="try --on: the row that this table has for it")
    p.add_argument("--formula", default="", help="try --on: what this formula gives there, like '= 2 * ceil(rows / 2)'")
    p.add_argument("--rule", default="", help="try --on: what of this rule holds there")
    p.add_argument("--facts", action="store_true", help="why: every fact of the connection too")
    p.add_argument(
        "--free",
        default="",
        help="like: sizes between commas that the ladder may climb, the others are set as they stand",
    )
    p.add_argument(
        "--kinds", action="store_true", help="like: between the same kinds of section, not the same sections only"
    )
    p.add_argument("--all", action="store_true", help="practice, why: also what stands at its default")
    p.add_argument("--lines", action="store_true", help="compare: line by line too")
    words = (
        "rulebooks above the jobs: list, get NAME R2, put NAME FILE, approve NAME R2, retire NAME R2, compare NAME [OLD"
        " NEW]"
    )
    p = _command(commands, "house", words, "cli.house:house")
    p.add_argument("action", nargs="?", choices=("list", "get", "put", "approve", "retire", "compare"), default="list")
    p.add_argument("rest", nargs="*")
    p.add_argument("--note", default="", help="put: what this revision is for")
    p.add_argument("--to", metavar="FOLDER", help="get: write it there, with the CSV files that its tables are in")
    p.add_argument("--lines", action="store_true", help="compare: line by line too")
    p = _command(
        commands,
        "earlier",
        "designs that pass between like members, here and in other jobs, tried on a connection",
        "cli.decisions:earlier",
    )
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument("--exact", action="store_true", help="between the same sections only")
    p = _command(
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


def _decisions(commands: Any) -> None:
    words = (
        "decisions against the rules: set JOB CONNECTION PARAMETER=VALUE ..., take JOB CONNECTION FROM, list JOB, back"
        " JOB, forward JOB; accept, return, confirm or clear JOB NUMBER ...; attach JOB NUMBER FILE, files JOB NUMBER;"
        " export JOB, verify JOB"
    )
    p = _command(commands, "override", words, "cli.decisions:override")
    p.add_argument(
        "action",
        choices=(
            "set",
            "take",
            "list",
            "accept",
            "return",
            "confirm",
            "clear",
            "back",
            "forward",
            "attach",
            "files",
            "export",
            "verify",
        ),
    )
    p.add_argument("job", nargs="?", default="")
    p.add_argument("rest", nargs="*")
    p.add_argument("--reason", default="", help="why, in words; to set takes these or --cause")
    p.add_argument(
        "--cause", default="", help="one of the shop's list of reasons (handrail causes); of list: only these"
    )
    p.add_argument("--preview", action="store_true", help="show before and after, keep nothing")
    p.add_argument("--both", action="store_true", help="change a size of shared bolts for the connection opposite too")
    p.add_argument(
        "--where", default="", help="set: for all connections that this filter leaves; else: decisions on those"
    )
    p.add_argument(
        "--pattern", default="", help="set: for the connections of a pattern, like P1; else: decisions on those"
    )
    p.add_argument("--slot", type=int, default=None, help="of the pattern: those at one of its places")
    p.add_argument(
        "--skip", action="store_true", help="leave out connections of which it cannot be made; else one refuses all"
    )
    p.add_argument(
        "--hold",
        action="store_true",
        help="set JOB CONNECTION: what a ladder climbed stays as it stands, by overrides too",
    )
    p.add_argument(
        "--remedy",
        type=int,
        default=0,
        metavar="N",
        help="set JOB CONNECTION: what its remedy of this number changes (handrail show)",
    )
    p.add_argument("--word", default="", help="what is said of a review; to return takes one")
    p.add_argument(
        "--state",
        default="",
        help="awaiting, accepted, returned, cleared, holding or look (asks to be looked at again)",
    )
    p.add_argument("--by", default="", help="only those of this person")
    p.add_argument("--level", default="", help="only those on this level")
    p.add_argument(
        "--mark",
        default="",
        choices=("", "agrees", "worse", "carries"),
        help="the rule gives the same; used more by it; passes by it only",
    )
    p.add_argument("--csv", action="store_true", help="export: as CSV")
    p.add_argument("--file", default="", help="verify: an export, without the service")
    p.add_argument("--head", default="", help="verify: the digest of the last entry as it was noted once")
    p = _command(
        commands, "causes", "the shop's short list of reasons for deciding against a rule", "cli.decisions:causes"
    )
    p.add_argument("--put", nargs="+", metavar="REASON", default=[], help="another list, for administrators")


def _team(commands: Any) -> None:
    p = _command(
        commands,
        "progress",
        "how many connections are done, failing, awaiting, released; by level, person, over time",
        "cli.team:progress",
    )
    p.add_argument("job")
    p = _command(
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
    p = _command(
        commands,
        "reserve",
        "connections with much in reserve: what a step down would save, which parts hardly work",
        "cli.team:reserve",
    )
    p.add_argument("job")
    p.add_argument("--below", type=float, default=0.5, help="only those that are used less than this")
    p.add_argument("--where", default="")
    p.add_argument("--limit", type=int, default=30, help="rows printed; 0 for all")
    p = _command(
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
    p = _command(
        commands, "comment", "say something about a connection: comment JOB CONNECTION WORDS", "cli.team:comment"
    )
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument("words")
    p = _command(
        commands,
        "release",
        "an engineer's word that connections may be drawn; it falls when what they rest on changes",
        "cli.team:release",
    )
    _which(p)
    p.add_argument("--word", default="", help="what is said of it; to withdraw takes one")
    p.add_argument("--withdraw", action="store_true", help="take the release back")
    p.add_argument("--skip", action="store_true", help="leave out those that cannot be released; else one refuses all")
    p = _command(
        commands, "table", "the table of connections as a file: table JOB FILE.csv or FILE.xlsx", "cli.team:table"
    )
    p.add_argument("job")
    p.add_argument("file", help="where to; its ending says how")
    p.add_argument("--where", default="")
    p.add_argument("--sort", default="connection")
    p.add_argument("--columns", default="", help="between commas; all where it is left out")


def _marks(commands: Any) -> None:
    p = _command(
        commands,
        "schedule",
        "a row a mark: count, sizes, members, weight, bolts; printed, or written as .csv or .xlsx",
        "cli.marks:schedule",
    )
    p.add_argument("job")
    p.add_argument("file", nargs="?", default="", help="where to; its ending says how")
    p.add_argument("--where", default="", help="only these connections, like 'released=1'")
    p = _command(commands, "marks", "how many marks there are, and what fewer would cost", "cli.marks:marks")
    p.add_argument("job")
    p.add_argument("--accept", type=int, default=0, metavar="N", help="make the first N merges, as overrides")
    p.add_argument("--reason", default="", help="why; 'made as mark ...' where it is left out")
    p.add_argument("--cause", default="", help="one of the shop's list of reasons")


def _which(p: argparse.ArgumentParser) -> None:
    p.add_argument("job")
    p.add_argument("connections", nargs="*")
    p.add_argument("--where", default="", help="those that this filter leaves")
    p.add_argument("--pattern", default="", help="those of a pattern, like P1")
    p.add_argument("--slot", type=int, default=None, help="of the pattern: those at one of its places")


def _local(commands: Any) -> None:
    p = _command(
        commands, "trial", "check one connection from a file, without a service", "cli.local:trial", remote=False
    )
    p.add_argument("file", help="YAML or JSON; - reads standard input")
    p.add_argument("--json", action="store_true")
    p.add_argument("--trace", action="store_true", help="the worked lines of every check")
    p.add_argument("--si", action="store_true", help="print the table in kN and mm (JSON always is)")
    p = _command(
        commands,
        "sweep",
        "a trial over lists of values, from a file: to the first that passes, or all",
        "cli.sweeping:sweep",
    )
    p.add_argument(
        "file",
        help=(
            "a trial with an entry sweep (values, order, stop); of a job's connection the entry alone will do; - reads"
            " standard input"
        ),
    )
    p.add_argument("job", nargs="?", default="", help="sweep a connection of this job, with its own actions")
    p.add_argument("connection", nargs="?", default="")
    p.add_argument("--first", action="store_true", help="stop at the first that passes, whatever the file says")
    p.add_argument("--limit", type=int, default=40, help="rows printed; 0 for all")
    p.add_argument("--si", action="store_true", help="print the table in mm (of a file)")
    p.add_argument("--picture", metavar="FILE", help="draw utilisation over the values, as .svg")
    p.add_argument(
        "--keep",
        action="store_true",
        help="of a job's connection: keep the winner as an override, with --reason or --cause",
    )
    p.add_argument("--reason", default="")
    p.add_argument("--cause", default="")
    p.add_argument("--both", action="store_true", help="keep: for the connection opposite too, where they share bolts")
    p = _command(
        commands,
        "capacity",
        "what a standard holds on a range of sections, and the lightest for a shear",
        "cli.sweeping:capacity",
        remote=False,
    )
    p.add_argument(
        "file",
        help="YAML or JSON: standard, framing, support, sections, perhaps values and shears; - reads standard input",
    )
    p.add_argument("out", nargs="?", default="", help="where to, as .xlsx")
    p.add_argument("--section", default="", help="only this one")
    p.add_argument("--shear", default="", help="only what holds it, the lightest first, like '40 kip'")
    p.add_argument("--limit", type=int, default=40, help="rows printed; 0 for all")
    p.add_argument("--si", action="store_true", help="kN, mm and kg")
    p.add_argument("--json", action="store_true")
    p = _command(commands, "standards", "the standards and their parameters", "cli.local:standards", remote=False)
    p.add_argument("name", nargs="?")
    p.add_argument("--json", action="store_true")
    p = _command(commands, "sections", "sections of the catalogue", "cli.local:sections", remote=False)
    p.add_argument("text", nargs="?", default="")
    p.add_argument("--json", action="store_true")
    p.add_argument("--limit", type=int, default=30)


def _parsed(top: argparse.ArgumentParser, argv: list[str] | None) -> argparse.Namespace:
    """The arguments; words that stand behind options go with those before them."""
    args, left = top.parse_known_args(argv)
    for name in ("rest", "connections"):
        if left and hasattr(args, name) and not any(word.startswith("-") for word in left):
            setattr(args, name, [*getattr(args, name), *left])
            return args
    if left:
        top.error(f"unrecognized arguments: {' '.join(left)}")
    return args


def main(argv: list[str] | None = None) -> int:
    """Run one command; the exit code is 0 done, 1 something fails its checks, 2 wrong use or refused."""
    top = parser()
    args = _parsed(top, argv)
    if args.version:
        from handrail import __version__

        print(f"handrail {__version__}")
        return 0
    if not args.command:
        top.print_help()
        return 2
    module, function = args.call.split(":")
    return _call(module, function, args)


def _call(module: str, function: str, args: argparse.Namespace) -> int:
    from handrail.core.errors import InputError

    try:
        return int(getattr(importlib.import_module(f"handrail.{module}"), function)(args) or 0)
    except InputError as exc:
        in_si = getattr(args, "si", False) or getattr(args, "json", False)
        return _refused(exc.said("si" if in_si else "us"))
    except KeyboardInterrupt:
        return _refused("stopped")
    except (
        BrokenPipeError
    ):  # who reads has read enough: `| head`; what was asked is answered by the exit code all the same
        sys.stdout = open(os.devnull, "w")  # noqa: SIM115
        return 0
    except RuntimeError as exc:  # ServiceError and the like
        from handrail.cli.output import visible

        problems = getattr(exc, "problems", [])
        for found in problems[:20]:
            print("  " + visible(_place(found)), file=sys.stderr)
        return _refused(str(exc))


def _place(found: dict[str, Any]) -> str:
    place = " ".join(
        str(v)
        for v in (
            found.get("file"),
            f"row {found['row']}" if found.get("row") else "",
            f"line {found['line']} column {found['column']}" if found.get("line") else found.get("column"),
            found.get("where"),
        )
        if v
    )
    return f"{place}: {found.get('message', '')}"


def _refused(text: str) -> int:
    from handrail.cli.output import visible

    print(visible(f"handrail: {text}"), file=sys.stderr)
    return 2


if __name__ == "__main__":
    raise SystemExit(main())
