"""What stands beside the frame is proposed too: loads along members and concrete under supports, in other programs' words."""

from __future__ import annotations

import csv
import shutil
import tomllib

import pytest

from handrail.interchange.bundle import read_bundle
from handrail.interchange.incoming import propose, read_model
from tests.bundles import DEMO

HEADED = ("Bar", "Case", "Type", "Direction", "a", "b", "Size")


@pytest.fixture
def exports(tmp_path):
    folder = tmp_path / "exports"
    shutil.copytree(DEMO / "exports", folder)
    (folder / "map.toml").unlink()
    return folder


def loads_as(folder, names, change, units=()):
    """The loads along members anew: columns called `names`, each row as `change` has it."""
    (old,) = folder.glob("Bar loads.csv")
    rows = list(csv.reader(old.read_text(encoding="utf-8").splitlines()[3:], delimiter=";"))
    old.unlink()
    with (folder / "Loads on bars.csv").open("w", encoding="utf-8", newline="") as stream:
        out = csv.writer(stream, delimiter=";")
        out.writerows([names, *([units] if units else []), *map(change, rows)])


def tables(text):
    return tomllib.loads(text)["tables"]


def test_the_demos_exports_are_proposed_whole(exports):
    text = propose(exports)
    assert "Not recognised" not in text and '"?"' not in text
    found, bundle = read_model(exports, text), read_bundle(DEMO / "bundle")
    assert set(found.foundations) == set(bundle.foundations) and len(found.foundations) > 10
    for node, concrete in bundle.foundations.items():
        other = found.foundations[node]
        assert (other.kind, other.cracked) == (concrete.kind, concrete.cracked)
        assert (other.fc, other.thickness, *other.edges) == pytest.approx((concrete.fc, concrete.thickness, *concrete.edges), rel=1e-6)
    assert len(found.spliced) == len(bundle.spliced) == 2  # cut by what the loads along them leave there
    assert [m.name for m in found.members] == [m.name for m in bundle.members] and found.results == bundle.results
    assert found.forces == pytest.approx(bundle.forces, rel=1e-4, abs=5e4)  # N, N mm


@pytest.mark.parametrize(("kind", "towards", "by", "meant"), [
    ("Uniform", "Gravity", -1, {"kind": {"Uniform": "distributed"}, "direction": "Z"}),
    ("UDL", "Global Z", 1, {"kind": {"UDL": "distributed"}, "direction": {"Global Z": "Z"}}),
    ("Concentrated", "local y", 1, {"kind": {"Concentrated": "point"}, "direction": "y"}),
])  # fmt: skip
def test_loads_in_other_words(exports, kind, towards, by, meant):
    loads_as(exports, HEADED, lambda r: (*r[:2], kind, towards, *r[4:6], r[6].replace("-", "") if by < 0 else r[6]), ("", "", "", "", "m", "m", "kN/m"))
    columns = tables(propose(exports))["member_loads"]["columns"]
    assert columns["kind"]["values"] == meant["kind"] and columns["value"]["unit"] == "kN/m" and columns["value"].get("factor", 1) == by
    said = columns["direction"]
    assert (said.get("value") or said["values"] if isinstance(meant["direction"], dict) or by < 0 else said["values"]["local y"]) == meant["direction"]


def test_a_word_that_nobody_knows_is_asked(exports):
    loads_as(exports, HEADED, lambda r: (*r[:2], "Zeta", "X", *r[4:]))
    columns = tables(propose(exports))["member_loads"]["columns"]
    assert columns["kind"]["values"] == {"Zeta": "?"} and columns["direction"] == "Direction"


def test_without_a_kind_the_unit_says_it(exports):
    loads_as(exports, ("Bar", "Case", "Axis", "Load (kN/m)"), lambda r: (*r[:2], "Z", r[6]))
    assert tables(propose(exports))["member_loads"]["columns"]["kind"] == {"value": "distributed"}


def test_gravity_and_sideways_together_are_asked(exports):
    first = []
    loads_as(exports, HEADED, lambda r: (*r[:2], "Uniform", "Gravity" if first.append(1) or len(first) % 2 else "East", *r[4:]))
    assert tables(propose(exports))["member_loads"]["columns"]["direction"]["values"] == {"Gravity": "?", "East": "X"}
