"""The demo building a few weeks later, as revision C: heavier plant on the roof, some beams resized, two taken out, two
braces more, a dozen renamed, one beam let go at its end. Made by `make demo-bundle`, beside the first: `handrail
compare` has something to say of the two."""

from __future__ import annotations

import sys
from pathlib import Path

from handrail.demo.building import HINGE, LEVELS, Model, build, plan, write

HEAVIER = 1.3  # of the loads on the roof's beams beside the plant
GONE, RENAMED, RESIZED = ("B100", "B101"), range(40, 52), range(60, 68)


def revised() -> Model:
    model = build()
    roof = {name for name, (_, _, z) in model.nodes.items() if abs(z - LEVELS[5]) < 1e-6}
    on_roof = {
        m["member"] for m in model.members if m["role"] == "beam" and m["i"] in roof and m["member"].startswith("B")
    }
    heavier = set(sorted(on_roof, key=lambda n: int(n[1:]))[:24])
    model.line_loads = [
        (name, case, load * (HEAVIER if name in heavier and case == "Lr" else 1.0))
        for name, case, load in model.line_loads
    ]
    model.members = [m for m in model.members if m["member"] not in GONE]
    model.line_loads = [load for load in model.line_loads if load[0] not in GONE]
    for member in model.members:
        if member["member"] in {f"B{n}" for n in RESIZED}:
            member["section"] = "W18X40"
    for gy in (0, 1):
        low, high = model.node(*plan(3, gy), 0.0), model.node(*plan(4, gy), LEVELS[2])
        model.member("X", low, high, "HSS6X6X3/8", "brace", grade="A500C", release_i=HINGE, release_j=HINGE)
    names = {f"B{n}": f"B{n + 2000}" for n in RENAMED}
    for member in model.members:
        member["member"] = names.get(member["member"], member["member"])
    model.line_loads = [(names.get(name, name), case, load) for name, case, load in model.line_loads]
    return model


if __name__ == "__main__":
    write(
        revised(), Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parent / "revision-c", "C", "2026-11-16"
    )
