"""The batch against a plain loop and against one NumPy pass: the demo's marks under made-up forces."""

from __future__ import annotations

import time
from pathlib import Path

import numpy as np

from handrail.core.actions import Actions
from handrail.core.building.framing import frame
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.connection import limit_states
from handrail.core.checking.plan import Plan
from handrail.core.codes import code
from handrail.core.quantities.lines import NULL
from handrail.core.rulebook import read_rulebook
from handrail.core.standards import STANDARDS
from handrail.interchange.bundle import read_bundle

DEMO = Path(__file__).parent.parent / "src/handrail/demo"


def demo_plan() -> Plan:
    """The demo, ready to be sized."""
    building = read_bundle(DEMO / "bundle")
    return Plan.of(building, frame(building), read_rulebook((DEMO / "rulebook.yaml").read_text()), code(), {})


SHEAR_ENDS = ("single_plate", "double_angle", "single_angle", "shear_end_plate")


def only(plan: Plan, *standards: str) -> dict[Family, list[int]]:
    """The families of some standards, to be sized."""
    return {family: members for family, members in plan.families().items() if family.standard in standards}


def batch_of(
    connections: int, combinations: int, *standards: str, afresh: bool = False
) -> tuple[np.ndarray, Batch, dict[Family, list[int]]]:
    """(forces, batch, families): the demo's connections of some standards over and over, each with forces of its own;
    as they are sized, or to be sized `afresh`."""
    plan = demo_plan()
    sized = dict(plan.batch().run(only(plan, *(standards or SHEAR_ENDS[:1]))))
    stood = {plan.assigned[k].connection.id: o.sizes for k, o in sized.items()}
    origin = np.resize(np.array(sorted(sized)), connections)
    dice = np.random.default_rng(3)
    peaks = np.abs(plan.acting.all).max(axis=1)[origin]
    table = peaks[:, None, :] * dice.uniform(-1, 1, (connections, combinations, 6))
    table[..., 2:] = 0.0
    families: dict[Family, list[int]] = {}
    for family, members in plan.families(set(stood), None if afresh else stood).items():
        families[family] = np.nonzero(np.isin(origin, members))[0].tolist()
    names = tuple(f"C{k}" for k in range(combinations))
    sets = (("LRFD", "strength"),) * combinations
    return table, Batch(code(), 1.0, lambda k: Actions.of(table[k], names, sets=sets)), families


def one_pass(table: np.ndarray) -> np.ndarray:
    return np.abs(table).max(axis=1)


def plain_loop(table: np.ndarray, families: dict[Family, list[int]], batch: Batch, sample: int) -> float:
    """Seconds for `sample` connections: every limit state of every combination in turn, strengths worked out once."""
    seconds, done = 0.0, 0
    for family, members in families.items():
        standard = STANDARDS[family.standard]
        sizes = standard.complete(family.situation, dict(family.given))
        states = limit_states(standard, family.situation, sizes, batch.code)
        for k in members[: max(1, sample // len(families))]:
            begun = time.perf_counter()
            worst = 0.0
            for combination in range(table.shape[1]):
                N, V, Vw, M, Mw, T = (float(v) for v in table[k, combination])
                actions = Actions(N, V, Vw, M, Mw, T, names=("x",))  # type: ignore[arg-type]
                for state in states:
                    demand, strength = state.evaluate(actions, NULL)
                    worst = max(worst, float(demand) / float(strength))
            seconds += time.perf_counter() - begun
            done += 1
            if done == sample:
                return seconds
    return seconds * sample / max(done, 1)
