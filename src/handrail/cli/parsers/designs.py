"""Designs of the house."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command

NAME = ("NAME", "of the design")
REVISION = ("REVISION", "like R2; the newest where none is said")
JOB = "the job"


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "design", "designs of the house, above its jobs", "cli.designs:design")
    actions = Actions(
        p, "list", text="", standard="", framing="", tag="", bolt="", state="", V="", sort="", limit=0, title="",
        note="", tags="", connection="", share=0.15, degrees=3.0, field=None, all=False, tick="", to=None,
    )  # fmt: skip
    one = actions.add("list", "those that there are, by words and by what they hold")
    for word, help_ in (
        ("--text", "words that are all there"),
        ("--standard", "like single_plate"),
        ("--framing", "like beam_to_girder"),
        ("--tag", "that it has"),
        ("--bolt", "like '3/4 A325-N'"),
        ("--state", "draft, house, shipped, withdrawn, with commas"),
        ("--V", "shear that it holds alone, like '40 kip'"),
        ("--sort", "name, steel, shear, bolts, made; with - before it the other way"),
    ):
        one.add_argument(word, help=help_)
    one.add_argument("--limit", type=int, help="how many are printed")
    actions.add("show", "what one says, fits, asks and holds, and where it is used", NAME, more=REVISION)
    one = actions.add("put", "keep a draft, or its next revision", NAME, more=("FILE", "a trial's, or a design's"))
    one.add_argument("--job", help=f"{JOB} that --connection is of")
    one.add_argument("--connection", help="made from one as it stands")
    for word in ("--title", "--note"):
        one.add_argument(word, help="in words")
    one.add_argument("--tags", help="with commas")
    one = actions.add("find", "something like a trial: tried under its actions", ("FILE", "a trial's"))
    one.add_argument("--share", type=float, help="of a member's depth that it may be off; 0.15 where none is said")
    one.add_argument("--degrees", type=float, help="that angles may be off; 3 where none is said")
    one.add_argument("--limit", type=int, help="how many are printed, 60 at most")
    one = actions.add("in-job", "which connections of a job it would hold", ("JOB", JOB), NAME, more=REVISION)
    one.add_argument("--field", action="append", metavar="NAME=VALUE", help="what it asks; may be said again")
    one.add_argument("--all", action="store_true", help="every connection of its framings, not those that it fits")
    one.add_argument("--limit", type=int, help="how many are printed")
    one = actions.add(
        "would-change", "what a revision would change where another is used", ("JOB", JOB), NAME, more=REVISION
    )
    one.add_argument("--limit", type=int, help="how many are printed")
    actions.add("sign", "make a draft the house's", NAME, more=REVISION)
    actions.add("withdraw", "let nothing new begin with it", NAME, more=REVISION)
    one = actions.add(
        "table", "drafts from a published table, each looked at by our code", ("FILE", "CSV or a workbook")
    )
    one.add_argument("--tags", help="that all of them have, with commas")
    one = actions.add("check", "look at those that our code has not looked at")
    one.add_argument("--limit", type=int, help="how many at most")
    one = actions.add("send", "one as a file for another service", NAME, more=REVISION)
    one.add_argument("--tick", help="what goes along: people, origin, notes, files, with commas")
    one.add_argument("--to", metavar="FILE", help="where it is written")
    actions.add("take", "a draft from such a file", ("FILE", ""), more=("NAME", "another name for it here"))
    one = actions.add("picture", "its drawing as SVG", NAME, more=REVISION)
    one.add_argument("--to", metavar="FILE", help="where it is written")
    one = actions.add("paper", "its calculation under what it holds, or its drawing", NAME, more=REVISION)
    one.add_argument("--kind", choices=("page", "pdf", "dxf", "svg"), help="page: the calculation (usual); its drawing")
    one.add_argument("--to", metavar="FILE", help="where it is written")
    actions.add("attach", "put a file to one", ("FILE", "a calculation, a sketch"), NAME, more=REVISION)
    one = actions.add("files", "the files that were put to one", NAME, more=REVISION)
    one.add_argument("--to", metavar="FOLDER", help="where they are written")
