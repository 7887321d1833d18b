"""Limit states of the bolts: shear, bearing and tearout on both plies, slip."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue import HoleSize
from handrail.core.checking.trace import NULL, Trace
from handrail.core.codes.aisc360 import Code
from handrail.core.codes.aisc360 import bolts as rules
from handrail.core.parts.bolt_group import Distribution, distribute, load_vectors
from handrail.core.standards.base import LimitState
from handrail.core.standards.single_plate.geometry import Layout
from handrail.core.standards.situation import Actions, DirectionTable

NOTHING = 1e9  # the utilisation by a load of one of what carries nothing
FAR = 1e6  # mm: no edge this way
TOWARDS_CENTRE = (0.0, 0.5, 0.75)


@dataclass(frozen=True)
class Ply:
    """What the bolts bear on: its edges from the group's centroid (mm; FAR where there is none)."""

    name: str
    t: float
    Fu: float
    hole: HoleSize
    toward_support: float
    away: float
    up: float
    down: float
    sense: float  # +1 where the bolts' forces are those on the web, -1 on the plate


def plies(layout: Layout) -> tuple[Ply, Ply]:
    """(plate, web)."""
    half_depth, half_width = layout.group_depth / 2, (layout.group.columns - 1) * layout.group.gauge / 2
    plate = Ply("plate", layout.tp, layout.plate.Fu, layout.plate_hole, FAR, half_width + layout.edge,
                layout.depth / 2, layout.depth / 2, -1.0)  # fmt: skip
    beam, grade = layout.situation.supported, layout.situation.supported_grade
    centre = layout.first_bolt + half_depth
    up = centre - layout.top_cope.depth if layout.top_cope else FAR
    down = beam.d - layout.bottom_cope.depth - centre if layout.bottom_cope else FAR
    web = Ply("web", layout.tw, grade.Fu, layout.web_hole, half_width + layout.beam_edge, FAR, up, down, 1.0)
    return plate, web


def clear_distances(layout: Layout, ply: Ply, forces: np.ndarray) -> np.ndarray:
    """(t, n) clear distance, mm, in the direction of each bolt's force (J3.11): to an edge or the next hole."""
    xy, group, hole = layout.group.coordinates, layout.group, ply.hole
    size = np.maximum(np.hypot(forces[..., 0], forces[..., 1]), 1e-12)
    ux, uy = forces[..., 0] / size, forces[..., 1] / size
    half = np.hypot(hole.across / 2 * ux, hole.along / 2 * uy)
    inner_x = [x for x in (xy[:, 0].max(), xy[:, 0].min())]
    top, bottom = xy[:, 1].max(), xy[:, 1].min()

    def reach(u: np.ndarray, to_edge: np.ndarray, spaced: np.ndarray, spacing: float) -> np.ndarray:
        part = np.maximum(np.abs(u), 1e-9)
        return np.where(spaced, spacing / part - 2 * half, to_edge / part - half)

    to_y = np.where(uy >= 0, ply.up - xy[:, 1], ply.down + xy[:, 1])
    beyond_y = np.where(uy >= 0, xy[:, 1] < top - 1e-6, xy[:, 1] > bottom + 1e-6)
    to_x = np.where(ux >= 0, ply.away - xy[:, 0], ply.toward_support + xy[:, 0])
    beyond_x = np.where(ux >= 0, xy[:, 0] < inner_x[0] - 1e-6, xy[:, 0] > inner_x[1] + 1e-6)
    lc = np.minimum(reach(uy, to_y, beyond_y, group.pitch), reach(ux, to_x, beyond_x, group.gauge))
    return np.clip(lc, 0.0, FAR)


def ply_strengths(code: Code, layout: Layout, ply: Ply, forces: np.ndarray) -> np.ndarray:
    """(t, n) available bearing or tearout of each bolt on `ply` in its own direction, N."""
    deformation = layout.choice("deformation") == "considered"
    bear, tear = rules.bearing_factors(ply.hole, deformation)
    lc = clear_distances(layout, ply, ply.sense * forces)
    bearing = rules.bearing(code, layout.bolt.d, ply.t, ply.Fu, bear)
    return np.minimum(rules.tearout(code, lc, ply.t, ply.Fu, tear), bearing)


def shared_by_strength(code: Code, layout: Layout, found: Distribution) -> np.ndarray:
    """(t,) utilisation for a load of one when bolts share it by their strengths (J3 user note).

    Each bolt takes its part of the direct load in proportion to the least of its shear, bearing and
    tearout, and its part of the moment elastically; or it stands part of the way from there to its force
    about the instantaneous centre. Each is in balance, so the best of them is a lower bound.
    """
    load = load_vectors(found.theta)
    strength = _least(code, layout, np.broadcast_to(load[:, None, :], found.forces.shape))
    total = strength.sum(axis=1, keepdims=True)
    forces = (strength / np.maximum(total, 1e-9))[..., None] * load[:, None]
    xy = layout.group.coordinates
    about = (xy[:, 0] * forces[..., 1] - xy[:, 1] * forces[..., 0]).sum(axis=1)
    J = float((xy**2).sum()) or 1.0
    rest = (-layout.e * load[:, 1] - about) / J
    forces = forces + rest[:, None, None] * np.stack([-xy[:, 1], xy[:, 0]], axis=-1)
    between = np.concatenate([forces + part * (found.forces - forces) for part in TOWARDS_CENTRE])
    taken = np.hypot(between[..., 0], between[..., 1]) / np.maximum(_least(code, layout, between), 1e-9)
    use = taken.max(axis=1).reshape(len(TOWARDS_CENTRE), -1).min(axis=0)  # the best of them, its busiest bolt
    return np.where(total[:, 0] > 1.0, use, NOTHING)  # no bolt has any strength in this direction


def _least(code: Code, layout: Layout, forces: np.ndarray) -> np.ndarray:
    shear = rules.shear(code, layout.bolt)
    return np.minimum.reduce([ply_strengths(code, layout, p, forces) for p in plies(layout)] + [np.full(forces.shape[:-1], shear)])  # fmt: skip


def bolt_states(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    """`bolt_shear`, `bolt_bearing_plate`, `bolt_bearing_web` and `slip`."""
    found = distribute(layout.group, layout.e, layout.choice("bolt_method"))
    yield _shear(layout, code, found, tracing)
    together = shared_by_strength(code, layout, found)
    for ply in plies(layout):
        yield _bearing(layout, code, found, together, ply, tracing)
    yield from _slip(layout, code, found, tracing)


def _effective(found: Distribution) -> DirectionTable:
    return DirectionTable(1 / np.maximum(found.C, 1e-9))


def _shear(layout: Layout, code: Code, found: Distribution, tracing: bool) -> LimitState:
    trace = Trace() if tracing else NULL
    rn = rules.shear(code, layout.bolt, 1, trace)
    inverse = _effective(found)

    def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
        C = t("C", "effective bolts at this direction and lever", 1 / inverse.at(actions), "Manual Part 7", e=layout.e)
        strength = t("phi Rn", "C r_n, available", C * rn, code.clause("J3.7"), kind="force")
        return t("Pr", "sqrt(N^2 + V^2)", actions.resultant, N=actions.N, V=actions.V), strength

    return LimitState("bolt_shear", "bolts", code.clause("J3.7"), "force", evaluate, tuple(trace.lines))


def _bearing(layout: Layout, code: Code, found: Distribution, together: np.ndarray, ply: Ply, tracing: bool) -> LimitState:
    strengths = ply_strengths(code, layout, ply, found.forces)
    size = np.linalg.norm(found.forces, axis=-1)
    by_centre = (size / np.maximum(strengths, 1e-9)).max(axis=1)
    table = DirectionTable(np.minimum(by_centre, together))
    clause = code.clause("J3.11")

    def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
        strength = 1 / table.at(actions)
        if t.on:
            _explain(t, int(np.ravel(actions.degrees[0])[0]))
        strength = t("phi Rn", "load at which the first bolt reaches its strength", strength, clause, kind="force")
        return t("Pr", "sqrt(N^2 + V^2)", actions.resultant, N=actions.N, V=actions.V), strength

    def _explain(t: Trace, row: int) -> None:
        lc = clear_distances(layout, ply, ply.sense * found.forces[row : row + 1])[0]
        for i in range(layout.group.n):
            text = "bolt's own share of a load of one, over its strength in that direction"
            share, lci = float(size[row, i]), float(lc[i])
            values: dict[str, Any] = {"lc": lci} if lci < FAR / 2 else {}
            t(f"k_{i + 1}", text, share, kind="number", **values, **{"phi r_n": float(strengths[row, i])})  # type: ignore[arg-type]
        if together[row] < by_centre[row]:
            t("phi Rn", "1 / max(share/strength), best sharing in balance", 1 / together[row], "J3 user note", kind="force")

    return LimitState(f"bolt_bearing_{ply.name}", ply.name, clause, "force", evaluate)


def _slip(layout: Layout, code: Code, found: Distribution, tracing: bool) -> Iterator[LimitState]:
    along = [h for h in (layout.plate_hole, layout.web_hole) if h.along > h.across or h.type == "OVS"]
    across = [h for h in (layout.plate_hole, layout.web_hole) if h.across > h.along]
    if layout.slip_critical:
        worst = max((layout.plate_hole, layout.web_hole), key=lambda h: max(h.along, h.across))
        surface = layout.choice("tightening")[-1].upper()
        trace = Trace() if tracing else NULL
        square = rules.slip(code, layout.bolt, worst, surface, bool(along), trace)
        turned = rules.slip(code, layout.bolt, worst, surface, True)
        inverse = _effective(found)

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            each = np.where(actions.axial > 1e-3 * actions.shear, turned, square)
            strength = t("phi Rn", "C r_n, available", each / inverse.at(actions), code.clause("J3.9"), kind="force")
            return t("Pr", "sqrt(N^2 + V^2)", actions.resultant), strength

        yield LimitState("slip", "bolts", code.clause("J3.9"), "force", evaluate, tuple(trace.lines))
        return
    little = float(layout.sizes["negligible_force"].value)
    if along:
        yield LimitState("slip", "bolts", code.clause("J3.3"), "force",
                         lambda actions, t: (t("Vr", "|V| along slots or in oversized holes", actions.shear), little),
                         limit=True)  # fmt: skip
    elif across:
        yield LimitState("slip", "bolts", code.clause("J3.3"), "force",
                         lambda actions, t: (t("Nr", "|N| along the slots of bolts in bearing", actions.axial), little),
                         limit=True)  # fmt: skip
