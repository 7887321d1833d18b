"""Writes the results of any open solver as a frame bundle: a frame that says a few things of itself is one."""

from __future__ import annotations

import csv
import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Protocol

SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
HELD = ("ux", "uy", "uz", "rx", "ry", "rz")
Vector = tuple[float, float, float]
Six = Sequence[float]  # Fx, Fy, Fz, Mx, My, Mz


@dataclass(frozen=True)
class Bar:
    """A member between two nodes: section and grade as the catalogue calls them, `roll` in degrees, releases of `N Vy
    Vz T My Mz`; `physical` the piece of steel that it is a part of."""

    name: str
    i: str
    j: str
    section: str
    grade: str
    roll: float = 0.0
    physical: str = ""
    release_i: str = ""
    release_j: str = ""


class Solved3D(Protocol):
    """What a solved frame says of itself. Axes and senses are the frame bundle's: local x from i to j, y the web's,
    forces those of the nodes on the member (the stiffness method's k d); reactions those of the supports on the frame,
    loads those on the nodes, both in global axes."""

    def nodes(self) -> Mapping[str, Vector]: ...
    def bars(self) -> Iterable[Bar]: ...
    def supports(self) -> Mapping[str, Sequence[bool]]: ...
    def results(self) -> Iterable[str]: ...
    def end_forces(self, bar: str, result: str) -> tuple[Six, Six]: ...
    def reactions(self, result: str) -> Mapping[str, Six]: ...
    def loads(self, result: str) -> Mapping[str, Six]: ...


@dataclass(frozen=True)
class Meant:
    """What a solver's model does not say: `units` of length and force, `up` Y or Z, the `natures` of its cases (dead,
    live, roof_live, snow, wind, seismic, temperature, other), and its `combinations`: name -> (set, method, {case:
    factor})."""

    units: Mapping[str, str]
    natures: Mapping[str, str]
    combinations: Mapping[str, tuple[str, str, Mapping[str, float]]] = field(default_factory=dict)
    up: str = "Z"
    title: str = ""
    revision: str = ""
    source: str = "a frame solved by an open solver"


def write_frame(frame: Solved3D, meant: Meant, folder: Path) -> Path:
    """Write the bundle into `folder`, which is made where it is not there. Raises ValueError for a result that is
    neither a case nor a combination."""
    results = list(frame.results())
    if unknown := [r for r in results if r not in meant.natures and r not in meant.combinations]:
        raise ValueError(
            f"result '{unknown[0]}' is neither a case with a nature nor a combination: name it in natures or in"
            " combinations"
        )
    bars = list(frame.bars())
    tables: dict[str, tuple[Sequence[str], Iterable[Sequence[object]]]] = {
        "nodes": (["node", "x", "y", "z"], ([name, *at] for name, at in frame.nodes().items())),
        "members": (
            ["member", "i", "j", "section", "grade", "roll", "physical", "release_i", "release_j"],
            ([b.name, b.i, b.j, b.section, b.grade, b.roll, b.physical, b.release_i, b.release_j] for b in bars),
        ),
        "supports": (
            ["node", *HELD],
            ([name, *map(int, held)] for name, held in frame.supports().items() if any(held)),
        ),
        "cases": (["case", "nature"], meant.natures.items()),
        "combinations": (
            ["combination", "set", "method", "case", "factor"],
            (
                [name, kind, method, case, factor]
                for name, (kind, method, terms) in meant.combinations.items()
                for case, factor in terms.items()
            ),
        ),
        "end_forces": (
            ["member", "end", "result", *SIX],
            (
                [b.name, end, result, *six]
                for b in bars
                for result in results
                for end, six in zip("ij", frame.end_forces(b.name, result), strict=True)
            ),
        ),
        "reactions": (
            ["node", "result", *SIX],
            ([node, result, *six] for result in results for node, six in frame.reactions(result).items()),
        ),
        "node_loads": (
            ["node", "result", *SIX],
            ([node, result, *six] for result in results for node, six in frame.loads(result).items()),
        ),
    }
    folder.mkdir(parents=True, exist_ok=True)
    for name, (columns, rows) in tables.items():
        with (folder / f"{name}.csv").open("w", encoding="utf-8", newline="") as stream:
            csv.writer(stream, lineterminator="\n").writerows([columns, *rows])
    length, force = meant.units["length"], meant.units["force"]
    stated = {
        "bundle": 1,
        "revision": meant.revision,
        "source": meant.source,
        "up": meant.up,
        "forces": "on_member",
        "units": {"length": length, "section": length, "force": force, "moment": f"{force}*{length}"},
    }
    resources = [{"name": name, "path": f"{name}.csv"} for name in tables]
    (folder / "datapackage.json").write_text(
        json.dumps({"title": meant.title, "handrail": stated, "resources": resources}), encoding="utf-8"
    )
    return folder
