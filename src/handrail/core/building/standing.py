"""Where a connection's own axes stand in its building."""

from __future__ import annotations

import numpy as np

from handrail.core.building.joint import SHEAR_ENDS
from handrail.core.building.model import Building
from handrail.core.building.pieces import outward
from handrail.core.joint.connection import Connection
from handrail.core.solids.axes import Axes

UP = np.array([0.0, 0.0, 1.0])
HAIR = 1e-6
STANDING = (*SHEAR_ENDS, "beam_splice", "column_splice", "column_base")


def stands(building: Building, connection: Connection) -> tuple[Axes, bool] | None:
    """(its axes in the building's, whether what is drawn in them is of the other hand); None where its framing has
    none."""
    if connection.framing in SHEAR_ENDS:
        return _at_support(building, connection)
    member, node = connection.member, building.xyz[connection.node]
    if connection.framing == "beam_splice":
        x = _level(outward(building, (member, connection.end)))
        return _axes(node - building.members[member].top_offset * UP, x), False
    if connection.framing in ("column_splice", "column_base"):
        return _axes(node, _level(building.axes[member, 1])), False
    return None


def _at_support(building: Building, connection: Connection) -> tuple[Axes, bool] | None:
    """Where the beam's line comes through the face of what it meets; the origin at its top of steel."""
    assert connection.support is not None
    member, way = connection.member, outward(building, (connection.member, connection.end))
    section = building.section(building.members[connection.support].section)
    if section is None:
        return None
    axes, framing = building.axes[connection.support], connection.framing
    if framing == "beam_to_girder":
        x, off = _square_to(axes[0]), section.tw / 2
    elif framing == "beam_to_column_flange" or (section.hollow and not section.round and _on_depth(way, axes)):
        x, off = axes[1], section.d / 2
    elif section.round:
        x, off = way, section.d / 2
    else:
        x, off = axes[2], (section.bf if section.hollow else section.tw) / 2
    x = _level(x) * (1.0 if way @ _level(x) >= 0 else -1.0)
    y = _square_to(x)
    aside = float(way @ y) / max(float(way @ x), HAIR)
    origin = building.xyz[connection.node] + off * x + off * aside * y - building.members[member].top_offset * UP
    skewed = bool(connection.pieces[0].skew)  # as far as anybody says so: what is square has one hand
    return _axes(origin, x), skewed and bool(way @ y < -HAIR)


def _on_depth(way: np.ndarray, axes: np.ndarray) -> bool:
    return abs(float(way @ axes[1])) >= abs(float(way @ axes[2]))


def _level(way: np.ndarray) -> np.ndarray:
    """A direction in plan, of length one."""
    flat = np.array([way[0], way[1], 0.0])
    return flat / max(float(np.hypot(way[0], way[1])), HAIR)


def _square_to(way: np.ndarray) -> np.ndarray:
    """A direction in plan to the left of another one."""
    return np.array([-way[1], way[0], 0.0])


def _axes(origin: np.ndarray, x: np.ndarray) -> Axes:
    y = _square_to(x)
    return Axes(
        (float(origin[0]), float(origin[1]), float(origin[2])),
        (float(x[0]), float(x[1]), float(x[2])),
        (float(y[0]), float(y[1]), float(y[2])),
    )
