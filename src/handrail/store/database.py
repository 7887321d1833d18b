"""The one SQLite file that holds the records: WAL mode, foreign keys on; its write transactions and copies."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from peewee import BlobField, DatabaseProxy

proxy = DatabaseProxy()
PRAGMAS = {"journal_mode": "wal", "foreign_keys": 1, "busy_timeout": 15000, "synchronous": "full", "cache_size": -16000}


@contextmanager
def reading() -> Iterator[None]:
    """One read transaction: everything read in it is of one moment."""
    with proxy.atomic():
        yield


@contextmanager
def writing() -> Iterator[None]:
    """One write transaction that takes its lock at the start: all of it is kept, or none."""
    with proxy.atomic("IMMEDIATE"):
        yield


def rows(statement: str, *values: Any) -> list[tuple[Any, ...]]:
    """What a statement finds; for those that are run so often that making them anew each time counts."""
    return list(proxy.execute_sql(statement, values).fetchall())


def one(model: Any, statement: str, *values: Any) -> Any:
    """The first record that a statement finds, or None; `statement` follows `SELECT columns FROM table`, written once for a model."""
    if model not in _SELECT:
        fields = ", ".join(f'"{f.column_name}"' for f in model._meta.sorted_fields if not isinstance(f, BlobField))
        _SELECT[model] = f'SELECT {fields} FROM "{model._meta.table_name}"'
    return next(iter(model.raw(f"{_SELECT[model]} {statement}", *values)), None)


_SELECT: dict[Any, str] = {}


def backup(source: Path, target: Path) -> None:
    """A consistent copy of the records, taken while the service runs."""
    import sqlite3

    target.parent.mkdir(parents=True, exist_ok=True)
    with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as live, sqlite3.connect(target) as copy:
        live.backup(copy)
        copy.execute("pragma journal_mode = delete")
