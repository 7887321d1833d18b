"""Names that a rulebook asks for and nothing has: sections, levels, groups and the like, in rules and in rows of
tables, with the nearest that there is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from difflib import get_close_matches

from handrail.core.catalogue.grades import all_grades
from handrail.core.catalogue.sections import all_sections
from handrail.core.checking.coverage import facts_beside
from handrail.core.checking.plan import Plan
from handrail.core.rulebook.conditions import Asked, Condition, Joined
from handrail.core.rulebook.facts import fact
from handrail.core.rulebook.tables import Table

MOST = 200
KNOWN = {
    "section": lambda: [s.name for s in all_sections()],
    "grade": all_grades,
}  # that may come with a later revision


@dataclass(frozen=True)
class Nameless:
    """`where` in words (rule 'X', table X row Y), the fact, the `name` that fits nothing, and the one that is `near`;
    empty where none is."""

    where: str
    fact: str
    name: str
    near: str


def nameless(plan: Plan) -> list[Nameless]:
    """What of a plan's rulebook names nothing that is in the building, nor (sections, grades) in the catalogue."""
    names = _Names(plan)
    unknown = [n for rule in plan.rulebook.rules for n in names.of(f"rule '{rule.name}'", rule.when)]
    unknown += [n for also in plan.rulebook.also for n in names.of(f"also-rule '{also.name}'", also.when)]
    unknown += [n for table in plan.rulebook.tables.values() for n in names.of_table(table)]
    return unknown[:MOST]


class _Names:
    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self._known: dict[str, set[str]] = {}

    def known(self, name: str) -> set[str]:
        """Every value of a fact of names, over all connections."""
        if name not in self._known:
            known: set[str] = set(KNOWN[name.rsplit(".", 1)[-1]]()) if name.rsplit(".", 1)[-1] in KNOWN else set()
            for k, assigned in enumerate(self.plan.by_rules):
                if assigned.situation is not None:
                    value = facts_beside(self.plan, k).get(name)
                    known.update([value] if isinstance(value, str) else value or ())
            self._known[name] = known
        return self._known[name]

    def of(self, where: str, condition: Condition) -> Iterator[Nameless]:
        """The names in a condition that fit nothing."""
        if isinstance(condition, Joined):
            for part in condition.parts:
                yield from self.of(where, part)
        elif isinstance(condition, Asked) and fact(condition.fact).kind in ("name", "words"):
            known = self.known(condition.fact)
            for name, test in condition.each.items():
                if not any(test(value) for value in known):
                    yield Nameless(where, condition.fact, name, _near(name, known))

    def of_table(self, table: Table) -> Iterator[Nameless]:
        """The keys of its rows that fit nothing."""
        for at, key in enumerate(table.keys):
            if (
                key.fact is None
                or key.fact.kind not in ("name", "words")
                or key.match == "range"
                or key.fact.name not in self.plan.rulebook.asks
            ):
                continue
            known = {key.plain(value): value for value in self.known(key.fact.name)}
            for said in dict.fromkeys(row.keys[at] for row in table.rows):
                own = key.plain(said)
                if own not in known and not (key.match == "prefix" and any(name.startswith(own) for name in known)):
                    yield Nameless(f"table {table.name}", key.fact.name, said, _near(said, known.values()))


def _near(name: str, known: Iterable[str]) -> str:
    by_key: Mapping[str, str] = {value.casefold(): value for value in known}
    near = get_close_matches(name.casefold().replace("*", ""), by_key, 1, 0.6)
    return by_key[near[0]] if near else ""
