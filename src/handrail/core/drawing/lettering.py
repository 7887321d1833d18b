"""How lengths are lettered on a drawing."""

from __future__ import annotations

from collections.abc import Callable

from handrail.core.quantities.units import INCH, inches

Letter = Callable[[float], str]


def lettering(system: str) -> tuple[Letter, str]:
    """How lengths are lettered, and what the titles then say: inches bare, mm named."""
    return (_inch, "") if system == "us" else (_millimetre, ", mm")


def _inch(value: float) -> str:
    text = inches(value / INCH)
    return f'{text}"' if text is not None else f'{value / INCH:.3f}"'


def _millimetre(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
