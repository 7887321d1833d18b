"""The base plate declared: what it takes, what it refuses, the ladder it climbs, what a remedy may change and what to
advise."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.actions import Actions
from handrail.core.catalogue import bars, rod
from handrail.core.catalogue.anchors import next_rod
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.parts.bearing.rod_lines import from_column
from handrail.core.quantities.units import INCH, show
from handrail.core.quantities.words import held
from handrail.core.remark import Remark
from handrail.core.solids.pieces import Solids
from handrail.core.standards.base_plate.drawing import draw
from handrail.core.standards.base_plate.figures import figures
from handrail.core.standards.base_plate.ground import foundation, lacks, said, shaken
from handrail.core.standards.base_plate.layout import Layout
from handrail.core.standards.base_plate.parameters import PARAMETERS, complete, rods
from handrail.core.standards.base_plate.solids import solids
from handrail.core.standards.sizes import Sizes, Value, length, text, up_to
from handrail.core.standards.standard import Changing, Examined, Move, Standard, larger, more_of, one_more
from handrail.core.standards.stated import BASE, with_demands

WIDER = (0, 1, 2, 3, 4, 5, 6, 8, 10, 12)  # steps past the least plate
WELDS = (0, 1, 2, 3, 4, 6, 8)  # steps past the least weld
DEEPER = (12, 15, 18, 21, 25, 30)  # diameters
RUN = {"along": "along", "across": "across", "both": "both ways"}
LUG = ("lug_width", "lug_thickness", "lug_weld")


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the base unchecked, remarks."""
    if reasons := [*_refusals(situation, sizes), *BASE.refusals(sizes)]:
        return Examined([], reasons, [])
    layout = Layout(situation, sizes)
    return Examined(list(layout.rules(code)), [], [*_notes(layout, code), *BASE.notes(situation, sizes, code)])


def _refusals(situation: Situation, sizes: Sizes) -> Iterator[str]:
    s = situation.supported.section
    if missing := lacks(situation, sizes):
        yield missing
        return
    if not (s.open or s.hollow):
        yield f"a base plate under {s.name} is not implemented"
        return
    layout = Layout(situation, sizes)
    if length(sizes, "bond_cracked") > length(sizes, "bond_uncracked") > 0:
        yield "bond_cracked is over bond_uncracked: cracked concrete never holds more"
    if not layout.rod.hole:
        yield f"no base plate hole is held for {layout.rod.name}: take another diameter"
    if anchors := layout.installed:
        yield from anchors.lacks(layout.concrete, situation.seismic or situation.quaking, layout.foundation.cracked)
        if layout.path == "lug":
            yield "a lug with post-installed anchors is not implemented: its pocket is cast before them"
        if layout.choice("tension_bars") or layout.choice("shear_bars"):
            yield "anchor reinforcement with post-installed anchors is not implemented"
    yield from _miscounted(sizes)
    if text(sizes, "stiffeners") == "provided":
        yield "stiffened base plates are not implemented: the stiffeners' own checks are missing"
    if text(sizes, "bearing_method") == "block" and not any(
        layout.seat(situation.code).blocks(axis) for axis in (0, 1)
    ):
        yield (
            "the block method takes anchors in two rows, alike about the middle: place them so, or use bearing_method"
            " strain"
        )


def _miscounted(sizes: Sizes) -> Iterator[str]:
    """Bars that are more or fewer than their places."""
    for name, kinds in (
        ("tension_bars", ("tension_bar_points",)),
        ("shear_bars", ("shear_bars_along", "shear_bars_across")),
    ):
        count = bars(text(sizes, name)).count if text(sizes, name) else 0
        for places in kinds:
            there = len(text(sizes, places).split(";")) if text(sizes, places) else 0
            if there and there != count:
                yield f"{places} gives {there} place{'s' * (there > 1)}, {name} {count} bars: give each bar its place"
        if count > 4 * len(rods(sizes).points) and kinds == ("tension_bar_points",) and not text(sizes, kinds[0]):
            yield f"{count} bars are more than four a rod: give their places (tension_bar_points)"


def _notes(layout: Layout, code: Code) -> Iterator[str]:
    concrete = layout.concrete
    f, situation = layout.foundation, layout.situation
    if shaken(situation):
        yield (
            "the concrete is taken as cracked, for an earthquake may act"
            if f.cracked
            else Remark("the concrete is taken as uncracked, as a person said, though an earthquake may act")
        )
    if ground := said(situation, layout.sizes):
        yield ground
    method = layout.choice("bearing_method")
    words = {
        "auto": "block of even pressure where moment is about one axis in every combination, else plane of strain",
        "block": f"block of even pressure ({code.clause('even_pressure')})",
        "strain": "plane of strain, concrete elastic up to its limit",
    }
    yield f"bearing by {words[method]}"
    if any(layout.column):
        along, across = (held(-v, "length") for v in layout.column)
        yield (
            f"the plate's middle stands {along} along and {across} across from the column's: N turns it, and shear"
            " turns what holds it"
        )
    yield f"shear by {layout.path}" + (
        ": all rods alike, their washers (A36) welded" if layout.path == "anchors" else ""
    )
    if anchors := layout.installed:
        yield anchors.says
        if anchors.adhesive:
            yield (
                f"{anchors.sustained:.0%} of the tension on the anchors is taken to last"
                f" ({concrete.clause('sustained')})"
            )
    yield "anchors named from the minus side along the column's depth: " + ", ".join(layout.placed.names)
    if not any(math.isfinite(e) for e in (*f.along, *f.across)):
        yield Remark("no edge of the concrete is given: they are taken as too far to count")
    if not code.lrfd:
        yield (
            f"concrete and anchors are judged by the strength combinations ({concrete.clause('allowable')} has no"
            " allowable stress)"
        )
    if situation.seismic:
        yield (
            "of the system that resists earthquakes: 0.75 on concrete in tension with one"
            f" ({concrete.clause('shaken')}),"
            " combinations with overstrength"
        )
        yield (
            f"by itself a shear of 0.7 Fy Z/(alpha_s H) each way ({code.clause('shear_of_base')})"
            if situation.storey
            else Remark(
                f"the storey's height is not known: the base's least shear ({code.clause('shear_of_base')}) is not"
                " looked at"
            )
        )
    if situation.quaking:
        yield (
            "outside the system that resists earthquakes, but one makes more than a fifth of what the anchors take:"
            " 0.75 on concrete in tension with it, combinations with overstrength"
            f" ({concrete.clause('quaking')})"
        )
    if situation.braced:
        yield Remark("a brace lands here: the support's whole reaction is used; the gusset is not designed here")
    yield from _stiffness(layout)
    yield from _barred(layout)
    if layout.of("grout") and not layout.of("grout_strength"):
        yield (
            f"the grout is taken as at least twice as strong as the concrete ({code.clause('grout')}); where it is not,"
            " give grout_strength"
        )
    if f.light < 1.0:
        yield f"lightweight concrete: lambda {f.light:g} ({concrete.clause('light')})"
    if layout.choice("nuts") == "levelling":
        yield "levelling nuts: the plate is grouted before it is loaded, and what presses goes through the grout"
    if layout.path == "lug":
        yield (
            f"air holes of {held(INCH, 'length')} at least along both long sides of the lug let the grout fill under"
            " the plate"
            f" ({concrete.clause('air_holes')}); they are not drawn"
        )
    if layout.path == "anchors" and any(math.isfinite(e) for e in (*f.along, *f.across)):
        yield (
            "towards an edge the front row is looked at with its share of the shear and, washers being welded, the last"
            f" row with all of it ({concrete.clause('rows_in_shear')})"
        )
    yield (
        "how plate washers bend over their holes is not worked out: they are as thick as"
        f" {code.clause('washer_thickness')} asks"
    )
    yield "punching and bending of the foundation are its own design's"
    if layout.path == "anchors":
        yield "rods bend between washer and concrete, held at both ends"


def _barred(layout: Layout) -> Iterator[str]:
    """Where bars stand in the breakout's place, and which of them act."""
    if bars := layout.pull_bars:
        yield (
            f"{bars.steel.bars.name} in place of breakout in tension, "
            + (
                "by place"
                if layout.choice("tension_bar_points")
                else f"one to each rod in turn, {held(layout.of('tension_bar_off'), 'length')} from it"
            )
            + ": those within half the embedment of rods that pull act, developed on both sides"
        )
        yield from bars.notes()
    if legs := layout.shear_bars:
        yield (
            f"{legs.steel[0].bars.name} legs of {legs.form} in place of breakout in shear,"
            f" {RUN[layout.choice('shear_bar_way')]}: "
            + (
                "those that touch a rod act"
                if legs.form == "hairpins"
                else "those within 0.5 ca1 and 0.3 ca2 of a rod act"
            )
        )
        yield from legs.notes()


def _stiffness(layout: Layout) -> Iterator[str]:
    """What to tell the analyst where the base is not built as it was modelled."""
    s = layout.situation.supported.section
    places = [from_column(p, layout.column) for p in layout.placed.points]
    within = all(abs(x) < s.d / 2 and abs(y) < max(s.bf, s.d if s.round else 0.0) / 2 for x, y in places)
    if layout.situation.fixity == "pinned" and not within:
        yield Remark("tell the analyst: modelled pinned, but rods outside the column make this base stiff")
    if layout.situation.fixity == "fixed" and within:
        yield Remark(
            "tell the analyst: modelled fixed, but rods within the column's outline hold it hardly stiffer than a hinge"
        )


def acted(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Actions:
    """With what is stated, and what the lateral system asks of any base; on concrete by LRFD."""
    demands = BASE.acted(situation, sizes, code, actions)
    if not situation.seismic or not situation.storey:
        return demands
    for by in dict.fromkeys((code, code.anchored())):
        demands = with_demands(demands, by.lateral.of_base(situation.supported, situation.storey), by)
    return demands


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized base."""
    return list(Layout(situation, sizes).states(code, tracing))


def axes(situation: Situation, sizes: Sizes, held: frozenset[str]) -> dict[str, list[dict[str, Value]]]:
    """What climbs: the plate's size, the rods' diameter, count and depth, the weld, the plate's thickness; what is held
    stays."""
    names: list[str] = [text(sizes, "rod")]
    while bigger := next_rod(names[-1]):
        names.append(bigger)
    shop = situation.shop
    size = {n: up_to(length(sizes, n), shop.large) for n in ("plate_length", "plate_width")}
    weld, d = length(sizes, "weld_size"), rod(names[0]).d
    deepest = (
        situation.code.concrete.installed.depths[1] if text(sizes, "anchor_kind") == "adhesive" else max(DEEPER)
    ) * d
    climbs: dict[str, list[dict[str, Value]]] = {
        "plate": [{n: v + more * shop.large for n, v in size.items()} for more in WIDER],
        "count": [{"rods_across": n} for n in (2, 3, 4)],
        "rod": [{"rod": name} for name in names],
        "depth": [{"embedment": up_to(n * d, shop.large)} for n in DEEPER if n * d <= deepest],
        "weld": [{"weld_size": weld + n * shop.weld} for n in WELDS],
        "thickness": [{"plate_thickness": t} for t in shop.bases],
    }
    if text(sizes, "shear_path") == "lug":
        lug = {n: length(sizes, n) for n in LUG}
        climbs["lug"] = [
            {n: v * (1 + k / 4) if n == "lug_width" else v + k * shop.place for n, v in lug.items()} for k in range(7)
        ]
    if text(sizes, "rod_points"):
        del climbs["count"]
    left = {
        name: [{n: v for n, v in rung.items() if n not in held} for rung in rungs] for name, rungs in climbs.items()
    }
    return {name: rungs for name, rungs in left.items() if rungs[0]}


MOVES = (
    more_of("plate_thickness", lambda shop: 2 * shop.plate, 4),
    more_of("plate_length", lambda shop: 2 * shop.large, 4),
    more_of("plate_width", lambda shop: 2 * shop.large, 4),
    more_of("embedment", lambda shop: 4 * shop.large, 4),
    more_of("weld_size", lambda shop: shop.weld, 4),
    larger("rod", next_rod, 3),
    one_more("rods_across", 2, 1),
    one_more("rods_along", 3, 1),
    Move("washers", lambda sizes, shop: [(1, "welded")] if text(sizes, "shear_path") == "anchors" else []),
    Move("shear_path", lambda sizes, shop: [(4, "lug")] if text(sizes, "shear_path") == "friction" else []),
    more_of("lug_thickness", lambda shop: shop.width),
    more_of("lug_width", lambda shop: 2 * shop.large),
    more_of("lug_depth", lambda shop: shop.large, 2),
    Move(
        "foundation_wider",
        lambda sizes, shop: [(6 + k, length(sizes, "foundation_wider") + k * 2 * shop.large) for k in (1, 2, 3)],
        odd=True,
    ),
)
STEPS = {
    "bearing": ("plate",),
    "bearing_pressure": ("plate", "count"),
    "concrete_bearing": ("plate",),
    "concrete_bearing_pressure": ("plate", "count"),
    "plate_bending_bearing": ("thickness",),
    "plate_bending_tension": ("thickness",),
    "anchor_steel_tension": ("rod", "count", "plate"),
    "anchor_breakout_tension": ("depth", "plate"),
    "anchor_pullout": ("rod", "count"),
    "anchor_side_face_blowout": ("rod", "count"),
    "anchor_bond": ("depth", "rod", "plate", "count"),
    "anchor_bond_sustained": ("depth", "rod", "count"),
    "anchor_bond_most_depth": ("rod",),
    "anchor_steel_shear": ("rod", "count"),
    "anchor_pryout": ("depth", "plate"),
    "anchor_interaction": ("rod", "count", "depth", "plate"),
    "anchor_bending": ("rod", "count", "plate"),
    "anchor_breakout_shear": ("rod",),
    "rod_tension": ("rod", "count", "plate"),
    "rod_shear": ("rod", "count"),
    "washer_bearing": ("rod", "count"),
    "washer_weld": ("rod", "count"),
    "column_weld": ("weld",),
    "column_weld_at_rods": ("weld", "count", "plate"),
    "lug_bends_plate": ("thickness", "lug"),
    "lug_no_thicker_than_plate": ("thickness",),
    "lug_beside_anchors": ("depth",),
    "lug_bearing": ("lug",),
    "lug_breakout": ("lug",),
    "lug_flexure": ("lug",),
    "lug_shear": ("lug",),
    "lug_weld": ("lug",),
    "erection": ("rod",),
    "plate_past_column": ("plate",),
    "plate_past_column_across": ("plate",),
    "anchor_clear_of_column": ("plate",),
    "anchor_wrench": ("plate",),
    "anchor_edge_in_plate": ("plate",),
    "anchor_washers_clear": ("plate",),
    "anchor_spacing": ("plate",),
    "lug_above_anchors": ("depth",),
    "lug_under_plate": ("plate",),
    "weld_size": ("weld",),
}
DEEP, WIDE = "deeper embedment, or rods farther apart", "a larger pedestal or footing"
ADVICE = {
    "bearing": f"a larger plate, {WIDE}, or stronger concrete",
    "bearing_pressure": f"a larger plate, rods farther apart, {WIDE}, or stronger concrete",
    "concrete_bearing": f"a larger plate, {WIDE}, or stronger concrete",
    "concrete_bearing_pressure": f"a larger plate, rods farther apart, {WIDE}, or stronger concrete",
    "plate_bending_bearing": "a thicker plate, or one that reaches less past the column",
    "plate_bending_tension": "a thicker plate, rods nearer to the column, or more of them",
    "anchor_steel_tension": "larger rods, a stronger grade, more of them, or rods farther apart",
    "anchor_breakout_tension": (
        f"{DEEP}, {WIDE}, supplementary reinforcement, or anchor reinforcement designed for all of it"
    ),
    "anchor_pullout": "larger rods, whose heads are larger, or more of them; of post-installed anchors a stronger kind",
    "anchor_bond": f"{DEEP}, larger or more rods, {WIDE}, or a stronger adhesive",
    "anchor_bond_sustained": "deeper embedment, larger or more rods, or a stronger adhesive",
    "anchor_side_face_blowout": f"rods farther from the face, or {WIDE}",
    "anchor_steel_shear": "larger or more rods, or a lug",
    "anchor_breakout_shear": f"rods farther from the edge, {WIDE}, anchor reinforcement, or a lug",
    "anchor_pryout": "deeper embedment, or a lug",
    "anchor_interaction": "larger or more rods, deeper, or a lug for the shear",
    "anchor_bars_tension": "more or larger bars within half the embedment of the rods that pull, longer or hooked",
    "anchor_bars_shear": "more or larger legs near the rods, longer or hooked",
    "anchor_bending": "larger rods, a thinner washer, or a lug",
    "washer_bearing": "larger or more rods, whose washers are thicker",
    "washer_weld": "a larger fillet, larger washers or more of them",
    "column_weld": "a larger fillet, or one all around",
    "column_weld_at_rods": "a larger fillet, one all around, or more rods",
    "rod_tension": "larger rods, a stronger grade, more of them, or rods farther apart",
    "rod_shear": "larger or more rods, or a lug",
    "lug_bends_plate": "a thicker plate, or a wider lug",
    "lug_torsion": "anchors with welded washers, or friction: a lug carries no torsion",
    "friction": (
        "anchors with welded washers, or a lug: friction needs compression in the same combination, and no earthquake"
    ),
    "lug_bearing": "a wider or thicker lug",
    "lug_breakout": f"{WIDE}, or a wider lug",
    "lug_flexure": "a thicker or wider lug",
    "lug_shear": "a thicker or wider lug",
    "lug_weld": "a larger fillet, or a wider lug",
    "lug_faces_shear": "a crossed lug (lug_way both)",
    "erection": "larger rods, or rods farther apart",
}


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `PL 1-1/2 in x 20 in x 20 in, (4) 3/4 F1554-36`."""
    plate = " x ".join(
        show(length(sizes, n), "length", system) for n in ("plate_thickness", "plate_length", "plate_width")
    )
    kind = "" if text(sizes, "anchor_kind") == "cast_in" else f", {text(sizes, 'anchor_kind')}"
    return f"PL {plate}, ({len(rods(sizes).points)}) {text(sizes, 'rod')}{kind}"


def placed(situation: Situation, sizes: Sizes) -> Solids:
    """In the joint's axes; nothing stands where no foundation is known."""
    known = foundation(situation, sizes) is not None
    return solids(Layout(situation, sizes)) if known else Solids((), ())


BASE_PLATE = Standard(
    name="base_plate",
    title="Base plate",
    help="A plate shop-welded to the column's foot, on grout and concrete, held by anchor rods",
    framings=("column_base",),
    carries=("N", "V", "Vw", "M", "Mw", "T"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=lambda situation, sizes: {},
    changing=Changing(moves=MOVES, axes=axes, steps=STEPS, advice=ADVICE),
    brief=("plate_length", "plate_width", "plate_thickness", "rod", "embedment"),
    summary=summary,
    placed=placed,
    figures=figures,
    acted=acted,
    dropped=BASE.dropped,
)
