"""A solved PyNiteFEA model as a bundle: it balances, with columns up and down, rolled members, releases and a member
that is cut at a node."""

from __future__ import annotations

import numpy as np
import pytest
from Pynite import FEModel3D

from handrail.client.solved import Solved
from handrail.core.building.audit import audit
from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle

UNITS = {"length": "ft", "force": "kip"}
NATURES = {"D": "dead", "W": "wind"}
SETS = {"1.2D+1.0W": ("strength", "LRFD")}


def bay() -> FEModel3D:
    """Two columns, one of them drawn from the top, a girder past a node, a beam on it hinged at both ends, a rolled
    strut."""
    m = FEModel3D()
    m.add_material("steel", 29000 * 144, 11200 * 144, 0.3, 0)
    for name in ("W14X90", "W12X19"):
        m.add_section(name, 0.2, 0.02, 0.05, 0.001)
    for name, xyz in {
        "a": (0, 0, 0),
        "b": (0, 12, 0),
        "c": (20, 12, 0),
        "d": (20, 0, 0),
        "m": (10, 12, 0),
        "e": (10, 12, 15),
        "f": (10, 0, 15),
    }.items():
        m.add_node(name, *xyz)
    m.add_member("C1", "a", "b", "steel", "W14X90")
    m.add_member("C2", "c", "d", "steel", "W14X90", rotation=90)
    m.add_member("G", "b", "c", "steel", "W14X90")
    m.add_member("B", "m", "e", "steel", "W12X19", rotation=30)
    m.def_releases("B", False, False, False, False, True, True, False, False, False, True, True, True)
    m.add_member("C3", "f", "e", "steel", "W14X90")
    for n in "adf":
        m.def_support(n, True, True, True, True, True, True)
    m.add_member_dist_load("G", "FY", -1, -1, case="D")
    m.add_member_dist_load("B", "FY", -0.5, -0.5, case="D")
    m.add_node_load("b", "FX", 5, "W")
    m.add_node_load("e", "FZ", 2, "W")
    for name, factors in {"D": {"D": 1.0}, "W": {"W": 1.0}, "1.2D+1.0W": {"D": 1.2, "W": 1.0}}.items():
        m.add_load_combo(name, factors)
    m.analyze_linear()
    return m


@pytest.fixture(scope="module")
def building(tmp_path_factory):
    solved = Solved(bay(), UNITS, NATURES, SETS, grades={"steel": "A992"}, title="A bay")
    return read_bundle(solved.write(tmp_path_factory.mktemp("solved") / "bundle"))


def test_every_node_balances_in_every_result(building):
    found = audit(building)
    assert building.results == ("D", "W", "1.2D+1.0W")
    assert found.balance["worst_share"] < 1e-6
    assert not [f for f in found.findings if f.severity == "error"]


def test_members_stand_as_they_were(building):
    """The girder in two pieces of one member; webs as the solver turns them: columns' and rolled members' too."""
    names = [m.name for m in building.members]
    assert names == ["C1", "C2", "G.1", "G.2", "B", "C3"]
    assert [m.physical for m in building.members][2:4] == ["G", "G"]
    assert building.members[4].release_i == {"My", "Mz"} and building.members[4].release_j == {"T", "My", "Mz"}
    model = bay()
    for k, (_, _, piece) in enumerate(Solved(model, UNITS, NATURES, SETS)._pieces()):
        y = np.asarray(piece.T(), float)[1, :3]
        assert building.axes[k, 1] == pytest.approx([y[0], -y[2], y[1]], abs=1e-9)  # the solver's Y is up


def test_it_is_framed(building):
    conditions = {c.id: c.framing for c in frame(building).connections}
    assert conditions["B.i"] == "beam_to_girder"
    assert sum(f == "column_base" for f in conditions.values()) == 3


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"natures": {"D": "dead"}}, "'W' of combination 'W' has no nature"),
        ({"combinations": {}}, "'1.2D\\+1.0W' has no set and method"),
        ({"combinations": {"2D": ("strength", "LRFD")}}, "no load combination '2D'"),
    ],
)
def test_what_it_does_not_say_is_asked_for(tmp_path, change, words):
    given = {"natures": NATURES, "combinations": SETS} | change
    with pytest.raises(ValueError, match=words):
        Solved(bay(), UNITS, **given).write(tmp_path)


def test_a_model_without_results_is_refused(tmp_path):
    with pytest.raises(ValueError, match="analyse it first"):
        Solved(FEModel3D(), UNITS, {}).write(tmp_path)
