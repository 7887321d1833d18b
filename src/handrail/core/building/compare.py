"""What changed from one revision of a building to the next: members and joints matched by name and place; new, gone,
moved, resized, released otherwise, framed otherwise, and loaded otherwise, worst first."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from handrail.core.building.combining import strength_set
from handrail.core.building.framing import Framing
from handrail.core.building.model import ENDS, Building, Member
from handrail.core.building.nearest import SAME, nearest
from handrail.core.building.yielding import COMPONENTS, yields
from handrail.core.quantities.units import show

MOVED = 10.0  # mm
RELOADED = 0.02  # of the larger of both, and not under a hundredth of the section's own strength
LEAST = 0.01
WITHIN = np.array([-1.0, 1.0])[:, None, None]  # the resultant within a member, of the node's force on its ends
TURNED = np.array(
    [1.0, -1.0, 1.0, 1.0, -1.0, 1.0]
)  # the same, drawn from the other end: local x and z are turned about y


@dataclass
class Change:
    """One member or connection: `kind` new, gone, moved, renamed, resized, released, reloaded, framed; what it was and
    is in words; `share` of its section's strength that its forces changed by, where they did; the `joints` that it
    concerns."""

    kind: str
    name: str
    was: str = ""
    now: str = ""
    share: float = 0.0
    joints: list[str] = field(default_factory=list)


@dataclass
class Comparison:
    """All changes, those of forces with the worst first; and how many members are as they were."""

    changes: list[Change]
    unchanged: int

    def as_dict(self) -> dict[str, Any]:
        """For JSON."""
        return {"changes": [c.__dict__ for c in self.changes], "unchanged": self.unchanged}


def compare(old: Building, new: Building, old_framing: Framing, new_framing: Framing, method: str) -> Comparison:
    """From `old` to `new`, their forces in the strength combinations of `method` that both have by name."""
    pairs = matched(old, new)
    changes: list[Change] = []
    taken = set(pairs)
    changes += [
        Change("gone", m.name, was=m.section, joints=_joints(old, m))
        for k, m in enumerate(old.members)
        if k not in taken
    ]
    known = set(pairs.values())
    changes += [
        Change("new", m.name, now=m.section, joints=_joints(new, m))
        for k, m in enumerate(new.members)
        if k not in known
    ]
    for a, b in pairs.items():
        changes += _member(old, new, old.members[a], new.members[b])
    changes += _framed(
        old_framing, new_framing, {old.members[a].name: new.members[b].name for a, b in pairs.items()}, new
    )
    forces = _reloaded(old, new, pairs, method)
    changes += sorted(forces, key=lambda c: -c.share)
    touched = {c.name.rsplit(".", 1)[0] if c.kind in ("framed", "reloaded") else c.name for c in changes}
    return Comparison(changes, sum(m.name not in touched for m in new.members))


def matched(old: Building, new: Building, within: float = SAME) -> dict[int, int]:
    """old member -> new member: the same name where it stands within that distance (mm), else the nearest that does,
    rather of the same role and section; else the same name."""
    by_name = {m.name: k for k, m in enumerate(new.members)}
    here, there = (
        of.xyz[[[m.i, m.j] for m in of.members]].reshape(-1, 6) if of.members else np.zeros((0, 6)) for of in (old, new)
    )

    def rank(a: int, b: int) -> float:
        was, now = old.members[a], new.members[b]
        return 0.0 if was.name == now.name else 1.0 if (was.role, was.section) == (now.role, now.section) else 2.0

    pairs = nearest(here, there, within, rank, either_way=True)
    left = set(range(len(new.members))) - set(pairs.values())
    for k, m in enumerate(old.members):
        if k not in pairs and (n := by_name.get(m.name)) in left:
            pairs[k] = n
            left.discard(n)
    return dict(sorted(pairs.items()))


def _joints(building: Building, member: Member) -> list[str]:
    return [building.nodes[member.i], building.nodes[member.j]]


def _member(old: Building, new: Building, a: Member, b: Member) -> list[Change]:
    joints, changes = _joints(new, b), []
    if a.name != b.name:
        changes.append(Change("renamed", b.name, a.name, b.name, joints=joints))
    moved = max(float(np.linalg.norm(old.xyz[x] - new.xyz[y])) for x, y in zip(*_same_way(old, new, a, b), strict=True))
    if moved > MOVED:
        changes.append(Change("moved", b.name, now=f"{moved:.0f} mm", joints=joints))
    if (a.section, a.grade) != (b.section, b.grade):
        changes.append(Change("resized", b.name, f"{a.section} {a.grade}", f"{b.section} {b.grade}", joints=joints))
    flipped = (a.i, a.j) != (b.i, b.j) and _same_way(old, new, a, b)[0] != [a.i, a.j]
    was, now = (a.release_i, a.release_j), (b.release_j, b.release_i) if flipped else (b.release_i, b.release_j)
    if was != now:
        changes.append(Change("released", b.name, _words(was), _words(now), joints=joints))
    return changes


def _same_way(old: Building, new: Building, a: Member, b: Member) -> tuple[list[int], list[int]]:
    """The ends of both, those that are nearest to each other beside each other."""
    straight = np.linalg.norm(old.xyz[[a.i, a.j]] - new.xyz[[b.i, b.j]], axis=1).sum()
    crossed = np.linalg.norm(old.xyz[[a.j, a.i]] - new.xyz[[b.i, b.j]], axis=1).sum()
    return ([a.i, a.j] if straight <= crossed else [a.j, a.i]), [b.i, b.j]


def _words(released: tuple[frozenset[str], frozenset[str]]) -> str:
    return ", ".join(f"{end}: {' '.join(sorted(own)) or 'none'}" for end, own in zip(ENDS, released, strict=True))


def _framed(old: Framing, new: Framing, renamed: dict[str, str], building: Building) -> list[Change]:
    """Connections that are framed otherwise, of members that are in both."""
    was = {
        f"{renamed[name]}.{end}": c for c in old.connections for name, end in [c.id.rsplit(".", 1)] if name in renamed
    }
    changes = []
    for c in new.connections:
        before = was.get(c.id)
        if before is not None and before.framing != c.framing:
            changes.append(Change("framed", c.id, before.framing, c.framing, joints=[building.nodes[c.node]]))
    return changes


def _reloaded(old: Building, new: Building, pairs: dict[int, int], method: str) -> list[Change]:
    """Member ends whose forces changed in any combination that both revisions have."""
    sets = [strength_set(b, method) for b in (old, new)]
    both = [n for n in sets[1].names if n in sets[0].names]
    if not both or not pairs:
        return []
    a, b = np.array(list(pairs)), np.array(list(pairs.values()))
    formed = []
    for building, own, which in ((old, sets[0], a), (new, sets[1], b)):
        columns = [own.names.index(n) for n in both]
        formed.append(own.forces(building.forces[which].transpose(0, 2, 1, 3))[:, :, columns] * WITHIN)  # (m, 2, c, 6)
    crossed = np.array(
        [
            _same_way(old, new, old.members[x], new.members[y])[0] != [old.members[x].i, old.members[x].j]
            for x, y in pairs.items()
        ]
    )
    formed[0] = np.where(crossed[:, None, None, None], formed[0][:, ::-1] * TURNED, formed[0])
    known = [yields(new, new.members[k]) for k in b]
    strength = np.array([np.full(6, np.inf) if own is None else own for own in known])
    shares = np.nan_to_num(np.abs(formed[1] - formed[0]) / strength[:, None, None, :])
    larger = np.nan_to_num(np.maximum(np.abs(formed[0]), np.abs(formed[1])) / strength[:, None, None, :])
    counts = (shares > LEAST) & (shares > RELOADED * larger)
    flat = np.where(counts, shares, 0.0).transpose(0, 1, 3, 2).reshape(len(b), 2, -1)
    changes = []
    for m, end in np.argwhere(flat.max(axis=-1, initial=0.0) > 0):
        k = int(flat[m, end].argmax())
        c, combination = divmod(k, len(both))
        values = [float(f[m, end, combination, c]) for f in formed]
        member = new.members[b[m]]
        was, now = (_amount(value, c, new) for value in values)
        changes.append(
            Change(
                "reloaded",
                f"{member.name}.{ENDS[end]}",
                f"{COMPONENTS[c]} {was}",
                f"{now} in {both[combination]}",
                float(flat[m, end, k]),
                [new.nodes[member.node(int(end))]],
            )
        )
    return changes


def _amount(value: float, component: int, building: Building) -> str:
    return show(value, "force" if component < 3 else "moment", building.system)
