"""The double and the single angle declared: what they take, what they refuse, the ladder they climb, what a remedy may
change."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from handrail.core.catalogue import angle, bolt, thicker_angles
from handrail.core.catalogue.bolts import next_size, size_before
from handrail.core.catalogue.faying import is_slip_critical
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import show
from handrail.core.quantities.words import held
from handrail.core.standards.angles.drawing import draw
from handrail.core.standards.angles.layout import THICKEST, Angles
from handrail.core.standards.angles.parameters import ONE, PARAMETERS, complete, complete_one
from handrail.core.standards.angles.solids import solids
from handrail.core.standards.shear_end import judging
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Changing, Examined, Move, Standard, larger, more_of
from handrail.core.standards.stated import SHEAR_END

TITLES = {2: "double angle", 1: "single angle"}


def _layout(n: int, situation: Situation, sizes: Sizes) -> Angles:
    return Angles(situation, sizes, n)


def _examine(n: int, situation: Situation, sizes: Sizes, code: Code) -> Examined:
    """Geometry alone: detailing rules, reasons to leave the connection unchecked, remarks."""
    layout = _layout(n, situation, sizes)
    return layout.examined(
        code,
        _refusals(layout, code),
        lambda: (
            *judging.notes(situation, sizes, layout.approach, layout.beam_end, layout.support, "angle"),
            *layout.notes(),
        ),
    )


def _refusals(layout: Angles, code: Code) -> Iterator[str]:
    title = TITLES[layout.n]
    sides = (("", layout.bolted_to_support), ("beam_", layout.on_beam))
    bolts = tuple(
        (bolt(layout.choice(f"{side}bolt")), is_slip_critical(layout.choice(f"{side}tightening")))
        for side, bolted in sides
        if bolted
    )
    yield from judging.refusals(layout.situation, code, bolts, layout.beam_end, title)
    yield from judging.square_only(layout.situation, title)
    yield from judging.depth_agrees(layout.sizes, layout.end, "angle_length")
    on_support = not layout.bolted_to_support and layout.choice("support_weld_at") == "shop"
    if on_support and (layout.on_beam or layout.choice("beam_weld_at") == "shop"):
        yield "fastened in the shop to the beam and to its support: one is done at the site (support_weld_at)"
    yield from judging.half_copes(layout.sizes)
    if layout.situation.framing == "beam_to_hollow_column" and layout.bolted_to_support:
        yield "bolts into a hollow column's wall are not implemented: weld the angles to it (support_side)"
    for side, gauge, leg, bolted in (
        ("beam", layout.of("beam_gauge"), layout.beam_leg, layout.on_beam),
        ("support", layout.of("support_gauge"), layout.support_leg, layout.bolted_to_support),
    ):
        if bolted and gauge >= leg:
            yield f"{side}_gauge of {held(gauge, 'length')} is beyond the leg of {held(leg, 'length')}"
    if layout.beam_leg <= layout.of("gap"):
        yield (
            f"a gap of {held(layout.of('gap'), 'length')} leaves none of the leg of {held(layout.beam_leg, 'length')}"
            " on the beam"
        )


def _strengths(n: int, situation: Situation, sizes: Sizes, code: Code, tracing: bool) -> list[LimitState]:
    """Every limit state of the sized angles."""
    return _layout(n, situation, sizes).strengths(code, tracing)


def _thicker(name: str) -> list[Value]:
    """The angle and those with its legs that are thicker and still turn, the lightest first."""
    return [angle(name).name, *(s.name for s in thicker_angles(name) if s.wall <= THICKEST + 0.5)]


def ladder(situation: Situation, sizes: Sizes, held: frozenset[str]) -> list[dict[str, Value]]:
    """Rows first, then the angle's thickness as far as rotation allows, then bolt diameter: of both sides where each
    has its own."""
    own = () if sizes["beam_bolt"].source == "geometry" else ("beam_bolt",)
    return judging.climb(situation, sizes, held, {"angle": _thicker(text(sizes, "angle"))[:4]}, ("bolt", *own))


def _summary(n: int, sizes: Sizes, system: str = "us") -> str:
    """The sizes in a few words: `2L4X3-1/2X5/16 x 11-1/2 in, (4) + (8) 3/4 A325-N`."""
    rows, sides = int(length(sizes, "rows")), (("beam_side", 1, "beam_bolt"), ("support_side", n, "bolt"))
    held = [
        (f"({rows * lines})", text(sizes, name)) if text(sizes, side) == "bolted" else ("weld", "")
        for side, lines, name in sides
    ]
    if len({name for _, name in held if name}) > 1:  # each side has its own
        words = " + ".join(f"{count} {name}" for count, name in held)
    else:
        words = f"{' + '.join(count for count, _ in held)} {max(name for _, name in held)}".rstrip()
    return (
        f"{'2' if n == 2 else ''}{text(sizes, 'angle')} x {show(length(sizes, 'angle_length'), 'length', system)},"
        f" {words}"
    )


MOVES = (
    judging.ROWS,
    Move("angle", lambda sizes, shop: [(k, name) for k, name in enumerate(_thicker(text(sizes, "angle"))) if k]),
    Move("stagger", lambda sizes, shop: [(2, "half_pitch")] if text(sizes, "stagger") == "none" else []),
    more_of("end_distance", lambda shop: shop.place, odd=True),
    judging.FIRST,
    judging.BOLT,
    larger("beam_bolt", next_size, before=size_before),
    more_of("beam_weld", lambda shop: shop.weld),
    more_of("support_weld", lambda shop: shop.weld),
)


SHARED = (*judging.SHARED, "support_gauge", "stagger")  # `bolt` is the support's


def _declared(n: int, about: str) -> Standard:
    return Standard(
        name=TITLES[n].replace(" ", "_"),
        title=TITLES[n].capitalize(),
        help=about,
        framings=tuple(KINDS),
        carries=("N", "V"),
        parameters=PARAMETERS if n == 2 else ONE,
        complete=complete if n == 2 else complete_one,
        examine=partial(_examine, n),
        strengths=partial(_strengths, n),
        drawn=partial(draw, n),
        negligible=judging.negligible,
        changing=Changing(MOVES, ladder),
        brief=("rows", "bolt", "angle", "angle_length"),
        summary=partial(_summary, n),
        shared=SHARED,
        through=lambda sizes: text(sizes, "support_side") == "bolted",
        opposite=partial(judging.opposite, SHARED),
        aligned=partial(judging.aligned, SHARED),
        acted=SHEAR_END.acted,
        dropped=SHEAR_END.dropped,
        placed=lambda situation, sizes: solids(_layout(n, situation, sizes)),
    )


DOUBLE_ANGLE = _declared(2, "A pair of angles, bolted or welded to the beam's web and to the support")
SINGLE_ANGLE = _declared(1, "One angle on one side of the beam's web, bolted or welded to it and to the support")
