"""What stands beside the frame is proposed too: loads along members and concrete under supports, in other programs'
words."""

from __future__ import annotations

import csv
import shutil
import tomllib

import pytest

from handrail.interchange.bundle import read_bundle
from handrail.interchange.columnmap.beside import direction
from handrail.interchange.columnmap.recognising import releases_meant
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
        assert (other.fc, other.thickness, *other.edges) == pytest.approx(
            (concrete.fc, concrete.thickness, *concrete.edges), rel=1e-6
        )
    assert len(found.spliced) == len(bundle.spliced) == 2  # cut by what the loads along them leave there
    assert [m.name for m in found.members] == [m.name for m in bundle.members] and found.results == bundle.results
    assert found.forces == pytest.approx(bundle.forces, rel=1e-4, abs=5e4)  # N, N mm


@pytest.mark.parametrize(("kind", "towards", "by", "meant"), [
    ("Uniform", "Gravity", -1, {"kind": {"Uniform": "distributed"}, "direction": "Z"}),
    ("UDL", "Global Z", 1, {"kind": {"UDL": "distributed"}, "direction": {"Global Z": "Z"}}),
    ("Concentrated", "local y", 1, {"kind": {"Concentrated": "point"}, "direction": "y"}),
])  # fmt: skip
def test_loads_in_other_words(exports, kind, towards, by, meant):
    loads_as(
        exports,
        HEADED,
        lambda r: (*r[:2], kind, towards, *r[4:6], r[6].replace("-", "") if by < 0 else r[6]),
        ("", "", "", "", "m", "m", "kN/m"),
    )
    columns = tables(propose(exports))["member_loads"]["columns"]
    assert (
        columns["kind"]["values"] == meant["kind"]
        and columns["value"]["unit"] == "kN/m"
        and columns["value"].get("factor", 1) == by
    )
    said = columns["direction"]
    assert (
        said.get("value") or said["values"]
        if isinstance(meant["direction"], dict) or by < 0
        else said["values"]["local y"]
    ) == meant["direction"]


def test_a_word_that_nobody_knows_is_asked(exports):
    loads_as(exports, HEADED, lambda r: (*r[:2], "Zeta", "X", *r[4:]))
    columns = tables(propose(exports))["member_loads"]["columns"]
    assert columns["kind"]["values"] == {"Zeta": "?"} and columns["direction"] == "Direction"


def test_without_a_kind_the_unit_says_it(exports):
    loads_as(exports, ("Bar", "Case", "Axis", "Load (kN/m)"), lambda r: (*r[:2], "Z", r[6]))
    assert tables(propose(exports))["member_loads"]["columns"]["kind"] == {"value": "distributed"}


def test_gravity_and_sideways_together_are_asked(exports):
    first = []
    loads_as(
        exports,
        HEADED,
        lambda r: (*r[:2], "Uniform", "Gravity" if first.append(1) or len(first) % 2 else "East", *r[4:]),
    )
    assert tables(propose(exports))["member_loads"]["columns"]["direction"]["values"] == {"Gravity": "?", "East": "X"}


@pytest.mark.parametrize("units", [True, False])
def test_components_by_their_place(exports, units):
    """Names that say nothing: by their units, or as six numbers, in order; statics finds that the sides are
    exchanged."""
    path = exports / "Bar forces.csv"
    title, job, _, *rows = path.read_text(encoding="utf-8").splitlines()
    if units:
        head = "Bar;At;Case;Sense;" + ";".join(f"K{k} [{'kN' if k < 4 else 'kNm'}]" for k in range(1, 7)).replace(
            "K1 [kN]", "Thrust"
        )
    else:
        head = "Bar;At;Case;Sense;" + ";".join(f"K{k}" for k in range(1, 7))
    path.write_text("\n".join([title, job, head, *rows]), encoding="utf-8")
    text = propose(exports)
    forces = tables(text)["end_forces"]["columns"]
    taken = {
        ours: (spec["column"] if isinstance(spec, dict) else spec).split(" [")[0]
        for ours, spec in forces.items()
        if ours[0] in "FM"
    }
    if units:  # two units of force are as many as are missing; the thrust is called so, and has none
        taken["Fx"] = "K1"
    assert taken == {"Fx": "K1", "Fy": "K3", "Fz": "K2", "Mx": "K4", "My": "K6", "Mz": "K5"} and text.count(
        "less sure: by its place"
    ) == (5 if units else 6)


def test_words_in_columns_of_any_name(exports):
    """Supports and releases told in words, in columns that are called otherwise."""
    path = exports / "Supports.csv"
    path.write_text(
        path.read_text(encoding="utf-8").replace("Point;Support;Twist held", "Point;Zeta;Eta"), encoding="utf-8"
    )
    bars = exports / "Bars.csv"
    title, job, _, *rows = bars.read_text(encoding="utf-8").splitlines()
    cells = [r.split(";") for r in rows]
    words = lambda flags: "Gelenkig" if flags[4:6] == ["Yes", "Yes"] else "starr"  # noqa: E731
    bars.write_text(
        "\n".join(
            [
                title,
                job,
                "Bar;Start;End;Profile;Material;Kind;First;Second",
                *(";".join([*c[:6], words(c[6:12]), words(c[12:18])]) for c in cells),
            ]
        ),
        encoding="utf-8",
    )
    said = tables(propose(exports))
    assert (
        said["supports"]["columns"]["ux"]["column"] == "Zeta"
        and said["supports"]["columns"]["rx"]["values"]["Hinged"] == "0"
    )
    for end, name in (("i", "First"), ("j", "Second")):
        assert said["members"]["columns"][f"release_{end}"] == {
            "column": name,
            "values": {"starr": "", "Gelenkig": "My Mz"},
        }


@pytest.mark.parametrize(
    ("word", "meant"),
    [
        ("Pinned", "My Mz"),
        ("Hinge My", "My"),
        ("Rótula y T", "T My Mz"),
        ("rígido", ""),
        ("My, Mz", "My Mz"),
        ("000011", "My Mz"),
        ("pinned about the strong axis", "?"),
        ("N + My", "N My"),
        ("semi-rigid", "?"),
    ],
)
def test_releases_in_words(word, meant):
    assert releases_meant(word) == meant


@pytest.mark.parametrize(
    ("word", "meant"),
    [
        ("Z", "Z"),
        ("y", "y"),
        ("GZ", "Z"),
        ("global x", "X"),
        ("Local z", "z"),
        ("X proj", "X"),
        ("vertical", "Z"),
        ("along", "?"),
        ("Lokal y", "y"),
    ],
)
def test_directions_in_words(word, meant):
    assert direction(word) == meant
