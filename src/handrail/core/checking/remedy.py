"""The smallest changes that make a failing connection pass, found by trying them: for all connections that are the same
piece of steel at once."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from itertools import combinations

import numpy as np

from handrail.core.catalogue import Shop
from handrail.core.checking.result import Result
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.standards import Standard
from handrail.core.standards.quantities import Quantities
from handrail.core.standards.sizes import Sized, Sizes, Value

Changes = tuple[tuple[str, Value], ...]
MOST = 3  # remedies of a connection
PAIRS, AFTER, THIRDS = (
    100,
    10,
    6,
)  # pairs tried at most; further ones once each connection has a remedy; pairs that a third size is added to
# Of a kg, a bolt, a size that is changed, one that leaves what the shop does elsewhere.
PRICES = {"steel": 1.0, "weld": 10.0, "field_bolts": 3.0, "shop_bolts": 1.5, "changes": 0.5, "odd": 4.0}


@dataclass(frozen=True)
class Judged:
    """What a sized connection is under the forces of each of k connections: `use` (k,), infinite where it is not known;
    `check` (k,) that governs; which detailing rules it breaks."""

    use: np.ndarray
    check: tuple[str, ...]
    broken: tuple[str, ...]


@dataclass(frozen=True)
class Remedy:
    """The parameters to change, with their new values; what the connection is then, and what that takes more."""

    changes: Changes
    utilisation: float
    target: float = 1.0
    cost: float = 0.0
    more: dict[str, float] = field(
        default_factory=dict
    )  # steel and weld in kg, field_bolts, shop_bolts; empty where it is not counted

    def words(self, standard: Standard, system: str = "us") -> str:
        """In words, in the units of `system`."""
        over = f", over the target {self.target:g}" if self.utilisation > self.target else ""
        return f"passes with {in_words(standard, self.changes, system)}, at {self.utilisation:.2f}{over}"


@dataclass
class Found:
    """Of one connection: its remedies, the cheapest first, or the nearest that was met: (utilisation, broken rules,
    changes, check). It `passes` where it does so as it stands, by itself: what fails it is beside it, and is not looked
    for here."""

    remedies: list[Remedy] = field(default_factory=list)
    nearest: tuple[float, int, Changes, str] | None = None
    passes: bool = False


Judge = Callable[[Sizes], Judged]


def in_words(standard: Standard, changes: Changes, system: str) -> str:
    """Changes in words, in the units of `system`."""
    return " and ".join(f"{name} to {standard.parameter(name).show(value, system)}" for name, value in changes)


def find_remedies(
    standard: Standard,
    situation: Situation,
    given: Sizes,
    held: frozenset[str],
    judge: Judge,
    k: int,
    target: float = 1.0,
) -> list[Found]:
    """For each of k connections: one change before two, two before three; of as many, the cheapest first.

    `given` are the sizes that do not follow from others; `judge` a completed set of sizes under the k connections'
    forces, at every end that they hold; parameters in `held` (overrides) stay. One that stays under `target` is
    preferred to one that only passes; of a connection that passes over the target only what brings it under is one."""
    search = _Search(standard, situation, given, judge, [Found() for _ in range(k)], target)
    if all(check.startswith("uncarried_") for check in search.base.check):  # no size carries it
        return search.found
    for n, mine in enumerate(search.found):
        mine.passes = not search.base.broken and bool(search.base.use[n] <= target)
    failing = [n for n in range(k) if not search.found[n].passes]
    if not failing:
        return search.found
    single = [
        (cost, ((name, value),))
        for cost, name, value in _moves(standard, search.full, situation.shop)
        if name not in held
    ]
    judged = search.try_all([changes for _, changes in sorted(single, key=lambda one: one[0])], failing)
    left = [n for n in failing if not search.good(n)]
    if left:
        helps = {changes for changes, mine in judged.items() if search.helps(mine, left)}
        pairs = sorted(
            (
                (a[0] + b[0], (*a[1], *b[1]))
                for a, b in combinations(single, 2)
                if a[1][0][0] != b[1][0][0] and (a[1] in helps or b[1] in helps)
            ),
            key=lambda one: one[0],
        )
        search.try_all([changes for _, changes in pairs[:PAIRS]], left)
        left = [n for n in left if not search.found[n].remedies]
    if left:
        search.try_all(search.thirds([changes for _, changes in single]), left)
    for mine in search.found:
        best = sorted(
            (r for r in mine.remedies if not _idle(r, mine.remedies)),
            key=lambda r: (r.utilisation > target, len(r.changes), r.cost),
        )
        ways: dict[frozenset[str], Remedy] = {}
        for remedy in best:  # of each way to change it the cheapest
            ways.setdefault(frozenset(name for name, _ in remedy.changes), remedy)
        mine.remedies = list(ways.values())[:MOST]
    return search.found


def _idle(remedy: Remedy, others: list[Remedy]) -> bool:
    """Whether part of its changes alone does as well."""
    own = set(remedy.changes)
    return any(
        set(r.changes) < own and (r.utilisation <= r.target or remedy.utilisation > remedy.target) for r in others
    )


@dataclass
class _Search:
    standard: Standard
    situation: Situation
    given: Sizes
    judge: Judge
    found: list[Found]
    target: float
    close: dict[Changes, int] = field(
        default_factory=dict
    )  # pairs that pass but for detailing rules: how many these are

    def __post_init__(self) -> None:
        self.full = self.standard.complete(self.situation, self.given)
        self.base = self.judge(self.full)
        self.stood = self._quantities(self.full)

    def over(self, n: int) -> bool:
        """Whether a connection passes as it stands, over the target."""
        return not self.base.broken and self.target < self.base.use[n] <= 1.0

    def good(self, n: int) -> bool:
        """Whether a connection has a remedy that stays under the target."""
        return any(r.utilisation <= self.target for r in self.found[n].remedies)

    def helps(self, judged: Judged, left: list[int]) -> bool:
        """Whether a change brings any of these nearer: less used, or one rule less broken."""
        fewer = set(self.base.broken) - set(judged.broken)
        return bool(fewer) or bool((judged.use[left] < self.base.use[left] - 1e-9).any())

    def try_all(self, wanted: Iterable[Changes], members: Iterable[int]) -> dict[Changes, Judged]:
        """Try changes in turn, until each of the connections has had its choice."""
        judged: dict[Changes, Judged] = {}
        open_now, since = list(members), 0
        for changes in wanted:
            sizes = self._sized(changes)
            if sizes is None:
                continue
            judged[changes] = self.judge(sizes)
            for n in open_now:
                self._note(n, changes, judged[changes], sizes)
            if len(changes) > 1:
                since = since + 1 if all(self.good(n) for n in open_now) else 0
                if since > AFTER:
                    break
        return judged

    def _note(self, n: int, changes: Changes, judged: Judged, sizes: Sizes) -> None:
        use, one, most = float(judged.use[n]), self.found[n], self.target if self.over(n) else 1.0
        if use <= most and not judged.broken:
            more = self._more(sizes)
            one.remedies.append(Remedy(changes, use, self.target, self._cost(changes, more), more))
            return
        if use <= most:
            self.close[changes] = len(judged.broken)
        if np.isfinite(use) and (
            one.nearest is None or (max(use, most), len(judged.broken)) < (max(one.nearest[0], most), one.nearest[1])
        ):
            one.nearest = (use, len(judged.broken), changes, judged.check[n] if use > most else judged.broken[0])

    def thirds(self, single: list[Changes]) -> list[Changes]:
        """What entails another change: pairs that break only detailing rules, with one size more."""
        close = sorted(
            (changes for changes in self.close if len(changes) == 2), key=lambda changes: self.close[changes]
        )[:THIRDS]
        return [(*pair, *one) for pair in close for one in single if one[0][0] not in {name for name, _ in pair}]

    def _sized(self, changes: Changes) -> Sizes | None:
        try:
            return self.standard.complete(
                self.situation, self.given | {name: Sized(value, "remedy") for name, value in changes}
            )
        except InputError:  # a formula that has no value with it
            return None

    def _quantities(self, sizes: Sizes) -> Quantities:
        return self.standard.quantities(self.situation, sizes)

    def _more(self, sizes: Sizes) -> dict[str, float]:
        now = self._quantities(sizes)
        return {
            name: round(getattr(now, name) - getattr(self.stood, name), 4)
            for name in ("steel", "weld", "field_bolts", "shop_bolts")
        }

    def _cost(self, changes: Changes, more: dict[str, float]) -> float:
        odd = {move.parameter for move in self.standard.changing.moves if move.odd}
        shop = sum(PRICES["changes"] + (PRICES["odd"] if name in odd else 0.0) for name, _ in changes)
        return sum(PRICES[name] * amount for name, amount in more.items()) + shop


def without_remedy(
    result: Result | None, standard: Standard, remedies: Found | None = None, system: str = "us", target: float = 1.0
) -> str:
    """In words what to do where no change of sizes helps (one that passes, to come under the `target`), by the limit
    state that stands in the way."""
    carried = (
        [c.check.removeprefix("uncarried_") for c in result.checks if c.check.startswith("uncarried_") and c.counts > 1]
        if result
        else []
    )
    if carried:
        return (
            f"no size carries {' and '.join(carried)}: release this end in the model, or put a standard on it that"
            " carries it"
        )
    advice = standard.changing.advice.get(result.governing.check, "") if result and result.governing else ""
    more = f"; against {result.governing.check}: {advice}" if advice and result and result.governing else ""
    over = result is not None and result.status == "pass"
    near, most = "", target if over else 1.0
    if remedies is not None and remedies.nearest is not None:
        use, _, changes, what = remedies.nearest
        left = f"leaves {what} at {use:.2f}" if use > most else f"breaks detailing rule {what}"
        near = f"; the nearest, {in_words(standard, changes, system)}, {left}"
    return (
        "no change of one, two or three sizes that was tried"
        f" {f'comes under the target {target:g}' if over else 'passes'}{near}{more}"
    )


def _moves(standard: Standard, sizes: Sizes, shop: Shop) -> Iterator[tuple[int, str, Value]]:
    """(cost, parameter, value) of each single change that the standard thinks worth trying."""
    for move in standard.changing.moves:
        for cost, value in move.values(sizes, shop):
            yield cost, move.parameter, value
