"""Writes a solved PyNiteFEA frame model as a frame bundle, for sending it to the service: no file of another program between."""

from __future__ import annotations

import csv
import json
import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
RELEASES = ("N", "Vy", "Vz", "T", "My", "Mz")
HELD = ("ux", "uy", "uz", "rx", "ry", "rz")
DIRECTIONS = ("DX", "DY", "DZ", "RX", "RY", "RZ")
ON_NODE = {"FX": 0, "FY": 1, "FZ": 2, "MX": 3, "MY": 4, "MZ": 5}
Vector = tuple[float, float, float]

MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "inch": 25.4, "ft": 304.8, "foot": 304.8}  # of a length that models are made in

@dataclass(frozen=True)
class Solved:
    """What a solved model does not say of itself. `units` of length and force, in which it was made; `up` Y or Z. `natures` of its load cases (dead,
    live, roof_live, snow, wind, seismic, temperature, other); `combinations` its load combinations with (set, method), like ("strength", "LRFD"); a
    combination of one case with factor 1 is that case's result. `sections` and `grades` are what its sections and materials are called in the catalogue,
    where that is otherwise."""

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
        """Write the bundle into `folder`, which is made where it is not there. Raises ValueError where the model cannot be told as one."""
        self._refuse()
        tables = {
            "nodes": [["node", "x", "y", "z"], *([name, n.X, n.Y, n.Z] for name, n in self.model.nodes.items())],
            "members": [["member", "i", "j", "section", "grade", "roll", "physical", "release_i", "release_j"], *self._members()],
            "supports": [["node", *HELD], *self._supports()],
            "cases": [["case", "nature"], *([case, nature] for case, nature in self.natures.items())],
            "combinations": [["combination", "set", "method", "case", "factor"], *self._combinations()],
            "end_forces": [["member", "end", "result", *SIX], *self._forces()],
            "reactions": [["node", "result", *SIX], *self._reactions()],
            "node_loads": [["node", "result", *SIX], *self._node_loads()],
        }
        folder.mkdir(parents=True, exist_ok=True)
        for name, rows in tables.items():
            with (folder / f"{name}.csv").open("w", encoding="utf-8", newline="") as stream:
                csv.writer(stream, lineterminator="\n").writerows(rows)
        length, force = self.units["length"], self.units["force"]
        stated = {"bundle": 1, "revision": self.revision, "source": "a frame model solved by PyNiteFEA", "up": self.up, "forces": "on_member",
                  "units": {"length": length, "section": length, "force": force, "moment": f"{force}*{length}"}}  # fmt: skip
        resources = [{"name": name, "path": f"{name}.csv"} for name in tables]
        (folder / "datapackage.json").write_text(json.dumps({"title": self.title, "handrail": stated, "resources": resources}), encoding="utf-8")
        return folder

    def _refuse(self) -> None:
        if getattr(self.model, "plates", None) or getattr(self.model, "quads", None):
            raise ValueError("the model has plates: what they carry at a node is not told to its members, so nothing would balance there")
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

    def _members(self) -> Iterator[list[Any]]:
        for name, whole, piece in self._pieces():
            released = [" ".join(n for n, free in zip(RELEASES, part, strict=True) if free) for part in (piece.Releases[:6], piece.Releases[6:])]
            shape, grade = str(piece.section.name), str(piece.material.name)
            steel = (self.sections.get(shape, shape), self.grades.get(grade, grade))
            yield [name, piece.i_node.name, piece.j_node.name, *steel, self._roll(piece), whole, *released]

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
        turn = math.atan2(sum(a * b for a, b in zip(across, x, strict=True)), sum(a * b for a, b in zip(plain, y, strict=True)))
        return round(math.degrees(turn), 9)

    def _upright(self, piece: Any, along: float) -> bool:
        """Whether a bundle takes a piece whose axis goes up by `along` for vertical: within 0.1 degrees, or aside by less than 3 mm."""
        aside = math.sqrt(max(1 - along**2, 0.0))
        run = aside * float(piece.L()) * MM.get(self.units["length"], math.inf)
        return aside < math.sin(math.radians(0.1)) or (run < 3.0 and abs(along) > math.cos(math.radians(5.0)))

    def _supports(self) -> Iterator[list[Any]]:
        for name, node in self.model.nodes.items():
            held = [int(bool(getattr(node, f"support_{d}"))) for d in DIRECTIONS]
            if any(held):
                yield [name, *held]

    def _combinations(self) -> Iterator[list[Any]]:
        for name, (kind, method) in self.combinations.items():
            for case, factor in self.model.load_combos[name].factors.items():
                yield [name, kind, method, case, factor]

    def _forces(self) -> Iterator[list[Any]]:
        for name, _, piece in self._pieces():
            for result in self.model.load_combos:
                f = [float(v) for v in piece.f(result).ravel()]
                yield [name, "i", result, *f[:6]]
                yield [name, "j", result, *f[6:]]

    def _reactions(self) -> Iterator[list[Any]]:
        for name, node in self.model.nodes.items():
            for result in self.model.load_combos:
                values = [float(getattr(node, f"Rxn{d}").get(result, 0.0)) for d in ("FX", "FY", "FZ", "MX", "MY", "MZ")]
                if any(values):
                    yield [name, result, *values]

    def _node_loads(self) -> Iterator[list[Any]]:
        """Loads on nodes under each result, as its factors make them."""
        for name, node in self.model.nodes.items():
            for result, combination in self.model.load_combos.items():
                values = [0.0] * 6
                for direction, size, case in node.NodeLoads:
                    values[ON_NODE[direction]] += float(size) * float(combination.factors.get(case, 0.0))
                if any(values):
                    yield [name, result, *values]


def _cross(a: Vector, b: Vector) -> Vector:
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
