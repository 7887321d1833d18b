"""Foundations come in with their concrete and its edges; what is wrong with them is said, and they are kept with the
revision."""

from __future__ import annotations

import math

import pytest

from handrail.core.building.audit import audit
from handrail.core.building.model import Building
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from handrail.store import packing
from tests.bundles import small, with_foundations, write

FOOT = 304.8
KSI = 6.894757293168


def at(building: Building, node: str):
    return building.foundations[building.nodes.index(node)]


def test_they_are_read_in_the_core_s_units(tmp_path):
    building = read_bundle(write(with_foundations(small()), tmp_path / "b"))
    first, second = at(building, "a"), at(building, "c")
    assert (first.kind, first.turn, first.cracked) == ("pedestal", 0.0, True)
    assert (first.fc, first.thickness) == (pytest.approx(4 * KSI), pytest.approx(2 * FOOT))
    assert first.edges == pytest.approx((FOOT, 1.5 * FOOT, FOOT, FOOT))
    assert (second.edges[1], second.turn, second.cracked) == (math.inf, pytest.approx(math.pi / 2), False)
    assert audit(building).counts["foundations"] == 2


def test_y_up_is_the_same_concrete(tmp_path):
    """What lies along Z in a model whose Y is up lies along -y here."""
    tables = with_foundations(small())
    tables["foundations"][0] |= {"edge_ym": 3, "edge_yp": 5}
    tables["manifest"]["handrail"]["up"] = "Y"
    assert at(read_bundle(write(tables, tmp_path / "b")), "a").edges[2:] == pytest.approx((5 * FOOT, 3 * FOOT))


@pytest.mark.parametrize(
    ("row", "column", "value", "words"),
    [
        (0, "fc", 0, "fc: a: must be larger than 0"),
        (0, "thickness", -1, "must be larger than 0"),
        (1, "edge_ym", 0, "outside its concrete"),
        (0, "kind", "pier", "is none of pedestal, footing, slab"),
        (0, "node", "z", "is not in nodes"),
        (0, "fc", "", "is empty"),
        (1, "node", "a", "is already in row 2"),
        (0, "cracked", "perhaps", "is none of yes, no"),
        (0, "edge_xp", "nan", "is not finite"),
    ],
)
def test_what_is_wrong_is_said(tmp_path, row, column, value, words):
    tables = with_foundations(small())
    tables["foundations"][row][column] = value
    with pytest.raises(BundleError) as caught:
        read_bundle(write(tables, tmp_path / "b"))
    assert any(words in str(p) and p.file == "foundations.csv" for p in caught.value.problems), [
        str(p) for p in caught.value.problems
    ]


def test_a_unit_of_stress_is_needed(tmp_path):
    tables = with_foundations(small())
    del tables["manifest"]["handrail"]["units"]["stress"]
    with pytest.raises(BundleError, match=r"handrail\.units\.stress is missing"):
        read_bundle(write(tables, tmp_path / "b"))
    tables["manifest"]["handrail"]["units"]["stress"] = "ft"
    with pytest.raises(BundleError, match=r"handrail\.units\.stress"):
        read_bundle(write(tables, tmp_path / "c"))


def test_supports_and_foundations_that_miss_each_other(tmp_path):
    tables = with_foundations(small())
    tables["foundations"][1]["node"] = "e"
    found = {f.code: f.node for f in audit(read_bundle(write(tables, tmp_path / "b"))).findings}
    assert (found["unused_foundation"], found["no_foundation"]) == ("e", "c")


def test_they_are_kept(tmp_path):
    building = read_bundle(write(with_foundations(small()), tmp_path / "b"))
    again = packing.unpack(packing.pack(building), building.forces)
    assert again.foundations == building.foundations
