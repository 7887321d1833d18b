"""Thousands of rows by one statement made once: peewee's query builder would make it anew for each.

What is written is worked into the columns' own form outside any lock (`Changes`, `Additions`), so that the transaction
that writes it is short."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from typing import Any

from handrail.store.models import Record


class Additions:
    """Rows to be inserted into a table; what a row does not name has its default."""

    def __init__(self, model: type[Record], rows: Iterable[dict[str, Any]]) -> None:
        self._model, self._fields = model, [f for f in model._meta.sorted_fields if f.name != "id"]
        defaults = model._meta.get_default_dict()
        self._rows = [
            tuple(f.db_value(row[f.name] if f.name in row else defaults.get(f.name)) for f in self._fields)
            for row in rows
        ]

    def write(self) -> None:
        """Inside the caller's transaction."""
        names, marks = ", ".join(f'"{f.column_name}"' for f in self._fields), ", ".join("?" * len(self._fields))
        self._model._meta.database.connection().executemany(
            f'INSERT INTO "{self._model._meta.table_name}" ({names}) VALUES ({marks})', self._rows
        )


class Changes:
    """New values of `names` in the rows whose `by` is given: {key: values}."""

    def __init__(
        self, model: type[Record], names: Sequence[str], rows: Iterable[tuple[Any, dict[str, Any]]], by: str = "id"
    ) -> None:
        self._model, self._by, self._fields = model, by, [model._meta.fields[name] for name in names]
        self._rows = {key: tuple(f.db_value(row[f.name]) for f in self._fields) for key, row in rows}

    def write(self, job: int, keys: Collection[Any] | None = None) -> None:
        """Into the rows of `job`, of `keys` or all, each raised in its version; one that is so already stays, version
        and all. Inside the caller's transaction."""
        sets = ", ".join(f'"{f.column_name}" = ?' for f in self._fields)
        same = " AND ".join(f'"{f.column_name}" IS ?' for f in self._fields)
        self._model._meta.database.connection().executemany(
            f'UPDATE "{self._model._meta.table_name}" SET {sets}, "version" = "version" + 1 WHERE "job_id" = ? AND'
            f' "{self._by}" = ? AND NOT ({same})',
            ((*item, job, key, *item) for key, item in self._rows.items() if keys is None or key in keys),
        )


def insert(model: type[Record], rows: Iterable[dict[str, Any]]) -> None:
    """Rows into a table. Inside the caller's transaction."""
    Additions(model, rows).write()


def update(
    model: type[Record], names: Sequence[str], rows: Iterable[tuple[Any, dict[str, Any]]], job: int, by: str = "id"
) -> None:
    """Set `names` in the rows of `job` whose `by` is given. Inside the caller's transaction."""
    Changes(model, names, rows, by).write(job)
