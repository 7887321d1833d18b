"""Limit states of the plate and of its weld."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from handrail.core.checking.trace import NULL, Trace
from handrail.core.codes.aisc360 import Code, plates, welds
from handrail.core.parts.bolt_group import DELTA_MAX
from handrail.core.standards.base import LimitState, fixed, shear, tension, thrust
from handrail.core.standards.single_plate.geometry import SIXTEENTH, Layout
from handrail.core.standards.situation import Actions
from handrail.core.units import KSI

BUCKLING_CB = 1.84  # Manual Part 9, as for a beam coped at both flanges
COLUMN_K = 1.2


def plate_states(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    """The plate's own limit states, then the extended plate's, then the weld."""
    tp, depth, plate, rows = layout.tp, layout.depth, layout.plate, layout.group.rows
    Ag = tp * depth
    An = tp * (depth - rows * plates.net_hole(layout.plate_hole.along))
    block_V, block_N = _v_paths(layout), _n_paths(layout)

    def state(check: str, clause: str, kind: str, strength: Any, demand: Any) -> LimitState:
        return fixed(check, "plate", clause, kind, strength, demand, tracing)

    yield state("plate_shear_yield", "J4.2", "force", lambda t: plates.shear_yield(code, plate.Fy, Ag, t), shear)
    yield state("plate_shear_rupture", "J4.2", "force", lambda t: plates.shear_rupture(code, plate.Fu, An, t), shear)
    yield state("plate_block_shear", "J4.3", "force", lambda t: _least_block(code, layout, block_V, t), shear)
    yield state("plate_axial_yield", "J4.1", "force", lambda t: plates.tension_yield(code, plate.Fy, Ag, t), tension)
    yield state("plate_axial_rupture", "J4.1", "force", lambda t: plates.tension_rupture(code, plate.Fu, An, t), tension)
    yield state("plate_axial_block_shear", "J4.3", "force", lambda t: _least_block(code, layout, block_N, t), tension)
    yield _block_interaction(layout, code, block_V, block_N)
    if layout.conventional:
        yield state("plate_buckling", "J4.4", "force", lambda t: _compression(code, layout, t), thrust)
        yield _interaction(layout, code, moment=False)
    else:
        yield from _extended(layout, code, tracing)
    yield _weld(layout, code, tracing)


def _v_paths(layout: Layout) -> list[tuple[float, float, float, float]]:
    """(Agv, Anv, Ant, Ubs) of each block that the shear can tear from the plate's end."""
    group, tp, hole = layout.group, layout.tp, layout.plate_hole
    v, h = plates.net_hole(hole.along), plates.net_hole(hole.across)
    run = layout.group_depth + layout.plate_end
    gross, net = tp * run, tp * (run - (group.rows - 0.5) * v)
    paths = []
    for column in range(group.columns):  # shear along this line, tension from it to the free edge
        lines = group.columns - column
        width = (lines - 1) * group.gauge + layout.edge
        paths.append((gross, net, tp * (width - (lines - 0.5) * h), 1.0 if lines == 1 else 0.5))
    if group.columns > 1:  # between the outer lines
        across = (group.columns - 1) * (group.gauge - h)
        paths.append((2 * gross, 2 * net, tp * across, 1.0))
    return paths


def _n_paths(layout: Layout) -> list[tuple[float, float, float, float]]:
    """(Agv, Anv, Ant, Ubs) of each block that a pull can tear from the plate's free edge."""
    group, tp, hole = layout.group, layout.tp, layout.plate_hole
    v, h = plates.net_hole(hole.along), plates.net_hole(hole.across)
    run = (group.columns - 1) * group.gauge + layout.edge
    gross, net = tp * run, tp * (run - (group.columns - 0.5) * h)
    down = layout.group_depth
    u = (2 * gross, 2 * net, tp * (down - (group.rows - 1) * v), 1.0)
    ell = (gross, net, tp * (down + layout.plate_end - (group.rows - 0.5) * v), 1.0)
    return [u, ell]


def _least_block(code: Code, layout: Layout, paths: list[tuple[float, float, float, float]], trace: Trace) -> float:
    plate = layout.plate
    least = min(paths, key=lambda p: plates.block_shear(code, plate.Fy, plate.Fu, *p))
    return plates.block_shear(code, plate.Fy, plate.Fu, *least, trace=trace)


def _block_interaction(layout: Layout, code: Code, block_V: Any, block_N: Any) -> LimitState:
    Vc, Nc = _least_block(code, layout, block_V, NULL), _least_block(code, layout, block_N, NULL)

    def demand(actions: Actions, t: Trace) -> tuple[Any, Any]:
        value = np.hypot(actions.V / Vc, actions.pull / Nc)
        return t("u", "sqrt((V/Vc)^2 + (N/Nc)^2), block shear", value, "J4.3", V=actions.V, Vc=Vc, N=actions.N, Nc=Nc), 1.0

    return LimitState("plate_block_shear_interaction", "plate", "J4.3", "number", demand)


def _compression(code: Code, layout: Layout, trace: Trace) -> float:
    r = layout.tp / math.sqrt(12)
    return plates.compression(code, layout.plate.Fy, layout.tp * layout.depth, COLUMN_K * layout.a, r, trace)


def _interaction(layout: Layout, code: Code, moment: bool) -> LimitState:
    """Shear with axial force and, extended, moment (Manual Part 10 with H1.1); the square root, so that it
    grows in proportion to the load."""
    tp, depth, plate = layout.tp, layout.depth, layout.plate
    Vc = plates.shear_yield(code, plate.Fy, tp * depth)
    Nt, Nb = plates.tension_yield(code, plate.Fy, tp * depth), _compression(code, layout, NULL)
    Mc = min(
        plates.flexure_yield(code, plate.Fy, tp * depth**2 / 4),
        plates.bar_flexure(code, plate.Fy, tp, depth, layout.a, BUCKLING_CB),
    )

    def demand(actions: Actions, t: Trace) -> tuple[Any, Any]:
        n = t("u_N", "N/Nc", np.maximum(actions.N / Nt, -actions.N / Nb), kind="number", Nt=Nt, Nb=Nb)
        if not moment:
            bent, formula = n, "sqrt((V/Vc)^2 + (N/Nc)^2)"
        else:
            m = t("u_M", "|V| a / Mc", actions.shear * layout.a / Mc, kind="number", a=layout.a, Mc=Mc)
            bent = np.where(n < 0.2, n / 2 + m, np.maximum(n + 8 / 9 * m, n / 2 + m))
            bent = t("u_NM", "N/2Nc + M/Mc, or N/Nc + 8/9 M/Mc from N/Nc = 0.2", bent, "H1.1", kind="number")
            formula = "sqrt((V/Vc)^2 + u_NM^2)"
        return t("u", formula, np.hypot(actions.V / Vc, bent), "Manual Part 10", V=actions.V, Vc=Vc), 1.0

    return LimitState("plate_interaction", "plate", "Manual Part 10", "number", demand)


def _extended(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    tp, depth, plate, a = layout.tp, layout.depth, layout.plate, layout.a
    hole = plates.net_hole(layout.plate_hole.along)
    Z = tp * depth**2 / 4
    Znet = plates.net_plastic_modulus(tp, depth, layout.group.rows, layout.group.pitch, hole)

    def bending(actions: Actions, t: Trace) -> np.ndarray:
        return t("Mr", "|V| a", actions.shear * a, "Manual Part 10", V=actions.V, a=a)

    def state(check: str, clause: str, strength: Any) -> LimitState:
        return fixed(check, "plate", clause, "moment", strength, bending, tracing)

    yield state("plate_flexure_yield", "J4.5", lambda t: plates.flexure_yield(code, plate.Fy, Z, t))
    yield state("plate_flexure_rupture", "J4.5", lambda t: plates.flexure_rupture(code, plate.Fu, Znet, t))
    yield state("plate_buckling", "F11", lambda t: plates.bar_flexure(code, plate.Fy, tp, depth, a, BUCKLING_CB, t))
    yield fixed("plate_axial_buckling", "plate", "J4.4", "force", lambda t: _compression(code, layout, t), thrust, tracing)
    yield _interaction(layout, code, moment=True)
    yield from _ductility(layout, tracing)
    if layout.choice("lateral_restraint") == "none":
        yield _torsion(layout, code, tracing)
    if layout.choice("stabiliser") == "none":
        yield fixed("stabiliser", "plate", "Manual Part 10", "force", lambda t: _stabiliser(layout, code, t), shear, tracing)


def ductile_by_thickness(layout: Layout) -> bool:
    """The exceptions to the thickness limit: thin plies with 2 d to the edges (Manual Part 10)."""
    limit = layout.bolt.d / 2 + SIXTEENTH + 1e-6
    if min(layout.edge, layout.beam_edge) < 2 * layout.bolt.d - 1e-6 or layout.group.columns > 2:
        return False
    thick = (min if layout.group.columns == 1 else max)(layout.tp, layout.tw)
    return thick <= limit


def _ductility(layout: Layout, tracing: bool) -> Iterator[LimitState]:
    if ductile_by_thickness(layout):
        return

    def strength(t: Trace) -> float:
        d = np.linalg.norm(layout.group.coordinates, axis=1)
        R = (1 - np.exp(-10 * DELTA_MAX * d / max(d.max(), 1e-9))) ** 0.55
        C = t("C'", "sum of R d, moment only", float((R * d).sum()), "Manual Part 7", kind="length")
        Mmax = t("Mmax", "Fnv/0.90 Ab C'", layout.bolt.Fnv / 0.90 * layout.bolt.area * C, "Manual Part 10",
                 Fnv=layout.bolt.Fnv, Ab=layout.bolt.area)  # fmt: skip
        return t("tmax", "6 Mmax / (Fy l^2)", 6 * Mmax / (layout.plate.Fy * layout.depth**2), "Manual Part 10",
                 Fy=layout.plate.Fy, l=layout.depth)  # fmt: skip

    yield fixed("plate_ductility", "plate", "Manual Part 10", "length", strength,
                lambda actions, t: t("tp", "plate thickness", np.full_like(actions.V, layout.tp)), tracing, limit=True)  # fmt: skip


def _torsion(layout: Layout, code: Code, tracing: bool) -> LimitState:
    """Lap eccentricity against the plate's torsion; the slab's and the beam's part is left out."""
    tp, depth = layout.tp, layout.depth

    def strength(t: Trace) -> float:
        tau = code.available(t("Rn", "0.60 Fy l tp", 0.60 * layout.plate.Fy * depth * tp, "Manual Part 10",
                               Fy=layout.plate.Fy, l=depth, tp=tp), "shear_yield", t)  # fmt: skip
        return t("Mc", "phi Rn tp/2", tau * tp / 2, "Manual Part 10")

    def demand(actions: Actions, t: Trace) -> np.ndarray:
        return t("Mr", "V (tw + tp)/2 + V tp/2", actions.shear * (layout.tw + 2 * tp) / 2, "Manual Part 10",
                 V=actions.V, tw=layout.tw, tp=tp)  # fmt: skip

    return fixed("plate_torsion", "plate", "Manual Part 10", "moment", strength, demand, tracing)


def _stabiliser(layout: Layout, code: Code, trace: Trace) -> float:
    Rn = trace("Rn", "1500 pi l tp^3 / a^2", 1500 * KSI * math.pi * layout.depth * layout.tp**3 / layout.a**2,
               "Manual Part 10", l=layout.depth, tp=layout.tp, a=layout.a)  # fmt: skip
    return code.available(Rn, "flexure", trace)


def _weld(layout: Layout, code: Code, tracing: bool) -> LimitState:
    """Both fillets under shear and axial force; 5/8 of the plate (a detailing rule) carries the moment."""
    trace = Trace() if tracing else NULL
    throat = trace("throat", "w (cos(45 - skew/2) + cos(45 + skew/2))",
                   welds.pair_throat(layout.weld, layout.situation.skew), "J2.2a", w=layout.weld)  # fmt: skip
    along = welds.line_strength(code, layout.electrode, throat, layout.depth, trace)

    def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
        angle = np.arctan2(actions.axial, actions.shear)
        kds = t("kds", "1 + 0.5 sin^1.5(theta)", welds.directional_increase(angle), "J2-5", theta=angle)
        return t("Pr", "sqrt(N^2 + V^2)", actions.resultant), t("phi Rn", "kds phi Rn", kds * along, "J2.4", kind="force")

    return LimitState("weld", "weld", "J2.4", "force", evaluate, tuple(trace.lines))
