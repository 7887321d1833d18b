"""The one SQLite file that holds the records: WAL mode, foreign keys on; its write transactions and copies."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from peewee import DatabaseProxy

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


def backup(source: Path, target: Path) -> None:
    """A consistent copy of the records, taken while the service runs."""
    import sqlite3

    target.parent.mkdir(parents=True, exist_ok=True)
    with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as live, sqlite3.connect(target) as copy:
        live.backup(copy)
        copy.execute("pragma journal_mode = delete")
