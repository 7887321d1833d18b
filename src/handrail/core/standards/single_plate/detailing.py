"""Rules of geometry, apart from strength: what is given and what is needed."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.codes.aisc360 import Code, welds
from handrail.core.codes.aisc360 import bolts as rules
from handrail.core.parts.cope import bottom_clash, top_clash
from handrail.core.standards.base import DetailingRule
from handrail.core.standards.single_plate.geometry import Layout
from handrail.core.standards.single_plate.parameters import clear_between_flanges, outstand
from handrail.core.units import INCH


def detailing(layout: Layout, code: Code) -> Iterator[DetailingRule]:
    """Every detailing rule that applies, in the order a shop would look."""
    yield from _bolts(layout, code)
    yield from _fit(layout, code)
    yield from _weld(layout)
    yield from _copes(layout)


def _at_least(rule: str, part: str, given: float, limit: float, clause: str = "", kind: str = "length") -> DetailingRule:
    return DetailingRule(rule, part, given, limit, given >= limit - 1e-6, kind, True, clause)


def _at_most(rule: str, part: str, given: float, limit: float, clause: str = "", kind: str = "length") -> DetailingRule:
    return DetailingRule(rule, part, given, limit, given <= limit + 1e-6, kind, False, clause)


def _bolts(layout: Layout, code: Code) -> Iterator[DetailingRule]:
    group, bolt = layout.group, layout.bolt
    thinner = min(layout.tp, layout.tw)
    plate_slot = layout.plate_hole.across > layout.plate_hole.along
    web_slot = layout.web_hole.across > layout.web_hole.along
    along_slot = layout.plate_hole.along > layout.plate_hole.across
    edge_clause, most_clause = code.clause("J3.5"), code.clause("J3.6")
    yield _at_least("bolt_count", "bolts", group.n, 2, "", "number")
    if group.rows > 1:
        yield _at_least("spacing", "bolts", group.pitch, rules.min_spacing(bolt.d), code.clause("J3.4"))
        yield _at_most("max_spacing", "bolts", group.pitch, rules.max_spacing(thinner), most_clause)
    if group.columns > 1:
        yield _at_least("gauge", "bolts", group.gauge, rules.min_spacing(bolt.d), code.clause("J3.4"))
    yield _at_least("end_distance", "plate", layout.plate_end, rules.min_edge(bolt, layout.plate_hole, along_slot), edge_clause)
    yield _at_least("edge_distance", "plate", layout.edge, rules.min_edge(bolt, layout.plate_hole, plate_slot), edge_clause)
    yield _at_most("max_edge_distance", "plate", max(layout.edge, layout.plate_end), rules.max_edge(layout.tp), most_clause)
    yield _at_least("beam_edge_distance", "web", layout.beam_edge, rules.min_edge(bolt, layout.web_hole, web_slot), edge_clause)
    if layout.conventional:
        yield _at_least("conventional_edge", "plate", min(layout.edge, layout.beam_edge), 2 * bolt.d, "Manual Part 10")


def _fit(layout: Layout, code: Code) -> Iterator[DetailingRule]:
    situation = layout.situation
    beam, support = situation.supported, situation.support
    top = layout.top_cope.depth if layout.top_cope else beam.k_detail
    bottom = beam.d - (layout.bottom_cope.depth if layout.bottom_cope else beam.k_detail)
    plate_bottom = layout.plate_top + layout.depth
    yield _at_least("plate_below_fillet", "plate", layout.plate_top, top)
    yield _at_most("plate_above_fillet", "plate", plate_bottom, bottom)
    yield _at_least("plate_half_depth", "plate", layout.depth, (bottom - top if layout.top_cope or layout.bottom_cope else beam.T) / 2,
                    "Manual Part 10")  # fmt: skip
    if situation.framing == "beam_to_girder" and support.open:
        yield _at_least("plate_in_girder_top", "plate", situation.top_offset + layout.plate_top, support.k_detail)
        yield _at_most("plate_in_girder_bottom", "plate", situation.top_offset + plate_bottom, support.d - support.k_detail)
    if situation.framing == "beam_to_column_web" and layout.within_flanges:
        yield _at_most("beam_in_column", "beam", beam.bf, clear_between_flanges(situation))
    yield _at_least("bolt_tightening", "bolts", _room(layout), layout.bolt.tightening, "Manual Part 7")
    if situation.framing == "beam_to_column_flange":
        yield _at_least("plate_on_flange", "support", support.bf, layout.tp + 2 * layout.weld + INCH / 2)
    if situation.framing == "beam_to_hollow_column":
        flat = support.bf - 3 * support.wall
        yield _at_least("plate_on_wall", "support", flat, layout.tp + 2 * layout.weld)


def _room(layout: Layout) -> float:
    """Least distance, mm, from a bolt's centre to what a wrench would hit: the support, a flange of the beam."""
    beam, last = layout.situation.supported, layout.first_bolt + layout.group_depth
    found = [layout.a * math.cos(layout.situation.skew)]
    if not layout.top_cope:
        found.append(layout.first_bolt - beam.tf)
    if not layout.bottom_cope:
        found.append(beam.d - beam.tf - last)
    return min(found)


def _weld(layout: Layout) -> Iterator[DetailingRule]:
    need = welds.develops_plate(layout.tp, layout.plate.Fy, layout.electrode)
    yield _at_least("weld_develops_plate", "weld", layout.weld, need, "Manual Part 10")
    yield _at_least("weld_size", "weld", layout.weld, welds.min_size(min(layout.tp, layout.support_t)), "J2.2b")
    yield _at_least("weld_length", "weld", layout.depth, 4 * layout.weld, "J2.2b")


def _copes(layout: Layout) -> Iterator[DetailingRule]:
    """Copes long and deep enough to clear the girder, also where none was given and one is needed."""
    situation, last = layout.situation, layout.first_bolt + layout.group_depth
    beam, girder = situation.supported, situation.support
    under = layout.within_flanges and situation.framing == "beam_to_girder"
    bolt_edge = rules.min_edge(layout.bolt, layout.web_hole, layout.web_hole.along > layout.web_hole.across)
    clear = outstand(situation) + INCH / 4 if girder.open else 0.0
    if layout.top_cope or (under and top_clash(beam, girder, situation.top_offset)):
        yield _at_least("cope_length", "web", layout.gap + layout.top_cope.length, clear)
        yield _at_least("cope_depth", "web", layout.top_cope.depth + situation.top_offset, girder.k_detail if girder.open else 0)
    if layout.top_cope:
        yield _at_least("bolt_to_cope", "web", layout.first_bolt - layout.top_cope.depth, bolt_edge, "J3.5")
    if layout.bottom_cope or (under and bottom_clash(beam, girder, situation.top_offset)):
        below = situation.top_offset + beam.d - layout.bottom_cope.depth
        yield _at_least("bottom_cope_length", "web", layout.gap + layout.bottom_cope.length, clear)
        yield _at_most("bottom_cope_depth", "web", below, girder.d - girder.k_detail)
    if layout.bottom_cope:
        yield _at_least("bolt_to_bottom_cope", "web", beam.d - layout.bottom_cope.depth - last, bolt_edge, "J3.5")
