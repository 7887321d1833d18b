"""Faults of the whole, put into the demo building: one cause for all of it, tried against statics; and sound data,
which is doubted by nobody."""

from __future__ import annotations

import itertools
from collections.abc import Callable

import pytest

from handrail.core.building.audit import Audit, audit
from handrail.interchange.bundle import read_bundle
from handrail.interchange.incoming import read_model
from tests.bundles import DEMO, SIX, Tables, changed, write
from tests.core.test_audit_faults import combination, rows, said, scale

SEVERE = ("error", "warning")
KIP = 4.4482216152605


@pytest.fixture
def found(tmp_path) -> Callable[[Callable[[Tables], None]], Audit]:
    return lambda change: audit(read_bundle(write(changed(change), tmp_path / "b")))


def times(
    *columns: str, by: float = -1.0, of: str = "end_forces", where: Callable[[dict[str, str]], bool] = lambda r: True
) -> Callable[[Tables], None]:
    def change(t: Tables) -> None:
        for row in t[of]:
            if where(row):
                row.update({c: str(float(row[c]) * by) for c in columns})

    return change


def swapped(t: Tables) -> None:
    for r in t["end_forces"]:
        r.update(Fy=r["Fz"], Fz=r["Fy"], My=r["Mz"], Mz=r["My"])


def without(t: Tables, *names: str) -> None:
    for name in names:
        t.pop(name)
    t["manifest"]["resources"] = [r for r in t["manifest"]["resources"] if r["name"] not in names]


def exchanged(t: Tables) -> None:
    without(t, "splices", "member_loads")
    for r in t["end_forces"]:
        r["end"] = "j" if r["end"] == "i" else "i"


def y_up(t: Tables) -> None:
    t["manifest"]["handrail"]["up"] = "Y"
    without(t, "grids", "levels", "foundations", "member_loads", "splices")


@pytest.mark.parametrize(("change", "words"), [
    (lambda t: t["manifest"]["handrail"].update(forces="on_member"), "state the other of internal and on_member"),
    (times("Fx"), "axial forces have the other sign"),
    (times("Fz"), "Fz has the other sign throughout"),
    (times("My"), "My has the other sign throughout"),
    (swapped, "local y and z are the other way round throughout"),
    (times(*SIX, of="reactions"), "reactions are the frame's forces on its supports"),
    (times(*SIX, of="node_loads"), "loads on nodes have the other sign"),
    (lambda t: t["node_loads"].extend([dict(r) for r in t["node_loads"]]), "loads on nodes are given twice"),
    (times(*SIX, by=KIP, of="reactions"), "reactions are in another unit (kN read as kip)"),
    (times(*SIX, by=1 / KIP, of="node_loads"), "loads on nodes are in another unit (kip read as kN)"),
    (times(*SIX, by=1000), "in another unit than loads and reactions (N read as kN)"),
    (lambda t: t["manifest"]["handrail"].update(vertical_y="Y"), "the webs of columns lie a quarter turn to the right"),
    (y_up, 'state up = "Z"'),
    (exchanged, "ends i and j are exchanged throughout"),
])  # fmt: skip
def test_one_cause_for_the_whole(found, change, words):
    """It is told once, with the figure for it, and no node by itself."""
    result = found(change)
    messages = said(result, "meant_otherwise")
    assert len(messages) == 1 and words in messages[0] and " nodes are out with that, " in messages[0], [
        f.message for f in result.findings
    ][:4]
    assert said(result, "out_of_balance") == []


def test_one_case_s_reactions_are_of_another_run(found):
    result = found(times(*SIX, by=1.17, of="reactions", where=lambda r: r["result"] == "L"))
    assert "the reactions of L fit no member" in said(result, "another_run")[0] and said(result, "out_of_balance") == []


def test_one_storey_is_of_another_run(found):
    """All forces between two levels, beams of the upper one too, a sixth larger."""

    def other(t: Tables) -> None:
        at = {n["node"]: float(n["z"]) for n in t["nodes"]}
        heights = [level["z"] for level in t["levels"]]
        low, high = float(heights[1]), float(heights[2])
        own = {
            m["member"]
            for m in t["members"]
            if low <= min(at[m["i"]], at[m["j"]])
            and max(at[m["i"]], at[m["j"]]) <= high
            and max(at[m["i"]], at[m["j"]]) > low
        }
        times(*SIX, by=1.17, where=lambda r: r["member"] in own)(t)

    messages = said(found(other), "another_run")
    assert messages and "the forces of the storey there do not fit what is above and below" in messages[0], messages


def test_one_case_s_loads_are_missing(found):
    """Wind acts on the nodes of every floor; without its rows nothing else is to blame."""
    result = found(lambda t: t.update(node_loads=[r for r in t["node_loads"] if r["result"] != "WX+"]))
    assert not said(result, "meant_otherwise") and not said(result, "another_run")
    assert (
        "in WX+ alone, which has no loads on nodes" in said(result, "loads_missing")[0]
        and said(result, "out_of_balance") == []
    )


def given_combination(t: Tables, name: str, factors: dict[str, float]) -> None:
    """Results of a combination as a program gives them, superposed of cases with some factors."""
    for table, keys in (("end_forces", ("member", "end")), ("reactions", ("node",))):
        total: dict[tuple[str, ...], list[float]] = {}
        for r in t[table]:
            if r["result"] in factors:
                own = total.setdefault(tuple(r[k] for k in keys), [0.0] * 6)
                for k, c in enumerate(SIX):
                    own[k] += factors[r["result"]] * float(r[c])
        t[table] += [
            {**dict(zip(keys, key)), "result": name, **{c: str(round(v, 5)) for c, v in zip(SIX, own)}}
            for key, own in total.items()
        ]


NAME, TERMS = "1.2D+1.0WX+ +1.0L", {"D": 1.2, "WX+": 1.0, "L": 1.0}


def test_loads_on_nodes_by_case_count_in_combinations_that_are_given(found):
    def given(t: Tables) -> None:
        combination(t, NAME, *((c, str(f)) for c, f in TERMS.items()))
        given_combination(t, NAME, TERMS)

    assert [f.message for f in found(given).findings if f.severity in SEVERE] == []


@pytest.mark.parametrize(
    ("factors", "words"),
    [
        ({"D": 1.2, "WX+": 1.6, "L": 0.5}, "it was run with other factors (1.2 D + 1.6 WX+ + 0.5 L)"),
        ({"D": 1.2, "EX": 1.0, "L": 1.0}, "it is of another run"),
    ],
)
def test_a_combination_of_another_run(found, factors, words):
    def given(t: Tables) -> None:
        combination(t, NAME, *((c, str(f)) for c, f in TERMS.items()))
        given_combination(t, NAME, factors)

    messages = said(found(given), "combination_differs")
    assert len(messages) == 1 and words in messages[0], messages[:2]


def no_support(t: Tables) -> None:
    t["supports"] = [s for s in t["supports"] if s["node"] != "n7"]
    t["reactions"] = [r for r in t["reactions"] if r["node"] != "n7"]
    t["foundations"] = [f for f in t["foundations"] if f["node"] != "n7"]


def test_a_support_that_is_missing_is_no_thousandth(found):
    messages = said(found(no_support), "out_of_balance")
    assert messages and not any("another unit" in m for m in messages), messages


@pytest.mark.parametrize("by", (1.0, 1e-3, 1e3, KIP))
def test_forces_that_nothing_stands_beside_are_in_no_other_unit(found, by):
    """Without loads and reactions no unit closes what does not close, however small it makes the forces."""

    def alone(t: Tables) -> None:
        without(t, "reactions", "node_loads", "member_loads")
        number = {name: k for k, name in enumerate(sorted({r["member"] for r in t["end_forces"]}))}
        for row in t["end_forces"]:
            row.update({c: str(float(row[c]) * by * (1 + 0.03 * (number[row["member"]] % 3))) for c in SIX})

    messages = [f.message for f in found(alone).findings]
    assert messages and not any("another unit" in m for m in messages), messages


def test_the_ends_of_one_member_exchanged(found):
    def one(t: Tables) -> None:
        for r in rows(t, "G330"):
            r["end"] = "j" if r["end"] == "i" else "i"

    assert any("the two ends of G330 are exchanged" in m for m in said(found(one), "out_of_balance"))


@pytest.mark.parametrize(
    ("member", "words"), [("C30", "of another run than its neighbours'"), ("B20", "are 1.2 times those that close")]
)
def test_one_member_is_of_another_run(found, member, words):
    """All its forces a fifth larger, of one that nothing loads and of one with a load."""
    messages = said(found(lambda t: scale(t, member, "", SIX, 1.2)), "out_of_balance")
    assert len(messages) == 2 and all(f"the forces of {member}" in m and words in m for m in messages), messages


@pytest.mark.parametrize(("force", "moment"), [(0.01, 0.01), (0.1, 0.1), (0.01, 1.0)])
def test_what_rounding_leaves_over_is_no_fault(found, force, moment):
    """In kN and kN*m, to so many of them."""

    def rounded(t: Tables) -> None:
        for name in ("end_forces", "reactions", "node_loads"):
            for r in t[name]:
                r.update({c: f"{round(float(r[c]) * KIP / force) * force:.2f}" for c in SIX[:3]})
                r.update({c: f"{round(float(r[c]) * KIP * 0.3048 / moment) * moment:.2f}" for c in SIX[3:]})
        t["manifest"]["handrail"]["units"] |= {"force": "kN", "moment": "kN*m"}
        for r in t["member_loads"]:
            r["value"] = str(float(r["value"]) * KIP)

    assert [f.message for f in found(rounded).findings if f.severity in SEVERE] == []


def lost(t: Tables) -> None:
    for m in t["members"]:
        m.update(release_i="", release_j="")


def some_lost(t: Tables) -> None:
    for m in itertools.islice((m for m in t["members"] if m["release_i"]), 40):
        m.update(release_i="")


@pytest.mark.parametrize(
    ("change", "code", "words"),
    [
        (lost, "releases_lost", "no member has a release"),
        (some_lost, "releases_lost", "some releases were lost"),
        (
            lambda t: [
                c.update(factor="1.4")
                for c in t["combinations"]
                if c["combination"] == "1.2D+1.6L+0.5Lr" and c["case"] == "D"
            ],
            "combination_factors",
            "1.4 D where its name says 1.2",
        ),
        (
            lambda t: [
                c.update(factor="1") for c in t["combinations"] if c["method"] == "LRFD" and c["set"] == "strength"
            ],
            "combination_unfactored",
            "have no factor but 1",
        ),
        (
            lambda t: t.update(combinations=[c for c in t["combinations"] if "WX-" not in c["combination"]]),
            "one_sense",
            "WX+",
        ),
        (
            lambda t: t.update(combinations=[c for c in t["combinations"] if "-1.0EY" not in c["combination"]]),
            "one_sense",
            "EY",
        ),
        (
            lambda t: [m.update(grade="A500C") for m in t["members"] if m["member"] == "C1"],
            "grade_unfit",
            "A500C is for hollow sections",
        ),
        (
            lambda t: [m.update(physical="P1", section=s) for m, s in zip(t["members"], ("W14X90", "W14X61"))],
            "piece_sections",
            "P1 is of W14X90 and W14X61",
        ),
    ],
)
def test_faults_that_must_be_seen(found, change, code, words):
    messages = said(found(change), code)
    assert any(words in m for m in messages), messages[:3]


def test_factored_forces_beyond_what_a_section_carries(found):
    """Each case alone is within what the section yields at, the combinations are not within its tensile strength."""
    result = found(lambda t: scale(t, "G330", "", ("Mz",), 1.15))
    assert any("G330" in m and "times what the section could ever carry" in m for m in said(result, "beyond_section"))


@pytest.mark.parametrize("what", ["bundle", "revision-c", "exports"])
def test_sound_data_is_doubted_by_nobody(what):
    building = (
        read_model(DEMO / "exports", (DEMO / "exports/map.toml").read_text())
        if what == "exports"
        else read_bundle(DEMO / what)
    )
    assert [f.message for f in audit(building).findings if f.severity in SEVERE] == []
