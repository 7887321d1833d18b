"""Writes a solved PyNiteFEA frame model as a frame bundle, for sending it to the service: no file of another program
between."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import Any

from handrail.client.frames import Bar, Meant, Six, Vector, write_frame

RELEASES = ("N", "Vy", "Vz", "T", "My", "Mz")
DIRECTIONS = ("DX", "DY", "DZ", "RX", "RY", "RZ")
ON_NODE = {"FX": 0, "FY": 1, "FZ": 2, "MX": 3, "MY": 4, "MZ": 5}

MM = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": 25.4,
    "inch": 25.4,
    "ft": 304.8,
    "foot": 304.8,
}  # of a length that models are made in


@dataclass(frozen=True)
class Solved:
    """What a solved model does not say of itself. `units` of length and force, in which it was made; `up` Y or Z.
    `natures` of its load cases (dead, live, roof_live, snow, wind, seismic, temperature, other); `combinations` its
    load combinations with (set, method), like ("strength", "LRFD"); a combination of one case with factor 1 is that
    case's result. `sections` and `grades` are what its sections and materials are called in the catalogue, where that
    is otherwise."""

    model: Any
    units: Mapping[str, str]
    natures: Mapping[str, str]
    combinations: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    sections: Mapping[str, str] = field(default_factory=dict)
    grades: Mapping[str, str] = field(default_factory=dict)
    up: str = "Y"
    title: str = ""
    revision: str = ""

    def write(self, folder: Path) -> Path:
        """Write the bundle into `folder`, which is made where it is not there. Raises ValueError where the model cannot
        be told as one."""
        self._refuse()
        combinations = {
            name: (kind, method, dict(self.model.load_combos[name].factors))
            for name, (kind, method) in self.combinations.items()
        }
        return write_frame(
            self,
            Meant(
                self.units,
                self.natures,
                combinations,
                self.up,
                self.title,
                self.revision,
                "a frame model solved by PyNiteFEA",
            ),
            folder,
        )

    def nodes(self) -> Mapping[str, Vector]:
        return {name: (n.X, n.Y, n.Z) for name, n in self.model.nodes.items()}

    def results(self) -> Iterator[str]:
        yield from self.model.load_combos

    def _refuse(self) -> None:
        if getattr(self.model, "plates", None) or getattr(self.model, "quads", None):
            raise ValueError(
                "the model has plates: what they carry at a node is not told to its members, so nothing would balance"
                " there"
            )
        solved = self.model.load_combos
        if missing := [name for name in self.combinations if name not in solved]:
            raise ValueError(f"the model has no load combination '{missing[0]}'; it has {', '.join(solved)}")
        for name, combination in solved.items():
            if unknown := [case for case in combination.factors if case not in self.natures]:
                raise ValueError(f"load case '{unknown[0]}' of combination '{name}' has no nature: name it in natures")
            if name not in self.combinations and not self._is_case(name):
                raise ValueError(f"load combination '{name}' has no set and method: name them in combinations")
        if not any(n.RxnFX for n in self.model.nodes.values()):
            raise ValueError("the model has no results: analyse it first")

    def _is_case(self, name: str) -> bool:
        return dict(self.model.load_combos[name].factors) == {name: 1.0}

    def _pieces(self) -> Iterator[tuple[str, str, Any]]:
        """(name, of which member it is a piece, the piece): members are cut where nodes lie on them."""
        for name, member in self.model.members.items():
            pieces = list(getattr(member, "sub_members", {}).values()) or [member]
            for k, piece in enumerate(pieces, 1):
                yield (name if len(pieces) == 1 else f"{name}.{k}"), (name if len(pieces) > 1 else ""), piece

    def bars(self) -> Iterator[Bar]:
        for name, whole, piece in self._pieces():
            released = [
                " ".join(n for n, free in zip(RELEASES, part, strict=True) if free)
                for part in (piece.Releases[:6], piece.Releases[6:])
            ]
            shape, grade = str(piece.section.name), str(piece.material.name)
            yield Bar(
                name,
                piece.i_node.name,
                piece.j_node.name,
                self.sections.get(shape, shape),
                self.grades.get(grade, grade),
                self._roll(piece),
                whole,
                *released,
            )

    def _roll(self, piece: Any) -> float:
        """From the bundle's own local y of an unrolled member to the model's, degrees about x."""
        x, y = (tuple(float(v) for v in piece.T()[k][:3]) for k in (0, 1))
        up = (0.0, 1.0, 0.0) if self.up == "Y" else (0.0, 0.0, 1.0)
        along = sum(a * b for a, b in zip(up, x, strict=True))
        toward = (1.0, 0.0, 0.0) if self._upright(piece, along) else up
        part = sum(a * b for a, b in zip(toward, x, strict=True))
        plain = [t - part * v for t, v in zip(toward, x, strict=True)]
        size = math.sqrt(sum(v * v for v in plain))
        plain = [v / size for v in plain]
        across = _cross((plain[0], plain[1], plain[2]), (y[0], y[1], y[2]))
        turn = math.atan2(
            sum(a * b for a, b in zip(across, x, strict=True)), sum(a * b for a, b in zip(plain, y, strict=True))
        )
        return round(math.degrees(turn), 9)

    def _upright(self, piece: Any, along: float) -> bool:
        """Whether a bundle takes a piece whose axis goes up by `along` for vertical: within 0.1 degrees, or aside by
        less than 3 mm."""
        aside = math.sqrt(max(1 - along**2, 0.0))
        run = aside * float(piece.L()) * MM.get(self.units["length"], math.inf)
        return aside < math.sin(math.radians(0.1)) or (run < 3.0 and abs(along) > math.cos(math.radians(5.0)))

    def supports(self) -> Mapping[str, Sequence[bool]]:
        return {
            name: [bool(getattr(node, f"support_{d}")) for d in DIRECTIONS] for name, node in self.model.nodes.items()
        }

    def end_forces(self, bar: str, result: str) -> tuple[Six, Six]:
        f = [float(v) for v in self._by_name[bar].f(result).ravel()]
        return f[:6], f[6:]

    @cached_property
    def _by_name(self) -> dict[str, Any]:
        return {name: piece for name, _, piece in self._pieces()}

    def reactions(self, result: str) -> Mapping[str, Six]:
        at_nodes = {
            name: [float(getattr(node, f"Rxn{d}").get(result, 0.0)) for d in ("FX", "FY", "FZ", "MX", "MY", "MZ")]
            for name, node in self.model.nodes.items()
        }
        return {name: six for name, six in at_nodes.items() if any(six)}

    def loads(self, result: str) -> Mapping[str, Six]:
        """Loads on nodes under a result, as its factors make them."""
        factors = self.model.load_combos[result].factors
        at_nodes: dict[str, list[float]] = {}
        for name, node in self.model.nodes.items():
            for direction, size, case in node.NodeLoads:
                at_nodes.setdefault(name, [0.0] * 6)[ON_NODE[direction]] += float(size) * float(factors.get(case, 0.0))
        return {name: six for name, six in at_nodes.items() if any(six)}


def _cross(a: Vector, b: Vector) -> Vector:
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
