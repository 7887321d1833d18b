"""How a trial's base or splice works under each of its actions, as plain data: kN, MPa, by the names of anchors and
parts."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.standards import Standard
from handrail.core.standards.figures import Bearing, Flow
from handrail.core.standards.sizes import Sizes

DIGITS = 4


def works(
    standard: Standard, situation: Situation, sizes: Sizes, code: Code, actions: Actions, places: tuple[str, ...]
) -> list[dict[str, Any]]:
    """One entry an action, of every place; nothing where the standard has nothing to show."""
    if standard.figures is None:
        return []
    works = []
    table = np.atleast_2d(actions.N)
    for place in range(len(table)):
        one = actions.rows(np.array([place])) if actions.N.ndim > 1 else _row(actions)
        shown = standard.figures(situation, sizes, code, one)
        for k, name in enumerate(actions.names):
            where = {"place": places[place]} if places else {}
            works.append(
                where | {"action": name, "method": actions.sets[k][0] if actions.sets else code.method} | _of(shown, k)
            )
    return works


def _row(actions: Actions) -> Actions:
    parts = {name: getattr(actions, name)[None] for name in ("N", "V", "Vw", "M", "Mw", "T")}
    return replace(actions, **parts)


def _of(shown: Bearing | Flow, k: int) -> dict[str, Any]:
    if isinstance(shown, Flow):
        return {"parts": {name: round(values[k] * 1e-3, DIGITS) for name, values in shown.parts}}
    at = shown.states[k]
    return {
        "bearing_by": at.by if at.solved else "nothing balances",
        "pressure": round(at.pressure, DIGITS),
        "pulls": {n: _each(v) for n, v in zip(shown.names, at.pulls, strict=True)},
        "shears": {n: _each(v) for n, v in zip(shown.names, at.shears, strict=True)},
    }


def _each(value: float) -> float | None:
    """kN of one anchor; None where it is not known."""
    return None if np.isnan(value) else round(value * 1e-3, DIGITS)
