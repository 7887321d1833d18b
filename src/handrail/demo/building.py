"""Makes the demo bundle, Alder Street Library: a made-up building, really analysed.

Run `python -m handrail.demo.building FOLDER`; needs PyNiteFEA. The bundle that it
makes is committed beside it, so nobody else needs the solver.
"""

from __future__ import annotations

import csv
import json
import math
import sys
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from handrail.core.catalogue import section
from handrail.core.quantities.units import INCH

LEVELS = {1: 0.0, 2: 15.0, 3: 29.0, 4: 43.0, 5: 57.0}  # ft; 5 is the roof
BAY_X, BAY_Y, BAYS_X, BAYS_Y = 30.0, 25.0, 6, 4
WING, WING_ANGLE = 4, math.radians(18.0)  # grid lines beyond this one turn
SPLICE = 4.0  # ft above level 2
HINGE, TURNS = "My Mz", "T My Mz"  # a hinge, and one that lets the member turn about its axis too
CASES = (
    ("D", "Dead", "dead"), ("L", "Live", "live"), ("Lr", "Roof live", "roof_live"),
    ("WX+", "Wind from west", "wind"), ("WX-", "Wind from east", "wind"),
    ("WY+", "Wind from south", "wind"), ("WY-", "Wind from north", "wind"),
    ("EX", "Seismic along X", "seismic"), ("EY", "Seismic along Y", "seismic"),
)  # fmt: skip
EV = 0.1  # 0.2 SDS
DEAD, LIVE, ROOF_DEAD, ROOF_LIVE, PLANT_DEAD = 0.075, 0.100, 0.030, 0.020, 0.090  # ksf
SUCTION = 0.055  # ksf up on the canopy in any wind
SPLICED = (
    (2, 2.5),
    (3, 2.5),
)  # level and ft past the first third point: where the middle line's first girder is spliced
CLADDING = 0.30  # klf on the edge beams


@dataclass
class Model:
    """The building as it is drawn up: nodes in ft, members, loads."""

    nodes: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    members: list[dict[str, Any]] = field(default_factory=list)
    supports: dict[str, tuple[int, ...]] = field(default_factory=dict)
    line_loads: list[tuple[str, str, float]] = field(default_factory=list)  # member, case, klf down
    node_loads: list[tuple[str, str, float, str]] = field(default_factory=list)
    splices: list[tuple[str, float]] = field(default_factory=list)  # member, ft from i
    _at: dict[tuple[int, int, int], str] = field(default_factory=dict)

    def node(self, x: float, y: float, z: float) -> str:
        key = (round(x * 1000), round(y * 1000), round(z * 1000))
        if key not in self._at:
            self._at[key] = f"n{len(self.nodes) + 1}"
            self.nodes[self._at[key]] = (x, y, z)
        return self._at[key]

    def member(self, prefix: str, i: str, j: str, shape: str, role: str, grade: str = "A992", **more: Any) -> str:
        name = f"{prefix}{sum(m['member'].startswith(prefix) for m in self.members) + 1}"
        self.members.append({"member": name, "i": i, "j": j, "section": shape, "grade": grade, "role": role, **more})
        return name

    def chain(
        self, prefix: str, nodes: list[str], shape: str, role: str, ends: tuple[str, str] = (HINGE, TURNS), **more: Any
    ) -> list[str]:
        """Elements end to end as one piece, released at its outer ends only."""
        names = []
        for k, (i, j) in enumerate(zip(nodes, nodes[1:], strict=False)):
            first, last = k == 0, k == len(nodes) - 2
            names.append(
                self.member(
                    prefix,
                    i,
                    j,
                    shape,
                    role,
                    release_i=ends[0] if first else "",
                    release_j=ends[1] if last else "",
                    **more,
                )
            )
        return names


def plan(gx: float, gy: float) -> tuple[float, float]:
    """Grid lines to ft; beyond line WING the building turns."""
    x, y = min(gx, WING) * BAY_X, gy * BAY_Y
    beyond = max(gx - WING, 0.0) * BAY_X
    return x + beyond * math.cos(WING_ANGLE), y + beyond * math.sin(WING_ANGLE)


def build() -> Model:
    model = Model()
    columns(model)
    for level in (2, 3, 4, 5):
        floor(model, level)
    braces(model)
    canopy(model)
    plant_deck(model)
    lateral(model)
    return model


def columns(model: Model) -> None:
    for gx in range(BAYS_X + 1):
        for gy in range(BAYS_Y + 1):
            x, y = plan(gx, gy)
            heights = [0.0, *([12.0] if gy == 0 and 2 <= gx <= 4 else []), LEVELS[2], LEVELS[2] + SPLICE]
            low = [model.node(x, y, z) for z in heights]
            high = [low[-1], *(model.node(x, y, LEVELS[k]) for k in (3, 4, 5))]
            inner = 0 < gx < BAYS_X and 0 < gy < BAYS_Y
            model.chain("C", low, "W14X109" if inner else "W14X90", "column", ("", ""))
            model.chain("C", high, "W14X74" if inner else "W14X61", "column", ("", ""))
            fixed = gy == 2
            model.supports[low[0]] = (1, 1, 1, int(fixed), int(fixed), 1)


def floor(model: Model, level: int) -> None:
    """Girders along the X lines, secondary beams along Y at columns and third points."""
    z, roof = LEVELS[level], level == 5
    for gy in range(BAYS_Y + 1):
        for bay in range(BAYS_X):
            steps = [0, 1 / 3, 2 / 3, 1]
            if chevron(gy, bay):
                steps.insert(2, 0.5)
            nodes = [model.node(*plan(bay + s, gy), z) for s in steps]
            moment = gy == 2 and bay < WING
            shape = ("W21X50" if roof else "W24X84") if moment else ("W18X40" if roof else "W24X68")
            ends = ("", "") if moment else (HINGE, TURNS)
            chain = model.chain("G", nodes, shape, "beam", ends)
            if moment and bay == 0:
                model.splices += [(chain[1], ft) for at, ft in SPLICED if at == level]
            for name in chain:
                model.line_loads.append((name, "D", 0.07 + (CLADDING if gy in (0, BAYS_Y) and not roof else 0.0)))
    for third in range(3 * BAYS_X + 1):
        for gy in range(BAYS_Y):
            at = third / 3
            i, j = model.node(*plan(at, gy), z), model.node(*plan(at, gy + 1), z)
            edge = third in (0, 3 * BAYS_X)
            shape = "W14X30" if roof else "W16X40" if third % 3 == 0 else "W16X31"
            name = model.member("B", i, j, shape, "beam", release_i=HINGE, release_j=TURNS)
            width = BAY_X / 3 * (0.5 if edge else 1.0)
            dead, live, case = (ROOF_DEAD, ROOF_LIVE, "Lr") if roof else (DEAD, LIVE, "L")
            model.line_loads.append((name, "D", dead * width + 0.03 + (CLADDING if edge and not roof else 0.0)))
            model.line_loads.append((name, case, live * width))


def chevron(gy: int, bay: int) -> bool:
    return gy in (0, BAYS_Y) and bay in (1, 3)


def braces(model: Model) -> None:
    """Chevrons along X in two bays of both long sides, single diagonals along Y on lines 1 and 5."""
    heights = [LEVELS[k] for k in sorted(LEVELS)]
    for low, high in zip(heights, heights[1:], strict=False):
        size = "HSS8X8X1/2" if low < 20 else "HSS6X6X3/8"
        for gy in (0, BAYS_Y):
            for bay in (1, 3):
                apex = model.node(*plan(bay + 0.5, gy), high)
                for gx in (bay, bay + 1):
                    foot = model.node(*plan(gx, gy), low)
                    model.member("X", foot, apex, size, "brace", "A500C", release_i=HINGE, release_j=HINGE)
        for gx in (0, WING, BAYS_X):
            for bay, up in ((1, 1), (2, 0)):
                a = model.node(*plan(gx, bay + (0 if up else 1)), low)
                b = model.node(*plan(gx, bay + up), high)
                model.member("X", a, b, size, "brace", "A500C", release_i=HINGE, release_j=HINGE)


def canopy(model: Model) -> None:
    """Sloping rafters from the south columns over hollow posts to a free edge; purlins between them."""
    previous: list[str] = []
    beam_before = ""
    for gx in (2, 3, 4):
        x, _ = plan(gx, 0)
        fall = [(0.0, 12.0), (-6.0, 11.2), (-12.0, 10.4), (-16.0, 10.4 - 4 * 0.8 / 6)]
        nodes = [model.node(x, y, z) for y, z in fall]
        for name in model.chain("R", nodes, "W12X26", "beam", (HINGE, "")):
            model.line_loads.append((name, "D", 0.026))
        post = [model.node(x, -12.0, 0.0), model.node(x, -12.0, 8.0), nodes[2]]
        model.chain("P", post, "HSS6X6X3/8", "column", ("", HINGE), grade="A500C")
        model.supports[post[0]] = (1, 1, 1, 1, 1, 1)
        for i, j, width in zip(previous[1:], nodes[1:], (6.0, 5.0, 2.0), strict=False):
            name = model.member("U", i, j, "W12X19", "beam", release_i=HINGE, release_j=TURNS)
            model.line_loads.append((name, "D", 0.012 * width + 0.02))
            model.line_loads.append((name, "Lr", ROOF_LIVE * width))
            for wind in ("WX+", "WX-", "WY+", "WY-"):
                model.line_loads.append((name, wind, -SUCTION * width))
        if beam_before:
            name = model.member("U", beam_before, post[1], "W12X19", "beam", release_i=HINGE, release_j=TURNS)
            model.line_loads.append((name, "D", 0.15))
        previous, beam_before = nodes, post[1]


def plant_deck(model: Model) -> None:
    """Short posts on the roof girders' third points carry a stiff-jointed deck with secondary beams."""
    low, high = LEVELS[5], LEVELS[5] + 5.0
    lines = (2 + 1 / 3, 2 + 2 / 3, 3 + 1 / 3, 3 + 2 / 3)
    for gy in (1, 2, 3):
        for gx in lines:
            foot, head = model.node(*plan(gx, gy), low), model.node(*plan(gx, gy), high)
            model.member("C", foot, head, "W8X31", "column", release_i=HINGE)
    for gy in (1, 2, 3):
        for a, b in zip(lines, lines[1:], strict=False):
            steps = [a, (a + b) / 2, b]
            for name in model.chain("D", [model.node(*plan(s, gy), high) for s in steps], "W14X30", "beam", ("", "")):
                model.line_loads.append((name, "D", 0.03))
    for gx in lines:
        for gy in (1, 2):
            name = model.member(
                "D", model.node(*plan(gx, gy), high), model.node(*plan(gx, gy + 1), high), "W12X26", "beam"
            )
            model.line_loads.append((name, "D", 0.03 + PLANT_DEAD * 7.5))
    for a, b in zip(lines, lines[1:], strict=False):
        for gy in (1, 2):
            mid = (a + b) / 2
            name = model.member(
                "D",
                model.node(*plan(mid, gy), high),
                model.node(*plan(mid, gy + 1), high),
                "W12X19",
                "beam",
                release_i=HINGE,
                release_j=TURNS,
            )
            model.line_loads.append((name, "D", 0.02 + PLANT_DEAD * 7.5))
            model.line_loads.append((name, "Lr", ROOF_LIVE * 7.5))


def lateral(model: Model) -> None:
    """Wind and seismic on each level, brought by the deck to the frames that resist them, in equal shares."""
    length, width = BAYS_X * BAY_X, BAYS_Y * BAY_Y
    for level in (2, 3, 4, 5):
        z = LEVELS[level]
        along = [model.node(*plan(gx, gy), z) for gy in (0, 2, BAYS_Y) for gx in range(BAYS_X + 1)]
        across = [model.node(*plan(gx, gy), z) for gx in (0, WING, BAYS_X) for gy in range(BAYS_Y + 1)]
        wind = (0.013 + 0.0001 * z) * (7.0 if level == 5 else 14.0)
        seismic = 0.030 * z / 15.0 * DEAD * length * width * (0.5 if level == 5 else 1.0) / 2.5
        for nodes, way, face, x in ((along, "FX", width, "X"), (across, "FY", length, "Y")):
            for node in nodes:
                model.node_loads.append((node, way, wind * face / len(nodes), f"W{x}+"))
                model.node_loads.append((node, way, -wind * face / len(nodes), f"W{x}-"))
                model.node_loads.append((node, way, seismic / len(nodes), f"E{x}"))


def foundations(model: Model) -> list[list[Any]]:
    """Pedestals inside and at the north, a mat with its edge along the south side, footings under the posts: node,
    kind, fc ksi, thickness and edges ft."""
    rows: list[list[Any]] = []
    for node in model.supports:
        _, y, _ = model.nodes[node]
        if y < -1.0:
            rows.append([node, "footing", 3, 1.5, 2.0, 2.0, 2.0, 2.0])
        elif y < 1.0:
            rows.append([node, "slab", 4, 4.0, "", "", 2.0, ""])
        else:
            rows.append([node, "pedestal", 4, 4.0, 2.0, 2.0, 2.0, 2.0])
    return rows


def grids() -> list[list[Any]]:
    """A to E along the building, with the kink where the wing turns; 1 to 7 across. ft."""
    ends = [(str(gx + 1), plan(gx, 0), plan(gx, BAYS_Y)) for gx in range(BAYS_X + 1)]
    for gy in range(BAYS_Y + 1):
        ends += [("ABCDE"[gy], plan(a, gy), plan(b, gy)) for a, b in ((0, WING), (WING, BAYS_X))]
    return [[name, *(f"{v:.4f}" for v in (*start, *end))] for name, start, end in ends]


def combinations() -> list[tuple[str, str, str, dict[str, float]]]:
    """(name, set, method, terms) by ASCE 7-22 2.3.1 and 2.3.6, and a service set."""
    wind, seismic = ("WX+", "WX-", "WY+", "WY-"), (("EX", 1), ("EX", -1), ("EY", 1), ("EY", -1))
    made = [
        ("1.4D", "strength", "LRFD", {"D": 1.4}),
        ("1.2D+1.6L+0.5Lr", "strength", "LRFD", {"D": 1.2, "L": 1.6, "Lr": 0.5}),
        ("1.2D+1.0L+1.6Lr", "strength", "LRFD", {"D": 1.2, "L": 1.0, "Lr": 1.6}),
    ]
    for w in wind:
        made += [
            (f"1.2D+1.6Lr+0.5{w}", "strength", "LRFD", {"D": 1.2, "Lr": 1.6, w: 0.5}),
            (f"1.2D+1.0L+0.5Lr+1.0{w}", "strength", "LRFD", {"D": 1.2, "L": 1.0, "Lr": 0.5, w: 1.0}),
            (f"0.9D+1.0{w}", "strength", "LRFD", {"D": 0.9, w: 1.0}),
        ]
    for case, sign in seismic:
        mark = f"{'+' if sign > 0 else '-'}1.0{case}"
        made += [
            (f"1.2D+Ev+1.0L{mark}", "strength", "LRFD", {"D": 1.2 + EV, "L": 1.0, case: sign}),
            (f"0.9D-Ev{mark}", "strength", "LRFD", {"D": 0.9 - EV, case: sign}),
        ]
    made += [
        ("S: D+L", "service", "none", {"D": 1.0, "L": 1.0}),
        ("S: D+Lr", "service", "none", {"D": 1.0, "Lr": 1.0}),
    ]
    made += [(f"S: D+0.5L+0.6{w}", "service", "none", {"D": 1.0, "L": 0.5, w: 0.6}) for w in wind]
    return made


def solve(model: Model) -> tuple[dict[str, dict[str, list[float]]], dict[str, dict[str, list[float]]]]:
    """(end forces on the members, reactions): {case: {id: values}}; kip, ft, local axes as docs/frame-bundle.md."""
    from Pynite import FEModel3D

    fe = FEModel3D()
    fe.add_material("steel", 29000 * 144, 11200 * 144, 0.3, 0.0)
    for name, (x, y, z) in model.nodes.items():
        fe.add_node(name, x, z, -y)  # the solver's Y is up
    for shape in sorted({m["section"] for m in model.members}):
        s, ft = section(shape), 12 * INCH
        fe.add_section(shape, s.A / ft**2, s.Iy / ft**4, s.Ix / ft**4, s.J / ft**4)
    for m in model.members:
        fe.add_member(m["member"], m["i"], m["j"], "steel", m["section"])
        released = [
            [name in m.get(key, "").split() for name in ("N", "Vy", "Vz", "T", "My", "Mz")]
            for key in ("release_i", "release_j")
        ]
        fe.def_releases(m["member"], *released[0], *released[1])
    for node, (ux, uy, uz, rx, ry, rz) in model.supports.items():
        fe.def_support(node, bool(ux), bool(uz), bool(uy), bool(rx), bool(rz), bool(ry))
    for name, case, load in model.line_loads:
        fe.add_member_dist_load(name, "FY", -load, -load, case=case)
    for node, way, load, case in model.node_loads:
        fe.add_node_load(node, {"FX": "FX", "FY": "FZ"}[way], load * (-1 if way == "FY" else 1), case)
    for case, _, _ in CASES:
        fe.add_load_combo(case, {case: 1.0})
    fe.analyze_linear()
    forces = {
        case: {m["member"]: _local(fe.members[m["member"]], case, model, m) for m in model.members}
        for case, _, _ in CASES
    }
    reactions = {
        case: {
            node: [n.RxnFX[case], -n.RxnFZ[case], n.RxnFY[case], n.RxnMX[case], -n.RxnMZ[case], n.RxnMY[case]]
            for node in model.supports
            for n in (fe.nodes[node],)
        }
        for case, _, _ in CASES
    }
    return forces, reactions


def _local(member: Any, case: str, model: Model, given: dict[str, Any]) -> list[float]:
    """The twelve end forces on the member; a vertical member's y is along +X here, -X in the solver."""
    f = [float(v) for v in member.f(case).ravel()]
    a, b = model.nodes[given["i"]], model.nodes[given["j"]]
    if math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6 and b[2] > a[2]:
        f = [v * (1 if k % 3 == 0 else -1) for k, v in enumerate(f)]
    return f


def write(model: Model, folder: Path, revision: str = "A", dated: str = "2026-10-05") -> None:
    """The bundle's files in `folder`."""
    folder.mkdir(parents=True, exist_ok=True)
    forces, reactions = solve(model)
    tables: dict[str, list[list[Any]]] = {
        "nodes": [["node", "x", "y", "z"]] + [[n, *(f"{v:.4f}" for v in xyz)] for n, xyz in model.nodes.items()],
        "members": (
            [["member", "i", "j", "section", "grade", "role", "release_i", "release_j"]]
            + [
                [
                    m["member"],
                    m["i"],
                    m["j"],
                    m["section"],
                    m["grade"],
                    m["role"],
                    m.get("release_i", ""),
                    m.get("release_j", ""),
                ]
                for m in model.members
            ]
        ),
        "supports": [["node", "ux", "uy", "uz", "rx", "ry", "rz"]] + [[n, *held] for n, held in model.supports.items()],
        "foundations": [
            ["node", "kind", "fc", "thickness", "edge_xm", "edge_xp", "edge_ym", "edge_yp"],
            *foundations(model),
        ],
        "grids": [["grid", "x1", "y1", "x2", "y2"], *grids()],
        "levels": [["level", "z"], *(["roof" if k == max(LEVELS) else k, z] for k, z in LEVELS.items())],
        "cases": [["case", "title", "nature", "kind"]] + [[*c, "linear"] for c in CASES],
        "combinations": (
            [["combination", "set", "method", "case", "factor"]]
            + [
                [name, set_, method, case, f"{factor:g}"]
                for name, set_, method, terms in combinations()
                for case, factor in terms.items()
            ]
        ),
        "end_forces": (
            [["member", "end", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz"]]
            + [
                row
                for case, of in forces.items()
                for name, f in of.items()
                for row in (_row(name, "i", case, f[:6], -1), _row(name, "j", case, f[6:], 1))
            ]
        ),
        "splices": [["member", "distance", "kind"], *([name, ft, "site"] for name, ft in model.splices)],
        "member_loads": (
            [["member", "case", "kind", "direction", "from", "to", "value"]]
            + [[name, case, "distributed", "Z", 0, "", f"{-load:.5g}"] for name, case, load in model.line_loads]
        ),
        "reactions": (
            [["node", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz"]]
            + [[node, case, *map(_figure, values)] for case, of in reactions.items() for node, values in of.items()]
        ),
        "node_loads": (
            [["node", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz"]]
            + [
                [n, case, *(_figure(load if way == k else 0) for k in ("FX", "FY")), 0, 0, 0, 0]
                for n, way, load, case in model.node_loads
            ]
        ),
    }
    for name, rows in tables.items():
        with (folder / f"{name}.csv").open("w", newline="", encoding="utf-8") as stream:
            csv.writer(stream, lineterminator="\n").writerows(rows)
    (folder / "datapackage.json").write_text(
        json.dumps(manifest(list(tables), revision, dated), indent=2) + "\n", encoding="utf-8"
    )


def _row(name: str, end: str, case: str, f: list[float], sign: int) -> list[Any]:
    return [name, end, case, *(_figure(sign * v) for v in f)]


def _figure(value: float) -> str:
    return f"{value:.5f}".rstrip("0").rstrip(".") if abs(value) >= 5e-6 else "0"


def manifest(tables: list[str], revision: str, dated: str) -> dict[str, Any]:
    return {
        "profile": "tabular-data-package",
        "name": "alder-street-library",
        "title": "Alder Street Library, steel frame",
        "handrail": {
            "bundle": 1,
            "revision": revision,
            "date": dated,
            "source": "made-up demo building, linear frame analysis",
            "units": {"length": "ft", "section": "in", "force": "kip", "moment": "kip*ft", "stress": "ksi"},
            "up": "Z",
            "forces": "internal",
            "forces_at": "node",
            "north": 12,
        },
        "resources": [{"name": name, "path": f"{name}.csv"} for name in tables],
    }


if __name__ == "__main__":
    write(build(), Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parent / "bundle")
