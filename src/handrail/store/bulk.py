"""Thousands of rows by one statement made once: peewee's query builder would make it anew for each.

What is written is worked into the columns' own form outside any lock (`Changes`, `Additions`), so that the transaction
that writes it is short."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from typing import Any

from handrail.store.alike import COLUMNS, numbers_of
from handrail.store.database import proxy, rows
from handrail.store.models import ConnectionRow, Record


class Additions:
    """Rows to be inserted into a table; what a row does not name has its default."""

    def __init__(self, model: type[Record], rows: Iterable[dict[str, Any]]) -> None:
        self._model, self._fields = model, [f for f in model._meta.sorted_fields if f.name != "id"]
        self._rows = _as_kept(model, self._fields, rows)

    def write(self) -> None:
        """Inside the caller's transaction."""
        names, marks = ", ".join(f'"{f.column_name}"' for f in self._fields), ", ".join("?" * len(self._fields))
        self._model._meta.database.connection().executemany(
            f'INSERT INTO "{self._model._meta.table_name}" ({names}) VALUES ({marks})', self._rows
        )


def _as_kept(model: type[Record], fields: Sequence[Any], rows: Iterable[dict[str, Any]]) -> list[tuple[Any, ...]]:
    """Rows in the columns' own form; what a row does not name has its default, which is made once."""
    given = model._meta.get_default_dict()
    defaults = {f.name: f.db_value(given.get(f.name)) for f in fields}
    return [tuple(f.db_value(row[f.name]) if f.name in row else defaults[f.name] for f in fields) for row in rows]


class NewConnections:
    """Connections that were not there, for a sheet of their job, each with a number of its own."""

    def __init__(self, rows: Iterable[dict[str, Any]]) -> None:
        self._fields = [f for f in ConnectionRow._meta.sorted_fields if f.name not in ("id", "of", "sheet")]
        self._rows = _as_kept(ConnectionRow, self._fields, rows)

    def __len__(self) -> int:
        return len(self._rows)

    def write(self, sheet: int, start: int, end: int) -> None:
        """Those from `start` up to `end` onto a sheet. Inside the caller's transaction."""
        ((last,),) = rows("SELECT coalesce(max(of), 0) FROM connectionrow")
        names, marks = ", ".join(f'"{f.column_name}"' for f in self._fields), ", ".join("?" * len(self._fields))
        proxy.connection().executemany(
            f"INSERT INTO connectionrow (of, sheet, {names}) VALUES (?, ?, {marks})",
            ((number, sheet, *row) for number, row in enumerate(self._rows[start:end], last + 1)),
        )


class Changes:
    """New values of `names` in connections, by their key or `by` their number (`of`): {key: values}."""

    def __init__(self, names: Sequence[str], rows: Iterable[tuple[Any, dict[str, Any]]], by: str = "key") -> None:
        self._by, self._fields = by, [ConnectionRow._meta.fields[name] for name in names]
        self._rows = {key: tuple(f.db_value(row[f.name]) for f in self._fields) for key, row in rows}

    def __len__(self) -> int:
        return len(self._rows)

    def write(self, job: int, keys: Collection[Any] | None = None, sheet: int | None = None) -> None:
        """Into the rows of `job` on the sheet that stands, or on another one, of `keys` or all, each raised in its
        version; one that is so already stays, version and all. Inside the caller's transaction."""
        on = sheet_of(job) if sheet is None else sheet
        some = self._rows if keys is None else {key: self._rows[key] for key in keys if key in self._rows}
        alike = [k for k, f in enumerate(self._fields) if f.column_name in COLUMNS]
        kept = numbers_of({item[k] for item in some.values() for k in alike})
        sets = ", ".join(f'"{f.column_name}" = ?' for f in self._fields)
        same = " AND ".join(f'"{f.column_name}" IS ?' for f in self._fields)
        proxy.connection().executemany(
            f'UPDATE connectionrow SET {sets}, "version" = "version" + 1 WHERE "job_id" = ? AND "sheet" = ? AND'
            f' "{self._by}" = ? AND NOT ({same})',
            (
                (*own, job, on, key, *own)
                for key, item in some.items()
                for own in [[kept[value] if k in alike else value for k, value in enumerate(item)]]
            ),
        )


def sheet_of(job: int) -> int:
    """The sheet on which a job's connections stand."""
    return int(rows("SELECT sheet FROM job WHERE id = ?", job)[0][0])


def insert(model: type[Record], rows: Iterable[dict[str, Any]]) -> None:
    """Rows into a table. Inside the caller's transaction."""
    Additions(model, rows).write()


def update(names: Sequence[str], rows: Iterable[tuple[int, dict[str, Any]]], job: int) -> None:
    """Set `names` in connections of `job` by their numbers. Inside the caller's transaction."""
    Changes(names, rows, "of").write(job)
