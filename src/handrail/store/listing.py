"""Lists of connections and joints: filtered, sorted and paged, their lines written by SQLite as JSON text.

Statements stand here as they are run: a list is read a hundred times for each time that anything is written.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterable
from typing import Any

from handrail.core.errors import InputError
from handrail.store.database import rows
from handrail.store.models import Job

FIELDS = (
    {
        name: name
        for name in (
            "status",
            "framing",
            "standard",
            "rule",
            "joint",
            "member",
            "section",
            "support",
            "support_section",
            "action",
            "utilisation",
            "elevation",
            "place",
            "level",
            "overridden",
            "sequence",
            "person",
            "released",
        )
    }
    | {
        "connection": "key",
        "check": "check_name",
        "stale": "(stale != '')",
        "over_target": "(status = 'pass' AND over_target)",
        "new": "(was IS NULL)",
        "remarks": "json_array_length(remarks)",
        "remark": "remarks",
        "pieces": "(SELECT group_concat(p.value ->> 'section', ' ') FROM json_each(pieces) p)",
        "beside": "(SELECT group_concat(DISTINCT r.value ->> 'other') FROM json_each(relations) r)",
        "broken": "broken",
        "fell": "(fell != '')",
        "verified": "coalesce(verified ->> '$.revision', 0)",
    }
    | {
        name: (
            "(SELECT count(*) FROM override o WHERE o.job_id = connection.job_id AND o.connection = connection.key AND"
            f" {which})"
        )
        for name, which in (
            ("awaiting", "o.state = 'awaiting'"),
            ("look", "o.state IN ('awaiting', 'accepted') AND o.look != '[]'"),
        )
    }
)
WORST = ("fail", "unchecked", "unassigned", "pass", "elsewhere")
NUMBERS = (
    "utilisation",
    "elevation",
    "overridden",
    "stale",
    "over_target",
    "new",
    "fell",
    "verified",
    "remarks",
    "awaiting",
    "look",
)
LARGEST = 1e15
LARGEST_OFFSET = 2**63 - 1  # what SQLite counts to
LONGEST = 200_000  # characters of a filter
_TERM = re.compile(r"^([\w.]+(?:@[^<>=!~]+?)?) *(<=|>=|!=|=|<|>|~) *(.*)$", re.DOTALL)
_SAME = (
    "framing",
    "joint",
    "member",
    "section",
    "support",
    "support_section",
    "elevation",
    "place",
    "level",
    "standard",
    "rule",
    "status",
    "utilisation",
    "clause",
    "action",
    "reason",
    "overridden",
    "version",
    "summary",
    "sequence",
    "person",
    "released",
    "fell",
    "broken",
)
_STALE = (
    "'tags', json(tags), 'remarks', json(remarks), 'verified', json(verified), 'stale', json(iif(stale != '',"
    " 'true', 'false')), 'over_target', json(iif(status = 'pass' AND over_target, 'true', 'false')), "
)
_PIECES = (
    "'pieces', (SELECT json_group_array(json_object('role', p.value ->> 'role', 'member', p.value ->> 'member',"
    " 'section', p.value ->> 'section')) FROM json_each(pieces) p), 'relations', json(relations), "
)
_LINE = "json_object('connection', key, 'check', check_name, 'sizes', json(brief), " + _PIECES + _STALE + ", ".join(
    [f"'{name}', {name}" for name in _SAME]
    + [f"'{name}', pieces ->> '$[0].{name}'" for name in ("skew", "slope")]
    + ["'cope', facts ->> '$.cope'"]
) + ")"  # fmt: skip
_JOINT = (
    "json_object('joint', joint, 'place', max(place), 'level', max(level), 'elevation', max(elevation), 'connections',"
    " json_group_array(key), 'utilisation', max(utilisation), 'status', CASE "
    + " ".join(f"WHEN max(status = '{status}') THEN '{status}'" for status in WORST)
    + " END)"
)
_COUNT = "SELECT coalesce((SELECT {} FROM revision WHERE job_id = ? AND number > 0 ORDER BY number DESC LIMIT 1), 0)"


ByFacts = Callable[
    [Job | None, str, str, str], Iterable[str] | None
]  # (job, fact, sign, text): the connections, None where it is no fact
by_facts: ByFacts = lambda job, name, sign, text: None  # noqa: E731  the service knows the building, and sets it


def conditions(where: str, job: Job | None = None) -> tuple[str, list[Any]]:
    """`status=fail, utilisation>0.9, section~W16` as an SQL condition and its values; `~` is "contains", `|` parts
    several values of which it is one, double quotes hold commas and bars. What is no field is a fact of the rule
    language. Raises InputError."""
    if len(where) > LONGEST:
        raise InputError(f"the filter is {len(where)} characters long; at most {LONGEST}")
    tests, values = [], []
    for term in _terms(where):
        match = _TERM.match(term)
        if match and match[1] in _OWN:
            tests.append(_grouped(match[1], match[2], term))
            values.append(_bare(match[3]))
            continue
        if not match or match[1] not in FIELDS:
            held = _by_fact(job, match) if match else None
            if held is None:
                raise InputError(
                    f"'{term.strip()}' is not a filter; write field=value with {', '.join(FIELDS)}, {', '.join(_OWN)}"
                    " or a fact of the rule language, and = != < <= > >= ~"
                )
            tests.append("key IN (SELECT value FROM json_each(?))")
            values.append(json.dumps(sorted(held)))
            continue
        name, sign, raw = match.groups()
        text = _bare(raw)
        if sign in ("=", "!=") and "|" in raw and text == raw:
            several = [_value(name, sign, one.strip(), term.strip()) for one in raw.split("|")]
            tests.append(f"{FIELDS[name]} {'IN' if sign == '=' else 'NOT IN'} (SELECT value FROM json_each(?))")
            values.append(json.dumps(several))
            continue
        if sign == "~":
            tests.append(f"{FIELDS[name]} LIKE ? ESCAPE '\\'")
            values.append("%" + re.sub(r"([%_\\])", r"\\\1", text) + "%")
        else:
            tests.append(f"{FIELDS[name]} {sign} ?")
            values.append(_value(name, sign, text, term.strip()))
    return "".join(f" AND {one}" for one in tests), values


def asks_for_facts(where: str) -> bool:
    """Whether a filter asks for more than the records say: the building is to be looked at."""
    names = [match[1] for term in _terms(where[:LONGEST]) if (match := _TERM.match(term))]
    return any(name not in _OWN and name not in FIELDS for name in names)


def _by_fact(job: Job | None, match: re.Match[str]) -> Iterable[str] | None:
    """The connections of which a fact holds; None where there is no such fact."""
    try:
        return by_facts(job, match[1], match[2], _bare(match[3]))
    except InputError as exc:
        if "is not a fact" in str(exc):
            return None
        raise InputError(f"'{match[0].strip()}': {exc}") from exc


def _bare(text: str) -> str:
    """A value without the quotes around it."""
    return text[1:-1] if len(text) > 1 and text[0] == text[-1] == '"' else text


_OWN = {  # of what a connection may have several: an SQL condition that names one
    "group": (
        "id {} (SELECT m.connection_id FROM groupmember m JOIN gathering g ON g.id = m.group_id WHERE g.job_id ="
        " connection.job_id AND g.name = ?)"
    ),
    "tag": "? {} (SELECT value FROM json_each(tags))",
}


def _grouped(name: str, sign: str, term: str) -> str:
    """In a group that a person made or with a tag, or without."""
    if sign not in ("=", "!="):
        has = "is in a group" if name == "group" else "has a tag"
        raise InputError(f"'{term}': a connection {has} ({name}=NAME) or not ({name}!=NAME)")
    return _OWN[name].format("IN" if sign == "=" else "NOT IN")


def _value(name: str, sign: str, text: str, term: str) -> Any:
    if name not in NUMBERS:
        if sign not in ("=", "!="):
            raise InputError(f"'{term}': {name} is text; compare it with =, != or ~")
        return text
    try:
        value = float(text)
    except ValueError as exc:
        raise InputError(f"'{term}': {name} is compared with a number") from exc
    if not abs(value) < LARGEST:
        raise InputError(f"'{term}': {name} is compared with a number smaller than {LARGEST:g}")
    return value


def _terms(where: str) -> list[str]:
    """The terms between commas that stand outside double quotes."""
    return [term.strip() for term in re.findall(r'(?:[^",]|"[^"]*"|")+', where) if term.strip()]


def keys(job: Job, where: str = "") -> set[str]:
    """The connections that a filter leaves. Raises InputError."""
    more, values = conditions(where, job)
    return {key for (key,) in rows(f"SELECT key FROM connection WHERE job_id = ?{more}", job.id, *values)}


def page(
    job: Job, where: str = "", sort: str = "connection", limit: int = 100, offset: int = 0
) -> tuple[list[str], int]:
    """A page of connections, each a line of the list as JSON text, and how many there are in all; `sort` is a field,
    with - for falling order. Raises InputError."""
    field = FIELDS.get(sort.lstrip("-"))
    if field is None:
        raise InputError(f"cannot sort by '{sort.lstrip('-')}'; there is {', '.join(FIELDS)}")
    more, values = conditions(where, job)
    order = f"{field} {'DESC' if sort.startswith('-') else 'ASC'}, id"
    lines = rows(
        f"SELECT {_LINE} FROM connection WHERE job_id = ?{more} ORDER BY {order} LIMIT ? OFFSET ?",
        job.id,
        *values,
        limit,
        offset,
    )
    count = f"SELECT count(*) FROM connection WHERE job_id = ?{more}" if more else _COUNT.format("connections")
    ((total,),) = rows(count, job.id, *values)
    return [line for (line,) in lines], int(total)


def at_joint(job: Job, number: int) -> list[dict[str, Any]]:
    """The connections of one joint, each as its line of the list."""
    return [
        json.loads(line)
        for (line,) in rows(
            f"SELECT {_LINE} FROM connection WHERE job_id = ? AND joint_number = ? ORDER BY id", job.id, number
        )
    ]


def joints(job: Job, where: str = "", limit: int = 1000, offset: int = 0) -> tuple[list[str], int]:
    """A page of joints with the worst status of their connections, in the order of the model, each as JSON text, and
    how many there are in all. Raises InputError."""
    more, values = conditions(where, job)
    if where:
        numbers = (
            f"SELECT DISTINCT joint_number FROM connection WHERE job_id = ?{more} ORDER BY joint_number LIMIT ?"
            " OFFSET ?"
        )
        here, there = f"joint_number IN ({numbers})", [job.id, *values, limit, offset]
        count = f"SELECT count(DISTINCT joint_number) FROM connection WHERE job_id = ?{more}"
    else:
        here, there = "joint_number >= ? AND joint_number < ?", [offset, min(offset + limit, LARGEST_OFFSET)]
        count = _COUNT.format("joints")
    lines = rows(
        f"SELECT {_JOINT} FROM connection WHERE job_id = ?{more} AND {here} GROUP BY joint_number ORDER BY"
        " joint_number",
        job.id,
        *values,
        *there,
    )
    ((total,),) = rows(count, job.id, *values)
    return [line for (line,) in lines], int(total)


def states(job: Job) -> list[dict[str, Any]]:
    """Every connection with how it stands, as the model's view colours it."""
    shown = ("connection", "joint", "status", "utilisation", "framing", "member", "remarks", "stale")
    lines = rows(
        f"SELECT {', '.join(FIELDS[name] for name in shown)} FROM connection WHERE job_id = ? ORDER BY id", job.id
    )
    return [dict(zip(shown, (*line, bool(stale)), strict=True)) for *line, stale in lines]
