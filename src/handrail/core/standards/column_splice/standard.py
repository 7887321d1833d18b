"""The column splice by flange plates or grooves declared."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.actions import Actions
from handrail.core.catalogue import bolt, electrode
from handrail.core.catalogue.faying import is_slip_critical
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import show
from handrail.core.standards.beam_splice.standard import ADVICE, FLANGE_MOVES, STEPS, WEB_MOVES, bolts_from, thicknesses
from handrail.core.standards.column_splice.drawing import draw
from handrail.core.standards.column_splice.figures import figures
from handrail.core.standards.column_splice.layout import Layout
from handrail.core.standards.column_splice.parameters import PARAMETERS, complete
from handrail.core.standards.column_splice.solids import solids
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Changing, Examined, Negligible, Standard
from handrail.core.standards.stated import B39, COLUMN, HELD, integrity, with_demands

LITTLE, SHEARED = 0.01, 0.5  # by either method at least


def examine(situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the splice unchecked, remarks."""
    layout = Layout(situation, sizes)
    if reasons := [*_refusals(layout, code), *COLUMN.refusals(sizes)]:
        return Examined([], reasons, [])
    return Examined(list(layout.rules(code)), [], [*layout.notes(code), *COLUMN.notes(situation, sizes, code)])


def _refusals(layout: Layout, code: Code) -> Iterator[str]:
    yield from layout.unstated(code)
    for steel in layout.pieces:
        if not steel.section.open:
            yield f"a flange splice of {steel.section.name} is not implemented: both columns have to be I-shapes"
    if layout.webbed and layout.plate_end <= 0:
        yield "plate depth leaves no end distance"
    for name in ("bolt", "flange_bolt"):
        yield from code.bolts.unheld(bolt(layout.choice(name)), is_slip_critical(layout.choice("tightening")))


def acted(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Actions:
    """With what is stated, and what the lateral system asks of any splice."""
    return with_demands(COLUMN.acted(situation, sizes, code, actions), Layout(situation, sizes).demands(code), code)


def strengths(situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized splice."""
    layout = Layout(situation, sizes)
    states = list(layout.states(code, tracing))
    if text(sizes, HELD.name) == B39:
        states += integrity([s for s in layout.states(code.nominally(), tracing) if s.check != "erection"])
    return states


def negligible(situation: Situation, sizes: Sizes) -> dict[str, Negligible]:
    """Torsion counts from a hundredth of what the flanges' bolts in shear, or their grooves, hold as a couple: no
    solver's rest is as much."""
    depth, width = (
        min(getattr(p.section, name) for p in (situation.supported, situation.carrier)) for name in ("d", "bf")
    )
    if text(sizes, "flange_joint") == "plates":
        own = bolt(text(sizes, "flange_bolt"))
        held = 2 * length(sizes, "flange_rows") * SHEARED * own.Fnv * own.area
    else:
        held = SHEARED * 0.6 * electrode(text(sizes, "electrode")).FEXX * length(sizes, "groove_throat") * width
    return {"T": Negligible("moment", LITTLE * held * depth)}


def axes(situation: Situation, sizes: Sizes, held: frozenset[str]) -> dict[str, list[dict[str, Value]]]:
    """What climbs: rows, bolts and plates of the flanges or the grooves' throat, web plates from none to both with
    their rows."""
    climbs: dict[str, list[dict[str, Value]]] = {}
    if text(sizes, "flange_joint") == "plates":
        climbs |= {
            "flange_rows": [{"flange_rows": n} for n in range(2, 13)],
            "flange_plate": thicknesses("flange_plate_thickness", situation.shop),
            "flange_bolt": bolts_from("flange_bolt", sizes),
        }
    else:
        least = length(sizes, "groove_throat")
        climbs["groove"] = [{"groove_throat": least + n * situation.shop.weld} for n in range(0, 24)]
    rows = int(length(sizes, "rows"))
    climbs |= {
        "web": [
            {"web_plates": kind}
            for kind in (
                ("none", "one", "both") if text(sizes, "web_plates") == "none" else (text(sizes, "web_plates"),)
            )
        ],
        "rows": [{"rows": n} for n in range(rows, rows + 4)],
        "web_plate": thicknesses("plate_thickness", situation.shop),
        "bolt": bolts_from("bolt", sizes),
    }
    left = {
        name: [{n: v for n, v in rung.items() if n not in held} for rung in rungs] for name, rungs in climbs.items()
    }
    return {name: rungs for name, rungs in left.items() if rungs[0]}


_STEPS = STEPS | {
    "contact_friction": ("web",),
    "plate_off_the_web": ("web", "web_plate"),
    "flange_groove": ("groove",),
    "groove_throat": ("groove",),
    "seismic_flange_strength": ("flange_rows", "flange_plate", "flange_bolt"),
    "seismic_flange_strength_far": ("flange_rows", "flange_plate", "flange_bolt"),
    "flange_slip": ("flange_rows", "flange_bolt"),
    "bolt_bearing_web": ("rows", "bolt"),
}
_ADVICE = ADVICE | {
    "contact_friction": "web plates: friction needs compression in the same combination, and no earthquake",
    "contact_pressure": (
        "a section whose flanges stand on each other's, fillers developed, or ends that do not bear (sawn) with plates"
        " for all of it"
    ),
    "contact_bearing": "a section whose flanges stand on each other's, or fillers developed",
    "flange_rupture": "smaller flange bolts, or grooves",
    "flange_groove": "a deeper groove, or bolted plates",
}


def summary(sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `flanges PL 3/8 in, (6) 3/4 A325-N; no web plates`."""
    if text(sizes, "flange_joint") == "plates":
        rows = 2 * int(length(sizes, "flange_rows"))
        flange = (
            f"flanges PL {show(length(sizes, 'flange_plate_thickness'), 'length', system)}, ({rows})"
            f" {text(sizes, 'flange_bolt')}"
        )
    else:
        flange = f"flanges PJP {show(length(sizes, 'groove_throat'), 'length', system)}"
    kind = text(sizes, "web_plates")
    web = (
        "no web plates"
        if kind == "none"
        else f"web plates {kind}, ({int(length(sizes, 'rows')) * int(length(sizes, 'columns'))}) {text(sizes, 'bolt')}"
    )
    return f"{flange}; {web}"


COLUMN_FLANGE_SPLICE = Standard(
    name="column_flange_splice",
    title="Column flange splice",
    help="Plates outside the flanges, or grooves between them, and plates on the web; ends milled to bear, or not",
    framings=("column_splice",),
    carries=("N", "V", "Vw", "M", "Mw"),
    parameters=PARAMETERS,
    complete=complete,
    examine=examine,
    strengths=strengths,
    drawn=draw,
    negligible=negligible,
    changing=Changing(moves=WEB_MOVES + FLANGE_MOVES[:3], axes=axes, steps=_STEPS, advice=_ADVICE),
    brief=("flange_rows", "flange_bolt", "flange_plate_thickness", "web_plates", "ends"),
    summary=summary,
    placed=lambda situation, sizes: solids(Layout(situation, sizes)),
    figures=figures,
    acted=acted,
    dropped=COLUMN.dropped,
)
