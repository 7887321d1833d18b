"""The schedule by mark, and drawings."""

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
    p = command(
        commands,
        "drawing",
        "a detail a mark on sheets, or of one connection or mark, as .pdf, .dxf or .svg",
        "cli.marks:drawing",
    )
    p.add_argument("job")
    p.add_argument("of", nargs="?", default="", metavar="CONNECTION|MARK", help="all marks where it is left out")
    p.add_argument("--to", required=True, metavar="FILE", help="where to; its ending says how: .pdf, .dxf or .svg")
    p.add_argument("--where", default="", help="the marks of these connections, like 'released=1'")
    p.add_argument("--neighbours", action="store_true", help="one connection with the others of its joint, dimmed")
    p.add_argument("--sheets", default="", metavar="PAPER", help="A4 to A1, ANSI-A to ANSI-D; ANSI-B, or A3 in mm")
    p = command(
        commands, "report", "calculations as .pdf or .docx: of a connection, a mark, or all marks", "cli.marks:report"
    )
    p.add_argument("job")
    p.add_argument("of", nargs="?", default="", metavar="CONNECTION|MARK", help="all marks where it is left out")
    p.add_argument("--to", required=True, metavar="FILE", help="where to: .pdf or .docx")
    p.add_argument("--where", default="", help="the marks of these connections, like 'level=2'")
    p.add_argument("--each", action="store_true", help="a calculation a connection, not a mark")
    p.add_argument("--sections", default="", metavar="NAMES", help="what is in it, like checks,lines; all unless said")
    p.add_argument("--lines", default="", choices=("governing", "all", "none"), help="whose worked lines")
    p.add_argument("--profile", default="", help="of the house (handrail profile); the usual one where none is said")
    p = command(
        commands,
        "results",
        "what came of every member end, for whoever made the model; or the building coloured, as .png or .svg",
        "cli.marks:results",
    )
    p.add_argument("job")
    p.add_argument("--to", required=True, metavar="FILE", help="where to: .csv, .xlsx, .png or .svg")
    p = command(commands, "page", "a connection on one page as PDF, to be sent to a person", "cli.marks:page")
    p.add_argument("job")
    p.add_argument("connection")
    p.add_argument("--to", required=True, metavar="FILE.pdf", help="where to")
    p.add_argument("--address", metavar="URL", help="of the console, for the link; that of the service unless said")
    p = command(
        commands,
        "model",
        "the steel as solids, members and connections, as .ifc; one connection also as .dxf",
        "cli.marks:model",
    )
    p.add_argument("job")
    p.add_argument("connection", nargs="?", default="", help="the whole building where it is left out")
    p.add_argument("--to", required=True, metavar="FILE", help="where to: .ifc or .dxf")
    p.add_argument("--where", default="", help="only these connections and their members, like 'level=2'")
    p = command(
        commands,
        "list",
        "what connections are made of, and what they do to members, as .csv or .xlsx; plates also as .zip of DXF",
        "cli.marks:parts_list",
    )
    p.add_argument("job")
    p.add_argument("of", choices=("plates", "bolts", "rods", "welds", "parts", "ends", "holes"))
    p.add_argument("--to", required=True, metavar="FILE", help="where to; its ending says how")
    p.add_argument("--where", default="", help="only these connections, like 'level=2'")
    p = command(commands, "marks", "how many marks there are, and what fewer would cost", "cli.marks:marks")
    p.add_argument("job")
    p.add_argument("--accept", type=int, default=0, metavar="N", help="make the first N merges, as overrides")
    p.add_argument("--reason", default="", help="why; 'made as mark ...' where it is left out")
    p.add_argument("--cause", default="", help="one of the shop's list of reasons")
