"""Sheets: the connections of a job as they stand are the rows of its sheet. Many that are to take their place all at
once are prepared on another one beside it, in small transactions, and stand by one number."""

from __future__ import annotations

import json
import time
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from itertools import islice
from types import MappingProxyType
from typing import Any, TypeVar

from peewee import Expression, SqliteDatabase

from handrail.store.alike import said
from handrail.store.bulk import NewConnections, sheet_of
from handrail.store.database import passing, proxy, rows, writing
from handrail.store.models import Connection, ConnectionRow, Job

PART, PAUSE = 200, 0.012  # rows of a small transaction, and seconds in which others have theirs
WAIT = 0.2  # seconds until the next look whether another sheet is done
_FIELDS = [f.column_name for f in ConnectionRow._meta.sorted_fields if f.name not in ("id", "sheet")]
_COLUMNS = ", ".join(f'"{name}"' for name in _FIELDS)
_COPY = (
    f"INSERT INTO connectionrow ({_COLUMNS}, sheet) SELECT {{}}, ? FROM connectionrow WHERE +job_id = ? AND"
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
_PLAIN = _COPY.format(_COLUMNS)
_OTHER = "EXISTS (SELECT 1 FROM connectionrow r WHERE r.job_id = j.id AND r.sheet {} j.sheet)"


_WORKING = (
    "((SELECT count(*) FROM run WHERE job_id = {} AND state = 'running') + (SELECT count(*) FROM import WHERE job_id ="
    " {} AND state = 'running'))"
)


class Overtaken(Exception):
    """Another one prepares a sheet of the job."""


def make_view(database: SqliteDatabase) -> None:
    """What stands, read as if it were a table."""
    columns = ", ".join(
        f'{"r.of" if f.name == "id" else said(f.column_name, "r")} AS "{f.column_name}"'
        for f in Connection._meta.sorted_fields
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


T = TypeVar("T")
Prepare = Callable[[Sequence[tuple[int, str]], int], None]


class Sheet:
    """A sheet that is prepared: every connection of the job as it stands, but those `without`; `copied` says of a
    column what is copied instead of it (SQL), and `prepare` then writes into the rows of some of them, by their numbers
    and the names that they stand by.

    Of a job one is prepared at a time: who comes second waits for the first, and says so by `going_on`."""

    def __init__(
        self,
        job: int,
        prepare: Prepare,
        copied: Mapping[str, str] = MappingProxyType({}),
        without: Collection[int] = (),
        going_on: Callable[[], None] = lambda: None,
    ) -> None:
        self.job, self.without, self.fell = job, set(without), set[int]()
        self._prepare = prepare
        self._copied = _COPY.format(", ".join(copied.get(name, f'"{name}"') for name in _FIELDS))
        while not self._begun():
            going_on()
            time.sleep(WAIT)
        drop_left_over(job)

    def _begun(self) -> bool:
        """Whether it is this one's turn."""
        with writing():
            ((stands, other, last),) = rows(
                "SELECT j.sheet, j.copying, (SELECT max(sheet) FROM connectionrow WHERE job_id = j.id) FROM job j WHERE"
                " j.id = ?",
                self.job,
            )
            if other and _working(self.job) > 1:
                return False
            self.number = max(stands, other, last or 0) + 1
            proxy.execute_sql("DELETE FROM touched WHERE job_id = ?", (self.job,))
            Job.update(copying=self.number).where(Job.id == self.job).execute()
        return True

    def fill(self, going_on: Callable[[], None] = lambda: None) -> None:
        """Copy and change what stands, a part at a time; what `going_on` raises ends it."""
        every = rows(
            "SELECT of, key FROM connectionrow WHERE job_id = ? AND sheet = ? ORDER BY id", self.job, sheet_of(self.job)
        )
        for some in parts(every):
            going_on()
            with passing():
                self._take(some)
            time.sleep(PAUSE)

    def add(self, fresh: NewConnections, going_on: Callable[[], None] = lambda: None) -> None:
        """Those that were not there, a part at a time."""
        for start in range(0, len(fresh), PART):
            going_on()
            with passing():
                fresh.write(self.number, start, start + PART)
            time.sleep(PAUSE)

    def _take(self, some: Sequence[tuple[int, str]], plain: Sequence[tuple[int, str]] = ()) -> None:
        """Copy some and prepare them; those that are `plain` as they stand."""
        stands, some = sheet_of(self.job), [one for one in some if one[0] not in self.without]
        numbers = json.dumps([of for of, _ in some])
        for copy, of in ((self._copied, numbers), (_PLAIN, json.dumps([of for of, _ in plain]))):
            proxy.execute_sql(copy, (self.number, self.job, stands, of))
        self._prepare(some, self.number)
        self.fell |= {of for (of,) in rows(_FELL, stands, self.job, self.number, numbers)}

    def take_over(self, without: Collection[str] = ()) -> set[str]:
        """Let it stand, with what changed meanwhile as it is now; those called `without` as they stood. The names of
        both. Inside the caller's transaction. Raises Overtaken."""
        if rows("SELECT copying FROM job WHERE id = ?", self.job) != [(self.number,)]:
            raise Overtaken
        plain = self._standing("key", sorted(without))
        stood = {of for of, _ in plain}
        touched = [of for (of,) in rows("SELECT of FROM touched WHERE job_id = ?", self.job) if of not in stood]
        late = self._standing("of", touched)
        again = [*stood, *touched]
        proxy.execute_sql(
            "DELETE FROM connectionrow WHERE +job_id = ? AND sheet = ? AND of IN (SELECT value FROM json_each(?))",
            (self.job, self.number, json.dumps(again)),
        )
        self.fell.difference_update(again)
        self._take(late, plain)
        Job.update(sheet=self.number, copying=0).where(Job.id == self.job).execute()
        proxy.execute_sql(_TELL, (self.job, self.number, json.dumps(sorted(self.fell))))
        proxy.execute_sql("DELETE FROM touched WHERE job_id = ?", (self.job,))
        return {key for _, key in (*late, *plain)}

    def close(self) -> None:
        """What does not stand goes: itself, or what stood before it."""
        with writing():
            Job.update(copying=0).where((Job.id == self.job) & (Job.copying == self.number)).execute()
        drop_left_over(self.job)

    def _standing(self, by: str, values: list[Any]) -> list[tuple[int, str]]:
        return rows(
            f"SELECT of, key FROM connectionrow WHERE {'+' * (by == 'of')}job_id = ? AND sheet = ? AND {by} IN (SELECT"
            " value FROM json_each(?))",
            self.job,
            sheet_of(self.job),
            json.dumps(values),
        )


def _working(job: int) -> int:
    """How many works of a job are being done."""
    return int(rows(f"SELECT {_WORKING.format('?', '?')}", job, job)[0][0])


def drop_left_over(job: int) -> None:
    """The rows of a job that neither stand nor are prepared go a part at a time."""
    while True:
        with passing():
            gone = proxy.execute_sql(
                "DELETE FROM connectionrow WHERE id IN (SELECT r.id FROM connectionrow r JOIN job j ON j.id = r.job_id"
                " WHERE r.job_id = ? AND r.sheet != j.sheet AND (j.copying = 0 OR r.sheet != j.copying) LIMIT ?)",
                (job, PART),
            ).rowcount
        if gone < PART:
            return
        time.sleep(PAUSE)


def left_over() -> int | None:
    """A job that has rows which do not stand, and nobody who prepares them."""
    found = rows(
        f"SELECT id FROM job j WHERE ({_OTHER.format('<')} OR {_OTHER.format('>')}) AND NOT"
        f" {_WORKING.format('j.id', 'j.id')} LIMIT 1"
    )
    return int(found[0][0]) if found else None


def drop_some() -> bool:
    """The rows that a worker left which ended; False where there are none."""
    job = left_over()
    if job is None:
        return False
    with writing():
        Job.update(copying=0).where(Job.id == job).execute()
    drop_left_over(job)
    return True


def parts(every: Iterable[T]) -> Iterator[list[T]]:
    """As many at a time as a small transaction writes."""
    going = iter(every)
    while some := list(islice(going, PART)):
        yield some


def part_by_part(every: Iterable[T], write: Callable[[list[T]], None]) -> None:
    """`write` each part in a small transaction; between two of them others have theirs."""
    for some in parts(every):
        with passing():
            write(some)
        time.sleep(PAUSE)
