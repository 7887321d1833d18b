"""The single plate declared: what it takes, what it refuses, the ladder it climbs, what a remedy may change."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.codes.aisc360 import Code
from handrail.core.limit_state import LimitState
from handrail.core.standards.shear_end import judging
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.single_plate.drawing import draw
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.parameters import PARAMETERS, complete
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Examined, Move, Standard, more_of
from handrail.core.units import INCH, show

THICKNESSES = tuple(n * INCH / 16 for n in (4, 5, 6, 8))


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = Layout(situation, sizes)
    if reasons := list(_refusals(layout, code)):
        return Examined([], reasons, [])
    return Examined(list(layout.rules(code)), [], list(_notes(layout)))


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    part10 = layout.part10
    yield from judging.refusals(layout.situation, code, layout.bolt, layout.bolts.slip_critical, layout.beam_end, "single plate")
    if part10.asked == "conventional" and part10.problem:
        yield f"not a conventional plate: {part10.problem}"
    yield from judging.depth_agrees(layout.sizes, layout.plate_end, "plate_depth")
    yield from judging.half_copes(layout.sizes)


def _notes(layout: Layout) -> Iterator[str]:
    part10 = layout.part10
    if part10.conventional:
        yield "conventional configuration (Manual Part 10)"
    else:
        yield f"extended configuration (Manual Part 10): {part10.problem or 'as asked'}"
    yield from judging.notes(layout.situation, layout.approach, layout.beam_end, layout.support, "plate edge")
    if part10.conventional:
        return
    if layout.choice("lateral_restraint") == "slab":
        yield "torsion of the plate not checked: slab or deck holds the beam"
    if layout.choice("stabiliser") == "provided":
        yield "stabiliser plates are provided by the parameter; they are not designed here"
    if part10.ductile_by_thickness:
        yield "plate thickness needs no ductility limit: bolts can rotate"


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized plate."""
    return list(Layout(situation, sizes).states(code, tracing))


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rungs from the lightest: rows first, then plate thickness, then bolt diameter; those in `held` stay."""
    return judging.climb(situation, sizes, held, {"plate_thickness": list(THICKNESSES)})


MOVES = (
    judging.ROWS,
    more_of("plate_thickness", INCH / 16),
    judging.EDGE,
    more_of("end_distance", INCH / 4),
    judging.FIRST,
    judging.BOLT,
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
    negligible=judging.negligible,
    moves=MOVES,
    brief=("rows", "bolt", "plate_thickness", "plate_depth", "weld_size"),
    summary=summary,
)
