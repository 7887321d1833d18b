"""Remedies of all that fails over the run that found it: the demo under more than its loads."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from handrail.core.building.framing import frame
from handrail.core.checking.improving import remedies
from handrail.core.checking.plan import Plan
from handrail.core.codes import code
from handrail.core.rulebook import read_rulebook
from handrail.interchange.bundle import read_bundle

DEMO = Path(__file__).parents[1] / "src/handrail/demo"
LOADS = 1.6  # of its own


def figures() -> list[tuple[str, float, float, str]]:
    """The one figure."""
    import time

    building = read_bundle(DEMO / "bundle")
    building = replace(building, forces=building.forces * LOADS)
    plan = Plan.of(
        building, frame(building), read_rulebook((DEMO / "rulebook.yaml").read_text()), code("AISC 360-22", "LRFD"), {}
    )
    _ = plan.by_rules
    begun = time.perf_counter()
    outcomes = plan.work()
    ran = time.perf_counter() - begun
    failing = {plan.assigned[k].connection.id: o.sizes for k, o in outcomes.items() if o.status == "fail"}
    begun = time.perf_counter()
    found = remedies(plan, failing)
    looked = time.perf_counter() - begun
    print(f"  {len(failing)} of {len(outcomes)} fail, {sum(bool(f.remedies) for f in found.values())} with a remedy")
    return [
        (f"remedies of all that fails under {LOADS} times the demo's loads, over sizing it", looked / ran, 5.0, "time")
    ]
