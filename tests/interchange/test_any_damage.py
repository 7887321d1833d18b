"""Bundles damaged anyhow: each is read, or refused with problems that say where; nothing else happens."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from hypothesis import given, note
from hypothesis import strategies as st

from handrail.core.building.audit import audit
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import Tables, plan_of, small, write

NASTY = [
    "",
    " ",
    "nan",
    "inf",
    "-1e400",
    "1e308",
    "1e-300",
    "0",
    "-1",
    "x",
    "a",
    "G1",
    "D",
    "1.4D",
    "j",
    "Mz",
    "My,Mz",
    "\x00",
    "é",
    "W12X65",
    '"',
    "a\nb",
    "99999999999999999999",
    "1,5",
    "=1+1",
    "TRUE",
    "None",
    "LRFD",
    "wind",
    "spectrum",
    "envelope",
    "brace",
    "column",
]
JSON = [None, 0, -1, "", "x", [], {}, [1], {"a": 1}, True, "Z", "Y", "ft", "kip"]
PG1 = {"designation": "PG1", "shape": "W", "d": "18", "bf": "7", "tw": "0.4", "tf": "0.6", "k": "1", "k1": "0.8"}


def whole() -> Tables:
    """The small bay, its beam of a section of the job's own."""
    tables = small() | {"sections": [dict(PG1)]}
    tables["members"][4]["section"] = "PG1"
    tables["manifest"]["resources"].append({"name": "sections", "path": "sections.csv"})
    return tables


TABLES = [name for name in whole() if name != "manifest"]


@st.composite
def damages(draw) -> list[tuple]:
    cell = st.tuples(
        st.just("cell"), st.sampled_from(TABLES), st.integers(0, 30), st.integers(0, 9), st.sampled_from(NASTY)
    )
    row = st.tuples(st.sampled_from(["drop row", "twice"]), st.sampled_from(TABLES), st.integers(0, 30))
    column = st.tuples(st.just("drop column"), st.sampled_from(TABLES), st.integers(0, 9))
    file = st.tuples(st.sampled_from(["gone", "empty", "cut"]), st.sampled_from([*TABLES, "datapackage"]))
    byte = st.tuples(
        st.just("byte"), st.sampled_from([*TABLES, "datapackage"]), st.integers(0, 400), st.integers(0, 255)
    )
    said = st.tuples(
        st.just("manifest"),
        st.sampled_from(["handrail", "resources", "units", "up", "forces", "forces_at", "bundle"]),
        st.sampled_from(JSON),
    )
    return draw(st.lists(st.one_of(cell, row, column, file, byte, said), min_size=1, max_size=3))


def damaged(folder: Path, damage: list[tuple]) -> Path:
    tables = whole()
    for kind, name, *how in damage:
        if kind == "manifest":
            part = tables["manifest"] if name in ("handrail", "resources") else tables["manifest"]["handrail"]
            if isinstance(part, dict):
                part[name] = how[0]
            continue
        rows = tables.get(name)
        if kind in ("cell", "drop row", "twice", "drop column") and rows:
            row = rows[how[0] % len(rows)]
            if kind == "cell":
                row[list(row)[how[1] % len(row)]] = how[2]
            elif kind == "drop row":
                rows.remove(row)
            elif kind == "twice":
                rows.append(dict(row))
            elif name_of := list(rows[0])[how[0] % len(rows[0])]:
                for each in rows:
                    each.pop(name_of, None)
    write(tables, folder)
    for kind, name, *how in damage:
        path = folder / ("datapackage.json" if name == "datapackage" else f"{name}.csv")
        if not path.exists():
            continue
        content = path.read_bytes()
        if kind == "gone":
            path.unlink()
        elif kind == "empty":
            path.write_bytes(b"")
        elif kind == "cut":
            path.write_bytes(content[: len(content) // 2])
        elif kind == "byte" and content:
            at = how[0] % len(content)
            path.write_bytes(content[:at] + bytes([how[1]]) + content[at + 1 :])
    return folder


@given(damages())
def test_any_damage_is_read_or_refused_in_words(damage):
    note(json.dumps(damage, default=str))
    with tempfile.TemporaryDirectory() as scratch:
        folder = damaged(Path(scratch) / "b", damage)
        try:
            building = read_bundle(folder)
        except BundleError as refused:
            assert refused.problems and all(p.file and p.message for p in refused.problems)
            return
        assert audit(building).counts["members"] == len(building.members)
        plan = plan_of(folder)
        run = dict(plan.batch().run(plan.families()))
        assert all(o.status in ("pass", "fail", "unchecked") for o in run.values())
