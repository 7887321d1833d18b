"""How far something is that takes longer than a moment."""

from __future__ import annotations

from collections.abc import Callable

Progress = Callable[[int, int], None]  # told (steps done, of how many); what it raises ends the work


def quiet(done: int, total: int) -> None:
    """Nobody asks how far it is."""
