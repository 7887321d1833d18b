"""Members as whole pieces of steel: how long, how cut, drilled where; the same whichever way the building is turned."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from handrail.core.checking.assembled import assembled
from handrail.core.checking.member_lists import ends, holes, holes_of
from handrail.core.checking.steelwork import steelwork
from handrail.core.solids import bodies
from tests.bundles import DEMO, across, crowded, demo_sized, plan_of, small, write
from tests.wide import wide

IN = 25.4


def made(folder):
    """(plan, its pieces of steel by name, connection -> solids, connection -> sizes) of a bundle, sized."""
    plan = plan_of(folder)
    outcomes = demo_sized() if folder == DEMO / "bundle" else plan.work()
    standing = [(plan.assigned[k], (plan.assigned[k].rule.use, o.sizes)) for k, o in outcomes.items() if o.sizes]
    solids = [one for joint in assembled(plan.building, standing) for one in joint.solids()]
    connections = {a.connection.id: a.connection for a in plan.assigned}
    found = {s.name: s for s in steelwork(plan.building, plan.framing.pieces, connections, solids)}
    return plan, found, dict(solids), {a.connection.id: sizes for a, (_, sizes) in standing}


@pytest.fixture(scope="module")
def demo():
    return made(DEMO / "bundle")


def rows(table):
    head, body = table
    return [dict(zip(head, row, strict=True)) for row in body]


def test_a_beam_between_girders_is_shortened_by_half_a_web_and_the_gap(demo):
    """By hand: W24X68, tw 0.415 in., gap 1/2 in. along the beam -> 0.7075 in. off where it meets it squarely,
    and a web that is met at an angle is as much wider."""
    plan, found, _, sizes = demo
    seen = 0
    for steel in found.values():
        for end in steel.ends:
            framed = next((a.connection for a in plan.assigned if a.connection.id == end.connection), None)
            if framed is None or framed.framing != "beam_to_girder" or framed.supported.slope:
                continue
            if plan.assigned[plan.index[framed.id]].rule.use == "shear_end_plate":
                continue
            web = plan.building.section(plan.building.members[framed.support].section).tw
            gap = sizes[framed.id]["gap"].value if "gap" in sizes[framed.id] else None
            if gap is not None:
                skew = math.radians(framed.supported.skew)
                assert end.off == pytest.approx(web / 2 / math.cos(skew) + gap, abs=0.1), framed.id
                seen += 1
    assert seen > 100


@wide
def test_every_piece_is_one_body_and_no_longer_than_its_line(demo):
    plan, found, _, _ = demo
    for steel in found.values():
        body = bodies.body(steel.bar)
        assert len(body.decompose()) == 1, steel.name
        nodes = [plan.building.xyz[end.node] for end in steel.ends]
        assert steel.bar.length < float(np.linalg.norm(nodes[1] - nodes[0])) + 2 * steel.section.d
        assert body.volume() < 1.02 * steel.section.A * steel.bar.length


def test_what_each_connection_has_of_a_member_is_in_the_whole_one(demo):
    """Near it; others take away and drill what it does not know of."""
    found = demo[1]
    for steel in list(found.values())[::9]:
        whole = bodies.body(steel.bar)
        for taken in steel.taken:
            own = bodies.body(taken.bar)
            left = (own - whole).volume() / own.volume()
            past = steel.taken and taken.where != "along" and taken.bar.name == "support"  # drawn on beyond its end
            assert past or left < 0.02, (steel.name, taken.connection, left)


def test_no_bolt_stands_in_a_member(demo):
    """Whichever connection it is of, a piece is drilled for it."""
    _, found, solids, _ = demo
    for steel in list(found.values())[::17]:
        whole = bodies.body(steel.bar)
        for taken in steel.taken:
            for bolt in solids[taken.connection].bolts:
                assert bodies.shared(bodies.shank(bolt), whole) < 1.0, (steel.name, bolt.name)


def test_rows_of_the_small_bay(tmp_path):
    """W14X26 at the girder W18X50 (tw 0.355): 0.1775 in. and the gap off its line; a row an end, a row a face."""
    plan, found, _, sizes = made(write(small(), tmp_path))
    marks, shown = {"B1.i": "SP1"}, dict.fromkeys(sizes, "2")
    by_end = {(r["member"], r["connection"]): r for r in rows(ends(list(found.values()), marks, shown, "us"))}
    own = by_end["B1", "B1.i"]
    girder = plan.building.section(plan.building.members[[m.name for m in plan.building.members].index("G1")].section)
    assert own["taken off, in"] == pytest.approx(girder.tw / IN / 2 + sizes["B1.i"]["gap"].value / IN, abs=1e-3)
    assert own["mark"] == "SP1" and own["end cut"] == "square" and own["level"] == "2"
    assert own["holes"] == sizes["B1.i"]["rows"].value * sizes["B1.i"]["columns"].value
    faces = [r for r in rows(holes(list(found.values()), marks, shown, "us")) if r["member"] == "B1"]
    assert {r["face"] for r in faces} == {"web"}
    assert sum(r["count"] for r in faces) == own["holes"]
    top = plan.building.section("W14X26")
    assert all(0 < float(v) < top.d / IN for r in faces for v in r["across, in"].split("; "))
    assert rows(ends(list(found.values()), marks, {}, "us")) == []


def test_bolts_that_hold_two_beams_drill_the_girder_once(tmp_path):
    found = made(write(across("W16X31", "W16X31", 20, 20), tmp_path))[1]
    girder = next(s for s in found.values() if {"B1.i", "B2.i"} <= {t.connection for t in s.taken})
    places = [place for some in holes_of(girder) for place in some.places]
    assert len(places) == len(set(places)) == len(girder.bar.bores)


@given(st.floats(-40, 40), st.integers(0, 3))
@settings(max_examples=6, deadline=None)
def test_turned_or_mirrored_the_lists_are_the_same(tmp_path_factory, angle, quarters):
    tables = crowded(angle)
    plain = made(write(tables, tmp_path_factory.mktemp("plain")))
    c, s = (1, 0, -1, 0)[quarters], (0, 1, 0, -1)[quarters]
    for node in tables["nodes"]:
        x, y = float(node["x"]), float(node["y"])
        node["x"], node["y"] = c * x - s * y, s * x + c * y
    for member in tables["members"]:
        if member["role"] == "column":
            member["roll"] = 90 * quarters
    turned = made(write(tables, tmp_path_factory.mktemp("turned")))

    def listed(of):
        steel = [one for one in of[1].values() if one.role == "beam"]
        shown = dict.fromkeys(of[3], "2")
        return rows(ends(steel, {}, shown, "us")), rows(holes(steel, {}, shown, "us"))

    for one, other in zip(listed(plain), listed(turned), strict=True):
        assert [_bare(r) for r in one] == [_bare(r) for r in other]


def _bare(row):
    return {name: round(v, 2) if isinstance(v, float) else v for name, v in row.items()}
