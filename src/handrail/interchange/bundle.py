"""Reads a frame bundle into a Building; see docs/frame-bundle.md."""

from __future__ import annotations

import difflib
import gc
import math
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path

import numpy as np
import polars as pl

from handrail.core import catalogue
from handrail.core.building.model import (
    RELEASES,
    Building,
    Case,
    Combination,
    Foundation,
    GridLine,
    Level,
    Member,
    NodeForces,
    upright,
)
from handrail.core.building.placing import Piece, placed
from handrail.core.catalogue import Section
from handrail.core.catalogue.sections import OPEN
from handrail.core.errors import UnknownName
from handrail.core.quantities import units
from handrail.interchange.archive import MANIFEST, opened
from handrail.interchange.end_forces import ForceRows, read_end_forces, stream_end_forces
from handrail.interchange.manifest import MAY_BE, UNIT_KINDS, VERTICAL_Y, north_of, read_manifest, unlisted
from handrail.interchange.problems import Problems
from handrail.interchange.splices import Along, cut
from handrail.interchange.tables import MOST_BYTES, MOST_ROWS, TABLES, Row, count_lines, read_table

SETS = ("strength", "service", "overstrength")
MOST_MEMBERS = 500_000
LONGEST = 1e6  # mm of a member; beyond it a unit is wrong
STREAMED = ("end_forces", "stations")


def read_bundle(path: Path, stream: ForceRows | None = None) -> Building:
    """The building in a bundle (folder or zip). Raises BundleError with everything that is wrong. End forces are read
    from `stream` where there is one, and its table of them has none; then PolarsError is raised where its rows are not
    all as they should be."""
    with opened(Path(path)) as folder, _without_collecting():
        return _read(folder, stream)


@contextmanager
def _without_collecting() -> Iterator[None]:
    """No search for rings among objects meanwhile: rows are made by the hundred thousand and none refers back."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()


def _read(folder: Path, stream: ForceRows | None) -> Building:
    problems = Problems()
    manifest, files = read_manifest(folder, problems)
    problems.raise_any()
    hand = manifest["handrail"]
    if "foundations" in files and "stress" not in hand["units"]:
        problems.add(MANIFEST, "handrail.units.stress is missing; foundations need it, like ksi")
    problems.raise_any()
    scale = {
        name: units.factor(hand["units"][name], kind)
        for name, kind in (UNIT_KINDS | MAY_BE).items()
        if name in hand["units"]
    } | {"angle": math.pi / 180}
    tables = {
        name: read_table(TABLES[name], path, problems, scale)
        for name, path in files.items()
        if name in TABLES and name not in STREAMED
    }
    _references(tables, files, problems)
    nodes = {row["node"]: k for k, row in enumerate(tables["nodes"])}
    xyz = np.array([[row["x"], row["y"], row["z"]] for row in tables["nodes"]], dtype=float).reshape(-1, 3)
    if hand["up"] == "Y":
        xyz = np.stack([xyz[:, 0], -xyz[:, 2], xyz[:, 1]], axis=1)
    _rolled(tables["members"], nodes, xyz, VERTICAL_Y[hand["up"]][hand.get("vertical_y", "X")])
    own = {row["designation"] for row in tables.get("sections", [])}
    members = _members(tables["members"], nodes, xyz, own, files["members"].name, problems)
    cases = tuple(Case(r["case"], r["title"] or r["case"], r["nature"], r["kind"] or "linear") for r in tables["cases"])
    combinations = _combinations(tables["combinations"], files["combinations"].name, problems)
    names = list(dict.fromkeys([c.name for c in cases] + [c.name for c in combinations]))
    own_sections = _own_sections(
        tables.get("sections", []), files["sections"].name if "sections" in files else "", problems
    )
    foundations = _foundations(
        tables.get("foundations", []),
        nodes,
        hand["up"],
        files["foundations"].name if "foundations" in files else "",
        problems,
    )
    grids = _grids(tables.get("grids", []), hand["up"], files["grids"].name if "grids" in files else "", problems)
    six = np.array([scale["force"]] * 3 + [scale["moment"]] * 3)
    problems.raise_any()
    own_names = [m.name for m in members]
    if stream is None:
        results, forces = read_end_forces(files["end_forces"], own_names, names, six, problems)
    else:
        results, forces = stream_end_forces(stream, own_names, names, six)
        lengths = {m.name: math.dist(xyz[m.i], xyz[m.j]) / scale["length"] for m in members}
        stream.stations(lengths).write_csv(folder / "stations.csv")  # in a folder that was made for it
    problems.raise_any()
    if "stations" in files:
        tables["stations"] = _stations(
            files["stations"], {r["member"] for r in tables.get("splices", [])}, scale, problems
        )
        _references(tables, files, problems)
        problems.raise_any()
    if hand["forces"] == "internal":
        forces[:, :, 0] *= -1.0
    building = Building(
        name=str(manifest.get("name") or folder.name),
        title=str(manifest.get("title") or manifest.get("name") or folder.name),
        revision=str(hand.get("revision", "")),
        date=str(hand.get("date", "")),
        source=str(hand.get("source", "")),
        units=dict(hand["units"]),
        nodes=tuple(nodes),
        xyz=xyz,
        members=members,
        supports={
            nodes[r["node"]]: tuple(r[n] for n in ("ux", "uy", "uz", "rx", "ry", "rz"))
            for r in _turned_supports(tables["supports"], hand["up"])
        },
        cases=cases,
        combinations=combinations,
        results=results,
        forces=forces,
        reactions=_node_forces(tables.get("reactions", []), nodes, results, hand["up"]),
        node_loads=_node_forces(tables.get("node_loads", []), nodes, results, hand["up"]),
        own_sections=own_sections,
        diaphragms={nodes[r["node"]]: r["diaphragm"] for r in tables["nodes"] if r.get("diaphragm")},
        foundations=foundations,
        forces_at=str(hand.get("forces_at", "node")),
        grids=grids,
        levels=tuple(sorted((Level(r["level"], r["z"]) for r in tables.get("levels", [])), key=lambda level: level.z)),
        north=north_of(hand),
        category=str(hand.get("seismic_design_category") or ""),
        unread=tuple(sorted(set(files) - set(TABLES)) + unlisted(folder, files)),
    )
    if tables.get("pieces"):
        building = placed(building, _pieces(tables["pieces"], hand["up"]))
    if "splices" not in tables:
        return building
    for row in tables["splices"]:
        row["shown"] = f"{row['distance'] / scale['length']:.6g}"
    made = cut(building, tables["splices"], _along(tables, hand["up"], scale), files["splices"].name, problems)
    problems.raise_any()
    return made


def _pieces(rows: list[Row], up: str) -> list[Piece]:
    """A building model's pieces; with Y up, y is up and z is -y here."""

    def at(r: Row, k: int) -> np.ndarray:
        x, y, z = (float(r[f"{c}{k}"]) for c in "xyz")
        return np.array([x, y, z] if up == "Z" else [x, -z, y])

    return [Piece(r["piece"], r["section"] or "", at(r, 1), at(r, 2), r["top"]) for r in rows]


def _stations(path: Path, spliced: set[str], scale: dict[str, float], problems: Problems) -> list[Row]:
    """The forces along members; of a table that is larger than any may be, of those only that splices need."""
    table = TABLES["stations"]
    if path.stat().st_size < 2:
        return []
    if path.stat().st_size < MOST_BYTES and count_lines(path) <= MOST_ROWS:
        return read_table(table, path, problems, scale)
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
        every = pl.scan_csv(path, infer_schema=False).with_row_index("_at", offset=2)
        some = every.filter(pl.col("member").is_in(list(spliced))).collect(engine="streaming")
        some.drop("_at").write_csv(Path(scratch) / path.name)
        own = Problems()
        stations = read_table(table, Path(scratch) / path.name, own, scale)
    for problem in own.found:  # at its row in the whole table
        row = int(some["_at"][problem.row - 2]) if problem.row and problem.row > 1 else problem.row
        problems.add(problem.file, problem.message, row, problem.column)
    return stations


def _along(tables: dict[str, list[Row]], up: str, scale: dict[str, float]) -> Along:
    """Stations and loads by member; what a load amounts to is a force, or a force on a length."""
    stations: dict[str, list[Row]] = {}
    for row in tables.get("stations", []):
        stations.setdefault(row["member"], []).append(row)
    loads: dict[str, list[Row]] = {}
    for row in tables.get("member_loads", []):
        each = scale["force"] / (1.0 if row["kind"] == "point" else scale["length"])
        sized = {name: None if row[name] is None else row[name] * each for name in ("value", "value_to")}
        loads.setdefault(row["member"], []).append({**row, **sized})
    return Along(stations, loads, up)


def _references(tables: dict[str, list[Row]], files: dict[str, Path], problems: Problems) -> None:
    nodes = {r["node"] for r in tables.get("nodes", [])}
    members = {r["member"] for r in tables.get("members", [])}
    cases = {r["case"] for r in tables.get("cases", [])}
    results = cases | {r["combination"] for r in tables.get("combinations", [])}
    for table, column, held, what in (
        ("members", "i", nodes, "nodes"),
        ("members", "j", nodes, "nodes"),
        ("supports", "node", nodes, "nodes"),
        ("foundations", "node", nodes, "nodes"),
        ("combinations", "case", cases, "cases"),
        ("reactions", "node", nodes, "nodes"),
        ("node_loads", "node", nodes, "nodes"),
        ("splices", "member", members, "members"),
        ("stations", "member", members, "members"),
        ("member_loads", "member", members, "members"),
        ("member_loads", "case", cases, "cases"),
        ("stations", "result", results, "cases or combinations"),
        ("reactions", "result", results, "cases or combinations"),
        ("node_loads", "result", results, "cases or combinations"),
    ):
        own = tables.get(table, [])
        if {row[column] for row in own} <= held:
            continue
        for row in own:
            if row[column] and row[column] not in held:
                problems.add(files[table].name, f"'{row[column]}' is not in {what}", row["_row"], column)


def _rolled(rows: list[Row], nodes: dict[str, int], xyz: np.ndarray, turn: float) -> None:
    """Vertical members' rolls, so that with none their local y points as the model says and not along X."""
    for row in rows if turn else []:
        if row["i"] in nodes and row["j"] in nodes:
            run = xyz[[nodes[row["j"]]]] - xyz[[nodes[row["i"]]]]
            if upright(run)[0]:
                row["roll"] += turn if run[0, 2] > 0 else -turn


@lru_cache(maxsize=4096)
def _catalogued(name: str) -> str:
    """A section as the catalogue writes it, where it holds it."""
    try:
        return str(catalogue.section(name).name)
    except UnknownName:
        return name


def _members(
    rows: list[Row], nodes: dict[str, int], xyz: np.ndarray, own: set[str], file: str, problems: Problems
) -> tuple[Member, ...]:
    """The members; `own` are the job's own sections."""
    if len(rows) > MOST_MEMBERS:
        problems.add(file, f"has {len(rows)} members; at most {MOST_MEMBERS} are taken")
        return ()
    members, points = [], xyz.tolist()
    for row in rows:
        if row["i"] not in nodes or row["j"] not in nodes:
            continue
        i, j = nodes[row["i"]], nodes[row["j"]]
        if (long := math.dist(points[i], points[j])) < 1e-3:
            problems.add(
                file,
                f"member {row['member']} has no length: nodes {row['i']} and {row['j']} are one point",
                row["_row"],
                "j",
            )
        elif long > LONGEST:
            problems.add(
                file,
                f"member {row['member']} would be {long / 1e6:.3g} km long: is the model's length in the unit that"
                f" {MANIFEST} states?",
                row["_row"],
                "j",
            )
        if row["end_offset_i"] or row["end_offset_j"]:
            _rigid_ends(row, long, file, problems)
        section = row["section"] if row["section"] in own else _catalogued(row["section"])
        members.append(
            Member(
                row["member"],
                i,
                j,
                section,
                row["grade"],
                row["roll"],
                row["role"] or "",
                row["physical"] or "",
                _releases(row, "release_i", file, problems),
                _releases(row, "release_j", file, problems),
                row["top_offset"],
                row["intent_i"] or "",
                row["intent_j"] or "",
                row["end_offset_i"],
                row["end_offset_j"],
                row["seismic"] or "",
                row["lateral"] or "",
            )
        )
    return tuple(members)


def _rigid_ends(row: Row, length: float, file: str, problems: Problems) -> None:
    """Rigid ends are some way in from the nodes and leave some of the member."""
    for column in ("end_offset_i", "end_offset_j"):
        if row[column] < 0:
            problems.add(file, f"member {row['member']} has a rigid end shorter than nothing", row["_row"], column)
    if row["end_offset_i"] + row["end_offset_j"] >= length > 1e-3:
        problems.add(
            file,
            f"member {row['member']} is {length:.0f} mm long and its rigid ends together are "
            f"{row['end_offset_i'] + row['end_offset_j']:.0f} mm: nothing is left of it",
            row["_row"],
            "end_offset_i",
        )


@lru_cache(maxsize=4096)
def _split(words: str) -> frozenset[str]:
    return frozenset(words.split())


def _releases(row: Row, column: str, file: str, problems: Problems) -> frozenset[str]:
    names = _split(row[column] or "")
    for name in sorted(names.difference(RELEASES)) if names else ():
        problems.add(file, f"'{name}' is none of {' '.join(RELEASES)}", row["_row"], column)
    return names


def _combinations(rows: list[Row], file: str, problems: Problems) -> tuple[Combination, ...]:
    terms: dict[str, list[Row]] = {}
    for row in rows:
        terms.setdefault(row["combination"], []).append(row)
    combinations = []
    for name, own in terms.items():
        if meant := _misspelt(own[0]["set"] or ""):
            problems.add(
                file,
                f"set '{own[0]['set']}' looks like {meant}; write {meant}, or another name for a set of your own",
                own[0]["_row"],
                "set",
            )
        for row in own:
            if (row["set"], row["method"]) != (own[0]["set"], own[0]["method"]):
                problems.add(
                    file,
                    f"{name} was {own[0]['set']} {own[0]['method']} in row {own[0]['_row']}",
                    row["_row"],
                    "method",
                )
        combinations.append(
            Combination(name, own[0]["set"] or "", own[0]["method"] or "", tuple((r["case"], r["factor"]) for r in own))
        )
    return tuple(combinations)


def _misspelt(name: str) -> str:
    """The known set that a name was meant to be; empty where it is one, or one of the job's own."""
    if name in SETS:
        return ""
    return (difflib.get_close_matches(name.strip().lower(), SETS, n=1, cutoff=0.8) or [""])[0]


def _turned_supports(rows: list[Row], up: str) -> list[Row]:
    """Held directions as Z up: what was along Y (up) is along Z, what was along Z is along -Y."""
    if up == "Z":
        return rows
    return [{**r, "uy": r["uz"], "uz": r["uy"], "ry": r["rz"], "rz": r["ry"]} for r in rows]


def _foundations(
    rows: list[Row], nodes: dict[str, int], up: str, file: str, problems: Problems
) -> dict[int, Foundation]:
    """The concrete at each node; with Y up, edge_ym and edge_yp are along Z, which is -y here."""
    foundations = {}
    for r in rows:
        edges = tuple(
            r[f"edge_{side}"] for side in (("xm", "xp", "ym", "yp") if up == "Z" else ("xm", "xp", "yp", "ym"))
        )
        wrong = [(name, "must be larger than 0") for name in ("fc", "thickness") if not r[name] > 0]
        wrong += [
            (f"edge_{side}", "the node stands outside its concrete")
            for side in ("xm", "xp", "ym", "yp")
            if not r[f"edge_{side}"] > 0
        ]
        for column, words in wrong:
            problems.add(file, f"{r['node']}: {words}", r["_row"], column)
        if r["node"] in nodes:
            foundations[nodes[r["node"]]] = Foundation(
                r["kind"], r["fc"], r["thickness"], edges, r["turn"], r["cracked"] == "yes"
            )
    return foundations


def _grids(rows: list[Row], up: str, file: str, problems: Problems) -> tuple[GridLine, ...]:
    """Grid lines in plan; with Y up, y1 and y2 are along Z, which is -y here."""
    lines = []
    for r in rows:
        y1, y2 = (r[name] * (1.0 if up == "Z" else -1.0) for name in ("y1", "y2"))
        if math.hypot(r["x2"] - r["x1"], y2 - y1) < 1.0:
            problems.add(file, f"grid line {r['grid']} has no length: its two ends are one point", r["_row"], "x2")
        lines.append(GridLine(r["grid"], (r["x1"], y1), (r["x2"], y2)))
    return tuple(lines)


def _node_forces(rows: list[Row], nodes: dict[str, int], results: tuple[str, ...], up: str) -> NodeForces:
    column = {name: k for k, name in enumerate(results)}
    kept = [r for r in rows if r["result"] in column]
    if not kept:
        return NodeForces.none()
    values = np.array([[r[n] for n in ("Fx", "Fy", "Fz", "Mx", "My", "Mz")] for r in kept], dtype=float)
    if up == "Y":
        values = np.stack(
            [values[:, 0], -values[:, 2], values[:, 1], values[:, 3], -values[:, 5], values[:, 4]], axis=1
        )
    return NodeForces(np.array([nodes[r["node"]] for r in kept]), np.array([column[r["result"]] for r in kept]), values)


def _own_sections(rows: list[Row], file: str, problems: Problems) -> dict[str, Section]:
    """I-shapes given by their plates; other shapes wait for their connections."""
    sections = {}
    for r in rows:
        d, b, w, f = r["d"], r["bf"], r["tw"], r["tf"]
        wrong = [
            *((name, "must be larger than 0") for name in ("d", "bf", "tw", "tf") if r[name] <= 0),
            *([("tf", "two flanges are as deep as the section")] if 2 * f >= d > 0 else []),
            *([("tw", "the web is wider than the flange")] if w > b > 0 else []),
            *(
                [("k", "lies between tf and half of d, or is left out")]
                if r["k"] and not f - 1e-6 <= r["k"] < d / 2
                else []
            ),
            *([("k1", "must not be less than 0")] if r["k1"] < 0 else []),
        ]
        for column, words in wrong:
            problems.add(file, f"section {r['designation']}: {words}", r["_row"], column)
        if wrong:
            continue
        web, k, shape = d - 2 * f, r["k"] or f, r["shape"].upper()
        A, Ix = 2 * b * f + web * w, (b * d**3 - (b - w) * web**3) / 12
        Iy = (2 * f * b**3 + web * w**3) / 12
        Zx, Zy = b * f * (d - f) + w * web**2 / 4, f * b**2 / 2 + web * w**2 / 4
        sections[r["designation"]] = Section(
            name=r["designation"],
            family=shape if shape in OPEN else "OTHER",
            mass=A * 7.85e-3,
            A=A,
            d=d,
            bf=b,
            tw=w,
            tf=f,
            k=k,
            k_detail=k,
            k1=r["k1"],
            gauge=0.0,
            wall=0.0,
            Ix=Ix,
            Sx=2 * Ix / d,
            Zx=Zx,
            rx=(Ix / A) ** 0.5,
            Iy=Iy,
            Sy=2 * Iy / b,
            Zy=Zy,
            ry=(Iy / A) ** 0.5,
            J=(2 * b * f**3 + web * w**3) / 3,
            Cw=Iy * (d - f) ** 2 / 4,
        )
    return sections
