"""Columns of words by pointing: what is known of them is proposed, the rest asked for; one column for several of
ours."""

from __future__ import annotations

import tomllib

import pytest

from handrail.core.errors import InputError
from handrail.interchange.columnmap.meanings import HELD, meant
from handrail.interchange.columnmap.pointing import changed, found_in
from handrail.interchange.incoming import read_model
from tests.bundles import small


def tables(folder):
    """A small frame in tables of words that nobody knows: supports by type, combinations by group."""
    made = small()
    lines = {
        "points.csv": ["Point,X m,Y m,Z m", *(f"{n['node']},{n['x']},{n['y']},{n['z']}" for n in made["nodes"])],
        "bars.csv": [
            "Bar,Start,End,Shape,Steel",
            *(f"{m['member']},{m['i']},{m['j']},{m['section']},A992" for m in made["members"]),
        ],
        "supports.csv": ["Point,Kind", "a,Type A", "c,Type B"],
        "cases.csv": ["Case,Nature", "D,dead"],
        "combinations.csv": ["Combination,Case,Factor,Group", "1.4D,D,1.4,Q1", "S,D,1.0,Q2"],
        "forces.csv": [
            "Bar,End,Case,N kN,Vy kN,Vz kN,T kNm,My kNm,Mz kNm",
            *(
                ",".join(str(r[k]) for k in ("member", "end", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz"))
                for r in made["end_forces"]
            ),
        ],
    }
    folder.mkdir()
    for name, rows in lines.items():
        (folder / name).write_text("\n".join(rows) + "\n", encoding="utf-8")
    return folder


MAP = """
map = 1
up = "Z"
forces = "internal"
[units]
length = "m"
force = "kN"
moment = "kN*m"
section = "mm"
[tables.nodes]
file = "points.csv"
columns = {node = "Point", x = "X m", y = "Y m", z = "Z m"}
[tables.members]
file = "bars.csv"
columns = {member = "Bar", i = "Start", j = "End", section = "Shape", grade = "Steel"}
[tables.supports]
file = "supports.csv"
[tables.supports.columns]
node = "Point"
[tables.cases]
file = "cases.csv"
columns = {case = "Case", nature = "Nature"}
[tables.combinations]
file = "combinations.csv"
[tables.combinations.columns]
combination = "Combination"
case = "Case"
factor = "Factor"
[tables.end_forces]
file = "forces.csv"
columns = {member = "Bar", end = "End", result = "Case", Fx = "N kN", Fy = "Vy kN", Fz = "Vz kN", Mx = "T kNm", My = "My kNm", Mz = "Mz kNm"}
"""  # noqa: E501


@pytest.fixture
def frame(tmp_path):
    root = tables(tmp_path / "odd")
    return root, found_in(root)


def point(frame, text, **change):
    return changed(text, change, *frame)


def columns(text, table):
    return tomllib.loads(text)["tables"][table]["columns"]


def test_a_column_of_words_is_asked_word_by_word(frame):
    text = point(frame, MAP, what="column", table="combinations", name="set", spec={"column": "Group"})
    assert columns(text, "combinations")["set"] == {"column": "Group", "values": {"Q1": "?", "Q2": "?"}}
    text = point(frame, text, what="column", table="combinations", name="method", spec={"column": "Group"})
    assert list(columns(text, "combinations")) == [
        "combination",
        "case",
        "factor",
        "set",
        "method",
    ], "one column may be two of ours"


def test_what_a_column_was_before_falls(frame):
    text = point(frame, MAP, what="column", table="combinations", name="set", spec={"column": "Group"})
    text = point(
        frame, text, what="column", table="combinations", name="method", spec={"column": "Group"}, instead="set"
    )
    assert "set" not in columns(text, "combinations") and columns(text, "combinations")["method"]["column"] == "Group"


def test_all_that_supports_hold_by_one_column(frame):
    text = point(frame, MAP, what="held", table="supports", name="Kind")
    assert {n: columns(text, "supports")[n]["values"] for n in HELD} == {
        n: {"Type A": "?", "Type B": "?"} for n in HELD
    }
    text = point(frame, text, what="held", table="supports", name="Kind", value={"Type A": "fixed", "Type B": "111001"})
    for table, ours, value in (("combinations", "set", "strength"), ("combinations", "method", "LRFD")):
        text = point(frame, text, what="column", table=table, name=ours, spec={"value": value})
    building = read_model(frame[0], text)
    assert list(building.supports.values()) == [(True,) * 6, (True, True, True, False, False, True)]
    assert columns(point(frame, text, what="held", table="supports", name="Kind", value=""), "supports") == {
        "node": "Point"
    }


@pytest.mark.parametrize("kind", ["sprung", "11100", "112000"])
def test_what_is_no_kind_of_support_is_refused(frame, kind):
    with pytest.raises(InputError, match="is no kind of support: fixed, pinned, roller, free, or six marks"):
        point(frame, MAP, what="held", table="supports", name="Kind", value={"Type A": kind})


@pytest.mark.parametrize(
    ("table", "ours", "words", "expected"),
    [
        ("cases", "nature", ["Nutzlast", "Zeta"], {"Nutzlast": "live", "Zeta": "?"}),
        ("cases", "nature", ["dead", "wind"], None),  # as they are
        ("members", "release_i", ["gelenkig", "My Mz", "?x"], {"gelenkig": "My Mz", "My Mz": "My Mz", "?x": "?"}),
        (
            "supports",
            "rx",
            ["Einspannung fest eingespannt", "Gelenk"],
            {"Einspannung fest eingespannt": "1", "Gelenk": "0"},
        ),
        ("end_forces", "end", ["Anfang", "Ende"], {"Anfang": "i", "Ende": "j"}),
        ("member_loads", "direction", ["GZ", "sideways"], {"GZ": "Z", "sideways": "?"}),
        ("nodes", "node", ["n1", "n2"], None),
        ("nodes", "x", ["1", "2"], None),
    ],
)
def test_what_words_mean(table, ours, words, expected):
    assert meant(table, ours, words) == expected


def test_a_question_in_the_map_is_told_once(frame):
    """Not for each row of the table."""
    text = point(frame, MAP, what="held", table="supports", name="Kind", value={"Type A": "fixed", "Type B": "pinned"})
    for ours, value in (("set", "strength"), ("method", "?")):
        text = point(frame, text, what="column", table="combinations", name=ours, spec={"value": value})
    with pytest.raises(InputError) as caught:
        read_model(frame[0], text)
    line = text.splitlines().index('method = {value = "?"}') + 1
    assert str(caught.value) == f"the map line {line}: tables.combinations: method '?' is none of LRFD, ASD, none"
