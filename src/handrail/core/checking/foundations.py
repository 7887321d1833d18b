"""The foundation under a base as its column sees it: edges along the column's depth and across it."""

from __future__ import annotations

import math

import numpy as np

from handrail.core.building.end_actions import end_axes
from handrail.core.building.model import Building, upright
from handrail.core.joint.connection import Connection
from handrail.core.joint.situation import Foundation

SQUARE = math.radians(0.5)  # a column that stands within this of its foundation's edges stands square


def foundation_problem(building: Building, connection: Connection) -> str:
    """Why nothing can be said of a base on its foundation; empty where it can."""
    given = building.foundations.get(connection.node)
    member = building.members[connection.member]
    if not upright(building.xyz[[member.j]] - building.xyz[[member.i]])[0]:
        return "the column does not stand upright: bases of inclined columns are not implemented"
    if given is None or all(math.isinf(edge) for edge in given.edges):
        return ""  # no edge: it does not matter how it is turned
    turned = _turned(building, connection, given.turn)
    off = abs(turned - round(turned / (math.pi / 2)) * math.pi / 2)
    if off > SQUARE:
        return (
            f"the column stands {math.degrees(off):.1f} deg askew on its foundation's edges, which is not implemented:"
            " turn the foundation with it"
        )
    return ""


def _turned(building: Building, connection: Connection, turn: float) -> float:
    """From the foundation's x to the column's depth, rad about up."""
    along = building.axes[connection.member, 1]
    return math.atan2(along[1], along[0]) - turn


def under(building: Building, connection: Connection) -> Foundation | None:
    """The foundation in the column's axes, where one is given; of use only where nothing is wrong with it
    (`foundation_problem`)."""
    given = building.foundations.get(connection.node)
    if given is None:
        return None
    _, along, across = end_axes(building, np.array([connection.member]), np.array([connection.end]))[0]
    cos, sin = math.cos(given.turn), math.sin(given.turn)
    outward = np.array([[-cos, -sin, 0], [cos, sin, 0], [sin, -cos, 0], [-sin, cos, 0]])  # of the edges -x, +x, -y, +y

    def to(way: np.ndarray) -> float:
        """To the edge whose side is `way`, mm."""
        return round(given.edges[int((outward @ way).argmax())], 3)

    return Foundation(
        given.kind, given.fc, given.thickness, (to(-along), to(along)), (to(-across), to(across)), given.cracked
    )
