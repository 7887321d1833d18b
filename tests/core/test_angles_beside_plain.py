"""Angles and end plates of random sizes beside an independent calculation: plain numbers in kip and inches, straight
from the clauses."""

from __future__ import annotations

import math
import random

import pytest

from tests.worked.sheet import run

HOLES = {0.625: 0.6875, 0.75: 0.8125, 0.875: 0.9375, 1.0: 1.125}
FNV, FNT = {"N": 54.0, "X": 68.0}, 90.0
WEBS = {"W16X50": (0.380, 16.3), "W18X50": (0.355, 18.0), "W21X62": (0.400, 21.0), "W24X76": (0.440, 23.9)}
LABELS = {0.625: "5/8", 0.75: "3/4", 0.875: "7/8", 1.0: "1"}
PHI = {"LRFD": (1.0, 0.9, 0.75), "ASD": (1 / 1.5, 1 / 1.67, 1 / 2.0)}
PROBES = range(40)


class Drawn:
    """One design: bolts, edges, an angle's or a plate's thickness, forces."""

    def __init__(self, seed: int) -> None:
        pick = random.Random(seed)
        self.method = pick.choice(["LRFD", "ASD"])
        self.beam = pick.choice(list(WEBS))
        self.tw, self.depth = WEBS[self.beam]
        self.d, self.threads = pick.choice(list(HOLES)), pick.choice("NX")
        self.rows = pick.randint(2, 4)
        self.s = pick.choice([3.0, 3.5])
        self.lev = pick.choice([1.25, 1.5, 1.75])
        self.t = pick.choice([0.25, 0.3125, 0.375])
        self.gauge = pick.choice([2.25, 2.5, 2.75])
        self.V, self.N = pick.uniform(10, 60), pick.uniform(0, 12)
        self.L = (self.rows - 1) * self.s + 2 * self.lev
        self.Fy, self.Fu = pick.choice([("A36", 36.0, 58.0), ("A572-50", 50.0, 65.0)])[1:]
        self.grade = "A36" if self.Fy == 36 else "A572-50"
        self.yielding, self.bending, self.rupture = PHI[self.method]
        self.hole = HOLES[self.d]
        self.area = math.pi * self.d**2 / 4

    @property
    def actions(self) -> list[dict[str, str]]:
        return [{"name": "A", "V": f"{self.V} kip", "N": f"{self.N} kip"}]

    def shear(self) -> float:
        return self.rupture * FNV[self.threads] * self.area

    def leg_block(self, leh: float) -> float:
        """One line of bolts torn down to the end, and out to an edge `leh` away."""
        run = (self.rows - 1) * self.s + self.lev
        net = run - (self.rows - 0.5) * (self.hole + 1 / 16)
        tension = self.Fu * (leh - 0.5 * (self.hole + 1 / 16)) * self.t
        return self.rupture * (min(0.6 * self.Fu * net * self.t, 0.6 * self.Fy * run * self.t) + tension)

    def leg_rupture(self) -> float:
        return self.rupture * 0.6 * self.Fu * (self.L - self.rows * (self.hole + 1 / 16)) * self.t

    def leg_yield(self) -> float:
        return self.yielding * 0.6 * self.Fy * self.L * self.t

    def bolts_on(self, t: float, planes: int, sides: int, other: float) -> float:
        """Every bolt the least of shear, bearing and tearing of both plies, or all alike as the weakest bears,
        whichever holds more (shear is a check of its own); the last of a line tears to the end. `sides` lines."""
        total, weakest = 0.0, math.inf
        for k in range(self.rows):
            clear = self.lev - self.hole / 2 if k == 0 else self.s - self.hole
            own = min(2.4 * self.d * t * self.Fu, 1.2 * clear * t * self.Fu)
            far = (
                min(2.4 * self.d * other * 65, 1.2 * (self.s - self.hole) * other * 65)
                if self.rows > 1
                else 2.4 * self.d * other * 65
            )
            weakest = min(weakest, own)
            total += min(own, far, planes * FNV[self.threads] * self.area)
        return self.rupture * sides * max(total, self.rows * weakest)

    def pried(self, b: float, a: float, each: float) -> float:
        """Tension of a bolt that `each` shears, in a leg or a plate with the bolt `b` from what pulls and `a` from the
        edge."""
        per = FNV[self.threads] * (0.75 if self.method == "LRFD" else 0.5)
        stress = min(max(1.3 * FNT - FNT / per * each / self.area, 0.0), FNT)
        B = self.rupture * stress * self.area
        bb, aa = b - self.d / 2, min(a, 1.25 * b) + self.d / 2
        whole = min(2 * b, self.s)
        own = min(b, self.s / 2) + min(b, self.lev)
        p = min(whole, own)
        delta, rho = 1 - self.hole / p, bb / aa
        tc = math.sqrt(4 * B * bb / (self.bending * p * self.Fu))
        if self.t >= tc:
            return B
        alpha = (1 / (delta * (1 + rho))) * ((tc / self.t) ** 2 - 1)
        return B * (self.t / tc) ** 2 * (1 + delta * min(alpha, 1.0))


def close(found: dict, check: str, hand: float) -> None:
    assert found["checks"][check]["strength"] == pytest.approx(hand, rel=5e-3), check


@pytest.mark.parametrize("seed", PROBES)
def test_a_pair_of_angles(seed):
    one = Drawn(seed)
    found = run(
        {
            "framing": "beam_to_column_flange",
            "standard": "double_angle",
            "method": one.method,
            "supported": {"section": one.beam, "grade": "A992"},
            "support": {"section": "W14X145", "grade": "A992"},
            "parameters": {
                "stagger": "none",
                "rows": one.rows,
                "pitch": f"{one.s} in",
                "bolt": f"{LABELS[one.d]} A325-{one.threads}",
                "end_distance": f"{one.lev} in",
                "angle": f"L5X3-1/2X{ {0.25: '1/4', 0.3125: '5/16', 0.375: '3/8'}[one.t] }",
                "angle_grade": one.grade,
                "beam_gauge": "2-1/4 in",
                "support_gauge": f"{one.gauge} in",
            },
            "actions": one.actions,
        }
    )
    close(found, "bolt_shear", 2 * one.rows * one.shear())
    close(found, "support_bolt_shear", 2 * one.rows * one.shear())
    for leg, edge in (("beam_leg", 1.25), ("support_leg", 5 - one.gauge)):
        close(found, f"{leg}_block_shear", one.leg_block(edge))
        close(found, f"{leg}_shear_rupture", one.leg_rupture())
        close(found, f"{leg}_shear_yield", one.leg_yield())
    close(found, "support_bolt_bearing_leg", one.bolts_on(one.t, 1, 2, 1.09))
    close(found, "support_bolt_tension", one.pried(one.gauge - one.t / 2, 5 - one.gauge, one.V / (2 * one.rows)))


@pytest.mark.parametrize("seed", PROBES)
def test_an_end_plate(seed):
    one = Drawn(1000 + seed)
    w, gauge = 0.25, 5.5
    found = run(
        {
            "framing": "beam_to_column_flange",
            "standard": "shear_end_plate",
            "method": one.method,
            "supported": {"section": one.beam, "grade": "A992"},
            "support": {"section": "W14X145", "grade": "A992"},
            "parameters": {
                "rows": one.rows,
                "pitch": f"{one.s} in",
                "bolt": f"{LABELS[one.d]} A325-{one.threads}",
                "end_distance": f"{one.lev} in",
                "plate_thickness": f"{one.t} in",
                "plate_grade": one.grade,
                "gauge": f"{gauge} in",
                "edge_distance": "1-1/2 in",
                "weld_size": f"{w} in",
            },
            "actions": one.actions,
        }
    )
    close(found, "plate_block_shear", one.leg_block(1.5))
    close(found, "plate_shear_rupture", one.leg_rupture())
    close(found, "plate_shear_yield", one.leg_yield())
    close(found, "bolt_shear", 2 * one.rows * one.shear())
    close(found, "bolt_bearing_plate", one.bolts_on(one.t, 1, 2, 1.09))
    close(found, "bolt_tension", one.pried((gauge - one.tw) / 2, 1.5, one.V / (2 * one.rows)))
    sine = one.N / math.hypot(one.V, one.N)
    line = 0.6 * 70 * w / math.sqrt(2) * 2 * (one.L - 2 * w)
    close(found, "weld", one.rupture * line * (1 + 0.5 * sine**1.5))
    close(found, "web_at_weld", one.rupture * 0.6 * 65 * one.tw * (one.L - 2 * w))


@pytest.mark.parametrize("seed", PROBES)
def test_one_angle(seed):
    """The bolts by an instantaneous centre looked for by halving along the line through their middle; the leg bent by V
    from the web."""
    one = Drawn(2000 + seed)
    e = one.gauge + one.tw / 2
    found = run(
        {
            "framing": "beam_to_column_flange",
            "standard": "single_angle",
            "method": one.method,
            "supported": {"section": one.beam, "grade": "A992"},
            "support": {"section": "W14X145", "grade": "A992"},
            "parameters": {
                "stagger": "none",
                "rows": one.rows,
                "pitch": f"{one.s} in",
                "bolt": f"{LABELS[one.d]} A325-{one.threads}",
                "end_distance": f"{one.lev} in",
                "angle": f"L5X3-1/2X{ {0.25: '1/4', 0.3125: '5/16', 0.375: '3/8'}[one.t] }",
                "angle_grade": one.grade,
                "beam_gauge": "2-1/4 in",
                "support_gauge": f"{one.gauge} in",
            },
            "actions": one.actions,
        }
    )
    ys = [(k - (one.rows - 1) / 2) * one.s for k in range(one.rows)]

    def about(x: float) -> tuple[float, float]:
        radii = [math.hypot(x, y) for y in ys]
        forces = [(1 - math.exp(-10 * 0.34 * r / max(radii))) ** 0.55 for r in radii]
        return sum(f * x / r for f, r in zip(forces, radii)), sum(f * r for f, r in zip(forces, radii))

    low, high = 1e-6, 200.0
    for _ in range(200):
        x = (low + high) / 2
        along, moment = about(x)
        low, high = (x, high) if moment > along * (e + x) else (low, x)
    close(found, "support_bolt_shear", about(low)[0] * one.shear())
    close(found, "support_leg_flexure_yield", one.bending * one.Fy * one.t * one.L**2 / 4)
    close(found, "bolt_shear", one.rows * one.shear())
    assert found["checks"]["support_leg_flexure_yield"]["demand"] == pytest.approx(one.V * e, rel=1e-3)
