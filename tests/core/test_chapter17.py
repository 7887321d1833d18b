"""Random groups of anchors beside an independent chapter 17 of ACI 318-19: plain loops in inches and pounds, areas by
counting cells."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.catalogue import rod
from handrail.core.codes.aci318 import Aci318
from handrail.core.limit_state import ratio
from handrail.core.parts.anchors import AnchorGroup, Concrete
from handrail.core.parts.anchors import shear as in_shear
from handrail.core.parts.anchors import tension as in_tension

CONCRETE = Aci318()

IN, LBF = 25.4, 4.4482216152605
CELL = 10.0  # mm: every place, edge and depth below falls on its lines
PHI = 0.70  # cast-in, no supplementary reinforcement (17.5.3)
FC = 4000.0  # psi

tens = st.integers(31, 90).map(lambda k: 10.0 * k)


@st.composite
def groups(draw) -> AnchorGroup:
    """Rods on lines 100 mm apart in a block with its four edges at random distances, some so far that they do not
    count."""
    points = draw(st.lists(st.tuples(st.integers(-3, 3), st.integers(-3, 3)), min_size=1, max_size=6, unique=True))
    hef = 20.0 * draw(st.integers(4, 30))
    block = Concrete(
        fc=FC * LBF / IN**2,
        thickness=10.0 * draw(st.integers(15, 90)),
        along=(draw(tens), draw(tens)),
        across=(draw(tens), draw(tens)),
        cracked=draw(st.booleans()),
    )
    name = draw(st.sampled_from(["3/4 F1554-36", "1 F1554-55", "1-1/2 F1554-105"]))
    return AnchorGroup(
        points=tuple((100.0 * x, 100.0 * y) for x, y in points),
        rod=rod(name),
        hef=hef,
        concrete=block,
        welded=draw(st.booleans()),
        code=CONCRETE,
    )


def to_edges(block: Concrete, at) -> dict[str, float]:
    return {
        "-x": at[0] + block.along[0],
        "+x": block.along[1] - at[0],
        "-y": at[1] + block.across[0],
        "+y": block.across[1] - at[1],
    }


def together(points: list, reach: float) -> list[list]:
    """Points that are nearer than `reach` to another of their own both ways."""
    label = list(range(len(points)))
    for _ in points:
        for i, p in enumerate(points):
            for j, q in enumerate(points):
                if abs(p[0] - q[0]) < reach and abs(p[1] - q[1]) < reach:
                    label[i] = label[j] = min(label[i], label[j])
    return [[p for p, of in zip(points, label, strict=True) if of == k] for k in sorted(set(label))]


def cells(block: Concrete, points: list, reach: float) -> float:
    """Square mm of the block within `reach` of a point both ways, by counting."""
    x = np.arange(-block.along[0], block.along[1], CELL)[:, None] + CELL / 2
    y = np.arange(-block.across[0], block.across[1], CELL) + CELL / 2
    return float(np.any([(abs(x - p[0]) < reach) & (abs(y - p[1]) < reach) for p in points], axis=0).sum()) * CELL**2


def gap(values) -> float:
    values = sorted(values)
    return max((b - a for a, b in zip(values, values[1:], strict=False)), default=0.0)


def breakout(group: AnchorGroup, pulls: dict) -> tuple[float, list]:
    """The highest Nua / phi Ncbg of the rods that pull (17.6.2), and phi Ncb of each group before eccentricity."""
    worst, found = 0.0, []
    for own in together(list(pulls), 3 * group.hef):
        edges = {side: min(to_edges(group.concrete, p)[side] for p in own) for side in ("-x", "+x", "-y", "+y")}
        hef, near = group.hef, [e for e in edges.values() if e < 1.5 * group.hef]
        if len(near) >= 3:
            hef = min(hef, max(max(near) / 1.5, gap(p[0] for p in own) / 3, gap(p[1] for p in own) / 3))
        h = hef / IN
        Nb = 16 * math.sqrt(FC) * h ** (5 / 3) if 11 <= h <= 25 else 24 * math.sqrt(FC) * h**1.5
        ca = min(edges.values())
        ed = 1.0 if ca >= 1.5 * hef else 0.7 + 0.3 * ca / (1.5 * hef)
        Ncb = (
            PHI
            * cells(group.concrete, own, 1.5 * hef)
            / (9 * hef**2)
            * ed
            * (1.0 if group.concrete.cracked else 1.25)
            * Nb
            * LBF
        )
        total = sum(pulls[p] for p in own)
        ec = 1.0
        for axis in (0, 1):
            e = sum(pulls[p] * p[axis] for p in own) / total - sum(p[axis] for p in own) / len(own)
            ec *= 1 / (1 + abs(e) / (1.5 * hef))
        worst = max(worst, total / (Ncb * ec))
        found.append((own, Ncb))
    return worst, found


@given(groups(), st.randoms(use_true_random=False))
def test_breakout_in_tension(group, dice):
    pulls = {p: dice.choice([0.0, 4e3, 1e4, 3e4]) for p in group.points}
    expected = breakout(group, {p: f for p, f in pulls.items() if f})[0]
    assert float(ratio(*in_tension.breakout(group, np.array(list(pulls.values()))))) == pytest.approx(
        expected, rel=1e-6
    )


@given(groups(), st.randoms(use_true_random=False))
def test_heads_and_faces(group, dice):
    """17.6.3 and 17.6.4: each row of one edge distance, its rods closer than 6 ca1 together."""
    pulls = {p: dice.choice([0.0, 1e4, 3e4]) for p in group.points}
    Abrg = group.rod.bearing_area / IN**2
    worst = 0.0
    for side, axis in (("-x", 0), ("+x", 0), ("-y", 1), ("+y", 1)):
        for ca1 in {to_edges(group.concrete, p)[side] for p in group.points}:
            if group.hef <= 2.5 * ca1:
                continue
            row = [p for p, f in pulls.items() if f and to_edges(group.concrete, p)[side] == ca1]
            for own in together(row, 6 * ca1):
                Nsb = 160 * (ca1 / IN) * math.sqrt(Abrg) * math.sqrt(FC) * LBF
                if len(own) > 1:
                    Nsb *= 1 + (max(p[1 - axis] for p in own) - min(p[1 - axis] for p in own)) / (6 * ca1)
                else:
                    ca2 = min(to_edges(group.concrete, own[0])[s] for s in ("-x", "+x", "-y", "+y") if s[1] != side[1])
                    Nsb *= (1 + max(ca2 / ca1, 1.0)) / 4 if ca2 < 3 * ca1 else 1.0
                worst = max(worst, sum(pulls[p] for p in own) / (PHI * Nsb))
    found = float(ratio(*in_tension.blowout(group, np.array(list(pulls.values())))))
    assert found == pytest.approx(worst, rel=1e-6)
    cracked = group.concrete.cracked
    assert CONCRETE.tension.pullout(group.rod, group.concrete.fc, cracked) == pytest.approx(
        PHI * (1 if cracked else 1.4) * 8 * Abrg * FC * LBF, rel=1e-6
    )


def wedge(group: AnchorGroup, side: str, axis: int, row: list, ca1: float) -> tuple[float, float]:
    """phi Vcbg of a run of rods to their edge and along it (17.7.2), N."""
    block, ha = group.concrete, group.concrete.thickness
    ends = [min(to_edges(block, p)[s] for p in row) for s in ("-x", "+x", "-y", "+y") if s[1] != side[1]]
    if max(ends) < 1.5 * ca1 and ha < 1.5 * ca1:
        ca1 = min(ca1, max(max(ends) / 1.5, ha / 1.5, gap(p[1 - axis] for p in row) / 3))
    span = [(p[1 - axis], *(to_edges(block, p)[s] for s in ("-x", "+x", "-y", "+y") if s[1] != side[1])) for p in row]
    low, high = min(at - min(a, 1.5 * ca1) for at, a, _ in span), max(at + min(b, 1.5 * ca1) for at, _, b in span)
    gaps = sum(
        max(q - p - 3 * ca1, 0.0)
        for p, q in zip(sorted(s[0] for s in span), sorted(s[0] for s in span)[1:], strict=False)
    )
    AVc, AVco = (high - low - gaps) * min(ha, 1.5 * ca1), 4.5 * ca1**2
    d, c = group.rod.d / IN, ca1 / IN
    le = min(group.hef / IN, 8 * d)
    Vb = min(7 * (le / d) ** 0.2 * math.sqrt(d), 9) * math.sqrt(FC) * c**1.5 * LBF
    plain = PHI * min(AVc / AVco, len(row)) * (1.0 if block.cracked else 1.4) * max(1.0, math.sqrt(1.5 * ca1 / ha)) * Vb
    corner = 1.0 if min(ends) >= 1.5 * ca1 else 0.7 + 0.3 * min(ends) / (1.5 * ca1)
    return plain * corner, 2 * plain


@given(groups(), st.sampled_from([(1, 0), (-1, 0), (0, 1), (0, -1)]))
def test_breakout_in_shear(group, way):
    """The same shear on every rod, towards one edge: that edge to the full, the two edges beside it at twice, none
    behind."""
    each, worst = 5e3, 0.0
    for side, axis, sign in (("-x", 0, -1), ("+x", 0, 1), ("-y", 1, -1), ("+y", 1, 1)):
        if way[axis] * sign < 0:
            continue
        along = way[axis] == 0
        distances = sorted({to_edges(group.concrete, p)[side] for p in group.points})
        cases = [(distances[0], len(distances) > 1 and distances[1] - distances[0] < distances[0])]
        if group.welded and len(distances) > 1:
            cases.append((distances[-1], True))
        for ca1, takes_all in cases:
            row = [p for p in group.points if to_edges(group.concrete, p)[side] == ca1]
            for own in together(row, 3 * ca1):
                acting = each * (group.n * len(own) / len(row) if takes_all else len(own))
                worst = max(worst, acting / wedge(group, side, axis, own, ca1)[along])
    assert float(in_shear.breakout(group, np.tile(each * np.array(way, float), (group.n, 1)))) == pytest.approx(
        worst, rel=1e-6
    )


@given(groups())
def test_pryout(group):
    """17.7.3: twice the breakout from 2.5 in. of embedment on, of every rod."""
    kcp = 1 if group.hef / IN < 2.5 else 2
    worst = max(5e3 * len(own) / (kcp * Ncb) for own, Ncb in breakout(group, dict.fromkeys(group.points, 1.0))[1])
    assert float(ratio(*in_shear.pryout(group, np.tile([5e3, 0.0], (group.n, 1))))) == pytest.approx(worst, rel=1e-6)
