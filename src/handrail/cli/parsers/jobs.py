"""What comes in and how it stands: import, maps, jobs, connections, runs."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import Actions, command


def _coming_in(commands: Any) -> None:
    p = command(commands, "import", "import a model revision and print its audit", "cli.jobs:import_model")
    p.add_argument("job")
    p.add_argument("path", help="a bundle (folder, zip or workbook), or tables of another program")
    p.add_argument(
        "--map", help="the column map that tables are read through; else map.toml beside them, or the job's last one"
    )
    p = command(
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
    p = command(commands, "confirm", "take in an import that waits for a look", "cli.watching:confirm")
    p.add_argument("job")
    p.add_argument("number", type=int, help="of the import")
    p = command(
        commands,
        "map",
        "propose a column map for tables of another program, or see what is understood through one",
        "cli.maps:column_map",
    )
    p.add_argument("path", help="a folder, zip or workbook")
    p.add_argument("--map", help="a column map to look through, in place of proposing one")
    p.add_argument("--house", help="one of the house's maps by its name, in place of proposing one")
    p = command(
        commands,
        "output",
        "our rows under another program's names: propose an output map, see what one writes, write it",
        "cli.maps:output_map",
    )
    p.add_argument("job")
    p.add_argument("--map", help="a file, or the name of one that the house keeps, in place of proposing one")
    p.add_argument(
        "--to", metavar="FILE", help="where to: with the ending of the map's file; .zip where it has several"
    )
    p = command(commands, "maps", "column maps and output maps that the house keeps", "cli.maps:maps")
    actions = Actions(p, "list", note="")
    actions.add("list", "those that there are")
    actions.add("get", "the text of one", ("NAME", "of the map"))
    put = actions.add("put", "keep one, in place of one of the same name", ("NAME", "of the map"), ("FILE", "TOML"))
    put.add_argument("--note", help="what it is for")
    actions.add("leave", "propose one no more", ("NAME", "of the map"))


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(commands, "jobs", "the jobs that you can see", "cli.jobs:jobs")
    p.add_argument(
        "--closed",
        action="store_true",
        help="what is left of the ledgers of jobs that were deleted, for administrators",
    )
    p = command(commands, "job", "make a job, or change how it is designed", "cli.jobs:job")
    own: dict[str, Any] = dict.fromkeys(("title", "firm", "code", "method", "tolerance", "combination_set"))
    actions = Actions(p, **own, rulebook="", anyway=False)
    for name, words in (("new", "make a job"), ("set", "change its title, code, method or set of combinations")):
        one = actions.add(name, words)
        one.add_argument("name", metavar="NAME")
        one.add_argument("--title")
        one.add_argument("--firm", help="for title blocks, its lines with / between: 'name / address / registration'")
        one.add_argument("--code", help="AISC 360-22 (unless set) or AISC 360-16")
        one.add_argument("--method", choices=("LRFD", "ASD"), help="LRFD unless set")
        if name == "new":
            one.add_argument(
                "--rulebook",
                help=(
                    "of the house, that it begins with, like 'shop-practice R2', or none; the only one that is "
                    "approved, where it is left out"
                ),
            )
            continue
        one.add_argument(
            "--tolerance",
            type=float,
            help="how far actions (a share) and utilisation may move before decisions ask for a look; 0.05",
        )
        one.add_argument(
            "--set", dest="combination_set", help="the set of combinations that results are by; strength unless set"
        )
        one.add_argument(
            "--anyway", action="store_true", help="also a method or set of which the model has no combinations"
        )
    _coming_in(commands)
    p = command(commands, "audit", "the audit of the current revision", "cli.jobs:audit")
    p.add_argument("job")
    for name, words in (("joints", "joints and how they stand"), ("connections", "connections, filtered and sorted")):
        p = command(commands, name, words, f"cli.jobs:{name}")
        p.add_argument("job")
        p.add_argument("--where", default="", help="like 'status=fail, utilisation>0.9, section~W16'")
        p.add_argument("--limit", type=int, default=50, help="rows printed; 0 for all")
        if name == "connections":
            p.add_argument(
                "--sort",
                default="connection",
                help="a field; '-utilisation' for falling order (write --sort=-utilisation)",
            )
    p = command(commands, "show", "one connection: sizes with sources, checks, peaks", "cli.jobs:show")
    p.add_argument("job")
    p.add_argument("connection", help="member and end, like B12.i")
    p.add_argument("--trace", action="store_true", help="the worked lines of every check")
    p = command(commands, "run", "size connections by the rulebook, or verify them", "cli.jobs:run")
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
