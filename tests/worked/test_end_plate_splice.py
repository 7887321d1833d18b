"""Hollow columns joined by end plates, worked by hand: HSS8X8X3/8 (wall 0.349) on PL 3/4 x 14 x 14 of A36 with 3/4 A325-N 11 in. apart. Kip, inches."""

from __future__ import annotations

from tests.worked.sheet import agrees, run

COLUMN = {"section": "HSS8X8X3/8", "grade": "A500C"}
SPLICE = {
    "framing": "column_splice",
    "standard": "column_end_plate_splice",
    "supported": COLUMN,
    "support": COLUMN,
    "parameters": {"plate_length": "14 in", "plate_width": "14 in", "spacing_along": "11 in", "spacing_across": "11 in", "plate_thickness": "3/4 in"},
    "actions": [{"name": "A", "N": "30 kip", "V": "8 kip", "M": "144 kip*in", "Mw": "48 kip*in"}],
}


def test_bolts_pull_with_prying():
    """30/4 + 144 x 5.5/121 + 48 x 5.5/121 = 7.5 + 6.545 + 2.182 = 16.23 kip. The corner's wall is sqrt(2) (5.5 - 3.8255) = 2.368 away: b = 2.194,
    b' = 1.819; a = 1.5, a' = 1.875; at 45 degrees to the edges p = 2 x 2.121 = 4.243; delta = 1 - 0.8125/4.243 = 0.8085, rho = 0.970. B = 0.75 x 90 x
    0.4418 = 29.82: tc^2 = 4 x 29.82 x 1.819/(0.9 x 4.243 x 58) = 0.9795; alpha' = (0.9795/0.5625 - 1)/(0.8085 x 1.970) = 0.4655; Q = 0.5743 (1 +
    0.3763) = 0.7904: 23.57. By ASD B = 19.88, tc^2 = 0.9814, Q = 0.7898: 15.70. (2 kip of shear each leaves F'nt at 90.)"""
    agrees(SPLICE, "bolt_tension", 16.23, 16.23, of="demand")
    agrees(SPLICE, "bolt_tension", 23.57, 15.70)


def test_shear_takes_of_the_tension():
    """15 kip of shear each: 33.95 ksi: F'nt = 117 - 33.95 x 90/40.5 = 41.55: B = 0.75 x 41.55 x 0.4418 = 13.77; tc^2 = 0.4523 < 0.5625: no
    prying. ASD: 117 - 2 x 90/54 x 33.95 = 3.83: 0.846."""
    more = {"actions": [{"name": "A", "N": "8 kip", "V": "60 kip"}]}
    agrees(SPLICE, "bolt_tension", 13.77, 0.846, rel=3e-3, **more)


def test_compression_pulls_no_bolt():
    found = run(SPLICE, actions=[{"name": "A", "N": "-200 kip", "M": "100 kip*in"}])["checks"]
    assert found["bolt_tension"]["demand"] == 0 and found["contact_bearing"]["utilisation"] > 0.2
