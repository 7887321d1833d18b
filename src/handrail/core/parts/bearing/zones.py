"""The part of a plate that is pressed, as a polygon."""

from __future__ import annotations

import numpy as np

from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.bearing.seat import ALONG, Rest

Polygon = list[tuple[float, float]]


def zone(plate: Footprint, rest: Rest, at: tuple[int, ...]) -> Polygon:
    """Of one of the solutions in `rest`, mm from the plate's centre; empty where nothing presses."""
    half, wide = plate.length / 2, plate.width / 2
    corners = [(-half, -wide), (half, -wide), (half, wide), (-half, wide)]
    if rest.by_strain[at]:
        return _clipped(corners, rest.plane[at])
    deep, sign = float(rest.depth[at]), float(rest.sign[at])
    if deep <= 0:
        return []
    axis, far = (0, half) if rest.axis[at] == ALONG else (1, wide)
    plane = np.zeros(3)
    plane[0], plane[1 + axis] = deep - far, sign
    return _clipped(corners, plane)


def _clipped(corners: Polygon, plane: np.ndarray) -> Polygon:
    """The part of the corners' polygon where u0 + ux x + uy y is above 0."""
    value = [float(plane[0] + plane[1] * x + plane[2] * y) for x, y in corners]
    inside: Polygon = []
    for k, (p, a) in enumerate(zip(corners, value, strict=True)):
        q, b = corners[(k + 1) % 4], value[(k + 1) % 4]
        if a > 0:
            inside.append(p)
        if (a > 0) != (b > 0):
            part = a / (a - b)
            inside.append((p[0] + part * (q[0] - p[0]), p[1] + part * (q[1] - p[1])))
    return inside
