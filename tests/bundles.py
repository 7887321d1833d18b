"""The demo bundle as plain tables, changed and written again: what tests of the reader and of invariance use."""

from __future__ import annotations

import copy
import csv
import json
import math
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path
from typing import Any

from handrail.core.building.framing import frame
from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import Plan
from handrail.core.codes import code
from handrail.core.rulebook import read_rulebook
from handrail.interchange.bundle import read_bundle

DEMO = Path(__file__).parent.parent / "src/handrail/demo"
SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
Tables = dict[str, Any]


def demo_tables() -> Tables:
    """{table: rows}, with the manifest under `manifest`."""
    found: Tables = {"manifest": json.loads((DEMO / "bundle/datapackage.json").read_text())}
    for path in (DEMO / "bundle").glob("*.csv"):
        with path.open(encoding="utf-8", newline="") as stream:
            found[path.stem] = list(csv.DictReader(stream))
    return found


_DEMO = demo_tables()


def changed(change: Callable[[Tables], None]) -> Tables:
    tables = {
        name: copy.deepcopy(rows) if name == "manifest" else [dict(row) for row in rows] for name, rows in _DEMO.items()
    }
    change(tables)
    return tables


def small(tables: Tables | None = None) -> Tables:
    """One bay of steel that is quick to read: two columns, a girder in three parts, one beam; made by hand."""
    combos = [("1.4D", "strength", "LRFD", "D", "1.4"), ("D", "strength", "ASD", "D", "1.0")]
    found: Tables = {
        "manifest": copy.deepcopy(_DEMO["manifest"]),
        "nodes": [
            dict(zip(["node", "x", "y", "z"], r))
            for r in (
                ("a", 0, 0, 0),
                ("b", 0, 0, 12),
                ("c", 30, 0, 0),
                ("d", 30, 0, 12),
                ("e", 15, 0, 12),
                ("f", 15, 20, 12),
            )
        ],
        "members": [
            _member("C1", "a", "b", "W12X65", "column"),
            _member("C2", "c", "d", "W12X65", "column"),
            _member("G1", "b", "e", "W18X50", "beam", release_i="My Mz"),
            _member("G2", "e", "d", "W18X50", "beam", release_j="My Mz"),
            _member("B1", "e", "f", "W14X26", "beam", release_i="My Mz", release_j="My Mz"),
        ],
        "supports": [
            dict(zip(["node", "ux", "uy", "uz", "rx", "ry", "rz"], (n, 1, 1, 1, 0, 0, 1))) for n in ("a", "c")
        ],
        "cases": [{"case": "D", "title": "Dead", "nature": "dead", "kind": "linear"}],
        "combinations": [dict(zip(["combination", "set", "method", "case", "factor"], c)) for c in combos],
        "end_forces": [],
    }
    for name, i, j in (
        ("C1", (-5,), (-5,)),
        ("C2", (-5,), (-5,)),
        ("G1", (0, 5), (0, 5, 0, 0, 0, 75)),
        ("G2", (0, -5, 0, 0, 0, 75), (0, -5)),
        ("B1", (0, 10), (0, -10)),
    ):
        for end, values in (("i", i), ("j", j)):
            row = list(values) + [0] * (6 - len(values))
            found["end_forces"].append({"member": name, "end": end, "result": "D", **dict(zip(SIX, row))})
    found["manifest"]["resources"] = [{"name": n, "path": f"{n}.csv"} for n in found if n != "manifest"]
    return found


def crowded(angle: float) -> Tables:
    """The small bay with a second beam B2 at the girder, so many degrees beside the first, into which it runs."""
    tables = small()
    tables["nodes"].append({"node": "g", "x": 15 + 20 * math.tan(math.radians(angle)), "y": 20, "z": 12})
    tables["members"].append(_member("B2", "e", "g", "W14X26", "beam", release_i="My Mz", release_j="My Mz"))
    for end, shear in (("i", 10), ("j", -10)):
        forces = dict(zip(SIX, (0, shear, 0, 0, 0, 0)))
        tables["end_forces"].append({"member": "B2", "end": end, "result": "D", **forces})
    return tables


def across(deep: str, shallow: str, heavy: float, light: float, girder: str = "W24X68") -> Tables:
    """The small bay with a `deep` beam B1 and a `shallow` one B2 opposite on its girder, with shears of `heavy` and
    `light` kip."""
    tables = small()
    for member in tables["members"]:
        member["section"] = {"G1": girder, "G2": girder, "B1": deep}.get(member["member"], member["section"])
    tables["nodes"].append({"node": "g", "x": 15, "y": -20, "z": 12})
    tables["members"].append(_member("B2", "e", "g", shallow, "beam", release_i="My Mz", release_j="My Mz"))
    tables["end_forces"] = [row for row in tables["end_forces"] if row["member"] != "B1"]
    for name, shear in (("B1", heavy), ("B2", light)):
        for end, sign in (("i", 1), ("j", -1)):
            forces = dict(zip(SIX, (0, sign * shear, 0, 0, 0, 0)))
            tables["end_forces"].append({"member": name, "end": end, "result": "D", **forces})
    return tables


def _member(name: str, i: str, j: str, section: str, role: str, **more: str) -> dict[str, str]:
    blank = {"release_i": "", "release_j": ""}
    return {"member": name, "i": i, "j": j, "section": section, "grade": "A992", "role": role, **blank, **more}


ODD = 'B/1 ?#%,x&="ü.'


def odd_names(tables: Tables) -> Tables:
    """The beam B1 of the small bay called `ODD`, and the node e `e/1,?`."""
    for table, columns in (("members", ("member", "i", "j")), ("end_forces", ("member",)), ("nodes", ("node",))):
        for row in tables[table]:
            for column in columns:
                row[column] = {"B1": ODD, "e": "e/1,?"}.get(row[column], row[column])
    return tables


def with_foundations(tables: Tables) -> Tables:
    """The small bay on two pedestals, one of them turned and with an edge out of reach."""
    tables["manifest"]["handrail"]["units"]["stress"] = "ksi"
    columns = ("node", "kind", "fc", "thickness", "edge_xm", "edge_xp", "edge_ym", "edge_yp", "turn", "cracked")
    tables["foundations"] = [
        dict(zip(columns, row))
        for row in (("a", "pedestal", 4, 2, 1, 1.5, 1, 1, "", ""), ("c", "slab", 3, 1, 2, "", 2, 2, 90, "no"))
    ]
    tables["manifest"]["resources"].append({"name": "foundations", "path": "foundations.csv"})
    return tables


def in_si(t: Tables) -> None:
    """Feet, kips and inches as metres, kN and mm."""
    t["manifest"]["handrail"]["units"] = {
        "length": "m",
        "section": "mm",
        "force": "kN",
        "moment": "kN*m",
        "stress": "MPa",
    }
    for row in t.get("foundations", []):
        row["fc"] = float(row["fc"]) * 6.894757293168
        for name in ("thickness", "edge_xm", "edge_xp", "edge_ym", "edge_yp"):
            row[name] = float(row[name]) * 0.3048 if row[name] else ""
    for row in t.get("splices", []):
        row["distance"] = float(row["distance"]) * 0.3048
    for row in t.get("member_loads", []):  # all distributed, from end to end
        row["value"] = float(row["value"]) * 4.4482216152605 / 0.3048
    for n in t["nodes"]:
        for name in "xyz":
            n[name] = float(n[name]) * 0.3048
    for row in [row for name in ("end_forces", "reactions", "node_loads") for row in t.get(name, [])]:
        for k, name in enumerate(SIX):
            row[name] = float(row[name]) * 4.4482216152605 * (1 if k < 3 else 0.3048)


def write(tables: Tables, folder: Path) -> Path:
    """Write the tables as a bundle's folder."""
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "datapackage.json").write_text(json.dumps(tables["manifest"]), encoding="utf-8")
    for name, rows in tables.items():
        if name == "manifest":
            continue
        columns = list(dict.fromkeys(k for row in rows for k in row))
        with (folder / f"{name}.csv").open("w", newline="", encoding="utf-8") as stream:
            writer = csv.writer(stream, lineterminator="\n")
            writer.writerow(columns)
            writer.writerows([row.get(c, "") for c in columns] for row in rows)
    return folder


@lru_cache(maxsize=1)
def demo_sized() -> dict[int, Outcome]:
    """What the demo's plan makes of every connection, worked out once."""
    return dict(plan_of(DEMO / "bundle").work())


def plan_of(folder: Path, method: str = "LRFD") -> Plan:
    """The plan of a bundle under the demo's rulebook."""
    building = read_bundle(folder)
    return Plan.of(
        building, frame(building), read_rulebook((DEMO / "rulebook.yaml").read_text()), code("AISC 360-22", method), {}
    )


def outcomes(folder: Path, without: str = "") -> dict[str, tuple[str, str, float, str]]:
    """connection -> (framing, status, utilisation, check) with the demo's rulebook; those of one framing `without`
    being sized left out."""
    plan = plan_of(folder)
    whole = folder == DEMO / "bundle" and not without
    wanted = {a.connection.id for a in plan.assigned if a.connection.framing != without}
    run = demo_sized() if whole else plan.work(wanted)
    found = {}
    for k, assigned in enumerate(plan.assigned):
        if assigned.connection.framing == without:
            continue
        one = run.get(k)
        word = (one.status, one.utilisation, one.check) if one else ("none", 0.0, "")
        found[assigned.connection.id] = (assigned.connection.framing, *word)
    return found
