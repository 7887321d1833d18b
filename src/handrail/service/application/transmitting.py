"""Transmittals: what leaves the house at one moment, frozen; what changed since each connection was last sent."""

from __future__ import annotations

import hashlib
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from handrail.core.checking.details import Subject
from handrail.core.checking.lists import KINDS, table
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from handrail.interchange.sheet import as_csv
from handrail.interchange.transmittal.index import Index, index_page
from handrail.interchange.transmittal.zipped import INDEX, zipped
from handrail.service.application import calculating, detailing, letterhead, parts_lists
from handrail.service.application.attempting import attempt
from handrail.service.application.loud import wrong
from handrail.service.application.mark_schedule import Standing, as_table, in_order, scheduled
from handrail.service.application.refused import Refused
from handrail.service.application.standing import TRIES
from handrail.store import connections, jobs, proving, transmittals
from handrail.store.connections import SizedConnection
from handrail.store.database import reading
from handrail.store.models import Job, Sent, Transmittal, now
from handrail.store.transmittals import Last, State, name_of

CHANGES = ("new", "changed", "withdrawn")
WHAT = {
    "drawings.pdf": "a detail a mark, clouds around what changed",
    "calculations.pdf": "a calculation a mark, by the place that is used most",
    "schedule.csv": "marks: how many, sizes, weights, bolts",
    "connections.csv": "connections: verdict, what governs, release, what changed",
    "plates.csv": "plates and angles by mark",
    "bolts.csv": "bolts by mark and level",
    "rods.csv": "anchor rods by mark",
    "welds.csv": "welds by mark",
}
SHOWN = 500  # connections that a page names; all are in the files


@dataclass(frozen=True)
class Asked:
    """What somebody wants sent: to whom and why, which connections; `anyway` is why what is not released goes along."""

    to: str
    why: str
    where: str
    anyway: str
    author: str


@dataclass(frozen=True)
class Row:
    """A connection that is sent, or withdrawn."""

    connection: str
    mark: str
    standard: str
    sizes: Sizes
    status: str
    utilisation: float
    state: State | None
    change: str
    words: str
    before: int

    @property
    def wrong(self) -> list[str]:
        """What is to be said of it large."""
        if self.state is None:
            return []
        return wrong(self.status, self.state.stale, self.state.overridden, self.state.released)

    @property
    def verdict(self) -> str:
        """In words."""
        stale = f", stale: {self.state.stale}" if self.state and self.state.stale else ""
        return self.status + stale + (", overridden" if self.state and self.state.overridden else "")


@dataclass
class Gathered:
    """What would be sent, from how the job stood; `left_out` what is not released, or stale."""

    job: Job
    asked: Asked
    standing: Standing
    number: int
    rows: list[Row]
    left_out: dict[str, int]
    last: Last
    digest: str
    made: str = field(default_factory=now)

    @property
    def sent(self) -> list[Row]:
        """Without what is withdrawn."""
        return [row for row in self.rows if row.change != "withdrawn"]

    @property
    def counts(self) -> dict[str, int]:
        """How many are new, changed, the same, withdrawn; how many of these are not released."""
        unreleased = sum(not row.state.released for row in self.sent if row.state)
        return dict(Counter(row.change for row in self.rows)) | {"unreleased": unreleased}

    @property
    def marks(self) -> dict[str, list[Row]]:
        """mark -> its connections that are sent."""
        found: dict[str, list[Row]] = defaultdict(list)
        for row in self.sent:
            found[row.mark].append(row)
        return dict(found)


@dataclass
class _Made:
    gathered: Gathered
    body: bytes

    @property
    def basis(self) -> _Made:
        return self

    def stands(self) -> bool:
        """Whether what is sent still stands so, and nobody was faster. Inside the transaction that writes."""
        it = self.gathered
        return transmittals.following(it.job) == it.number and _digest(it.job, it.sent) == it.digest


def make(job: Job, asked: Asked) -> Transmittal:
    """Freeze what stands and is released, or all of it where it is to go anyway. Raises Refused, InputError."""

    def worked() -> _Made:
        gathered = gather(job, asked)
        return _Made(gathered, _files(gathered))

    def write(made: _Made) -> Transmittal:
        it = made.gathered
        values = {
            "number": it.number, "to": asked.to, "why": asked.why, "where": asked.where, "anyway": asked.anyway,
            "author": asked.author, "made": it.made, "revision": it.standing.seen.revision.number,
            "marks": len(it.marks), "counts": it.counts, "size": len(made.body),
            "digest": hashlib.sha256(made.body).hexdigest(), "data": made.body,
        }  # fmt: skip
        return transmittals.keep(job, values, map(_kept, it.rows))

    return attempt(job, worked, write, "what is to be sent")


def gather(job: Job, asked: Asked) -> Gathered:
    """What would be sent now. Raises Refused(409) where nothing would."""
    for _ in range(TRIES):
        moves = jobs.moves(job)
        standing = Standing(job, asked.where)
        with reading():
            states = transmittals.states(job, set(standing.sizes))
            last, number = transmittals.last_sent(job), transmittals.following(job)
            gone = sorted(last.keys() - standing.records.keys())
            there = connections.versions(job, gone)
            if jobs.moves(job) == moves:  # all of it is of one moment
                break
    else:
        raise Refused(409, "the job was changed again and again meanwhile; nothing was made, try again")
    shown = [key for key in standing.shown if key in states]
    ready = shown if asked.anyway else [key for key in shown if states[key].released]
    if not ready:
        otherwise = len(standing.records) - len(standing.sizes)
        if shown:
            why = f"none of these {len(shown)} is released: release them, or say why they go anyway"
        elif otherwise:
            why = f"{otherwise} that have sizes are otherwise by the rules as they are now: run the job"
        else:
            why = "none of these connections has sizes: run the job"
        raise Refused(409, f"there is nothing to send; {why}")
    rows = [_row(standing, key, states[key], last.get(key)) for key in ready]
    rows += [_withdrawn(key, *last[key], key in there) for key in gone]
    rows.sort(key=lambda row: (row.change == "withdrawn", in_order(row.mark), in_order(row.connection)))
    left_out = {
        "not released": len(shown) - len(ready),
        "that the rules make otherwise by now": len(standing.records) - len(standing.sizes),
    }
    found = Gathered(job, asked, standing, number, rows, {k: n for k, n in left_out.items() if n}, last, "")
    found.digest = _digest(job, found.sent)
    return found


def _digest(job: Job, sent: list[Row]) -> str:
    """Of results and releases of what is sent, as they stand in the records."""
    keys = {row.connection for row in sent}
    released = sorted((key, s.released, s.released_at, s.stale) for key, s in transmittals.states(job, keys).items())
    return proving.of_results(job.id, keys) + hashlib.sha256(repr(released).encode()).hexdigest()


def _row(standing: Standing, key: str, state: State, last: tuple[int, Sent] | None) -> Row:
    record = standing.records[key]
    mark = standing.names[standing.mark_of[key]]
    words = _changed(standing, key, last[1], mark) if last else ""
    change = "new" if last is None else "changed" if words else "same"
    return Row(key, mark, record.standard, standing.sizes[key], record.status, record.utilisation, state, change, words,
               last[0] if last else 0)  # fmt: skip


def _withdrawn(key: str, number: int, last: Sent, there: bool) -> Row:
    sizes = connections.sizes_in(last.sizes)
    words = f"it {'has no sizes' if there else 'is not there'} any more"
    return Row(key, last.mark, last.standard, sizes, "", 0.0, None, "withdrawn", words, number)


def _changed(standing: Standing, key: str, last: Sent, mark: str) -> str:
    """What is otherwise than it was sent, in words; nothing where it is the same."""
    record, system = standing.records[key], standing.plan.building.system
    if last.standard != record.standard:
        return f"{STANDARDS[last.standard].title.lower()} to {STANDARDS[record.standard].title.lower()}"
    was, sizes, told = connections.sizes_in(last.sizes), standing.sizes[key], []
    for p in STANDARDS[record.standard].parameters:
        old, new = was.get(p.name), sizes.get(p.name)
        if old is not None and new is not None and old.value != new.value:
            told.append(f"{p.name} {p.show(old.value, system) or 'none'} to {p.show(new.value, system) or 'none'}")
    told += [f"mark {last.mark} to {mark}"] if mark != last.mark else []
    told += [f"{last.status} to {record.status}"] if record.status != last.status else []
    return "; ".join(told)


def _kept(row: Row) -> dict[str, Any]:
    state = row.state
    return {
        "connection": row.connection, "place": state.place if state else "", "mark": row.mark,
        "standard": row.standard, "sizes": connections.sizes_text(row.sizes), "status": row.status,
        "utilisation": row.utilisation, "released": state.released if state else "", "change": row.change,
        "words": row.words, "before": row.before,
    }  # fmt: skip


def _plain(sizes: Sizes) -> dict[str, Any]:
    """Values in mm, N and N*mm, or as words."""
    return {name: size.value for name, size in sizes.items()}


def _files(it: Gathered) -> bytes:
    """The zip: drawings, lists, what it holds as data, the page that leads to them."""
    stem = f"{it.job.name}-{name_of(it.number)}"
    head, lines = as_table(scheduled(it.standing, {row.connection for row in it.sent}))
    files = {
        f"{stem}-drawings.pdf": detailing.of_subjects(
            list(_subjects(it)), it.standing.seen, f"Transmittal {name_of(it.number)}", it.made[:10]
        ),
        f"{stem}-calculations.pdf": calculating.of_marks(it.job, _by_mark(it), it.asked.author),
        f"{stem}-schedule.csv": as_csv(head, lines).encode(),
        f"{stem}-connections.csv": as_csv(*_list(it)).encode(),
    }
    made = parts_lists.made(it.standing, {row.connection for row in it.sent})
    plan = it.standing.plan
    for kind in KINDS:
        files[f"{stem}-{kind}.csv"] = as_csv(*table(kind, made, plan.building.system, plan.rulebook.finish)).encode()
    told = [
        {
            "name": name,
            "what": WHAT[name.removeprefix(f"{stem}-")],
            "kb": f"{len(body) / 1024:,.0f}",
            "digest": hashlib.sha256(body).hexdigest(),
        }
        for name, body in files.items()
    ]
    page = index_page(_index(it, told))
    about = {
        "job": it.job.name, "title": it.job.title, "number": it.number, "to": it.asked.to, "why": it.asked.why,
        "where": it.asked.where, "anyway": it.asked.anyway, "author": it.asked.author, "made": it.made,
        "revision": it.standing.seen.revision.number, "code": it.job.code, "method": it.job.method,
        "counts": it.counts, "connections": [_kept(row) | {"sizes": _plain(row.sizes)} for row in it.rows],
    }  # fmt: skip
    return zipped({INDEX: page, **files}, about)


def _subjects(it: Gathered) -> Iterator[Subject]:
    """A detail a mark, with what is wrong with its connections, and what the one that is drawn was when it was last
    sent."""
    pieces = {it.standing.names[name]: piece for name, piece in it.standing.pieces.items()}
    for mark in sorted(it.marks, key=in_order):
        rows = it.marks[mark]
        wrong = list(dict.fromkeys(words for row in rows for words in row.wrong))
        keys = {row.connection for row in rows}
        yield detailing.of_mark(it.standing, mark, pieces[mark], keys, it.last, " · ".join(wrong))


def _by_mark(it: Gathered) -> dict[str, dict[str, SizedConnection]]:
    """mark -> its connections that are sent."""
    of = it.standing.records
    return {
        mark: {row.connection: of[row.connection] for row in it.marks[mark]} for mark in sorted(it.marks, key=in_order)
    }


def _list(it: Gathered) -> tuple[list[str], list[list[Any]]]:
    head = ["connection", "place", "member", "support", "framing", "mark", "standard", "sizes", "verdict",
            "utilisation", "check", "clause", "action", "released by", "change", "in what", "last in"]  # fmt: skip
    lines: list[list[Any]] = []
    for row in it.rows:
        record, state = it.standing.records.get(row.connection), row.state
        lines.append([
            row.connection, state.place if state else "", record.section if record else "",
            record.support_section if record else "", record.framing if record else "", row.mark, row.standard,
            _summary(it, row), row.verdict if state else "withdrawn", round(row.utilisation, 3),
            state.check if state else "", state.clause if state else "", state.action if state else "",
            state.released if state else "", row.change, row.words, name_of(row.before) if row.before else "",
        ])  # fmt: skip
    return head, lines


def _summary(it: Gathered, row: Row) -> str:
    return STANDARDS[row.standard].summary(row.sizes, it.standing.plan.building.system) if row.standard else ""


def _index(it: Gathered, files: list[dict[str, str]]) -> Index:
    seen, counts, sent = it.standing.seen, it.counts, it.sent
    label = f" ({seen.revision.label})" if seen.revision.label else ""
    wrong = Counter(words for row in sent for words in row.wrong)
    loud = [f"{count} {words}" for words, count in wrong.items() if words != "NOT RELEASED"]
    if counts["unreleased"]:
        loud.insert(0, f"{counts['unreleased']} NOT RELEASED, sent anyway: {it.asked.anyway}")
    before = sorted({row.before for row in it.rows if row.before})
    changes = [row for row in it.rows if row.change in CHANGES and (row.before or row.change == "withdrawn")]
    new = counts.get("new", 0)
    return Index(
        firm=letterhead.firm(it.job),
        name=name_of(it.number),
        title=it.job.title or it.job.name,
        to=it.asked.to,
        why=it.asked.why,
        made=it.made.replace("T", " ").replace("Z", " UTC"),
        author=it.asked.author,
        model=f"R{seen.revision.number}{label}",
        judged_by=f"{it.job.code} {it.job.method}",
        asked=it.asked.where or "all",
        holds=f"{len(sent)} connections in {len(it.marks)} marks: {new} new, {counts.get('changed', 0)} changed,"
        f" {counts.get('same', 0)} as they were sent; {counts.get('withdrawn', 0)} withdrawn"
        + "".join(f"; {count} {words} left out" for words, count in it.left_out.items()),
        supersedes=", ".join(f"{name_of(number)} for these connections" for number in before),
        loud=loud,
        files=files,
        changes=[_shown(it, row) for row in changes[:SHOWN]],
        unchanged="All of it is sent for the first time." if new == len(sent) else "Nothing.",
        rows=[_shown(it, row) for row in sent[:SHOWN]],
        more=[
            f"and {len(some) - SHOWN} more, in the list of connections" if len(some) > SHOWN else ""
            for some in (changes, sent)
        ],
    )


def _shown(it: Gathered, row: Row) -> dict[str, Any]:
    return {
        "connection": row.connection, "place": row.state.place if row.state else "", "mark": row.mark,
        "summary": _summary(it, row), "verdict": row.verdict, "wrong": row.status != "pass" or bool(row.wrong),
        "utilisation": row.utilisation, "released": row.state.released if row.state else "", "change": row.change,
        "words": row.words, "before": name_of(row.before) if row.before else "",
    }  # fmt: skip
