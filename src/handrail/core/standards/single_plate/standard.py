"""The single plate declared: what it takes, what it refuses, the ladder it climbs, what a remedy may change."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import INCH, show
from handrail.core.standards.shear_end import judging
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.single_plate.drawing import draw
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.parameters import PARAMETERS, complete
from handrail.core.standards.single_plate.solids import solids
from handrail.core.standards.single_plate.welded import Welded, laid_out
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Changing, Examined, Move, Negligible, Standard, more_of
from handrail.core.standards.stated import SHEAR_END

THINNEST, THICKEST = INCH / 4, INCH / 2


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = laid_out(Layout(situation, sizes))
    return layout.examined(code, _refusals(layout, code), lambda: _notes(layout))


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    part10, framing = layout.part10, layout.situation.framing
    yield from judging.refusals(
        layout.situation, code, ((layout.bolt, layout.bolts.slip_critical),), layout.beam_end, "single plate"
    )
    if layout.beam_end.problem(code) and framing == "beam_to_girder" and layout.choice("plate_run") == "web":
        yield "a plate that runs past the girder's flange tip needs no cope (plate_run: flange_tip)"
    if layout.choice("through_plate") == "yes" and framing != "beam_to_hollow_column":
        yield "a through plate goes with a hollow column"
    for name, plain in (("plate_run", "web"), ("plate_fit", "part_depth")):
        if layout.choice(name) != plain and framing != "beam_to_girder":
            yield f"{name} of {layout.choice(name)} goes with a girder"
    if isinstance(layout, Welded):
        if part10.asked == "conventional":
            yield "not a conventional plate: welded to the beam"
        yield from judging.half_copes(layout.sizes)
        return
    if part10.asked == "conventional" and part10.problem:
        yield f"not a conventional plate: {part10.problem}"
    yield from judging.depth_agrees(layout.sizes, layout.plate_end, "plate_depth")
    if isinstance(layout, Welded) and layout.choice("weld_at") == layout.choice("beam_weld_at") == "shop":
        yield "welded in the shop to the beam and to its support: one is done at the site (weld_at, beam_weld_at)"
    yield from judging.half_copes(layout.sizes)


def _notes(layout: Layout) -> Iterator[str]:
    clause = layout.situation.code.clause("plate_moment")
    part10 = layout.part10
    welded = isinstance(layout, Welded)
    if welded:
        yield (
            "welded to the beam: V bends the plate from the middle of its welds to the support, and turns the welds"
            " about the support; the plate yields first"
        )
        yield "erection bolts that hold the beam until it is welded are not shown"
    elif part10.conventional:
        yield f"conventional configuration ({clause})"
    else:
        yield f"extended configuration ({clause}): {part10.problem or 'as asked'}"
    yield from judging.notes(
        layout.situation, layout.sizes, layout.approach, layout.beam_end, layout.support, "plate edge"
    )
    if layout.approach.kind == "girder" and not layout.situation.opposed:
        yield (
            "the plate stands on one side of the girder: what V turns it by is not looked at (its slab, or its own"
            " design, holds it)"
        )
    if layout.full_depth:
        yield (
            "full depth: the plate runs from flange to flange of the girder and is welded to both, which counts as what"
            " stabilises it only"
        )
    if part10.conventional and not welded:
        return
    if layout.choice("lateral_restraint") == "slab":
        yield "torsion of the plate not checked: slab or deck holds the beam"
    if layout.choice("stabiliser") == "provided":
        yield "stabiliser plates are provided by the parameter; they are not designed here"
    if part10.ductile_by_thickness and not welded:
        yield "plate thickness needs no ductility limit: bolts can rotate"


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized plate."""
    return laid_out(Layout(situation, sizes)).strengths(code, tracing)


def negligible(situation: Situation, sizes: Sizes) -> dict[str, Negligible]:
    """As any shear end's; where no slab holds the beam Vw counts from a hundredth of what bends the plate about its
    weak axis."""
    amounts, layout = judging.negligible(situation, sizes), laid_out(Layout(situation, sizes))
    if text(sizes, "lateral_restraint") == "slab":
        return amounts
    flat = 0.9 * layout.grade.Fy * layout.of("plate_depth") * layout.of("plate_thickness") ** 2 / 4
    most = judging.LITTLE * flat / max(layout.of("gap"), INCH)
    return amounts | {"Vw": Negligible("force", min(amounts["Vw"].amount, most))}


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rungs from the lightest: rows first, then plate thickness, then bolt diameter; a second line of bolts where the
    plate runs far out."""
    if text(sizes, "beam_side") == "welded":
        held |= {"bolt"}
    lines: dict[str, list[Value]] = {"columns": [1, 2]} if text(sizes, "plate_run") == "flange_tip" else {}
    return judging.climb(
        situation, sizes, held, {**lines, "plate_thickness": [*situation.shop.plates_of(THINNEST, THICKEST)]}
    )


MOVES = (
    judging.ROWS,
    more_of("plate_thickness", lambda shop: shop.fine),
    Move("through_plate", lambda sizes, shop: [(4, "yes")] if text(sizes, "through_plate") == "no" else []),
    judging.EDGE,
    more_of("end_distance", lambda shop: shop.place, odd=True),
    judging.FIRST,
    judging.BOLT,
    Move("columns", lambda sizes, shop: [(3, 2)] if length(sizes, "columns") == 1 else []),
)


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `(4) 3/4 A325-N, PL 1/4 in`."""
    plate = f"PL {show(length(sizes, 'plate_thickness'), 'length', system)}"
    if "beam_side" in sizes and text(sizes, "beam_side") == "welded":  # those kept by earlier versions do not say
        return (
            f"{plate} x {show(length(sizes, 'plate_depth'), 'length', system)}, welded"
            f" {show(length(sizes, 'beam_weld'), 'length', system)}"
        )
    return f"({int(length(sizes, 'rows')) * int(length(sizes, 'columns'))}) {text(sizes, 'bolt')}, {plate}"


SINGLE_PLATE = Standard(
    name="single_plate",
    title="Single plate",
    help="A plate shop-welded to the support and field-bolted, or welded, to the beam's web",
    framings=tuple(KINDS),
    carries=("N", "V"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=negligible,
    changing=Changing(moves=MOVES, ladder=ladder),
    brief=("rows", "bolt", "plate_thickness", "plate_depth", "weld_size"),
    summary=summary,
    acted=SHEAR_END.acted,
    dropped=SHEAR_END.dropped,
    placed=lambda situation, sizes: solids(laid_out(Layout(situation, sizes))),
)
