"""Bodies as triangles, for what draws them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from manifold3d import Manifold

from handrail.core.solids.axes import Vector

TENTH = 1  # decimals of mm


@dataclass(frozen=True)
class Mesh:
    """`points` x, y, z after each other, mm to a tenth; `faces` three of them each, by number, outside where they go
    round counter-clockwise."""

    points: tuple[float, ...]
    faces: tuple[int, ...]


def mesh(body: Manifold, origin: Vector) -> Mesh:
    """A body about an `origin`."""
    made = body.to_mesh()
    points = np.asarray(made.vert_properties, float)[:, :3] - np.array(origin)
    return Mesh(tuple((points.round(TENTH) + 0.0).ravel().tolist()), tuple(np.asarray(made.tri_verts).ravel().tolist()))
