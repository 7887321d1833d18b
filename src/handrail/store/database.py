"""The one SQLite file that holds the records: WAL mode, foreign keys on; its write transactions and copies."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import quote

from peewee import BlobField, DatabaseProxy

from handrail.core.errors import InputError
from handrail.store.trouble import trouble

proxy = DatabaseProxy()
STEP = 1000  # pages that are given back at a time
MUCH = 16 * 1024**2  # bytes that wait beside the records
PRAGMAS = {
    "auto_vacuum": 2,
    "journal_mode": "wal",
    "foreign_keys": 1,
    "busy_timeout": 15000,
    "synchronous": "full",
    "cache_size": -16000,
}


before_commit: list[Callable[[], None]] = []  # what is done at the end of every write transaction, inside it


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
        if proxy.transaction_depth() == 1:
            for seal in before_commit:
                seal()


@contextmanager
def passing() -> Iterator[None]:
    """One write transaction of what is made again where the power goes: nobody waits until the disk has it, and it is
    there at the latest with the next that lasts."""
    with _unhurried(), writing():
        yield


@contextmanager
def saying() -> Iterator[None]:
    """As `passing`, for one statement: it is kept by itself, so that nothing else that this process does comes between
    its lock and its end. In a transaction it would hold others up while another thread works."""
    with _unhurried():
        yield


@contextmanager
def _unhurried() -> Iterator[None]:
    """What is written is not waited for until the disk has it."""
    proxy.execute_sql("PRAGMA synchronous = normal")
    try:
        yield
    finally:
        proxy.execute_sql("PRAGMA synchronous = full")


def tidy(path: Path) -> bool:
    """Put what was written into the records' own file where much of it waits beside them, or give room in it back that
    nothing stands in, without anybody waiting for it; False where there is nothing to do, or somebody is in its way."""
    log = Path(f"{path}-wal")
    if not log.exists() or log.stat().st_size < MUCH:
        return _given_back()
    rows("PRAGMA wal_checkpoint(PASSIVE)")
    proxy.execute_sql("PRAGMA busy_timeout = 0")
    try:
        ((busy, *_),) = rows("PRAGMA wal_checkpoint(TRUNCATE)")
    finally:
        proxy.execute_sql(f"PRAGMA busy_timeout = {PRAGMAS['busy_timeout']}")
    return not busy


def _given_back() -> bool:
    """Whether some of the file was given back: where more of it is empty than the next run takes."""
    ((free,), (pages,), (size,)) = (rows(f"PRAGMA {name}")[0] for name in ("freelist_count", "page_count", "page_size"))
    if free * size < 4 * MUCH or free < pages / 3 or rows("PRAGMA auto_vacuum") == [(0,)]:
        return False
    with passing():
        rows(f"PRAGMA incremental_vacuum({STEP})")
    return rows("PRAGMA freelist_count")[0][0] < free


def rows(statement: str, *values: Any) -> list[tuple[Any, ...]]:
    """What a statement finds; for those that are run so often that making them anew each time counts."""
    return list(proxy.execute_sql(statement, values).fetchall())


def one(model: Any, statement: str, *values: Any) -> Any:
    """The first record that a statement finds, or None; `statement` follows `SELECT columns FROM table`, written once
    for a model."""
    if model not in _SELECT:
        fields = ", ".join(f'"{f.column_name}"' for f in model._meta.sorted_fields if not isinstance(f, BlobField))
        _SELECT[model] = f'SELECT {fields} FROM "{model._meta.table_name}"'
    return next(iter(model.raw(f"{_SELECT[model]} {statement}", *values)), None)


_SELECT: dict[Any, str] = {}


def backup(source: Path, target: Path) -> None:
    """A consistent copy of the records, taken while the service runs; `target` is whole or not there.

    Raises InputError where the records cannot be read, or the copy cannot be written.
    """
    part = target.with_name(f"{target.name}.part")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        part.unlink(missing_ok=True)
        part.touch(mode=0o600)  # as the records themselves: their owner's alone
        with (
            closing(sqlite3.connect(f"file:{quote(str(source))}?mode=ro", uri=True)) as live,
            closing(sqlite3.connect(part)) as copy,
        ):
            live.backup(copy)
            copy.execute("pragma journal_mode = delete")
        part.replace(target)
    except (sqlite3.Error, OSError) as exc:
        known = trouble(exc)
        raise InputError(
            f"{source} cannot be copied to {target} ({exc})" + (f": {known.words}" if known else "")
        ) from exc
    finally:
        for left in (part, Path(f"{part}-journal")):
            left.unlink(missing_ok=True)
