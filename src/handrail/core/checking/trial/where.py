"""Where a trial's connection sits: its pieces, its foundation, what stands opposite."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.catalogue.lateral import DETAILED, KINDS
from handrail.core.checking.trial.entries import choice, flag, known, mapping, need, parsed, quantity
from handrail.core.checking.trial.pieces import read_pieces
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.relations import OPPOSITE
from handrail.core.joint.situation import SUPPORT, SUPPORTED, Foundation, Situation
from handrail.core.standards import Standard

COLUMNS = ("column_base", "column_splice")
LATERAL = {"seismic", "lateral", "category"}
SHEAR_END = {"skew", "slope", "top_offset", "opposed", "support_end", "face"} | LATERAL
GEOMETRY: dict[str, set[str]] = {"column_base": {"fixity", "braced", "storey"} | LATERAL, "beam_splice": set(),
                                "column_splice": {"above_floor", "storey", "clear"} | LATERAL}  # fmt: skip


def read_situation(data: Mapping[str, Any], chosen: Standard, table: np.ndarray, code: Code) -> Situation:
    """Pieces, foundation and geometry; `table` (..., 9) of the actions tells whether a beam stands opposite."""
    framing = str(need(data, "framing", f"one of {', '.join(chosen.framings)}"))
    if framing not in chosen.framings:
        raise InputError(f"framing: {chosen.name} goes with {', '.join(chosen.framings)}, not '{framing}'")
    geometry = mapping(data.get("geometry"), "geometry")
    known(geometry, GEOMETRY.get(framing, SHEAR_END), "geometry")
    roles = (SUPPORTED,) if framing == "column_base" else (SUPPORTED, SUPPORT)
    if "foundation" in data and (framing != "column_base" or "support" in data):
        raise InputError("foundation: it goes with framing column_base, instead of a support")
    said = "foundation_kind" in mapping(data.get("parameters"), "parameters")
    if framing == "column_base" and "foundation" not in data and not said:
        raise InputError(
            "foundation is missing: a base stands on one; give {kind: pedestal, fc: 4 ksi, thickness: 24 in, edges:"
            " ...}"
        )
    pieces = read_pieces(data, geometry, roles, framing not in GEOMETRY)
    support = pieces[-1].steel if SUPPORT in roles else None
    if (
        support is not None
        and framing != "column_splice"
        and support.section.hollow != (framing == "beam_to_hollow_column")
    ):
        raise InputError(f"support: {support.section.name} does not go with {framing}")
    detailed = _detailed(geometry)
    heights: dict[str, Any] = {
        name: quantity(geometry, name, "length") for name in ("above_floor", "storey", "clear") if name in geometry
    }
    return Situation(
        framing,
        pieces,
        (OPPOSITE,) if _opposed(geometry, table) else (),
        read_foundation(data["foundation"]) if "foundation" in data else None,
        code=code,
        seismic=detailed and framing in COLUMNS,
        detailed=detailed,
        lateral=choice(geometry, "lateral", tuple(KINDS), "geometry"),
        category=choice(geometry, "category", tuple("abcdef"), "geometry").upper(),
        fixity=choice(geometry, "fixity", ("pinned", "fixed"), "geometry"),
        braced=bool(flag(geometry, "braced")),
        **heights,
    )


def _detailed(geometry: Mapping[str, Any]) -> bool:
    """Whether AISC 341 applies: by the kind of its system where that is stated."""
    said, kind = flag(geometry, "seismic"), choice(geometry, "lateral", tuple(KINDS), "geometry")
    if kind and said is not None and bool(said) != (kind in DETAILED):
        raise InputError(f"geometry.seismic does not agree with geometry.lateral ({kind}): leave it out")
    return kind in DETAILED if kind else bool(said)


def _opposed(geometry: Mapping[str, Any], table: np.ndarray) -> bool:
    """Whether a beam stands opposite: as said, or because its forces are given."""
    said = flag(geometry, "opposed")
    given = not np.isnan(table[..., len(COMPONENTS) : len(COMPONENTS) + 2]).all()
    if given and said is False:
        raise InputError(
            "geometry.opposed is false, but the actions give V_opposed or N_opposed: leave out one of the two"
        )
    return bool(said) or given


def read_foundation(raw: Any) -> Foundation:
    """What a base stands on: kind, fc, thickness, edges, cracked. Raises InputError that names the entry."""
    entry = mapping(raw, "foundation")
    known(entry, {"kind", "fc", "thickness", "edges", "cracked"}, "foundation")
    kind = str(need(entry, "kind", "pedestal, footing or slab"))
    if kind not in ("pedestal", "footing", "slab"):
        raise InputError(f"foundation.kind: '{kind}' is none of pedestal, footing, slab")
    sizes = {name: quantity(entry, name, of, "foundation") for name, of in (("fc", "stress"), ("thickness", "length"))}
    if low := [name for name, value in sizes.items() if value <= 0]:
        raise InputError(f"foundation.{low[0]}: give one above 0")
    edges = mapping(entry.get("edges", {}), "foundation.edges")
    known(edges, {"along", "across"}, "foundation.edges")
    cracked = entry.get("cracked", True)
    if not isinstance(cracked, bool):
        raise InputError(f"foundation.cracked: write true or false, not {cracked!r}")
    return Foundation(kind, sizes["fc"], sizes["thickness"], _pair(edges, "along"), _pair(edges, "across"), cracked)


def _pair(edges: Mapping[str, Any], name: str) -> tuple[float, float]:
    """Distances to the minus and the plus edge; without end where they are left out."""
    given = edges.get(name)
    if given is None:
        return (np.inf, np.inf)
    if not isinstance(given, list) or len(given) != 2:
        raise InputError(f"foundation.edges.{name}: give the minus and the plus side, like [12 in, 20 in]")
    pair = tuple(np.inf if v is None else parsed(v, "length", f"foundation.edges.{name}") for v in given)
    if min(pair) <= 0:
        raise InputError(f"foundation.edges.{name}: an edge is some way off the column's centre, above 0")
    return pair[0], pair[1]
