"""What is in a model: findings, patterns, groups, revisions, combinations."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "acknowledge", "let a finding of the audit stand, with a reason", "cli.survey:acknowledge")
    p.add_argument("job")
    p.add_argument("code", help="of the finding, like braces_cross")
    p.add_argument("--node", default="")
    p.add_argument("--member", default="", help="or the combination that the finding is about")
    p.add_argument("--reason", default="")
    p.add_argument("--all", action="store_true", help="every finding of that code that is open")
    p.add_argument("--take-back", action="store_true", help="let it count again")
    p = command(
        commands,
        "survey",
        "what is in the model: sections, joints by kind, the largest forces and demands",
        "cli.survey:survey",
    )
    p.add_argument("job")
    p.add_argument("--limit", type=int, default=20, help="rows of each table; 0 for all")
    p.add_argument("--to", metavar="FILE.pdf", default="", help="on two pages, for people who do not sign in")
    p = command(
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
    p = command(
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
    p = command(
        commands, "compare", "what changed from one revision to another: compare JOB [R1 R2]", "cli.survey:compare"
    )
    p.add_argument("job")
    p.add_argument("revisions", nargs="*", help="like R1 R2; the last two where left out")
    p.add_argument("--limit", type=int, default=30, help="changes printed; 0 for all")
    p = command(commands, "combinations", "the combinations of a job's model", "cli.survey:combinations")
    actions = Actions(p, file=None)
    actions.add("get", "those that it has", ("JOB", ""))
    put = actions.add("put", "keep others as the model's next revision", ("JOB", ""))
    put.add_argument("file", metavar="FILE", help="JSON as get --json prints it")
    made = actions.add("generate", "make them from the natures of its cases by ASCE 7", ("JOB", ""))
    made.add_argument("--edition", choices=("7-22", "7-16"), default="7-22", help="of ASCE 7")
    made.add_argument(
        "--method",
        action="append",
        choices=("LRFD", "ASD"),
        default=None,
        help="may be given twice; the job's where it is left out",
    )
    made.add_argument("--sds", type=float, default=0.0, help="S_DS")
    made.add_argument("--rho", type=float, default=1.0, help="redundancy factor")
    made.add_argument("--omega", type=float, default=0.0, help="overstrength factor; 0 for no such set")
    made.add_argument("--category", choices=tuple("ABCDEF"), default="B", help="seismic design category")
    made.add_argument(
        "--one-way", action="append", default=[], metavar="CASE", help="not also taken the other way round"
    )
    made.add_argument("--keep", action="store_true", default=False, help="keep them as the model's next revision")
