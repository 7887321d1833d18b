"""One sized connection checked for all its combinations."""

from __future__ import annotations

import numpy as np

from handrail.core.catalogue import Grade, Section
from handrail.core.checking.result import Check, Result
from handrail.core.checking.trace import NULL, Trace
from handrail.core.codes.aisc360 import Code
from handrail.core.standards.base import LimitState, Sizes, Standard
from handrail.core.standards.situation import Actions, Situation


def check(standard: Standard, situation: Situation, sizes: Sizes, code: Code, actions: Actions, tracing: bool = False) -> Result:
    """Check one connection; `actions` (combinations,) or (places, combinations), with their names.

    Passes when every utilisation is at most 1 and every detailing rule holds; `unchecked` says why where
    the standard cannot judge it.
    """
    found = standard.examine(situation, sizes, code)
    notes = tuple(found.notes)
    if found.unchecked:
        return Result("unchecked", 0.0, None, (), tuple(found.detailing), tuple(found.unchecked), notes, sizes)
    if actions.V.size == 0:
        return Result("unchecked", 0.0, None, (), tuple(found.detailing), ("no forces",), notes, sizes)
    states = [*standard.strengths(situation, sizes, code, tracing), *uncarried(standard, situation, sizes)]
    checks = tuple(worst(state, actions, tracing) for state in states)
    governing = max(checks, key=lambda c: c.counts)
    sound = all(rule.ok for rule in found.detailing)
    status = "pass" if sound and governing.counts <= 1 else "fail"
    return Result(status, governing.counts, governing, checks, tuple(found.detailing), (), notes, sizes)


def worst(state: LimitState, actions: Actions, tracing: bool) -> Check:
    """The limit state at the combination where its utilisation is largest."""
    ratio = state.utilisation(actions)
    index = np.unravel_index(int(np.argmax(ratio)), ratio.shape)
    return at(state, actions, tuple(int(i) for i in index), tracing)


def at(state: LimitState, actions: Actions, index: tuple[int, ...], tracing: bool) -> Check:
    """The limit state at one combination."""
    one = actions.at(index)
    trace = Trace() if tracing else NULL
    demand, strength = (float(np.ravel(v)[0]) for v in state.evaluate(one, trace))
    strength = max(strength, 0.0)
    use = 0.0 if demand == 0 else demand / strength if strength > 0 else float("inf")
    return Check(state.check, state.part, state.clause, state.kind, demand, strength, use, one.names[0] if one.names else "",
                 state.limit, index[0] if len(index) > 1 else 0, (*state.lines, *trace.lines))  # fmt: skip


def uncarried(standard: Standard, situation: Situation, sizes: Sizes) -> list[LimitState]:
    """An action that the standard does not carry, and that is not negligible, fails by name.

    Nothing is let through for M at a hinge (0.1 % of the beam's yield moment is taken for the solver's
    noise); Vw counts from the smaller of the parameter and 5 % of the member's yield in shear of its
    flanges; Mw and T from 1 % of the weak-axis yield moment.
    """
    section, grade = situation.supported, situation.supported_grade
    little = float(sizes["negligible_force"].value)
    flanges = 0.6 * grade.Fy * 2 * section.bf * section.tf
    weak = 0.01 * grade.Fy * section.Sy
    limits = {
        "N": ("force", min(little, 0.05 * grade.Fy * section.A)),
        "V": ("force", little),
        "Vw": ("force", min(little, 0.05 * flanges) if flanges else little),
        "M": ("moment", 0.001 * grade.Fy * section.Sx),
        "Mw": ("moment", weak),
        "T": ("moment", weak),
    }
    return [_uncarried(name, kind, limit) for name, (kind, limit) in limits.items() if name not in standard.carries]


def _uncarried(name: str, kind: str, threshold: float) -> LimitState:
    def evaluate(actions: Actions, trace: Trace) -> tuple[np.ndarray, float]:
        size = np.abs(getattr(actions, name))
        return trace(name, f"|{name}|, which the standard does not carry", size, kind=kind), threshold

    return LimitState(f"uncarried_{name}", "member", "negligible up to here", kind, evaluate, limit=True)


def grades_fit(section: Section, grade: Grade) -> str:
    """Why a grade does not go with a section; empty where it does."""
    if grade.use == "hollow" and not section.hollow:
        return f"{grade.name} is for hollow sections, {section.name} is not one"
    if grade.use == "shape" and section.hollow:
        return f"{grade.name} is for rolled shapes, {section.name} is hollow"
    return ""
