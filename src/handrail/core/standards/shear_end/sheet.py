"""A shear end's sheet: elevation, plan and a section, each with letters as high as its room allows."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Scene, View, fitted
from handrail.core.standards.shear_end.elevation import Drawn, elevation
from handrail.core.standards.shear_end.layout import ShearEnd

ELEVATION, PLAN, SECTION = (54.0, 43.0), (54.0, 30.0), (27.0, 21.0)  # in heights of a letter
End = TypeVar("End", bound=ShearEnd)
Drawing = Callable[[End, Letter, str, float], View]  # (layout, letters, what titles say of the unit, their height)


def sheet(
    layout: End, drawn: Callable[[End, Letter], Drawn], plan: Drawing[End], section: Drawing[End], system: str
) -> Scene:
    """x from the support's face, y up from the beam's top of steel, mm; lettered in inches, or in mm where `system` is
    si (then the titles say so)."""
    letter, unit = lettering(system)
    return Scene(
        [
            fitted(lambda t: elevation(layout, drawn(layout, letter), letter, unit, t), *ELEVATION),
            fitted(lambda t: plan(layout, letter, unit, t), *PLAN),
            fitted(lambda t: section(layout, letter, unit, t), *SECTION),
        ]
    )
