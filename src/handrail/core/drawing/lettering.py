"""How lengths are lettered on a drawing."""

from __future__ import annotations

from collections.abc import Callable

from handrail.core.quantities.units import INCH, inches, worked

Letter = Callable[[float], str]


def lettering(system: str) -> tuple[Letter, str]:
    """How lengths are lettered, and what the titles then say: inches bare, mm named."""
    return (_inch, "") if system == "us" else (_millimetre, ", mm")


def spaced(letter: Letter, count: int, apart: float) -> str:
    """Holes in a row, from the first to the last: how many spaces of what, and what that is together."""
    whole = letter((count - 1) * apart)
    return f"{count - 1} @ {letter(apart)} = {whole}" if count > 2 else whole


def shopwise(letter: Letter, unit: str) -> Letter:
    """Lengths that geometry makes, to the workshop's rounding: 1/16 in., 1 mm where titles say so."""
    return lambda value: letter(worked(value, "si" if unit else "us"))


def _inch(value: float) -> str:
    text = inches(value / INCH)
    return f'{text}"' if text is not None else f'{value / INCH:.3f}"'


def _millimetre(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
