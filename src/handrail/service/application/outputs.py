"""Our rows under another program's names: a map proposed, tried with the first rows shown, written."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from handrail.core.building.model import Building
from handrail.core.checking import by_end
from handrail.interchange.columnmap import read_map
from handrail.interchange.outputmap import Made, files, made, read_output, turned
from handrail.interchange.outputmap.writing import Ours, named, shown
from handrail.interchange.problems import BundleError
from handrail.interchange.transmittal.zipped import zipped
from handrail.service.application import mark_schedule as scheduling
from handrail.service.application import parts_lists, results
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.plans import look_at, plan_of
from handrail.store.database import reading
from handrail.store.models import Job

FIRST = 12  # rows that are shown
PROPOSED = ("results", "sizes", "ends")


def proposed(job: Job) -> str:
    """The map that the job's model came in through, turned round; its tables under our own names where it came in
    through none."""
    rows = _Rows(job)
    heads = {name: head for name in PROPOSED if (head := _filled(*rows.of(name)))}
    try:
        column_map = read_map(job.column_map) if job.column_map else None
    except BundleError:  # one that an earlier version took
        column_map = None
    return turned(column_map, heads, f"{job.title or job.name}: connections", _building(job).results)


def _filled(head: Sequence[str], rows: Iterable[Sequence[Any]]) -> list[str]:
    """The columns in which anything stands."""
    listed = list(rows)
    return [name for k, name in enumerate(head) if any(row[k] != "" for row in listed)]


def tried(job: Job, text: str) -> dict[str, Any]:
    """What a map writes: each table's columns, how many rows, the first. Raises BundleError, InputError, Refused."""
    return {
        "tables": [
            {
                "name": one.table.name,
                "rows_of": one.table.rows,
                "file": one.file,
                "sheet": one.sheet if one.table.kind == "xlsx" else "",
                "columns": [{"name": n, "unit": u} for n, u in zip(one.head, one.units, strict=True)],
                "rows": len(one.rows),
                "sample": shown(one, FIRST),
            }
            for one in _made(job, text)
        ]
    }


def written(job: Job, text: str) -> tuple[str, bytes]:
    """(name, body) of the file that a map writes; a zip, where it writes several. Raises as above."""
    own = files(_made(job, text))
    name = named(own, f"{job.name}-output")
    body = next(iter(own.values())) if len(own) == 1 else zipped(own, {"job": job.name, "title": job.title})
    return name, body


def _made(job: Job, text: str) -> list[Made]:
    output = read_output(text)
    return made(output, _Rows(job).of)


def _building(job: Job) -> Building:
    with reading():
        seen = look_at(job)
    return plan_of(seen).building


class _Rows:
    """A job's rows by their name, each looked up once."""

    def __init__(self, job: Job) -> None:
        self.job = job

    def of(self, name: str) -> Ours:
        if name == "results":
            return results.table(self.job)
        if name == "forces":
            return by_end.forces(_building(self.job))
        if name == "sizes":
            return self._sizes()
        if name == "marks":
            head, rows = scheduling.as_table(scheduling.schedule(self.job))
            return head, rows[:-1]  # without its sums
        return parts_lists.listed(self.job, name)

    def _sizes(self) -> Ours:
        standing = Standing(self.job)
        sized = {key: (standing.records[key].standard, own) for key, own in standing.sizes.items()}
        marks = {key: standing.names[name] for key, name in standing.mark_of.items()}
        return by_end.sizes(standing.plan, sized, marks)
