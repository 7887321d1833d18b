"""What a person says of a joint in place of what was recognised: taken where it can be, with its facts worked out
again; refused in words where not."""

from __future__ import annotations

from pathlib import Path

import pytest

from handrail.core.building.correcting import MEETS, Correction, corrected
from handrail.core.building.framing import CONDITIONS, frame
from handrail.core.joint.relations import SHARES
from handrail.interchange.bundle import read_bundle
from tests.bundles import Tables, small, write
from tests.core.test_framing import bend, member, node

ALL = "ab cd"


def bay() -> Tables:
    """The small bay with a beam on the other side of its girder, a brace, a post on the girder and a hollow column."""
    tables = small()
    node(tables, "g", 15, -20, 12)
    member(tables, "B2", "e", "g", release_i="My Mz")
    member(tables, "X1", "a", "d", "HSS6X6X3/8", "brace", "A500C")
    node(tables, "up", 15, 0, 20)
    member(tables, "P1", "e", "up", "W8X31", "column")
    return tables


def correct(folder: Path, tables: Tables, **said: Correction):
    building = read_bundle(write(tables, folder))
    plain = frame(building)
    found, misfits = corrected(building, plain, {name.replace("_", "."): c for name, c in said.items()})
    return {c.id: c for c in plain.connections}, {c.id: c for c in found.connections}, misfits


def test_another_face_of_the_column(tmp_path):
    """A girder that comes at the flange is said to come at the web: its skew is measured from there, and its words say
    who and why."""
    before, after, misfits = correct(
        tmp_path, bay(), G1_i=Correction("beam_to_column_web", words="corrected by ann (turned on site)")
    )
    assert not misfits and before["G1.i"].framing == "beam_to_column_flange"
    assert after["G1.i"].framing == "beam_to_column_web" and after["G1.i"].supported.skew == pytest.approx(90)
    assert after["G1.i"].reason.startswith("corrected by ann (turned on site); recognised as beam_to_column_flange:")
    assert after["G1.i"].carrier.ends_here == before["G1.i"].carrier.ends_here
    assert {k: v for k, v in after.items() if k != "G1.i"} == {k: v for k, v in before.items() if k != "G1.i"}


def test_beams_that_none_runs_through_for(tmp_path):
    """Three beams meet and none runs through: two of them are said to rest on the third, and face each other across
    nothing."""
    tables = bend(small())
    before, after, misfits = correct(tmp_path, tables, B1_i=Correction("beam_to_girder", "G1"))
    assert before["B1.i"].framing == "unrecognised" and not misfits
    made = after["B1.i"]
    assert (made.framing, made.support) == ("beam_to_girder", 2)
    assert made.facts["cope"] == "top" and made.carrier.ends_here is True


def opposed(connection):
    """The one on the other side of the web; empty where there is none."""
    return next(iter(connection.others(SHARES)), "")


def test_opposed_beams_are_found_again(tmp_path):
    """B1 and B2 face each other through one girder, by whichever element of it they are said to rest on; not once B2 is
    said to rest on the post."""
    before, after, _ = correct(tmp_path, bay(), B2_i=Correction("", "G2"))
    assert opposed(before["B1.i"]) == "B2.i"
    assert (after["B2.i"].support, opposed(after["B1.i"]), opposed(after["B2.i"])) == (
        3,
        "B2.i",
        "B1.i",
    )
    apart = correct(tmp_path / "b", bay(), B2_i=Correction("beam_to_column_web", "P1"))[1]
    assert (apart["B2.i"].framing, opposed(apart["B1.i"]), opposed(apart["B2.i"])) == (
        "beam_to_column_web",
        "",
        "",
    )


@pytest.mark.parametrize(
    ("key", "said", "why"),
    [
        ("G2.j", Correction("beam_to_girder"), "needs a beam at node d"),
        ("B1.i", Correction("beam_to_hollow_column"), "is not hollow"),
        ("B1.i", Correction("beam_to_girder", "C1"), "C1 does not meet it at e; there is B2, G1, G2, P1"),
        ("B1.i", Correction("brace_at_beam"), "is a beam, and brace_at_beam is of a brace"),
        ("B1.i", Correction("welded"), "is no framing condition to correct to"),
        ("B1.i", Correction("unrecognised"), "is no framing condition to correct to"),
        ("B1.i", Correction("beam_splice", "G1"), "are not in one line"),
        ("G1.i", Correction("beam_to_hollow_column"), "is not hollow"),
        ("G1.i", Correction("", "X9"), "does not meet it at b"),
        ("C1.i", Correction("column_splice"), "needs a column at node a"),
        ("P1.i", Correction("column_base"), "needs a support at node e"),
        ("P1.i", Correction("beam_over_column"), "is its foot, not its top"),
        ("C1.i", Correction("column_base", "X1"), "leave the supporting member out"),
        ("X1.i", Correction("brace_at_beam"), "needs a beam at node a"),
    ],
)
def test_what_cannot_be_is_refused_and_left_as_it_was(tmp_path, key, said, why):
    before, after, misfits = correct(tmp_path, bay(), **{key.replace(".", "_"): said})
    assert why in misfits[key]
    assert (after[key].framing, after[key].facts) == (before[key].framing, before[key].facts)
    assert "cannot be" in after[key].reason


def test_by_its_support_alone(tmp_path):
    """The brace's foot is said to meet the column, its top stays; the post stands on the other half of the girder."""
    _, after, misfits = correct(tmp_path, bay(), X1_i=Correction("", "C1"), P1_i=Correction("", "G2"))
    assert not misfits
    assert (after["X1.i"].framing, after["X1.i"].support) == ("brace_at_corner", 0)
    assert (after["P1.i"].framing, after["P1.i"].support) == ("column_on_beam", 3)


def test_every_condition_can_be_corrected_to_but_one():
    assert set(MEETS) == set(CONDITIONS) - {"unrecognised"}
