"""Writes the bundle of a made-up tower: 20 by 20 bays, as many floors as asked; columns, and beams released at both
ends."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import polars as pl

BAYS, BAY, STOREY = 20, 28.0, 13.0
CASES = (("D", "dead", 1.0), ("L", "live", 0.8), ("WX", "wind", 0.2), ("WY", "wind", -0.2))
COMBINATIONS = {
    "1.4D": {"D": 1.4},
    "1.2D+1.6L": {"D": 1.2, "L": 1.6},
    "1.2D+1.0WX+L": {"D": 1.2, "WX": 1.0, "L": 1.0},
    "1.2D+1.0WY+L": {"D": 1.2, "WY": 1.0, "L": 1.0},
    "0.9D+1.0WX": {"D": 0.9, "WX": 1.0},
    "0.9D+1.0WY": {"D": 0.9, "WY": 1.0},
}


def main(folder: Path, floors: int) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    tables = {
        name: pl.DataFrame(rows, orient="row", schema=columns) for name, (columns, rows) in _tables(floors).items()
    }
    for name, table in tables.items():
        table.write_csv(folder / f"{name}.csv")
    units = {"length": "ft", "section": "in", "force": "kip", "moment": "kip*ft"}
    (folder / "datapackage.json").write_text(
        json.dumps(
            {
                "name": "tower",
                "title": "Tower",
                "handrail": {"bundle": 1, "units": units, "up": "Z", "forces": "on_member"},
                "resources": [{"name": name, "path": f"{name}.csv"} for name in tables],
            }
        )
    )


def _shear(direction: str, x: int, y: int) -> float:
    """At either end of the beam that begins there (kip)."""
    return 22.0 + (x * 7 + y * 3) % 9 if direction == "X" else 12.0 + (x * 5 + y * 2) % 7


def _at(x: int, y: int) -> float:
    """What the beams of one floor bring to a column."""
    along = [_shear("X", k, y) for k in (x - 1, x) if 0 <= k < BAYS]
    return sum(along) + sum(_shear("Y", x, k) for k in (y - 1, y) if 0 <= k < BAYS)


def _tables(floors: int) -> dict[str, tuple[list[str], list[tuple[object, ...]]]]:
    grid = range(BAYS + 1)
    nodes = [(f"{x}/{y}/{z}", x * BAY, y * BAY, z * STOREY) for z in range(floors + 1) for x in grid for y in grid]
    members: list[tuple[object, ...]] = []
    forces: list[tuple[object, ...]] = []
    for z in range(1, floors + 1):
        for x in grid:
            for y in grid:
                _column(members, forces, x, y, z, floors)
                if x < BAYS:
                    _beam(
                        members,
                        forces,
                        f"X{x}-{y}-{z}",
                        f"{x}/{y}/{z}",
                        f"{x + 1}/{y}/{z}",
                        "W18X40",
                        _shear("X", x, y),
                    )
                if y < BAYS:
                    _beam(
                        members,
                        forces,
                        f"Y{x}-{y}-{z}",
                        f"{x}/{y}/{z}",
                        f"{x}/{y + 1}/{z}",
                        "W16X31",
                        _shear("Y", x, y),
                    )
    supports = [(f"{x}/{y}/0", 1, 1, 1, 0, 0, 1) for x in grid for y in grid]
    terms = [
        (name, "strength", "LRFD", case, factor)
        for name, found in COMBINATIONS.items()
        for case, factor in found.items()
    ]
    return {
        "nodes": (["node", "x", "y", "z"], nodes),
        "members": (["member", "i", "j", "section", "grade", "role", "release_i", "release_j"], members),
        "supports": (["node", "ux", "uy", "uz", "rx", "ry", "rz"], supports),
        "cases": (["case", "title", "nature"], [(n, n, nature) for n, nature, _ in CASES]),
        "combinations": (["combination", "set", "method", "case", "factor"], terms),
        "end_forces": (["member", "end", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz"], forces),
    }


def _beam(members: list, forces: list, name: str, i: str, j: str, section: str, shear: float) -> None:
    members.append((name, i, j, section, "A992", "beam", "My Mz", "My Mz"))
    for case, _, share in CASES:
        forces += [
            (name, "i", case, 0.0, shear * share, 0.0, 0.0, 0.0, 0.0),
            (name, "j", case, 0.0, shear * share, 0.0, 0.0, 0.0, 0.0),
        ]


def _column(members: list, forces: list, x: int, y: int, z: int, floors: int) -> None:
    name, push = f"C{x}-{y}-{z}", _at(x, y) * (floors - z + 1)
    members.append((name, f"{x}/{y}/{z - 1}", f"{x}/{y}/{z}", "W14X176", "A992", "column", "", ""))
    for case, _, share in CASES:
        forces += [
            (name, "i", case, push * share, 0.0, 0.0, 0.0, 0.0, 0.0),
            (name, "j", case, -push * share, 0.0, 0.0, 0.0, 0.0, 0.0),
        ]


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]))
