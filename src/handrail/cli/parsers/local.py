"""What needs no service: trials, sweeps, capacity, the catalogue."""

from __future__ import annotations

from typing import Any

from handrail.cli.parsers import command


def add(commands: Any) -> None:
    """The commands of this group."""
    p = command(
        commands, "trial", "check one connection from a file, without a service", "cli.local:trial", remote=False
    )
    p.add_argument("file", help="YAML or JSON; - reads standard input")
    p.add_argument("--json", action="store_true")
    p.add_argument("--trace", action="store_true", help="the worked lines of every check")
    p.add_argument("--drawing", metavar="FILE", default="", help="draw it too, as .pdf, .dxf or .svg")
    p.add_argument("--sheet", metavar="PAPER", default="", help="of the drawing: A4 to A1, ANSI-A to ANSI-D")
    p.add_argument("--si", action="store_true", help="print the table in kN and mm (JSON always is)")
    p = command(
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
    p = command(
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
    p = command(commands, "standards", "the standards and their parameters", "cli.local:standards", remote=False)
    p.add_argument("name", nargs="?")
    p.add_argument("--json", action="store_true")
    p = command(commands, "sections", "sections of the catalogue", "cli.local:sections", remote=False)
    p.add_argument("text", nargs="?", default="")
    p.add_argument("--json", action="store_true")
    p.add_argument("--limit", type=int, default=30)
