"""What a connection is made of, counted from its solids."""

from __future__ import annotations

from collections import defaultdict

from handrail.core.solids.pieces import Piece, Plate, Solids

STEEL = 7.85e-6  # kg/mm^3


def weight(piece: Piece) -> float:
    """kg of a plate or a bar as it is bought: holes, bevels and notches not taken off."""
    return piece.area * piece.thickness * STEEL if isinstance(piece, Plate) else piece.mass * piece.length / 1000


def steel(solids: Solids) -> float:
    """kg of all pieces that the connection brings."""
    return sum(weight(piece) for piece in solids.pieces)


def bolts(solids: Solids, field: bool) -> int:
    """How many are put in at the site, or in the shop."""
    return sum(bolt.field is field for bolt in solids.bolts)


def fillets(solids: Solids) -> dict[tuple[float, bool], float]:
    """(leg mm, whether at the site) -> length of fillets, mm."""
    found: dict[tuple[float, bool], float] = defaultdict(float)
    for weld in solids.welds:
        if weld.kind != "fillet":
            continue
        found[round(weld.size, 6), weld.field] += weld.length
    return dict(found)
