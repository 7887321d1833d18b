"""Room that connections leave each other: wrenches, electrodes, ways in."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from handrail.core.checking.assembled import Assembled
from handrail.core.checking.colliding import Colliding
from handrail.core.quantities.units import INCH
from handrail.core.solids.access import REACH, STICK, WELDING, WRENCH, crowded
from handrail.core.solids.axes import Axes, X, Y
from handrail.core.solids.bringing import PATHS, WAY, leaves
from handrail.core.solids.pieces import Plate, Solids, Weld
from handrail.core.solids.placed import placed
from tests.core.test_assembled import stood
from tests.core.test_solids import of
from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, WEB

SINGLE = of(FLANGE)  # a plate on a column's flange; its bolts' heads on the plate's side, towards +y


def block(low, high, name="block") -> Plate:
    """A box between two corners, as another connection's piece."""
    (x, y, z), (u, v, w) = low, high
    return Plate(
        name=name,
        part="plate",
        axes=Axes((x, y, z)),
        outline=((0.0, 0.0), (u - x, 0.0), (u - x, v - y), (0.0, v - y)),
        thickness=w - z,
    )


def beside(*pieces: Plate) -> Solids:
    """They come with the support."""
    line = ((0.0, 0.0, -1e4), (0.0, 0.0, -1e4 - 1))
    on = [Weld(name=f"on {p.name}", part="weld", run=line, legs=(X, Y), size=5.0, joins=(p.name, "support"),
               field=False, kind="groove") for p in pieces]  # fmt: skip
    return Solids(members=(), pieces=pieces, welds=tuple(on))


def rooms(own: Solids, *pieces: Plate) -> list[tuple[str, str, str, float]]:
    return [(c.one[1], c.other[1], c.room, round(c.depth, 1)) for c in crowded([("A", own), ("B", beside(*pieces))])]


BOLT = SINGLE.bolts[0]
X0, Y0, Z0 = BOLT.axes.origin
NUT = Y0 - BOLT.grip  # heads stand at y = Y0, nuts towards -y
SOCKET = (2.25 / 2 + 1 / 8) * INCH  # of a 3/4 in. bolt: half of a 2-1/4 in. socket and 1/8


def at_nut(off: float, away: float = 20.0) -> Plate:
    """Beside the first bolt's axis, so far below it, on the nut's side."""
    return block((X0 - 5, NUT - away - 30, Z0 + off), (X0 + 5, NUT - away, Z0 + off + 8))


def at_head(off: float) -> Plate:
    return block((X0 - 5, Y0 + 20, Z0 + off), (X0 + 5, Y0 + 50, Z0 + off + 8), "other")


def test_a_wrench_goes_on_from_either_side():
    """One side shut, the bolt is turned round; both shut, it is told of, by what stands less deep."""
    assert BOLT.axes.z[1] == pytest.approx(-1.0) and BOLT.bolt.tightening == pytest.approx(SOCKET)
    inside, clear = SOCKET - 6.0, SOCKET + 1.0
    assert rooms(SINGLE, at_nut(inside)) == [] == rooms(SINGLE, at_head(inside))
    told = rooms(SINGLE, at_nut(inside), at_head(inside - 2))
    assert (BOLT.name, "block", WRENCH, 6.0) in [(*t[:3], round(t[3])) for t in told]
    assert rooms(SINGLE, at_nut(clear), at_head(inside)) == []
    assert rooms(SINGLE, at_nut(inside, away=REACH + 1), at_head(inside)) == []


def test_a_bolt_has_to_come_in_from_the_other_side():
    """Its length before its head on the side away from the wrench: 2 in. of bolt and 30 mm of room do not go, nor does
    a socket of 2-1/2 in."""
    walls = {off: block((X0 - 8, Y0 + off, Z0 - 8), (X0 + 8, Y0 + off + 10, Z0 + 8), "wall") for off in (30, 55, 70)}
    assert 40 < BOLT.length < 55 < REACH < 70
    assert [t[:3] for t in rooms(SINGLE, walls[30])] == [(BOLT.name, "wall", WRENCH)]
    assert rooms(SINGLE, walls[55]) == []
    assert rooms(SINGLE, walls[55], at_nut(SOCKET - 6)) != [] == rooms(SINGLE, walls[70], at_nut(SOCKET - 6))


def test_what_has_no_room_alone_is_not_the_other_s_doing():
    own = replace(SINGLE, pieces=(*SINGLE.pieces, at_nut(5), at_head(5)))
    assert rooms(own, replace(at_nut(10), name="more")) == []


def test_two_bolts_come_one_after_the_other():
    """Crossing plates' bolts: each in the other's socket on both sides is told; one in the way of one is not."""
    bare = replace(SINGLE, members=(), pieces=(), welds=())
    near = placed(bare, Axes((0.0, 0.0, 38.1)))  # rows of the one between the other's: 1.5 in. apart
    told = crowded([("A", bare), ("B", near)])
    assert {(c.room, c.parts) for c in told} == {(WRENCH, ("bolts", "bolts"))}
    assert {c.one[0] for c in told} == {"A", "B"}
    fewer = replace(near, bolts=near.bolts[:1])  # one is enough
    assert {c.one[0] for c in crowded([("A", bare), ("B", fewer)])} == {"A", "B"}
    shop = replace(near, bolts=tuple(replace(b, field=False) for b in near.bolts))
    assert crowded([("A", bare), ("B", shop)]) == []  # B comes with its bolts after those of A


def test_one_connection_is_done_before_the_other_comes():
    """A beam of B in the room for A's bolts comes later; not where a bolt holds both, or where A's comes into the room
    for B's, too."""
    walls = at_nut(SOCKET - 6), at_head(SOCKET - 6)
    later = Solids(members=(), pieces=walls)
    assert crowded([("A", SINGLE), ("B", later)]) == [] != crowded([("A", SINGLE), ("B", beside(*walls))])
    shared = replace(SINGLE, bolts=tuple(replace(b, plies=(*b.plies, "B: block")) for b in SINGLE.bolts))
    assert {c.one[0] for c in crowded([("A", shared), ("B", later)])} == {"A"}
    theirs = placed(replace(SINGLE, members=(), pieces=(), welds=()), Axes((0.0, 0.0, -2000.0)))
    first = theirs.bolts[0]
    own = replace(SINGLE, pieces=(*SINGLE.pieces, *(moved(w, -2000.0, f"own {w.name}") for w in walls)))
    told = crowded([("A", own), ("B", replace(later, bolts=(first,)))])
    assert {(c.one[0], c.other[0]) for c in told} == {("A", "B"), ("B", "A")}


def moved(piece: Plate, up: float, name: str) -> Plate:
    return replace(piece, axes=piece.axes.moved(z=up), name=name)


def test_an_electrode_has_room_at_one_lean_at_least():
    """Angles welded to the support at the site: a plate across in front of the toe shuts out all leans, one beyond the
    electrode's 6 in. none; one beside it leaves it the steep ones."""
    welded = of({**GIRDER, "parameters": {}}, {"rows": 3, "support_side": "welded"}, standard="double_angle")
    weld = next(w for w in welded.welds if w.field and w.part == "weld")
    (x, y, z0), (_, _, z1) = weld.run
    bare = replace(welded, members=welded.members[1:], bolts=())
    low, high, side = min(z0, z1), max(z0, z1), math.copysign(1.0, y)
    far = STICK + weld.size
    across = [block((x + off, y - 200, low), (x + off + 10, y + 200, high)) for off in (20.0, far)]
    assert {t[2] for t in rooms(bare, across[0])} == {WELDING} and rooms(bare, across[1]) == []
    aside = [sorted((y + side * off, y + side * (off + 10))) for off in (10.0, far)]
    beside_it = [block((x + 1, a, low), (x + 300, b, high)) for a, b in aside]
    assert {t[0] for t in rooms(bare, beside_it[0])} == {weld.name} and rooms(bare, beside_it[1]) == []


@pytest.mark.parametrize(
    ("base", "more", "free"),
    [
        (FLANGE, {}, [1, 6, 7]),  # past its plate on the one side; off it and then up or down
        (FLANGE, {"standard": "double_angle", "parameters": {"rows": 3}}, list(range(8))),
        (GIRDER, {"standard": "double_angle", "parameters": {"rows": 3}}, [0, 1]),  # along the girder
        (FLANGE, {**WEB, "standard": "double_angle", "parameters": {"rows": 3}}, [2, 3]),  # between a column's flanges
        (FLANGE, HOLLOW, [1, 6, 7]),
    ],
)
def test_how_a_beam_leaves_its_own_support(base, more, free):
    made = of({**base, "parameters": {}} if "parameters" in more else base, more.get("parameters"),
              **{k: v for k, v in more.items() if k != "parameters"})  # fmt: skip
    assert [k for k in range(len(PATHS)) if leaves(made, k)] == free


def test_of_two_one_goes_first():
    """Two beams side by side at a girder, each past its plate: the one leaves away from the other, which follows; each
    towards the other, neither does, and both are told, as something to look at."""
    two = stood(Axes((0.0, 400.0, 0.0)))
    follow, meet = (Assembled(0, ("A", "B"), (stood(Axes(), mirrored=m), two), ()).collisions() for m in (False, True))
    assert follow == [] and [(c.one, c.other, c.room) for c in meet] == [
        (("A", "beam"), ("B", "beam"), WAY),
        (("B", "beam"), ("A", "beam"), WAY),
    ]
    angles = [stood(at, standard="double_angle") for at in (Axes(), Axes((0.0, 400.0, 0.0)))]
    assert Assembled(0, ("A", "B"), tuple(angles), ()).collisions() == []


def test_words_say_whose_room_it_is():
    told = Colliding("bolts 1", "bolts", "B.i", "plate", "plate", 6.0, (10.0, 0.0, -80.0), False, WRENCH, True)
    assert "bolts 1 has no room for a wrench" in told.words("beam_to_girder") and told.breaks
    other = replace(told, piece="plate", its="bolts 1", part="plate", its_part="bolts", own=False)
    assert "in the room for a wrench at bolts 1 of B.i" in other.words("beam_to_girder")
    assert told.stand_parts == ("bolts wrench", "plate") == other.stand_parts[::-1]
    way = replace(told, room=WAY, piece="beam", part="beam")
    assert "cannot be brought in straight" in way.words("beam_to_girder") and not way.breaks
