"""The steel as a model that leaves the house: of the whole building, of what a filter leaves, of one connection."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from handrail import __version__
from handrail.core.building.places import families, level_names
from handrail.core.checking.plan import Plan
from handrail.core.checking.steelwork import End, Steel, bars, weight
from handrail.core.joint.connection import Connection as Framed
from handrail.core.joint.situation import SUPPORT, SUPPORTED
from handrail.core.solids.pieces import Solids
from handrail.core.standards import STANDARDS
from handrail.interchange.steel_model.dxf import write_dxf
from handrail.interchange.steel_model.ifc import write_ifc
from handrail.interchange.steel_model.whole import Connected, Modelled, Said, Whole
from handrail.service.application.loud import wrong
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.parts_lists import joints_of, levels_of, steel_of
from handrail.service.application.refused import Refused
from handrail.store import connections, jobs
from handrail.store.database import reading
from handrail.store.models import Connection, Job

KINDS = {"ifc": "application/x-step", "dxf": "image/vnd.dxf"}


def model(job: Job, kind: str, where: str = "", connection: str = "") -> bytes:
    """The file. With a filter: its connections and the members that they hold, whole; of one connection the members
    are broken off near it. Raises Refused, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"a model is {' or '.join(KINDS)}, not {kind}")
    if kind == "dxf" and not connection:
        raise Refused(422, "a model as DXF is of one connection (connection=...); of the building it is .ifc")
    standing = Standing(job, where)
    if connection and connection not in standing.sizes:
        raise Refused(404, f"job {job.name} has no connection '{connection}' that stands with sizes; run the job first")
    shown = {connection} if connection else set(standing.shown)
    with reading():
        records = connections.of_keys(job, shown)
        made = jobs.last_change(job)["made"]
    whole = _Made(standing, records, near=connection, every=not (where or connection)).whole(made)
    return write_ifc(whole) if kind == "ifc" else write_dxf(whole)


class _Made:
    """A job's steel as plain data."""

    def __init__(self, standing: Standing, records: Mapping[str, Connection], near: str, every: bool) -> None:
        self.standing, self.records = standing, records
        self.near, self.every = near, every
        self.plan: Plan = standing.plan
        self.framed = {a.connection.id: a.connection for a in self.plan.assigned}
        self.at_ends = {(c.member, c.node): key for key, c in self.framed.items()}
        self.levels, self.of_nodes = levels_of(standing), level_names(self.plan.building)
        self.names: dict[int, str] = {}  # member of the building -> its piece of steel

    def whole(self, made: str) -> Whole:
        seen, building = self.standing.seen, self.plan.building
        revision = seen.revision
        said: dict[str, Said] = {
            "Model": f"R{revision.number} {revision.label}".strip(),
            "Rulebook": f"revision {seen.job.rulebook_version}",
            "Code": f"{seen.job.code} {seen.job.method}",
            "Connections": float(len(self.records)),
            "Connections without sizes": float(len(self.framed) - len(self.standing.sizes)),
            "Made by": f"Hand Rail {__version__}",
        }
        own = families(building.grids) if building.grids else []
        lines = tuple(tuple(family) for family in own)
        steel = tuple(self._near() if self.near else self._steel())
        title = seen.job.title or seen.job.name
        return Whole(
            seen.job.name, title, said, made, building.levels, lines, steel, self._connected(), building.system
        )

    def _steel(self) -> Iterator[Modelled]:
        """Every piece, or those that the connections shown hold."""
        for steel in steel_of(self.standing):
            if self.every or any(taken.connection in self.records for taken in steel.taken):
                self.names |= dict.fromkeys(steel.members, steel.name)
                yield Modelled(steel, self.of_nodes[steel.ends[0].node], self._of_steel(steel))

    def _of_steel(self, steel: Steel) -> dict[str, Said]:
        said: dict[str, Said] = {
            "Section": steel.section.name,
            "Grade": steel.bar.grade,
            "Length, mm": round(steel.bar.length, 1),
            "Weight, kg": round(weight(steel), 1),
        }
        for end, name in zip(steel.ends, ("start", "end"), strict=True):
            said[f"At its {name}"] = end.connection or f"{self._not_made(steel, end)}: as far as its node"
            if end.off is not None:
                said[f"Taken off its {name}, mm"] = round(end.off, 2) + 0.0
        return said

    def _not_made(self, steel: Steel, end: End) -> str:
        """Why nothing is made at an end: it has no connection, or one without sizes that stand."""
        key = next(
            (self.at_ends[member, end.node] for member in steel.members if (member, end.node) in self.at_ends), ""
        )
        return f"{key} has no sizes that stand" if key else "no connection"

    def _near(self) -> Iterator[Modelled]:
        """What the one connection has of members, as far as it is near."""
        for key, solids in self._shown():
            for bar, number in bars(self.framed[key], solids):
                member, node = self.plan.building.members[number], self.framed[key].node
                section = self.plan.building.section(member.section)
                assert section is not None
                self.names[number] = member.name
                role = self.plan.framing.pieces.roles[number]
                piece = replace(bar, name=member.name)
                steel = Steel(member.name, role, (number,), section, piece, (End(node), End(node)), ())
                yield Modelled(steel, self.levels.get(key, ""), {"Section": section.name, "Grade": bar.grade,
                                                                 "Broken off": True})  # fmt: skip

    def _shown(self) -> Iterator[tuple[str, Solids]]:
        """The connections with their solids: a bolt that holds two is there once, and with one that is shown alone."""
        for joint in joints_of(self.standing, self.near):
            if self.near:
                yield self.near, joint.alone(self.near)
            else:
                yield from (one for one in joint.solids() if one[0] in self.records)

    def _connected(self) -> Iterator[Connected]:
        for key, solids in self._shown():
            record, framed = self.records[key], self.framed[key]
            x, y, z = (float(v) for v in self.plan.building.xyz[framed.node])
            mark = self.standing.names[self.standing.mark_of[key]]
            title = STANDARDS[record.standard].title
            stands = "unchecked" if record.stale else record.status
            yield Connected(key, mark, title, self.levels.get(key, ""), (x, y, z), self._held(framed), solids, stands,
                            _of_connection(record, mark))  # fmt: skip

    def _held(self, framed: Framed) -> tuple[str, ...]:
        pieces = [next((p for p in framed.pieces if p.role == role), None) for role in (SUPPORTED, SUPPORT)]
        return tuple(self.names[p.member] for p in pieces if p is not None and p.member in self.names)


def _of_connection(record: Connection, mark: str) -> dict[str, Said]:
    said: dict[str, Said] = {
        "Mark": mark,
        "Standard": STANDARDS[record.standard].title,
        "Framing": record.framing,
        "Rule": record.rule,
        "Status": record.status,
        "Utilisation": round(float(record.utilisation), 3),
        "Governing check": record.check_name.replace("_", " "),
        "Clause": record.clause,
        "Combination": record.action,
        "Remarks": "; ".join(wrong(record.status, record.stale, record.overridden, record.released)),
        "Released by": record.released,
    }
    return {word: value for word, value in said.items() if value != ""}
