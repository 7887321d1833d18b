"""Framing conditions: each recognised, with its reason; nothing dropped without a word."""

from __future__ import annotations

from collections import Counter

import pytest

from handrail.core.building.framing import CONDITIONS, frame
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import SHARES
from handrail.interchange.bundle import read_bundle
from tests.bundles import Tables, plan_of, small, write


def framed(tables: Tables, folder) -> dict[str, tuple[str, Connection]]:
    found = frame(read_bundle(write(tables, folder)))
    return {c.id: (c.framing, c) for c in found.connections}, dict(found.without)


def node(tables: Tables, name, x, y, z):
    tables["nodes"].append({"node": name, "x": x, "y": y, "z": z})


def member(tables: Tables, name, i, j, section="W14X26", role="beam", grade="A992", release_i="", release_j="", **more):
    tables["members"].append(
        {
            "member": name,
            "i": i,
            "j": j,
            "section": section,
            "grade": grade,
            "role": role,
            "release_i": release_i,
            "release_j": release_j,
            **more,
        }
    )


def without(tables: Tables, name):
    for table in ("members", "end_forces"):
        tables[table] = [row for row in tables[table] if row["member"] != name]


def test_the_demo_building_is_recognised_whole(demo_folder):
    found = frame(read_bundle(demo_folder))
    counts = Counter(c.framing for c in found.connections)
    assert counts["unrecognised"] == 0
    assert set(counts) <= set(CONDITIONS)
    for name in (
        "beam_to_column_flange",
        "beam_to_column_web",
        "beam_to_girder",
        "beam_to_hollow_column",
        "beam_over_column",
        "column_splice",
        "column_base",
        "brace_at_corner",
        "brace_at_beam",
        "brace_at_base",
        "moment_to_column_flange",
        "column_on_beam",
    ):
        assert counts[name] > 0, name
    assert counts["column_base"] == 38 and counts["column_splice"] == 35
    assert any(abs(c.supported.skew - 18) < 0.1 for c in found.connections)
    assert any(c.supported.slope < -5 for c in found.connections)  # ramps that fall away from their columns
    assert any(c.facts["cope"] == "top" for c in found.connections)
    assert any(c.others(SHARES) for c in found.connections)


def test_every_end_is_a_connection_or_has_a_word(demo_folder):
    building = read_bundle(demo_folder)
    found = frame(building)
    named = {c.id for c in found.connections} | {end for end, _ in found.without}
    for k, ends in found.pieces.ending.items():
        for m, end in ends:
            name = f"{building.members[m].name}.{'ij'[end]}"
            splice = any(c.framing == "column_splice" and c.node == k for c in found.connections)
            assert name in named or splice, name


def test_small_bay(tmp_path):
    found, without = framed(small(), tmp_path / "b")
    assert found["G1.i"][0] == "beam_to_column_flange"
    assert found["B1.i"][0] == "beam_to_girder"
    assert found["C1.i"][0] == "column_base"
    assert "free end" in without["B1.j"]
    assert "top of" in without["C1.j"]
    assert found["G1.i"][1].carrier.ends_here  # the column stops at this beam


def test_flange_and_web_by_roll(tmp_path):
    tables = small()
    for m in tables["members"][:2]:
        m["roll"] = 90
    assert framed(tables, tmp_path / "b")[0]["G1.i"][0] == "beam_to_column_web"
    for m in tables["members"][:2]:
        m["roll"] = 30
    framing, turned = framed(tables, tmp_path / "c")[0]["G1.i"]
    assert (framing, turned.supported.skew) == ("beam_to_column_flange", pytest.approx(30.0, abs=0.01))


def test_an_end_that_is_not_released_is_a_moment_end(tmp_path):
    tables = small()
    tables["members"][2]["release_i"] = ""
    assert framed(tables, tmp_path / "b")[0]["G1.i"][0] == "moment_to_column_flange"


def test_splices_and_rafters(tmp_path):
    tables = small()
    node(tables, "top", 0, 0, 24)
    member(tables, "C3", "b", "top", "W12X40", "column")
    found, _ = framed(tables, tmp_path / "b")
    assert found["C3.i"][0] == "column_splice"

    tables = small()
    without(tables, "B1")
    tables["members"][3]["section"] = "W18X40"  # G2 is another piece than G1
    assert "beam_splice" in [f for f, _ in framed(tables, tmp_path / "c")[0].values()]

    tables = small()
    without(tables, "B1")
    tables["nodes"][4]["z"] = 16
    for m in tables["members"]:
        m["release_i"] = m["release_j"] = ""
    found, _ = framed(tables, tmp_path / "d")
    kinds = Counter(f for f, _ in found.values())
    assert kinds["rafter_to_rafter"] == 1 and kinds["column_to_rafter"] == 2


def test_beams_at_the_splice_of_their_girder(tmp_path):
    """Two parts of a girder that are not released, of two sections: a splice there, and the beam at it ends at the
    deeper one's web."""
    tables = small()
    tables["members"][3]["section"] = "W21X50"
    found, ends = framed(tables, tmp_path / "b")
    assert found["G2.i"][0] == "beam_splice" and "spliced with" in ends["G1.j"]
    assert found["B1.i"][0] == "beam_to_girder" and found["B1.i"][1].carrier.ends_here
    assert frame(read_bundle(tmp_path / "b")).connections[-1].reason.endswith("W21X50 G2, which ends there")


def test_a_beam_that_goes_on_behind_a_hinge(tmp_path):
    """The suspended part of a girder stands on the tip of the part that reaches out; a beam there ends at the tip's
    web."""
    tables = small()
    tables["members"][3]["release_i"] = "My Mz"  # G2 hangs on G1's tip
    found, ends = framed(tables, tmp_path / "b")
    assert found["G2.i"][0] == "beam_splice" and found["B1.i"][0] == "beam_to_girder"
    assert "spliced with" in ends["G1.j"]


def test_purlins_at_a_ridge(tmp_path):
    tables = small()
    tables["nodes"][4]["z"] = 16
    for m in tables["members"][:4]:
        m["release_i"] = m["release_j"] = ""
    found, _ = framed(tables, tmp_path / "b")
    assert found["G2.i"][0] == "rafter_to_rafter"
    assert found["B1.i"][0] == "beam_to_girder"


def test_a_beam_over_a_hollow_post_and_a_post_on_a_beam(tmp_path):
    tables = small()
    tables["members"][0] |= {"section": "HSS6X6X3/8", "grade": "A500C", "release_j": "My Mz"}
    node(tables, "left", -8, 0, 12)
    member(tables, "G0", "left", "b", "W18X50")
    tables["members"][2]["release_i"] = ""
    node(tables, "up", 15, 0, 18)
    member(tables, "P1", "e", "up", "W8X31", "column")
    found, without = framed(tables, tmp_path / "b")
    assert found["C1.j"][0] == "beam_over_column"
    assert found["P1.i"][0] == "column_on_beam"
    assert "free top" in without["P1.j"] and "free end" in without["G0.i"]


def test_what_meets_under_a_post_on_a_girder(tmp_path):
    """Beams end at the girder's web, not at the post that it carries; a brace from below meets the girder, one from
    above the post's foot."""
    tables = small()
    node(tables, "up", 15, 0, 20)
    member(tables, "P1", "e", "up", "W8X31", "column")
    node(tables, "high", 30, 0, 20)
    member(tables, "X1", "a", "e", "HSS6X6X3/8", "brace", "A500C")
    member(tables, "X2", "e", "high", "HSS6X6X3/8", "brace", "A500C")
    found, _ = framed(tables, tmp_path / "b")
    assert found["P1.i"][0] == "column_on_beam" and found["B1.i"][0] == "beam_to_girder"
    assert (found["X1.j"][0], found["X2.i"][0]) == ("brace_at_beam", "brace_at_corner")


def test_braces(tmp_path):
    tables = small()
    member(tables, "X1", "a", "d", "HSS6X6X3/8", "brace", "A500C")
    node(tables, "apex", 15, 5, 12)
    member(tables, "X2", "c", "e", "HSS6X6X3/8", "brace", "A500C")
    found, _ = framed(tables, tmp_path / "b")
    assert (found["X1.i"][0], found["X1.j"][0], found["X2.j"][0]) == (
        "brace_at_base",
        "brace_at_corner",
        "brace_at_beam",
    )


def test_what_cannot_be_told_says_so(tmp_path):
    tables = small()
    node(tables, "g", 15, 40, 12)
    node(tables, "h", 25, 20, 12)
    member(tables, "B2", "f", "g", release_i="My Mz")
    member(tables, "B3", "f", "h", release_i="My Mz")
    found = frame(read_bundle(write(tables, tmp_path / "b")))
    odd = [c for c in found.connections if c.framing == "unrecognised"]
    assert len(odd) == 3 and all("none runs through" in c.reason for c in odd)


def test_explicit_pieces_win(tmp_path):
    """`physical` makes two elements one piece even where a release would part them."""
    tables = small()
    for m in tables["members"]:
        m["physical"] = "girder" if m["member"].startswith("G") else m["member"]
    tables["members"][3]["release_i"] = "My Mz"
    assert framed(tables, tmp_path / "b")[0]["B1.i"][0] == "beam_to_girder"


def test_opposed_and_cope(tmp_path):
    tables = small()
    node(tables, "g", 15, -20, 12)
    member(tables, "B2", "e", "g", release_i="My Mz")
    found, _ = framed(tables, tmp_path / "b")
    assert found["B1.i"][1].others(SHARES) == ("B2.i",) and found["B2.i"][1].others(SHARES) == ("B1.i",)
    assert found["B1.i"][1].facts["cope"] == "top"  # W14X26 flush in W18X50
    tables["members"][4]["top_offset"] = 0.5  # ft
    assert framed(tables, tmp_path / "c")[0]["B1.i"][1].facts["cope"] == "bottom"


def test_what_stands_without_a_standard_says_why(tmp_path):
    tables = small()
    tables["members"][2]["section"] = "W99X999"
    plan = plan_of(write(tables, tmp_path / "b"))
    found = {a.connection.id: (a.status, a.reason) for a in plan.assigned}
    assert found["G1.i"] == ("unchecked", "section W99X999 is not in the catalogue")
    on_nothing = next(o for k, o in plan.work({"C1.i"}).items() if plan.assigned[k].connection.id == "C1.i")
    assert on_nothing.status == "unchecked" and "no foundation is known under this base" in on_nothing.reason
    bent = plan_of(write(bend(small()), tmp_path / "c"))
    assert ("unassigned", "framing not recognised: 3 beam ends meet and none runs through") in [
        (a.status, a.reason) for a in bent.assigned
    ]


def bend(tables: Tables) -> Tables:
    """The small bay with its girder cut by hinges where the beam comes in."""
    for row in tables["members"]:
        if row["member"] in ("G1", "G2"):
            row["release_i"] = row["release_j"] = "My Mz"
    return tables


def test_no_fact_is_minus_nothing(demo_folder):
    """0 and -0 are equal and are written differently: what rests on facts is told by how they are written."""
    found = frame(read_bundle(demo_folder)).connections
    pieces = [v for c in found for p in c.pieces for v in (p.skew, p.slope, p.offset)]
    facts = [v for c in found for v in c.facts.values() if isinstance(v, float)]
    assert facts and not any(str(v) == "-0.0" for v in (*pieces, *facts))
