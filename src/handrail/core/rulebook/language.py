"""Reads a rulebook: YAML with shop practice, size tables and ordered rules, perhaps on top of another; every error at
its line and column."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from functools import partial
from typing import Any

from handrail.core.building.nearest import SAME
from handrail.core.catalogue import STOCKS
from handrail.core.errors import InputError
from handrail.core.quantities.units import parse
from handrail.core.rulebook.also import Also, AlsoReader
from handrail.core.rulebook.book import Rulebook
from handrail.core.rulebook.design import DESIGN
from handrail.core.rulebook.lateral import UNSAID, read_lateral
from handrail.core.rulebook.lookups import asked_of
from handrail.core.rulebook.practice import (
    FINISH,
    FINISH_LONGEST,
    FINISHES,
    GROUPS,
    OVER,
    OVER_CHOICES,
    PLACE,
    PLACE_MOST,
    PRACTICE,
    STOCK,
    TARGET,
    USES,
    having,
)
from handrail.core.rulebook.reader import Reader, RulebookError, plain, tell_of_table
from handrail.core.rulebook.rule import Rule
from handrail.core.rulebook.rules import RuleReader, read_target
from handrail.core.rulebook.tables import NOTES, Table, read_table
from handrail.core.rulebook.yaml import NotYaml, load
from handrail.core.standards import STANDARDS
from handrail.core.standards.formulas import is_formula
from handrail.core.standards.sizes import Sizes

TOP_KEYS = ("rulebook", "title", "inherits", "leave_out", "practice", "lateral", "tables", "rules", "also")
MOST_RULES, MOST_TABLES, MOST_CELLS, MOST_FORMULAS, DEEPEST = 500, 100, 60_000, 1000, 5
LARGEST_FILE = 400_000  # characters
# what may be inherited, by `NAME R2`, and used, by `design NAME R2`; raises InputError
Library = Callable[[str], "Text"]


@dataclass(frozen=True)
class Text:
    """A rulebook as it was written, with the CSV files that its tables are in, by name."""

    text: str
    files: Mapping[str, str] = field(default_factory=dict)


def read_rulebook(text: str, files: Mapping[str, str] | None = None, library: Library | None = None) -> Rulebook:
    """The rulebook in YAML `text`, whose tables may be in `files`, and which may inherit from those in the `library`.
    Raises RulebookError with every problem found."""
    return _read(Text(text, files or {}), library, ())


def _read(given: Text, library: Library | None, above: tuple[str, ...]) -> Rulebook:
    try:
        data = load(given.text, comments=True)
    except NotYaml as exc:
        raise RulebookError([(exc.line, exc.column, exc.words + _hint(given.text, exc.line))]) from exc
    if not isinstance(data, dict):
        raise RulebookError([(1, 1, "a rulebook is a mapping with practice and rules")])
    reader = Reader()
    reader.keys(data, TOP_KEYS, "a rulebook")
    if data.get("rulebook") != 1:
        reader.wrong(data, "rulebook", "write 'rulebook: 1'; this service reads version 1")
    _refuse_costly(reader, data, given.files)
    base = _inherited(reader, data, library, above)
    tables = dict(base.tables) if base else {}
    tables |= _tables(reader, data, given.files)
    designs = None if library is None else lambda called: library(f"{DESIGN}{called}").text
    rules = RuleReader(reader, tables, {name: {} for name in STANDARDS}, designs=designs)
    target, over, practice = _practice(reader, data, rules, base)
    targets = _targets(reader, data, base)
    place = _same_place(reader, data, base)
    stock = _stock(reader, data, base)
    finish = _finish(reader, data, base)
    rules.practice = practice
    read = _rules(reader, data, rules, base)
    also = _also(reader, data, rules, base)
    _left_out(reader, data, base)
    lateral = read_lateral(reader, data, base.lateral if base else UNSAID)
    _unused_columns(reader, data, tables, read, also, practice)
    if reader.problems:
        raise RulebookError(sorted(set(reader.problems)))
    return Rulebook(
        str(data.get("title", "")),
        practice,
        target,
        read,
        tables,
        str(data.get("inherits") or ""),
        over,
        lateral,
        place,
        finish,
        also,
        targets,
        stock,
    )


def _hint(text: str, line: int) -> str:
    """What is usually meant where a line is not YAML."""
    said = "\n".join(text.splitlines()[max(line - 2, 0) : line])
    if re.search(r":\s*[<>]", said):
        return '; a comparison goes in quotes, like "> 20 kip"'
    if re.search(r":\s*[*&%@`]", said):
        return '; what begins with a sign goes in quotes, like "*tab*"'
    return "; tabs do not indent, spaces do" if "\t" in said else ""


def _refuse_costly(reader: Reader, data: Any, files: Mapping[str, str]) -> None:
    """Raises RulebookError for what would take long to read."""
    count, open_ = 0, [data]
    while open_:
        node = open_.pop()
        if isinstance(node, dict | list):
            open_.extend(node.values() if isinstance(node, dict) else node)
        count += is_formula(node)
    if count > MOST_FORMULAS:
        reader.wrong(
            data, None, f"it has {count} formulas; at most {MOST_FORMULAS}: put what they have in common in a table"
        )
    for name, text in files.items():
        if len(text) > LARGEST_FILE:
            reader.wrong(data, "tables", f"{name} has {len(text)} characters; at most {LARGEST_FILE}")
    if reader.problems:
        raise RulebookError(sorted(reader.problems))


def _inherited(
    reader: Reader, data: dict[str, Any], library: Library | None, above: tuple[str, ...]
) -> Rulebook | None:
    """The rulebook that this one inherits from."""
    if data.get("inherits") is None:
        return None
    name = str(data["inherits"])
    if name in above or len(above) >= DEEPEST:
        reader.wrong(
            data,
            "inherits",
            (
                f"{' -> '.join((*above, name))} goes in a circle"
                if name in above
                else f"rulebooks inherit at most {DEEPEST} deep"
            ),
        )
        return None
    if library is None:
        reader.wrong(data, "inherits", "only a rulebook of a job, or of the house, inherits from one of the house")
        return None
    try:
        book = _read(library(name), library, (*above, name))
    except RulebookError as exc:
        reader.wrong(data, "inherits", f"{name}: {exc}")
        return None
    except InputError as exc:
        reader.wrong(data, "inherits", exc.words)
        return None
    rules = tuple(rule if rule.origin else replace(rule, origin=name) for rule in book.rules)
    layers = tuple(also if also.origin else replace(also, origin=name) for also in book.also)
    return replace(book, rules=rules, also=layers)


def _tables(reader: Reader, data: dict[str, Any], files: Mapping[str, str]) -> dict[str, Table]:
    given = reader.mapping(data, "tables", "tables is a mapping of tables by name")
    if len(given) > MOST_TABLES:
        reader.wrong(data, "tables", f"{len(given)} tables; at most {MOST_TABLES}")
        return {}
    tables = {}
    for name, node in given.items():
        if not isinstance(node, dict):
            reader.wrong(given, name, f"table {str(name)[:40]}: a mapping with by, and rows, csv or file")
            continue
        reader.keys(node, ("by", "match", "units", "rows", "csv", "file", "note"), "a table")
        table = read_table(str(name), node, files, partial(tell_of_table, reader, node))
        if table is not None:
            tables[table.name] = table
    if (
        cells := sum(len(table.rows) * (len(table.columns) + len(table.keys)) for table in tables.values())
    ) > MOST_CELLS:
        reader.wrong(data, "tables", f"its tables have {cells} cells; at most {MOST_CELLS}")
        return {}
    return tables


def _practice(
    reader: Reader, data: dict[str, Any], rules: RuleReader, base: Rulebook | None
) -> tuple[float, str, dict[str, Sizes]]:
    """Target, what is over it, and sizes by standard: by parameter, over that by use, over that by standard."""
    given = reader.mapping(data, "practice", "practice is a mapping of parameters")
    said = read_target(reader, given)
    target = said if said is not None else base.target if base else 1.0
    over = given.get(OVER, base.over_target if base else OVER_CHOICES[0])
    if over not in OVER_CHOICES:
        reader.wrong(given, OVER, f"{OVER} is {' or '.join(OVER_CHOICES)}")
    practice: dict[str, Sizes] = {name: dict(base.practice.get(name, {})) if base else {} for name in STANDARDS}
    if base:
        practice = {
            s: {n: replace(z, source=_from(z.source, str(data["inherits"]))) for n, z in sizes.items()}
            for s, sizes in practice.items()
        }
    for name in [n for n in given if n not in (TARGET, OVER, PLACE, STOCK, FINISH, *GROUPS, *STANDARDS)]:
        standards = list(having(str(name)))
        if not standards:
            known = [
                *(p.name for s in STANDARDS.values() for p in s.parameters),
                *GROUPS,
                *STANDARDS,
                TARGET,
                OVER,
                PLACE,
                STOCK,
                FINISH,
            ]
            near = get_close_matches(str(name)[:60], known, 1, 0.6)
            meant = f"did you mean {near[0]}? " if near else ""
            reader.wrong(
                given,
                name,
                f"no standard has a parameter '{str(name)[:60]}'; {meant}practice takes parameters,"
                f" {', '.join(GROUPS)}, and standards by name",
                of_value=False,
            )
        for standard in standards:
            size = reader.attempt(given, name, rules.size, standard, name, plain(given[name]), PRACTICE)
            if size is not None:
                practice[standard.name][name] = size
    for group in [g for g in GROUPS if g in given]:
        _by_use(reader, given, group, rules, practice)
    for name in [s for s in STANDARDS if s in given]:
        for entry in [e for e in reader.mapping(given, name, "a mapping of parameters, like {rows: 3}") if e != TARGET]:
            practice[name] |= rules.entry(given[name], entry, STANDARDS[name], f"{PRACTICE} {name}")
    return float(target), str(over), practice


def _targets(reader: Reader, data: dict[str, Any], base: Rulebook | None) -> dict[str, float]:
    """What sizing aims at by standard, where practice says so; a target for all that is said here goes before those
    that are inherited."""
    practice = data.get("practice")
    given = practice if isinstance(practice, dict) else {}
    targets = dict(base.targets) if base and TARGET not in given else {}
    for name in [s for s in STANDARDS if isinstance(given.get(s), dict)]:
        if (target := read_target(reader, given[name])) is not None:
            targets[name] = target
    return targets


def _same_place(reader: Reader, data: dict[str, Any], base: Rulebook | None) -> float:
    """How far an end may move and be the same, mm."""
    given = data.get("practice")
    if not isinstance(given, dict) or PLACE not in given:
        return base.same_place if base else SAME
    place = reader.attempt(given, PLACE, parse, given[PLACE], "length")
    if place is not None and not 0.0 < place <= PLACE_MOST:
        reader.wrong(given, PLACE, f"{PLACE} is a length up to {PLACE_MOST:g} mm")
    return float(place or SAME)


def _stock(reader: Reader, data: dict[str, Any], base: Rulebook | None) -> str:
    """What the shop's plates and steps are in."""
    given = data.get("practice")
    if not isinstance(given, dict) or STOCK not in given:
        return base.stock if base else "in"
    if given[STOCK] not in STOCKS:
        reader.wrong(given, STOCK, f"{STOCK} is {' or '.join(STOCKS)}")
        return "in"
    return str(given[STOCK])


def _finish(reader: Reader, data: dict[str, Any], base: Rulebook | None) -> dict[str, str]:
    """How steel, bolts and rods are finished, in words; over what is inherited one by one."""
    practice = data.get("practice")
    finish = dict(base.finish) if base else {}
    if not isinstance(practice, dict) or FINISH not in practice:
        return finish
    given = reader.mapping(practice, FINISH, f"{FINISH} is a mapping with {', '.join(FINISHES)}")
    reader.keys(given, tuple(FINISHES), FINISH)
    for name in [n for n in FINISHES if n in given]:
        words = given[name]
        if not isinstance(words, str) or not words.strip() or len(words) > FINISH_LONGEST:
            reader.wrong(given, name, f"{FINISH}.{name} is a few words like hot-dip galvanized")
        else:
            finish[name] = " ".join(words.split())
    return finish


def _from(source: str, name: str) -> str:
    return f"{source} of {name}" if source.startswith(PRACTICE) and " of " not in source else source


def _by_use(reader: Reader, given: dict[str, Any], group: str, rules: RuleReader, practice: dict[str, Sizes]) -> None:
    node = reader.mapping(given, group, f"{group} is a mapping by use")
    uses = {u.name: u for u in USES if u.group == group}
    for name in [n for n in node if n not in uses]:
        reader.wrong(node, name, f"'{str(name)[:60]}' is no use of {group}; there is {', '.join(uses)}", of_value=False)
    for name in [n for n in uses if n in node]:  # in their own order, however they are written
        for standard, parameter in uses[name].parameters:
            size = reader.attempt(
                node, name, rules.size, STANDARDS[standard], parameter, plain(node[name]), f"{PRACTICE} {group}.{name}"
            )
            if size is not None:
                practice[standard][parameter] = size


def _rules(reader: Reader, data: dict[str, Any], rules: RuleReader, base: Rulebook | None) -> tuple[Rule, ...]:
    """Its own rules, then those that it inherits: one of the same name takes the place of the inherited one."""
    given = data.get("rules")
    if not isinstance(given, list) or len(given) > MOST_RULES or not (given or base):
        if given is not None or data.get("inherits") is None:
            reader.wrong(data, "rules", f"rules must be a list with at least one rule, {MOST_RULES} at most")
        given = []
    read = [rules.rule(given, k) for k in range(len(given))]
    names = [r.name for r in read if r]
    for k, rule in enumerate(read):
        if rule and rule.name in [r.name for r in read[:k] if r]:
            reader.wrong(given[k], "name", f"'{rule.name}' is the name of an earlier rule")
    theirs = base.rules if base else ()
    return (*(r for r in read if r), *(r for r in theirs if r.name not in (*names, *_out(data))))


def _also(reader: Reader, data: dict[str, Any], rules: RuleReader, base: Rulebook | None) -> tuple[Also, ...]:
    """The also-rules that it inherits, then its own, which hold over them: one of the same name takes the place of the
    inherited one."""
    given = data.get("also")
    if given is not None and (not isinstance(given, list) or len(given) > MOST_RULES):
        reader.wrong(data, "also", f"also is a list of rules that add to what took a connection, {MOST_RULES} at most")
    if not isinstance(given, list) or len(given) > MOST_RULES:
        given = []
    read = [AlsoReader(replace(rules, layered=True)).also(given, k) for k in range(len(given))]
    own = [also for also in read if also]
    for k, also in enumerate(read):
        if also and also.name in [a.name for a in read[:k] if a]:
            reader.wrong(given[k], "name", f"'{also.name}' is the name of an earlier also-rule")
    names = {also.name for also in own}
    return (*(a for a in (base.also if base else ()) if a.name not in (*names, *_out(data))), *own)


def _out(data: dict[str, Any]) -> list[str]:
    out = data.get("leave_out") or []
    return [str(name) for name in (out if isinstance(out, list) else [out])]


def _left_out(reader: Reader, data: dict[str, Any], base: Rulebook | None) -> None:
    """Tells of what is to be left out and is not there."""
    theirs = {*(rule.name for rule in base.rules), *(also.name for also in base.also)} if base else set()
    for name in _out(data):
        if name not in theirs:
            reader.wrong(data, "leave_out", f"no inherited rule is called '{name[:60]}'")


def _unused_columns(
    reader: Reader,
    data: dict[str, Any],
    tables: dict[str, Table],
    rules: tuple[Rule, ...],
    also: tuple[Also, ...],
    practice: dict[str, Sizes],
) -> None:
    """Tells of columns that nothing asks for: a name that was written wrong would leave a size out in silence."""
    looked: set[tuple[str, str]] = set()
    for rule in rules:
        for of in rule.tables:
            looked.update((of.table.name, p.name) for p in STANDARDS[rule.use].parameters)
        looked.update(_asked(rule.sizes_in_it, tables))
    for layer in also:
        for use in STANDARDS:
            looked.update((of.table.name, p) for of in layer.tables.get(use, ()) for p in STANDARDS[use].names)
            looked.update(_asked(layer.sizes_in_it(use), tables))
    looked.update(_asked([s for sizes in practice.values() for s in sizes.values()], tables))
    own = data.get("tables")
    for name, node in own.items() if isinstance(own, dict) else ():
        table = tables.get(str(name))
        if table is None or not any(asked == table.name for asked, _ in looked):
            continue  # wrong as a whole, or kept for later
        for column in table.columns:
            if column.name not in NOTES and (table.name, column.name) not in looked:
                words = (
                    f"nothing takes column '{column.name}': no rule that has its sizes from here has such a parameter,"
                    " and no look_up asks for it"
                )
                tell_of_table(
                    reader,
                    node,
                    ("row", 0) if "rows" in node else ("line", 1),
                    f"table {table.name}: {words} (call it note if it is for people)",
                )


def _asked(sizes: list[Any], tables: dict[str, Table]) -> set[tuple[str, str]]:
    try:
        return {(table.name, column) for size in sizes for table, column in asked_of(size.value, tables)}
    except InputError:
        return set()  # told already
