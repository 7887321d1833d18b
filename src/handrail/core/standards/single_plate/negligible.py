"""How much a single plate lets through of what it does not carry."""

from __future__ import annotations

from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes, length
from handrail.core.standards.standard import Negligible


def negligible(situation: Situation, sizes: Sizes) -> dict[str, Negligible]:
    """By action. Nothing is let through for M at a hinge (0.1 % of the beam's yield moment is taken for the solver's
    noise); N along slots and Vw count from the smaller of the parameter and 5 % of the member's yield; Mw and T from 1 % of
    the weak-axis yield moment.
    """
    s, Fy = situation.supported.section, situation.supported.grade.Fy
    little = length(sizes, "negligible_force")
    weak = 0.01 * Fy * s.Sy
    return {
        "N": Negligible("force", min(little, 0.05 * Fy * s.A)),
        "Vw": Negligible("force", min(little, 0.05 * 0.6 * Fy * 2 * s.bf * s.tf)),
        "M": Negligible("moment", 0.001 * Fy * s.Sx),
        "Mw": Negligible("moment", weak),
        "T": Negligible("moment", weak),
    }
