"""Sizes and forces by member end, a column each: as another program takes them."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from handrail.core.building.model import ENDS, Building
from handrail.core.checking.lists import Cell, Table
from handrail.core.checking.plan import Plan
from handrail.core.quantities.units import CORE_UNITS, SHOWN, factor
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Parameter, Sizes, Value

SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")


def sizes(plan: Plan, sized: Mapping[str, tuple[str, Sizes]], marks: Mapping[str, str]) -> Table:
    """A row for each member end with a connection whose sizes stand (`sized`: connection -> its standard and sizes), in
    the model's order; a column a parameter of any standard, in the units that sizes are shown in; empty where a
    connection's standard does not have it."""
    system, building = plan.building.system, plan.building
    parameters = {p.name: p for s in STANDARDS.values() for p in s.parameters}
    units = {name: _unit(p, system) for name, p in parameters.items()}
    head = ["member", "part", "end", "node", "connection", "mark", "standard",
            *(f"{name}, {unit}" if unit else name for name, (unit, _) in units.items())]  # fmt: skip
    by_end = {end: c.id for c in plan.framing.connections if c.id in sized for end in c.supported.ends}
    rows: list[list[Cell]] = []
    for (number, end), key in sorted(by_end.items()):
        member, (standard, own) = building.members[number], sized[key]
        values: list[Cell] = [_cell(own[name].value, units[name][1]) if name in own else "" for name in parameters]
        node = building.nodes[member.node(end)]
        rows.append([*named(building, number), ENDS[end], node, key, marks.get(key, ""), standard, *values])
    return head, rows


def named(building: Building, number: int) -> tuple[str, str]:
    """What a member is called in the analysis, and which part of that it is, where it was cut at splices."""
    name, own = building.analysed[number][0], building.members[number].name
    return name, own if own != name else ""


def _unit(parameter: Parameter, system: str) -> tuple[str, float]:
    """What a parameter comes in, and the factor to it."""
    return SHOWN[system][parameter.kind] if parameter.kind in CORE_UNITS else ("", 1.0)


def _cell(value: Value, scale: float) -> Cell:
    return round(value * scale, 6) if isinstance(value, float) else value


def forces(building: Building) -> Table:
    """A row for each end of each member and each result (a case, or a combination) that the model has it of: what the
    node does to the end, in the member's axes and the model's units; how far along the member it is. At a splice where
    a member was cut it has no end, and is what the rest does to the part towards i. What is not known has no row."""
    force, moment, long = (building.units.get(kind, usual) for kind, usual in
                           (("force", "kN"), ("moment", "kN*m"), ("length", "m")))  # fmt: skip
    head = ["member", "end", "node", "section", f"along, {long}", "result",
            *(f"{name}, {force if name.startswith('F') else moment}" for name in SIX)]  # fmt: skip
    per = np.array([factor(force, "force")] * 3 + [factor(moment, "moment")] * 3)
    rows: list[list[Cell]] = []
    for number, member in enumerate(building.members):
        name, start = building.analysed[number]
        for end, letter in enumerate(ENDS):
            node = member.node(end)
            if end == 0 and node in building.spliced:
                continue  # the same as at the end of the part before
            where = float(start + end * building.lengths[number]) / factor(long, "length")
            six = building.forces[number, :, end] / per + 0.0
            rows += [
                [name, "" if node in building.spliced else letter, building.nodes[node], member.section, where, result,
                 *map(float, own)]
                for result, own in zip(building.results, six, strict=True)
                if not np.isnan(own).any()
            ]  # fmt: skip
    return head, rows
