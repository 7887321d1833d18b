"""What two rulebooks say differently: practice, tables row by row, rules."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from difflib import unified_diff
from typing import Any

from handrail.core.quantities.units import show
from handrail.core.rulebook.also import Also
from handrail.core.rulebook.book import Rulebook
from handrail.core.rulebook.language import Text
from handrail.core.rulebook.rule import Rule
from handrail.core.rulebook.tables import Table
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes

MOST = 2000  # differences that are told


@dataclass(frozen=True)
class Difference:
    """`what` of a rulebook (practice, lateral, table, rule, order), which one, and how it was and is in words; empty
    where it was not, or is not."""

    what: str
    name: str
    was: str
    now: str


def differences(old: Rulebook, new: Rulebook, system: str = "us") -> list[Difference]:
    """In the units of `system`; in the order target, practice, lateral systems, tables, rules, their order,
    also-rules."""
    differences = (
        []
        if old.target == new.target
        else [Difference("practice", "target_utilisation", f"{old.target:g}", f"{new.target:g}")]
    )
    differences += _between(
        "practice", *({f"{name}.target_utilisation": f"{t:g}" for name, t in of.targets.items()} for of in (old, new))
    )
    if old.over_target != new.over_target:
        differences.append(Difference("practice", "over_target", old.over_target, new.over_target))
    if old.same_place != new.same_place:
        was, now = (show(of.same_place, "length", system) for of in (old, new))
        differences.append(Difference("practice", "same_place", was, now))
    if old.stock != new.stock:
        differences.append(Difference("practice", "stock", old.stock, new.stock))
    differences += _between(
        "practice", *({f"finish.{name}": words for name, words in of.finish.items()} for of in (old, new))
    )
    for standard in STANDARDS:
        old_sizes, new_sizes = (_said(standard, of.practice.get(standard, {}), system) for of in (old, new))
        differences += _between(
            "practice",
            {f"{standard}.{n}": v for n, v in old_sizes.items()},
            {f"{standard}.{n}": v for n, v in new_sizes.items()},
        )
    if old.lateral.category != new.lateral.category:
        differences.append(Difference("lateral", "category", old.lateral.category, new.lateral.category))
    if old.lateral.kinds != new.lateral.kinds:
        differences.append(
            Difference("lateral", "members", *("; ".join(map(str, of.lateral.kinds)) for of in (old, new)))
        )
    for name in dict.fromkeys((*old.tables, *new.tables)):
        differences += _of_table(name, old.tables.get(name), new.tables.get(name))
    was_rules, now_rules = ({r.name: r for r in of.rules} for of in (old, new))
    for name in dict.fromkeys((*was_rules, *now_rules)):
        a, b = was_rules.get(name), now_rules.get(name)
        if a is None or b is None:
            differences.append(
                Difference("rule", name, in_words(a, system) if a else "", in_words(b, system) if b else "")
            )
        else:
            parts = _between("rule", _parts(a, system), _parts(b, system))
            differences += [Difference("rule", f"{name}: {d.name}", d.was, d.now) for d in parts]
    common = [[n for n in of if n in was_rules and n in now_rules] for of in (was_rules, now_rules)]
    if common[0] != common[1]:
        differences.append(Difference("order", "rules", ", ".join(common[0]), ", ".join(common[1])))
    return [*differences, *_of_also(old, new, system)][:MOST]


def _of_also(old: Rulebook, new: Rulebook, system: str) -> list[Difference]:
    """What also-rules say otherwise; and their order, which counts."""
    was, now = ({a.name: _also_parts(a, system) for a in of.also} for of in (old, new))
    found = []
    for name in dict.fromkeys((*was, *now)):
        if name in was and name in now:
            parts = _between("also", was[name], now[name])
            found += [Difference("also", f"{name}: {d.name}", d.was, d.now) for d in parts]
        else:
            found.append(Difference("also", name, *(_one_line(of[name]) if name in of else "" for of in (was, now))))
    common = [[n for n in of if n in was and n in now] for of in (was, now)]
    if common[0] != common[1]:
        found.append(Difference("order", "also", ", ".join(common[0]), ", ".join(common[1])))
    return found


def line_by_line(old: Text, new: Text, names: tuple[str, str]) -> str:
    """Both as they are written, as a unified diff; tables in files after the text."""
    lines = list(unified_diff(old.text.splitlines(), new.text.splitlines(), *names, lineterm=""))
    for name in sorted({*old.files, *new.files}):
        a, b = (of.files.get(name, "").splitlines() for of in (old, new))
        lines += unified_diff(a, b, f"{names[0]} {name}", f"{names[1]} {name}", lineterm="")
    return "\n".join(lines)


def in_words(rule: Rule, system: str) -> str:
    """A rule in one line."""
    return _one_line(_parts(rule, system))


def also_in_words(also: Also, system: str) -> str:
    """What an also-rule adds, in one line."""
    return _one_line({n: v for n, v in _also_parts(also, system).items() if n not in ("when", "from", "note")})


def _one_line(parts: Mapping[str, str]) -> str:
    return "; ".join(f"{name} {value}" for name, value in parts.items() if value)


def _also_parts(also: Also, system: str) -> dict[str, str]:
    def of_all(given: Mapping[str, Sizes]) -> str:
        """Each parameter once, whatever the standard."""
        return _listed({n: v for standard, sizes in given.items() for n, v in _said(standard, sizes, system).items()})

    return {
        "when": ", ".join(map(str, also.when.parts)),
        "use": ", ".join(also.use),
        "sizes": ", ".join(dict.fromkeys(of.table.name for own in also.tables.values() for of in own)),
        "set": of_all(also.set),
        "least": of_all(also.least),
        "hold": ", ".join(sorted(also.hold)),
        "target_utilisation": "" if also.target is None else f"{also.target:g}",
        "from": also.origin,
        "note": also.note,
    }


def _parts(rule: Rule, system: str) -> dict[str, str]:
    ladder = rule.ladder
    rungs = "" if ladder is None else " | ".join(_listed(_said(rule.use, rung, system)) for rung in ladder.rungs)
    return {
        "when": ", ".join(map(str, rule.when.parts)),
        "use": f"design {rule.design}" if rule.design else rule.use,
        "sizes": ", ".join(of.table.name for of in rule.tables),
        "set": _listed(_said(rule.use, rule.set, system)),
        "hold": ", ".join(sorted(rule.hold)),
        "target_utilisation": "" if rule.target is None else f"{rule.target:g}",
        "ladder": f"{rungs} ({ladder.order})" if ladder and ladder.order != "as_written" else rungs,
        "from": rule.origin,
        "note": rule.note,
    }


def _said(standard: str, sizes: Sizes, system: str) -> dict[str, str]:
    of = STANDARDS[standard]
    return {n: str(s.value) if s.asked else of.parameter(n).show(s.value, system) for n, s in sizes.items()}


def _listed(said: Mapping[str, str]) -> str:
    return ", ".join(f"{name} {value}" for name, value in said.items())


def _of_table(name: str, old: Table | None, new: Table | None) -> list[Difference]:
    if old is None or new is None:
        return [
            Difference("table", name, f"{len(old.rows)} rows" if old else "", f"{len(new.rows)} rows" if new else "")
        ]
    was, now = ({row.said: _listed(row.cells) for row in of.rows} for of in (old, new))
    keys = [[(k.column.name, k.match) for k in of.keys] for of in (old, new)]
    differences = [] if keys[0] == keys[1] else [Difference("table", name, f"by {_by(keys[0])}", f"by {_by(keys[1])}")]
    return differences + [Difference("table", f"{name}: {d.name}", d.was, d.now) for d in _between("table", was, now)]


def _by(keys: list[tuple[str, str]]) -> str:
    return ", ".join(f"{name} ({match})" for name, match in keys)


def _between(what: str, was: Mapping[str, Any], now: Mapping[str, Any]) -> list[Difference]:
    names = dict.fromkeys((*was, *now))
    return [
        Difference(what, name, was.get(name, ""), now.get(name, "")) for name in names if was.get(name) != now.get(name)
    ]
