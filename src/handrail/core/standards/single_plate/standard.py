"""The single plate put together: what it takes, what it refuses, the ladder it climbs."""

from __future__ import annotations

import math

from handrail.core.catalogue.bolts import next_size
from handrail.core.codes.aisc360 import Code
from handrail.core.standards.base import Examined, LimitState, Sizes, Standard, Value
from handrail.core.standards.single_plate.beam import beam_states, cope_problem, coped
from handrail.core.standards.single_plate.bolts import bolt_states
from handrail.core.standards.single_plate.detailing import detailing
from handrail.core.standards.single_plate.drawing import draw
from handrail.core.standards.single_plate.geometry import Layout
from handrail.core.standards.single_plate.parameters import PARAMETERS, complete
from handrail.core.standards.single_plate.plate import ductile_by_thickness, plate_states
from handrail.core.standards.single_plate.support import support_states
from handrail.core.standards.situation import Situation
from handrail.core.units import INCH, show

FRAMINGS = ("beam_to_column_flange", "beam_to_column_web", "beam_to_girder", "beam_to_hollow_column")
MOST_SKEW = MOST_SLOPE = math.radians(30)
HAIR = math.radians(0.05)
NOTED = math.radians(0.5)
THICKNESSES = tuple(n * INCH / 16 for n in (4, 5, 6, 8))


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = Layout(situation, sizes)
    return Examined(list(detailing(layout, code)), _refusals(layout, code), _notes(layout))


def _refusals(layout: Layout, code: Code) -> list[str]:
    situation, bolt = layout.situation, layout.bolt
    skew, slope = abs(situation.skew), abs(situation.slope)
    wrong_code = code.edition == "16" and bolt.edition_from
    asked = layout.choice("configuration") == "conventional"
    cope = cope_problem(layout)
    web = situation.supported.open or situation.supported.family in ("C", "MC")
    support = situation.support
    girder = situation.framing == "beam_to_girder" and support.family in ("C", "MC")
    holds = support.open or support.hollow or girder
    tests = (
        (not web, f"{situation.supported.name} has no web that a single plate can be bolted to"),
        (not holds, f"{support.name} as a support is not implemented"),
        (situation.framing not in FRAMINGS, f"a single plate does not go with {situation.framing}"),
        (skew > MOST_SKEW + HAIR, f"skew of {show(skew, 'angle')} is over the {show(MOST_SKEW, 'angle')} that is implemented"),
        (slope > MOST_SLOPE + HAIR, f"slope of {show(slope, 'angle')} is over the {show(MOST_SLOPE, 'angle')} that is implemented"),
        (bool(wrong_code), f"{bolt.group} bolts are held from AISC {bolt.edition_from} only"),
        (layout.slip_critical and not bolt.pretension, f"no pretension is held for {bolt.group}"),
        (asked and bool(layout.conventional_problem), f"not a conventional plate: {layout.conventional_problem}"),
        (bool(cope), f"outside the Manual's procedure for copes: {cope}"),
        (coped(layout) and not situation.supported.open, f"coped {situation.supported.family} sections are not implemented"),
        (layout.plate_end <= 0, "plate depth leaves no end distance"),
        (coped(layout) and layout.remaining_depth <= 0, "the copes leave no web"),
    )  # fmt: skip
    return [text for failed, text in tests if failed]


def _notes(layout: Layout) -> list[str]:
    situation = layout.situation
    skew, slope = abs(situation.skew), abs(situation.slope)
    centre = layout.first_bolt + layout.group_depth / 2
    off = centre - situation.supported.d / 2
    tests = (
        (True, "conventional configuration (Manual Part 10)" if layout.conventional
         else f"extended configuration (Manual Part 10): {layout.conventional_problem or 'as asked'}"),
        (skew > NOTED, f"skewed {show(skew, 'angle')}: beam end mitred, plate edge bevelled, fillet throats as skewed"),
        (slope > NOTED, f"sloped {show(slope, 'angle')}: bolt line square to the beam, plate edge cut to the slope"),
        (abs(off) > INCH, f"axial force is taken through the bolts, {abs(off) / situation.supported.d:.2f} of the beam's depth off its middle"),
        (situation.support_end, "the column ends here: its web is checked as at a member's end"),
        (situation.opposed, "a beam opposite shares the support: both shears are on its base metal"),
        (not layout.conventional and layout.choice("lateral_restraint") == "slab", "torsion of the plate not checked: slab or deck holds the beam"),
        (not layout.conventional and layout.choice("stabiliser") == "provided", "stabiliser plates are provided by the parameter; they are not designed here"),
        (not layout.conventional and ductile_by_thickness(layout), "plate thickness needs no ductility limit: bolts can rotate"),
    )  # fmt: skip
    return [text for applies, text in tests if applies]


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized plate."""
    layout = Layout(situation, sizes)
    return [
        *bolt_states(layout, code, tracing),
        *plate_states(layout, code, tracing),
        *beam_states(layout, code, tracing),
        *support_states(layout, code, tracing),
    ]


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rungs from the lightest: rows first, then plate thickness, then bolt diameter; those in `held` stay."""
    bolts = [str(sizes["bolt"].value)]
    while "bolt" not in held and len(bolts) < 3 and (larger := next_size(bolts[-1])):
        bolts.append(larger)
    thick = [float(sizes["plate_thickness"].value)] if "plate_thickness" in held else list(THICKNESSES)
    pitch = float(sizes["pitch"].value)
    room = int(situation.supported.d // pitch) + 1
    rows = [int(sizes["rows"].value)] if "rows" in held else list(range(2, max(3, min(room, 12) + 1)))
    climb = ("bolt", "plate_thickness", "rows")
    rungs: list[dict[str, Value]] = [dict(zip(climb, (b, t, r), strict=True)) for b in bolts for t in thick for r in rows]
    return [{k: v for k, v in rung.items() if k not in held} for rung in rungs]


SINGLE_PLATE = Standard(
    name="single_plate",
    title="Single plate",
    help="A plate shop-welded to the support and field-bolted to the beam's web",
    framings=FRAMINGS,
    carries=("N", "V"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    draw=draw,
    ladder=ladder,
)
