"""Bodies as triangles, for what draws them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from manifold3d import Manifold

from handrail.core.solids.axes import Vector

FINE = 2  # decimals of mm: a sixteenth of an inch is still one


@dataclass(frozen=True)
class Mesh:
    """`points` x, y, z after each other, mm to a hundredth; `faces` three of them each, by number, seen from outside
    counter-clockwise."""

    points: tuple[float, ...]
    faces: tuple[int, ...]


def mesh(body: Manifold, origin: Vector) -> Mesh:
    """A body about an `origin`."""
    made = body.to_mesh()
    points = np.asarray(made.vert_properties, float)[:, :3] - np.array(origin)
    return Mesh(tuple((points.round(FINE) + 0.0).ravel().tolist()), tuple(np.asarray(made.tri_verts).ravel().tolist()))
