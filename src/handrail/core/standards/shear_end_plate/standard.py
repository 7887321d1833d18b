"""The shear end plate declared: what it takes, what it refuses, the ladder it climbs, what a remedy may change."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from handrail.core.catalogue.faying import is_slip_critical
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import INCH, show
from handrail.core.standards.shear_end import judging
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.shear_end_plate.drawing import draw
from handrail.core.standards.shear_end_plate.layout import THICKEST, THINNEST, Layout
from handrail.core.standards.shear_end_plate.parameters import PARAMETERS, complete
from handrail.core.standards.shear_end_plate.solids import solids
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Changing, Examined, Standard, more_of
from handrail.core.standards.stated import SHEAR_END


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = Layout(situation, sizes)
    return layout.examined(
        code,
        _refusals(layout, code),
        lambda: (
            *judging.notes(situation, sizes, layout.approach, layout.beam_end, layout.support, "plate"),
            *layout.notes(),
        ),
    )


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    slip = is_slip_critical(layout.choice("tightening"))
    yield from judging.refusals(
        layout.situation, code, ((layout.bolt, slip),), layout.beam_end, "shear end plate", FRAMINGS
    )
    yield from judging.square_only(layout.situation, "shear end plate")
    yield from judging.depth_agrees(layout.sizes, layout.plate_end, "plate_depth")
    yield from judging.half_copes(layout.sizes)


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized plate."""
    return Layout(situation, sizes).strengths(code, tracing)


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rows first, then plate thickness as far as rotation allows, then bolt diameter."""
    return judging.climb(situation, sizes, held, {"plate_thickness": [*situation.shop.plates_of(THINNEST, THICKEST)]})


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `(8) 3/4 A325-N, PL 1/4 in x 8 in`."""
    wide = length(sizes, "gauge") + 2 * length(sizes, "edge_distance")
    plate = f"{show(length(sizes, 'plate_thickness'), 'length', system)} x {show(wide, 'length', system)}"
    return f"({2 * int(length(sizes, 'rows'))}) {text(sizes, 'bolt')}, PL {plate}"


FRAMINGS = tuple(name for name, kind in KINDS.items() if kind != "wall")
MOVES = (
    judging.ROWS,
    more_of("plate_thickness", lambda shop: shop.fine),
    more_of("end_distance", lambda shop: shop.place, odd=True),
    judging.FIRST,
    more_of("weld_size", lambda shop: shop.weld),
    judging.BOLT,
)

SHARED = (*judging.SHARED, "gauge")

SHEAR_END_PLATE = Standard(
    name="shear_end_plate",
    title="Shear end plate",
    help=(
        f"A plate of at most {THICKEST / INCH:g} in. shop-welded across the end of the beam's web and field-bolted to"
        " the support"
    ),
    framings=FRAMINGS,
    carries=("N", "V"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=judging.negligible,
    changing=Changing(moves=MOVES, ladder=ladder),
    brief=("rows", "bolt", "plate_thickness", "plate_depth", "weld_size"),
    summary=summary,
    shared=SHARED,
    through=lambda sizes: True,
    opposite=partial(judging.opposite, SHARED),
    aligned=partial(judging.aligned, SHARED),
    acted=SHEAR_END.acted,
    dropped=SHEAR_END.dropped,
    placed=lambda situation, sizes: solids(Layout(situation, sizes)),
)
