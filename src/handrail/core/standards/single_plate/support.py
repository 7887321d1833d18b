"""Limit states of the support where the plate lands on it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from handrail.core.checking.trace import Trace
from handrail.core.codes.aisc360 import Code, plates, supports
from handrail.core.codes.aisc360.code import E
from handrail.core.standards.base import LimitState, axial, fixed, thrust
from handrail.core.standards.single_plate.geometry import Layout
from handrail.core.standards.situation import Actions


def support_states(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    """Base metal at the weld, then what an axial force does to the support."""
    situation = layout.situation
    support, grade = situation.support, situation.support_grade
    area = 2 * layout.support_t * layout.depth

    def resultant(actions: Actions, t: Trace) -> np.ndarray:
        if situation.opposed:
            both = actions.shear + np.abs(actions.V_opposed)
            return t("Vr", "|V| + |V opposed| on the shared web", np.hypot(both, actions.N), V=actions.V)
        return t("Pr", "sqrt(N^2 + V^2)", actions.resultant, N=actions.N, V=actions.V)

    def on_web(actions: Actions, t: Trace) -> np.ndarray:
        """What pushes the web out of plane: a pull on one side and a thrust on the other add up."""
        if not situation.opposed:
            return axial(actions, t)
        together = np.abs(actions.N - actions.N_opposed)
        return t("Nr", "max(|N|, |N - N opposed|)", np.maximum(actions.axial, together), N=actions.N)

    yield fixed("support_shear", "support", "J4.2", "force", lambda t: plates.shear_rupture(code, grade.Fu, area, t),
                resultant, tracing)  # fmt: skip
    if support.hollow:
        yield from _hollow(layout, code, tracing)
    elif situation.framing == "beam_to_column_flange":
        yield fixed(
            "support_web_yield",
            "support",
            "J10.2",
            "force",
            lambda t: supports.web_local_yield(code, grade.Fy, support.tw, support.k, layout.depth, situation.support_end, t),
            axial,
            tracing,
        )
        yield fixed("support_web_crippling", "support", "J10.3", "force",
                    lambda t: supports.web_crippling(code, grade.Fy, support.d, support.tw, support.tf, layout.depth, situation.support_end, t),
                    thrust, tracing)  # fmt: skip
    else:
        yield fixed("support_web_bending", "support", "J10.10", "force", lambda t: _web_bending(layout, code, t), on_web, tracing)


def _web_bending(layout: Layout, code: Code, trace: Trace) -> float:
    situation = layout.situation
    support, Fy = situation.support, situation.support_grade.Fy
    if situation.framing == "beam_to_column_web":
        return supports.web_bending_along(code, Fy, support.tw, support.T, layout.depth, situation.support_end, trace)
    above = situation.top_offset + layout.plate_top - support.k_detail
    below = support.T - above - layout.depth
    return supports.web_bending_across(code, Fy, support.tw, support.T, above, below, trace)


def _hollow(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    support, grade, plate = layout.situation.support, layout.situation.support_grade, layout.plate

    def punching(t: Trace) -> float:
        return t("tp max", "Fu t / Fyp", grade.Fu * support.wall / plate.Fy, "K1-3", kind="length", Fu=grade.Fu,
                 t=support.wall, Fyp=plate.Fy)  # fmt: skip

    def slenderness(t: Trace) -> float:
        if support.family == "HSS_RECT":
            return t("lambda max", "1.40 sqrt(E/Fy)", 1.40 * math.sqrt(E / grade.Fy), "Manual Part 10", Fy=grade.Fy)
        return t("lambda max", "0.11 E/Fy", 0.11 * E / grade.Fy, "Manual Part 10", Fy=grade.Fy)

    wide = support.d - 3 * support.wall if support.family == "HSS_RECT" else support.d

    def limit(value: float) -> Any:
        return lambda actions, t: t("given", "as it is", np.full_like(actions.V, value), kind="number")

    yield fixed("wall_punching", "support", "Manual Part 10", "length", punching, limit(layout.tp), tracing, limit=True)
    yield fixed("wall_slenderness", "support", "Manual Part 10", "number", slenderness, limit(wide / support.wall), tracing, limit=True)

    def plastification(t: Trace) -> float:
        Fy, wall = grade.Fy, support.wall
        if support.family == "HSS_RECT":
            return supports.hollow_wall_plastification(code, Fy, wall, support.bf, layout.tp, layout.depth, t)
        return supports.round_wall_plastification(code, Fy, wall, support.d, layout.depth, t)

    yield fixed("wall_plastification", "support", "K1", "force", plastification, axial, tracing)
