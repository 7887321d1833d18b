"""Metric bolts and a metric shop in any job: sizes of Tables J3.1M to J3.5M, steps in millimetres."""

from __future__ import annotations

import pytest

from handrail.core.catalogue import bolt, hole
from handrail.core.catalogue.bolts import all_bolts, next_size, size_before
from handrail.core.checking.trial import read_trial
from handrail.core.checking.trial.writing import form
from handrail.core.codes import code
from handrail.core.errors import UnknownName
from handrail.core.rulebook import RulebookError, read_rulebook
from handrail.core.standards import STANDARDS

TRIAL = {
    "code": "AISC 360-22",
    "method": "LRFD",
    "framing": "beam_to_column_flange",
    "standard": "single_plate",
    "supported": {"section": "W16X36", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {
        "bolt": "M20 A325M-N",
        "rows": 4,
        "pitch": "75 mm",
        "plate_thickness": "10 mm",
        "plate_grade": "A36",
    },
    "actions": [{"name": "1", "V": "180 kN"}],
}


@pytest.mark.parametrize(
    ("name", "d", "Fnt", "Fnv", "pretension", "edge", "std"),
    [
        ("M20 A325M-N", 20, 620, 372, 142e3, 26, 22),
        ("m20 a325-x", 20, 620, 469, 142e3, 26, 22),
        ("M24 A490M-X", 24, 780, 579, 257e3, 30, 27),
        ("36 mm A490M-N", 36, 780, 469, 595e3, 46, 39),
    ],
)
def test_a_bolt_by_its_tables(name, d, Fnt, Fnv, pretension, edge, std):
    """Tables J3.2 (MPa), J3.1M (kN), J3.4M, J3.3M."""
    own = bolt(name)
    assert (own.d, own.Fnt, own.Fnv, own.pretension, own.min_edge) == (d, Fnt, Fnv, pretension, edge)
    assert hole("STD", own.d).along == std and own.length(60) % 5 == 0


def test_others_are_not_there_and_neighbours_are_of_the_same_kind():
    for wrong in ("M19 A325M-N", "M20 F1852-N", "3/4 A325M-N", "M20"):
        with pytest.raises(UnknownName):
            bolt(wrong)
    assert next_size("M20 A325M-N") == "M22 A325M-N" and size_before("M16 A490M-X") is None
    assert next_size("3/4 A325-N") == "7/8 A325-N" and all(bolt(name).name == name for name in all_bolts())


def test_edges_with_oversized_and_slotted_holes():
    """C2 of Table J3.5M: 2 mm to M22, 3 mm from M24; 3 and 5 mm; 0.75 d."""
    rules = code("AISC 360-22").bolts
    for name, type_, toward, least in (
        ("M22 A325M-N", "OVS", False, 30),
        ("M24 A325M-N", "OVS", False, 33),
        ("M24 A325M-N", "SSLT", True, 33),
        ("M27 A325M-N", "SSLT", True, 39),
        ("M20 A325M-N", "LSLT", True, 41),
        ("M20 A325M-N", "STD", True, 26),
    ):
        own = bolt(name)
        assert rules.min_edge(own, hole(type_, own.d), toward) == least


def test_what_one_takes_by_hand():
    """J3-1: 0.75 x 372 MPa x 314.16 mm2 = 87.65 kN in one plane; J3-4: 0.30 x 1.13 x 142 kN = 48.14 kN of friction.
    A plate with four of them takes no more than four."""
    rules, own = code("AISC 360-22").bolts, bolt("M20 A325M-N")
    assert rules.shear(own) == pytest.approx(87.65e3, rel=2e-4)
    assert rules.slip(own, hole("STD", own.d), "A", False) == pytest.approx(48.14e3, rel=2e-4)
    result = read_trial(TRIAL).run()
    shear = next(c for c in result.checks if c.check == "bolt_shear")
    assert 0.8 * 4 * 87.65e3 < shear.strength <= 4 * 87.65e3 and all(rule.ok for rule in result.detailing)


def test_a_metric_shop_sizes_in_millimetres():
    trial = read_trial(TRIAL | {"stock": "mm", "parameters": {"bolt": "M20 A325M-N", "rows": 3, "plate_grade": "A36"}})
    standard, situation = trial.standard, trial.situation
    start = standard.complete(situation, trial.sizes)
    rungs = standard.changing.ladder(situation, start, frozenset({"rows", "bolt"}))
    thick = {rung["plate_thickness"] for rung in rungs if "plate_thickness" in rung}
    assert {8.0, 10.0, 12.0} <= thick and all(t == round(t) for t in thick)
    assert start["weld_size"].value % 1 == 0 and start["end_distance"].value % 5 == 0
    written = form(trial.code, standard, situation, start, trial.actions, "si")
    assert written["stock"] == "mm" and read_trial(written).situation.shop == situation.shop


def test_a_rulebook_says_what_the_stock_is_in():
    text = "rulebook: 1\npractice: {stock: mm, bolt: M20 A325M-N}\nrules:\n  - {name: A, use: single_plate}\n"
    book = read_rulebook(text)
    assert book.stock == "mm" and book.practice["single_plate"]["bolt"].value == "M20 A325M-N"
    assert {b for b in STANDARDS if book.practice[b].get("bolt")} >= {"single_plate", "double_angle"}
    with pytest.raises(RulebookError, match="stock is in or mm"):
        read_rulebook(text.replace("stock: mm", "stock: cm"))
