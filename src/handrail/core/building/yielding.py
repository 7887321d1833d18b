"""What a member's section yields at, component by component: a measure of forces before anything is designed, no
check."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building, Member

COMPONENTS = ("N", "V", "Vw", "T", "Mw", "M")  # of member-end forces in local axes: Fx, Fy, Fz, Mx, My, Mz


def yields(building: Building, member: Member) -> np.ndarray | None:
    """(6,) N and N*mm in the order of COMPONENTS, T without end; None where section or grade is not known."""
    s, g = building.section(member.section), building.grade(member.grade)
    if s is None or g is None:
        return None
    web = s.A / 2 if s.hollow else s.d * s.tw
    return np.array([s.A, 0.6 * web, 0.6 * max(s.A - web, s.A / 3), np.inf, max(s.Zy, 1.0), s.Zx]) * g.Fy
