"""What a base stands on: as the model gives it, or as practice, a rule or a person says, size by size; the later is the
stronger."""

from __future__ import annotations

import math
from dataclasses import replace

from handrail.core.catalogue.lateral import SHAKEN
from handrail.core.joint.situation import Foundation, Situation
from handrail.core.standards.sizes import GROUND, Parameter, Sizes, length, text

MODELLED = "as_modelled"
EDGES = {"along": ("minus", "plus"), "across": ("minus", "plus")}
PARAMETERS = (
    Parameter(
        GROUND,
        "foundation_kind",
        "choice",
        "Foundation",
        "What the base stands on, where the model does not say or another is built",
        MODELLED,
        (MODELLED, "pedestal", "footing", "slab"),
        uses=("foundation.kind",),
    ),
    Parameter(
        GROUND,
        "foundation_fc",
        "stress",
        "Foundation's concrete",
        "fc'; 0 as modelled",
        "0 ksi",
        low=0,
        high=120,
        uses=("foundation.fc",),
    ),
    Parameter(
        GROUND,
        "foundation_thickness",
        "length",
        "Foundation's thickness",
        "0 as modelled",
        "0 in",
        low=0,
        high=20_000,
        uses=("foundation.thickness",),
    ),
    Parameter(
        GROUND,
        "foundation_minus_along",
        "length",
        "Edge, minus along",
        "From the column's middle to the concrete's edge on the minus side of its depth; 0 as modelled",
        "0 in",
        low=0,
        high=50_000,
        uses=("foundation.minus_along",),
    ),
    Parameter(
        GROUND,
        "foundation_plus_along",
        "length",
        "Edge, plus along",
        "On the plus side of its depth; 0 as modelled",
        "0 in",
        low=0,
        high=50_000,
        uses=("foundation.plus_along",),
    ),
    Parameter(
        GROUND,
        "foundation_minus_across",
        "length",
        "Edge, minus across",
        "On the minus side across; 0 as modelled",
        "0 in",
        low=0,
        high=50_000,
        uses=("foundation.minus_across",),
    ),
    Parameter(
        GROUND,
        "foundation_plus_across",
        "length",
        "Edge, plus across",
        "On the plus side across; 0 as modelled",
        "0 in",
        low=0,
        high=50_000,
        uses=("foundation.plus_across",),
    ),
    Parameter(
        GROUND,
        "foundation_wider",
        "length",
        "Wider on each side",
        "Than it is otherwise said, every edge that is near",
        "0 in",
        low=0,
        high=5000,
        uses=("foundation.wider",),
    ),
    Parameter(
        GROUND,
        "foundation_cracked",
        "choice",
        "Cracked",
        "Whether the concrete cracks about the anchors",
        MODELLED,
        (MODELLED, "cracked", "uncracked"),
        uses=("foundation.cracked",),
    ),
    Parameter(
        GROUND,
        "foundation_lambda",
        "number",
        "Lightweight factor",
        "lambda of lightweight concrete, 0.75 of the lightest",
        "1",
        low=0.75,
        high=1,
        uses=("foundation.lambda",),
    ),
)


def foundation(situation: Situation, sizes: Sizes) -> Foundation | None:
    """What the base stands on; None where its kind, concrete or thickness is said nowhere."""
    given = situation.foundation or Foundation("", 0.0, 0.0)
    kind, cracked = text(sizes, "foundation_kind"), text(sizes, "foundation_cracked")
    edges = {
        way: tuple(
            length(sizes, f"foundation_{side}_{way}") or own
            for side, own in zip(sides, getattr(given, way), strict=True)
        )
        for way, sides in EDGES.items()
    }
    wider = length(sizes, "foundation_wider")
    along, across = ((a + wider, b + wider) for a, b in (edges["along"], edges["across"]))
    ground = replace(
        given,
        kind=given.kind if kind == MODELLED else kind,
        fc=length(sizes, "foundation_fc") or given.fc,
        along=along,
        across=across,
        thickness=length(sizes, "foundation_thickness") or given.thickness,
        cracked=given.cracked if cracked == MODELLED else cracked == "cracked",
        light=length(sizes, "foundation_lambda"),
    )
    if shaken(situation) and sizes["foundation_cracked"].source not in ("override", "given"):
        ground = replace(ground, cracked=True)
    return ground if ground.kind and ground.fc > 0 and ground.thickness > 0 else None


def shaken(situation: Situation) -> bool:
    """Whether an earthquake may act on the base: of a system made for it, or of a structure in the categories C to
    F."""
    return situation.seismic or situation.category in SHAKEN


def said(situation: Situation, sizes: Sizes) -> str:
    """Where what it stands on is from, in words; empty where all of it is the model's."""
    own = [p.name for p in PARAMETERS if p.name in sizes and sizes[p.name].source != "default"]
    if not own:
        return ""
    sources = dict.fromkeys(sizes[name].source for name in own)
    rest = " the rest by the model" if situation.foundation and len(own) < len(PARAMETERS) - 1 else " not by the model"
    return (
        f"what it stands on is said by {', '.join(sources)}"
        f" ({', '.join(n.removeprefix('foundation_') for n in own)});{rest}"
    )


def lacks(situation: Situation, sizes: Sizes) -> str:
    """Why nothing can be said of the base on what it stands on; empty where it can."""
    ground = foundation(situation, sizes)
    if ground is None:
        return (
            "no foundation is known under this base: give its kind, concrete and thickness in the model's table"
            " foundations, or by practice, rule or decision (foundation_kind, foundation_fc, foundation_thickness)"
        )
    if ground.kind == "pedestal" and not all(math.isfinite(e) for e in (*ground.along, *ground.across)):
        return "a pedestal has an edge on every side, and not all of them are given: give each"
    return ""
