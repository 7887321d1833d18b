"""What a shear end lets through of what it does not carry, what it refuses, what it remarks, and what a remedy may
change."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import product

from handrail.core.catalogue import Bolt, Shop, bolt
from handrail.core.catalogue.bolts import next_size, size_before
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.parts.approach import Approach
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.support import Support
from handrail.core.parts.web_fastening import BoltedWeb
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.sizes import Sizes, Value, length, text
from handrail.core.standards.standard import Move, Negligible, larger, more_of

MOST_SKEW, MOST_SLOPE = math.radians(45), math.radians(30)
HAIR = math.radians(0.05)
NOTED = math.radians(0.5)
STEPS = (1, 2, 3)
LITTLE, SHEARED = 0.01, 0.5


def negligible(situation: Situation, sizes: Sizes) -> dict[str, Negligible]:
    """By action. Nothing is let through for M at a hinge (0.1 % of the beam's yield moment is taken for the solver's
    noise); N along slots and Vw count from the smaller of the parameter and 5 % of the member's yield; Mw and T from 1
    % of the weak-axis yield moment; none of the moments, and no Vw where no slab holds the beam, beyond a hundredth of
    what the connection itself has."""
    s, Fy = situation.supported.section, situation.supported.grade.Fy
    little, own = length(sizes, "negligible_force"), LITTLE * _group(sizes)
    weak = min(0.01 * Fy * s.Sy, own)
    return {
        "N": Negligible("force", min(little, 0.05 * Fy * s.A)),
        "Vw": Negligible("force", min(little, 0.05 * 0.6 * Fy * 2 * s.bf * s.tf)),
        "M": Negligible("moment", min(0.001 * Fy * s.Sx, own)),
        "Mw": Negligible("moment", weak),
        "T": Negligible("moment", weak),
    }


def _group(sizes: Sizes) -> float:
    """About what a line of the connection's bolts, by either method, or its height where it is welded, holds as a
    couple, N*mm."""
    fastener, high = bolt(text(sizes, "bolt")), (length(sizes, "rows") - 1) * length(sizes, "pitch")
    return length(sizes, "rows") * SHEARED * fastener.Fnv * fastener.area * max(high, length(sizes, "pitch")) / 4


def refusals(
    situation: Situation,
    code: Code,
    bolts: tuple[tuple[Bolt, bool], ...],
    end: BeamEnd,
    title: str,
    framings: tuple[str, ...] = tuple(KINDS),
) -> Iterator[str]:
    """Why a shear end of these pieces is left unchecked; `bolts` of each side with whether they are slip-critical."""
    beam, support = situation.supported.section, situation.carrier.section
    skew, slope, cope = abs(situation.skew), abs(situation.slope), end.problem(code)
    wall = situation.framing == "beam_to_hollow_column"
    holds = support.hollow if wall else support.open or (support.channel and situation.framing == "beam_to_girder")
    tests = (
        (not (beam.open or beam.channel), f"{beam.name} has no web that a {title} can be fastened to"),
        (not holds, f"{support.name} as a support is not implemented"),
        (situation.framing not in framings, f"a {title} does not go with {situation.framing}"),
        (
            skew > MOST_SKEW + HAIR,
            f"skew of {held(skew, 'angle')} is over the {held(MOST_SKEW, 'angle')} that is implemented",
        ),
        (
            support.round and skew > HAIR,
            f"skew of {held(skew, 'angle')} at a round column: a beam whose line goes through its axis is square to it;"
            " leave out the skew",
        ),
        (
            slope > MOST_SLOPE + HAIR,
            f"slope of {held(slope, 'angle')} is over the {held(MOST_SLOPE, 'angle')} that is implemented",
        ),
    )
    yield from (words for failed, words in tests if failed)
    yield from dict.fromkeys(words for bolt, slip_critical in bolts for words in code.bolts.unheld(bolt, slip_critical))
    if cope:
        yield f"outside {code.clause('procedure_for_copes')}: {cope}"


def square_only(situation: Situation, title: str) -> Iterator[str]:
    """Why a connection that is made for beams square to their support is left unchecked."""
    for name, angle in (("skew", situation.skew), ("slope", situation.slope)):
        if abs(angle) > NOTED + HAIR:
            yield (
                f"{name} of {held(abs(angle), 'angle')}: a {title} is implemented square to its support; take a single"
                " plate"
            )


def depth_agrees(sizes: Sizes, left: float, depth: str) -> Iterator[str]:
    """What a depth along V leaves at its ends, `left` mm, against an end distance that is given too."""
    if left <= 0:
        yield f"{depth.replace('_', ' ')} leaves no end distance"
    given = all(sizes[name].source not in ("geometry", "default") for name in (depth, "end_distance"))
    if given and abs(left - length(sizes, "end_distance")) > INCH / 32:
        yield (
            f"{depth} and end_distance are both given and do not agree: {sizes['rows'].value} rows in this depth leave"
            f" {held(left, 'length')} at the ends, not {held(length(sizes, 'end_distance'), 'length')}; leave out one"
            " of them"
        )


def climb(
    situation: Situation,
    sizes: Sizes,
    held: frozenset[str],
    steps: dict[str, list[Value]],
    bolts: tuple[str, ...] = ("bolt",),
) -> list[dict[str, Value]]:
    """Rungs from the lightest: rows first, then each of `steps` in turn, then the diameters of `bolts` together; those
    in `held` stay."""
    room = int(situation.supported.section.d // length(sizes, "pitch")) + 1
    order: dict[str, list[Value]] = {**steps, "rows": list(range(2, max(3, min(room, 12) + 1)))}
    free = {name: values for name, values in order.items() if name not in held}
    diameters = _diameters(sizes, [name for name in bolts if name not in held])
    return [thick | dict(zip(free, rung, strict=True)) for thick in diameters for rung in product(*free.values())]


def _diameters(sizes: Sizes, bolts: list[str]) -> list[dict[str, Value]]:
    """The bolts as they are, then up to two times the next size of each."""
    steps: list[dict[str, Value]] = [{name: text(sizes, name) for name in bolts}]
    for _ in range(2):
        thicker = {name: next_size(str(size)) for name, size in steps[-1].items()}
        if not all(thicker.values()) or not thicker:
            break
        steps.append({name: size for name, size in thicker.items() if size})
    return steps


IN_LINE = 0.02  # of a pitch that rows may be off a common grid
SHARED = ("bolt", "tightening", "support_hole", "rows", "pitch", "first_bolt", "transfer")


def opposite(names: tuple[str, ...], one: Situation, sizes: Sizes, other: Situation) -> dict[str, Value]:
    """What bolts that hold both sides of a web ask of the beam opposite, which has all of them: the sizes `names`, at
    the same height of the support; gauges from the heel of angles give way to the thickness of its
    web."""
    values: dict[str, Value] = {name: sizes[name].value for name in names}
    values["first_bolt"] = length(sizes, "first_bolt") + one.top_offset - other.top_offset
    if "support_gauge" in values:
        values["support_gauge"] = (
            length(sizes, "support_gauge") + (one.supported.section.tw - other.supported.section.tw) / 2
        )
    return values


def aligned(names: tuple[str, ...], one: Situation, sizes: Sizes, other: Situation, theirs: Sizes) -> dict[str, Value]:
    """The same where each has rows of its own: those of the side that has fewer are some of the other's, no higher than
    it has them by itself (`theirs`) where they can be."""
    own, rows = (int(length(of, "rows")) for of in (sizes, theirs))
    values = opposite(names, one, sizes, other)
    pitch, above = length(sizes, "pitch"), float(values["first_bolt"])
    steps = math.ceil((length(theirs, "first_bolt") - above) / pitch - IN_LINE)
    least, most = (0, own - rows) if rows <= own else (own - rows, 0)
    values["first_bolt"] = above + min(max(steps, least), most) * pitch
    del values["rows"]
    return values | {"rows_opposite": own}


def half_copes(sizes: Sizes) -> Iterator[str]:
    """Copes of which one size is nothing and the other is not."""
    for side in ("", "bottom_"):
        if bool(length(sizes, f"{side}cope_length")) != bool(length(sizes, f"{side}cope_depth")):
            yield f"{side}cope_length and {side}cope_depth: one is 0 and the other is not"


def notes(
    situation: Situation, sizes: Sizes, comes: Approach, end: BeamEnd, support: Support, on_support: str
) -> Iterator[str]:
    """What a person should know of the beam and its support; `on_support` what is cut or bevelled to meet it."""
    skew, slope, d = abs(situation.skew), abs(situation.slope), comes.beam.d
    off = end.middle - d / 2
    by = "bolts" if isinstance(end.fastened, BoltedWeb) else "welds"
    cut = "cut square" if comes.square else "cut parallel with the support"
    tests = (
        (
            skew > NOTED,
            f"skewed {held(skew, 'angle')}: beam end {cut}, {on_support} bevelled, fillet throats as skewed",
        ),
        (
            slope > NOTED,
            (
                f"sloped {held(slope, 'angle')}: bolt line square to the beam, beam end {cut}, {on_support} cut to the"
                " slope; the support takes the forces in its own axes"
            ),
        ),
        (
            abs(off) > INCH,
            f"axial force is taken through the {by}, {abs(off) / d:.2f} of the beam's depth off its middle",
        ),
        (situation.support_end, "the support ends here: it is checked as at a member's end"),
        (bool(situation.top_offset) and comes.kind != "girder", "top offset: not used at a column"),
        (
            situation.faced and support.shared and not support.landing.bolted,
            "a beam on the other side shares the web: both shears are on its base metal",
        ),
        (
            end.coped,
            f"the inner corners of copes are cut to a radius of {held(comes.radius, 'length')}"
            f" ({situation.code.clause('cope_corners')})",
        ),
        (
            any(n.endswith("hole") and str(s.value).startswith("LSL") for n, s in sizes.items()),
            "long slots in outer plies are covered by plate washers or a bar of"
            f" {held(5 / 16 * INCH, 'length')}"
            f" ({situation.code.clause('tightening')})",
        ),
        (
            situation.opposed and not support.shared,
            "a beam stands opposite: thrusts on both sides are checked on what lies between",
        ),
    )
    yield from (words for applies, words in tests if applies)
    yield from support.notes()


def _rows(sizes: Sizes, shop: Shop) -> list[tuple[int, Value]]:
    rows = int(length(sizes, "rows"))
    steps: list[tuple[int, Value]] = [(k, rows + k) for k in STEPS]
    return steps + [(k + 1, rows - k) for k in STEPS if rows - k >= 2]


def _fewer(sizes: Sizes, shop: Shop) -> list[Value]:
    rows = int(length(sizes, "rows"))
    return [rows - 1] if rows > 2 else []


ROWS, BOLT = Move("rows", _rows, less=_fewer), larger("bolt", next_size, before=size_before)
EDGE = more_of("beam_edge_distance", lambda shop: shop.place, odd=True)
FIRST = more_of("first_bolt", lambda shop: shop.place, odd=True)
