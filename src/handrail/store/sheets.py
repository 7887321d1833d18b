"""Sheets: the connections of a job as they stand are the rows of its sheet. Many that are to take their place all at
once are prepared on another one beside it, in small transactions, and stand by one number."""

from __future__ import annotations

import json
import time
from collections.abc import Callable, Collection, Iterable, Iterator
from itertools import islice
from typing import Any

from peewee import Expression, SqliteDatabase

from handrail.store.bulk import Changes, sheet_of
from handrail.store.database import proxy, rows, writing
from handrail.store.models import Connection, ConnectionRow, Job

PART, PAUSE = 500, 0.03  # rows of a small transaction, and seconds in which others have theirs
_FIELDS = [f.column_name for f in ConnectionRow._meta.sorted_fields if f.name not in ("id", "sheet")]
_COLUMNS = ", ".join(f'"{name}"' for name in _FIELDS)
_COPY = (
    f"INSERT INTO connectionrow ({_COLUMNS}, sheet) SELECT {_COLUMNS}, ? FROM connectionrow WHERE +job_id = ? AND"
    " sheet = ? AND of IN (SELECT value FROM json_each(?))"  # by their numbers, not by going through the whole job
)
_FELL = (
    "SELECT n.of FROM connectionrow n JOIN connectionrow o ON o.of = n.of AND o.sheet = ? WHERE +n.job_id = ? AND"
    " n.sheet = ? AND n.of IN (SELECT value FROM json_each(?)) AND n.fell != '' AND o.released != ''"
)
_TELL = (
    "INSERT INTO event (job_id, connection, kind, words, author, made, place, gone, after, sealed) SELECT job_id, key,"
    " 'fell', fell, '', strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), json_extract(facts, '$.place'), 0, (SELECT"
    " coalesce(max(number), 0) FROM ledger l WHERE l.job_id = r.job_id), 0 FROM connectionrow r WHERE +job_id = ? AND"
    " sheet = ? AND of IN (SELECT value FROM json_each(?))"
)


_OTHER = "EXISTS (SELECT 1 FROM connectionrow r WHERE r.job_id = j.id AND r.sheet {} j.sheet)"


class Overtaken(Exception):
    """Another one prepares a sheet of the job."""


def make_view(database: SqliteDatabase) -> None:
    """What stands, read as if it were a table."""
    columns = ", ".join(
        f'r.{"of" if f.name == "id" else f.column_name} AS "{f.column_name}"' for f in Connection._meta.sorted_fields
    )
    database.execute_sql("DROP VIEW IF EXISTS connection")
    database.execute_sql(
        f"CREATE VIEW connection AS SELECT {columns} FROM connectionrow r JOIN job j ON j.id = r.job_id AND j.sheet ="
        " r.sheet"
    )


def make_watch(database: SqliteDatabase) -> None:
    """What changes on the sheet that stands while another one is prepared is noted."""
    for event, row in (("update", "new"), ("insert", "new"), ("delete", "old")):
        database.execute_sql(
            f"CREATE TRIGGER connectionrow_{event} AFTER {event} ON connectionrow WHEN EXISTS (SELECT 1 FROM job WHERE"
            f" id = {row}.job_id AND copying != 0 AND sheet = {row}.sheet) BEGIN INSERT OR IGNORE INTO touched (job_id,"
            f" of) VALUES ({row}.job_id, {row}.of); END"
        )


def standing(job: Job | int) -> Expression:
    """The rows of a job that stand."""
    number = job if isinstance(job, int) else job.id
    return (ConnectionRow.job == number) & (ConnectionRow.sheet == Job.select(Job.sheet).where(Job.id == number))


class Sheet:
    """A sheet that is prepared: every connection of the job as it stands, with `changes` of those among `keys`."""

    def __init__(self, job: int, changes: Changes, keys: Collection[str]) -> None:
        self.job, self.changes, self.keys, self.fell = job, changes, keys, set[int]()
        drop_left_over(job)
        with writing():
            ((stands, other),) = rows(
                "SELECT j.sheet, (SELECT max(sheet) FROM connectionrow WHERE job_id = j.id) FROM job j WHERE j.id = ?",
                job,
            )
            self.number = max(stands, other or 0) + 1
            proxy.execute_sql("DELETE FROM touched WHERE job_id = ?", (job,))
            Job.update(copying=self.number).where(Job.id == job).execute()

    def fill(self, going_on: Callable[[], None] = lambda: None) -> None:
        """Copy and change what stands, a part at a time; what `going_on` raises ends it."""
        every = rows(
            "SELECT of, key FROM connectionrow WHERE job_id = ? AND sheet = ? ORDER BY id", self.job, sheet_of(self.job)
        )
        for some in _parts(every):
            going_on()
            with writing():
                self._copy([of for of, _ in some])
                self.changes.write(self.job, {key for _, key in some}.intersection(self.keys), self.number)
                fell = rows(_FELL, sheet_of(self.job), self.job, self.number, json.dumps([of for of, _ in some]))
                self.fell |= {of for (of,) in fell}
            time.sleep(PAUSE)

    def _copy(self, numbers: Iterable[int]) -> None:
        proxy.execute_sql(_COPY, (self.number, self.job, sheet_of(self.job), json.dumps(list(numbers))))

    def take_over(self, without: Collection[str] = ()) -> set[str]:
        """Let it stand, with what changed meanwhile as it is now; those `without` their change as they stood. The names
        of both. Inside the caller's transaction. Raises Overtaken."""
        if rows("SELECT copying FROM job WHERE id = ?", self.job) != [(self.number,)]:
            raise Overtaken
        stands = sheet_of(self.job)
        late = {of for (of,) in rows("SELECT of FROM touched WHERE job_id = ?", self.job)}
        kept = {of for of, _ in self._rows_of(stands, "key", sorted(without))}
        again = sorted(late | kept)
        proxy.execute_sql(
            "DELETE FROM connectionrow WHERE +job_id = ? AND sheet = ? AND of IN (SELECT value FROM json_each(?))",
            (self.job, self.number, json.dumps(again)),
        )
        self._copy(again)
        late_rows = self._rows_of(self.number, "of", again)
        changed = {key for of, key in late_rows if of not in kept}
        Job.update(sheet=self.number, copying=0).where(Job.id == self.job).execute()
        proxy.execute_sql(_TELL, (self.job, self.number, json.dumps(sorted(self.fell.difference(again)))))
        self.changes.write(self.job, changed.intersection(self.keys))  # it stands: what falls is told
        proxy.execute_sql("DELETE FROM touched WHERE job_id = ?", (self.job,))
        return {key for _, key in late_rows}

    def _rows_of(self, sheet: int, by: str, values: list[Any]) -> list[tuple[int, str]]:
        return rows(
            f"SELECT of, key FROM connectionrow WHERE {'+' * (by == 'of')}job_id = ? AND sheet = ? AND {by} IN (SELECT"
            " value FROM json_each(?))",
            self.job,
            sheet,
            json.dumps(values),
        )


def drop_left_over(job: int) -> None:
    """The rows of a job that do not stand, and are not prepared any more, go a part at a time."""
    with writing():
        Job.update(copying=0).where((Job.id == job) & (Job.copying != 0)).execute()
    while True:
        with writing():
            gone = proxy.execute_sql(
                "DELETE FROM connectionrow WHERE id IN (SELECT id FROM connectionrow WHERE job_id = ? AND sheet !="
                " (SELECT sheet FROM job WHERE id = ?) LIMIT ?)",
                (job, job, PART),
            ).rowcount
        if gone < PART:
            return
        time.sleep(PAUSE)


def left_over() -> int | None:
    """A job that has rows which do not stand, and nobody who prepares them."""
    nobody = "NOT EXISTS (SELECT 1 FROM run WHERE run.job_id = j.id AND state = 'running')"
    found = rows(f"SELECT id FROM job j WHERE ({_OTHER.format('<')} OR {_OTHER.format('>')}) AND {nobody} LIMIT 1")
    return int(found[0][0]) if found else None


def drop_some() -> bool:
    """The rows that a worker left which ended; False where there are none."""
    job = left_over()
    if job is not None:
        drop_left_over(job)
    return job is not None


def _parts(every: Iterable[Any]) -> Iterator[list[Any]]:
    going = iter(every)
    while some := list(islice(going, PART)):
        yield some
