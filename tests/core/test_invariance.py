"""The same building, told in another way, has the same connections and utilisations."""

from __future__ import annotations

import math
import random

import pytest

from tests.bundles import SIX, Tables, changed, in_si, outcomes, write
from tests.wide import some

ANGLE = math.radians(37.0)


def turned(t: Tables) -> None:
    cos, sin = math.cos(ANGLE), math.sin(ANGLE)
    at = {n["node"]: n for n in t["nodes"]}
    vertical = {
        m["member"] for m in t["members"] if (at[m["i"]]["x"], at[m["i"]]["y"]) == (at[m["j"]]["x"], at[m["j"]]["y"])
    }
    for m in t["members"]:
        up = float(at[m["j"]]["z"]) > float(at[m["i"]]["z"])
        m["roll"] = (37.0 if up else -37.0) if m["member"] in vertical else 0.0
    for n in t["nodes"]:
        x, y = float(n["x"]), float(n["y"])
        n["x"], n["y"] = x * cos - y * sin, x * sin + y * cos
    for row in t["reactions"] + t["node_loads"]:
        for a, b in (("Fx", "Fy"), ("Mx", "My")):
            x, y = float(row[a]), float(row[b])
            row[a], row[b] = x * cos - y * sin, x * sin + y * cos
    for row in t["foundations"]:
        row["turn"] = 37.0


def mirrored(t: Tables) -> None:
    for n in t["nodes"]:
        n["y"] = -float(n["y"])
    for row in t["end_forces"]:  # force vectors mirror, moments mirror and turn over; local z turns over too
        for name in ("Fz", "Mx", "My"):
            row[name] = -float(row[name])
    for row in t["reactions"] + t["node_loads"]:
        for name in ("Fy", "Mx", "Mz"):
            row[name] = -float(row[name])
    for row in t["foundations"]:
        row["edge_ym"], row["edge_yp"] = row["edge_yp"], row["edge_ym"]


def y_up(t: Tables) -> None:
    t["manifest"]["handrail"]["up"] = "Y"
    for n in t["nodes"]:
        n["y"], n["z"] = float(n["z"]), -float(n["y"])
    for row in t["reactions"] + t["node_loads"]:
        for a, b in (("Fy", "Fz"), ("My", "Mz")):
            row[a], row[b] = float(row[b]), -float(row[a])
    for s in t["supports"]:
        s["uy"], s["uz"], s["ry"], s["rz"] = s["uz"], s["uy"], s["rz"], s["ry"]
    for row in t["foundations"]:
        row["edge_ym"], row["edge_yp"] = row["edge_yp"], row["edge_ym"]  # along Z, which runs the other way
    for row in t["member_loads"]:
        row["direction"] = {"Z": "Y"}[row["direction"]]


def on_member(t: Tables) -> None:
    t["manifest"]["handrail"]["forces"] = "on_member"
    for row in t["end_forces"]:
        if row["end"] == "i":
            for name in SIX:
                row[name] = -float(row[name])


def upside_down(t: Tables) -> None:
    """Every column drawn from its top: x and z turn over, and the ends change places; the forces of a cut keep Fx, Fz,
    Mx and Mz."""
    at = {n["node"]: n for n in t["nodes"]}
    turned = set()
    for m in t["members"]:
        i, j = at[m["i"]], at[m["j"]]
        if (i["x"], i["y"]) == (j["x"], j["y"]):
            turned.add(m["member"])
            m["i"], m["j"] = m["j"], m["i"]
            m["release_i"], m["release_j"] = m["release_j"], m["release_i"]
    for row in t["end_forces"]:
        if row["member"] in turned:
            row["end"] = "j" if row["end"] == "i" else "i"
            for name in ("Fy", "My"):
                row[name] = -float(row[name])


def shuffled(t: Tables) -> None:
    dice = random.Random(7)
    for name in ("nodes", "members", "end_forces", "reactions", "node_loads", "supports", "foundations"):
        dice.shuffle(t[name])


def in_si_on_member_shuffled(t: Tables) -> None:
    on_member(t)
    shuffled(t)
    in_si(t)


@pytest.mark.parametrize(
    "change", some([turned, y_up, mirrored, in_si_on_member_shuffled], 2), ids=lambda f: f.__name__
)
def test_told_in_another_way(change, tmp_path, demo_outcomes):
    """Bases take most of the time: they are sized where their sides change places."""
    without = "" if change in (turned, mirrored, y_up) else "column_base"
    found = outcomes(write(changed(change), tmp_path / "b"), without)
    assert found.keys() == {key for key, of in demo_outcomes.items() if of[0] != without}
    for key, (framing, status, use, check) in ((key, of) for key, of in demo_outcomes.items() if key in found):
        assert found[key][:2] == (framing, status), key
        assert found[key][2] == pytest.approx(use, rel=2e-3, abs=1e-4), (key, check, found[key])


def test_ids_renamed(tmp_path, demo_outcomes):
    """Renamed, the connections are those of the renamed members."""

    def rename(t: Tables) -> None:
        for n in t["nodes"]:
            n["node"] = "K-" + n["node"]
        for m in t["members"]:
            m["member"], m["i"], m["j"] = "9" + m["member"][::-1], "K-" + m["i"], "K-" + m["j"]
        for row in t["end_forces"] + t["splices"] + t["member_loads"]:
            row["member"] = "9" + row["member"][::-1]
        for row in t["supports"] + t["reactions"] + t["node_loads"] + t["foundations"]:
            row["node"] = "K-" + row["node"]

    found = outcomes(write(changed(rename), tmp_path / "b"), "column_base")
    for key, (framing, status, use, _) in ((key, of) for key, of in demo_outcomes.items() if of[0] != "column_base"):
        member, end = key.split(".")
        name, _, piece = member.partition("~")
        new = found[f"9{name[::-1]}{'~' * bool(piece)}{piece}.{end}"]
        assert new[:2] == (framing, status)
        assert new[2] == pytest.approx(use, rel=1e-6)


def test_columns_drawn_from_the_top(tmp_path, demo_outcomes):
    found = outcomes(write(changed(upside_down), tmp_path / "b"))
    bases = {key: of for key, of in demo_outcomes.items() if of[0] == "column_base"}
    assert len(bases) == 38
    for key, (framing, status, use, check) in bases.items():
        member, _ = key.split(".")
        assert found[f"{member}.j"][:2] == (framing, status), key
        assert found[f"{member}.j"][2] == pytest.approx(use, rel=2e-3, abs=1e-4), (key, check)


def test_balance_sees_a_wrong_sign(tmp_path):
    """One member's end force with its sign turned over puts its node out of balance; the audit names it."""
    from handrail.core.building.audit import audit
    from handrail.interchange.bundle import read_bundle

    def wrong(t: Tables) -> None:
        for row in t["end_forces"]:
            if (row["member"], row["end"]) == ("B60", "i"):
                row["Fy"] = -float(row["Fy"])

    found = audit(read_bundle(write(changed(wrong), tmp_path / "b")))
    out = [f for f in found.findings if f.code == "out_of_balance"]
    assert len(out) == 1
    node = next(m["i"] for m in changed(lambda t: None)["members"] if m["member"] == "B60")
    assert out[0].node == node


def test_demo_is_in_balance(demo_folder):
    from handrail.core.building.audit import audit
    from handrail.interchange.bundle import read_bundle

    found = audit(read_bundle(demo_folder))
    assert found.balance["worst_share"] < 1e-3
    assert not found.findings
