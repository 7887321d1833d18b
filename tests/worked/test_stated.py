"""Stated and least actions, tie forces and structural integrity, worked by hand on the single plate of the sheet and a pair of angles. Kip, inches."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.checking.trial import read_trial
from tests.worked.sheet import FLANGE, HOLLOW, agrees, data, run
from tests.worked.test_angles import GIRDER, PAIR

B39 = {"integrity": "b3.9"}


def governs(base, given=None, **more):
    found = run(base, given, **more)
    return found["governing"]["action"], found


def test_a_least_shear_joins():
    """W16X50: 0.6 x 50 x 16.3 x 0.380 = 185.8 kip; a half is 92.9: over V = 49.6. Of 60 kip stated besides the larger counts. ASD 185.8/1.5/2 = 61.9."""
    agrees(FLANGE, "plate_shear_yield", 92.9, 61.94, {"stated_V_share": "0.5"}, of="demand")
    agrees(FLANGE, "plate_shear_yield", 100.0, 100.0, {"stated_V_share": "0.2", "stated_V": "100 kip"}, of="demand")
    action, found = governs(FLANGE, {"stated_V": "60 kip"})
    assert action == "stated V" and any(note.startswith("stated actions join") and "60 kip" in note for note in found["notes"])


def test_a_stated_shear_replaces():
    """20 kip in place of the 49.6 of the analysis."""
    agrees(FLANGE, "plate_shear_yield", 20.0, 20.0, {"stated_V": "20 kip", "stated": "replaces"}, of="demand")


def test_a_stated_share_of_the_member_s_yield():
    """W16X50: 14.7 in^2: 0.05 x 0.90 x 50 x 14.7 = 33.1 kip, both ways with V = 30; ASD 0.05 x 735/1.67 = 22.0."""
    given = {"stated_N_share": "0.05", "stated_V": "30 kip"}
    agrees(FLANGE, "plate_axial_yield", 33.08, 22.01, given, of="demand")
    agrees(FLANGE, "support_web_crippling", 33.08, 22.01, given, of="demand")  # pressing


def test_a_tie_force_comes_with_no_shear():
    """15 kip of pull alone: sqrt(N^2 + V^2) of it is 15, where V stays the larger for all that V takes."""
    action, found = governs(FLANGE, {"tie_force": "60 kip"}, actions=[{"name": "A", "V": "10 kip"}])
    assert action == "tie force" and found["checks"]["bolt_shear"]["demand"] == pytest.approx(60)
    agrees(FLANGE, "plate_axial_yield", 15.0, 15.0, {"tie_force": "15 kip"}, of="demand")


def test_integrity_by_nominal_strengths():
    """T = 2/3 x 40 = 26.67 kip (ASD 40) on a pair of angles, against strengths that nothing is taken off: legs 36 x 8.5 x 5/16 = 95.6 each under half of it;
    58 x 5.875 x 5/16 = 106.5; block 16.875 + 77.03 = 93.91; both used up together like 13.33/95.6 = 0.1395 (ASD 0.2092). Bolts: 6 x 23.86 = 143.1, the web's
    as below; at the support 6 of them pull 26.67/6 = 4.444 each: 58 x 3 x 0.3125^2 x 1.7292/(4 x 2.21875) = 3.311."""
    agrees(PAIR, "integrity_beam_leg_axial_yield", 95.6, 95.6, B39)
    agrees(PAIR, "integrity_beam_leg_axial_yield", 13.33, 20.0, B39, of="demand")
    agrees(PAIR, "integrity_beam_leg_axial_rupture", 106.5, 106.5, B39)
    agrees(PAIR, "integrity_beam_leg_axial_block_shear", 93.91, 93.91, B39)
    agrees(PAIR, "integrity_beam_leg_interaction", 13.333 / 95.625, 20 / 95.625, B39, of="utilisation")
    agrees(PAIR, "integrity_beam_leg_block_shear_interaction", 13.333 / 93.91, 20 / 93.91, B39, of="utilisation")
    agrees(PAIR, "integrity_bolt_shear", 143.1, 143.1, B39)
    agrees(PAIR, "integrity_support_bolt_tension", 3.311, 3.311, B39)
    agrees(PAIR, "integrity_support_bolt_tension", 4.444, 6.667, B39, of="demand")


def test_integrity_of_what_the_bolts_pull_on():
    """Pulled towards the angles' edge, 1-1/4 in., each bolt tears its legs, 1.2 x 0.84375 x 0.625 x 58 = 36.7, or the web, whose end is 2.25 - 0.5 - 0.25 =
    1.5 in. away: lc 1.09375: 1.2 x 1.09375 x 0.355 x 65 = 30.29: three 90.9; on the legs alone 3 x 36.7 = 110.1. The web's block: Agv = 2 x 1.5 x 0.355 =
    1.065, Anv = 2 (1.5 - 0.4375) 0.355 = 0.7544, Ant = (6 - 1.75) 0.355 = 1.509: 0.60 x 65 x 0.7544 = 29.42 + 98.07 = 127.5. The strip of web 8.5 deep: 50 x
    8.5 x 0.355 = 150.9, 65 x 5.875 x 0.355 = 135.6."""
    agrees(PAIR, "integrity_bolt_bearing_web", 90.9, 90.9, B39)
    agrees(PAIR, "integrity_bolt_bearing_leg", 110.1, 110.1, B39)
    agrees(PAIR, "integrity_web_axial_block_shear", 127.5, 127.5, B39)
    agrees(PAIR, "integrity_web_axial", 135.6, 135.6, B39)


def test_integrity_asks_for_ten_kip_at_least():
    found = run(PAIR, B39, actions=[{"name": "A", "V": "9 kip"}])["checks"]
    assert found["integrity_beam_leg_axial_yield"]["demand"] == pytest.approx(5.0)
    agrees(FLANGE, "integrity_support_web_yield", 10.0, 10.0, B39, of="demand", actions=[{"name": "A", "V": "9 kip"}])


def test_integrity_lets_bolts_slip_along_short_slots():
    slots = {"hole": "SSLT", "integrity": "b3.9"}
    names = run(FLANGE, slots)["checks"]
    assert "slot_along_N" in names and not any(n.startswith("integrity_slot") for n in names)


def test_nothing_stated_is_nothing_added():
    trial = read_trial(data(FLANGE))
    assert trial.standard.acted(trial.situation, trial.sizes, trial.code, trial.actions) is trial.actions


def test_a_replacement_with_nothing_in_it_is_unchecked():
    found = run(FLANGE, {"stated": "replaces"})
    assert found["status"] == "unchecked" and "none is stated" in found["reason"]


@pytest.mark.parametrize("base", [FLANGE, PAIR, {**FLANGE, **HOLLOW}])
def test_what_joins_never_lowers_a_utilisation(base):
    less, more = run(base), run(base, {"stated_V": "30 kip", "stated_N": "5 kip", "tie_force": "8 kip"})
    assert all(more["checks"][name]["utilisation"] >= c["utilisation"] - 1e-9 for name, c in less["checks"].items())


def test_the_beam_opposite_shears_with_a_stated_shear():
    """50 stated here, the larger 30 of the beam opposite beside it: 80 on the shared web."""
    given = {"stated_V": "50 kip"}
    agrees(PAIR, "support_bolt_bearing_support", 80.0, 80.0, given, of="demand", **GIRDER, actions=[{"name": "A", "V": "40 kip", "V_opposed": "-30 kip"}])


def test_places_have_their_own_integrity():
    """Two places of one design: T of each by its own shear."""
    trial = read_trial(data(PAIR, B39, actions={"P": [{"name": "A", "V": "60 kip"}], "Q": [{"name": "A", "V": "30 kip"}]}))
    acted = trial.standard.acted(trial.situation, trial.sizes, trial.code, trial.actions)
    assert acted.names[-1] == "integrity B3.9" and acted.N[:, -1] / 4448.2216 == pytest.approx(np.array([40.0, 20.0]), rel=1e-6)


def test_a_stated_n_comes_with_the_shear_that_there_is():
    """20 kip with the 49.6 of the analysis: sqrt(20^2 + 49.6^2) = 53.48; in its place, with none stated, 20 alone."""
    agrees(FLANGE, "bolt_shear", 53.48, 53.48, {"stated_N": "20 kip"}, of="demand")
    agrees(FLANGE, "bolt_shear", 20.0, 20.0, {"stated_N": "20 kip", "stated": "replaces"}, of="demand")
