"""Both sides of a support for a wrench on its bolts: what stands near them there."""

from __future__ import annotations

import math

from handrail.core.joint.situation import Situation
from handrail.core.parts.wrench import Side
from handrail.core.standards.shear_end.parameters import KINDS


def sides(
    situation: Situation, offset: float, past: float, across: float, above: float = math.inf, below: float = math.inf
) -> tuple[Side, Side]:
    """(the beam's side, the far one) of bolts `offset` mm from the support's middle. `past` is clear to what the beam
    has there, `across` to what the beam opposite has; `above` and `below` to a girder's flanges."""
    kind, s = KINDS[situation.framing], situation.carrier.section
    if kind == "flange":
        return Side(past), Side(max(offset - s.tw / 2, 0.0), s.d - 2 * s.tf)
    within = s.d / 2 - s.tf - offset if kind == "web" else min(above, below)
    return Side(min(past, within)), Side(min(across if situation.opposed else math.inf, within))
