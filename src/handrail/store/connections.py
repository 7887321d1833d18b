"""Connections: filtered lists, and what a run or an override writes."""

from __future__ import annotations

import operator
import re
from collections.abc import Iterable
from typing import Any

from peewee import fn

from handrail.core.checking.assigning import NO_RULE
from handrail.core.checking.batch import Outcome
from handrail.core.checking.result import CEILING
from handrail.core.errors import InputError
from handrail.core.standards.sizes import Sized, Sizes
from handrail.store.models import Connection, Job

FIELDS = {
    "status": Connection.status,
    "framing": Connection.framing,
    "standard": Connection.standard,
    "rule": Connection.rule,
    "joint": Connection.joint,
    "connection": Connection.key,
    "member": Connection.member,
    "section": Connection.section,
    "support": Connection.support,
    "support_section": Connection.support_section,
    "check": Connection.check_name,
    "action": Connection.action,
    "utilisation": Connection.utilisation,
    "elevation": Connection.elevation,
    "overridden": Connection.overridden,
}
WORST = ("fail", "unchecked", "unassigned", "pass", "elsewhere")
NUMBERS = ("utilisation", "elevation", "overridden")
LARGEST = 1e15
LONGEST = 2000  # characters of a filter
_TERM = re.compile(r"^(\w+) *(<=|>=|!=|=|<|>|~) *(.*)$", re.DOTALL)
_COMPARE = {"<=": operator.le, ">=": operator.ge, "<": operator.lt, ">": operator.gt, "=": operator.eq, "!=": operator.ne}


def conditions(where: str) -> list[Any]:
    """`status=fail, utilisation>0.9, section~W16` as query conditions; `~` is "contains", double quotes hold commas. Raises InputError."""
    if len(where) > LONGEST:
        raise InputError(f"the filter is {len(where)} characters long; at most {LONGEST}")
    found = []
    for term in _terms(where):
        match = _TERM.match(term)
        if not match or match[1] not in FIELDS:
            raise InputError(f"'{term.strip()}' is not a filter; write field=value with {', '.join(FIELDS)} and = != < <= > >= ~")
        name, sign, text = match.groups()
        text = text[1:-1] if len(text) > 1 and text[0] == text[-1] == '"' else text
        field = FIELDS[name]
        if sign == "~":
            found.append(field.contains(text))
            continue
        value: Any = text
        if name in NUMBERS:
            try:
                value = float(text)
            except ValueError as exc:
                raise InputError(f"'{term.strip()}': {name} is compared with a number") from exc
            if not abs(value) < LARGEST:
                raise InputError(f"'{term.strip()}': {name} is compared with a number smaller than {LARGEST:g}")
        elif sign not in ("=", "!="):
            raise InputError(f"'{term.strip()}': {name} is text; compare it with =, != or ~")
        found.append(_COMPARE[sign](field, value))
    return found


def _terms(where: str) -> list[str]:
    """The terms between commas that stand outside double quotes."""
    return [term.strip() for term in re.findall(r'(?:[^",]|"[^"]*"|")+', where) if term.strip()]


def select(job: Job, where: str = "", sort: str = "connection") -> Any:
    """The query of a job's connections; `sort` is a field, with - for falling order."""
    name = sort.lstrip("-")
    if name not in FIELDS:
        raise InputError(f"cannot sort by '{name}'; there is {', '.join(FIELDS)}")
    field = FIELDS[name]
    order = field.desc() if sort.startswith("-") else field.asc()
    return Connection.select().where(Connection.job == job, *conditions(where)).order_by(order, Connection.id)


def joints(job: Job, where: str = "", limit: int = 1000, offset: int = 0) -> tuple[list[dict[str, Any]], int]:
    """A page of joints with the worst status of their connections, in the order of the model, and how many there are in all."""
    wanted = [Connection.job == job, *conditions(where)]
    total = Connection.select(fn.COUNT(Connection.joint.distinct())).where(*wanted).scalar() or 0
    page = Connection.select(Connection.joint).where(*wanted).group_by(Connection.joint).order_by(fn.MIN(Connection.id))
    found: dict[str, dict[str, Any]] = {
        joint: {"joint": joint, "elevation": 0.0, "connections": [], "status": "elsewhere", "utilisation": 0.0}
        for (joint,) in page.limit(limit).offset(offset).tuples()
    }
    columns = (Connection.joint, Connection.key, Connection.status, Connection.utilisation, Connection.elevation)
    rows = Connection.select(*columns).where(*wanted, Connection.joint.in_(list(found))).order_by(Connection.id)
    for name, key, status, utilisation, elevation in rows.tuples():
        joint = found[name]
        joint["connections"].append(key)
        joint["status"] = min(joint["status"], status, key=WORST.index)
        joint["utilisation"], joint["elevation"] = max(joint["utilisation"], utilisation), elevation
    return list(found.values()), int(total)


def find(job: Job, key: str) -> Connection | None:
    """The connection called `key`, or None."""
    return Connection.get_or_none((Connection.job == job) & (Connection.key == key))


def sizes_of(record: Connection) -> Sizes:
    """The kept sizes of a connection, each with its source."""
    return {name: Sized(value, source) for name, (value, source) in (record.sizes or {}).items()}


def write_outcomes(job: Job, found: Iterable[tuple[str, str, str, Outcome, str]]) -> None:
    """(key, standard, rule, outcome, grounds) rows into the records; inside the caller's transaction."""
    _write(job, ((key, {
        "standard": standard, "rule": rule, "sizes": {n: [s.value, s.source] for n, s in o.sizes.items()}, "status": o.status,
        "utilisation": min(o.utilisation, CEILING), "check_name": o.check, "clause": o.clause, "action": o.action, "reason": o.reason,
        "notes": list(o.notes), "digest": digest,
    }) for key, standard, rule, o, digest in found))  # fmt: skip


def write_unassigned(job: Job, found: Iterable[tuple[str, str, str, str, str]]) -> None:
    """(key, status, reason, rule, grounds): connections that no standard could be put on."""
    blank = {"standard": "", "sizes": {}, "utilisation": 0.0, "check_name": "", "clause": "", "action": "", "notes": []}
    _write(job, ((key, blank | {"status": status, "reason": reason, "rule": rule, "digest": digest})
                 for key, status, reason, rule, digest in found))  # fmt: skip


def mark_stale(job: Job, why: str, keys: Iterable[str] | None = None) -> None:
    """Results that no longer stand on what is there: those of `keys`, or all that forces and rules have a say in; unchecked, to be
    run again. Inside the caller's transaction."""
    stale = {"status": "unchecked", "reason": f"stale: {why}; run again", "digest": "", "version": Connection.version + 1}
    query = Connection.update(**stale).where(Connection.job == job)
    if keys is None:
        query.where((Connection.standard != "") | (Connection.rule != "") | (Connection.reason == NO_RULE)).execute()
        return
    wanted = sorted(keys)
    for start in range(0, len(wanted), 500):
        query.where(Connection.key.in_(wanted[start : start + 500])).execute()


def mark_other_engines(engine: str) -> int:
    """Results that another version of the engine made are stale. Inside the caller's transaction."""
    stale = {"status": "unchecked", "reason": "stale: another version of the checks made it; run again", "digest": ""}
    return Connection.update(**stale).where((Connection.digest != "") & ~Connection.digest.startswith(f"{engine}:")).execute()


def kept_grounds(job: Job) -> dict[str, str]:
    """connection -> what its kept result rests on, of those that have one."""
    return dict(Connection.select(Connection.key, Connection.digest).where((Connection.job == job) & (Connection.digest != "")).tuples())


def stood_sizes(job: Job, keys: Iterable[str]) -> dict[str, Sizes]:
    """connection -> its kept sizes, of `keys`."""
    wanted = set(keys)
    return {c.key: sizes_of(c) for c in Connection.select().where(Connection.job == job) if c.key in wanted and c.sizes}


def _write(job: Job, rows: Iterable[tuple[str, dict[str, Any]]]) -> None:
    """One statement made once for thousands of rows: peewee would make it anew for each. A row that is so already stays, version and all."""
    names = ("standard", "rule", "sizes", "status", "utilisation", "check_name", "clause", "action", "reason", "notes", "digest")
    fields = [Connection._meta.fields[name] for name in names]
    sets = ", ".join(f'"{field.column_name}" = ?' for field in fields)
    same = " AND ".join(f'"{field.column_name}" IS ?' for field in fields)

    def values(row: dict[str, Any]) -> tuple[Any, ...]:
        return tuple(field.db_value(row[field.name]) for field in fields)

    Connection._meta.database.connection().executemany(
        f'UPDATE "{Connection._meta.table_name}" SET {sets}, "version" = "version" + 1 WHERE "job_id" = ? AND "key" = ? AND NOT ({same})',
        ((*found, job.id, key, *found) for key, found in ((key, values(row)) for key, row in rows)),
    )
