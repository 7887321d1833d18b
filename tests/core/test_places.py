"""Joints known by grid lines and levels: on lines, between them, past them, where lines kink, fan out or are all named
alike."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from handrail.core.building.model import GridLine, Level
from handrail.core.building.places import level_names, places
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import small, write

SQUARE = (*(GridLine(name, (x, -5e3), (x, 25e3)) for name, x in (("1", 0.0), ("2", 6e3), ("3", 12e3))),
          *(GridLine(name, (-5e3, y), (15e3, y)) for name, y in (("A", 0.0), ("B", 8e3), ("C", 20e3))))  # fmt: skip
FLOORS = (Level("1", 0.0), Level("2", 4e3), Level("Mezzanine", 6e3))


def at(folder, grids, levels, *points) -> list[str]:
    """The places of points (x, y, z) mm."""
    building = read_bundle(write(small(), folder))
    xyz = np.array(points, float)
    return places(replace(building, xyz=xyz, nodes=tuple(f"p{k}" for k in range(len(xyz))), grids=grids, levels=levels))


@pytest.mark.parametrize(("point", "place"), [
    ((0, 0, 0), "A/1, level 1"),
    ((6100, 8250, 4100), "B/2, level 2"),  # 250 mm off is on it
    ((6000, 8350, 4000), "B-C/2, level 2"),
    ((3000, 8000, 6000), "B/1-2, Mezzanine"),
    ((3000, 4000, 5000), "A-B/1-2, level 2 +3.3 ft"),
    ((13000, 20000, 0), "C/past 3, level 1"),
    ((-900, -900, -1000), "before A/before 1, level 1 -3.3 ft"),
    ((6000, 60000, 9000), "past C/2, Mezzanine +9.8 ft"),  # far past the ends of every numbered line
])  # fmt: skip
def test_a_place_in_words(tmp_path, point, place):
    assert at(tmp_path, SQUARE, FLOORS, point) == [place]


def test_a_line_with_a_kink_and_a_fan(tmp_path):
    """A bends up by 30 degrees past line 2; 3 stands square to it there."""
    grids = (
        GridLine("A", (0, 0), (6e3, 0)),
        GridLine("A", (6e3, 0), (14.66e3, 5e3)),
        GridLine("B", (0, 6e3), (6e3, 6e3)),
        GridLine("B", (6e3, 6e3), (12e3, 9464)),
        GridLine("1", (0, 0), (0, 6e3)),
        GridLine("2", (6e3, 0), (6e3, 6e3)),
        GridLine("3", (14.66e3, 5e3), (11.66e3, 10.196e3)),
    )
    assert at(tmp_path, grids, (), (3e3, 0, 0), (10.33e3, 2.5e3, 0), (14.66e3, 5e3, 0), (3e3, 3e3, 0)) == [
        "A/1-2",
        "A/2-3",
        "A/3",
        "A-B/1-2",
    ]


def test_lines_all_named_by_figures_run_by_their_directions(tmp_path):
    grids = (
        *(GridLine(name, (x, 0), (x, 9e3)) for name, x in (("1", 0.0), ("2", 6e3))),
        *(GridLine(name, (0, y), (6e3, y)) for name, y in (("11", 0.0), ("12", 9e3))),
    )
    assert at(tmp_path, grids, (), (0, 9e3, 0), (3e3, 0, 0)) == ["1/12", "1-2/11"]


def test_the_order_in_which_lines_are_given_changes_nothing(tmp_path):
    point = (3000, 4000, 0)
    assert at(tmp_path, SQUARE, FLOORS, point) == at(tmp_path, SQUARE[::-1], FLOORS, point) == ["A-B/1-2, level 1"]


def test_without_grid_or_levels_there_is_no_place(tmp_path):
    assert at(tmp_path, (), (), (0, 0, 0)) == [""]
    assert at(tmp_path, (), FLOORS, (0, 0, 4000)) == ["level 2"]


def test_the_demo_stands_on_its_grid(demo_folder):
    building = read_bundle(demo_folder)
    found = dict(zip(building.nodes, zip(places(building), level_names(building), strict=True), strict=True))
    assert found["n1"] == ("A/1, level 1", "1")
    assert {level for _, level in found.values()} == {"1", "2", "3", "4", "roof"}


def with_grid(tables, **manifest):
    tables["grids"] = [
        {"grid": "A", "x1": 0, "y1": 0, "x2": 30, "y2": 0},
        {"grid": "1", "x1": 15, "y1": -5, "x2": 15, "y2": 25},
    ]
    tables["levels"] = [{"level": "2", "z": 12}, {"level": "1", "z": 0}]
    tables["manifest"]["resources"] += [{"name": n, "path": f"{n}.csv"} for n in ("grids", "levels")]
    tables["manifest"]["handrail"] |= manifest
    return tables


def test_grid_with_y_up_is_the_same_grid(tmp_path):
    """x, y, z of a model with Z up are x, z, -y of one with Y up."""
    plain = read_bundle(write(with_grid(small(), north=12), tmp_path / "a"))
    tables = with_grid(small(), up="Y")
    for row in tables["nodes"]:
        row["y"], row["z"] = row["z"], -row["y"]
    for row in tables["grids"]:
        row["y1"], row["y2"] = -row["y1"], -row["y2"]
    for row in tables["supports"]:
        row["uy"], row["uz"], row["ry"], row["rz"] = row["uz"], row["uy"], row["rz"], row["ry"]
    turned = read_bundle(write(tables, tmp_path / "b"))
    assert places(turned) == places(plain)
    assert places(plain)[plain.nodes.index("e")] == "A/1, level 2"
    assert [level.name for level in plain.levels] == ["1", "2"] and plain.north == pytest.approx(0.2094395)


@pytest.mark.parametrize(("change", "words"), [
    (lambda t: t["grids"][0].update(x2=0), "grid line A has no length"),
    (lambda t: t["grids"][0].update(x2="far"), "'far' is not a number"),
    (lambda t: t["levels"].append({"level": "2", "z": 30}), "2 is already in row 2"),
    (lambda t: t["manifest"]["handrail"].update(north="up"), "state the degrees that north is to the left"),
    (lambda t: t["manifest"]["handrail"].update(north=[12]), "state the degrees that north is to the left"),
])  # fmt: skip
def test_mistakes_in_grids_are_told(tmp_path, change, words):
    tables = with_grid(small())
    change(tables)
    with pytest.raises(BundleError, match=words):
        read_bundle(write(tables, tmp_path))


def test_a_grid_in_another_unit_is_a_finding(tmp_path):
    from handrail.core.building.audit import audit

    tables = with_grid(small())
    for row in tables["grids"]:
        row.update({c: float(row[c]) * 304.8 + 1e4 for c in ("x1", "y1", "x2", "y2")})
    tables["levels"].append({"level": "9", "z": 400})
    codes = {f.code for f in audit(read_bundle(write(tables, tmp_path))).findings}
    assert {"grid_off", "level_empty"} <= codes
    assert not {"grid_off", "level_empty"} & {
        f.code for f in audit(read_bundle(write(with_grid(small()), tmp_path / "right"))).findings
    }
