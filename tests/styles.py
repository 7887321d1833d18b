"""The demo building as six made-up programs would export it, unlike each other and unlike the demo's own exports: made
by script, read by nobody's map."""

from __future__ import annotations

import csv
import json
import sqlite3
from collections.abc import Callable, Iterable
from contextlib import closing
from pathlib import Path
from typing import Any

import xlsxwriter

from tests.bundles import DEMO

FT, KIP = 0.3048, 4.4482216152605
KIPFT = FT * KIP
SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
Rows = list[dict[str, str]]


def read(name: str) -> Rows:
    with (DEMO / f"bundle/{name}.csv").open(encoding="utf-8", newline="") as stream:
        return list(csv.DictReader(stream))


class Demo:
    """The demo's tables; `forces` by (member, result) and end, internal, kip and kip*ft."""

    def __init__(self) -> None:
        self.nodes, self.members, self.supports = read("nodes"), read("members"), read("supports")
        self.cases, self.reactions, self.loads = read("cases"), read("reactions"), read("node_loads")
        self.terms: dict[str, dict[str, str]] = {}
        self.kind: dict[str, tuple[str, str]] = {}
        for c in read("combinations"):
            self.terms.setdefault(c["combination"], {})[c["case"]] = c["factor"]
            self.kind[c["combination"]] = (c["set"], c["method"])
        self.forces: dict[tuple[str, str], dict[str, list[float]]] = {}
        for f in read("end_forces"):
            self.forces.setdefault((f["member"], f["result"]), {})[f["end"]] = [float(f[k]) for k in SIX]
        at = {n["node"]: [float(n[c]) for c in "xyz"] for n in self.nodes}
        self.length = {
            m["member"]: sum((a - b) ** 2 for a, b in zip(at[m["i"]], at[m["j"]])) ** 0.5 for m in self.members
        }
        self.results = list(dict.fromkeys(r for _, r in self.forces))


def six(values: Iterable[float], force: float = 1.0, moment: float = 1.0) -> list[float]:
    return [v * (force if k < 3 else moment) for k, v in enumerate(values)]


def paged(into: Path, demo: Demo) -> None:
    """One report of fixed width: pages with their heading, sections with titles, a rule and a row of units under the
    names, the member in its first row alone, a total behind each section; forces of the nodes on the members, kN and
    m."""
    into.mkdir(parents=True)
    out: list[str] = []
    page = [0]

    def heading() -> None:
        page[0] += 1
        out.extend(
            [
                f"ALDER STREET LIBRARY - FRAME REPORT              2026-10-05   Page {page[0]:4d}",
                "Made-up structures office",
                "",
            ]
        )

    def section(title: str, names: str, unit: str, rows: Iterable[str], word: str) -> None:
        heading()
        out.extend([title, ""])
        out.extend([names, unit, "-" * len(names)])
        count = 0
        for count, row in enumerate(rows, 1):
            if count % 50 == 0:
                out.append("")
                heading()
                out.extend([title, "", names, unit, "-" * len(names)])
            out.append(row)
        out.extend(["", f"Total {word}: {count}", ""])

    section(
        "POINTS OF THE FRAME",
        "Point            X           Y           Z",
        "                (m)         (m)         (m)",
        (
            f"{n['node']:<8}{float(n['x']) * FT:10.4f}  {float(n['y']) * FT:10.4f}  {float(n['z']) * FT:10.4f}"
            for n in demo.nodes
        ),
        "points",
    )

    def pieces() -> Iterable[str]:
        for m in demo.members:
            shape = (
                f"{m['section'][0]} {m['section'][1:].lower().replace('x', ' x ')}"
                if m["section"][0] == "W"
                else m["section"]
            )
            ends = f"{m['release_i'] or '-':<12}{m['release_j'] or '-':<12}"
            yield f"{m['member']:<9}{m['i']:<8}{m['j']:<8}{shape:<18}{m['grade']:<8}{ends}"

    section(
        "PIECES OF THE FRAME",
        "Bar      From    To      Shape             Steel   Release i   Release j   ",
        " " * 60,
        pieces(),
        "bars",
    )
    fixed = {n: "x" for n in ("1",)}
    section(
        "SUPPORTED POINTS",
        "Point     UX    UY    UZ    RX    RY    RZ",
        "",
        (
            f"{s['node']:<8}" + "".join(f"{fixed.get(s[k], '-'):>4}  " for k in ("ux", "uy", "uz", "rx", "ry", "rz"))
            for s in demo.supports
        ),
        "supports",
    )
    section(
        "LOAD CASES",
        "Case    Category    Description",
        "",
        (f"{c['case']:<8}{c['nature'].replace('_', ' '):<12}{c['title']}" for c in demo.cases),
        "cases",
    )

    def forces() -> Iterable[str]:
        for m in demo.members:
            first = True
            for result in demo.results:
                both = demo.forces.get((m["member"], result))
                for end in "ij" if both else "":
                    sign = -1.0 if end == "i" else 1.0
                    values = [sign * v for v in six(both[end], KIP, KIPFT)]
                    name = m["member"] if first else ""
                    first = False
                    yield f"{name:<9}{result:<6}{end:<4}" + "".join(f"{v:12.3f}" for v in values)

    section(
        "FORCES AT THE ENDS OF BARS",
        "Bar      Case  End           Fx          Fy          Fz          Mx          My          Mz",
        "                           (kN)        (kN)        (kN)       (kNm)       (kNm)       (kNm)",
        forces(),
        "rows",
    )
    section(
        "REACTIONS",
        "Point   Case            Fx          Fy          Fz          Mx          My          Mz",
        "                      (kN)        (kN)        (kN)       (kNm)       (kNm)       (kNm)",
        (
            f"{r['node']:<8}{r['result']:<6}"
            + "".join(f"{v:12.3f}" for v in six((float(r[k]) for k in SIX), KIP, KIPFT))
            for r in demo.reactions
        ),
        "rows",
    )
    section(
        "LOADS ON POINTS",
        "Point   Case            Fx          Fy          Fz          Mx          My          Mz",
        "                      (kN)        (kN)        (kN)       (kNm)       (kNm)       (kNm)",
        (
            f"{r['node']:<8}{r['result']:<6}"
            + "".join(f"{v:12.3f}" for v in six((float(r[k]) for k in SIX), KIP, KIPFT))
            for r in demo.loads
        ),
        "rows",
    )
    section(
        "COMBINATIONS",
        "Combination                     Kind           Method  Formula",
        "",
        (
            f"{name:<32}{kind:<15}{method:<8}{' + '.join(f'{f}*{c}' for c, f in demo.terms[name].items())}"
            for name, (kind, method) in demo.kind.items()
        ),
        "",
    )
    (into / "frame report.out").write_text("\n".join(out) + "\n", encoding="utf-8")


def wide(into: Path, demo: Demo) -> None:
    """A lone workbook: a title block on each sheet, a column group a case under merged names, a row of units, feet and
    kip; compression positive, shears and moments within the member."""
    into.mkdir(parents=True)
    book = xlsxwriter.Workbook(str(into / "Alder Street frame.xlsx"))

    def sheet(name: str, heads: list[list[str]], rows: Iterable[Iterable[Any]]) -> None:
        page = book.add_worksheet(name)
        page.write_row(0, 0, ["Alder Street Library"])
        page.write_row(1, 0, ["issued for steelwork"])
        for k, row in enumerate([*heads, *map(list, rows)]):
            page.write_row(3 + k, 0, row)

    sheet(
        "Joint list",
        [["Joint", "Coordinates", "", "", "Floor"], ["", "X", "Y", "Z", ""], ["", "ft", "ft", "ft", ""]],
        ((n["node"], float(n["x"]), float(n["y"]), float(n["z"]), "") for n in demo.nodes),
    )

    def fraction(name: str) -> str:
        return name.replace("X", "×").replace("1/2", "½").replace("3/8", "⅜").replace("1/4", "¼").replace("5/8", "⅝")

    names = {"N": "axial", "Vy": "shear y", "Vz": "shear z", "T": "torsion", "My": "moment y", "Mz": "moment z"}
    sheet(
        "Element list",
        [
            [
                "Element",
                "Start joint",
                "End joint",
                "Size",
                "Material",
                *(f"{w} release, start" for w in names.values()),
                *(f"{w} release, end" for w in names.values()),
            ]
        ],
        (
            (
                m["member"],
                m["i"],
                m["j"],
                fraction(m["section"]),
                f"ASTM {m['grade']}",
                *("free" if n in m["release_i"].split() else "" for n in names),
                *("free" if n in m["release_j"].split() else "" for n in names),
            )
            for m in demo.members
        ),
    )
    sheet(
        "Restraints",
        [["Joint", *("Trans X", "Trans Y", "Trans Z", "Rot X", "Rot Y", "Rot Z")]],
        (
            (s["node"], *("fixed" if s[k] == "1" else "free" for k in ("ux", "uy", "uz", "rx", "ry", "rz")))
            for s in demo.supports
        ),
    )
    sheet(
        "Load cases",
        [["Load case", "Type", "Description"]],
        ((c["case"], c["nature"].replace("_", " ").title(), c["title"]) for c in demo.cases),
    )
    sheet(
        "Load combinations",
        [["Combination", "State", "Design by", *(c["case"] for c in demo.cases)]],
        (
            (
                name,
                kind,
                method,
                *(float(demo.terms[name][c["case"]]) if c["case"] in demo.terms[name] else "" for c in demo.cases),
            )
            for name, (kind, method) in demo.kind.items()
        ),
    )
    parts = ("Axial", "Shear y", "Shear z", "Torsion", "Moment y", "Moment z")
    top = ["Element", "End", *(x for r in demo.results for x in (r, "", "", "", "", ""))]
    unit = ["", "", *(("kip",) * 3 + ("kip-ft",) * 3) * len(demo.results)]

    def rows() -> Iterable[list[Any]]:
        for m in demo.members:
            for end, word in (("i", "Start"), ("j", "End")):
                line: list[Any] = [m["member"], word]
                for result in demo.results:
                    both = demo.forces.get((m["member"], result))
                    values = both[end] if both else [""] * 6
                    line += [-values[0], *values[1:]] if both else values
                yield line

    sheet("Element forces", [top, ["", "", *parts * len(demo.results)], unit], rows())
    sheet(
        "Support reactions",
        [["Joint", "Load case", *("RX", "RY", "RZ", "MX", "MY", "MZ")], ["", "", *("kip",) * 3, *("kip-ft",) * 3]],
        ((r["node"], r["result"], *(float(r[k]) for k in SIX)) for r in demo.reactions),
    )
    sheet(
        "Joint loads",
        [["Joint", "Load case", *("FX", "FY", "FZ", "MX", "MY", "MZ")], ["", "", *("kip",) * 3, *("kip-ft",) * 3]],
        ((r["node"], r["result"], *(float(r[k]) for k in SIX)) for r in demo.loads),
    )
    book.close()


def german(into: Path, demo: Demo) -> None:
    """Semicolons, decimal commas and thousands points, UTF-16, German headings; a file a case with rows along the
    members, materials and hinges by number, the web along local z."""
    into.mkdir(parents=True)

    def number(value: float, digits: int = 3) -> str:
        return f"{value:,.{digits}f}".replace(",", "'").replace(".", ",").replace("'", ".")

    def write(name: str, columns: list[str], rows: Iterable[Iterable[Any]]) -> None:
        lines = ["Bibliothek Alder Street", *(";".join(map(str, row)) for row in [columns, *rows])]
        (into / f"{name}.csv").write_text("\r\n".join(lines) + "\r\n", encoding="utf-16", newline="")

    write(
        "Knoten",
        ["Knoten Nr.", "X [mm]", "Y [mm]", "Z [mm]"],
        ((n["node"], *(number(float(n[c]) * FT * 1000, 1) for c in "xyz")) for n in demo.nodes),
    )
    grades = {g: str(k) for k, g in enumerate(dict.fromkeys(m["grade"] for m in demo.members), 1)}
    hinges = {
        h: str(k)
        for k, h in enumerate(dict.fromkeys(r for m in demo.members for r in (m["release_i"], m["release_j"]) if r), 1)
    }
    write("Werkstoffe", ["Nr.", "Bezeichnung", "E-Modul [MPa]"], ((k, g, "200.000") for g, k in grades.items()))
    write(
        "Gelenke",
        ["Gelenk Nr.", "N", "Vy", "Vz", "MT", "My", "Mz"],
        (
            (k, *("ja" if n in h.split() else "nein" for n in ("N", "Vz", "Vy", "T", "Mz", "My")))
            for h, k in hinges.items()
        ),
    )
    write(
        "Stäbe",
        ["Stab Nr.", "Anfangsknoten", "Endknoten", "Querschnitt", "Werkstoff Nr.", "Gelenk Anfang", "Gelenk Ende"],
        (
            (
                m["member"],
                m["i"],
                m["j"],
                m["section"],
                grades[m["grade"]],
                *(hinges.get(m[f"release_{e}"], "") for e in "ij"),
            )
            for m in demo.members
        ),
    )
    write(
        "Auflager",
        ["Knoten Nr.", "uX", "uY", "uZ", "phi X", "phi Y", "phi Z"],
        (
            (s["node"], *("fest" if s[k] == "1" else "frei" for k in ("ux", "uy", "uz", "rx", "ry", "rz")))
            for s in demo.supports
        ),
    )
    natures = {
        "dead": "Eigengewicht",
        "live": "Nutzlast",
        "roof_live": "Dach",
        "wind": "Wind",
        "seismic": "Erdbeben",
        "snow": "Schnee",
    }
    write(
        "Lastfälle",
        ["LF", "Einwirkung", "Bezeichnung"],
        ((c["case"], natures[c["nature"]], c["title"]) for c in demo.cases),
    )
    kinds = {"strength": "Tragfähigkeit", "service": "Gebrauch", "overstrength": "Overstrength"}
    write(
        "Kombinationen",
        ["Lastkombination", "Lastfall", "Faktor", "Grenzzustand", "Verfahren"],
        (
            (name, case, f.replace(".", ","), kinds[demo.kind[name][0]], demo.kind[name][1])
            for name, own in demo.terms.items()
            for case, f in own.items()
        ),
    )
    for result in demo.results:
        rows = []
        for m in demo.members:
            both = demo.forces.get((m["member"], result))
            if both is None:
                continue
            i, j = (six(both[e], KIP, KIPFT) for e in "ij")
            middle = [(a + b) / 2 for a, b in zip(i, j)]
            for share, v in ((0.0, i), (0.5, middle), (1.0, j)):
                at = demo.length[m["member"]] * FT * share
                rows.append((m["member"], number(at, 4), *(number(x) for x in (v[0], v[2], v[1], v[3], v[5], v[4]))))
        write(
            f"Schnittgrößen {result}",
            ["Stab Nr.", "Stelle x [m]", "N [kN]", "Vy [kN]", "Vz [kN]", "MT [kNm]", "My [kNm]", "Mz [kNm]"],
            rows,
        )
    for name, given in (("Auflagerkräfte", demo.reactions), ("Knotenlasten", demo.loads)):
        write(
            name,
            ["Knoten Nr.", "LF", "PX [kN]", "PY [kN]", "PZ [kN]", "MX [kNm]", "MY [kNm]", "MZ [kNm]"],
            (
                (r["node"], r["result"], *(number(v) for v in six((float(r[k]) for k in SIX), KIP, KIPFT)))
                for r in given
            ),
        )


def nested(into: Path, demo: Demo) -> None:
    """A dump in JSON: what belongs to a member inside it, Y up, N and m, forces of the nodes on the members."""
    into.mkdir(parents=True)

    def turned(values: Iterable[float]) -> list[float]:
        x, y, z, a, b, c = values
        return [x, z, -y, a, c, -b]

    def ends(member: str) -> list[dict[str, Any]]:
        found = []
        for result in demo.results:
            both = demo.forces.get((member, result))
            if both:
                i, j = ([round(v, 1) for v in six(both[e], KIP * 1000, KIPFT * 1000)] for e in "ij")
                found.append(
                    {
                        "case": result,
                        **{f"{n}_i": -v for n, v in zip(("N", "Vy", "Vz", "T", "My", "Mz"), i)},
                        **{f"{n}_j": v for n, v in zip(("N", "Vy", "Vz", "T", "My", "Mz"), j)},
                    }
                )
        return found

    held = {s["node"]: s for s in demo.supports}
    data = {
        "project": {"name": "Alder Street Library", "units": "N, m"},
        "joints": {
            n["node"]: {"x": float(n["x"]) * FT, "y": float(n["z"]) * FT, "z": -float(n["y"]) * FT} for n in demo.nodes
        },
        "supports": [
            {
                "joint": n,
                "ux": bool(int(s["ux"])),
                "uy": bool(int(s["uz"])),
                "uz": bool(int(s["uy"])),
                "rx": bool(int(s["rx"])),
                "ry": bool(int(s["rz"])),
                "rz": bool(int(s["ry"])),
            }
            for n, s in held.items()
        ],
        "cases": [{"id": c["case"], "nature": c["nature"], "title": c["title"]} for c in demo.cases],
        "combinations": [
            {
                "name": name,
                "state": kind,
                "method": method,
                "terms": [{"case": c, "factor": float(f)} for c, f in demo.terms[name].items()],
            }
            for name, (kind, method) in demo.kind.items()
        ],
        "elements": [
            {
                "id": m["member"],
                "nodes": {"start": m["i"], "end": m["j"]},
                "section": m["section"],
                "material": m["grade"],
                "releases": {"start": m["release_i"], "end": m["release_j"]},
                "forces": ends(m["member"]),
            }
            for m in demo.members
        ],
        "reactions": [
            {
                "joint": r["node"],
                "case": r["result"],
                **dict(
                    zip(
                        ("Fx", "Fy", "Fz", "Mx", "My", "Mz"),
                        turned(six((float(r[k]) for k in SIX), KIP * 1000, KIPFT * 1000)),
                    )
                ),
            }
            for r in demo.reactions
        ],
        "joint loads": [
            {
                "joint": r["node"],
                "case": r["result"],
                **dict(
                    zip(
                        ("Fx", "Fy", "Fz", "Mx", "My", "Mz"),
                        turned(six((float(r[k]) for k in SIX), KIP * 1000, KIPFT * 1000)),
                    )
                ),
            }
            for r in demo.loads
        ],
    }
    (into / "frame.json").write_text(json.dumps(data), encoding="utf-8")


def dumped(into: Path, demo: Demo) -> None:
    """An SQLite file: everything by number, a row a component, sections and materials in tables of their own, N and mm;
    moments the other way round."""
    into.mkdir(parents=True)
    with closing(sqlite3.connect(into / "model.sqlite")) as base:

        def table(name: str, columns: str, rows: Iterable[Iterable[Any]]) -> None:
            base.execute(f'create table "{name}" ({columns})')
            base.executemany(
                f'insert into "{name}" values ({", ".join("?" * len(columns.split(",")))})', [tuple(r) for r in rows]
            )

        shapes = {s: k for k, s in enumerate(dict.fromkeys(m["section"] for m in demo.members), 1)}
        steels = {s: k for k, s in enumerate(dict.fromkeys(m["grade"] for m in demo.members), 1)}
        table(
            "node",
            "node_id, x_mm, y_mm, z_mm",
            ((n["node"], *(round(float(n[c]) * FT * 1000, 3) for c in "xyz")) for n in demo.nodes),
        )
        table("section", "id, name, area", ((k, s, 0.0) for s, k in shapes.items()))
        table("material", "id, name", ((k, s) for s, k in steels.items()))
        table(
            "member",
            "member_id, node_1, node_2, section_id, material_id, release_i, release_j",
            (
                (m["member"], m["i"], m["j"], shapes[m["section"]], steels[m["grade"]], m["release_i"], m["release_j"])
                for m in demo.members
            ),
        )
        table(
            "support",
            "node_id, ux, uy, uz, rx, ry, rz",
            ((s["node"], *(int(s[k]) for k in ("ux", "uy", "uz", "rx", "ry", "rz"))) for s in demo.supports),
        )
        table("load_case", "case_id, category, name", ((c["case"], c["nature"], c["title"]) for c in demo.cases))
        table(
            "combination",
            "combination, kind, method, case_id, factor",
            ((name, *demo.kind[name], c, float(f)) for name, own in demo.terms.items() for c, f in own.items()),
        )
        parts = ("N", "Vy", "Vz", "Mx", "My", "Mz")
        signs = (1, 1, 1, -1, -1, -1)
        table(
            "member_force",
            "member_id, end_no, case_id, component, value",
            (
                (m, end, r, p, round(s * v, 2))
                for (m, r), both in demo.forces.items()
                for end, e in ((1, "i"), (2, "j"))
                for p, s, v in zip(parts, signs, six(both[e], KIP * 1000, KIPFT * 1e6))
            ),
        )
        for name, given in (("reaction", demo.reactions), ("node_load", demo.loads)):
            table(
                name,
                "node_id, case_id, component, value",
                (
                    (r["node"], r["result"], p, round(v, 2))
                    for r in given
                    for p, v in zip(
                        ("Fx", "Fy", "Fz", "Mx", "My", "Mz"), six((float(r[k]) for k in SIX), KIP * 1000, KIPFT * 1e6)
                    )
                ),
            )
        table("unit", "quantity, unit", [("unit of length", "mm"), ("unit of force", "N"), ("unit of moment", "Nmm")])
        base.commit()


def french(into: Path, demo: Demo) -> None:
    """Tabs, old line ends, Latin letters; French headings, a file an end with cases down and components across and a
    total behind, combinations across, envelopes among the results, reactions as the frame's on its supports,
    compression positive."""
    into.mkdir(parents=True)

    def write(name: str, columns: list[str], rows: Iterable[Iterable[Any]], total: str = "") -> None:
        lines = ["\t".join(map(str, row)) for row in [columns, *rows]]
        text = "Bibliothèque Alder Street (unités : kN, m)\r" + "\r".join([*lines, *([total] if total else [])]) + "\r"
        (into / f"{name}.txt").write_bytes(text.encode("cp1252"))

    write(
        "noeuds",
        ["Noeud", "X", "Y", "Z"],
        ((n["node"], *(f"{float(n[c]) * FT:.4f}" for c in "xyz")) for n in demo.nodes),
        f"Total\t{len(demo.nodes)}",
    )
    write(
        "barres",
        ["Barre", "Noeud début", "Noeud fin", "Profilé", "Acier", "Relâchement début", "Relâchement fin"],
        (
            (
                m["member"],
                m["i"],
                m["j"],
                m["section"],
                m["grade"],
                m["release_i"] or "aucun",
                m["release_j"] or "aucun",
            )
            for m in demo.members
        ),
    )
    write(
        "appuis",
        ["Noeud", "UX", "UY", "UZ", "RX", "RY", "RZ"],
        (
            (s["node"], *("oui" if s[k] == "1" else "non" for k in ("ux", "uy", "uz", "rx", "ry", "rz")))
            for s in demo.supports
        ),
    )
    natures = {
        "dead": "permanente",
        "live": "exploitation",
        "roof_live": "toiture",
        "wind": "vent",
        "seismic": "séisme",
        "snow": "neige",
    }
    write("cas", ["Cas", "Nature", "Libellé"], ((c["case"], natures[c["nature"]], c["title"]) for c in demo.cases))
    kinds = {"strength": "ELU", "service": "ELS", "overstrength": "ELU overstrength"}
    names = list(demo.terms)
    write(
        "combinaisons",
        ["Cas", *names],
        ((c["case"], *(demo.terms[n].get(c["case"], "") for n in names)) for c in demo.cases),
    )
    write(
        "liste des combinaisons",
        ["Combinaison", "Situation", "Méthode"],
        ((n, kinds[demo.kind[n][0]], demo.kind[n][1]) for n in names),
    )
    for end, word in (("i", "début"), ("j", "fin")):
        rows = []
        for m in demo.members:
            own = [(r, demo.forces[m["member"], r][end]) for r in demo.results if (m["member"], r) in demo.forces]
            for result, values in own:
                v = six(values, KIP, KIPFT)
                rows.append((m["member"], result, *(f"{x:.3f}" for x in (-v[0], *v[1:]))))
            most = [max((abs(v[k]) for _, v in own), default=0.0) * (KIP if k < 3 else KIPFT) for k in range(6)]
            rows.append((m["member"], "Enveloppe max", *(f"{x:.3f}" for x in most)))
        write(f"efforts {word}", ["Barre", "Cas", "N", "Ty", "Tz", "Mx", "My", "Mz"], rows, "Fin du tableau")
    write(
        "réactions",
        ["Noeud", "Cas", "Rx", "Ry", "Rz", "Mx", "My", "Mz"],
        (
            (r["node"], r["result"], *(f"{-v:.3f}" for v in six((float(r[k]) for k in SIX), KIP, KIPFT)))
            for r in demo.reactions
        ),
    )
    write(
        "charges nodales",
        ["Noeud", "Cas", "Fx", "Fy", "Fz", "Mx", "My", "Mz"],
        (
            (r["node"], r["result"], *(f"{v:.3f}" for v in six((float(r[k]) for k in SIX), KIP, KIPFT)))
            for r in demo.loads
        ),
    )


STYLES: dict[str, Callable[[Path, Demo], None]] = {
    "paged": paged,
    "wide": wide,
    "german": german,
    "nested": nested,
    "dumped": dumped,
    "french": french,
}
