"""The end-plate splice of hollow columns declared."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.catalogue import bolt
from handrail.core.catalogue.bolts import next_size, size_before
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import INCH, show
from handrail.core.standards.beam_splice.standard import bolts_from
from handrail.core.standards.end_plate_splice.drawing import draw
from handrail.core.standards.end_plate_splice.layout import Layout
from handrail.core.standards.end_plate_splice.parameters import PARAMETERS, complete, placed
from handrail.core.standards.end_plate_splice.solids import solids
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Changing, Examined, Standard, larger, more_of, one_more
from handrail.core.standards.stated import B39, COLUMN, HELD, integrity

THINNEST, THICKEST = 0.5 * INCH, 2 * INCH
SAME = 1.0  # mm


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the splice unchecked, remarks."""
    layout = Layout(situation, sizes)
    if reasons := [*_refusals(layout, code), *COLUMN.refusals(sizes)]:
        return Examined([], reasons, [])
    return Examined(list(layout.rules(code)), [], [*layout.notes(), *COLUMN.notes(situation, sizes, code)])


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    upper, lower = (p.section for p in layout.pieces)
    for s in (upper, lower):
        if not s.hollow:
            yield f"an end-plate splice of {s.name} is not implemented: both columns have to be hollow"
    if (
        abs(upper.d - lower.d) > SAME
        or (not upper.round and abs(upper.bf - lower.bf) > SAME)
        or upper.round != lower.round
    ):
        yield (
            "columns of different size press on plates that bend between their walls, which is not implemented: make"
            " both the same size outside"
        )
    yield from code.bolts.unheld(bolt(layout.choice("bolt")))
    if layout.situation.seismic:
        yield f"an end-plate splice in the lateral system is not implemented ({code.clause('column_splices')})"


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized splice."""
    layout = Layout(situation, sizes)
    states = list(layout.states(code, tracing))
    if text(sizes, HELD.name) == B39:
        states += integrity([s for s in layout.states(code.nominally(), tracing) if s.check != "erection"])
    return states


def axes(situation: Situation, sizes: Sizes, held: frozenset[str]) -> dict[str, list[dict[str, Value]]]:
    """What climbs: the plates' thickness, the bolts' diameter and count, the weld."""
    weld, shop = length(sizes, "weld_size"), situation.shop
    climbs: dict[str, list[dict[str, Value]]] = {
        "thickness": [{"plate_thickness": t} for t in shop.plates_of(THINNEST, THICKEST)],
        "bolt": bolts_from("bolt", sizes),
        "count": [
            {"bolts_along": 2, "bolts_across": 2},
            {"bolts_along": 3, "bolts_across": 2},
            {"bolts_along": 3, "bolts_across": 3},
        ],
        "weld": [{"weld_size": weld + n * shop.weld} for n in range(0, 7)],
    }
    left = {
        name: [{n: v for n, v in rung.items() if n not in held} for rung in rungs] for name, rungs in climbs.items()
    }
    return {name: rungs for name, rungs in left.items() if rungs[0]}


STEPS = {
    "bolt_tension": ("thickness", "bolt", "count"),
    "bolt_shear": ("bolt", "count"),
    "bolt_bearing_plate": ("thickness",),
    "column_weld": ("weld",),
    "column_weld_at_rods": ("weld", "count"),
    "column_weld_at_rods_far": ("weld", "count"),
    "column_weld_far": ("weld",),
    "erection": ("thickness", "bolt"),
    "weld_size": ("weld",),
}
ADVICE = {
    "bolt_tension": "thicker plates (prying), larger bolts or more of them, or bolts nearer to the wall",
    "column_weld": "a larger fillet",
    "contact_bearing": "a larger column",
    "wall_pressure": "a thicker wall: it is pressed beyond its yield under N with its moments",
    "snug_in_tension": "pretensioned bolts, or A325",
}


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `(2) PL 3/4 in x 14 in x 14 in, (4) 3/4 A325-N`."""
    plate = " x ".join(
        show(length(sizes, n), "length", system) for n in ("plate_thickness", "plate_length", "plate_width")
    )
    return f"(2) PL {plate}, ({len(placed(sizes).points)}) {text(sizes, 'bolt')}"


MOVES = (
    more_of("plate_thickness", lambda shop: shop.plate, 4),
    larger("bolt", next_size, before=size_before),
    one_more("bolts_along", 2, 1),
    one_more("bolts_across", 2, 1),
    more_of("weld_size", lambda shop: shop.weld, 4),
)

COLUMN_END_PLATE_SPLICE = Standard(
    name="column_end_plate_splice",
    title="Column end plate splice",
    help="A plate shop-welded to each hollow column's end, bolted face to face",
    framings=("column_splice",),
    carries=("N", "V", "Vw", "M", "Mw", "T"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=lambda situation, sizes: {},
    changing=Changing(moves=MOVES, axes=axes, steps=STEPS, advice=ADVICE),
    brief=("plate_thickness", "plate_length", "plate_width", "bolt", "weld_size"),
    summary=summary,
    placed=lambda situation, sizes: solids(Layout(situation, sizes)),
    acted=COLUMN.acted,
    dropped=COLUMN.dropped,
)
