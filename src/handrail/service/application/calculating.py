"""Calculations as they leave the house: of a connection, of marks, of what a filter leaves; worked out from the same
records, by the same checks, as the page of a connection shows."""

from __future__ import annotations

import io
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from urllib.parse import quote

import numpy as np

from handrail import __version__
from handrail.core.actions import COMPONENTS
from handrail.core.checking.details import parts
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import Check as Judged
from handrail.core.checking.result import Result, rule_dict
from handrail.core.checking.trial import Trial
from handrail.core.codes import code
from handrail.core.quantities.units import FOOT, KIP, show
from handrail.core.quantities.words import all_said, said
from handrail.core.solids.pictured import pictured
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sizes
from handrail.interchange.printed.calculation import (
    LINES,
    SECTIONS,
    Calculation,
    Check,
    Cover,
    write_calculations,
)
from handrail.interchange.printed.one_page import write_page
from handrail.interchange.printed.word import MOST as MOST_IN_WORD
from handrail.interchange.printed.word import write_word
from handrail.service.application import effort, letterhead, standing
from handrail.service.application.kept import Kept, kept
from handrail.service.application.loud import wrong
from handrail.service.application.mark_schedule import Standing, in_order
from handrail.service.application.plans import Seen, look_at, plan_of
from handrail.service.application.refused import Refused
from handrail.store import connections, events, overrides, profiles, proving
from handrail.store.connections import SizedConnection
from handrail.store.database import reading
from handrail.store.models import Connection, Job, Override

SHOWN = 7  # checks that are set against combinations
EVERY = 30  # combinations of which all are listed; of more, those that have a say
KINDS = {"pdf": "application/pdf", "docx": "application/vnd.openxmlformats-officedocument.wordprocessingml.document"}
WORST = {"fail": 0, "unchecked": 1}


@dataclass(frozen=True)
class Asked:
    """Of what, what of it, and who asks."""

    connection: str
    mark: str
    where: str
    each: bool  # a calculation a connection, not a mark
    sections: tuple[str, ...]  # none: those of the profile
    lines: str  # none: those of the profile
    author: str
    profile: str = ""


@dataclass(frozen=True)
class _Subject:
    """What has a calculation of its own: a connection, or a mark by the worst of its places."""

    name: str
    key: str
    places: tuple[str, ...]
    mark: str = ""


def report(job: Job, asked: Asked, kind: str = "pdf") -> bytes:
    """The PDF, or DOCX. Raises Refused(404) where there is nothing to calculate, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"calculations are {' or '.join(KINDS)}, not {kind}")
    subjects = _subjects(job, asked)
    if kind == "docx" and len(subjects) > MOST_IN_WORD:
        raise Refused(
            422,
            f"{len(subjects)} calculations are more than the {MOST_IN_WORD} that one DOCX holds; choose fewer"
            " (--where), or write .pdf",
        )
    return _printed(job, subjects, asked, kind)


def of_marks(job: Job, marks: Mapping[str, Mapping[str, SizedConnection]], author: str) -> bytes:
    """The same of marks with some of their connections each, with all sections and the lines of what governs."""
    asked = Asked("", "", "", False, SECTIONS, LINES[0], author)
    return _printed(job, [_of_mark(mark, own) for mark, own in marks.items()], asked)


def one_page(job: Job, key: str, address: str) -> bytes:
    """A connection on one page, with a link to it under the `address` of the console. Raises Refused(404)."""
    with reading():
        seen = look_at(job)
        record = connections.find(job, key)
        decided = {key: [one for one in overrides.listed(job) if one.connection == key]}
        notes = events.notes(job)
    record = _sized(job, key, record)
    plan, of = plan_of(seen), _Subject(record.key, record.key, (record.key,))
    own = _calculation(plan, seen, of, {record.key: record}, decided, notes)
    head = letterhead.head(job, f"Connection {key}", _made_from(seen), plan.building.system)
    link = f"{address.rstrip('/')}/{quote(job.name, safe='')}/connections/{quote(key, safe='')}" if address else ""
    stream = io.BytesIO()
    write_page(own, _made_of(plan, record), head, link, stream)
    return stream.getvalue()


def of_trial(trial: Trial, name: str, system: str) -> Calculation:
    """Of a connection with no building."""
    looked, standard = trial.run(tracing=True), trial.standard
    checks = sorted(looked.checks, key=lambda c: -c.counts)
    words = [f"{looked.status}, utilisation {looked.utilisation:.2f}", looked.why(system)]
    met = trial.situation.pieces
    about = [
        ("standard", standard.title),
        ("members", " to ".join(f"{piece.steel.section.name} ({piece.steel.grade.name})" for piece in met)),
        ("framing", trial.situation.framing.replace("_", " ")),
        ("code", f"{trial.code.name} {trial.code.method}"),
    ]
    table = np.stack([np.atleast_2d(getattr(trial.actions, name)) for name in COMPONENTS], axis=-1)
    names = [
        f"{place}: {action}" if place else action for place in trial.places or ("",) for action in trial.actions.names
    ]
    return Calculation(
        name=name,
        title=standard.title,
        about=about,
        verdict=": ".join(filter(None, words)),
        passes=looked.status == "pass",
        warning="" if looked.status == "pass" else looked.status.upper(),
        views=standard.views(trial.situation, trial.sizes, system),
        picture=pictured(standard.solids(trial.situation, trial.sizes)),
        places=[],
        sizes=_sizes(standard, trial.sizes, system),
        cases=((), ()),
        actions=_listed("action", names, table.reshape(-1, len(COMPONENTS)), system),
        combinations=((), ()),
        checks=[_check(c, system) for c in checks],
        target=1.0,
        detailing=_detailing(looked, system),
        notes=list(all_said((*looked.unchecked, *looked.notes), system)),
        decisions=[],
    )


def _made_of(plan: Plan, record: Connection) -> list[str]:
    """A line for each kind of piece, bolt and weld."""
    stands = kept(plan, record)
    if not stands.sizes or stands.assigned.situation is None:
        return []
    solids = STANDARDS[record.standard].solids(stands.assigned.situation, stands.sizes)
    return list(parts(solids, plan.building.system))


def _printed(job: Job, subjects: Sequence[_Subject], asked: Asked, kind: str = "pdf") -> bytes:
    with reading():
        seen = look_at(job)
        records = connections.of_keys(job, {key for s in subjects for key in (s.key, *s.places)})
        decided: dict[str, list[Override]] = {}
        for one in overrides.listed(job):
            if one.connection in records:
                decided.setdefault(one.connection, []).append(one)
        digest, notes = proving.of_results(job.id, records), events.notes(job)
    plan = plan_of(seen)

    def each() -> Iterator[Calculation]:
        for number, subject in enumerate(subjects):
            effort.step(number, len(subjects))
            yield _calculation(plan, seen, subject, records, decided, notes)

    stream = io.BytesIO()
    cover = _cover(seen, plan, subjects, records, decided, digest, asked)
    own = profiles.said(asked.profile)
    head = letterhead.head(job, cover.of, _made_from(seen), plan.building.system, asked.profile)
    sections = asked.sections or own.sections or SECTIONS
    write = write_calculations if kind == "pdf" else write_word
    write(cover, each(), head, stream, sections, asked.lines or own.lines or LINES[0])
    return stream.getvalue()


def _sized(job: Job, key: str, record: Connection | None) -> Connection:
    """It, where there is something to be said of it. Raises Refused(404)."""
    if record is None:
        raise Refused(404, f"job {job.name} has no connection '{key}'")
    if not (record.standard and record.sizes):
        raise Refused(404, f"connection '{record.key}' has no sizes: {record.reason or 'run the job'}")
    return record


def _subjects(job: Job, asked: Asked) -> list[_Subject]:
    """What is calculated, in its order. Raises Refused(404)."""
    if asked.connection:
        with reading():
            record = connections.find(job, asked.connection)
        record = _sized(job, asked.connection, record)
        return [_Subject(record.key, record.key, (record.key,))]
    marks = Standing(job, asked.where)
    shown = set(marks.shown)
    found = []
    for name, piece in marks.pieces.items():
        mark, keys = marks.names[name], [key for key in piece.connections if key in shown]
        if not keys or asked.mark not in ("", mark):
            continue
        if asked.each:
            found += [_Subject(key, key, (key,), mark) for key in keys]  # those that are alike follow each other
        else:
            found.append(_of_mark(mark, {key: marks.records[key] for key in keys}))
    if not found:
        what = f"no mark '{asked.mark}'" if asked.mark else "no connection with sizes among these"
        raise Refused(404, f"job {job.name} has {what}: there is nothing to calculate")
    return sorted(found, key=lambda s: (in_order(s.mark), in_order(s.name)))


def _of_mark(mark: str, own: Mapping[str, SizedConnection]) -> _Subject:
    """By the place of it that fails, or is used most."""
    keys = sorted(own, key=lambda key: (WORST.get(own[key].status, 2), -own[key].utilisation, key))
    return _Subject(mark, keys[0], tuple(keys), mark)


def _calculation(
    plan: Plan,
    seen: Seen,
    of: _Subject,
    records: Mapping[str, Connection],
    decided: Mapping[str, Sequence[Override]],
    notes: Mapping[str, str],
) -> Calculation:
    record, system = records[of.key], plan.building.system
    stands = kept(plan, record)
    stale = _stale(plan, record)
    looked = plan.look(stands.assigned, stands.sizes, tracing=True) if stands.sizes else None
    status = "unchecked" if stale else record.status
    checks = [] if looked is None else sorted(looked.checks, key=lambda c: -c.counts)
    words = [status, f"utilisation {record.utilisation:.2f}" if status in ("pass", "fail") else ""]
    words += [said(record.reason, system) or stale or stands.otherwise]
    situation = stands.assigned.situation
    standard = STANDARDS[record.standard]
    solids = standard.solids(situation, stands.sizes) if situation is not None and stands.sizes else None
    return Calculation(
        name=of.name,
        title=standard.title,
        about=_about(plan, record, stands, of, notes),
        verdict=": ".join(word for word in (", ".join(words[:2]).rstrip(", "), words[2]) if word),
        passes=status == "pass",
        warning=" · ".join(_wrong(plan, [records[key] for key in of.places])),
        views=standard.views(situation, stands.sizes, system) if situation and solids else (),
        picture=pictured(solids) if solids else None,
        places=[_place(plan, records[key]) for key in of.places],
        sizes=_sizes(standard, stands.sizes, system),
        cases=_cases(plan, stands),
        actions=_actions(plan, stands, checks),
        combinations=_combinations(plan, stands) if looked else ((), ()),
        checks=[_check(c, system) for c in checks],
        target=plan.target(of.places),
        detailing=_detailing(looked, system),
        notes=_notes(looked, stands, record, system),
        decisions=[_decision(one) for key in of.places for one in decided.get(key, ())],
    )


def _sizes(standard: Standard, sizes: Sizes, system: str) -> list[tuple[str, str, str]]:
    return [
        (p.label, p.show(size.value, system) or "none", f"{size.source} {size.formula}".strip())
        for p in standard.parameters
        if (size := sizes.get(p.name)) is not None
    ]


def _stale(plan: Plan, record: Connection) -> str:
    if record.stale:
        return str(record.stale)
    return standing.STALE if record.digest and not standing.still(plan, record) else ""


def _wrong(plan: Plan, records: Sequence[Connection]) -> list[str]:
    """Of any of them, each once."""
    every = (wrong(r.status, _stale(plan, r), r.overridden, r.released) for r in records)
    return list(dict.fromkeys(words for some in every for words in some))


def _about(
    plan: Plan, record: Connection, stands: Kept, of: _Subject, notes: Mapping[str, str]
) -> list[tuple[str, str]]:
    support = f" to {record.support_section}" if record.support_section else ""
    rows = [
        ("standard", STANDARDS[record.standard].title),
        ("members", f"{record.section}{support}"),
        ("framing", record.framing.replace("_", " ") + (f", {record.words}" if record.words else "")),
        ("place", f"{record.key}, joint {record.joint} ({record.place})"),
        ("rule", record.rule),
        ("released by", record.released or "not released"),
        *(("to the shop", note) for note in dict.fromkeys(notes[key] for key in of.places if key in notes)),
    ]
    if len(of.places) > 1:
        rows.insert(0, ("of", f"{len(of.places)} places; what follows is {record.key}, which is used most"))
    return [(name, words) for name, words in rows if words]


def _place(plan: Plan, record: Connection) -> tuple[str, ...]:
    stale = ", stale" if _stale(plan, record) else ""
    by = f"{record.check_name.replace('_', ' ')} in {record.action}" if record.check_name else record.reason
    return record.key, record.place, f"{record.status}{stale}", f"{record.utilisation:.2f}", by


def _check(c: Judged, system: str) -> Check:
    verdict = "enough" if c.utilisation <= 1 else "NOT ENOUGH"
    if np.isnan(c.utilisation):
        verdict = "not known"
    return Check(
        c.check.replace("_", " "), c.part, c.clause, c.action, show(c.demand, c.kind, system),
        show(c.strength, c.kind, system), c.utilisation, verdict + (" (limit)" if c.limit else ""), c.lines,
    )  # fmt: skip


def _actions(plan: Plan, stands: Kept, checks: Sequence[Judged]) -> tuple[list[str], list[list[str]]]:
    """What acts in each combination; of many, in those that have the largest or smallest of something, or that a
    check is worst in."""
    table = plan.acting.on(np.array([plan.index[stands.record.key]]))[0][:, : len(COMPONENTS)]
    names = plan.acting.names
    chosen: Sequence[int] = range(len(table))
    if len(table) > EVERY:
        have = {int(k) for row in (table.argmax(axis=0), table.argmin(axis=0)) for k in row}
        have |= {names.index(c.action) for c in checks if c.action in names}
        chosen = sorted(have)
    head, rows = _listed("combination", [names[k] for k in chosen], table[list(chosen)], plan.building.system)
    if len(rows) < len(table):
        rows.append([f"and {len(table) - len(rows)} more", *[""] * len(COMPONENTS)])
    return head, rows


def _cases(plan: Plan, stands: Kept) -> tuple[list[str], list[list[str]]]:
    """What acts in each result of the analysis alone."""
    names, table = plan.acting.by_case(plan.index[stands.record.key])
    return _listed("case", names, table, plan.building.system)


def _listed(what: str, names: Sequence[str], table: np.ndarray, system: str) -> tuple[list[str], list[list[str]]]:
    """Rows of actions under their names, in the units of `system`."""
    unit = ("kip", "kip*ft") if system == "us" else ("kN", "kN*m")
    scale = (1 / KIP, 1 / KIP / FOOT) if system == "us" else (1e-3, 1e-6)
    head = [what, *(f"{name}, {unit[k >= 3]}" for k, name in enumerate(COMPONENTS))]
    rows = zip(names, table, strict=True)
    return head, [
        [name, *("–" if np.isnan(v) else _decimal(v * scale[n >= 3]) for n, v in enumerate(row))] for name, row in rows
    ]


def _combinations(plan: Plan, stands: Kept) -> tuple[Sequence[str], Sequence[tuple[str, Sequence[float]]]]:
    """Of the checks that are used most what each combination uses."""
    found = plan.every(stands.assigned, stands.sizes)
    if isinstance(found, str):
        return (), ()
    most = np.nan_to_num(found.use).max(axis=1, initial=0.0) if found.use.size else np.zeros(0)
    shown = [int(k) for k in np.argsort(-most, kind="stable")[:SHOWN] if not found.states[k].limit or most[k] > 1]
    names = [found.states[k].check.replace("_", " ") for k in shown]
    return names, [(name, [float(v) for v in found.use[shown, c]]) for c, name in enumerate(found.actions.names)]


def _decimal(value: float) -> str:
    return f"{round(value, 1) + 0.0:.1f}"  # -0 is 0


def _detailing(looked: Result | None, system: str) -> list[tuple[str, str, str, str]]:
    rows = []
    for rule in looked.detailing if looked else ():
        kind = rule.kind
        limit = f"{rule_dict(rule, system)['sense']} {show(rule.limit, kind, system)}"
        words = said(rule.says, system) or rule.rule.replace("_", " ")
        rows.append((f"{words} ({rule.clause})" if rule.clause else words, show(rule.given, kind, system), limit,
                     "kept" if rule.ok else "BROKEN"))  # fmt: skip
    return sorted(rows, key=lambda row: row[3] == "kept")


def _notes(looked: Result | None, stands: Kept, record: Connection, system: str) -> list[str]:
    found = [stands.otherwise, *(all_said((*looked.unchecked, *looked.notes), system) if looked else record.notes)]
    return [note for note in dict.fromkeys(map(str, found)) if note]


def _decision(one: Override) -> tuple[str, ...]:
    by = f"{one.author}, {one.made[:10]}" + (f"; {one.state} by {one.reviewer}" if one.reviewer else "")
    why = ": ".join(word for word in (one.cause, one.reason, one.word) if word)
    return one.connection, f"{one.parameter} {one.shown or one.value}", one.state, by, why


def _cover(
    seen: Seen,
    plan: Plan,
    subjects: Sequence[_Subject],
    records: Mapping[str, Connection],
    decided: Mapping[str, Sequence[Override]],
    digest: str,
    asked: Asked,
) -> Cover:
    job, revision = seen.job, seen.revision
    own = [record for s in subjects for record in map(records.__getitem__, s.places)]
    counts = Counter("stale" if _stale(plan, r) else r.status for r in own)
    targets = sorted({plan.target([record.key]) for record in own})
    over = sum(r.utilisation > plan.target([r.key]) for r in own)
    target = " to ".join(f"{target:.2f}" for target in dict.fromkeys((targets[0], targets[-1])))
    worst = max(own, key=lambda r: r.utilisation)
    loud = Counter(words for r in own for words in wrong(r.status, _stale(plan, r), r.overridden, r.released))
    by = worst.check_name.replace("_", " ")
    released = sorted({r.released for r in own if r.released})
    used = code(job.code, job.method)
    return Cover(
        of=f"Calculation of {subjects[0].name}" if len(subjects) == 1 else f"Calculations, {len(subjects)} in all",
        rests=[
            ("model", f"R{revision.number} {revision.label}, {revision.title}, {revision.dated}".rstrip(", ")),
            ("its source", f"{revision.source}, imported by {revision.author} {revision.made[:10]}"),
            ("rulebook", f"revision {job.rulebook_version}"),
            ("code", f"{used.name} {used.method}, {used.manual}"),
            ("combinations", f"{len(plan.acting.names)} of set {job.combination_set}"),
            ("target", f"{target} of the strength"),
            ("decisions", f"{sum(map(len, decided.values()))} on these connections"),
            ("results", digest.removeprefix("rows:")),
            ("reckoned by", f"Hand Rail {__version__}"),
        ],
        summary=[
            f"{len(own)} connection{'s' if len(own) > 1 else ''}: "
            + ", ".join(f"{count} {status}" for status, count in counts.items())
            + ".",
            f"Used most: {worst.key} at {worst.utilisation:.2f}{f' by {by}' if by else ''}; {over} over the target of"
            f" {target}.",
        ],
        warnings=[f"{count} {words}" for words, count in loud.items()],
        signed=[
            ("prepared by", asked.author),
            ("released by", ", ".join(released) or "nobody"),
            ("checked by", ""),
            ("approved by", ""),
        ],
        combinations=_terms(plan),
        contents=[
            (
                s.name,
                f"{STANDARDS[records[s.key].standard].title}, {len(s.places)} place{'s' if len(s.places) > 1 else ''}",
                f"{records[s.key].status} {records[s.key].utilisation:.2f}"
                if not _stale(plan, records[s.key])
                else "stale",
            )
            for s in subjects
        ],
    )


def _terms(plan: Plan) -> list[tuple[str, str]]:
    """What each combination is made of."""
    chosen = {(plan.code.method, plan.chosen.set), (plan.code.method, "overstrength")}
    return [
        (c.name, " + ".join(f"{factor:g} {case}" for case, factor in c.terms).replace("+ -", "- "))
        for c in plan.building.combinations
        if (c.method, c.set) in chosen
    ]


def _made_from(seen: Seen) -> str:
    revision = seen.revision
    label = f" ({revision.label})" if revision.label else ""
    return f"model R{revision.number}{label}, rulebook revision {seen.job.rulebook_version}"
