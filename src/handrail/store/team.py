"""What people put on connections to work together: tags, who works on it, its erection sequence, comments, releases."""

from __future__ import annotations

import json
from collections.abc import Sequence

from handrail.core.errors import InputError
from handrail.store import bulk, events, proving, queries
from handrail.store.database import proxy, rows, writing
from handrail.store.jobs import move
from handrail.store.models import Connection, Job, now

LONGEST, LONGEST_NOTE, MOST_TAGS = 60, 400, 20
_NOT_RELEASED = {"released": "", "released_at": "", "fell": ""}
_STATED = "SELECT connection FROM override WHERE job_id = ? AND state = 'accepted' AND parameter LIKE 'stated%'"
_DECIDED = (
    "SELECT connection, sum(state = 'awaiting'), sum(look != '[]') FROM override WHERE job_id = ? AND state IN"
    " ('awaiting', 'accepted') GROUP BY connection"
)


def label(
    job: Job,
    keys: Sequence[str],
    add: Sequence[str],
    remove: Sequence[str],
    person: str | None,
    sequence: str | None,
    author: str,
) -> int:
    """Put tags on connections and take others off, say who works on them and in which sequence they are erected (None
    leaves it as it is); how many were changed. Raises InputError."""
    add, remove = (list(dict.fromkeys(_word("tag", tag) for tag in tags)) for tags in (add, remove))
    own = {"person": person, "sequence": sequence}
    said = {name: _word(name, value, empty=True) for name, value in own.items() if value is not None}
    with writing():
        records = known(job, keys)
        ready, told = [], []
        for c in records:
            tags = [*(t for t in c.tags if t not in remove), *(t for t in add if t not in c.tags)]
            if len(tags) > MOST_TAGS:
                raise InputError(f"tags: {c.key} would have {len(tags)} tags; at most {MOST_TAGS}")
            values = {
                "tags": tags,
                "person": said.get("person", c.person),
                "sequence": said.get("sequence", c.sequence),
            }
            words = [
                *(f"tag {t}" for t in tags if t not in c.tags),
                *(f"no longer tag {t}" for t in c.tags if t not in tags),
            ]
            words += [
                f"{name} {values[name] or 'nobody' if name == 'person' else values[name] or 'none'}"
                for name in own
                if values[name] != getattr(c, name)
            ]
            if words:
                ready.append((c.id, values))
                told.append((c.key, "labelled", ", ".join(words)))
        bulk.update(("tags", "person", "sequence"), ready, job.id)
        events.add(job, told, author)
        move(job.id)
    return len(ready)


def comment(job: Job, key: str, words: str, author: str) -> None:
    """Say something about a connection. Raises InputError."""
    words = words.strip()
    if not words:
        raise InputError("words: a comment says something")
    with writing():
        known(job, [key])
        events.add(job, [(key, "comment", words)], author)
        move(job.id)


def note(job: Job, keys: Sequence[str], words: str, author: str) -> int:
    """Say to the shop of connections what may be altered and how; nothing takes back what was said. How many now say
    otherwise. Raises InputError."""
    words = "".join(c for c in " ".join(words.split()) if c.isprintable())
    if len(words) > LONGEST_NOTE:
        raise InputError(f"words: {len(words)} letters; a note to the shop has at most {LONGEST_NOTE}")
    with writing():
        known(job, keys)
        there = events.notes(job)
        told = [(key, events.NOTE, words) for key in keys if there.get(key, "") != words]
        events.add(job, told, author)
        move(job.id)
    return len(told)


def unreleasable(job: Job, records: Sequence[Connection], under_target: bool) -> dict[str, str]:
    """connection -> why it cannot be released: it does not pass (`under_target`: under the target), something on it is
    still to be decided, or less is stated than the analysis says and nobody accepted that."""
    accepted = {key for (key,) in rows(_STATED, job.id)}
    held = queries.holding(job)
    open_now = {key: (awaiting, look) for key, awaiting, look in rows(_DECIDED, job.id)}
    why = {}
    for c in records:
        awaiting, look = open_now.get(c.key, (0, 0))
        if c.status not in ("pass", "elsewhere"):
            why[c.key] = f"it is {c.status}" + (f": {c.reason}" if c.reason else "")
        elif awaiting:
            why[c.key] = f"{awaiting} decision{'s' * (awaiting > 1)} on it await an engineer's word"
        elif look:
            why[c.key] = f"{look} decision{'s' * (look > 1)} on it ask to be looked at again"
        elif c.key in held:
            why[c.key] = held[c.key]
        elif c.over_target and under_target:
            why[c.key] = (
                f"it is used {c.utilisation:.2f}, over the target, which practice keeps from release (over_target:"
                " no_release)"
            )
        elif c.key not in accepted and c.less:
            why[c.key] = f"{c.less}; a rule alone does not do that"
    return why


def release(job: Job, ready: Sequence[Connection], author: str, word: str) -> None:
    """Say of connections that they may be drawn. Inside the caller's transaction, which has seen that they may be."""
    at = now()
    bulk.update(
        ("released", "released_at", "fell"),
        ((c.id, {"released": author, "released_at": at, "fell": ""}) for c in ready),
        job.id,
    )
    proving.of_releases(job.id, "released", ready, word.strip() or "may be drawn", author, at)
    events.add(job, [(c.key, "released", word.strip() or "may be drawn") for c in ready], author)
    move(job.id)


def withdraw(job: Job, keys: Sequence[str], author: str, word: str) -> int:
    """Take releases back, with a word, or say of those that fell that they are not to be drawn; how many. Raises
    InputError."""
    if not word.strip():
        raise InputError("word: say why the release is withdrawn")
    with writing():
        ready = [c for c in known(job, keys) if c.released or c.fell]
        bulk.update(("released", "released_at", "fell"), ((c.id, _NOT_RELEASED) for c in ready), job.id)
        proving.of_releases(job.id, "withdrawn", ready, word.strip(), author)
        events.add(job, [(c.key, "withdrawn", word.strip()) for c in ready], author)
        move(job.id)
    return len(ready)


def let_fall(sheet: int, numbers: Sequence[int], why: str) -> None:
    """The releases of these connections fall, for somebody to look at, on a sheet that is to stand. Inside the caller's
    transaction."""
    proxy.execute_sql(
        "UPDATE connectionrow SET fell = 'released by ' || released || '; fell because ' || ?, released = '',"
        " released_at = '', version = version + 1 WHERE of IN (SELECT value FROM json_each(?)) AND sheet = ? AND"
        " released != ''",
        (why, json.dumps(list(numbers)), sheet),
    )


def _word(name: str, value: str, empty: bool = False) -> str:
    word = " ".join(value.split())
    if not (word or empty) or len(word) > LONGEST or not (word.isprintable() or not word) or '"' in word:
        raise InputError(f"{name}: 1 to {LONGEST} characters that can be seen, without double quotes")
    return word


def known(job: Job, keys: Sequence[str]) -> list[Connection]:
    """Connections by their names, each once. Raises InputError where there is none of one."""
    wanted = list(dict.fromkeys(keys))
    by_key: dict[str, Connection] = {}
    for start in range(0, len(wanted), 500):
        some = (Connection.job == job) & Connection.key.in_(wanted[start : start + 500])
        by_key |= {c.key: c for c in Connection.select().where(some)}
    if missing := [key for key in wanted if key not in by_key]:
        raise InputError(f"connections: there is no connection '{missing[0]}' in '{job.name}'")
    return [by_key[key] for key in wanted]
