"""Sweeps: each candidate is judged as it would be alone, in the order that is said, by whatever way."""

from __future__ import annotations

import pytest

from handrail.core.checking import sweep
from handrail.core.checking.connection import check
from handrail.core.errors import InputError
from handrail.interchange.sweep_picture import svg
from tests.worked.sheet import GIRDER

VALUES = [
    {"rows": "2 .. 5"},
    {"plate_thickness": ["1/4 in", "3/8 in", "1/2 in"], "weld_size": "= up(5/8 * plate_thickness, 1/16 in)"},
]


def run(cores: int = 1, **more: object):
    data = {**GIRDER, "sweep": {"values": VALUES, **more}}
    given, asked = sweep.read_sweep(data)
    return given, sweep.run(given.standard, given.situation, given.sizes, given.code, given.actions, asked, cores)


def test_every_candidate_is_judged_as_it_would_be_alone() -> None:
    given, found = run()
    assert found.total == len(found.rows) == 12 and found.vary == ("rows", "plate_thickness", "weld_size")
    for row in found.rows:
        sizes = given.standard.complete(given.situation, given.sizes | row.sizes)
        alone = check(given.standard, given.situation, sizes, given.code, given.actions)
        assert (row.status, row.utilisation, row.reason) == (
            alone.status,
            pytest.approx(alone.utilisation),
            alone.reason,
        )
        if alone.governing:
            assert (row.check, row.action) == (alone.governing.check, alone.governing.action)
        assert row.sizes["weld_size"].value >= 5 / 8 * row.sizes["plate_thickness"].value - 1e-9, (
            "what is tied goes along"
        )
    assert [row.sizes["rows"].value for row in found.rows[:4]] == [2, 3, 4, 5], "the first entry goes fastest"


def test_order_stop_and_cores() -> None:
    _, light = run(order="lightest")
    weights = [row.made.steel + row.made.weld for row in light.rows if row.made]
    assert weights == sorted(weights)
    _, first = run(order="lightest", stop="first")
    assert first.rows == light.rows[: light.winner + 1] and first.rows[-1].status == "pass"
    before = sweep.WORTH
    sweep.WORTH = 2
    try:
        _, spread = run(cores=2, order="lightest")
    finally:
        sweep.WORTH = before
    assert spread == light


def test_a_picture_has_a_point_for_each() -> None:
    given, found = run()
    drawn = svg(sweep.as_dict(found, given.standard, "us"))
    passing = sum(row.status == "pass" for row in found.rows)
    assert drawn.count("<circle") == passing + 1 + 2 + 1  # the legend's, the winner's ring and the legend's
    assert "1/4 in" in drawn and "12 candidates" in drawn


@pytest.mark.parametrize(
    ("node", "words"),
    [
        ({}, "sweep.values"),
        ({"values": [{"rows": "2 .. 5"}], "order": "cheapest"}, "sweep.order"),
        ({"values": [{"rows": "2 .. 5"}], "stop": "soon"}, "sweep.stop"),
        ({"values": [{"row": [1]}]}, "did you mean rows"),
        ({"values": [{"rows": "2 .. 5"}, {"rows": [1]}]}, "rows is there twice"),
        ({"value": 1}, "'value' is not known"),
        (
            {"values": [{"rows": "1 .. 20"}, {"pitch": "2 .. 11 in by 1/32 in"}, {"gauge": "3 .. 9 in by 1/16 in"}]},
            "at most 20000",
        ),
    ],
)
def test_what_is_wrong_is_named(node: dict, words: str) -> None:
    with pytest.raises(InputError, match=words):
        sweep.read_sweep({**GIRDER, "sweep": node})
