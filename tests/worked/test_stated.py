"""Stated and least actions, tie forces and structural integrity, worked by hand on the single plate of the sheet and a
pair of angles. Kip, inches."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from handrail.core.actions import Actions
from handrail.core.catalogue import section
from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.quantities.units import INCH, KIP, KSI
from tests.worked.sheet import FLANGE, HOLLOW, agrees, data, run
from tests.worked.test_angles import GIRDER, PAIR
from tests.worked.test_base_plate import BASE, under
from tests.worked.test_beam_splice import SPLICE as BEAM_SPLICE
from tests.worked.test_beam_splice import WEB as WEB_SPLICE
from tests.worked.test_column_splice import SPLICE as COLUMN_SPLICE

B39 = {"integrity": "b3.9"}


def governs(base, given=None, **more):
    found = run(base, given, **more)
    return found["governing"]["action"], found


def test_a_least_shear_joins():
    """W16X50: 0.6 x 50 x 16.3 x 0.380 = 185.8 kip; a half is 92.9: over V = 49.6. Of 60 kip stated besides the larger
    counts. ASD 185.8/1.5/2 = 61.9."""
    agrees(FLANGE, "plate_shear_yield", 92.9, 61.94, {"stated_V_share": "0.5"}, of="demand")
    agrees(FLANGE, "plate_shear_yield", 100.0, 100.0, {"stated_V_share": "0.2", "stated_V": "100 kip"}, of="demand")
    action, found = governs(FLANGE, {"stated_V": "60 kip"})
    assert action == "stated V" and any(
        note.startswith("stated actions join") and "60 kip" in note for note in found["notes"]
    )


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
    """T = 2/3 x 40 = 26.67 kip (ASD 40) on a pair of angles, against strengths that nothing is taken off: legs 36 x 8.5
    x 5/16 = 95.6 each under half of it; 58 x 5.875 x 5/16 = 106.5; block 16.875 + 77.03 = 93.91; both used up together
    like 13.33/95.6 = 0.1395 (ASD 0.2092). Bolts: 6 x 23.86 = 143.1, the web's as below; at the support 6 of them pull
    26.67/6 = 4.444 each: 58 x 2.75 x 0.3125^2 x 1.7045/(4 x 2.21875) = 2.992."""
    agrees(PAIR, "integrity_beam_leg_axial_yield", 95.6, 95.6, B39)
    agrees(PAIR, "integrity_beam_leg_axial_yield", 13.33, 20.0, B39, of="demand")
    agrees(PAIR, "integrity_beam_leg_axial_rupture", 106.5, 106.5, B39)
    agrees(PAIR, "integrity_beam_leg_axial_block_shear", 93.91, 93.91, B39)
    agrees(PAIR, "integrity_beam_leg_interaction", 13.333 / 95.625, 20 / 95.625, B39, of="utilisation")
    agrees(PAIR, "integrity_beam_leg_block_shear_interaction", 13.333 / 93.91, 20 / 93.91, B39, of="utilisation")
    agrees(PAIR, "integrity_bolt_shear", 143.1, 143.1, B39)
    agrees(PAIR, "integrity_support_bolt_tension", 2.992, 2.992, B39)
    agrees(PAIR, "integrity_support_bolt_tension", 4.444, 6.667, B39, of="demand")


def test_integrity_of_what_the_bolts_pull_on():
    """Pulled towards the angles' edge, 1-1/4 in., each bolt tears its legs, 1.2 x 0.84375 x 0.625 x 58 = 36.7, or the
    web, whose end is 2.25 - 0.5 - 0.25 = 1.5 in. away: lc 1.09375: 1.2 x 1.09375 x 0.355 x 65 = 30.29: three 90.9; on
    the legs alone 3 x 36.7 = 110.1. The web's block: Agv = 2 x 1.5 x 0.355 = 1.065, Anv = 2 (1.5 - 0.4375) 0.355 =
    0.7544, Ant = (6 - 1.75) 0.355 = 1.509: 0.60 x 65 x 0.7544 = 29.42 + 98.07 = 127.5. The strip of web 8.5 deep: 50 x
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


def test_a_member_that_braces_a_column():
    """1 % of 900 kip is 9; two thirds of it by LRFD: 6 kip, in its own row beside the 26.67 of the shear: by nominal
    strengths, not at once."""
    for by, hand in (("LRFD", 6.0), ("ASD", 9.0)):
        trial = read_trial(data(PAIR, B39 | {"braced_force": "900 kip"}, method=by))
        acted = trial.standard.acted(trial.situation, trial.sizes, trial.code, trial.actions)
        row = acted.names.index("integrity B3.9, the column it braces")
        assert acted.N[row] / KIP == pytest.approx(hand) and acted.V[row] == 0 and "integrity B3.9" in acted.names


def test_integrity_of_a_column_s_splice():
    """120 kip of dead and live load between this splice and the next below pulls: 60 in each flange of W14X61; net (10
    - 2 x 1.0) x 0.645 x 65 = 335.4."""
    held = {"integrity": "b3.9", "integrity_load": "120 kip"}
    agrees(COLUMN_SPLICE, "integrity_flange_bolt_shear", 60.0, 60.0, held, of="demand")
    agrees(COLUMN_SPLICE, "integrity_flange_rupture", 335.4, 335.4, held)
    asked = run(COLUMN_SPLICE, {"integrity": "b3.9"})
    assert asked["status"] == "unchecked" and "integrity_load" in asked["reason"]


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
    agrees(
        PAIR,
        "support_bolt_bearing_support",
        80.0,
        80.0,
        given,
        of="demand",
        **GIRDER,
        actions=[{"name": "A", "V": "40 kip", "V_opposed": "-30 kip"}],
    )


def test_places_have_their_own_integrity():
    """Two places of one design: T of each by its own shear."""
    trial = read_trial(
        data(PAIR, B39, actions={"P": [{"name": "A", "V": "60 kip"}], "Q": [{"name": "A", "V": "30 kip"}]})
    )
    acted = trial.standard.acted(trial.situation, trial.sizes, trial.code, trial.actions)
    assert acted.names[-1] == "integrity B3.9" and acted.N[:, -1] / 4448.2216 == pytest.approx(
        np.array([40.0, 20.0]), rel=1e-6
    )


def test_a_stated_n_comes_with_the_shear_that_there_is():
    """20 kip with the 49.6 of the analysis: sqrt(20^2 + 49.6^2) = 53.48; in place of the N of the analysis as well, for
    V stays."""
    agrees(FLANGE, "bolt_shear", 53.48, 53.48, {"stated_N": "20 kip"}, of="demand")
    agrees(FLANGE, "bolt_shear", 53.48, 53.48, {"stated_N": "20 kip", "stated": "replaces"}, of="demand")


def test_what_is_not_stated_stays():
    """V = 22 in place of 49.6, beside the pull of 31.8 that stays: sqrt(22^2 + 31.8^2) = 38.67; and the moment fails by
    name as before."""
    acting = {"actions": [{"name": "A", "V": "49.6 kip", "N": "31.8 kip", "M": "300 kip*in"}]}
    stated = {"stated_V": "22 kip", "stated": "replaces"}
    agrees(FLANGE, "bolt_shear", 38.67, 38.67, stated, of="demand", **acting)
    agrees(FLANGE, "plate_axial_yield", 31.8, 31.8, stated, of="demand", **acting)
    found = run(FLANGE, stated, **acting)
    assert found["status"] == "fail" and "uncarried_M" in found["reason"]
    said = next(note for note in found["notes"] if note.startswith("stated V"))
    assert (
        said == "stated V 22 kip in place of the analysis's 49.6 kip in A; less than the analysis: to be accepted by an"
        " engineer"
    )
    more = run(FLANGE, {"stated_V": "60 kip", "stated": "replaces"}, **acting)["notes"]
    assert "stated V 60 kip in place of the analysis's 49.6 kip in A" in more


def test_a_beam_splice_for_half_of_its_plastic_moment():
    """W24X68: 0.90 x 50 x 177/2 = 3982.5 kip in. with V and no N: over 23.7 in. 168.0 kip in each flange, over the
    131.8 of the analysis; ASD 8850/1.67/2 = 2649.7: 111.8, under it."""
    agrees(BEAM_SPLICE, "flange_bolt_shear", 168.04, 131.8, {"stated_M_share": "0.5"}, of="demand")
    action, found = governs(BEAM_SPLICE, {"stated_M_share": "0.5"})
    assert (
        action.startswith("stated M, ") and "stated actions join those of the analysis: M 3983 kip*in" in found["notes"]
    )
    agrees(WEB_SPLICE, "plate_shear_yield", 45.0, 45.0, {"stated_V": "90 kip"}, of="demand")


def test_a_column_splice_for_half_of_the_weaker_column():
    """W14X61: 0.90 x 50 x 17.9/2 = 402.75 kip pulls, a half in each flange, 201.4; ASD 895/1.67/2 = 267.96: 133.98. It
    presses as well: through contact."""
    agrees(COLUMN_SPLICE, "flange_bolt_shear", 201.4, 133.98, {"stated_N_share": "0.5"}, of="demand")
    agrees(COLUMN_SPLICE, "contact_bearing", 402.75, 267.96, {"stated_N_share": "0.5"}, of="demand")


def test_a_stated_shear_alone_has_no_friction():
    """Nothing presses beside a stated shear: web plates have to hold it, 10 kip each."""
    given = {"stated_V": "20 kip"}
    found = run(COLUMN_SPLICE, given, actions=[{"name": "A", "N": "-300 kip"}])
    assert (
        found["status"] == "fail"
        and found["governing"]["check"] == "contact_friction"
        and found["governing"]["action"].startswith("stated V")
    )
    agrees(
        COLUMN_SPLICE,
        "plate_shear_yield",
        10.0,
        10.0,
        given | {"web_plates": "both"},
        of="demand",
        actions=[{"name": "A", "N": "-300 kip"}],
    )


def test_a_base_held_down():
    """40 kip of pull on four rods: 10 each. By ASD the concrete takes 1.6 x 40 = 64, 16 each, beside the combinations
    of LRFD, which have to be there."""
    agrees(BASE, "anchor_steel_tension", 10.0, 16.0, {"tie_force": "40 kip"}, of="demand", **under(N=-400))
    agrees(BASE, "anchor_breakout_tension", 40.0, 64.0, {"stated_N": "40 kip"}, of="demand", **under(N=-400))
    one = {"actions": [{"name": "A", "N": "-400 kip"}]}
    assert run(BASE, {"tie_force": "4 kip"}, method="ASD", **one)["status"] == "unchecked"
    assert run(BASE, {"stated_N": "4 kip", "stated": "replaces"}, method="ASD", **one)["status"] == "unchecked"


def test_a_stated_shear_reaches_the_nearer_edge():
    """20 kip from either side: the same on a base whose near edge is on one side or on the other."""
    sides = [["10 in", "60 in"], ["60 in", "10 in"]]
    rods = {"shear_path": "anchors", "washers": "welded", "stated_V": "10 kip"}
    uses = []
    for along in sides:
        found = run(
            BASE,
            rods,
            foundation={
                "kind": "pedestal",
                "fc": "4 ksi",
                "thickness": "48 in",
                "edges": {"along": along, "across": ["60 in", "60 in"]},
            },
            **under(N=-4),
        )
        uses.append(found["checks"]["anchor_breakout_shear"]["utilisation"])
    assert uses[0] == pytest.approx(uses[1]) and uses[0] > 0


@pytest.mark.parametrize(
    ("name", "of", "action", "lrfd", "asd"),
    [
        ("W14X61", 50, "V", 0.6 * 50 * 13.9 * 0.375, 0.6 * 50 * 13.9 * 0.375 / 1.5),  # h/tw 30.4 under 2.24 x 24.1
        ("W14X61", 50, "Vw", 0.9 * 0.6 * 50 * 2 * 10 * 0.645, 0.6 * 50 * 2 * 10 * 0.645 / 1.67),
        ("W14X61", 50, "M", 0.9 * 50 * 102, 50 * 102 / 1.67),
        ("W14X61", 50, "Mw", 0.9 * 50 * 32.8, 50 * 32.8 / 1.67),
        ("W14X61", 50, "N", 0.9 * 50 * 17.9, 50 * 17.9 / 1.67),
        (
            "HSS8X8X3/8",
            50,
            "V",
            0.9 * 0.6 * 50 * 2 * 6.953 * 0.349,
            0.6 * 50 * 2 * 6.953 * 0.349 / 1.67,
        ),  # h = 8 - 3 x 0.349
        ("HSS8X8X3/8", 50, "Vw", 0.9 * 0.6 * 50 * 2 * 6.953 * 0.349, 0.6 * 50 * 2 * 6.953 * 0.349 / 1.67),
        (
            "HSS20X4X1/4",
            50,
            "V",
            0.9 * 0.6 * 50 * 2 * 19.301 * 0.233 * 0.6381,
            0.6 * 50 * 2 * 19.301 * 0.233 * 0.6381 / 1.67,
        ),  # 1.51 x 5 x 29000/(82.84^2 x 50)
        ("Pipe8STD", 35, "V", 0.9 * 21 * 7.85 / 2, 21 * 7.85 / 2 / 1.67),
    ],
)
def test_what_a_member_can_take(name, of, action, lrfd, asd):
    """By yielding of the whole section (G2.1, G4, G5, G6, D2, F2.1, F6.1), in kip and kip in.; S of the weak axis of
    W14X61 is 21.5: Z is under 1.6 of it."""
    unit = KIP * INCH if action.startswith("M") else KIP
    for method, hand in (("LRFD", lrfd), ("ASD", asd)):
        assert code("AISC 360-22", method).members.available(section(name), of * KSI, action) / unit == pytest.approx(
            hand, rel=2e-3
        )


@pytest.mark.parametrize("seismic", [True, False])
def test_what_has_overstrength_is_not_replaced(seismic):
    """A stated pull of 40 takes the place of N in the strength combination, in its direction there; the one with
    overstrength stays as it is."""
    trial = read_trial(data(BASE, {"stated_N": "40 kip", "stated": "replaces"}))
    acting = Actions.of(
        np.array([[-1e5, 7.0, 0, 0, 0, 0], [2e5, 0, 0, 0, 0, 0]], float),
        ("A", "O"),
        sets=(("LRFD", "strength"), ("LRFD", "overstrength")),
    )
    found = trial.standard.acted(replace(trial.situation, seismic=seismic), trial.sizes, trial.code, acting)
    assert found.names[:2] == ("A", "O") and found.V[0] == 7.0
    assert [n / KIP for n in found.N] == pytest.approx([-40, 2e5 / KIP, 40, -40])
