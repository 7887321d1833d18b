"""What holds a column before it is plumbed: 300 lb at 18 in. off its outermost face, each way (OSHA 1926.755(a)(2),
1926.756(d))."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Section
from handrail.core.codes.family import Code
from handrail.core.limit_state import NOT_A_NUMBER, LimitState, Under
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH, KIP

LOAD, REACH = 0.300 * KIP, 18 * INCH
BASE, SPLICE = "erection_of_base", "erection_of_splice"
APART = ("friction", "bearing", "concrete_bearing")


def erection(states: list[LimitState], section: Section, code: Code, part: str, of: str) -> LimitState:
    """One limit of `part` by what is asked `of` it, BASE or SPLICE: the highest utilisation of `states` under the load
    at each face, with no other load on the column."""
    highest: list[tuple[float, str]] = []

    def worst() -> tuple[float, str]:
        if not highest:
            under = cache(
                lambda factor: _loads(section, factor)
            )  # the same for all, so that a base is rested on it once
            uses = [
                (float(np.max(state.utilisation(under(_factor(state, code))))), state.check)
                for state in states
                if state.check not in APART
            ]
            highest.append(max(uses, key=lambda use: np.nan_to_num(use[0], nan=np.inf)))
        return highest[0]

    def evaluate(actions: Actions, t: Trace) -> tuple[np.ndarray, float]:
        use, check = worst()
        if t.on:
            t("P", "at each face", LOAD, code.clause(of), kind="force")
            t("M", "P (reach + d/2)", LOAD * (REACH + section.d / 2), kind="moment", d=section.d)
        most = t("use", f"highest by {check}, load x 1.6 for LRFD", use, kind="number")
        return np.full(actions.V.shape, most) + actions.V * 0.0, 1.0

    reasons = dict.fromkeys(state.unknown for state in states if state.unknown != NOT_A_NUMBER)
    unknown = " ".join(reasons) or NOT_A_NUMBER
    return replace(
        Under(code, part).state("erection", "number", evaluate, limit=True, unknown=unknown, of=of), method=""
    )


def _factor(state: LimitState, code: Code) -> float:
    """Of a live load, by the method that judges the limit state."""
    return code.situations.live(state.method or code.situations.concrete)


def _loads(section: Section, factor: float) -> Actions:
    """The load times `factor` at each of the four faces."""
    load = LOAD * factor
    wide = section.d if section.round else section.bf
    along, across = load * (REACH + section.d / 2), load * (REACH + wide / 2)
    table = np.zeros((1, 4, 6))
    table[0, :, 3], table[0, :, 4] = (along, -along, 0, 0), (0, 0, across, -across)
    table[..., 0] = -load
    return Actions.of(table)
