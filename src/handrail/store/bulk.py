"""Thousands of rows by one statement made once: peewee's query builder would make it anew for each."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from handrail.store.models import Record


def insert(model: type[Record], rows: Iterable[dict[str, Any]]) -> None:
    """Rows into a table; what a row does not name has its default. Inside the caller's transaction."""
    fields = [f for f in model._meta.sorted_fields if f.name != "id"]
    defaults = model._meta.get_default_dict()
    names, marks = ", ".join(f'"{f.column_name}"' for f in fields), ", ".join("?" * len(fields))
    model._meta.database.connection().executemany(
        f'INSERT INTO "{model._meta.table_name}" ({names}) VALUES ({marks})',
        (tuple(f.db_value(row[f.name] if f.name in row else defaults.get(f.name)) for f in fields) for row in rows),
    )


def update(model: type[Record], names: Sequence[str], rows: Iterable[tuple[Any, dict[str, Any]]], job: int, by: str = "id") -> None:
    """Set `names` in the rows of `job` whose `by` is given, and raise their version; one that is so already stays, version and all.
    Inside the caller's transaction."""
    fields = [model._meta.fields[name] for name in names]
    sets = ", ".join(f'"{f.column_name}" = ?' for f in fields)
    same = " AND ".join(f'"{f.column_name}" IS ?' for f in fields)

    def values(row: dict[str, Any]) -> tuple[Any, ...]:
        return tuple(f.db_value(row[f.name]) for f in fields)

    model._meta.database.connection().executemany(
        f'UPDATE "{model._meta.table_name}" SET {sets}, "version" = "version" + 1 WHERE "job_id" = ? AND "{by}" = ? AND NOT ({same})',
        ((*found, job, key, *found) for key, found in ((key, values(row)) for key, row in rows)),
    )
