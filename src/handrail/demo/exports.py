"""Makes the demo's exports: the same building as an awkward folder of another program's tables, to be read through its
column map.

Run by `make demo-bundle`. Metric, semicolons and decimal commas, titles above the names of columns, moments about axes
of other names and signs, columns that stand another way round, forces by rows along the members, releases as yes and
no, combinations in one row each."""

from __future__ import annotations

import csv
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from handrail.core.quantities import units
from handrail.core.quantities.units import FOOT

HERE = Path(__file__).parent
FT, KIP = FOOT / 1000, units.KIP / 1000  # m, kN
KIPFT, KSI = KIP * FT, units.KSI
Rows = list[dict[str, str]]
RELEASED = ("Thrust", "Web shear", "Side shear", "Twist", "Web bending", "Side bending")
FIXED = ("1", "1", "1", "1", "1", "1")


def read(name: str) -> Rows:
    with (HERE / f"bundle/{name}.csv").open(encoding="utf-8", newline="") as stream:
        return list(csv.DictReader(stream))


def write(name: str, title: str, columns: Iterable[str], rows: Iterable[Iterable[Any]]) -> None:
    """Semicolons, two lines of title, Windows line ends."""
    with (HERE / f"exports/{name}").open("w", encoding="utf-8", newline="") as stream:
        stream.write(f"{title}\r\nAlder Street Library - units kN, m, C\r\n")
        out = csv.writer(stream, delimiter=";", lineterminator="\r\n")
        out.writerow(columns)
        out.writerows(rows)


def number(value: float, digits: int = 6) -> str:
    """With a decimal comma, no more digits than it needs."""
    return f"{value:.{digits}g}".replace(".", ",")


def scaled(text: str, by: float, digits: int = 6) -> str:
    return number(float(text) * by, digits)


def main() -> None:
    (HERE / "exports").mkdir(exist_ok=True)
    nodes, members = read("nodes"), read("members")
    write(
        "Points.csv",
        "Point coordinates",
        ("Point", "East", "North", "Height", "Floor"),
        ((n["node"], *(scaled(n[c], FT, 9) for c in "xyz"), "") for n in nodes),
    )
    _members(members)
    _supports()
    natures = {
        "dead": "Dead",
        "live": "Imposed",
        "roof_live": "Roof",
        "wind": "Wind",
        "seismic": "Quake",
        "snow": "Snow",
    }
    write(
        "Load cases.csv",
        "Load cases",
        ("Case", "Words", "Nature", "Analysis"),
        ((c["case"], c["title"], natures[c["nature"]], "Linear static") for c in read("cases")),
    )
    _combinations()
    ends = {m["member"]: (m["i"], m["j"]) for m in members}
    _forces(ends, {n["node"]: [float(n[c]) * FT for c in "xyz"] for n in nodes})
    _at_nodes()
    write(
        "Grid.csv",
        "Grid lines",
        ("Line", "From east", "From north", "To east", "To north"),
        ((g["grid"], *(scaled(g[c], FT, 9) for c in ("x1", "y1", "x2", "y2"))) for g in read("grids")),
    )
    write(
        "Floors.csv",
        "Floors",
        ("Floor", "Height"),
        ((level["level"], scaled(level["z"], FT, 9)) for level in read("levels")),
    )
    _foundations()
    _along()


def _members(members: Rows) -> None:
    kinds = {"beam": "Girder", "column": "Post", "brace": "Diagonal"}

    def released(text: str) -> tuple[str, ...]:
        names = text.split()
        return tuple("Yes" if one in names else "No" for one in ("N", "Vy", "Vz", "T", "Mz", "My"))

    columns = (
        "Bar",
        "Start",
        "End",
        "Profile",
        "Material",
        "Kind",
        *(f"{one} at {end}" for end in ("start", "end") for one in RELEASED),
    )
    rows = (
        (
            m["member"],
            m["i"],
            m["j"],
            m["section"].lower(),
            f"Steel {m['grade']}",
            kinds[m["role"]],
            *released(m["release_i"]),
            *released(m["release_j"]),
        )
        for m in members
    )
    write("Bars.csv", "Bars", columns, rows)


def _supports() -> None:
    names: dict[tuple[str, ...], str] = {FIXED: "Clamped"}
    rows = []
    for s in read("supports"):
        held = tuple(s[c] for c in ("ux", "uy", "uz", "rx", "ry", "rz"))
        rows.append((s["node"], names.get(held, "Hinged"), "yes" if held[5] == "1" else "no"))
    write("Supports.csv", "Supports", ("Point", "Support", "Twist held"), rows)


def _combinations() -> None:
    cases = [c["case"] for c in read("cases")]
    table: dict[str, dict[str, str]] = {}
    kinds = {"strength": "Ultimate", "service": "Service", "overstrength": "Ultimate with overstrength"}
    for c in read("combinations"):
        table.setdefault(c["combination"], {"kind": kinds[c["set"]], "by": c["method"]})[c["case"]] = c["factor"]
    rows = (
        (
            name,
            own["kind"],
            {"LRFD": "factored", "ASD": "allowable", "none": "-"}[own["by"]],
            *(own.get(c, "").replace(".", ",") for c in cases),
        )
        for name, own in table.items()
    )
    write("Combinations.csv", "Combinations", ("Combination", "Kind", "Design", *(f"x {c}" for c in cases)), rows)


def _forces(ends: dict[str, tuple[str, str]], at: dict[str, list[float]]) -> None:
    """By rows along the bars: at the start and at the end. The program takes compression as positive, and
    side shear and bending in the web's plane the other way round; it names results in two columns."""
    by: dict[tuple[str, str], dict[str, dict[str, str]]] = {}
    for f in read("end_forces"):
        by.setdefault((f["member"], f["result"]), {})[f["end"]] = f

    def forces(f: dict[str, str]) -> list[str]:
        return [
            scaled(f["Fx"], -KIP, 8),
            scaled(f["Fz"], -KIP, 8),
            scaled(f["Fy"], KIP, 8),
            scaled(f["Mx"], KIPFT, 8),
            scaled(f["Mz"], -KIPFT, 8),
            scaled(f["My"], KIPFT, 8),
        ]

    def rows() -> Iterable[list[str]]:
        for (member, result), own in by.items():
            i, j = (at[n] for n in ends[member])
            long = sum((a - b) ** 2 for a, b in zip(i, j)) ** 0.5
            stem, sense = result.rstrip("+-"), result[len(result.rstrip("+-")) :]
            for where, f in ((long, own["j"]), (0.0, own["i"])):  # the far end first
                yield [member, number(where, 9), stem, {"+": "plus", "-": "minus", "": ""}[sense], *forces(f)]

    columns = (
        "Bar",
        "At",
        "Case",
        "Sense",
        "Thrust",
        "Side shear",
        "Web shear",
        "Twist",
        "Web bending",
        "Side bending",
    )
    write("Bar forces.csv", "Forces along bars", columns, rows())


def _at_nodes() -> None:
    def six(f: dict[str, str], sign: float) -> list[str]:
        return [scaled(f[c], sign * (KIP if c[0] == "F" else KIPFT), 8) for c in ("Fx", "Fy", "Fz", "Mx", "My", "Mz")]

    columns = ("Point", "Case", "X", "Y", "Z", "about X", "about Y", "about Z")
    write(
        "Support forces.csv",
        "Forces on supports",
        columns,
        ((r["node"], r["result"], *six(r, -1.0)) for r in read("reactions")),
    )
    write(
        "Point loads.csv",
        "Loads on points",
        columns,
        ((r["node"], r["result"], *six(r, 1.0)) for r in read("node_loads")),
    )


def _foundations() -> None:
    def edge(text: str) -> str:
        return scaled(text, FT * 1000, 9) if text else "-"

    rows = (
        (
            f["node"],
            {"pedestal": "Pier", "slab": "Mat", "footing": "Pad"}[f["kind"]],
            scaled(f["fc"], KSI, 9),
            scaled(f["thickness"], FT * 1000, 9),
            *(edge(f[f"edge_{side}"]) for side in ("xm", "xp", "ym", "yp")),
        )
        for f in read("foundations")
    )
    write(
        "Concrete.csv",
        "Concrete under supports",
        ("Point", "Kind", "Strength MPa", "Thick mm", "West mm", "East mm", "South mm", "North mm"),
        rows,
    )


def _along() -> None:
    write(
        "Splices.csv",
        "Splices",
        ("Bar", "From start", "What"),
        ((s["member"], scaled(s["distance"], FT, 9), s["kind"]) for s in read("splices")),
    )
    towards = {"Z": "Height", "X": "East", "Y": "North"}
    rows = (
        (
            r["member"],
            r["case"],
            "Line",
            towards[r["direction"]],
            scaled(r["from"], FT, 9),
            scaled(r["to"], FT, 9) if r["to"] else "",
            scaled(r["value"], KIP / FT, 9),
        )
        for r in read("member_loads")
    )
    write("Bar loads.csv", "Loads on bars", ("Bar", "Case", "Kind", "Towards", "From", "To", "Size"), rows)


if __name__ == "__main__":
    main()
