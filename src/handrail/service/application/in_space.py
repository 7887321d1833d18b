"""A connection in 3D as plain data: what it is made of, how far each part is used, which sizes a part changes with."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from manifold3d import Manifold

from handrail.core.checking.result import CEILING, Result
from handrail.core.joint.situation import Situation
from handrail.core.solids import bodies, words
from handrail.core.solids.axes import Vector
from handrail.core.solids.collisions import body_of
from handrail.core.solids.meshes import Mesh, mesh
from handrail.core.solids.pieces import Bar, Solids
from handrail.core.standards import STANDARDS
from handrail.core.standards.made_by import made_by
from handrail.core.standards.sizes import Sizes

Data = dict[str, Any]


@dataclass(frozen=True)
class Drawn:
    """Where the joint's node is, and the units that words are in."""

    origin: Vector
    system: str

    def shape(self, body: Manifold) -> Data:
        made: Mesh = mesh(body, self.origin)
        return {"points": list(made.points), "faces": list(made.faces)}

    def place(self, at: Vector) -> list[float]:
        return [round(at[k] - self.origin[k], 1) + 0.0 for k in range(3)]

    def solids(self, solids: Solids) -> list[Data]:
        """Everything that a connection brings, and what it stands on in the ground."""
        return [
            {"name": name, "part": part, "kind": kind, "words": tells, **self.shape(body)}
            for name, part, kind, tells, body in _solids(solids, self.system)
        ]

    def member(self, name: str, bar: Bar, body: Manifold) -> Data:
        """A member's end, with what is cut and drilled in it."""
        return {"member": name, "part": bar.part, "words": bar.section, **self.shape(body)}


def used(looked: Result | None) -> Data:
    """The largest utilisation of each part's checks, and the parts of which rules of detailing fail."""
    found: dict[str, float] = {}
    for check in looked.checks if looked else ():
        found[check.part] = max(found.get(check.part, 0.0), round(min(check.counts, CEILING), 4))
    return {"used": found, "broken": sorted({rule.part for rule in looked.detailing if not rule.ok}) if looked else []}


def sizes_of(standard: str, situation: Situation, sizes: Sizes) -> dict[str, list[str]]:
    """part -> the sizes that it changes with, its own first."""
    found = made_by(STANDARDS[standard], situation, tuple(sorted(sizes.items())))
    return {part: list(names) for part, names in found.items()}


def _solids(solids: Solids, system: str) -> Iterator[tuple[str, str, str, str, Manifold]]:
    """(name, part, kind, words, body) of everything that a connection brings, and of what it stands on in the
    ground."""
    for kind, some in (("piece", solids.pieces), ("bolt", solids.bolts), ("rod", solids.rods)):
        for solid in some:
            yield solid.name, solid.part, kind, words.said(solid, system), body_of(solid)
    for weld in solids.welds:
        if weld.kind == "fillet":
            yield weld.name, weld.part, "weld", words.said(weld, system), body_of(weld)
    for bar in solids.bars:
        yield bar.name, bar.part, "bar", words.said(bar, system), bodies.barred(bar)
    for ground in solids.ground:
        yield ground.name, ground.part, "ground", ground.part, bodies.body(ground)
