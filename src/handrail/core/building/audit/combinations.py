"""Are the combinations whole: dead load in each, the cases that their names say, every case used, the least dead load
with wind and earthquake?"""

from __future__ import annotations

import re
from collections.abc import Iterator

import numpy as np

from handrail.core.building.audit.finding import Finding, members, several
from handrail.core.building.combining import strength_set
from handrail.core.building.model import Building, Combination

LEAST = {
    "LRFD": 0.95,
    "ASD": 0.65,
}  # a dead load's factor is the least up to here (0.9D less the earthquake's part, 0.6D)
SIDEWAYS = ("wind", "seismic")
FACTOR_OFF = 0.006  # of a factor: names round
OPPOSED = 0.5  # the cosine of two pushes that are against each other
UNFORMED, MISNAMED = "combination_unformed", "combination_misnamed"
GATED = (
    "units_do_not_close",
    "meant_otherwise",
    "physical_broken",
)  # errors of the model itself: nothing that they concern is designed
DOUBTS = (UNFORMED, MISNAMED, *GATED)  # until somebody lets them stand


def combinations(building: Building) -> Iterator[Finding]:
    """Everything that this module looks for."""
    if not any(c.set == "strength" and c.method in ("LRFD", "ASD") for c in building.combinations):
        yield Finding(
            "no_combinations", "error", "there is no strength combination of LRFD or ASD: nothing can be checked"
        )
    methods = sorted({c.method for c in building.combinations if c.set == "strength"})
    for method in methods:
        for wanted in ("strength", "overstrength"):
            for name, reason in strength_set(building, method, wanted).missing:
                yield Finding(
                    UNFORMED,
                    "error",
                    f"combination {name} cannot be formed: {reason}; what it would govern stays unchecked",
                    combination=name,
                )
    yield from _collectors(building)
    yield from _without_dead(building)
    for name, missing in misnamed(building):
        yield Finding(
            MISNAMED,
            "warning",
            f"combination {name} has no {missing} in it, which its name says; what is judged by it stays unchecked",
            combination=name,
        )
    yield from _factors(building)
    yield from _unused_cases(building, methods)
    yield from _one_sense(building, methods)
    yield from _least_dead(building, methods)


def _strength(building: Building, method: str = "") -> list[Combination]:
    return [
        c for c in building.combinations if c.set in ("strength", "overstrength") and (not method or c.method == method)
    ]


def _without_dead(building: Building) -> Iterator[Finding]:
    dead = {c.name for c in building.cases if c.nature == "dead"}
    if not dead:
        yield Finding("no_dead_load", "warning", "no case is a dead load: is its nature stated right?")
        return
    bare = [c.name for c in _strength(building) if not dead & {case for case, _ in c.terms}]
    if bare:
        yield Finding(
            "combination_without_dead",
            "warning",
            f"{len(bare)} strength combination(s) have no dead load in them ({several(bare)})",
            value=len(bare),
        )


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


def _factors(building: Building) -> Iterator[Finding]:
    """Factors that are not those of the combination's name, or are all 1 where loads are factored."""
    names = "|".join(re.escape(c.name) for c in sorted(building.cases, key=lambda c: -len(c.name)))
    term = re.compile(rf"([-+]?)\s*(\d+(?:\.\d+)?)\s*\*?\s*({names})(?![A-Za-z0-9])") if names else None
    for combination in building.combinations if term else ():
        own = dict(combination.terms)
        said: dict[str, float] = {}
        if term is None or re.sub(r"[\s+\-()]", "", term.sub("", combination.name)):
            continue  # its name says more than cases and factors: the earthquake's vertical part, overstrength
        for sign, factor, case in term.findall(combination.name):
            said[case] = said.get(case, 0.0) + float(factor) * (-1 if sign == "-" else 1)
        off = [
            (case, factor)
            for case, factor in said.items()
            if case in own and abs(abs(own[case]) - abs(factor)) > FACTOR_OFF
        ]
        if off:
            words = ", ".join(f"{own[case]:g} {case} where its name says {factor:g}" for case, factor in off[:3])
            yield Finding(
                "combination_factors",
                "warning",
                f"combination {combination.name} has {words}",
                combination=combination.name,
            )
    natures = {c.name: c.nature for c in building.cases}
    plain = [
        c.name
        for c in building.combinations
        if c.set == "strength"
        and c.method == "LRFD"
        and {"dead", "live"} <= {natures.get(k) for k, _ in c.terms}
        and all(abs(abs(f) - 1) < FACTOR_OFF for _, f in c.terms)
    ]
    if plain:
        yield Finding(
            "combination_unfactored",
            "warning",
            f"{len(plain)} strength combination(s) of LRFD have no factor but 1 ({several(plain)}): is it "
            "service, or ASD?",
            combination=plain[0],
            value=len(plain),
        )


def _one_sense(building: Building, methods: list[str]) -> Iterator[Finding]:
    """A wind or an earthquake that pushes one way only: neither a factor of the other sign nor a case that pushes the
    other way."""
    column = {name: k for k, name in enumerate(building.results)}
    natures = {c.name: c.nature for c in building.cases}
    pushes = {
        c.name: push
        for c in building.cases
        if c.nature in SIDEWAYS
        and c.kind == "linear"
        and c.name in column
        and (push := sideways(building, column[c.name])) is not None
    }
    for method in methods:
        signs: dict[str, set[int]] = {}
        for combination in _strength(building, method):
            for case, factor in combination.terms:
                if case in pushes and factor:
                    signs.setdefault(case, set()).add(1 if factor > 0 else -1)
        alone = [
            case
            for case, own in signs.items()
            if not _both_ways(case, own, {k: v for k, v in signs.items() if natures[k] == natures[case]}, pushes)
        ]
        if alone:
            yield Finding(
                "one_sense",
                "warning",
                f"{several(alone)}: in one sense only in the strength combinations of {method}, and no other case"
                " pushes the other way",
                value=len(alone),
            )


def _both_ways(case: str, own: set[int], signs: dict[str, set[int]], pushes: dict[str, np.ndarray]) -> bool:
    """Whether a push is there in both senses: by its own factors, or by another case against it."""
    if len(own) > 1:
        return True
    way = next(iter(own)) * pushes[case]
    against = [sign * pushes[other] for other, both in signs.items() for sign in both if other != case]
    return any(
        float(way @ other) < -OPPOSED * float(np.linalg.norm(way)) * float(np.linalg.norm(other)) for other in against
    )


def sideways(building: Building, result: int) -> np.ndarray | None:
    """(2,) the push in plan that the supports take in a result, N; None where it is mostly up or down, or nothing is
    known of it."""
    total, size = np.zeros(3), 0.0
    for end in (0, 1):
        here = [k for k, m in enumerate(building.members) if m.node(end) in building.supports]
        forces = np.nan_to_num(building.forces[here, result, end, :3])
        at = np.einsum("mk,mkg->mg", forces, building.axes[here])
        total, size = total + at.sum(axis=0), size + float(np.linalg.norm(at, axis=1).sum())
    plan = float(np.hypot(total[0], total[1]))
    return total[:2] if plan > max(abs(float(total[2])), 1e-3 * size, 1.0) else None


def _unused_cases(building: Building, methods: list[str]) -> Iterator[Finding]:
    for method in methods:
        used = {case for c in _strength(building, method) for case, _ in c.terms}
        left = [c.name for c in building.cases if c.name not in used and c.nature not in ("temperature", "other")]
        if left and used:
            yield Finding(
                "case_unused",
                "warning",
                f"no strength combination of {method} has {several(left)} in it",
                value=len(left),
            )


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
        bare = sorted(f"{'+' if up else '-'}{case}" for (case, up), item in seen.items() if not item)
        if bare and building.supports:
            least = "0.9D" if method == "LRFD" else "0.6D"
            yield Finding(
                "no_least_dead",
                "warning",
                f"{several(bare)}: in no strength combination of {method} with the least dead load ({least}): "
                "uplift of bases and column splices is not seen",
                value=len(bare),
            )


def _collectors(building: Building) -> Iterator[Finding]:
    """Connections of collectors, and bases of the lateral system, need overstrength combinations of every method that
    has strength ones."""
    collectors = [m.name for m in building.members if m.collects]
    at_bases = {
        m
        for k in (*building.foundations, *building.spliced)
        for m, _ in building.ends_at.get(k, ())
        if building.members[m].detailed and building.members[m].seismic != "beam"
    }
    bases = sorted(building.members[m].name for m in at_bases)
    methods = {of: {c.method for c in building.combinations if c.set == of} for of in ("strength", "overstrength")}
    for method in sorted(methods["strength"] - methods["overstrength"]) if collectors else ():
        yield Finding(
            "no_overstrength",
            "warning",
            f"{members(collectors)}: collector, but there are no overstrength combinations of {method}; "
            "shear connections there stay unchecked",
            member=collectors[0],
            value=len(collectors),
        )
    for method in sorted(methods["strength"] - methods["overstrength"]) if bases else ():
        yield Finding(
            "no_overstrength_bases",
            "warning",
            f"{members(bases)} of the lateral system at bases or splices, but there are no overstrength "
            f"combinations of {method}; these stay unchecked",
            member=bases[0],
            value=len(bases),
        )
    if building.foundations and not any(c.method == "LRFD" and c.set == "strength" for c in building.combinations):
        yield Finding(
            "no_concrete_combinations",
            "warning",
            "there are no strength combinations of LRFD: anchors and concrete have no allowable "
            "stress, and bases stay unchecked",
        )
