"""What flows through a column's splice under each combination: each flange, contact, shear."""

from __future__ import annotations

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.standards.column_splice.layout import Layout
from handrail.core.standards.figures import Flow
from handrail.core.standards.sizes import Sizes


def figures(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Flow:
    """One connection's actions, (1, combinations). M > 0 pulls the flange on the plus side of the depth."""
    layout = Layout(situation, sizes)
    side = layout.flange(layout.pieces[0])
    if layout.faces:  # what presses goes through contact
        ties, plus = layout.faces.pulls(actions), layout.faces.footprint.xy[:, 0] > 0
        pulls = [ties[..., plus].sum(axis=-1), ties[..., ~plus].sum(axis=-1)]
        flanges, contact = [("plus flange", pulls[0]), ("minus flange", pulls[1])], actions.N - pulls[0] - pulls[1]
    else:
        lever = side.bolt_lever if layout.plated else layout.grooves.depth - layout.grooves.t
        bent, weak = actions.M / lever, (np.abs(actions.Mw) + np.abs(actions.Vw) * side.bolt_eccentricity) / side.gage
        flanges, contact = (
            [("plus flange", actions.N / 2 + bent + weak), ("minus flange", actions.N / 2 - bent + weak)],
            actions.N * 0.0,
        )
    where = "web plates, shear" if layout.webbed else "contact, shear"
    parts = [*flanges, ("contact", contact), (where, actions.V), ("flange bolts, shear", actions.Vw)]
    return Flow(tuple((name, tuple(float(v) for v in values[0])) for name, values in parts))
