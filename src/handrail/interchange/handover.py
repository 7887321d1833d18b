"""A pattern as a workbook for whoever designs it elsewhere: one reference joint with its sketch and axes, and the
critical actions of all its joints turned and mirrored onto it, each row naming its joint and combination."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
import xlsxwriter

from handrail.core.actions import COMPONENTS
from handrail.core.building.critical import Critical, critical
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.patterns import Pattern
from handrail.core.building.pieces import outward
from handrail.core.building.places import places

UNITS = {"si": ("kN", 1.0, "kN*m", 1.0), "us": ("kip", 1 / 4.4482216152605, "kip*ft", 1 / 1.3558179483314)}
SIGNS = (
    "N, V, Vw, M, Mw, T: what the support does to the member's end, the same whichever way the member was drawn. N +"
    " pulls the end away from its support, V + pushes it up in the plane of its web, M + has the top flange in tension."
    " Seen from the support along the member: Vw + pushes to the right, Mw + has the right side in tension, T + turns"
    " it counter-clockwise."
)


def handover(
    building: Building,
    framing: Framing,
    pattern: Pattern,
    acting: Mapping[str, np.ndarray],
    names: tuple[str, ...],
    job: str,
    method: str,
    picked: Sequence[tuple[str, int]] = (),
) -> bytes:
    """The workbook. `acting` (combinations, 6) of connections by id in kN and kN*m; `picked` (connection, number of the
    combination) are rows too."""
    sheet = io.BytesIO()
    book = xlsxwriter.Workbook(sheet, {"in_memory": True})
    bold = book.add_format({"bold": True, "text_wrap": True, "valign": "top"})
    named = places(building)
    _joint(book, bold, building, framing, pattern, job, method, named)
    _actions(book, bold, building, pattern, critical(pattern, acting, names, picked), names, named)
    _joints(book, bold, building, pattern, named)
    book.close()
    return sheet.getvalue()


def _rows(sheet: Any, bold: Any, at: int, head: list[str], rows: list[list[Any]], widths: list[int]) -> int:
    """A table under its head; the row after it."""
    for column, name in enumerate(head):
        sheet.write(at, column, name, bold)
        sheet.set_column(column, column, widths[column])
    for row in rows:
        at += 1
        for column, value in enumerate(row):
            (
                sheet.write_number(at, column, value)
                if isinstance(value, int | float)
                else sheet.write_string(at, column, str(value))
            )
    return at + 2


def _where(building: Building, node: int, named: list[str]) -> str:
    return building.nodes[node] + (f" ({named[node]})" if named[node] else "")


def _ends(building: Building, pattern: Pattern) -> list[tuple[int, int]]:
    """The member ends of the first joint, by place."""
    first = pattern.members[0]
    return [building.ends_at[first.node][k] for k in first.ends]


def _joint(
    book: Any,
    bold: Any,
    building: Building,
    framing: Framing,
    pattern: Pattern,
    job: str,
    method: str,
    named: list[str],
) -> None:
    sheet = book.add_worksheet("joint")
    first = pattern.members[0]
    lines = [
        f"{job}: {building.title}, revision {building.revision or '-'} of {building.date or 'no date'}",
        (
            f"Pattern {pattern.name}: {len(pattern.members)} joints alike, {sum(m.mirrored for m in pattern.members)}"
            " of them mirror images"
        ),
        (
            f"Reference joint {_where(building, first.node, named)}; every action is turned and mirrored onto it."
            f" Combinations: {method}."
        ),
        SIGNS,
    ]
    for row, line in enumerate(lines):
        sheet.write_string(row, 0, line, bold if row < 2 else None)
    by_end = {(c.member, c.end): c for c in framing.connections}
    rows = []
    ends = _ends(building, pattern)
    for number, end in enumerate(ends, 1):
        member, way, c = building.members[end[0]], outward(building, end), by_end.get(end)
        azimuth = round(float(np.degrees(np.arctan2(way[1], way[0])) % 360), 1) if np.hypot(*way[:2]) > 0.05 else ""
        rise = round(float(np.degrees(np.arcsin(np.clip(way[2], -1, 1)))), 1)
        support = building.members[c.support].name if c and c.support is not None else ""
        roll = round(float(np.degrees(member.roll)), 1)
        rows.append(
            [
                number,
                framing.pieces.roles[end[0]],
                member.name,
                member.section,
                member.grade,
                c.framing if c else "nothing fastened here",
                support,
                azimuth,
                rise,
                roll,
                " ".join(sorted(member.release(end[1]))),
                _through(framing, ends, number - 1),
            ]
        )
    head = [
        "place",
        "role",
        "member",
        "section",
        "grade",
        "framing condition",
        "on",
        "direction in plan, deg from x",
        "rise, deg",
        "roll, deg",
        "released",
        "runs through",
    ]
    after = _rows(sheet, bold, len(lines) + 1, head, rows, [7, 9, 12, 14, 9, 24, 12, 16, 9, 9, 14, 22])
    sheet.set_row(len(lines) + 1, 45)
    _sketch(book, sheet, building, pattern, after)


def _through(framing: Framing, ends: list[tuple[int, int]], which: int) -> str:
    """With which other places it is one piece of steel that runs through the joint."""
    piece = framing.pieces.piece
    others = [k + 1 for k, (member, _) in enumerate(ends) if k != which and piece[member] == piece[ends[which][0]]]
    return f"one piece with place {', '.join(map(str, others))}" if others else ""


def _sketch(book: Any, sheet: Any, building: Building, pattern: Pattern, after: int) -> None:
    """The joint in plan and from the side, each member a line from the joint as far as its unit vector goes, named by
    its place."""
    ends = _ends(building, pattern)
    ways = [outward(building, e) for e in ends]
    flat = [way for way in ways if np.hypot(*way[:2]) > 0.05]
    side = np.array([flat[0][0], flat[0][1], 0.0]) / np.hypot(*flat[0][:2]) if flat else np.array([1.0, 0.0, 0.0])
    views = (
        ("plan: x to the right, y up", [(w[0], w[1]) for w in ways]),
        ("from the side of the first level member, z up", [(float(w @ side), w[2]) for w in ways]),
    )
    for number, (title, tips) in enumerate(views):
        column = 14 + 3 * number
        chart = book.add_chart({"type": "scatter", "subtype": "straight_with_markers"})
        sheet.write_row(after, column, ["place", "sketch x", "sketch y"])
        for k, (x, y) in enumerate(tips):
            row = after + 1 + 2 * k
            sheet.write_row(row, column, [k + 1, 0, 0])
            sheet.write_row(row + 1, column, [k + 1, round(float(x), 4), round(float(y), 4)])
            chart.add_series(
                {
                    "name": f"{k + 1}: {building.members[ends[k][0]].section}",
                    "categories": ["joint", row, column + 1, row + 1, column + 1],
                    "values": ["joint", row, column + 2, row + 1, column + 2],
                    "line": {"width": 2.5},
                    "marker": {"type": "circle", "size": 4},
                    "data_labels": {
                        "custom": [{"delete": True}, {"value": str(k + 1)}],
                        "value": True,
                        "position": "above",
                    },
                }
            )
        axis = {"min": -1.2, "max": 1.2, "major_gridlines": {"visible": False}, "label_position": "none"}
        chart.set_title({"name": title, "name_font": {"size": 10}})
        chart.set_x_axis(axis)
        chart.set_y_axis(axis)
        chart.set_size({"width": 430, "height": 400})
        sheet.insert_chart(after, 6 * number, chart)


def _actions(
    book: Any,
    bold: Any,
    building: Building,
    pattern: Pattern,
    rows_of: Sequence[Critical],
    names: tuple[str, ...],
    named: list[str],
) -> None:
    sheet = book.add_worksheet("actions")
    force, per_force, moment, per_moment = UNITS[building.system]
    rows = []
    for number, one in enumerate(rows_of, 1):
        member = pattern.members[one.joint]
        for slot, values in enumerate(one.actions):
            if values is not None:
                sized = [round(float(v) * (per_force if k < 3 else per_moment), 4) for k, v in enumerate(values)]
                rows.append(
                    [
                        number,
                        slot + 1,
                        *sized,
                        building.nodes[member.node],
                        named[member.node],
                        member.connections[slot],
                        names[one.combination],
                        "; ".join(one.why),
                    ]
                )
    units = [f"{c}, {force if k < 3 else moment}" for k, c in enumerate(COMPONENTS)]
    head = ["load", "place", *units, "joint", "where", "connection", "combination", "chosen for"]
    _rows(sheet, bold, 0, head, rows, [6, 7, 11, 11, 11, 11, 11, 11, 10, 22, 12, 30, 70])
    sheet.freeze_panes(1, 2)
    sheet.autofilter(0, 0, len(rows), len(head) - 1)


def _joints(book: Any, bold: Any, building: Building, pattern: Pattern, named: list[str]) -> None:
    sheet = book.add_worksheet("joints")
    rows = [
        [building.nodes[m.node], named[m.node], m.turn, "mirrored" if m.mirrored else "", *m.connections]
        for m in pattern.members
    ]
    head = ["joint", "where", "turned by, deg", "", *(f"place {k + 1}" for k in range(len(pattern.slots)))]
    _rows(sheet, bold, 0, head, rows, [10, 24, 12, 10, *[14] * len(pattern.slots)])
    sheet.freeze_panes(1, 1)
