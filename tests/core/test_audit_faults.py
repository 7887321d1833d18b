"""Faults put into the demo building: each is caught, and named for what it is."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from handrail.core.building.audit import Audit, audit
from handrail.interchange.bundle import read_bundle
from tests.bundles import SIX, Tables, changed, write


@pytest.fixture
def found(tmp_path) -> Callable[[Callable[[Tables], None]], Audit]:
    return lambda change: audit(read_bundle(write(changed(change), tmp_path / "b")))


def said(result: Audit, code: str) -> list[str]:
    return [f.message for f in result.findings if f.code == code]


def rows(tables: Tables, member: str, end: str = "") -> list[dict[str, str]]:
    return [r for r in tables["end_forces"] if r["member"] == member and end in ("", r["end"])]


def scale(tables: Tables, member: str, end: str, columns: tuple[str, ...], by: float) -> None:
    for row in rows(tables, member, end):
        for c in columns:
            row[c] = str(float(row[c]) * by)


def test_the_demo_has_none(found):
    assert found(lambda t: None).findings == []


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda t: scale(t, "G1", "i", SIX, -1), "the forces at G1.i have the other sign"),
        (lambda t: scale(t, "C7", "j", ("Fx",), -1), "Fx at C7.j has the other sign"),
        (
            lambda t: scale(t, "G1", "j", SIX, 4.4482216152605),
            "the forces at G1.j are in another unit (kN read as kip)",
        ),
        (
            lambda t: scale(t, "G1", "j", SIX, 1 / 4.4482216152605),
            "the forces at G1.j are in another unit (kip read as kN)",
        ),
        (
            lambda t: [r.update(Fy=r["Fz"], Fz=r["Fy"], My=r["Mz"], Mz=r["My"]) for r in rows(t, "C7", "i")],
            "local y and z at C7.i are swapped",
        ),
        (lambda t: [r.update(dict.fromkeys(SIX[1:2], "0")) for r in rows(t, "G1", "i")], "towards -Z were missing"),
        (
            lambda t: [r.update(Fx=str(-float(r["Fx"]))) for r in t["node_loads"] if r["node"] == "n2"],
            "the load on the node has the other sign",
        ),
        (
            lambda t: [
                r.update({c: str(-float(r[c])) for c in SIX}) for r in t["reactions"] if r["node"] in ("n1", "n7")
            ],
            "the reaction is the frame's force on its support",
        ),
    ],
)
def test_the_likeliest_cause_of_a_node_out_of_balance(found, change, words):
    messages = said(found(change), "out_of_balance")
    assert messages and any(words in m for m in messages), messages[:3]


def test_one_fault_is_told_once(found):
    """An end with the other sign looks as if nothing loaded its member: that is no fault of its own."""
    result = found(lambda t: scale(t, "B20", "i", SIX, -1))
    assert (
        "the forces at B20.i have the other sign" in said(result, "out_of_balance")[0]
        and said(result, "member_does_not_close") == []
    )


def test_forces_that_are_not_there_are_the_cause(found):
    def gone(t: Tables) -> None:
        t["end_forces"] = [r for r in t["end_forces"] if not (r["member"] == "G1" and r["end"] == "j")]

    result = found(gone)
    assert any("there are no forces at G1.j" in m for m in said(result, "out_of_balance"))
    assert result.balance["worst"][0]["share"] == pytest.approx(result.balance["worst_share"])


@pytest.mark.parametrize(
    ("factor", "words"),
    [
        (12.0, "moments in kip*in read as kip*ft"),
        (1.3558179, "moments in kN*m read as kip*ft"),
        (-1.0, "the other sign"),
    ],
)
def test_wrong_units_throughout_show_in_the_members(found, factor, words):
    """Every node stays in balance: moments alone are scaled, reactions and node loads with them."""

    def scaled(t: Tables) -> None:
        for row in [r for name in ("end_forces", "reactions", "node_loads") for r in t[name]]:
            for c in SIX[3:]:
                row[c] = str(float(row[c]) * factor)

    result = found(scaled)
    assert said(result, "out_of_balance") == []
    assert any(words in m for m in said(result, "units_do_not_close"))


@pytest.mark.parametrize(("by", "words"), [
    (0.3048, "lengths in m read as ft"), (1 / 0.3048, "lengths in ft read as m"), (25.4, "lengths in mm read as in"),
    (1 / 25.4, "lengths in in read as mm"),
])  # fmt: skip
def test_lengths_in_another_unit_throughout(found, by, words):
    """The file's numbers are `by` times what they should be: those of metres are smaller than those of feet."""

    def scaled(t: Tables) -> None:
        for row, columns in [(n, "xyz") for n in t["nodes"]] + [(s, ("distance",)) for s in t["splices"]]:
            row.update({c: str(float(row[c]) * by) for c in columns})

    assert any(f"({words})" in m for m in said(found(scaled), "units_do_not_close"))


def test_one_member_that_does_not_close(found):
    assert any(
        m.startswith("member C3:")
        for m in said(found(lambda t: scale(t, "C3", "", ("Mz", "My"), 2.0)), "member_does_not_close")
    )


def test_kip_read_as_kn_throughout_is_beyond_what_sections_carry(found):
    result = found(
        lambda t: [
            r.update({c: str(float(r[c]) * 40) for c in SIX})
            for name in ("end_forces", "reactions", "node_loads")
            for r in t[name]
        ]
    )
    assert said(result, "out_of_balance") == [] and said(result, "units_do_not_close") == []
    assert any("times what the section could ever carry" in m for m in said(result, "beyond_section"))


def combination(t: Tables, name: str, *terms: tuple[str, str], kind: str = "strength") -> None:
    t["combinations"] += [
        {"combination": name, "set": kind, "method": "LRFD", "case": c, "factor": f} for c, f in terms
    ]


@pytest.mark.parametrize(
    ("change", "code", "words"),
    [
        (lambda t: combination(t, "1.6L", ("L", "1.6")), "combination_without_dead", "1.6L"),
        (
            lambda t: combination(t, "1.2D+1.6L+0.5Lr again", ("D", "1.2"), ("L", "1.6")),
            "combination_misnamed",
            "has no Lr in it",
        ),
        (
            lambda t: t["cases"].append({"case": "S", "title": "Snow", "nature": "snow", "kind": "linear"}),
            "case_unused",
            "has S in it",
        ),
        (
            lambda t: t.update(combinations=[c for c in t["combinations"] if not c["combination"].startswith("0.9D")]),
            "no_least_dead",
            "0.9D",
        ),
        (
            lambda t: [c.update(nature="other") for c in t["cases"] if c["case"] == "D"],
            "no_dead_load",
            "no case is a dead load",
        ),
        (
            lambda t: [
                r.update({c: str(abs(float(r[c]))) for c in SIX}) for r in t["end_forces"] if r["result"] == "EX"
            ],
            "spectrum_as_linear",
            "case EX",
        ),
        (
            lambda t: t.update(reactions=[r for r in t["reactions"] if r["node"] != "n7"]),
            "support_without_reaction",
            "n7",
        ),
        (lambda t: t["members"].append(dict(t["members"][0], member="C1x")), "member_twice", "C1 and C1x"),
        (lambda t: t["nodes"].append({"node": "near", "x": "0.02", "y": "0", "z": "15"}), "nodes_near", "n2 and near"),
        (
            lambda t: [m.update(section="W14X91") for m in t["members"][:1]],
            "unknown_section",
            "nearest: W14X99, W14X90",
        ),
    ],
)
def test_faults_of_the_tables(found, change, code, words):
    messages = said(found(change), code)
    assert any(words in m for m in messages), messages[:3]


def off_to_the_side(t: Tables, *members: tuple[str, str, str], **nodes: tuple[float, float, float]) -> None:
    t["nodes"] += [{"node": n, "x": str(x), "y": str(y), "z": str(z)} for n, (x, y, z) in nodes.items()]
    t["members"] += [dict(t["members"][0], member=m, i=i, j=j, role="") for m, i, j in members]


def test_parts_that_hang_on_nothing(found):
    result = found(lambda t: off_to_the_side(t, ("Y1", "p", "q"), p=(500, 0, 0), q=(520, 0, 0)))
    assert any("1 member(s) (Y1) are joined to no support" in m for m in said(result, "part_unsupported"))


def test_members_that_cross_and_nodes_on_members(found):
    def crossing(t: Tables) -> None:
        off_to_the_side(
            t,
            ("Y1", "p", "q"),
            ("Y2", "r", "s"),
            ("Y3", "u", "v"),
            p=(500, 0, 10),
            q=(520, 0, 10),
            r=(510, -10, 10),
            s=(510, 10, 10),
            u=(505, 0, 10),
            v=(505, 0, 0),
        )

    result = found(crossing)
    assert any("Y1 and Y2 cross without a node" in m for m in said(result, "members_cross"))
    assert any("node u lies on member Y1" in m for m in said(result, "node_on_member"))


def test_braces_that_pass_each_other_are_noted(found):
    def passing(t: Tables) -> None:
        off_to_the_side(
            t, ("Y1", "p", "q"), ("Y2", "r", "s"), p=(500, 0, 0), q=(520, 0, 20), r=(520, 0, 0), s=(500, 0, 20)
        )

    result = found(passing)
    assert said(result, "members_cross") == [] and "Y1 x Y2" in said(result, "braces_cross")[0]


def test_what_second_order_analysis_adds_is_no_slip(found):
    """Columns of 4 ft and more lean by a hundredth of that: their thrust has a moment that end shears do not see."""

    def leaned(t: Tables) -> None:
        for member in t["members"]:
            if member["role"] == "column":
                by = {(r["result"], r["end"]): r for r in rows(t, member["member"])}
                for (_, end), row in by.items():
                    if end == "j":
                        row["Mz"] = str(float(row["Mz"]) + 0.01 * 4 * abs(float(row["Fx"])))

    result = found(leaned)
    assert said(result, "member_does_not_close") == [] and said(result, "units_do_not_close") == []
