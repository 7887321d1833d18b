"""Do the names mean something: sections, grades, pieces, foundations, tables?"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from handrail.core.building.audit.finding import Finding, members, several
from handrail.core.building.model import Building
from handrail.core.building.pieces import broken_pieces, find_pieces
from handrail.core.building.places import ON, on_crossing
from handrail.core.catalogue import Section, grades_fit, section
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import show

TABLES_IN = (
    "csv",
    "tsv",
    "txt",
    "dat",
    "xlsx",
    "xlsm",
    "xls",
    "ods",
    "json",
    "db",
    "sqlite",
    "sqlite3",
    "ifc",
)  # kinds of files


def pieces(building: Building) -> Iterator[Finding]:
    """Ids of physical members that cannot be: their elements are framed one by one."""
    for name, why in broken_pieces(building, find_pieces(building)).items():
        own = [m.name for m in building.members if m.physical == name]
        yield Finding(
            "physical_broken",
            "error",
            f"physical {name} {why} ({', '.join(own[:4])}{' ...' if len(own) > 4 else ''}): they are taken "
            "one by one; what is fastened there stays unchecked",
            member=own[0],
            value=len(own),
            piece=name,
        )


def names(building: Building) -> Iterator[Finding]:
    for name in sorted({m.section for m in building.members}):
        if building.section(name) is None:
            used = [m.name for m in building.members if m.section == name]
            yield Finding(
                "unknown_section",
                "warning",
                f"{_unknown(name)}: {members(used)}, their connections stay unchecked",
                member=used[0],
                value=len(used),
            )
    for name in sorted({m.grade for m in building.members}):
        if building.grade(name) is None:
            used = [m.name for m in building.members if m.grade == name]
            yield Finding(
                "unknown_grade",
                "warning",
                f"grade {name} is not in the catalogue: {members(used)}",
                member=used[0],
                value=len(used),
            )
    yield from _unfit(building)
    for name, own in building.own_sections.items():
        yield Finding(
            "own_section",
            "note",
            f"section {name} is the job's own, not the catalogue's{_corrected(name, own, building.system)}",
        )
    for name in building.unread:
        kind = name.lower().rpartition(".")[2] if "." in name else ""
        if kind and kind not in TABLES_IN:
            yield Finding("file_unread", "note", f"file {name} is no table: nothing reads it")
            continue
        what = f"file {name} is read by no table" if kind else f"table {name} is not used yet"
        yield Finding("table_unread", "warning", f"{what}: what it says is left out")
    for words in building.pieces_differ:
        yield Finding("piece_differs", "warning", words, value=1)
    if building.pieces_alone:
        yield Finding(
            "piece_alone",
            "note",
            f"{len(building.pieces_alone)} piece(s) of the building model have no member in the analysis "
            f"({several(list(building.pieces_alone))})",
            value=len(building.pieces_alone),
        )
    for index in sorted(building.foundations.keys() - building.supports.keys()):
        yield Finding(
            "unused_foundation",
            "warning",
            f"node {building.nodes[index]} has a foundation and no support: it is not used",
            node=building.nodes[index],
        )
    for index in sorted(building.supports.keys() - building.foundations.keys()) if building.foundations else ():
        yield Finding(
            "no_foundation",
            "warning",
            f"node {building.nodes[index]} has a support and no foundation: its base stays unchecked",
            node=building.nodes[index],
        )
    for index, why in building.unknown_splices.items():
        yield Finding("splice_unknown", "warning", f"splice {building.nodes[index]}: {why}", node=building.nodes[index])
    for index, node in enumerate(building.nodes):
        if index not in building.ends_at:
            yield Finding("unused_node", "warning", f"node {node} has no member", node=node)


def _unfit(building: Building) -> Iterator[Finding]:
    """Grades that are not made in the shape they stand at, and stated pieces of steel with another section within."""
    odd: dict[str, list[str]] = {}
    sections: dict[str, dict[str, str]] = {}
    for member in building.members:
        own, steel = building.section(member.section), building.grade(member.grade)
        if own is not None and steel is not None and (why := grades_fit(own, steel)):
            odd.setdefault(why, []).append(member.name)
        if member.physical:
            sections.setdefault(member.physical, {}).setdefault(member.section, member.name)
    for why, used in odd.items():
        yield Finding("grade_unfit", "warning", f"{members(used)}: {why}", member=used[0], value=len(used))
    for piece, held in sections.items():
        if len(held) > 1:
            yield Finding(
                "piece_sections",
                "warning",
                f"physical {piece} is of {' and '.join(held)}: one piece of steel is of one section",
                member=list(held.values())[1],
                piece=piece,
            )


def on_grid(building: Building) -> Iterator[Finding]:
    """Grid lines and levels that the model does not stand on: in another unit, or from another origin."""
    if building.grids and len(building.nodes) and not on_crossing(building).any():
        yield Finding(
            "grid_off",
            "warning",
            "no node stands where grid lines cross: are they in the model's unit and from its origin?",
        )
    for level in building.levels:
        if np.abs(building.xyz[:, 2] - level.z).min(initial=np.inf) > ON:
            yield Finding(
                "level_empty", "note", f"level {level.name} at {show(level.z, 'length', building.system)} has no node"
            )


def _unknown(name: str) -> str:
    """What the catalogue says of a section that it does not hold, with the nearest that it does."""
    try:
        section(name)
    except UnknownName as exc:
        return str(exc)
    return f"section {name} is not known"


def _corrected(name: str, own: Section, system: str) -> str:
    """What the job's own section has otherwise than the catalogue's of that name."""
    try:
        held = section(name)
    except UnknownName:
        return ""
    changed = [
        f"{size} {show(getattr(own, size), 'length', system, False)} for"
        f" {show(getattr(held, size), 'length', system, False)}"
        for size in ("d", "bf", "tw", "tf")
        if abs(getattr(own, size) - getattr(held, size)) > 0.01
    ]
    return f": {', '.join(changed)}" if changed else ", with the same sizes"
