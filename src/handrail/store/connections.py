"""Connections: filtered lists, and what a run or an override writes."""

from __future__ import annotations

import json
import operator
import re
from collections.abc import Iterable
from typing import Any

from peewee import fn

from handrail.core.checking.assigning import NO_RULE
from handrail.core.checking.batch import Outcome
from handrail.core.checking.result import CEILING
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized, Sizes
from handrail.store import bulk
from handrail.store.jobs import system_of
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
LARGEST_OFFSET = 2**63 - 1  # what SQLite counts to
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


_ROW = fn.json_object(
    "connection", Connection.key, "joint", Connection.joint, "framing", Connection.framing, "member", Connection.member,
    "section", Connection.section, "support", Connection.support, "support_section", Connection.support_section,
    "elevation", Connection.elevation, "standard", Connection.standard, "rule", Connection.rule, "status", Connection.status,
    "utilisation", Connection.utilisation, "check", Connection.check_name, "clause", Connection.clause, "action", Connection.action,
    "reason", Connection.reason, "skew", fn.json_extract(Connection.facts, "$.skew"), "slope", fn.json_extract(Connection.facts, "$.slope"),
    "cope", fn.json_extract(Connection.facts, "$.cope"), "overridden", Connection.overridden, "version", Connection.version,
    "summary", Connection.summary, "sizes", fn.json(Connection.brief),
).coerce(False)  # fmt: skip


def page(job: Job, where: str = "", sort: str = "connection", limit: int = 100, offset: int = 0) -> tuple[list[str], int]:
    """A page of connections, each a line of the list as JSON text that SQLite makes, and how many there are in all."""
    found = select(job, where, sort)
    return [text for (text,) in found.select(_ROW).limit(limit).offset(offset).tuples()], found.count()


def at_joint(job: Job, number: int) -> list[dict[str, Any]]:
    """The connections of one joint, each as its line of the list."""
    found = Connection.select(_ROW).where((Connection.job == job) & (Connection.joint_number == number)).order_by(Connection.id)
    return [json.loads(text) for (text,) in found.tuples()]


def joints(job: Job, where: str = "", limit: int = 1000, offset: int = 0) -> tuple[list[dict[str, Any]], int]:
    """A page of joints with the worst status of their connections, in the order of the model, and how many there are in all."""
    wanted = [Connection.job == job, *conditions(where)]
    if where:
        numbers = Connection.select(Connection.joint_number).where(*wanted).distinct().order_by(Connection.joint_number)
        total = Connection.select(fn.COUNT(Connection.joint_number.distinct())).where(*wanted).scalar()
        here = Connection.joint_number.in_([n for (n,) in numbers.limit(limit).offset(offset).tuples()])
    else:
        total = (Connection.select(fn.MAX(Connection.joint_number)).where(*wanted).scalar() or -1) + 1
        here = Connection.joint_number.between(offset, min(offset + limit, LARGEST_OFFSET) - 1)
    columns = (Connection.joint, fn.MAX(Connection.elevation), fn.json_group_array(Connection.key).coerce(False), fn.MAX(Connection.utilisation),
               *(fn.MAX(Connection.status == status) for status in WORST))  # fmt: skip
    found = Connection.select(*columns).where(*wanted, here).group_by(Connection.joint_number).order_by(Connection.joint_number)
    return [
        {"joint": joint, "elevation": elevation, "connections": json.loads(keys), "status": WORST[states.index(1)], "utilisation": use}
        for joint, elevation, keys, use, *states in found.tuples()
    ], int(total)


def states(job: Job) -> list[dict[str, Any]]:
    """Every connection with how it stands, as the model's view colours it."""
    shown = ("connection", "joint", "status", "utilisation", "framing", "member")
    rows = Connection.select(*(FIELDS[name] for name in shown)).where(Connection.job == job).tuples()
    return [dict(zip(shown, found, strict=True)) for found in rows]


def find(job: Job, key: str) -> Connection | None:
    """The connection called `key`, or None."""
    return Connection.get_or_none((Connection.job == job) & (Connection.key == key))


def sizes_of(record: Connection) -> Sizes:
    """The kept sizes of a connection, each with its source."""
    return {name: Sized(value, source) for name, (value, source) in (record.sizes or {}).items()}


_RESULT = ("standard", "rule", "sizes", "summary", "brief", "status", "utilisation", "check_name", "clause", "action", "reason", "notes", "remedy",
           "digest")  # fmt: skip


def write_outcomes(job: Job, found: Iterable[tuple[str, str, str, Outcome, str]]) -> None:
    """(key, standard, rule, outcome, grounds) rows into the records; inside the caller's transaction."""
    system = system_of(job)
    bulk.update(Connection, _RESULT, ((key, {
        "standard": standard, "rule": rule, "sizes": {n: [s.value, s.source] for n, s in o.sizes.items()}, "status": o.status,
        "utilisation": min(o.utilisation, CEILING), "check_name": o.check, "clause": o.clause, "action": o.action, "reason": o.reason,
        "notes": list(o.notes), "remedy": "", "digest": digest,
    } | in_words(standard, o.sizes, system)) for key, standard, rule, o, digest in found), job.id, by="key")  # fmt: skip


def write_unassigned(job: Job, found: Iterable[tuple[str, str, str, str, str]]) -> None:
    """(key, status, reason, rule, grounds): connections that no standard could be put on."""
    blank = {"standard": "", "sizes": {}, "summary": "", "brief": {}, "utilisation": 0.0, "check_name": "", "clause": "", "action": "",
             "notes": [], "remedy": ""}  # fmt: skip
    bulk.update(Connection, _RESULT, ((key, blank | {"status": status, "reason": reason, "rule": rule, "digest": digest})
                                      for key, status, reason, rule, digest in found), job.id, by="key")  # fmt: skip


def in_words(standard: str, sizes: Sizes, system: str) -> dict[str, Any]:
    """Sizes as lists show them: `summary` in the units of `system`, `brief` as numbers in mm and N."""
    known = STANDARDS.get(standard)
    if known is None or not sizes:
        return {"summary": "", "brief": {}}
    return {"summary": known.summary(sizes, system), "brief": {n: sizes[n].value for n in known.brief if n in sizes}}


def put_in_words_again(job: Job, system: str) -> None:
    """The sizes of every connection in the units of `system`. Inside the caller's transaction."""
    sized = Connection.select().where((Connection.job == job) & (Connection.standard != ""))
    bulk.update(Connection, ("summary", "brief"), [(c.id, in_words(c.standard, sizes_of(c), system)) for c in sized], job.id)


def mark_stale(job: Job, why: str, keys: Iterable[str] | None = None) -> None:
    """Results that no longer stand on what is there: those of `keys`, or all that forces and rules have a say in; unchecked, to be
    run again. Inside the caller's transaction."""
    stale = {"status": "unchecked", "reason": f"stale: {why}; run again", "digest": "", "remedy": "", "version": Connection.version + 1}
    query = Connection.update(**stale).where(Connection.job == job)
    if keys is None:
        query.where((Connection.standard != "") | (Connection.rule != "") | (Connection.reason == NO_RULE)).execute()
        return
    wanted = sorted(keys)
    for start in range(0, len(wanted), 500):
        query.where(Connection.key.in_(wanted[start : start + 500])).execute()


def mark_other_engines(engine: str) -> int:
    """Results that another version of the engine made are stale. Inside the caller's transaction."""
    stale = {"status": "unchecked", "reason": "stale: another version of the checks made it; run again", "digest": "", "remedy": ""}
    return Connection.update(**stale).where((Connection.digest != "") & ~Connection.digest.startswith(f"{engine}:")).execute()


def kept_grounds(job: Job) -> dict[str, str]:
    """connection -> what its kept result rests on, of those that have one."""
    return dict(Connection.select(Connection.key, Connection.digest).where((Connection.job == job) & (Connection.digest != "")).tuples())


def stood_sizes(job: Job, keys: Iterable[str]) -> dict[str, Sizes]:
    """connection -> its kept sizes, of `keys`."""
    wanted, found = sorted(keys), {}
    for start in range(0, len(wanted), 500):
        for c in Connection.select().where((Connection.job == job) & Connection.key.in_(wanted[start : start + 500])):
            if c.sizes:
                found[c.key] = sizes_of(c)
    return found
