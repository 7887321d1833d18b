"""What came of every member end, for whoever made the model: in its own names and units."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.model import ENDS, Building, Member
from handrail.core.checking.by_end import named
from handrail.core.checking.lists import Cell, Table
from handrail.core.checking.plan import Plan
from handrail.core.quantities.units import factor
from handrail.core.standards import STANDARDS

STRONG, FREE = "Mz", "pinned"
DIGITS = 4  # of an action
FORCES = 3  # of the components: the others are moments


@dataclass(frozen=True)
class Came:
    """What came of a connection: as its page says it."""

    mark: str
    standard: str
    sizes: str
    status: str
    utilisation: float
    check: str
    clause: str
    combination: str
    released: str
    remarks: tuple[str, ...]


def results(plan: Plan, came: Mapping[str, Came]) -> Table:
    """A row for each end of each member, in the model's order. Actions are the largest and the smallest that a
    connection is designed for, over its combinations, in the model's units: what its support does to the member's end;
    empty where nothing is fastened or a force is not known."""
    building = plan.building
    forces, moments = (building.units.get(name, usual) for name, usual in (("force", "kN"), ("moment", "kN*m")))
    actions = [f"{c} {way}, {forces if k < FORCES else moments}" for k, c in enumerate(COMPONENTS) for way in
               ("largest", "smallest")]  # fmt: skip
    head = ["member", "part", "end", "node", "section", "connection", "mark", "standard", "sizes", "status",
            "utilisation", "governing check", "clause", "combination", *actions, "analysed as", "built as",
            "released by", "remarks"]  # fmt: skip
    per = np.array([factor(forces, "force")] * FORCES + [factor(moments, "moment")] * (len(COMPONENTS) - FORCES))
    by_end = {(member, end): c.id for c in plan.framing.connections for member, end in c.supported.ends}
    without = {(name, end): why for name, end, why in _without(plan)}
    peaks = plan.acting.on(np.arange(len(plan.framing.connections)))[:, :, : len(COMPONENTS)] / per
    rows: list[list[Cell]] = []
    for number, member in enumerate(building.members):
        for end, letter in enumerate(ENDS):
            node = building.nodes[member.node(end)]
            key = by_end.get((number, end), "")
            own: list[Cell] = [*named(building, number), letter, node, member.section, key]
            assumed = _assumed(building, member, end)
            if not key:
                reason = without.get((member.name, letter), "runs through, or nothing is fastened here")
                rows.append([*own, *[""] * (8 + len(actions)), assumed, "", "", reason])
                continue
            rows.append([*own, *_judged(came.get(key)), *_spans(peaks[plan.index[key]]), assumed,
                         *_built(came.get(key), member, end)])  # fmt: skip
    return head, rows


def _without(plan: Plan) -> list[tuple[str, str, str]]:
    """(member, end, why) of ends that are fastened and have no connection."""
    found = []
    for name, why in plan.framing.without:
        member, _, end = name.rpartition(".")
        found.append((member, end, why))
    return found


def _judged(came: Came | None) -> list[Cell]:
    if came is None:
        return ["", "", "", "unchecked", "", "", "", ""]
    use: Cell = round(came.utilisation, 3) if came.check or came.utilisation else ""
    return [came.mark, came.standard, came.sizes, came.status, use, came.check, came.clause, came.combination]


def _spans(table: np.ndarray) -> list[Cell]:
    """Largest and smallest of each action; empty where one is not known in any combination."""
    if not len(table):
        return [""] * (2 * len(COMPONENTS))
    pairs = np.stack([table.max(axis=0), table.min(axis=0)], axis=1).ravel()
    return ["" if np.isnan(v) else round(float(v), DIGITS) + 0.0 for v in pairs]


def _assumed(building: Building, member: Member, end: int) -> str:
    """What the analysis has: released about the strong axis, or not; of a support how its node is held."""
    free = sorted(member.release(end))
    held = building.supports.get(member.node(end))
    released = f"released {' '.join(free)}" if free else ""
    words = f"{FREE}: {released}" if STRONG in free else ", ".join(word for word in ("fixed", released) if word)
    if held is not None:
        names = [name for name, on in zip(("ux", "uy", "uz", "rx", "ry", "rz"), held, strict=True) if on]
        words += f"; support holds {' '.join(names) or 'nothing'}"
    return words


def _built(came: Came | None, member: Member, end: int) -> list[Cell]:
    """(built as, released by, remarks)."""
    if came is None or came.standard not in STANDARDS:
        return ["", "", "; ".join(came.remarks) if came else "no result"]
    carries = STANDARDS[came.standard].carries
    moment = "M" in carries
    built = f"{'carries moment' if moment else FREE}: {' '.join(carries)}"
    remarks = list(came.remarks)
    if not moment and STRONG not in member.release(end):
        remarks.insert(0, "analysed fixed about its strong axis, built pinned")
    return [built, came.released, "; ".join(remarks)]
