"""Sizes go by the shop's steps, whatever these are: one in millimetres makes whole ones everywhere."""

from __future__ import annotations

from dataclasses import replace

import pytest

from handrail.core.catalogue import INCHES, Shop, angle
from handrail.core.catalogue.sections import thicker_angles
from handrail.core.checking.trial import read_trial
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import length
from tests.worked.sheet import FLANGE, GIRDER, WEB, data
from tests.worked.test_angles import PAIR
from tests.worked.test_base_plate import BASE
from tests.worked.test_beam_splice import SPLICE as BEAM
from tests.worked.test_column_splice import SPLICE as COLUMN
from tests.worked.test_end_plate_splice import SPLICE as HOLLOW
from tests.worked.test_shear_end_plate import PLATE as END_PLATE

KEPT = (6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100)
METRIC = Shop(plates=KEPT, bases=KEPT[5:], weld=1, one_pass=8, fine=1, plate=2, place=5, width=10, large=20)
SPLICED = {"end_distance": 5, "edge_distance": 5, "beam_edge_distance": 5}
STEPS = {  # of what follows, by what the shop makes it
    "plate": (FLANGE, {"weld_size": 1, "end_distance": 5, "edge_distance": 5, "gap": 1}),
    "coped": (GIRDER, {"cope_depth": 5, "cope_length": 5, "first_bolt": 5}),
    "welded": (data(FLANGE, {"beam_side": "welded"}), {"lap": 5}),
    "past the tips": (data(FLANGE | WEB, {}), {"gap": 1}),
    "angles": (PAIR, {"end_distance": 5}),
    "end plate": (END_PLATE, {"end_distance": 5, "edge_distance": 5, "gauge": 10}),
    "beam splice": (BEAM, SPLICED | {"flange_end_distance": 5, "flange_plate_width": 10, "inside_plate_width": 5}),
    "column splice": (COLUMN, SPLICED | {"flange_end_distance": 5, "flange_plate_width": 10}),
    "hollow splice": (HOLLOW, {"plate_length": 10, "plate_width": 10}),
    "base": (BASE, {"plate_length": 20, "plate_width": 20, "embedment": 20, "lug_width": 20}),
}


def _of(name: str, shop: Shop):
    """(standard, its situation in that shop, sizes that only say which pieces they are of)."""
    base, steps = STEPS[name]
    trial = read_trial(base)
    situation = replace(trial.situation, shop=shop)
    given = {n: s for n, s in trial.sizes.items() if s.source == "given" and n not in steps}
    return trial.standard, situation, trial.standard.complete(situation, given)


@pytest.mark.parametrize("name", STEPS)
@pytest.mark.parametrize("shop", [METRIC, INCHES], ids=["millimetres", "inches"])
def test_sizes_are_whole_steps(name, shop):
    _, _, sizes = _of(name, shop)
    inches = {1: INCHES.weld, 5: INCHES.place, 10: INCHES.width, 20: INCHES.large}
    for parameter, step in STEPS[name][1].items():
        by = step if shop is METRIC else inches[step]
        size = length(sizes, parameter)
        assert size == pytest.approx(round(size / by) * by, abs=1e-6), parameter


@pytest.mark.parametrize("name", STEPS)
def test_sizing_and_remedies_take_what_the_shop_keeps(name):
    standard, situation, sizes = _of(name, METRIC)
    rungs = standard.changing.ladder(situation, sizes, frozenset())
    if standard.changing.axes:
        rungs = [rung for axis in standard.changing.axes(situation, sizes, frozenset()).values() for rung in axis]
    thick = {v for rung in rungs for n, v in rung.items() if n.endswith("plate_thickness")}
    assert thick <= set(KEPT) and (thick or "angle" in sizes)
    for move in standard.changing.moves:
        if move.parameter in sizes and isinstance(now := sizes[move.parameter].value, float):
            assert all(value == round(value - now) + now > now for _, value in move.values(sizes, METRIC))
            assert all(value == round(value - now) + now < now for value in move.less(sizes, METRIC))


def test_every_standard_is_looked_at():
    assert {read_trial(base).standard.name for base, _ in STEPS.values()} == STANDARDS.keys() - {
        "single_angle",  # as the two of them
        "beam_web_splice",  # as with flanges
    }


def test_a_shop_that_keeps_none_in_between_takes_the_next_thicker():
    assert METRIC.plates_of(16, 18) == [20] and METRIC.plates_of(200, 300) == [100]
    assert [t / 25.4 for t in INCHES.plates_of(0.5 * 25.4, 25.4)] == pytest.approx([0.5, 0.625, 0.75, 0.875, 1.0])


def test_thicker_angles_have_the_same_legs():
    own = angle("L4X3-1/2X5/16")
    thicker = thicker_angles(own.name)
    assert [s.name for s in thicker] == ["L4X3-1/2X3/8", "L4X3-1/2X1/2"]
    assert all((s.d, s.bf) == (own.d, own.bf) and s.wall > own.wall for s in thicker)


@pytest.mark.parametrize(
    ("thick", "leg"), [("1/4 in", 3 / 16), ("5/16 in", 1 / 4), ("3/8 in", 5 / 16), ("1/2 in", 5 / 16)]
)
def test_a_usual_weld_along_an_edge_is_as_large_as_the_edge_allows(thick, leg):
    """1/16 in. less than the edge (J2.2b), one pass at most: no step is lost to the last digit of a division."""
    sizes = read_trial(data(FLANGE, {"beam_side": "welded", "plate_thickness": thick})).sizes
    assert length(sizes, "beam_weld") == pytest.approx(leg * 25.4)


@pytest.mark.parametrize("inches", range(10, 31))
def test_a_lug_s_usual_width_is_half_of_its_plate(inches):
    sides = {"plate_length": f"{inches} in", "plate_width": f"{inches} in"}
    assert length(read_trial(data(BASE, {"shear_path": "lug", **sides})).sizes, "lug_width") == pytest.approx(
        inches // 2 * 25.4
    )
