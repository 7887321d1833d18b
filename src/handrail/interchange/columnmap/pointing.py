"""A map made by pointing: what there is to point at, what is still missing and weighs most, and one change at a time
written into the map's text."""

from __future__ import annotations

import re
import tomllib
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import tomlkit
from tomlkit.items import InlineTable

from handrail.core.errors import InputError
from handrail.interchange.bundle import SETS
from handrail.interchange.columnmap.drafting import column, named
from handrail.interchange.columnmap.drafts import Draft, source_keys
from handrail.interchange.columnmap.finding import Source, sources_in
from handrail.interchange.columnmap.language import ASK, LAYOUTS, SHARES, STATED
from handrail.interchange.columnmap.meanings import HELD, HOLDS, MOST_WORDS, holds, kind_of_support, meant
from handrail.interchange.columnmap.proposing import drafted
from handrail.interchange.columnmap.recognising import Recognised
from handrail.interchange.columnmap.trying import tried
from handrail.interchange.tables import SIX, TABLES, Column

ORDER = (
    "nodes",
    "members",
    "end_forces",
    "cases",
    "combinations",
    "supports",
    "reactions",
    "node_loads",
    "grids",
    "levels",
    "pieces",
    "foundations",
    "splices",
    "member_loads",
    "sections",
    "stations",
)
SAMPLE = 5
OFFERED = {"set": SETS}  # words for columns that take others as well
WORDS = {
    "node": "a node's name",
    "x": "coordinate",
    "y": "coordinate",
    "z": "coordinate",
    "member": "a member's name",
    "i": "node at its start",
    "j": "node at its end",
    "section": "of the catalogue",
    "grade": "of steel",
    "roll": "turn about its axis",
    "role": "beam, column or brace",
    "release_i": "what is free at i",
    "release_j": "what is free at j",
    "result": "case or combination",
    "end": "i, j or the node there",
    "distance": "along the member from i",
    "nature": "dead, live, wind ...",
    "set": "strength, service ...",
    "method": "LRFD, ASD or none",
    "factor": "of the case",
    "Fx": "axial",
    "Fy": "shear in the web",
    "Fz": "shear across",
    "Mx": "torsion",
    "My": "bending across",
    "Mz": "bending of the web",
}


@dataclass
class Found:
    """One table in the files as it stands, to be pointed at."""

    called: str
    file: str
    names: list[str]
    units: dict[str, str]
    rows: int
    sample: list[list[str]]
    used: list[str] = field(default_factory=list)  # our tables that are read from it


@dataclass(frozen=True)
class Missing:
    """Something that a map does not say yet: of a table, and a column of it."""

    table: str
    column: str
    words: str


def found_in(root: Path) -> list[Source]:
    """What there is in the files."""
    return sources_in(root)


def shown(sources: list[Source], text: str) -> list[Found]:
    """What there is, with what each is read as through a map."""
    tables = tables_of(text)
    return [
        Found(
            s.called,
            s.file,
            s.names,
            s.units,
            len(s.rows),
            [row[: len(s.names)] for row in s.rows[:SAMPLE]],
            [name for name, node in tables.items() if _is_of(node, s)],
        )
        for s in sources
    ]


def tables_of(text: str) -> dict[str, dict[str, Any]]:
    """The tables of a map as it is written; none where it cannot be read."""
    try:
        tables = tomllib.loads(text).get("tables", {})
    except (tomllib.TOMLDecodeError, RecursionError):
        return {}
    return (
        {str(name): node for name, node in tables.items() if isinstance(node, dict)} if isinstance(tables, dict) else {}
    )


def _is_of(node: dict[str, Any], source: Source) -> bool:
    """Whether a table of a map is read from a source."""
    keys = source_keys(source.map)
    return all(_listed(node.get(key)) == _listed(keys.get(key)) for key in ("file", "sheet", "after"))


def _listed(given: Any) -> list[str]:
    return [] if given is None else list(map(str, given)) if isinstance(given, list) else [str(given)]


def missing(text: str) -> list[Missing]:
    """What a map does not say, what weighs most first: tables, their columns, then what is asked for."""
    tables = tables_of(text)
    lacking = [Missing(name, "", "not read yet") for name in ORDER if TABLES[name].required and name not in tables]
    for name in (n for n in ORDER if n in tables):
        node = tables[name]
        columns = node.get("columns") if isinstance(node.get("columns"), dict) else {}
        for wanted in fields(name, str(node.get("layout", "rows"))):
            if wanted.required and not _says(node, columns or {}, wanted.name):
                lacking.append(Missing(name, wanted.name, WORDS.get(wanted.name, "no column yet")))
    lacking += _asked(text, tables)
    return lacking


def _says(node: dict[str, Any], columns: dict[str, Any], name: str) -> bool:
    if name in columns or (node.get("layout") in ("cases", "terms") and name in ("case", "factor")):
        return True
    ends = node.get("ends") if node.get("layout") == "ends" and isinstance(node.get("ends"), dict) else {}
    return bool(ends) and (name == "end" or all(isinstance(own, dict) and name in own for own in (ends or {}).values()))


def _asked(text: str, tables: dict[str, dict[str, Any]]) -> list[Missing]:
    data = tomllib.loads(text) if tables else {}
    units = data.get("units") if isinstance(data.get("units"), dict) else {}
    lacking = [
        Missing("", name, "write it: the files do not say") for name in ("up", "forces") if data.get(name, ASK) == ASK
    ]
    lacking += [
        Missing("", f"units.{name}", "write it: the files do not say")
        for name in STATED[:4]
        if (units or {}).get(name, ASK) == ASK
    ]
    for name, node in tables.items():
        columns = node.get("columns") if isinstance(node.get("columns"), dict) else {}
        for ours, spec in (columns or {}).items():
            asked = (
                [k for k, v in spec.get("values", {}).items() if v == ASK]
                if isinstance(spec, dict) and isinstance(spec.get("values", {}), dict)
                else []
            )
            if isinstance(spec, dict) and spec.get("value") == ASK:
                lacking.append(Missing(name, ours, "the same for all: write it"))
            elif asked:
                lacking.append(
                    Missing(
                        name, ours, f"what {', '.join(map(repr, asked[:4]))}{' ...' if len(asked) > 4 else ''} mean"
                    )
                )
    return lacking


def fields(table: str, layout: str = "rows") -> list[Column]:
    """Our columns of a table in a layout, those needed first."""
    columns = [c for c in TABLES[table].columns if not (layout == "stations" and c.name == "end")]
    if layout == "stations":
        columns.insert(1, Column("distance", "number", True, "length"))
    return sorted(columns, key=lambda c: not c.required)


def changed(text: str, change: dict[str, Any], root: Path, sources: list[Source]) -> str:
    """The map's text with one change: `state` or `unit` with name and value; `table` with the source that it is read
    from (empty to leave it out); `key` of how a source is written; `column` with its spec (none to leave it out),
    perhaps the end, and which it is `instead` of; `held` for all that supports hold by the words of one column; `try`
    for what statics says. Raises InputError where it cannot be made."""
    try:
        document = tomlkit.parse(text or "map = 1\n")
    except tomlkit.exceptions.ParseError as exc:
        raise InputError(f"the map is not TOML, put that right first: {exc}") from exc
    match change.get("what"):
        case "try":
            return tried(text, root)
        case "state":
            document[str(change["name"])] = change["value"]
        case "unit":
            document.setdefault("units", tomlkit.table())[str(change["name"])] = str(change["value"])
        case "table":
            _put_table(document, change, root, sources)
        case "key":
            _put_key(_node(document, str(change["table"])), str(change["name"]), change.get("value"))
        case "column":
            _put_chosen(_node(document, str(change["table"])), change, sources)
        case "held":
            _put_held(_node(document, "supports"), str(change["name"]), change.get("value"), sources)
        case other:
            raise InputError(f"'{other}' is no change: state, unit, table, key, column, held or try")
    return tomlkit.dumps(document)


def _node(document: tomlkit.TOMLDocument, table: str) -> Any:
    tables = document.get("tables", {})
    if table not in tables:
        raise InputError(f"the map has no table '{table}' yet: say first which file it is read from")
    return tables[table]


def _put_key(node: Any, name: str, value: Any) -> None:
    if value in (None, "", [], False):
        node.pop(name, None)
    else:
        node[name] = value


def _put_column(node: Any, change: dict[str, Any]) -> None:
    end, name, spec = change.get("end"), str(change["name"]), change.get("spec")
    if end:
        node.setdefault("ends", tomlkit.table(is_super_table=True)).setdefault(str(end), tomlkit.table())
    columns = node["ends"][str(end)] if end else node.setdefault("columns", tomlkit.table())
    if spec is None:
        columns.pop(name, None)
        return
    columns[name] = spec["column"] if list(spec) == ["column"] else _inline(spec)


def _put_chosen(node: Any, change: dict[str, Any], sources: list[Source]) -> None:
    """A column that somebody chose: what it is `instead` of falls, and where it is of words, what they mean is
    proposed."""
    old, _, end = str(change.get("instead") or "").partition(" at ")
    if old:
        _put_column(node, {"name": old, "end": end, "spec": None})
    spec = change.get("spec") or {}
    words = _words_of(node, spec["column"], sources) if list(spec) == ["column"] else []
    if words and (meanings := meant(str(change["table"]), str(change["name"]), words)) is not None:
        change = change | {"spec": {"column": spec["column"], "values": meanings}}
    _put_column(node, change)


def _words_of(node: Any, name: str, sources: list[Source]) -> list[str]:
    """The different texts of a column in what a table is read from."""
    source = next((s for s in sources if name in s.names and _is_of(dict(node), s)), None)
    return source.distinct(name) if source else []


def _put_held(node: Any, name: str, kinds: Any, sources: list[Source]) -> None:
    """All that supports hold, told in the words of one column: each word a kind of support; without `kinds` they are
    proposed, empty they fall."""
    if kinds == "":
        for ours in HELD:
            node["columns"].pop(ours, None)
        return
    words = (
        kinds
        if isinstance(kinds, dict)
        else {word: kind_of_support(word) for word in _words_of(node, name, sources)[:MOST_WORDS]}
    )
    for word, kind in words.items():
        if kind != ASK and kind not in HOLDS and not re.fullmatch("[01]{6}", str(kind)):
            raise InputError(
                f"'{kind}' of '{word}' is no kind of support: {', '.join(HOLDS)}, or six marks like 111000 of"
                f" {' '.join(HELD)}"
            )
    for ours, values in holds(words).items():
        _put_column(node, {"name": ours, "spec": {"column": name, "values": values}})


def _inline(values: dict[str, Any]) -> InlineTable:
    table = tomlkit.inline_table()
    for key, value in values.items():
        table[key] = _inline(value) if isinstance(value, dict) else value
    return table


def _put_table(document: tomlkit.TOMLDocument, change: dict[str, Any], root: Path, sources: list[Source]) -> None:
    name = str(change["table"])
    if name not in TABLES:
        raise InputError(f"'{name}' is no table; there is {', '.join(TABLES)}")
    tables = document.setdefault("tables", tomlkit.table(is_super_table=True))
    if not change.get("source"):
        tables.pop(name, None)
        return
    source = next((s for s in sources if s.called == change["source"]), None)
    if source is None:
        raise InputError(
            f"there is no '{change['source']}' in the files; there is {', '.join(s.called for s in sources)}"
        )
    draft = _drafted(name, source, root, sources)
    node = tomlkit.table()
    for key, value in (
        source_keys(draft.source) | draft.layout | ({"cases": draft.cases} if draft.cases else {})
    ).items():
        node[key] = _inline(value) if isinstance(value, dict) else value
    for end, own in draft.ends.items():
        for ours, spec in own.items():
            _put_column(node, {"name": ours, "spec": spec, "end": end})
    for ours, spec in draft.columns.items():
        _put_column(node, {"name": ours, "spec": spec})
    node.setdefault("columns", tomlkit.table())
    tables[name] = node


def _drafted(table: str, source: Source, root: Path, sources: list[Source]) -> Draft:
    """The table as it is proposed of a source, forces as statics has them; else what its columns' names alone say."""
    whole = (
        drafted(root)
        if table in ("end_forces", "reactions", "node_loads")
        else Recognised([replace(s, used={}) for s in sources]).all()
    )
    proposed = next(
        (t for t in whole.tables if t.table == table and source_keys(t.source) == source_keys(source.map)), None
    )
    if proposed is not None:
        return proposed
    draft = Draft(table, source.map)
    taken: set[str] = set()
    for ours in TABLES[table].columns:
        theirs = next((n for n in source.names if n.lower() == ours.name.lower() and n not in taken), "") or _named(
            source, ours.name, taken
        )
        if theirs:
            taken.add(theirs)
            kind = "length" if ours.unit == "section" else ours.unit
            draft.columns[ours.name] = column(source, ours.name, theirs, kind)
    return draft


def _named(source: Source, ours: str, taken: set[str]) -> str:
    try:
        return named(source, ours, taken)
    except KeyError:  # no word for it
        return ""


def choices() -> dict[str, Any]:
    """What there is to choose from: our tables and their columns, layouts, units."""
    tables = [
        {
            "table": name,
            "required": TABLES[name].required,
            "layouts": list(LAYOUTS.get(name, ("rows",))),
            "columns": [
                {
                    "name": c.name,
                    "required": c.required,
                    "kind": c.kind,
                    "unit": "length" if c.unit == "section" else c.unit,
                    "choices": list(OFFERED.get(c.name, c.choices)),
                    "words": WORDS.get(c.name, ""),
                }
                for c in fields(name)
            ],
        }
        for name in ORDER
    ]
    units = {
        "length": ["m", "mm", "cm", "ft", "in"],
        "force": ["kN", "N", "kip", "lbf"],
        "angle": ["deg", "rad"],
        "stress": ["MPa", "ksi", "psi"],
        "moment": ["kN*m", "N*mm", "N*m", "kip*ft", "kip*in", "lbf*ft"],
        "place": list(SHARES),
    }
    return {"tables": tables, "units": units, "six": [c.name for c in SIX], "holds": HOLDS}
