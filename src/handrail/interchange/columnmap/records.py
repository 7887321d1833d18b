"""Dumps as tables: lists of records in JSON, tables of an SQLite file."""

from __future__ import annotations

import json
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

JSON, SQLITE = (".json",), (".db", ".sqlite", ".sqlite3", ".db3")
MOST_JSON = 512 * 1024**2
MOST_ROWS = 20_000_000
LONGEST = 60.0  # seconds that the tables of an SQLite file may take
Rows = list[list[str]]


def json_tables(path: Path) -> dict[str, Rows]:
    """Every list of records in a JSON file by where it stands (`model.nodes`), each with its names in the first row;
    what a record is in comes with it (`members.id` of `members.forces`). Raises ValueError where it is none."""
    if path.stat().st_size > MOST_JSON:
        raise ValueError(f"is larger than {MOST_JSON / 1e6:.0f} MB")
    with path.open("rb") as stream:
        data = json.loads(stream.read().decode("utf-8-sig"))
    tables: dict[str, list[dict[str, str]]] = {}
    _walk(data, "", {}, tables)
    if isinstance(data, dict) and not any(True for _ in _records(data)) and (alone := _flat(data)):
        tables["values"] = [{"name": name, "value": value} for name, value in alone.items()]
    return {name or "all": _named(records) for name, records in tables.items()}


def _walk(node: Any, place: str, above: dict[str, str], tables: dict[str, list[dict[str, str]]]) -> None:
    if isinstance(node, list) and node and all(isinstance(one, list) for one in node):
        node = [{str(k): value for k, value in enumerate(one)} for one in node]
    records = list(_records(node))
    if not records:
        for name, inner in node.items() if isinstance(node, dict) else ():
            _walk(inner, f"{place}.{name}".lstrip("."), above, tables)
        return
    for record in records:
        own = _flat(record)
        if own:
            tables.setdefault(place, []).append({**above, **own})
        carried = {**above, **{f"{place.rsplit('.', 1)[-1]}.{name}": value for name, value in own.items()}}
        for name, inner in record.items():
            if any(True for _ in _records(inner)):
                _walk(inner, f"{place}.{name}".lstrip("."), carried, tables)


def _records(node: Any) -> Iterator[dict[str, Any]]:
    """The records of a list, or of an object of objects, by the name `key`."""
    if isinstance(node, list) and node and all(isinstance(one, dict) for one in node):
        yield from node
    elif (
        isinstance(node, dict)
        and len(node) > 1
        and all(isinstance(one, dict) for one in node.values())
        and _alike(list(node.values()))
    ):
        for key, one in node.items():
            yield {"key": key, **one}


def _alike(records: list[dict[str, Any]]) -> bool:
    """Whether objects have mostly the same names: records, and no parts of one thing."""
    first = set(records[0])
    return bool(first) and sum(len(first & set(one)) >= 0.5 * len(first | set(one)) for one in records) > 0.8 * len(
        records
    )


def _flat(record: dict[str, Any], before: str = "") -> dict[str, str]:
    """A record's own values; those of objects and short lists in it as `start.x`, `xyz.0`."""
    flat: dict[str, str] = {}
    for name, value in record.items():
        if isinstance(value, dict) and not any(True for _ in _records(value)):
            flat |= _flat(value, f"{before}{name}.")
        elif isinstance(value, list) and len(value) <= 12 and not any(isinstance(v, dict | list) for v in value):
            flat |= {f"{before}{name}.{k}": _text(v) for k, v in enumerate(value)}
        elif not isinstance(value, dict | list):
            flat[f"{before}{name}"] = _text(value)
    return flat


def _named(records: list[dict[str, str]]) -> Rows:
    names = list(dict.fromkeys(name for one in records for name in one))
    return [names, *([one.get(n, "") for n in names] for one in records)]


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return str(int(value))
    return repr(value) if isinstance(value, float) else str(value)


def sqlite_tables(path: Path, only: str = "", most: int = MOST_ROWS) -> dict[str, Rows]:
    """Every table and view of an SQLite file (or `only` one), its names in the first row. Raises ValueError where it is
    none."""
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro&immutable=1", uri=True)) as database:
            ends = time.monotonic() + LONGEST  # a view may be without end
            database.set_progress_handler(lambda: time.monotonic() > ends, 100_000)
            names = [
                str(n)
                for (n,) in database.execute(
                    "select name from sqlite_master where type in ('table', 'view') and name not like 'sqlite_%'"
                )
            ]
            tables = {}
            for name in names:
                if only and name.lower() != only.lower():
                    continue
                quoted = '"' + name.replace('"', '""') + '"'
                cursor = database.execute(f"select * from {quoted} limit {most}")
                tables[name] = [[str(d[0]) for d in cursor.description], *([_text(v) for v in row] for row in cursor)]
            return tables or {name: [] for name in names}
    except sqlite3.Error as exc:
        raise ValueError(f"is no SQLite file that can be read ({exc})") from exc
