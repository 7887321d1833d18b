"""Two revisions of a building side by side: what is new, gone, moved, renamed, resized, released, framed and loaded
otherwise."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable

import pytest

from handrail.core.building.compare import Change, compare
from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle
from tests.bundles import DEMO, Tables, small, write


@pytest.fixture
def changes(tmp_path) -> Callable[[Callable[[Tables], None]], list[Change]]:
    """What a change of the small bay is told as."""
    before = read_bundle(write(small(), tmp_path / "a"))

    def told(change: Callable[[Tables], None]) -> list[Change]:
        tables = small()
        change(tables)
        after = read_bundle(write(tables, tmp_path / "b"))
        return compare(before, after, frame(before), frame(after), "LRFD").changes

    return told


def member(tables: Tables, name: str) -> dict[str, str]:
    return next(m for m in tables["members"] if m["member"] == name)


def renamed(tables: Tables) -> None:
    for row in [r for name in ("members", "end_forces") for r in tables[name]]:
        row["member"] = {"B1": "B9"}.get(row["member"], row["member"])


def turned(tables: Tables) -> None:
    """B1 drawn from the other end: the same beam."""
    own = member(tables, "B1")
    own["i"], own["j"] = own["j"], own["i"]
    for row in tables["end_forces"]:
        if row["member"] == "B1":
            row["end"] = {"i": "j", "j": "i"}[row["end"]]
            row["Fy"] = -float(row["Fy"])  # within the member, seen the other way


def swapped(tables: Tables) -> None:
    """G1 and G2 exchange their names: nothing else."""
    names = {"G1": "G2", "G2": "G1"}
    for row in [r for name in ("members", "end_forces") for r in tables[name]]:
        row["member"] = names.get(row["member"], row["member"])


@pytest.mark.parametrize(("change", "wanted"), [
    (lambda t: None, []),
    (lambda t: member(t, "B1").update(section="W16X31"), [("resized", "B1", "W14X26 A992", "W16X31 A992")]),
    (lambda t: member(t, "B1").update(release_j="Mz"), [("released", "B1", "i: My Mz, j: My Mz", "i: My Mz, j: Mz")]),
    (renamed, [("renamed", "B9", "B1", "B9")]),
    (turned, []),
    (swapped, [("renamed", "G2", "G1", "G2"), ("renamed", "G1", "G2", "G1")]),
    (lambda t: t["nodes"][5].update(y=21), [("moved", "B1", "", "305 mm")]),
])  # fmt: skip
def test_what_changed(changes, change, wanted):
    assert [(c.kind, c.name, c.was, c.now) for c in changes(change)] == wanted


def test_new_and_gone(changes):
    def other(t: Tables) -> None:
        t["members"] = [m for m in t["members"] if m["member"] != "B1"]
        t["end_forces"] = [r for r in t["end_forces"] if r["member"] != "B1"]
        t["members"].append(dict(t["members"][0], member="C3", i="f", j="d"))

    assert {(c.kind, c.name) for c in changes(other)} >= {("gone", "B1"), ("new", "C3")}


def test_forces_worst_first(changes):
    """B1's shear of 10 kip as 30, G1's by a tenth: by hand 1.4 x 20 = 28 kip of 0.6 x 50 x 13.9 x 0.255 = 106.3: 0.263;
    both ends alike."""

    def loaded(t: Tables) -> None:
        for row in t["end_forces"]:
            row["Fy"] = float(row["Fy"]) * {"B1": 3.0, "G1": 1.1}.get(row["member"], 1.0)

    found = [c for c in changes(loaded) if c.kind == "reloaded"]
    assert [c.name for c in found[:2]] == ["B1.i", "B1.j"] and found[0].share == pytest.approx(0.263, abs=0.001)
    assert found[0].was == "V 14 kip" and found[0].now == "42 kip in 1.4D"
    assert [c.share for c in found] == sorted((c.share for c in found), reverse=True)


def test_framed_otherwise(changes):
    """A beam that is not released any more at its column."""
    found = changes(lambda t: member(t, "G1").update(release_i=""))
    assert ("framed", "G1.i", "beam_to_column_flange", "moment_to_column_flange") in [
        (c.kind, c.name, c.was, c.now) for c in found
    ]


def test_revision_c_of_the_demo():
    old, new = read_bundle(DEMO / "bundle"), read_bundle(DEMO / "revision-c")
    found = compare(old, new, frame(old), frame(new), "LRFD")
    kinds = Counter(c.kind for c in found.changes)
    assert (kinds["renamed"], kinds["resized"], kinds["gone"], kinds["new"]) == (12, 8, 2, 2)
    assert kinds["reloaded"] > 50 and found.unchanged > 800
    back = Counter(c.kind for c in compare(new, old, frame(new), frame(old), "LRFD").changes)
    assert (back["renamed"], back["resized"], back["gone"], back["new"], back["reloaded"]) == (
        12,
        8,
        2,
        2,
        kinds["reloaded"],
    )
