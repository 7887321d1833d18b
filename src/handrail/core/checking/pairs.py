"""Connections that are held by the same bolts, on both sides of one web: sized alike, or said why they cannot be."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TypeVar

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Batch, Family, Outcome
from handrail.core.checking.sharing import Sharing
from handrail.core.joint.relations import reached
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import BY_OTHER_SIDE, Sized, Sizes, Value

SAME = 0.05  # mm
Tag = TypeVar("Tag")
_Way = tuple[int, int, int, int, tuple[int, ...]]  # one, the other, rows of each, both in order
THROUGH = "bolts_through_web"  # the rule that bolts break which do not agree
RANK = {"pass": 0, "fail": 1, "unchecked": 2}


@dataclass(frozen=True, eq=False)
class Pairs:
    """Connections that may share bolts (`sharing`); `family` gives that of one as its rule sizes it, `collides` says
    whether what some are made of stands in each other."""

    sharing: Sharing
    batch: Batch
    family: Callable[[Assigned], Family | None]
    collides: Callable[[dict[int, Outcome]], bool] = lambda way: False

    def settled(self, outcomes: dict[int, Outcome], standing: set[int]) -> dict[int, Outcome]:
        """The outcomes with the bolts of all that share them alike; those in `standing` keep their sizes. The same,
        whichever of them are asked for."""
        settled = dict(outcomes)
        sharing = dict.fromkeys(k for k in outcomes if self._related(k) and self.through(k, outcomes[k].sizes))
        beside = {j for k in sharing for j in self._reached(k)} - settled.keys()
        settled |= self._sized(beside)
        groups = {tuple(sorted(self._held_with(settled, k))) for k in sharing}
        differing = [
            group
            for group in groups
            if not standing & set(group) and any(self.differ(settled, k, j) for k, j in self._neighbours(group))
        ]
        settled |= self._made_alike(settled, sorted(differing))
        return {k: self._judged(settled, k, standing, beside) if k in sharing else settled[k] for k in outcomes}

    @property
    def assigned(self) -> list[Assigned]:
        """Every connection of the plan."""
        return self.sharing.assigned

    def _related(self, k: int) -> tuple[int, ...]:
        """The connections whose bolts may be those of `k`, as far as geometry goes."""
        index = self.sharing.index
        return tuple(index[o] for o in self.sharing.related.get(self.assigned[k].connection.id, ()))

    def _reached(self, k: int) -> list[int]:
        """The same, and those that these are related to, however far."""
        index, related = self.sharing.index, self.sharing.related
        there = reached([self.assigned[k].connection.id], lambda key: related.get(key, ()))
        return [index[key] for key in there[1:]]

    def _held_with(self, settled: dict[int, Outcome], k: int) -> list[int]:
        """`k` with all that one set of bolts holds with it."""
        index, related = self.sharing.index, self.sharing.related

        def onward(key: str) -> tuple[str, ...]:
            own = index[key]
            return tuple(o for o in related.get(key, ()) if index[o] in settled and self._both(settled, own, index[o]))

        return [index[key] for key in reached([self.assigned[k].connection.id], onward)]

    def _neighbours(self, group: tuple[int, ...]) -> list[tuple[int, int]]:
        """The pairs in a group that are related, each once, in order."""
        return [(k, j) for k in group for j in self._related(k) if k < j and j in group]

    def through(self, k: int, sizes: Sizes) -> bool:
        """Whether a connection's bolts go through its support."""
        rule = self.assigned[k].rule
        return rule is not None and bool(sizes) and STANDARDS[rule.use].through(sizes)

    def _standard(self, k: int) -> Standard:
        rule = self.assigned[k].rule
        assert rule is not None
        return STANDARDS[rule.use]

    def _both(self, settled: dict[int, Outcome], k: int, j: int) -> bool:
        """Whether both are held alike through the web."""
        return self.through(j, settled[j].sizes) and self._standard(k) is self._standard(j)

    def _sized(self, wanted: set[int]) -> dict[int, Outcome]:
        """What rules make of the connections `wanted`, before anything is made alike."""
        families: dict[Family, list[int]] = defaultdict(list)
        for k in sorted(wanted):
            if (family := self.family(self.assigned[k])) is not None:
                families[family].append(k)
        return dict(self.batch.run(families))

    def asked(self, settled: dict[int, Outcome], k: int, j: int) -> dict[str, Value]:
        """What the sizes of `k` ask of `j`."""
        one, two = self.assigned[k].situation, self.assigned[j].situation
        assert one is not None and two is not None
        return self._standard(k).opposite(one, settled[k].sizes, two)

    def in_line(self, settled: dict[int, Outcome], k: int, j: int) -> dict[str, Value]:
        """The same where each has rows of its own."""
        one, two = self.assigned[k].situation, self.assigned[j].situation
        assert one is not None and two is not None
        return self._standard(k).aligned(one, settled[k].sizes, two, settled[j].sizes)

    def differ(self, settled: dict[int, Outcome], k: int, j: int) -> list[str]:
        """Names of the sizes that do not agree."""
        sizes = settled[j].sizes
        return [name for name, value in self.in_line(settled, k, j).items() if not _same(sizes[name].value, value)]

    def _made_alike(self, settled: dict[int, Outcome], groups: list[tuple[int, ...]]) -> dict[int, Outcome]:
        """In each group everybody with the bolts of one of them, whichever passes with the fewest of them, or fails by
        least; where none passes so, and there are two, each with rows of its own if that is better."""
        wanted = [((k, j), j, self.asked(settled, k, j)) for group in groups for k in group for j in group if j != k]
        tried = self._tried(wanted)
        best: dict[tuple[int, ...], dict[int, Outcome]] = {}
        for group in groups:
            ways: list[dict[int, Outcome]] = [{j: settled[j] if j == k else tried[k, j] for j in group} for k in group]
            best[group] = min(ways, key=self._rank)
        short = [group for group, way in best.items() if len(group) == 2 and any(self._rank(way)[:2])]
        for group, ways in self._each_its_rows(settled, short).items():
            best[group] = min([best[group], *ways], key=lambda way: (self.collides(way), *self._rank(way)))
        return {k: outcome for way in best.values() for k, outcome in way.items()}

    def _rank(self, way: dict[int, Outcome]) -> tuple[float, ...]:
        """The less, the better: whether any do not agree, how the worst comes out, with how many rows."""
        apart = any(self.differ(way, k, j) for a, b in self._neighbours(tuple(way)) for k, j in ((a, b), (b, a)))
        return float(apart), *max(_rank(o) for o in way.values())

    def _each_its_rows(
        self, settled: dict[int, Outcome], groups: Sequence[tuple[int, ...]]
    ) -> dict[tuple[int, ...], list[dict[int, Outcome]]]:
        """Two with rows of their own, those that each has by itself or a few less, in line: the other with the bolts of
        either, then that one beside what came of the other."""
        pairs = [(k, j, group) for group in groups for k, j in (group, group[::-1])]
        bases = {(k, rows): settled[k] for k, _, _ in pairs for rows in [_rows(settled[k])]}
        less: list[tuple[int, dict[str, Value]]] = [(k, {"rows": rows - 1}) for k, rows in bases if rows > 2]
        fewer = [((k, int(asked["rows"])), k, asked) for k, asked in less]
        bases |= {tag: outcome for tag, outcome in self._tried(fewer).items() if outcome.sizes}
        thens: dict[_Way, dict[int, Outcome]] = {
            (k, j, rows, theirs, group): {k: base, j: settled[j]}
            for k, j, group in pairs
            for (own, rows), base in bases.items()
            if own == k
            for theirs in range(max(_rows(settled[j]) - 2, 2), _rows(settled[j]) + 1)
        }
        others = self._tried([(way, way[1], self._beside(then, way[0], way[1], way[3])) for way, then in thens.items()])
        thens = {way: {way[0]: thens[way][way[0]], way[1]: other} for way, other in others.items() if other.sizes}
        owns = self._tried([(way, way[0], self._beside(then, way[1], way[0], way[2])) for way, then in thens.items()])
        found: dict[tuple[int, ...], list[dict[int, Outcome]]] = defaultdict(list)
        for way, own in owns.items():
            if own.sizes:
                found[way[4]].append({way[0]: own, way[1]: others[way]})
        return found

    def _beside(self, way: dict[int, Outcome], k: int, j: int, rows: int) -> dict[str, Value]:
        """What the sizes of `k` ask of `j` where that has so many rows."""
        there = replace(way[j], sizes=way[j].sizes | {"rows": Sized(rows, BY_OTHER_SIDE)})
        return self.in_line(way | {j: there}, k, j) | {"rows": rows}

    def _tried(self, wanted: list[tuple[Tag, int, dict[str, Value]]]) -> dict[Tag, Outcome]:
        """What comes of each of these with some sizes given; alike ones at once."""
        families: dict[Family, list[tuple[Tag, int]]] = defaultdict(list)
        for tag, j, asked in wanted:
            own = self.family(self.assigned[j])
            assert own is not None
            families[_with(own, asked)].append((tag, j))
        tried: dict[Tag, Outcome] = {}
        for family, members in families.items():
            for (tag, _), (_, outcome) in zip(members, self.batch.run({family: [j for _, j in members]}), strict=True):
                tried[tag] = outcome
        return tried

    def _judged(self, settled: dict[int, Outcome], k: int, standing: set[int], beside: set[int]) -> Outcome:
        """The outcome of `k`, not passed where its bolts do not fit those of one that it is related to; what stands is
        not judged by what was looked at for it alone."""
        own = settled[k]
        for j in self._related(k):
            if own.status != "unchecked":
                own = self._judged_with(settled, k, j, own, k in standing and j in beside)
        return own

    def _judged_with(self, settled: dict[int, Outcome], k: int, j: int, own: Outcome, alone: bool) -> Outcome:
        name = self.assigned[j].connection.id
        if j not in settled or not settled[j].sizes:
            why = settled[j].reason if j in settled else self.assigned[j].reason or "no rule takes it"
            return replace(
                own,
                status="unchecked",
                over_target=False,
                reason=f"its bolts go through the web of {name} opposite, which is not sized: {why}",
            )
        if not self._both(settled, k, j):
            return own.failing(
                THROUGH,
                f"its bolts go through the web where {name} opposite is held otherwise ({self._standard(j).name}): hold"
                " both alike",
            )
        if names := [] if alone else self.differ(settled, j, k):
            standard, asked = self._standard(k), self.in_line(settled, j, k)
            words = ", ".join(
                " and ".join(
                    [
                        f"{n} {standard.parameter(n).show(own.sizes[n].value, self.batch.system)}",
                        standard.parameter(n).show(asked[n], self.batch.system),
                    ]
                )
                for n in names
            )
            return own.failing(THROUGH, f"its bolts do not agree with those of {name} opposite: {words}")
        return replace(own, notes=(*own.notes, f"one set of bolts holds this and {name} opposite"))


def _rows(outcome: Outcome) -> int:
    return int(outcome.sizes["rows"].value)


def _rank(outcome: Outcome) -> tuple[float, ...]:
    rows = outcome.sizes.get("rows")
    well = outcome.status == "pass" and not outcome.over_target
    return (
        RANK[outcome.status] + 0.5 * outcome.over_target,
        float(rows.value) if rows and well else outcome.utilisation,
    )


def _same(one: Value, other: Value) -> bool:
    if isinstance(one, str) or isinstance(other, str):
        return one == other
    return abs(float(one) - float(other)) <= SAME


def _with(family: Family, asked: dict[str, Value]) -> Family:
    """The family with some sizes as the side opposite has them; a person's own stay."""
    given = dict(family.given)
    taken = {n: Sized(v, BY_OTHER_SIDE) for n, v in asked.items() if not (n in given and given[n].source == "override")}
    rungs = tuple(dict.fromkeys(tuple((n, s) for n, s in rung if n not in taken) for rung in family.rungs))
    return replace(family, given=tuple(sorted((given | taken).items())), rungs=rungs)
