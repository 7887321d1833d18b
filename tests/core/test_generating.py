"""Combinations made from the natures of cases, held against ASCE 7's own lists."""

from __future__ import annotations

import pytest

from handrail.core.building.generating import Basis, generated, left_out
from handrail.core.building.model import Case
from handrail.core.errors import InputError

CASES = tuple(
    Case(n, n, nature, kind)
    for n, nature, kind in (
        ("D", "dead", "linear"),
        ("SDL", "dead", "linear"),
        ("L", "live", "linear"),
        ("Lr", "roof_live", "linear"),
        ("S", "snow", "linear"),
        ("W", "wind", "linear"),
        ("EX", "seismic", "linear"),
        ("EY", "seismic", "linear"),
        ("T", "temperature", "linear"),
    )
)


def made(*cases: str, **basis) -> dict[str, tuple[str, str, dict[str, float]]]:
    kept = tuple(c for c in CASES if c.name in cases)
    return {c.name: (c.set, c.method, dict(c.terms)) for c in generated(kept, Basis(**({"service": False} | basis)))}


def test_lrfd_of_dead_live_and_wind():
    """2.3.1: 1, 2, 3 with L and with W/2 both ways, 4 and 5 both ways; D is in all."""
    found = made("D", "L", "W")
    assert {frozenset(t.items()) for _, _, t in found.values()} == {
        frozenset(t.items())
        for t in (
            {"D": 1.4},
            {"D": 1.2, "L": 1.6},
            {"D": 1.2, "L": 1.0},
            {"D": 1.2, "W": 0.5},
            {"D": 1.2, "W": -0.5},
            {"D": 1.2, "W": 1.0, "L": 1.0},
            {"D": 1.2, "W": -1.0, "L": 1.0},
            {"D": 0.9, "W": 1.0},
            {"D": 0.9, "W": -1.0},
        )
    }


@pytest.mark.parametrize(
    ("edition", "with_live", "leading", "with_quake"), [("7-22", 0.3, 1.0, 0.15), ("7-16", 0.5, 1.6, 0.2)]
)
def test_snow_differs_by_edition(edition, with_live, leading, with_quake):
    terms = [t for _, _, t in made("D", "L", "S", "EX", edition=edition, S_DS=0.4).values()]
    assert {"D": 1.2, "L": 1.6, "S": with_live} in terms and {"D": 1.2, "S": leading, "L": 1.0} in terms
    assert {"D": 1.28, "L": 1.0, "S": with_quake, "EX": 1.0} in terms


def test_every_dead_case_is_in_all():
    assert all(t["D"] == t["SDL"] for _, _, t in made("D", "SDL", "L", "W").values())


def test_earthquakes():
    """S_DS 0.5: Ev = 0.1 D; rho 1.3 on both; 30 % of the other way in category D: 2 x 2 x 2 senses with each of two
    patterns. Overstrength 2.5 in place of rho."""
    found = made("D", "EX", "EY", S_DS=0.5, rho=1.3, omega=2.5, category="D")
    strength = [t for s, _, t in found.values() if s == "strength" and "EX" in t]
    assert (
        len(strength) == 16
        and {"D": 1.3, "EX": 1.3, "EY": 0.39} in strength
        and {"D": 0.8, "EX": -1.3, "EY": 0.39} in strength
    )
    over = [t for s, _, t in found.values() if s == "overstrength"]
    assert len(over) == 16 and {"D": 0.8, "EX": 2.5, "EY": -0.75} in over


def test_asd_and_service():
    """2.4.5 with S_DS 0.5: 0.7 Ev = 0.07 D; 0.6D - 0.07D."""
    terms = [t for _, m, t in made("D", "L", "EX", methods=("ASD",), S_DS=0.5).values()]
    assert (
        {"D": 1.07, "EX": 0.7} in terms
        and {"D": 0.53, "EX": -0.7} in terms
        and {"D": 1.0525, "EX": 0.525, "L": 0.75} in terms
    )
    service = [(s, t) for s, m, t in made("D", "L", service=True).values() if m == "none"]
    assert {s for s, _ in service} == {"service"} and ("service", {"D": 1.0, "L": 1.0}) in service


def test_senses_that_a_name_gives_are_not_turned():
    cases = (CASES[0], Case("WX+", "", "wind"), Case("WX-", "", "wind"))
    terms = [dict(c.terms) for c in generated(cases, Basis(service=False))]
    assert all(f > 0 for t in terms for f in t.values()) and {"D": 0.9, "WX-": 1.0} in terms
    assert all(t.get("W", 1.0) > 0 for _, _, t in made("D", "W", one_way=frozenset({"W"})).values())


def test_both_methods_at_once_have_names_of_their_own():
    found = generated(CASES[:3], Basis(methods=("LRFD", "ASD")))
    assert len({c.name for c in found}) == len(found)


def test_what_is_left_out_is_said():
    assert left_out(CASES) == ["T"]
    assert left_out((Case("P", "", "live", "nonlinear"),)) == ["P"]


@pytest.mark.parametrize(
    ("basis", "words"),
    [
        ({"edition": "7-10"}, "edition"),
        ({"rho": 1.2}, "redundancy"),
        ({"omega": 0.5}, "overstrength"),
        ({"category": "G"}, "category"),
        ({"S_DS": -1}, "S_DS"),
        ({"methods": ("EC",)}, "methods"),
        ({"category": "D"}, "S_DS is needed"),
        ({"one_way": frozenset({"Q"})}, "Q is no case"),
    ],
)
def test_what_cannot_be_is_refused(basis, words):
    with pytest.raises(InputError, match=words):
        made("D", "EX", **basis)
    with pytest.raises(InputError, match="dead load"):
        made("L")
