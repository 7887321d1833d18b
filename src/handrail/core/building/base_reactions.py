"""What a support does to a column's foot where braces land on it too: the whole reaction, in the column's axes."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building


def braced(building: Building, node: int) -> bool:
    """Whether more than the column's own foot meets at a support."""
    return len(building.ends_at[node]) > 1


def support_reaction(building: Building, node: int) -> np.ndarray:
    """(results, 6) of the support on the frame, global axes: as given where it is, else what the members' ends there
    need (their forces less the node's loads); NaN where neither is known."""
    reaction = _needed(building, node)
    given = building.reactions.node == node
    reaction[building.reactions.result[given]] = building.reactions.values[given]
    return reaction


def _needed(building: Building, node: int) -> np.ndarray:
    total = np.zeros((len(building.results), 6))
    for member, end in building.ends_at[node]:
        axes, force = building.axes[member], building.forces[member, :, end]
        pushed, turned = force[:, :3] @ axes, force[:, 3:] @ axes
        if building.forces_at == "offset":
            m = building.members[member]
            lever = (-m.end_offset_j if end else m.end_offset_i) * axes[0]
            turned = turned + np.cross(lever, pushed)
        total += np.concatenate([pushed, turned], axis=1)
    loads = building.node_loads.node == node
    np.subtract.at(total, building.node_loads.result[loads], building.node_loads.values[loads])
    return total


def foot_forces(building: Building, member: int, end: int) -> np.ndarray:
    """(results, 6) on a column's foot in its own axes, as if all that the support carries came through it."""
    reaction, axes = support_reaction(building, building.members[member].node(end)), building.axes[member]
    return np.concatenate([reaction[:, :3] @ axes.T, reaction[:, 3:] @ axes.T], axis=1)
