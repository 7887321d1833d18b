"""Connections on both sides of one web that are held by the same bolts: sized alike, or said why they cannot be."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Batch, Family, Outcome
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sized, Sizes, Value

SAME = 0.05  # mm
OPPOSITE = "opposite"
RANK = {"pass": 0, "fail": 1, "unchecked": 2}


@dataclass
class Pairs:
    """`assigned` connections, `other` (connections,) the one across the same web, -1 where there is none; `family`
    gives that of a connection as its rule sizes it."""

    assigned: list[Assigned]
    other: np.ndarray
    batch: Batch
    family: Callable[[Assigned], Family | None]

    def settled(self, outcomes: dict[int, Outcome], standing: set[int]) -> dict[int, Outcome]:
        """The outcomes with the bolts of both sides alike; those in `standing` keep their sizes. The same, whichever of
        a pair are asked for."""
        found = dict(outcomes)
        sharing = [k for k in outcomes if self.other[k] >= 0 and self.through(k, outcomes[k].sizes)]
        beside = {int(self.other[k]) for k in sharing} - found.keys()
        found |= self._sized(beside)
        pairs = {
            (min(k, j), max(k, j)) for k in sharing if (j := int(self.other[k])) in found and self._both(found, k, j)
        }
        differing = [pair for pair in pairs if self.differ(found, *pair) and not standing & set(pair)]
        found |= self._made_alike(found, sorted(differing))
        judged = {k: self._judged(found, k, k in standing and int(self.other[k]) in beside) for k in sharing}
        found |= judged
        return {k: found[k] for k in outcomes}

    def through(self, k: int, sizes: Sizes) -> bool:
        """Whether a connection's bolts go through its support."""
        rule = self.assigned[k].rule
        return rule is not None and bool(sizes) and STANDARDS[rule.use].through(sizes)

    def _standard(self, k: int) -> Standard:
        rule = self.assigned[k].rule
        assert rule is not None
        return STANDARDS[rule.use]

    def _both(self, found: dict[int, Outcome], k: int, j: int) -> bool:
        """Whether both are held alike through the web."""
        return self.through(j, found[j].sizes) and self._standard(k) is self._standard(j)

    def _sized(self, wanted: set[int]) -> dict[int, Outcome]:
        """What rules make of the connections `wanted`, before anything is made alike."""
        families: dict[Family, list[int]] = defaultdict(list)
        for k in sorted(wanted):
            if (family := self.family(self.assigned[k])) is not None:
                families[family].append(k)
        return dict(self.batch.run(families))

    def asked(self, found: dict[int, Outcome], k: int, j: int) -> dict[str, Value]:
        """What the sizes of `k` ask of `j`."""
        one, two = self.assigned[k].situation, self.assigned[j].situation
        assert one is not None and two is not None
        return self._standard(k).opposite(one, found[k].sizes, two)

    def differ(self, found: dict[int, Outcome], k: int, j: int) -> list[str]:
        """Names of the sizes that do not agree."""
        sizes = found[j].sizes
        return [name for name, value in self.asked(found, k, j).items() if not _same(sizes[name].value, value)]

    def _made_alike(self, found: dict[int, Outcome], pairs: list[tuple[int, int]]) -> dict[int, Outcome]:
        """Either side's bolts on both, whichever of the two passes with the fewer of them, or fails by less."""
        tried = self._tried([(a, b, self.asked(found, a, b)) for k, j in pairs for a, b in ((k, j), (j, k))])
        made: dict[int, Outcome] = {}
        for k, j in pairs:
            ways: list[dict[int, Outcome]] = [{k: found[k], j: tried[k, j]}, {j: found[j], k: tried[j, k]}]
            made.update(ways[min((0, 1), key=lambda n: max(_rank(o) for o in ways[n].values()))])
        return made

    def _tried(self, wanted: list[tuple[int, int, dict[str, Value]]]) -> dict[tuple[int, int], Outcome]:
        """(k, j) -> j as it is with the bolts of k; alike ones at once."""
        families: dict[Family, list[tuple[int, int]]] = defaultdict(list)
        for k, j, asked in wanted:
            own = self.family(self.assigned[j])
            assert own is not None
            families[_with(own, asked)].append((k, j))
        tried: dict[tuple[int, int], Outcome] = {}
        for family, members in families.items():
            for member, (_, outcome) in zip(members, self.batch.run({family: [j for _, j in members]}), strict=True):
                tried[member] = outcome
        return tried

    def _judged(self, found: dict[int, Outcome], k: int, alone: bool) -> Outcome:
        """The outcome of `k`, not passed where its bolts do not fit those opposite; `alone`: it stands, and what stands
        opposite is not looked at."""
        j, own = int(self.other[k]), found[k]
        name = self.assigned[j].connection.id
        if own.status == "unchecked":
            return own
        if j not in found or not found[j].sizes:
            why = found[j].reason if j in found else self.assigned[j].reason or "no rule takes it"
            return replace(
                own,
                status="unchecked",
                over_target=False,
                reason=f"its bolts go through the web of {name} opposite, which is not sized: {why}",
            )
        if not self._both(found, k, j):
            return _failed(
                own,
                f"its bolts go through the web where {name} opposite is held otherwise ({self._standard(j).name}): hold"
                " both alike",
            )
        if names := [] if alone else self.differ(found, j, k):
            standard, asked = self._standard(k), self.asked(found, j, k)
            words = ", ".join(
                " and ".join(
                    [
                        f"{n} {standard.parameter(n).show(own.sizes[n].value, self.batch.system)}",
                        standard.parameter(n).show(asked[n], self.batch.system),
                    ]
                )
                for n in names
            )
            return _failed(own, f"its bolts do not agree with those of {name} opposite: {words}")
        return replace(own, notes=(*own.notes, f"one set of bolts holds this and {name} opposite"))


def _rank(outcome: Outcome) -> tuple[float, ...]:
    rows = outcome.sizes.get("rows")
    well = outcome.status == "pass" and not outcome.over_target
    return (
        RANK[outcome.status] + 0.5 * outcome.over_target,
        float(rows.value) if rows and well else outcome.utilisation,
    )


def _failed(own: Outcome, words: str) -> Outcome:
    return replace(
        own,
        status="fail",
        over_target=False,
        reason=f"{own.reason}; {words}" if own.reason else words,
        broken=(*own.broken, "bolts_through_web"),
    )


def _same(one: Value, other: Value) -> bool:
    if isinstance(one, str) or isinstance(other, str):
        return one == other
    return abs(float(one) - float(other)) <= SAME


def _with(family: Family, asked: dict[str, Value]) -> Family:
    """The family with some sizes as the side opposite has them; a person's own stay."""
    given = dict(family.given)
    taken = {n: Sized(v, OPPOSITE) for n, v in asked.items() if not (n in given and given[n].source == "override")}
    rungs = tuple(dict.fromkeys(tuple((n, s) for n, s in rung if n not in taken) for rung in family.rungs))
    return replace(family, given=tuple(sorted((given | taken).items())), rungs=rungs)
