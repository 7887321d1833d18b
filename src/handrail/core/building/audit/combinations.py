"""Are the combinations whole: dead load in each, the cases that their names say, every case used, the least dead load with wind and earthquake?"""

from __future__ import annotations

import re
from collections.abc import Iterator

from handrail.core.building.audit.finding import Finding, members, several
from handrail.core.building.combining import strength_set
from handrail.core.building.model import Building, Combination

LEAST = {"LRFD": 0.95, "ASD": 0.65}  # a dead load's factor is the least up to here (0.9D less the earthquake's part, 0.6D)
SIDEWAYS = ("wind", "seismic")
UNFORMED, MISNAMED = "combination_unformed", "combination_misnamed"
GATED = ("units_do_not_close", "physical_broken")  # errors of the model itself: nothing that they concern is designed
DOUBTS = (UNFORMED, MISNAMED, *GATED)  # until somebody lets them stand


def combinations(building: Building) -> Iterator[Finding]:
    """Everything that this module looks for."""
    if not any(c.set == "strength" and c.method in ("LRFD", "ASD") for c in building.combinations):
        yield Finding("no_combinations", "error", "there is no strength combination of LRFD or ASD: nothing can be checked")
    methods = sorted({c.method for c in building.combinations if c.set == "strength"})
    for method in methods:
        for wanted in ("strength", "overstrength"):
            for name, reason in strength_set(building, method, wanted).missing:
                yield Finding(UNFORMED, "error", f"combination {name} cannot be formed: {reason}; what it would govern stays unchecked", combination=name)
    yield from _collectors(building)
    yield from _without_dead(building)
    for name, missing in misnamed(building):
        yield Finding(MISNAMED, "warning", f"combination {name} has no {missing} in it, which its name says; what is judged by it stays unchecked",
                      combination=name)  # fmt: skip
    yield from _unused_cases(building, methods)
    yield from _least_dead(building, methods)


def _strength(building: Building, method: str = "") -> list[Combination]:
    return [c for c in building.combinations if c.set in ("strength", "overstrength") and (not method or c.method == method)]


def _without_dead(building: Building) -> Iterator[Finding]:
    dead = {c.name for c in building.cases if c.nature == "dead"}
    if not dead:
        yield Finding("no_dead_load", "warning", "no case is a dead load: is its nature stated right?")
        return
    bare = [c.name for c in _strength(building) if not dead & {case for case, _ in c.terms}]
    if bare:
        yield Finding("combination_without_dead", "warning", f"{len(bare)} strength combination(s) have no dead load in them ({several(bare)})",
                      value=len(bare))  # fmt: skip


def misnamed(building: Building) -> Iterator[tuple[str, str]]:
    """(combination, cases) of which its name speaks, and that are none of its terms."""
    names = sorted((c.name for c in building.cases), key=len, reverse=True)
    if not names:
        return
    pattern = re.compile(r"(?<![A-Za-z])(" + "|".join(map(re.escape, names)) + r")(?![A-Za-z0-9])")
    for combination in building.combinations:
        said = {m[1] for m in pattern.finditer(combination.name)}
        meant = {case for case, _ in combination.terms}
        if said and (missing := sorted(said - meant)) and said & meant:
            yield combination.name, ", ".join(missing)


def _unused_cases(building: Building, methods: list[str]) -> Iterator[Finding]:
    for method in methods:
        used = {case for c in _strength(building, method) for case, _ in c.terms}
        left = [c.name for c in building.cases if c.name not in used and c.nature not in ("temperature", "other")]
        if left and used:
            yield Finding("case_unused", "warning", f"no strength combination of {method} has {several(left)} in it", value=len(left))


def _least_dead(building: Building, methods: list[str]) -> Iterator[Finding]:
    """Every sense of wind and earthquake with the least dead load: what lifts bases and pulls column splices."""
    natures = {c.name: c.nature for c in building.cases}
    dead = {name for name, nature in natures.items() if nature == "dead"}
    for method in methods:
        seen: dict[tuple[str, bool], bool] = {}
        for c in (c for c in building.combinations if c.set == "strength" and c.method == method):
            factors = [f for case, f in c.terms if case in dead]
            small = bool(factors) and max(factors) <= LEAST.get(method, 0.0)
            for case, factor in c.terms:
                if natures.get(case) in SIDEWAYS:
                    seen[case, factor > 0] = seen.get((case, factor > 0), False) or small
        bare = sorted(f"{'+' if up else '-'}{case}" for (case, up), found in seen.items() if not found)
        if bare and building.supports:
            least = "0.9D" if method == "LRFD" else "0.6D"
            yield Finding("no_least_dead", "warning", f"{several(bare)}: in no strength combination of {method} with the least dead load ({least}): "
                          "uplift of bases and column splices is not seen", value=len(bare))  # fmt: skip


def _collectors(building: Building) -> Iterator[Finding]:
    """Connections of collectors, and bases of the lateral system, need overstrength combinations of every method that has strength ones."""
    found = [m.name for m in building.members if m.collects]
    at_bases = {m for k in (*building.foundations, *building.spliced) for m, _ in building.ends_at.get(k, ())
                if building.members[m].detailed and building.members[m].seismic != "beam"}  # fmt: skip
    bases = sorted(building.members[m].name for m in at_bases)
    methods = {of: {c.method for c in building.combinations if c.set == of} for of in ("strength", "overstrength")}
    for method in sorted(methods["strength"] - methods["overstrength"]) if found else ():
        yield Finding("no_overstrength", "warning", f"{members(found)}: collector, but there are no overstrength combinations of {method}; "
                      f"shear connections there stay unchecked", member=found[0], value=len(found))  # fmt: skip
    for method in sorted(methods["strength"] - methods["overstrength"]) if bases else ():
        yield Finding("no_overstrength_bases", "warning", f"{members(bases)} of the lateral system at bases or splices, but there are no overstrength "
                      f"combinations of {method}; these stay unchecked", member=bases[0], value=len(bases))  # fmt: skip
    if building.foundations and not any(c.method == "LRFD" and c.set == "strength" for c in building.combinations):
        yield Finding("no_concrete_combinations", "warning", "there are no strength combinations of LRFD: anchors and concrete have no allowable "
                      "stress, and bases stay unchecked")  # fmt: skip
