"""Shapes of pieces: equal however a piece lies, its mirror image another one only where it is; and marks by them."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.checking.marks import either_hand, formerly, gathered
from handrail.core.solids.axes import Axes, X, Y, Z, combined
from handrail.core.solids.pieces import Bar, Bore, Cut, Hole, Plane, Plate, Solids
from handrail.core.solids.placed import placed
from handrail.core.solids.profiles import ell
from handrail.core.solids.shapes import shape
from handrail.core.standards import STANDARDS
from tests.bundles import plan_of, small, write

FLAT = Plate(
    name="plate",
    part="plate",
    axes=Axes(),
    outline=((0.0, 0.0), (100.0, 0.0), (100.0, 230.0), (0.0, 230.0)),
    thickness=10.0,
    holes=(Hole(60.0, 40.0, 21.0), Hole(60.0, 116.2, 21.0), Hole(60.0, 170.0, 21.0, 30.0, 0.0)),
)
BEVEL = replace(FLAT, cuts=(Cut((Plane((0.0, 0.0, 0.0), (-math.cos(0.5), 0.0, math.sin(0.5))),)),))
EVEN = replace(BEVEL, holes=(Hole(60.0, 40.0, 21.0), Hole(60.0, 190.0, 21.0)))
ANGLE = Bar(
    name="angle",
    part="angle",
    axes=Axes(),
    section="L4X3X1/4",
    profile=(ell(76.2, 101.6, 6.35),),
    length=230.0,
    bores=(Bore(Axes((50.0, 0.0, 40.0), X, combined((-1.0, Z))), 6.35, 21.0),),
)
BOTH = replace(ANGLE, bores=(*ANGLE.bores, replace(ANGLE.bores[0], axes=ANGLE.bores[0].axes.moved(y=-150.0))))


def put(piece, at: Axes, mirrored: bool = False):
    (moved,) = placed(Solids(members=(), pieces=(piece,)), at, mirrored).pieces
    return moved


@given(st.floats(-3, 3), st.floats(-500, 500), st.sampled_from([FLAT, BEVEL, EVEN, ANGLE, BOTH]))
def test_a_piece_has_one_shape_however_it_lies(turn, away, piece):
    at = Axes((away, 3.0, -7.0), Y, Z).turned(turn).with_(Z, X).turned(turn / 2)
    assert shape(put(piece, at)) == shape(piece)
    assert shape(put(piece, at, mirrored=True)) == shape(piece, mirrored=True)
    assert shape(put(put(piece, at, True), at, True)) == shape(piece)


def test_drawn_from_its_other_side_it_is_the_same():
    """The flat plate described from its back, and the bevelled one upside down."""
    back = replace(
        FLAT,
        axes=Axes((100.0, 0.0, 10.0), combined((-1.0, X)), Y),
        holes=tuple(replace(h, x=100.0 - h.x) for h in FLAT.holes),
    )
    assert shape(back) == shape(FLAT)
    assert shape(replace(FLAT, holes=FLAT.holes[:2])) != shape(FLAT) != shape(replace(FLAT, thickness=12.0))
    assert shape(replace(FLAT, grade="A36")) != shape(FLAT)
    across = (*FLAT.holes[:2], replace(FLAT.holes[2], turned=math.pi / 2))
    assert shape(replace(FLAT, holes=across)) != shape(FLAT), "a slot along and one across"


@pytest.mark.parametrize(("piece", "two"), [(FLAT, False), (BEVEL, True), (EVEN, False), (ANGLE, True), (BOTH, False)])
def test_only_some_have_a_hand(piece, two):
    """A flat plate is turned over; a bevelled one, and an angle, only if its holes are as far from either end."""
    assert (shape(piece) != shape(piece, mirrored=True)) is two


def skewed(tables):
    """Beams to either side of square, at a girder of their own each."""
    for node in tables["nodes"]:
        node["x"] = {"f": 15 + 20 * math.tan(0.5)}.get(node["node"], node["x"])
    tables["nodes"] += [{"node": n, "x": x, "y": 60, "z": z} for n, x, z in
                        (("a2", 0, 0), ("b2", 0, 12), ("c2", 30, 0), ("d2", 30, 12), ("e2", 15, 12))]  # fmt: skip
    tables["nodes"].append({"node": "f2", "x": 15 - 20 * math.tan(0.5), "y": 80, "z": 12})
    for table in ("members", "end_forces", "supports"):
        names = [n for n in ("member", "i", "j", "node") if n in tables[table][0]]
        tables[table] += [row | {n: f"{row[n]}2" for n in names} for row in tables[table]]
    return tables


def test_beams_to_either_side_of_square_have_marks_of_their_own_where_their_plates_have(tmp_path):
    plan = plan_of(write(skewed(small()), tmp_path / "skewed"))
    keys = ["B1.i", "B12.i"]
    for more, marks in (({}, 1), ({"plate_fit": "full_depth"}, 2)):
        stood = {
            plan.assigned[k].connection.id: o.sizes
            for k, o in plan.with_(overrides={key: more for key in keys}).work(set(keys)).items()
        }
        assert set(stood) == set(keys) and all(stood.values())
        held = gathered(plan, stood)
        assert len(held) == marks, more
        first = plan.assigned[plan.index[keys[0]]]
        names = either_hand(STANDARDS[first.rule.use], first.situation, stood[keys[0]])
        assert set(held) == set(names), "one is of the other hand"
        assert len({formerly(piece, first.situation) for piece in held.values()}) == 1
