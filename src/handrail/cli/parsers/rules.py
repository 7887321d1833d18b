"""The rulebook, of a job and of the house."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command

JOB = ("JOB", "")
FILE = ("FILE", "the rulebook as YAML; - reads standard input")
CONNECTION = ("CONNECTION", "member and end, like B12.i")
PLACE = "write it there, with the CSV files that its tables are in"


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "rulebook", "what the shop does: the rules of a job", "cli.rules:rulebook")
    actions = Actions(p, to=None, revision=0, seen=None, name="", all=False, lines=False, facts=False)
    one = actions.add("get", "the rulebook as it stands", JOB)
    one.add_argument("--revision", type=int, metavar="NUMBER", help="an earlier one")
    one.add_argument("--to", metavar="FOLDER", help=PLACE)
    one = actions.add("put", "keep another as its next revision", JOB, FILE)
    one.add_argument("--if-version", type=int, dest="seen", help="only if the newest revision is still this one")
    one.add_argument("--name", help="what the revision is called, or is for")
    _try(actions)
    one = actions.add("why", "why a rule took a connection and others passed it by", JOB, CONNECTION)
    one.add_argument("--facts", action="store_true", help="every fact of the connection too")
    one.add_argument("--all", action="store_true", help="also what stands at its default")
    more = ("FILE", "the rulebook that it goes into, else the job's")
    one = actions.add("like", "a rule made from a connection", JOB, CONNECTION, more=more)
    one.add_argument(
        "--free",
        default="",
        help="sizes between commas that the ladder may climb, the others are set as they stand",
    )
    one.add_argument(
        "--kinds", action="store_true", default=False, help="between the same kinds of section, not the same sections"
    )
    one.add_argument("--to", metavar="FOLDER", help=PLACE)
    one = actions.add("practice", "what the shop does throughout, and where each of it is said", JOB)
    one.add_argument("--all", action="store_true", help="also what stands at its default")
    actions.add("revisions", "the revisions that it had", JOB)
    one = actions.add("compare", "two revisions", JOB, more=("REVISION", "the older and the newer; the last two"))
    one.add_argument("--lines", action="store_true", help="line by line too")
    one = actions.add("back", "an earlier revision again", JOB, more=("NUMBER", "of it; else the last but one"))
    one.add_argument("--name", help="what the revision is called, or is for")
    actions.add("words", "what rulebooks are written with")
    _house(commands)
    _profile(commands)
    _catalogue(commands)


def _catalogue(commands: Any) -> None:
    p = command(commands, "catalogue", "what the house has beside the shipped tables", "cli.catalogue:catalogue")
    kind, name = ("KIND", "grade, bolt, rod, electrode, surface or section"), ("NAME", "like HSA-60")
    actions = Actions(p, "list", source="")
    actions.add("list", "those that there are, with their source and who approved them")
    one = actions.add("put", "a draft of one", kind, name, more=("NAME=VALUE", "like 'Fy=60 ksi' 'Fu=75 ksi'"))
    one.add_argument("--source", help="where it comes from: a standard, a certificate, a maker's table")
    one.add_argument("--job", help="the job that alone may use it")
    actions.add("approve", "let rules, decisions and models name it", kind, name)
    actions.add("retire", "offer it no more; results that have it say so", kind, name)
    actions.add("remove", "take a draft away", kind, name)


def _try(actions: Actions) -> None:
    one = actions.add("try", "what another rulebook would take, and change", JOB, FILE)
    one.add_argument("--no-compare", action="store_true", default=False, help="only what it would take")
    one.add_argument("--limit", type=int, default=20, help="connections printed; 0 for all")
    one.add_argument("--on", metavar="CONNECTION", default="", help="on one connection")
    one.add_argument("--table", default="", help="with --on: the row that this table has for it")
    one.add_argument(
        "--formula", default="", help="with --on: what this formula gives there, like '= 2 * ceil(rows / 2)'"
    )
    one.add_argument("--rule", default="", help="with --on: what of this rule holds there")


def _profile(commands: Any) -> None:
    p = command(commands, "profile", "how the house prints: its firm, emblem, sections", "cli.printing:profile")
    actions = Actions(p, "list", firm=None, registration=None, emblem=None, sections=None, lines=None)
    actions.add("list", "those that there are")
    one = actions.add("put", "keep one; what is not said stays as it is", ("NAME", "'usual' holds where none is named"))
    one.add_argument("--firm", help="its lines with / between: 'name / address'; a job's own stand before them")
    one.add_argument("--registration", help="the line under it, like a licence's number")
    one.add_argument("--emblem", metavar="FILE", help="a PNG or SVG; '' for none")
    one.add_argument("--sections", metavar="NAMES", help="of calculations, with commas; '' for all")
    one.add_argument("--lines", choices=("governing", "all", "none"), help="whose worked lines")
    actions.add("remove", "take one away", ("NAME", "of the profile"))


def _house(commands: Any) -> None:
    p = command(commands, "house", "rulebooks above the jobs", "cli.house:house")
    name, revision = ("NAME", "of the rulebook"), ("REVISION", "like R2")
    actions = Actions(p, "list", note="", to=None, lines=False)
    actions.add("list", "those that there are, with their states")
    one = actions.add("get", "a revision of one", name, revision)
    one.add_argument("--to", metavar="FOLDER", help=PLACE)
    one = actions.add("put", "keep one, or its next revision, as a draft", name, FILE)
    one.add_argument("--note", help="what this revision is for")
    actions.add("approve", "let jobs stand on a revision", name, revision)
    actions.add("retire", "let no more jobs begin on it", name, revision)
    one = actions.add("compare", "two revisions", name, more=("REVISION", "the older and the newer; the last two"))
    one.add_argument("--lines", action="store_true", help="line by line too")
