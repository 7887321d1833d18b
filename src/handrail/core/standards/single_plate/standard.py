"""The single plate declared: what it takes, what it refuses, the ladder it climbs, what a remedy may change."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.catalogue.bolts import next_size
from handrail.core.codes.aisc360 import Code
from handrail.core.limit_state import LimitState
from handrail.core.standards.single_plate.drawing import draw
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.negligible import negligible
from handrail.core.standards.single_plate.parameters import KINDS, PARAMETERS, complete
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Examined, Move, Standard
from handrail.core.units import INCH, show

MOST_SKEW = MOST_SLOPE = math.radians(30)
HAIR = math.radians(0.05)
NOTED = math.radians(0.5)
THICKNESSES = tuple(n * INCH / 16 for n in (4, 5, 6, 8))
STEPS = (1, 2, 3)


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = Layout(situation, sizes)
    if reasons := _refusals(layout, code):
        return Examined([], reasons, [])
    return Examined(list(layout.rules(code)), [], _notes(layout))


def _refusals(layout: Layout, code: Code) -> list[str]:
    situation, bolt, part10 = layout.situation, layout.bolt, layout.part10
    beam, support = situation.supported.section, situation.carrier.section
    skew, slope = abs(situation.skew), abs(situation.slope)
    wall = situation.framing == "beam_to_hollow_column"
    holds = support.hollow if wall else support.open or (support.channel and situation.framing == "beam_to_girder")
    cope = layout.beam_end.problem()
    tests = (
        (not (beam.open or beam.channel), f"{beam.name} has no web that a single plate can be bolted to"),
        (not holds, f"{support.name} as a support is not implemented"),
        (situation.framing not in KINDS, f"a single plate does not go with {situation.framing}"),
        (skew > MOST_SKEW + HAIR, f"skew of {show(skew, 'angle')} is over the {show(MOST_SKEW, 'angle')} that is implemented"),
        (slope > MOST_SLOPE + HAIR, f"slope of {show(slope, 'angle')} is over the {show(MOST_SLOPE, 'angle')} that is implemented"),
        (code.edition == "16" and bool(bolt.edition_from), f"{bolt.group} bolts are held from AISC {bolt.edition_from} only"),
        (layout.bolts.slip_critical and not bolt.pretension, f"no pretension is held for {bolt.group}"),
        (part10.asked == "conventional" and bool(part10.problem), f"not a conventional plate: {part10.problem}"),
        (bool(cope), f"outside the Manual's procedure for copes: {cope}"),
        (layout.plate_end <= 0, "plate depth leaves no end distance"),
    )  # fmt: skip
    return [words for failed, words in tests if failed] + list(_contradictions(layout))


def _contradictions(layout: Layout) -> Iterator[str]:
    """Sizes that somebody gave and that cannot all be: none of them is dropped in silence."""
    sizes = layout.sizes
    given = all(sizes[name].source not in ("geometry", "default") for name in ("plate_depth", "end_distance"))
    if given and abs(layout.plate_end - layout.of("end_distance")) > INCH / 32:
        yield (f"plate_depth and end_distance are both given and do not agree: {layout.grid.rows} rows in this depth leave "
               f"{show(layout.plate_end, 'length')} at the ends, not {show(layout.of('end_distance'), 'length')}; leave out one of them")  # fmt: skip
    for side in ("", "bottom_"):
        if bool(layout.of(f"{side}cope_length")) != bool(layout.of(f"{side}cope_depth")):
            yield f"{side}cope_length and {side}cope_depth: one is 0 and the other is not"


def _notes(layout: Layout) -> list[str]:
    situation, part10 = layout.situation, layout.part10
    skew, slope, beam = abs(situation.skew), abs(situation.slope), situation.supported.section
    off = layout.of("first_bolt") + layout.grid.depth / 2 - beam.d / 2
    cut = "cut square" if layout.approach.square else "cut parallel with the support"
    web = layout.support.shared
    tests = (
        (True, "conventional configuration (Manual Part 10)" if part10.conventional
         else f"extended configuration (Manual Part 10): {part10.problem or 'as asked'}"),
        (skew > NOTED, f"skewed {show(skew, 'angle')}: beam end {cut}, plate edge bevelled, fillet throats as skewed"),
        (slope > NOTED, f"sloped {show(slope, 'angle')}: bolt line square to the beam, beam end {cut}, plate edge cut to the slope; "
                        f"the support takes the forces in its own axes"),
        (abs(off) > INCH, f"axial force is taken through the bolts, {abs(off) / beam.d:.2f} of the beam's depth off its middle"),
        (situation.support_end, "the support ends here: it is checked as at a member's end"),
        (bool(situation.top_offset) and situation.framing != "beam_to_girder", "top offset: not used at a column"),
        (situation.opposed and web, "a beam opposite shares the web: both shears are on its base metal"),
        (situation.opposed and not web, "a beam stands opposite: thrusts on both sides are checked on what lies between"),
        (not part10.conventional and layout.choice("lateral_restraint") == "slab", "torsion of the plate not checked: slab or deck holds the beam"),
        (not part10.conventional and layout.choice("stabiliser") == "provided", "stabiliser plates are provided by the parameter; they are not designed here"),
        (not part10.conventional and part10.ductile_by_thickness, "plate thickness needs no ductility limit: bolts can rotate"),
    )  # fmt: skip
    return [words for applies, words in tests if applies] + list(layout.support.notes())


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized plate."""
    return list(Layout(situation, sizes).states(code, tracing))


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rungs from the lightest: rows first, then plate thickness, then bolt diameter; those in `held` stay."""
    bolts = [text(sizes, "bolt")]
    while "bolt" not in held and len(bolts) < 3 and (larger := next_size(bolts[-1])):
        bolts.append(larger)
    thick = [length(sizes, "plate_thickness")] if "plate_thickness" in held else list(THICKNESSES)
    room = int(situation.supported.section.d // length(sizes, "pitch")) + 1
    rows = [int(length(sizes, "rows"))] if "rows" in held else list(range(2, max(3, min(room, 12) + 1)))
    climb = ("bolt", "plate_thickness", "rows")
    rungs: list[dict[str, Value]] = [dict(zip(climb, (b, t, r), strict=True)) for b in bolts for t in thick for r in rows]
    return [{k: v for k, v in rung.items() if k not in held} for rung in rungs]


def _more(name: str, step: float) -> Move:
    """One to three steps more of a length."""
    return Move(name, lambda sizes: [(k, length(sizes, name) + k * step) for k in STEPS])


def _rows(sizes: Sizes) -> list[tuple[int, Value]]:
    rows = int(length(sizes, "rows"))
    found: list[tuple[int, Value]] = [(k, rows + k) for k in STEPS]
    return found + [(k + 1, rows - k) for k in STEPS if rows - k >= 2]


def _bolt(sizes: Sizes) -> list[tuple[int, Value]]:
    larger = next_size(text(sizes, "bolt"))
    return [(2, larger)] if larger else []


MOVES = (
    Move("rows", _rows),
    _more("plate_thickness", INCH / 16),
    _more("beam_edge_distance", INCH / 4),
    _more("end_distance", INCH / 4),
    _more("first_bolt", INCH / 4),
    Move("bolt", _bolt),
    Move("columns", lambda sizes: [(3, 2)] if length(sizes, "columns") == 1 else []),
)


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `(4) 3/4 A325-N, PL 1/4 in`."""
    bolts = int(length(sizes, "rows")) * int(length(sizes, "columns"))
    return f"({bolts}) {text(sizes, 'bolt')}, PL {show(length(sizes, 'plate_thickness'), 'length', system)}"


SINGLE_PLATE = Standard(
    name="single_plate",
    title="Single plate",
    help="A plate shop-welded to the support and field-bolted to the beam's web",
    framings=tuple(KINDS),
    carries=("N", "V"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    draw=draw,
    ladder=ladder,
    negligible=negligible,
    moves=MOVES,
    brief=("rows", "bolt", "plate_thickness", "plate_depth", "weld_size"),
    summary=summary,
)
