"""Results of combinations, formed from cases by superposition or taken as given."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product

import numpy as np

from handrail.core.building.model import Building, Case, Combination

SIGNS = ((1, 1), (-1, -1), (-1, 1), (1, -1))  # of a spectrum's axial force and of its other components


@dataclass(frozen=True)
class CombinationSet:
    """Combinations that can be checked: `factors` (c, results, 6) turns each component of results into combinations.

    The components differ in sign only, and only in spectrum cases. `missing` says, for each combination left out, why.
    `seismic` (c,) which have an earthquake in them."""

    names: tuple[str, ...]
    factors: np.ndarray
    missing: tuple[tuple[str, str], ...]
    seismic: tuple[bool, ...] = ()
    quakes: np.ndarray | None = None  # the factors of its earthquakes alone; of what came combined already, all of it

    @property
    def of_quakes(self) -> CombinationSet:
        """What earthquakes alone do in each combination."""
        return replace(self, factors=np.zeros_like(self.factors) if self.quakes is None else self.quakes)

    def forces(self, of: np.ndarray) -> np.ndarray:
        """(..., results, 6) member-end forces to (..., c, 6)."""
        return np.stack([of[..., k] @ self.factors[..., k].T for k in range(6)], axis=-1)


@dataclass(frozen=True)
class Chosen:
    """Which combinations connections are designed for: those of `set`, `only` some of them by name, and beside them
    `overstrength` for whom it is asked of."""

    set: str = "strength"
    only: frozenset[str] = frozenset()
    overstrength: bool = True


BY_STRENGTH = Chosen()


def strength_set(
    building: Building, method: str, wanted: str = "strength", only: frozenset[str] = frozenset()
) -> CombinationSet:
    """The combinations of set `wanted` and `method`, all or `only` those of some names.

    A spectrum's components have lost their signs: axial force and the others are each taken with both.
    """
    some = tuple(c for c in building.combinations if c.name in only) if only else building.combinations
    return _formed(building.results, building.cases, some, method, wanted)


@lru_cache(maxsize=32)
def _formed(
    results: tuple[str, ...], cases: tuple[Case, ...], combinations: tuple[Combination, ...], method: str, wanted: str
) -> CombinationSet:
    column = {name: k for k, name in enumerate(results)}
    names, rows, missing, seismic, quakes = [], [], [], [], []
    shaking = {c.name for c in cases if c.nature == "seismic"}
    for combination in combinations:
        if combination.set != wanted or combination.method != method:
            continue
        reason = _unformed(cases, combination, column)
        if reason:
            missing.append((combination.name, reason))
            continue
        for name, row in _rows(cases, combination, column):
            names.append(name)
            rows.append(row)
            seismic.append(wanted == "overstrength" or any(case in shaking for case, _ in combination.terms))
            alone = np.array([of in shaking or of == combination.name for of in results])
            quakes.append(row * alone[:, None] if seismic[-1] else np.zeros_like(row))
    factors = np.array(rows) if rows else np.zeros((0, len(results), 6))
    return CombinationSet(
        tuple(names), factors, tuple(missing), tuple(seismic), np.array(quakes) if quakes else factors
    )


def _unformed(cases: tuple[Case, ...], combination: Combination, column: dict[str, int]) -> str:
    if combination.name in column:
        return ""
    kinds = {c.name: c.kind for c in cases}
    for case, _ in combination.terms:
        if case not in column:
            return f"no forces for case {case}"
        if kinds[case] in ("nonlinear", "envelope"):
            return f"case {case} is {kinds[case]} and cannot be superposed"
    return ""


def _rows(cases: tuple[Case, ...], combination: Combination, column: dict[str, int]) -> list[tuple[str, np.ndarray]]:
    row = np.zeros((len(column), 6))
    if combination.name in column:
        row[column[combination.name]] = 1.0
        return [(combination.name, row)]
    spectra = {c.name for c in cases if c.kind == "spectrum"}
    signed = [case for case, _ in combination.terms if case in spectra]
    rows = []
    for signs in product(SIGNS, repeat=len(signed)):
        sign = dict(zip(signed, signs, strict=True))
        one = row.copy()
        for case, factor in combination.terms:
            axial, others = sign.get(case, (1, 1))
            one[column[case]] += factor * np.array([axial, *[others] * 5])
        suffix = "".join(
            f" {'-+'[others > 0]}{case}" + (f" (N {'-+'[axial > 0]})" if axial != others else "")
            for case, (axial, others) in sign.items()
        )
        rows.append((combination.name + suffix, one))
    return rows
