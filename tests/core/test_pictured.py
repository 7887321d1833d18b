"""A connection in space: what is before something else hides it, and it is looked at from where most of it is seen."""

from __future__ import annotations

import pytest

from handrail.core.checking.trial import read_trial
from handrail.core.solids.axes import Axes
from handrail.core.solids.pictured import pictured
from handrail.core.solids.placed import placed
from tests.worked.sheet import FLANGE, GIRDER, WEB, data
from tests.worked.test_base_plate import BASE


def solids(base, parameters=None, **more):
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.solids(trial.situation, trial.sizes)


def seen(made):
    """Parts that lines are drawn of, and the height of the picture."""
    view = pictured(made).fitted()
    ys = [y for shape in view.shapes for _, y in shape.points]
    return {shape.part for shape in view.shapes}, max(ys) - min(ys), view


@pytest.mark.parametrize("base", [GIRDER, FLANGE, {**FLANGE, **WEB}, BASE], ids=["girder", "flange", "web", "base"])
def test_the_pieces_and_bolts_are_seen(base):
    made = solids(base)
    parts, _, view = seen(made)
    assert {piece.part for piece in made.pieces} <= parts and {one.part for one in (*made.bolts, *made.rods)} <= parts
    assert {shape.style for shape in view.shapes} == {"face", "outline"}
    assert not view.dimensions and not view.notes


def test_a_plate_behind_the_web_is_looked_at_from_its_side():
    """Mirrored, the plate stands on the other side, and is seen there as large as here."""
    made = solids(GIRDER)
    area = {}
    for hand, own in (("as it is", made), ("mirrored", placed(made, Axes(), True))):
        view = seen(own)[2]
        area[hand] = sum(_area(s.points) for s in view.shapes if s.style == "face" and s.part == "plate")
    assert area["as it is"] == pytest.approx(area["mirrored"], rel=1e-3) and area["as it is"] > 1e4


def _area(points):
    pairs = zip(points, (*points[1:], points[0]), strict=True)
    return abs(sum(a * d - b * c for (a, b), (c, d) in pairs)) / 2


def test_more_rows_are_more_bolts():
    few, many = (seen(solids(GIRDER, {"rows": rows}))[2] for rows in (3, 5))

    def lines(view):
        return sum(shape.part == "bolts" for shape in view.shapes)

    assert lines(many) > lines(few) > 0
