"""Connections that the same bolts hold: who has them in common with whom, by their relations."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.errors import InputError
from handrail.core.joint.relations import SHARES, reached
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized, Sizes

AS_DEEP = 0.08  # of a beam's depth by which another of about the same depth may differ


@dataclass(frozen=True, eq=False)
class Sharing:
    """Among `assigned` connections; `index` has the place of each by its name."""

    assigned: list[Assigned]
    index: Mapping[str, int]

    @cached_property
    def related(self) -> dict[str, tuple[str, ...]]:
        """connection -> those whose bolts may be its own, as far as geometry goes."""
        there = {a.connection.id: a.connection.others(SHARES) for a in self.assigned if a.connection.relations}
        return {key: others for key, of in there.items() if (others := tuple(o for o in of if o in self.index))}

    def partners(self, key: str) -> tuple[str, ...]:
        """The connections whose bolts a connection may share, by its standard: those that it is related to and,
        however far, those that these are."""
        return reached([key], self._partners_of)[1:]

    def _partners_of(self, key: str) -> tuple[str, ...]:
        others = self.related.get(key, ())
        rule = self.assigned[self.index[key]].rule if others else None
        return others if rule is not None and STANDARDS[rule.use].shared else ()

    def common(self, key: str) -> frozenset[str]:
        """The sizes that a connection has alike with those whose bolts it may share: rows only where their beams are
        about as deep as its own, else each has some of its own."""
        own = self.assigned[self.index[key]]
        if own.rule is None or own.situation is None:
            return frozenset()
        deep = own.situation.supported.section.d
        situations = (self.assigned[self.index[p]].situation for p in self.partners(key))
        depths = [s.supported.section.d for s in situations if s is not None]
        each = any(abs(d - deep) > AS_DEEP * max(d, deep) for d in depths)
        return frozenset(STANDARDS[own.rule.use].shared) - ({"rows"} if each else set())

    def together(self, keys: Collection[str]) -> set[str]:
        """Connections with all whose bolts they may share, or whose own these are, whichever side has a standard for
        it."""

        def beside(key: str) -> tuple[str, ...]:
            own = self._partners_of(key)
            return tuple(o for o in self.related.get(key, ()) if o in own or key in self._partners_of(o))

        return set(keys) | set(reached([key for key in keys if key in self.index], beside))

    def alike(self, key: str, other: str) -> bool:
        """Whether two that are related have the same standard."""
        one, two = (self.assigned[self.index[name]] for name in (key, other))
        return bool(one.rule and two.rule and one.rule.use == two.rule.use and one.situation and two.situation)

    def counted_with(self, stood: Mapping[str, Sizes]) -> dict[str, str]:
        """connection -> the one with which the field bolts that hold both are counted, which has as many rows of them
        or more, of connections with the sizes that they stand with."""
        with_whom = {}
        for key, sizes in stood.items():
            for partner in sorted(self.partners(key), key=self.index.__getitem__):
                if partner not in stood or not self.alike(key, partner):
                    continue
                rows, theirs = (_rows(stood[name]) for name in (key, partner))
                if rows > theirs or (rows == theirs and self.index[partner] > self.index[key]):
                    continue
                rule = self.assigned[self.index[key]].rule
                assert rule is not None
                through = STANDARDS[rule.use].through
                if through(sizes) and through(stood[partner]):
                    with_whom[key] = partner
                    break
        return with_whom

    def giving_way(
        self, overrides: Mapping[str, Mapping[str, Any]], partners: Collection[str], names: Collection[str]
    ) -> dict[str, Mapping[str, Any]]:
        """Overrides where `partners` say nothing of `names` any more: of what is one for all the newer word holds."""
        left = dict(overrides)
        for partner in partners:
            if partner in left:
                left[partner] = {n: v for n, v in left[partner].items() if n not in names}
        return left

    def decided(self, key: str, overrides: Mapping[str, Mapping[str, Any]]) -> dict[str, Any]:
        """The overrides of a connection, and those of what it shares with others."""
        own = dict(overrides.get(key, {}))
        for partner in self.partners(key) if overrides else ():
            if partner in overrides and self.alike(key, partner):
                own = self._theirs(key, partner, overrides[partner]) | own
        return own

    def _theirs(self, key: str, partner: str, said: Mapping[str, Any]) -> dict[str, Any]:
        """What is decided for a partner of what both share, as it is for `key`."""
        one, other = self.assigned[self.index[key]], self.assigned[self.index[partner]]
        assert one.rule is not None and one.situation is not None and other.situation is not None
        standard = STANDARDS[one.rule.use]
        theirs = {n: Sized(v, "override") for n, v in said.items() if n in self.common(key)}
        if not theirs:
            return {}
        try:
            asked = standard.opposite(other.situation, standard.complete(other.situation, theirs), one.situation)
        except InputError:  # a formula without a value there: that side says so, and this one that it is not sized
            return {}
        return {n: asked[n] for n in theirs}


def _rows(sizes: Sizes) -> float:
    """How many rows of bolts there are."""
    return float(sizes["rows"].value) if "rows" in sizes else 0.0
