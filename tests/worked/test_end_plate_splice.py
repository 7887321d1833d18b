"""Hollow columns joined by end plates, worked by hand: HSS8X8X3/8 (wall 0.349) on PL 3/4 x 14 x 14 of A36 with 3/4
A325-N 11 in. apart. Kip, inches."""

from __future__ import annotations

from tests.worked.sheet import agrees, run

COLUMN = {"section": "HSS8X8X3/8", "grade": "A500C"}
SPLICE = {
    "framing": "column_splice",
    "standard": "column_end_plate_splice",
    "supported": COLUMN,
    "support": COLUMN,
    "parameters": {
        "plate_length": "14 in",
        "plate_width": "14 in",
        "spacing_along": "11 in",
        "spacing_across": "11 in",
        "plate_thickness": "3/4 in",
    },
    "actions": [{"name": "A", "N": "30 kip", "V": "8 kip", "M": "144 kip*in", "Mw": "48 kip*in"}],
}


def test_bolts_pull_with_prying():
    """60 kip lift the plates apart (15 - 6.545 - 2.182 > 0): 60/4 + 144 x 5.5/121 + 48 x 5.5/121 = 23.73 kip. The
    corner's wall is sqrt(2) (5.5 - 3.8255) = 2.368 away: b = 2.194, b' = 1.819; a = 1.5, a' = 1.875; at 45 degrees to
    the edges p = 2 x 2.121 = 4.243; delta = 1 - 0.8125/4.243 = 0.8085, rho = 0.970. B = 0.75 x 90 x 0.4418 = 29.82:
    tc^2 = 4 x 29.82 x 1.819/(0.9 x 4.243 x 58) = 0.9795; alpha' = (0.9795/0.5625 - 1)/(0.8085 x 1.970) = 0.4655; Q =
    0.5743 (1 + 0.3763) = 0.7904: 23.57. By ASD B = 19.88, tc^2 = 0.9814, Q = 0.7898: 15.70. (2 kip of shear each leaves
    F'nt at 90.)"""
    lifted = {"actions": [{"name": "A", "N": "60 kip", "V": "8 kip", "M": "144 kip*in", "Mw": "48 kip*in"}]}
    agrees(SPLICE, "bolt_tension", 23.73, 23.73, of="demand", **lifted)
    agrees(SPLICE, "bolt_tension", 23.57, 15.70, **lifted)


def test_they_turn_about_the_wall_that_is_pressed():
    """M = 300 alone: two bolts of 0.4418 at -5.5; no strain at x0: the wall 8 x 0.349 at 3.8255 and both sides from x0
    to 3.651: 2.792 (3.8255 - x0) + 0.349 (3.651 - x0)^2 = 0.8836 (5.5 + x0): x0 = 1.881, 6.522 both. About the bolts
    5.429 x 9.3255 + 0.03 + 1.0934 x 8.561 = 60.02: 300/60.02 = 4.9986: 32.60 kip, 16.30 each. A thrust of 20 holds no
    bolt down as if it stood there: x0 = 1.005: 5.748 x 4.377 = 25.16, 12.58 each (by the bolts' places alone it would
    be 300 x 5.5/121 - 20/4 = 8.64); under the wall 4.377 x (4 - 1.005) = 13.11 ksi of 0.9 x 50 = 45; /1.67: 29.94."""
    agrees(SPLICE, "bolt_tension", 16.30, 16.30, of="demand", actions=[{"name": "A", "M": "300 kip*in"}])
    pressed = [{"name": "A", "N": "-20 kip", "M": "300 kip*in"}]
    agrees(SPLICE, "bolt_tension", 12.58, 12.58, of="demand", actions=pressed)
    agrees(SPLICE, "wall_pressure", 13.11, 13.11, of="demand", actions=pressed)
    agrees(SPLICE, "wall_pressure", 45, 29.94, actions=pressed)


def test_the_weld_beside_each_bolt():
    """60/4 = 15 kip over p = 4.243 (below): 3.535 kip/in. of a 1/4 in. fillet's 5.568, /2: 3.712; the wall would hold
    45 x 0.349 = 15.7."""
    lifted = {"actions": [{"name": "A", "N": "60 kip"}]}
    agrees(SPLICE, "column_weld_at_rods", 3.535, 3.535, of="demand", **lifted)
    agrees(SPLICE, "column_weld_at_rods", 5.568, 3.712, **lifted)


def test_shear_takes_of_the_tension():
    """15 kip of shear each: 33.95 ksi: F'nt = 117 - 33.95 x 90/40.5 = 41.55: B = 0.75 x 41.55 x 0.4418 = 13.77; tc^2 =
    0.4523 < 0.5625: no prying. ASD: 117 - 2 x 90/54 x 33.95 = 3.83: 0.846."""
    more = {"actions": [{"name": "A", "N": "8 kip", "V": "60 kip"}]}
    agrees(SPLICE, "bolt_tension", 13.77, 0.846, rel=3e-3, **more)


def test_compression_pulls_no_bolt():
    found = run(SPLICE, actions=[{"name": "A", "N": "-200 kip", "M": "100 kip*in"}])["checks"]
    assert found["bolt_tension"]["demand"] == 0 and found["contact_bearing"]["utilisation"] > 0.2
