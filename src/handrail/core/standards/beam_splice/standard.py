"""Two standards declared: a beam spliced by web plates alone, and by web and flange plates."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.catalogue import Shop, bolt
from handrail.core.catalogue.bolts import next_size, size_before
from handrail.core.catalogue.faying import is_slip_critical
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import INCH, show
from handrail.core.standards.beam_splice.drawing import draw
from handrail.core.standards.beam_splice.figures import figures
from handrail.core.standards.beam_splice.layout import FAR_SIDE, Layout
from handrail.core.standards.beam_splice.parameters import BOTH, WEB_ALONE, complete_flange, complete_web
from handrail.core.standards.beam_splice.solids import solids
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import (
    Changing,
    Examined,
    Move,
    Negligible,
    Standard,
    larger,
    more_of,
    one_more,
)
from handrail.core.standards.stated import BEAM_FLANGE, BEAM_WEB

THINNEST, THICKEST, ON_WEB = 5 / 16 * INCH, 2 * INCH, INCH
WEAK, NOISE = 0.01, 0.001
SHEAR_SHARE = 0.05


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the splice unchecked, remarks."""
    layout = Layout(situation, sizes)
    stated = BEAM_FLANGE if layout.flanged else BEAM_WEB
    if reasons := [*_refusals(layout, code), *stated.refusals(sizes)]:
        return Examined([], reasons, [])
    return Examined(list(layout.rules(code)), [], [*layout.notes(), *stated.notes(situation, sizes, code)])


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    for steel in layout.pieces:
        if not steel.section.open:
            yield f"a splice of {steel.section.name} is not implemented: both pieces have to be I-shapes"
    if layout.plate_end <= 0:
        yield "plate depth leaves no end distance"
    for name in ("bolt", *(["flange_bolt"] if layout.flanged else [])):
        yield from code.bolts.unheld(bolt(layout.choice(name)), is_slip_critical(layout.choice("tightening")))
    depths = sorted(p.section.d for p in layout.pieces)
    if layout.flanged and depths[1] > 1.5 * depths[0]:
        yield (
            "the pieces' depths are too different for one set of flange plates: splice them by an end plate or a"
            " bracket"
        )


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized splice."""
    return list(Layout(situation, sizes).states(code, tracing))


def negligible(situation: Situation, sizes: Sizes) -> dict[str, Negligible]:
    """By action, of the smaller piece: nothing for M where the web alone is spliced (0.1 % of the yield moment is the
    solver's noise)."""
    s = min((situation.supported, situation.carrier), key=lambda steel: steel.section.A)
    section, Fy = s.section, s.grade.Fy
    little, weak = length(sizes, "negligible_force"), WEAK * Fy * section.Sy
    return {
        "Vw": Negligible("force", min(little, SHEAR_SHARE * 0.6 * Fy * 2 * section.bf * section.tf)),
        "M": Negligible("moment", NOISE * Fy * section.Sx),
        "Mw": Negligible("moment", weak),
        "T": Negligible("moment", weak),
    }


def thicknesses(name: str, shop: Shop, most: float = THICKEST) -> list[dict[str, Value]]:
    """Steps of a plate's thickness, up to `most` mm."""
    return [{name: t} for t in shop.plates_of(THINNEST, most)]


def bolts_from(name: str, sizes: Sizes) -> list[dict[str, Value]]:
    """Steps of a bolt from the one that stands, larger ones of its kind."""
    names = [text(sizes, name)]
    while len(names) < 4 and (bigger := next_size(names[-1])):
        names.append(bigger)
    return [{name: b} for b in names]


def axes(situation: Situation, sizes: Sizes, held: frozenset[str]) -> dict[str, list[dict[str, Value]]]:
    """What climbs: rows, plates and bolts of the web; of the flanges where there are plates on them."""
    most = max(
        2,
        int(
            (min(situation.supported.section.T, situation.carrier.section.T) - 2 * length(sizes, "end_distance"))
            // length(sizes, "pitch")
        )
        + 1,
    )
    least = min(int(length(sizes, "rows")), most)
    climbs: dict[str, list[dict[str, Value]]] = {
        "rows": [{"rows": n} for n in range(least, most + 1)],
        "columns": [{"columns": n} for n in (1, 2, 3)],
        "web_plate": thicknesses("plate_thickness", situation.shop, ON_WEB),
        "bolt": bolts_from("bolt", sizes),
    }
    if "flange_rows" in sizes:
        climbs |= {
            "flange_rows": [{"flange_rows": n} for n in range(2, 13)],
            "flange_plate": [
                {"flange_plate_thickness": t, "inside_plate_thickness": t}
                for t in situation.shop.plates_of(THINNEST, THICKEST)
            ],
            "flange_bolt": bolts_from("flange_bolt", sizes),
        }
    left = {
        name: [{n: v for n, v in rung.items() if n not in held} for rung in rungs] for name, rungs in climbs.items()
    }
    return {name: rungs for name, rungs in left.items() if rungs[0]}


_WEB_STEPS = {
    "bolt_shear": ("rows", "columns", "bolt"),
    "bolt_bearing_plate": ("web_plate", "rows", "columns"),
    "bolt_bearing_web": ("rows", "columns", "bolt"),
    "slip": ("rows", "columns", "bolt"),
    **{
        f"plate_{name}": ("web_plate", "rows")
        for name in (
            "shear_yield",
            "shear_rupture",
            "block_shear",
            "axial_yield",
            "axial_rupture",
            "axial_block_shear",
            "block_shear_interaction",
            "flexure_yield",
            "flexure_rupture",
            "buckling",
            "axial_buckling",
            "interaction",
            "half_depth",
        )
    },
    "web_axial": ("rows",),
    "web_axial_block_shear": ("rows", "columns"),
    "plate_half_depth": ("rows",),
    "plate_off_the_web": ("web_plate",),
}
_FLANGE_STEPS = {
    "flange_bolt_shear": ("flange_rows", "flange_bolt"),
    "flange_bolt_bearing": ("flange_rows", "flange_bolt", "flange_plate"),
    "flange_slip": ("flange_rows", "flange_bolt"),
    "flange_block_shear": ("flange_rows",),
    **{
        f"{plate}_{name}": ("flange_plate",)
        for plate in ("flange_plate", "inner_plate")
        for name in ("yield", "rupture", "buckling")
    },
    "flange_plate_block_shear": ("flange_plate", "flange_rows"),
    "inner_plate_block_shear": ("flange_plate", "flange_rows"),
}
STEPS = {name + side: axes for name, axes in (_WEB_STEPS | _FLANGE_STEPS).items() for side in ("", FAR_SIDE)}
ADVICE = {
    "uncarried_M": "a splice with flange plates (beam_flange_splice), or a place where the beam has no moment",
    "flange_net_section": (
        "fewer or smaller holes in the flange: a smaller flange bolt, or a splice where the moment is less"
    ),
    "web_shear_rupture": "fewer rows, or smaller web bolts",
}


WEB_MOVES = (
    one_more("rows"),
    more_of("plate_thickness", lambda shop: shop.fine),
    larger("bolt", next_size, before=size_before),
    one_more("columns"),
    more_of("end_distance", lambda shop: shop.place, odd=True),
    more_of("beam_edge_distance", lambda shop: shop.place, odd=True),
)
FLANGE_MOVES = (
    one_more("flange_rows"),
    more_of("flange_plate_thickness", lambda shop: shop.plate),
    larger("flange_bolt", next_size, before=size_before),
    Move("inside_plates", lambda sizes, shop: [(2, "provided")]),
    Move("fillers", lambda sizes, shop: [(1, "developed")]),
)


def _web_summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `2 PL 3/8 in, (4) 3/4 A325-N a side`."""
    plates, bolts = (
        ("2 PL" if text(sizes, "web_plates") == "both" else "PL"),
        int(length(sizes, "rows")) * int(length(sizes, "columns")),
    )
    return (
        f"{plates} {show(length(sizes, 'plate_thickness'), 'length', system)}, ({bolts}) {text(sizes, 'bolt')} a side"
    )


def _flange_summary(sizes: Sizes, system: str = "us") -> str:
    flange = f"flanges PL {show(length(sizes, 'flange_plate_thickness'), 'length', system)}"
    inside = " in and out" if text(sizes, "inside_plates") == "provided" else ""
    return (
        f"{flange}{inside}, ({2 * int(length(sizes, 'flange_rows'))}) {text(sizes, 'flange_bolt')}; web"
        f" {_web_summary(sizes, system)}"
    )


BEAM_WEB_SPLICE = Standard(
    name="beam_web_splice",
    title="Beam web splice",
    help="Plates on one or both sides of the web, bolted to both beams; carries shear and axial force",
    framings=("beam_splice",),
    carries=("N", "V"),
    parameters=WEB_ALONE,
    complete=complete_web,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=negligible,
    changing=Changing(moves=WEB_MOVES, axes=axes, steps=STEPS, advice=ADVICE),
    brief=("rows", "bolt", "plate_thickness", "plate_depth", "web_plates"),
    summary=_web_summary,
    placed=lambda situation, sizes: solids(Layout(situation, sizes)),
    figures=figures,
    acted=BEAM_WEB.acted,
    dropped=BEAM_WEB.dropped,
)
BEAM_FLANGE_SPLICE = Standard(
    name="beam_flange_splice",
    title="Beam flange splice",
    help="Plates on flanges and web, bolted to both beams; carries moment, shear and axial force",
    framings=("beam_splice",),
    carries=("N", "V", "M"),
    parameters=BOTH,
    complete=complete_flange,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=negligible,
    changing=Changing(moves=WEB_MOVES + FLANGE_MOVES, axes=axes, steps=STEPS, advice=ADVICE),
    brief=("flange_rows", "flange_bolt", "flange_plate_thickness", "rows", "plate_thickness"),
    summary=_flange_summary,
    placed=lambda situation, sizes: solids(Layout(situation, sizes)),
    figures=figures,
    acted=BEAM_FLANGE.acted,
    dropped=BEAM_FLANGE.dropped,
)
