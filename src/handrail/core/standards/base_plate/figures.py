"""What a base shows under each combination: the pressed part of its plate, what its rods pull and shear."""

from __future__ import annotations

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.aisc360 import Code
from handrail.core.parts.bearing.zones import zone
from handrail.core.standards.base_plate.layout import Layout
from handrail.core.standards.figures import Bearing, Pressed
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes


def figures(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Bearing:
    """One connection's actions, (1, combinations); those of another method rest on concrete at its limit by that one."""
    layout = Layout(situation, sizes)
    sheared = layout.anchorage().shared(actions) if layout.path == "anchors" else np.zeros((*actions.V.shape, layout.group.n, 2))
    shears = np.linalg.norm(sheared, axis=-1)
    found = []
    for k in range(actions.V.shape[-1]):
        own = Code(code.edition, actions.sets[k][0]) if actions.sets else code
        rest = layout.seat(own).rest(actions)
        at = (0, k)
        solved = bool(np.isfinite(rest.use[at]))
        found.append(Pressed("strain" if rest.by_strain[at] else "block", solved, tuple(zone(layout.footprint, rest, at)) if solved else (),
                             float(rest.pressure[at]) if solved else 0.0, tuple(float(v) for v in rest.tensions[at]),
                             tuple(float(v) for v in shears[at])))  # fmt: skip
    return Bearing(layout.placed.names, layout.placed.points, tuple(found))
