"""What pieces look like however they lie: two that can be turned to be one have one shape; what only a mirror makes one
has two."""

from __future__ import annotations

from functools import lru_cache
from itertools import permutations, product
from typing import Any

import numpy as np

from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, Vector, dot
from handrail.core.solids.pieces import Bar, Piece, Plate, Solids

STEP = 1.0  # mm within which places are the same: what the shop cannot tell
FINE = 0.1  # mm, of holes' sizes
PARTS = 1e3  # of a unit vector
JUST = 1e-3  # of a step: what lies on the border of two is in the lower one, whichever way it is off by rounding
Shape = tuple[Any, ...]


def _ways(hand: int) -> np.ndarray:
    """(24, 3, 3) ways to lay a box on its sides; -1 for its mirror image's."""
    found = []
    for order, signs in product(permutations(range(3)), product((1, -1), repeat=3)):
        way = np.zeros((3, 3), int)
        way[range(3), order] = signs
        if np.linalg.det(way) * hand > 0:
            found.append(way)
    return np.array(found)


LAID = {1: _ways(1), -1: _ways(-1)}


def shapes(solids: Solids, mirrored: bool = False) -> Shape:
    """Of every piece that a connection brings, in an order that says nothing; `mirrored` as the other hand has them."""
    return tuple(sorted(shape(piece, mirrored) for piece in solids.pieces))


@lru_cache(maxsize=8192)
def shape(piece: Piece, mirrored: bool = False) -> Shape:
    """What it is made of, its corners and its holes: equal for pieces of which one can be turned to be the other, by
    quarters about its own axes; of its mirror image where it is `mirrored`."""
    of = (piece.section, piece.grade) if isinstance(piece, Bar) else ("plate", piece.grade)
    corners = np.asarray(bodies.uncut(piece).to_mesh().vert_properties, float)[:, :3]
    places = _steps(_seen(corners, piece.axes) - (middle := _middle(corners, piece.axes)))
    rows = np.zeros((len(places), 4, 3), int)
    rows[:, 0] = places
    rows = np.concatenate([np.unique(rows, axis=0), _drilled(piece, middle)])
    return (*of, min(_in_order(rows @ way.T) for way in LAID[-1 if mirrored else 1]))


def _middle(corners: np.ndarray, axes: Axes) -> np.ndarray:
    """Of the box around the piece, in its own axes."""
    seen = _seen(corners, axes)
    return np.asarray((seen.min(axis=0) + seen.max(axis=0)) / 2)


def _in_order(rows: np.ndarray) -> bytes:
    """What each is and where, in one order however they came."""
    rows = rows.copy()
    for lines in (rows[:, 1], rows[:, 2]):  # whichever way along them
        first = np.take_along_axis(lines, (lines != 0).argmax(axis=1)[:, None], axis=1)
        lines *= np.where(first < 0, -1, 1)
    rows[:, 3] = np.sort(np.abs(rows[:, 3]), axis=1)  # sizes have no direction
    flat = rows.reshape(len(rows), -1)
    return flat[np.lexsort(flat.T)].astype(np.int32).tobytes()


def _drilled(piece: Piece, middle: np.ndarray) -> np.ndarray:
    """Of each hole its middle, the directions of its axis and of a slot, and its sizes: (n, 4, 3)."""
    rows = np.zeros((len(holes := _holes(piece)), 4, 3), int)
    for row, (at, axis, along, d, long) in zip(rows, holes, strict=True):
        row[0] = _steps(np.array(at) - middle)
        row[1] = np.round(np.array(axis) * PARTS)
        row[2] = np.round(np.array(along) * PARTS) if long else 0
        row[3] = np.round(np.array([d, long, 0.0]) / FINE)
    return rows


Drilled = tuple[Vector, Vector, Vector, float, float]  # middle, axis, slot's direction, width, length or nothing


def _holes(piece: Piece) -> list[Drilled]:
    """In its own axes."""
    if isinstance(piece, Plate):
        return [
            ((h.x, h.y, piece.thickness / 2), (0.0, 0.0, 1.0), (np.cos(h.turned), np.sin(h.turned), 0.0), h.d, h.long)
            for h in piece.holes
        ]
    own = piece.axes
    return [
        (own.seen(b.axes.at(z=b.deep / 2)), _direction(own, b.axes.z), _direction(own, b.axes.x), b.d, b.long)
        for b in piece.bores
    ]


def _direction(axes: Axes, way: Vector) -> Vector:
    return dot(axes.x, way), dot(axes.y, way), dot(axes.z, way)


def _seen(points: np.ndarray, axes: Axes) -> np.ndarray:
    """Places of the holding axes in these, (n, 3) mm."""
    return np.asarray((points - np.array(axes.origin)) @ np.array([axes.x, axes.y, axes.z]).T)


def _steps(values: np.ndarray) -> np.ndarray:
    """In whole steps, the same to either side."""
    return np.asarray((np.sign(values) * np.floor(np.abs(values) / STEP + 0.5 - JUST)).astype(int))
