"""Limit states of the supported beam's web, coped or not."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from handrail.core.checking.trace import NULL, Trace
from handrail.core.codes.aisc360 import Code, copes, plates
from handrail.core.codes.aisc360.code import E
from handrail.core.standards.base import LimitState, axial, fixed, shear, tension
from handrail.core.standards.single_plate.geometry import Layout
from handrail.core.standards.situation import Actions


def coped(layout: Layout) -> bool:
    return bool(layout.top_cope or layout.bottom_cope)


def cope_section(layout: Layout) -> copes.CopedSection:
    """The section at the end of the copes; a beam coped below only is one coped above, turned over."""
    beam, top, bottom = layout.situation.supported, layout.top_cope, layout.bottom_cope
    if top and bottom:
        return copes.coped_section(beam.d, beam.tw, beam.bf, beam.tf, top.depth, bottom.depth)
    return copes.coped_section(beam.d, beam.tw, beam.bf, beam.tf, top.depth or bottom.depth, 0.0)


def cope_problem(layout: Layout) -> str:
    """Why the Manual's procedure for copes does not hold here; empty where it does."""
    d, top, bottom = layout.situation.supported.d, layout.top_cope, layout.bottom_cope
    if top and bottom:
        return copes.double_cope_problem(max(top.length, bottom.length), top.depth, bottom.depth, d)
    one = top or bottom
    return copes.single_cope_problem(one.length, one.depth, d) if one else ""


def beam_states(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    """Shear of the web, tearing of its end, axial force and, where coped, bending beside the cope."""
    beam, grade = layout.situation.supported, layout.situation.supported_grade
    tw, depth = beam.tw, layout.remaining_depth
    Anv = tw * (depth - layout.group.rows * plates.net_hole(layout.web_hole.along))

    def state(check: str, clause: str, kind: str, strength: Any, demand: Any) -> LimitState:
        return fixed(check, "web", clause, kind, strength, demand, tracing)

    if coped(layout):
        yield state("web_shear_yield", "J4.2", "force", lambda t: plates.shear_yield(code, grade.Fy, tw * depth, t), shear)
    else:
        yield state("web_shear_yield", "G2.1", "force", lambda t: _web_shear(layout, code, t), shear)
    yield state("web_shear_rupture", "J4.2", "force", lambda t: plates.shear_rupture(code, grade.Fu, Anv, t), shear)
    yield from _tearing(layout, code, tracing)
    yield state("web_axial", "J4.1", "force", lambda t: _web_axial(layout, code, t), axial)
    if coped(layout):
        yield from _cope(layout, code, tracing)


def _web_shear(layout: Layout, code: Code, trace: Trace) -> float:
    """G2.1 of a rolled I-shape's web; phi = 1 where h/tw <= 2.24 sqrt(E/Fy)."""
    beam, Fy = layout.situation.supported, layout.situation.supported_grade.Fy
    if beam.h_tw <= 2.24 * math.sqrt(E / Fy) and beam.open:
        Vn = trace("Vn", "0.6 Fy d tw", 0.6 * Fy * beam.d * beam.tw, "G2-1", Fy=Fy, d=beam.d, tw=beam.tw)
        return code.available(Vn, "shear_yield", trace, symbol="V")
    Cv1 = min(1.0, 1.10 * math.sqrt(5.34 * E / Fy) / beam.h_tw)
    Vn = trace("Vn", "0.6 Fy d tw Cv1", 0.6 * Fy * beam.d * beam.tw * Cv1, "G2-1", Fy=Fy, d=beam.d, tw=beam.tw, Cv1=Cv1)
    return code.available(Vn, "web_shear", trace, symbol="V")


def _web_axial(layout: Layout, code: Code, trace: Trace) -> float:
    """The strip of web as deep as the plate, in yielding and on its net section; the least."""
    tw, grade = layout.tw, layout.situation.supported_grade
    strip = min(layout.depth, layout.remaining_depth)
    net = strip - layout.group.rows * plates.net_hole(layout.web_hole.along)
    yielding = plates.tension_yield(code, grade.Fy, tw * strip, trace)
    return min(yielding, plates.tension_rupture(code, grade.Fu, tw * net, trace))


def _block(layout: Layout, code: Code, to_edge: float, trace: Trace) -> float:
    """Shear down the first line of bolts from a coped edge, tension to the beam's end."""
    group, tw, grade = layout.group, layout.tw, layout.situation.supported_grade
    v, h = plates.net_hole(layout.web_hole.along), plates.net_hole(layout.web_hole.across)
    run = layout.group_depth + to_edge
    paths = []
    for lines in range(1, group.columns + 1):  # shear along the line this many in from the beam's end
        width = layout.beam_edge + (lines - 1) * group.gauge
        paths.append((tw * run, tw * (run - (group.rows - 0.5) * v), tw * (width - (lines - 0.5) * h), 1.0 if lines == 1 else 0.5))
    least = min(paths, key=lambda p: plates.block_shear(code, grade.Fy, grade.Fu, *p))
    return plates.block_shear(code, grade.Fy, grade.Fu, *least, trace=trace)


def _axial_block(layout: Layout, code: Code, trace: Trace) -> float:
    """Bolts tearing out to the beam's end: two shear planes, or one and the coped edge."""
    group, tw, grade = layout.group, layout.tw, layout.situation.supported_grade
    v, h = plates.net_hole(layout.web_hole.along), plates.net_hole(layout.web_hole.across)
    run = layout.beam_edge + (group.columns - 1) * group.gauge
    gross, net = tw * run, tw * (run - (group.columns - 0.5) * h)
    down = layout.group_depth
    paths = [(2 * gross, 2 * net, tw * (down - (group.rows - 1) * v), 1.0)]
    for cope, to_edge in ((layout.top_cope, _above(layout)), (layout.bottom_cope, _below(layout))):
        if cope:
            paths.append((gross, net, tw * (down + to_edge - (group.rows - 0.5) * v), 1.0))
    least = min(paths, key=lambda p: plates.block_shear(code, grade.Fy, grade.Fu, *p))
    return plates.block_shear(code, grade.Fy, grade.Fu, *least, trace=trace)


def _above(layout: Layout) -> float:
    return layout.first_bolt - layout.top_cope.depth


def _below(layout: Layout) -> float:
    beam = layout.situation.supported
    return beam.d - layout.bottom_cope.depth - layout.first_bolt - layout.group_depth


def _tearing(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    trace = Trace() if tracing else NULL
    up = _block(layout, code, _above(layout), trace) if layout.top_cope else np.inf
    down = _block(layout, code, _below(layout), trace) if layout.bottom_cope else np.inf
    if coped(layout):

        def block(actions: Actions, t: Trace) -> tuple[Any, Any]:
            return shear(actions, t), np.where(actions.V >= 0, up, down)

        yield LimitState("web_block_shear", "web", "J4.3", "force", block, tuple(trace.lines))
    pull = _axial_block(layout, code, NULL)
    yield fixed("web_axial_block_shear", "web", "J4.3", "force", lambda t: _axial_block(layout, code, t), tension, tracing)
    if coped(layout):

        def both(actions: Actions, t: Trace) -> tuple[Any, Any]:
            Vc = np.where(actions.V >= 0, up, down)
            value = np.hypot(actions.V / Vc, actions.pull / pull)
            return t("u", "sqrt((V/Vc)^2 + (N/Nc)^2), block shear", value, "J4.3", V=actions.V, N=actions.N, Nc=pull), 1.0

        yield LimitState("web_block_shear_interaction", "web", "J4.3", "number", both)


def _cope(layout: Layout, code: Code, tracing: bool) -> Iterator[LimitState]:
    beam, grade = layout.situation.supported, layout.situation.supported_grade
    section = cope_section(layout)
    top, bottom = layout.top_cope, layout.bottom_cope
    c = max(top.length, bottom.length)
    lever = layout.gap + c
    S = section.S * _left_between_holes(layout, section, c)
    clause = f"{code.manual} Part 9"

    def bending(actions: Actions, t: Trace) -> np.ndarray:
        return t("Mr", "|V| (gap + c)", actions.shear * lever, clause, V=actions.V, gap=layout.gap, c=c)

    def buckling(t: Trace) -> float:
        if top and bottom:
            return copes.double_cope_buckling(code, grade.Fy, beam.d, beam.tw, section.ho, c, top.depth, t)
        return copes.single_cope_buckling(code, grade.Fy, beam.d, beam.tw, section, c, t)

    def state(check: str, strength: Any) -> LimitState:
        return fixed(check, "web", clause, "moment", strength, bending, tracing)

    yield state("cope_flexure", lambda t: plates.flexure_yield(code, grade.Fy, section.Z, t))
    yield state("cope_flexural_rupture", lambda t: plates.flexure_rupture(code, grade.Fu, S, t, symbol="Snet"))
    yield state("cope_buckling", buckling)
    yield _cope_interaction(layout, code, section, lever, buckling(NULL))


def _left_between_holes(layout: Layout, section: copes.CopedSection, c: float) -> float:
    """The share of the web left between holes where a bolt line meets the section at the cope's end; else 1."""
    lines = [layout.beam_edge + k * layout.group.gauge for k in range(layout.group.columns)]
    if not any(abs(x - c) <= layout.web_hole.across / 2 for x in lines):
        return 1.0
    return 1 - layout.group.rows * plates.net_hole(layout.web_hole.along) / section.ho


def _cope_interaction(layout: Layout, code: Code, section: copes.CopedSection, lever: float, Mc: float) -> LimitState:
    """Axial force on the coped section with the bending beside the cope, added (H1.1, the sum taken)."""
    Nc = plates.tension_yield(code, layout.situation.supported_grade.Fy, section.area)
    centre = layout.first_bolt + layout.group_depth / 2
    off = abs(centre - (layout.top_cope.depth + section.ho / 2))

    def demand(actions: Actions, t: Trace) -> tuple[Any, Any]:
        M = t("Mr", "|V| (gap + c) + |N| eN", actions.shear * lever + actions.axial * off, eN=off)
        N = actions.axial
        return t("u", "N/Nc + M/Mc", N / Nc + np.where(N > 0, M, 0.0) / Mc, "H1.1", N=N, Nc=Nc, Mc=Mc), 1.0

    return LimitState("cope_interaction", "web", "H1.1", "number", demand)
