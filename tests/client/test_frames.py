"""Any open solver's results as a bundle: a frame that says seven things of itself, worked by hand."""

from __future__ import annotations

import pytest

from handrail.client import Bar, Meant, write_frame
from handrail.core.building.audit import audit
from handrail.interchange.bundle import read_bundle


class Portal:
    """Two columns 4 m high, pinned at their feet, a beam of 6 m pinned between their heads with 10 kN at each: as
    another solver would say it."""

    def nodes(self):
        return {"a": (0.0, 0.0, 0.0), "b": (0.0, 0.0, 4.0), "c": (6.0, 0.0, 4.0), "d": (6.0, 0.0, 0.0)}

    def bars(self):
        return [
            Bar("C1", "a", "b", "W12X65", "A992"),
            Bar("C2", "d", "c", "W12X65", "A992"),
            Bar("G1", "b", "c", "W18X50", "A992", release_i="My Mz", release_j="My Mz"),
        ]

    def supports(self):
        return {"a": [True] * 6, "d": [True] * 6}

    def results(self):
        return ["D", "1.4D"]

    def end_forces(self, bar, result):
        k = 1.4 if result == "1.4D" else 1.0
        return ((10.0 * k, 0, 0, 0, 0, 0), (-10.0 * k, 0, 0, 0, 0, 0)) if bar[0] == "C" else ((0,) * 6, (0,) * 6)

    def reactions(self, result):
        return {n: (0, 0, 14.0 if result == "1.4D" else 10.0, 0, 0, 0) for n in "ad"}

    def loads(self, result):
        return {n: (0, 0, -14.0 if result == "1.4D" else -10.0, 0, 0, 0) for n in "bc"}


MEANT = Meant(
    {"length": "m", "force": "kN"}, {"D": "dead"}, {"1.4D": ("strength", "LRFD", {"D": 1.4})}, title="A portal"
)


def test_a_solver_s_frame_is_a_bundle(tmp_path):
    building = read_bundle(write_frame(Portal(), MEANT, tmp_path / "b"))
    assert (building.title, building.results, len(building.members)) == ("A portal", ("D", "1.4D"), 3)
    assert building.forces[0, 0, :, 0].tolist() == [10_000.0, -10_000.0]  # compression, as the nodes act on it
    assert building.members[2].release_i == frozenset({"My", "Mz"}) and building.members[2].section == "W18X50"
    assert [
        f for f in audit(building).findings if f.code in ("out_of_balance", "meant_otherwise", "combination_differs")
    ] == []


def test_a_result_that_nobody_named_is_told(tmp_path):
    with pytest.raises(ValueError, match=r"'1\.4D' is neither a case with a nature nor a combination"):
        write_frame(Portal(), Meant({"length": "m", "force": "kN"}, {"D": "dead"}), tmp_path / "b")
