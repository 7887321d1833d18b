"""What flows through a beam's splice under each combination: each flange's force, the web plates' shear and their part
of N."""

from __future__ import annotations

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.standards.beam_splice.layout import Layout
from handrail.core.standards.figures import Flow
from handrail.core.standards.sizes import Sizes


def figures(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Flow:
    """One connection's actions, (1, combinations). M has the top flange in tension."""
    layout = Layout(situation, sizes)
    web = layout.web(layout.pieces[0])
    parts: list[tuple[str, np.ndarray]] = []
    if layout.flanged:
        side = layout.flange(layout.pieces[0])
        bent, own = layout.bent(actions).M / side.bolt_lever, actions.N * side.share
        parts += [("top flange", own + bent), ("bottom flange", own - bent)]
    parts += [("web plates, axial", actions.N * web.share), ("web plates, shear", actions.V)]
    return Flow(tuple((name, tuple(float(v) for v in values[0])) for name, values in parts))
