"""Bases in bulk against a plain loop over the same solver, and the whole demo's run beside its single plates alone."""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np
from checks import demo_plan, only

from handrail.core.actions import Actions
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.connection import limit_states
from handrail.core.codes import code
from handrail.core.standards import STANDARDS

Bases = tuple[np.ndarray, Batch, dict[Family, list[int]]]


def bases_of(bases: int, combinations: int) -> Bases:
    """(actions, batch, families): the demo's sized bases over and over, each under actions of its own up to its
    peaks."""
    plan = demo_plan()
    sized = dict(plan.batch().run(only(plan, "base_plate")))
    stood = {plan.assigned[k].connection.id: o.sizes for k, o in sized.items()}
    origin = np.resize(np.array(sorted(sized)), bases)
    dice = np.random.default_rng(5)
    own = plan.acting.all[origin]
    table = own[:, :1] + np.abs(own).max(axis=1)[:, None, :] * dice.uniform(-0.5, 0.5, (bases, combinations, 6))
    families = {f: np.nonzero(np.isin(origin, m))[0].tolist() for f, m in plan.families(set(stood), stood).items()}
    names, sets = tuple(f"C{k}" for k in range(combinations)), (("LRFD", "strength"),) * combinations
    return table, Batch(code(), 1.0, lambda k: Actions.of(table[k], names, sets=sets)), families


def plain_loop(table: np.ndarray, families: dict[Family, list[int]], each: int) -> float:
    """Seconds for the whole table, from `each` actions of every family: one action after the other, strengths worked
    out once."""
    seconds = 0.0
    for family, members in families.items():
        standard = STANDARDS[family.standard]
        states = limit_states(
            standard, family.situation, standard.complete(family.situation, dict(family.given)), code()
        )
        picked = [(k, c) for k in members for c in range(table.shape[1])]
        taken = picked[:: max(1, len(picked) // each)][:each]
        begun = time.perf_counter()
        for k, c in taken:
            actions = Actions.of(table[k, c][None, None], ("x",))
            max(float(state.utilisation(actions)[0, 0]) for state in states)
        seconds += (time.perf_counter() - begun) * len(picked) / len(taken)
    return seconds


def figures(best: Callable[..., float]) -> list[tuple[str, float, float, str]]:
    """(name, value, goal, unit) of each figure."""
    table, batch, families = bases_of(1000, 100)
    bulk = best(lambda: dict(batch.run(families)), 2)
    loop = plain_loop(table, families, 30)
    plates = best(lambda: _size(False), 2)
    whole = best(lambda: _size(True), 2)
    return [
        ("plain Python loop over the same solver, over a batch of 1,000 bases x 100", loop / bulk, -100.0, "time"),
        ("sizing the whole demo over sizing its single plates alone", whole / plates, 6.0, "time"),
    ]


def _size(bases: bool) -> None:
    plan = demo_plan()
    dict(plan.batch().run(plan.families() if bases else only(plan, "single_plate")))
