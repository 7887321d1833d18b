"""What a base shows under each combination: the pressed part of its plate, what its rods pull and shear."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.parts.anchors.surfaces import surfaces
from handrail.core.parts.bearing.zones import zone
from handrail.core.standards.base_plate.layout import Layout
from handrail.core.standards.figures import Bearing, Breaks, Pressed
from handrail.core.standards.sizes import Sizes


def _breaks(layout: Layout, pulls: np.ndarray, shears: np.ndarray, quake: bool) -> Iterator[Breaks]:
    """Of one combination."""
    for s in surfaces(layout.group, np.nan_to_num(pulls), np.nan_to_num(shears, posinf=0.0, neginf=0.0), quake):
        bars = (
            layout.pull_bars is not None
            if s.kind == "tension"
            else layout.shear_bars is not None and s.side in layout.shear_bars.towards
        )
        yield Breaks(
            kind=s.kind,
            rods=tuple(layout.placed.names[k] for k in s.rods),
            side=s.side,
            lines=s.lines,
            use=s.use,
            barred=bars,
        )


def figures(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Bearing:
    """One connection's actions, (1, combinations); those of another method rest on concrete at its limit by that
    one."""
    layout = Layout(situation, sizes)
    sheared = (
        layout.anchorage(code).shared(actions)
        if layout.path == "anchors"
        else np.zeros((*actions.V.shape, layout.group.n, 2))
    )
    shears = np.linalg.norm(sheared, axis=-1)
    blocks = []
    for k in range(actions.V.shape[-1]):
        own = code.by(actions.sets[k][0]) if actions.sets else code
        rest = layout.seat(own).rest(actions)
        at = (0, k)
        solved = bool(np.isfinite(rest.use[at]))
        blocks.append(
            Pressed(
                by="strain" if rest.by_strain[at] else "block",
                solved=solved,
                zone=tuple(zone(layout.footprint, rest, at)) if solved else (),
                pressure=float(rest.pressure[at]) if solved else 0.0,
                pulls=tuple(float(v) for v in rest.tensions[at]),
                shears=tuple(float(v) for v in shears[at]),
                breaks=tuple(_breaks(layout, rest.tensions[at], sheared[at], bool(actions.shaken[k]))),
            )
        )
    return Bearing(layout.placed.names, layout.placed.points, tuple(blocks))
