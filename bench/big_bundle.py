"""Writes a bundle with a given number of end-force rows: 10,000 members, as many results as that takes."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np
import polars as pl

MEMBERS = 10_000
MAP = """map = 1
up = "Z"
forces = "on_member"
units = {length = "ft", section = "in", force = "kip", moment = "kip*ft"}
tables.nodes = {file = "nodes.csv", columns = {node = "node", x = "x", y = "y", z = "z"}}
tables.members = {file = "members.csv", columns = {member = "member", i = "i", j = "j", section = "section", grade = "grade"}}
tables.supports = {file = "supports.csv", columns = {node = "node", ux = "ux", uy = "uy", uz = "uz", rx = "rx", ry = "ry", rz = "rz"}}
tables.cases = {file = "cases.csv", columns = {case = "case", title = "title", nature = "nature"}}
tables.combinations = {file = "combinations.csv", columns = {combination = "combination", set = "set", method = "method", case = "case", factor = "factor"}}
[tables.end_forces]
file = "end_forces.csv"
[tables.end_forces.columns]
member = "member"
end = "end"
result = "result"
Fx = {column = "Fx", unit = "kN", factor = -1}
Fy = {column = "Fy", unit = "kN"}
Fz = {column = "Fz", unit = "kN"}
Mx = {column = "Mx", unit = "kN*m"}
My = {column = "My", unit = "kN*m"}
Mz = {column = "Mz", unit = "kN*m"}
"""  # noqa: E501


def main(folder: Path, rows: int) -> None:
    results = rows // (2 * MEMBERS)
    dice = np.random.default_rng(1)
    n = MEMBERS + 1
    pl.DataFrame(
        {"node": [f"n{k}" for k in range(n)], "x": np.arange(n) * 10.0, "y": np.zeros(n), "z": np.zeros(n)}
    ).write_csv(folder / "nodes.csv")
    members = {
        "member": [f"M{k}" for k in range(MEMBERS)],
        "i": [f"n{k}" for k in range(MEMBERS)],
        "j": [f"n{k + 1}" for k in range(MEMBERS)],
    }
    pl.DataFrame(members | {"section": ["W16X31"] * MEMBERS, "grade": ["A992"] * MEMBERS}).write_csv(
        folder / "members.csv"
    )
    (folder / "supports.csv").write_text("node,ux,uy,uz,rx,ry,rz\nn0,1,1,1,1,1,1\n")
    cases = [f"LC{k}" for k in range(results)]
    pl.DataFrame({"case": cases, "title": cases, "nature": ["dead"] * results}).write_csv(folder / "cases.csv")
    (folder / "combinations.csv").write_text("combination,set,method,case,factor\n1.4D,strength,LRFD,LC0,1.4\n")
    member = np.repeat(np.arange(MEMBERS), results * 2)
    forces = {
        "member": np.array(members["member"])[member],
        "end": np.tile(["i", "j"], MEMBERS * results),
        "result": np.tile(np.repeat(cases, 2), MEMBERS),
    }
    for name in ("Fx", "Fy", "Fz", "Mx", "My", "Mz"):
        forces[name] = dice.normal(0, 50, rows).round(3)
    pl.DataFrame(forces).write_csv(folder / "end_forces.csv")
    names = ("nodes", "members", "supports", "cases", "combinations", "end_forces")
    units = {"length": "ft", "section": "in", "force": "kip", "moment": "kip*ft"}
    manifest = {
        "name": "big",
        "handrail": {"bundle": 1, "units": units, "up": "Z", "forces": "on_member"},
        "resources": [{"name": x, "path": f"{x}.csv"} for x in names],
    }
    (folder / "datapackage.json").write_text(json.dumps(manifest))
    (folder / "map.toml").write_text(MAP)


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]))
