"""Splices away from a node: the member is cut there into two pieces with a node between, whose forces come from
stations or by statics."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.model import PART, Building, Member
from handrail.core.building.precision import precision
from handrail.interchange.problems import Problems
from handrail.interchange.tables import Row

AT = 1.0  # mm: a station that is at the splice
AGREES = 0.01  # of the member's largest force and moment: what statics may be off at the far end
LOCAL = {"x": 0, "y": 1, "z": 2}
Load = tuple[
    float, float, np.ndarray, np.ndarray
]  # from, to mm; at its start, at its end, N (a point: from = to) or N/mm, local axes


@dataclass(frozen=True)
class Along:
    """What is known along the members: `stations` and `loads` by member, lengths and forces in the core's units; `up`
    the bundle's."""

    stations: dict[str, list[Row]]
    loads: dict[str, list[Row]]
    up: str = "Z"


def cut(building: Building, rows: list[Row], along: Along, file: str, problems: Problems) -> Building:
    """The building with its members cut at every splice of `rows`; a splice whose forces cannot be known has NaN and
    says why."""
    own = {m.name: k for k, m in enumerate(building.members)}
    places: dict[int, list[tuple[float, Row]]] = {}
    for row in rows:
        index = own.get(row["member"])
        if index is None:
            continue
        length = float(building.lengths[index])
        if not AT < row["distance"] < length - AT:
            problems.add(
                file,
                f"member {row['member']} is {length:.0f} mm long: a splice at {row['distance']:.0f} mm is not on it",
                row["_row"],
                "distance",
            )
            continue
        places.setdefault(index, []).append((row["distance"], row))
    if not places or problems.found:
        return building
    return _Cutter(building, along).cut({k: sorted(item, key=lambda p: p[0]) for k, item in places.items()})


class _Cutter:
    def __init__(self, building: Building, along: Along) -> None:
        self.building, self.along, self.precise = building, along, precision(building)
        self.nodes, self.xyz = list(building.nodes), list(building.xyz)
        self.names = {m.name for m in building.members if PART in m.name}
        self.spliced: set[int] = set()
        self.unknown: dict[int, str] = {}

    def cut(self, places: dict[int, list[tuple[float, Row]]]) -> Building:
        """All members in their order, each cut one followed by its pieces."""
        members: list[Member] = []
        forces: list[np.ndarray] = []
        for k, member in enumerate(self.building.members):
            pieces = self._pieces(k, member, places[k]) if k in places else [(member, self.building.forces[k])]
            members += [piece for piece, _ in pieces]
            forces += [force for _, force in pieces]
        return replace(
            self.building,
            nodes=tuple(self.nodes),
            xyz=np.array(self.xyz),
            members=tuple(members),
            forces=np.stack(forces),
            spliced=frozenset(self.spliced),
            unknown_splices=self.unknown,
        )

    def _pieces(self, k: int, member: Member, at: list[tuple[float, Row]]) -> list[tuple[Member, np.ndarray]]:
        """Pieces `name~1`, `name~2` ... from i to j with their end forces (results, 2, 6) as the nodes act on them."""
        start, axis = self.building.xyz[member.i], self.building.axes[k, 0]
        whole = self.building.forces[k]
        bounds, sections = [member.i], []
        for distance, row in at:
            bounds.append(len(self.nodes))
            self.nodes.append(f"{member.name}@{row['shown']}")
            self.xyz.append(start + distance * axis)
            self.spliced.add(bounds[-1])
            forces, why = self._section(k, member, distance)
            sections.append(forces)
            if why:
                self.unknown[bounds[-1]] = why
        bounds.append(member.j)
        ends = [whole[:, 0], *sections]  # at each start, the node on the piece; inside, what is cut
        pieces = []
        for n, (i, j) in enumerate(zip(bounds, bounds[1:], strict=False)):
            first, last = n == 0, n == len(bounds) - 2
            piece = replace(
                member,
                name=f"{self._called(member)}{n + 1}",
                i=i,
                j=j,
                release_i=member.release_i if first else frozenset(),
                release_j=member.release_j if last else frozenset(),
                intent_i=member.intent_i if first else at[n - 1][1].get("kind") or "",
                intent_j=member.intent_j if last else "",
                end_offset_i=member.end_offset_i if first else 0.0,
                end_offset_j=member.end_offset_j if last else 0.0,
            )
            near = ends[n] if first else -ends[n]
            far = whole[:, 1] if last else sections[n]
            pieces.append((piece, np.stack([near, far], axis=1)))
        return pieces

    def _called(self, member: Member) -> str:
        """What the pieces of a member are called before their numbers: like nothing else."""
        begin = f"{member.name}{PART}"
        while any(name.startswith(begin) for name in self.names):
            begin += PART
        return begin

    def _section(self, k: int, member: Member, distance: float) -> tuple[np.ndarray, str]:
        """((results, 6) on the face towards j, why it is not known): at a station, else by statics from the ends."""
        forces = np.full((len(self.building.results), 6), np.nan)
        column = {name: n for n, name in enumerate(self.building.results)}
        stations = [r for r in self.along.stations.get(member.name, []) if abs(r["distance"] - distance) < AT]
        for row in stations:
            forces[column[row["result"]]] = [row[name] for name in ("Fx", "Fy", "Fz", "Mx", "My", "Mz")]
        rest = np.isnan(forces).any(axis=1)
        if not rest.any():
            return forces, ""
        by_statics, off = self._by_statics(k, member, distance - member.end_offset_i)
        held = rest & (off <= AGREES) & ~self._unsigned()
        forces[held] = by_statics[held]
        missing = np.nonzero(np.isnan(forces).any(axis=1))[0]
        if not len(missing):
            return forces, ""
        first = self.building.results[missing[0]]
        more = f" and {len(missing) - 1} more results" if len(missing) > 1 else ""
        return (
            forces,
            (
                f"the forces at the splice are not known in {first}{more}: give stations there, or all loads on the"
                " member (its ends are not in balance without them)"
            ),
        )

    def _unsigned(self) -> np.ndarray:
        """(results,) whether statics says nothing of it: a spectrum or an envelope."""
        odd = {c.name for c in self.building.cases if c.kind in ("spectrum", "envelope")}
        mixed = {c.name for c in self.building.combinations if any(case in odd for case, _ in c.terms)}
        return np.array([name in odd | mixed for name in self.building.results], bool)

    def _by_statics(self, k: int, member: Member, s: float) -> tuple[np.ndarray, np.ndarray]:
        """((results, 6) on the face at `s` towards j, (results,) how far the same sum at j is from what is given there,
        as a share)."""
        length = float(self.building.lengths[k]) - member.end_offset_i - member.end_offset_j
        start, end = self.building.forces[k, :, 0], self.building.forces[k, :, 1]
        loads = self._loads(k, member)
        off = _cut_at(start, loads, length) - end
        size = np.stack([np.abs(v).max(axis=1) for v in (start[:, :3], end[:, :3], start[:, 3:], end[:, 3:])])
        force = np.maximum(size[:2].max(axis=0), 1.0)
        moment = np.maximum(size[2:].max(axis=0), force * length * 1e-3)
        rounded = (
            2 * self.precise.force,
            2 * self.precise.moment + self.precise.force * length,
        )  # by figures at both ends
        share = np.maximum(
            np.maximum(np.abs(off[:, :3]).max(axis=1) - rounded[0], 0.0) / force,
            np.maximum(np.abs(off[:, 3:]).max(axis=1) - rounded[1], 0.0) / moment,
        )
        return _cut_at(start, loads, s), np.where(np.isnan(share), np.inf, share)

    def _loads(self, k: int, member: Member) -> list[list[Load]]:
        """The loads on a member in each result, from where its forces at i are given."""
        by_case: dict[str, list[Load]] = {}
        for row in self.along.loads.get(member.name, []):
            way = self._way(k, row["direction"])
            point = row["kind"] == "point"
            to = row["from"] if point else float(self.building.lengths[k]) if row["to"] is None else row["to"]
            last = row["value"] if point or row["value_to"] is None else row["value_to"]
            off = member.end_offset_i
            by_case.setdefault(row["case"], []).append((row["from"] - off, to - off, row["value"] * way, last * way))
        terms = {c.name: c.terms for c in self.building.combinations}
        return [
            [
                (a, b, factor * p, factor * q)
                for case, factor in terms.get(name, ((name, 1.0),))
                for a, b, p, q in by_case.get(case, [])
            ]
            for name in self.building.results
        ]

    def _way(self, k: int, direction: str) -> np.ndarray:
        """A unit vector in the member's local axes."""
        if direction in LOCAL:
            return np.eye(3)[LOCAL[direction]]
        return np.asarray(self.building.axes[k] @ GLOBAL[self.along.up][direction])


GLOBAL = {  # by the bundle's up: its axes in ours, which is Z up
    "Z": {"X": np.array([1.0, 0, 0]), "Y": np.array([0, 1.0, 0]), "Z": np.array([0, 0, 1.0])},
    "Y": {"X": np.array([1.0, 0, 0]), "Y": np.array([0, 0, 1.0]), "Z": np.array([0, -1.0, 0])},
}


def _cut_at(start: np.ndarray, loads: list[list[Load]], s: float) -> np.ndarray:
    """(results, 6) on the face at `s` whose outward normal runs to j, from what the node does at i, `start` (results,
    6): the segment between is in balance."""
    forces = -start
    forces[:, 4] -= s * start[:, 2]
    forces[:, 5] += s * start[:, 1]
    for row, own in zip(forces, loads, strict=True):
        for a, b, p, q in own:
            if a >= s:
                continue
            total, about = (p, a * p) if a == b else _spread(a, b, min(b, s), p, q)
            row[:3] -= total
            row[4] += about[2] - s * total[2]
            row[5] -= about[1] - s * total[1]
    return forces


def _spread(a: float, b: float, to: float, p: np.ndarray, q: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(resultant, its moment about 0 along x) of a load that runs from `p` at a to `q` at b, as far as `to`."""
    run = to - a
    last = p + (q - p) * run / (b - a)
    total = (p + last) / 2 * run
    return total, a * total + run**2 * (p + 2 * last) / 6
