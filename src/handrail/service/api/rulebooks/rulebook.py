"""The rulebook of a job: its revisions, its dry run, what it says of one connection."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from flask import request

from handrail.core.building.nearest import SAME
from handrail.core.quantities.units import show
from handrail.core.rulebook import Rulebook, Text, editing
from handrail.core.rulebook.also import ALSO_KEYS
from handrail.core.rulebook.differing import differences, line_by_line
from handrail.core.rulebook.facts import FACTS
from handrail.core.rulebook.language import TOP_KEYS
from handrail.core.rulebook.practice import (
    FINISH,
    FINISHES,
    OVER,
    OVER_CHOICES,
    OVER_HELP,
    PLACE,
    PLACE_HELP,
    PRACTICE,
    STOCK,
    STOCK_HELP,
    TARGET,
    TARGET_HELP,
    USES,
    said,
)
from handrail.core.rulebook.rules import LADDER_KEYS, RULE_KEYS
from handrail.core.rulebook.tables import Table
from handrail.core.standards import STANDARDS
from handrail.core.standards.formulas import HELP
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.long import long
from handrail.service.api.rulebooks import answers as r
from handrail.service.api.rulebooks import requests as q
from handrail.service.application import rulebooks, whys
from handrail.service.application.kept import kept_alone
from handrail.service.application.likeness import rule_like
from handrail.service.application.plans import look_at, plan_around, rulebook_of, takes
from handrail.service.application.refused import Refused
from handrail.store import connections, jobs
from handrail.store import rulebooks as kept
from handrail.store.database import reading
from handrail.store.jobs import system_of
from handrail.store.models import Connection, Job, RulebookRevision

api = blueprint("rulebook", "shop practice, tables and rules")


def _answer(job: Job) -> dict[str, Any]:
    book, own = rulebook_of(job), kept.find(job, job.rulebook_version)
    taken, adds = takes(look_at(job)) if jobs.has_model(job) else ({}, {})
    rules = [
        {
            "name": rule.name,
            "use": rule.use,
            "when": [str(part) for part in rule.when.parts],
            "line": rule.line,
            "origin": rule.origin,
            "note": rule.note,
            "takes": taken.get(rule.name, 0),
        }
        for rule in book.rules
    ]
    said = kept.as_dict(own) if own else {"name": "", "author": "", "made": "", "inherits": ""}
    return {
        "text": job.rulebook,
        "files": job.rulebook_files,
        "version": job.rulebook_version,
        "target": book.target,
        "rules": rules,
        "also": rulebooks.also_rules(book, adds, system_of(job)),
        "tables": [_table(table) for table in book.tables.values()],
        **{n: said[n] for n in ("name", "author", "made", "inherits")},
    }


def _table(table: Table) -> dict[str, Any]:
    columns = [c.name for c in table.columns]
    return {
        "name": table.name,
        "keys": [{"name": k.column.name, "match": k.match, "is_fact": k.fact is not None} for k in table.keys],
        "columns": [f"{c.name} [{c.unit}]" if c.unit else c.name for c in table.columns],
        "rows": [[*row.keys, *(row.cells.get(name, "") for name in columns)] for row in table.rows],
        "file": str(table.place.get("file", "")),
    }


@api.get("/rulebook-language", responses={200: r.RulebookLanguage})
def language() -> Reply:
    """What rulebooks are written with: facts, functions, what practice says by use, keys, parameters of each
    standard."""
    return {
        "facts": [
            {"name": f.name, "kind": f.kind, "help": f.help, "example": f.example, "choices": list(f.choices)}
            for f in FACTS.values()
        ],
        "functions": (
            [{"name": n, "help": words, "example": example} for n, (words, example) in HELP.items()]
            + [
                {
                    "name": "look_up",
                    "help": "What a table has in a column for the connection",
                    "example": "look_up(beams, rows)",
                }
            ]
        ),
        "uses": [{"name": f"{u.group}.{u.name}", "help": u.help} for u in USES],
        "keys": {
            "rulebook": list(TOP_KEYS),
            "rule": list(RULE_KEYS),
            "also": list(ALSO_KEYS),
            "ladder": list(LADDER_KEYS),
            "table": ["by", "match", "rows", "csv", "file", "units", "note"],
            "when": ["all", "any", "not", "row_in"],
        },
        "parameters": {name: [p.name for p in standard.parameters] for name, standard in STANDARDS.items()},
    }


@api.get("/jobs/<string:job>/rulebook", responses={200: r.Rulebook})
@long()
def get_rulebook(path: s.JobPath) -> Reply:
    """The rulebook as it is written, and how many connections each rule takes."""
    job = job_for(path.job)
    return _answer(job), 200, {"ETag": f'"{job.rulebook_version}"'}


@api.put("/jobs/<string:job>/rulebook", responses={200: r.Rulebook, 412: a.Problem})
@long(keeps=False)
def put_rulebook(path: s.JobPath, body: q.NewRulebook) -> Reply:
    """Adopt a rulebook as the job's next revision; one with errors is refused with their lines. Sizes change with the
    next run."""
    job = job_for(path.job, "engineer")
    rulebooks.adopt(
        job, Text(body.text, body.files), body.name, caller().name, request.headers.get("If-Match", "").strip('"')
    )
    job = job_for(path.job, "engineer")
    return _answer(job), 200, {"ETag": f'"{job.rulebook_version}"'}


@api.post("/jobs/<string:job>/rulebook/read", responses={200: r.RulebookSaid})
@long()
def read_rulebook(path: s.JobPath, body: q.RulebookText) -> Reply:
    """What a rulebook that is being written says: its practice line by line, its tables. Nothing is kept."""
    system = system_of(job_for(path.job))
    book = rulebooks.read(Text(body.text, body.files))
    return {"practice": _practice(book, system), "tables": [_table(table) for table in book.tables.values()]}


@api.post("/jobs/<string:job>/rulebook/try", responses={200: r.RulebookTried})
@long()
def try_rulebook(path: s.JobPath, body: q.TriedRulebook) -> Reply:
    """What a rulebook would take, and which connections would be otherwise than they are; nothing changes."""
    return rulebooks.tried(job_for(path.job), Text(body.text, body.files), body.compare)


@api.post("/jobs/<string:job>/rulebook/try-on", responses={200: r.TriedOnConnection})
@long()
def try_on(path: s.JobPath, body: q.TriedOn) -> Reply:
    """What a rulebook (the job's own where none is given), or one rule, table or formula of it, makes of one
    connection; nothing changes."""
    job = job_for(path.job)
    book = rulebooks.read(Text(body.text, body.files)) if body.text else None
    with reading():
        record = _connection(job, body.connection)
        seen = look_at(job, record.key, book)
        plan = plan_around(seen, record, rulebook=book)
    outcome = plan.work({record.key}).get(plan.index[record.key])
    asked = body.table or body.formula or body.rule
    answer: dict[str, Any] = {"value": None, "values": {}, "rows": [], "row": None, "rule": None, "none": ""}
    return answer | {
        "why": whys.why(plan, record.key, outcome.sizes if outcome else {}),
        **(whys.tried(plan, record.key, body.table, body.formula, body.rule) if asked else {}),
    }


@api.post("/jobs/<string:job>/rulebook/edit", responses={200: r.EditedRulebook})
@long()
def edit(path: s.JobPath, body: q.RulebookEdit) -> Reply:
    """A rulebook's text with one change, comments and all other lines as they were: a rule moved, a rule made from a
    connection, practice back at its default, a cell of a table. Nothing is kept."""
    job = job_for(path.job)
    asked = [change for change in (body.move, body.like, body.default, body.cell) if change is not None]
    if len(asked) != 1:
        raise Refused(422, "say one change: move, like, default or cell")
    given = Text(body.text, body.files)
    if body.move:
        given = Text(editing.move_rule(given.text, body.move.rule, body.move.to), given.files)
    elif body.default:
        given = Text(editing.without_practice(given.text, body.default), given.files)
    elif body.cell:
        given = editing.with_cell(given, body.cell.table, body.cell.row, body.cell.column, body.cell.value)
    elif body.like:
        given = Text(editing.with_rule(given.text, _like(job, body.like)), given.files)
    return {"text": given.text, "files": dict(given.files)}


def _like(job: Job, asked: q.RuleLike) -> dict[str, Any]:
    """The rule that a connection makes."""
    with reading():
        record = _connection(job, asked.connection)
        stands = kept_alone(look_at(job, record.key), record)
    plan, assigned = stands.plan, stands.assigned
    if not stands.ruled or assigned.situation is None:
        raise Refused(
            409, f"connection {record.key} has no sizes to make a rule of ({stands.otherwise or record.reason})"
        )
    facts = plan.facts(plan.index[record.key], assigned.situation, every=True)
    return rule_like(assigned, stands.sizes, facts, asked.free, asked.sections, plan.building.system)


@api.get("/jobs/<string:job>/connections/<path:connection>/rule", responses={200: r.WhyRule, 404: a.Problem})
def why(path: s.ConnectionPath) -> Reply:
    """Which rule took a connection, which passed it by and on which fact, and where each of its sizes comes from."""
    job = job_for(path.job)
    with reading():
        record = _connection(job, path.connection)
        stands = kept_alone(look_at(job, record.key), record)
    return whys.why(stands.plan, record.key, stands.sizes if stands.ruled else {})


def _connection(job: Job, key: str) -> Connection:
    record = connections.find(job, key)
    if record is None:
        raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
    return record


@api.get("/jobs/<string:job>/rulebook/practice", responses={200: a.Page[r.PracticeOf]})
def practice(path: s.JobPath) -> Reply:
    """Shop practice, parameter by parameter, with its default and a sentence of explanation."""
    job = job_for(path.job)
    listed = _practice(rulebook_of(job), system_of(job))
    return {"items": listed, "total": len(listed), "next": None}


def _practice(book: Rulebook, system: str) -> list[dict[str, Any]]:
    listed = [
        {
            "parameter": TARGET,
            "standard": "",
            "label": "Target utilisation",
            "help": TARGET_HELP,
            "text": f"{book.target:g}",
            "source": PRACTICE if book.target < 1 else "default",
            "said": TARGET if book.target < 1 else "",
            "default": "1",
        }
    ]
    listed += [
        {
            "parameter": TARGET,
            "standard": name,
            "label": "Target utilisation",
            "help": TARGET_HELP,
            "text": f"{target:g}",
            "source": f"{PRACTICE} {name}",
            "said": f"{name}.{TARGET}",
            "default": f"{book.target:g}",
        }
        for name, target in book.targets.items()
    ]
    own = book.over_target != OVER_CHOICES[0]
    listed.append(
        {
            "parameter": OVER,
            "standard": "",
            "label": "Over the target",
            "help": OVER_HELP,
            "text": book.over_target,
            "source": PRACTICE if own else "default",
            "said": OVER if own else "",
            "default": OVER_CHOICES[0],
        }
    )
    listed.append(
        {
            "parameter": STOCK,
            "standard": "",
            "label": "Stock",
            "help": STOCK_HELP,
            "text": book.stock,
            "source": PRACTICE if book.stock != "in" else "default",
            "said": STOCK if book.stock != "in" else "",
            "default": "in",
        }
    )
    own = book.same_place != SAME
    listed.append(
        {
            "parameter": PLACE,
            "standard": "",
            "label": "The same place",
            "help": PLACE_HELP,
            "text": show(book.same_place, "length", system),
            "source": PRACTICE if own else "default",
            "said": PLACE if own else "",
            "default": show(SAME, "length", system),
        }
    )
    listed += [
        {
            "parameter": f"{FINISH}.{name}",
            "standard": "",
            "label": f"Finish of {name}",
            "help": words,
            "text": book.finish.get(name, ""),
            "source": PRACTICE if name in book.finish else "default",
            "said": f"{FINISH}.{name}" if name in book.finish else "",
            "default": "",
        }
        for name, words in FINISHES.items()
    ]
    for standard in STANDARDS.values():
        held = book.practice.get(standard.name, {})
        for p in standard.parameters:
            default = p.usual(system)
            size = held.get(p.name)
            text = default if size is None else str(size.value) if size.asked else p.show(size.value, system)
            listed.append(
                {
                    "parameter": p.name,
                    "standard": standard.name,
                    "label": p.label,
                    "help": p.explained(system),
                    "text": text,
                    "source": size.source if size else "default",
                    "said": said(size.source, p.name) if size else "",
                    "default": default,
                }
            )
    return listed


@api.get("/jobs/<string:job>/rulebook/revisions", responses={200: a.Page[r.RulebookRevision]})
def list_revisions(path: s.JobPath) -> Reply:
    """Every rulebook that the job had, newest first."""
    listed = kept.listed(job_for(path.job))
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/jobs/<string:job>/rulebook/revisions/<int:number>", responses={200: r.WrittenRevision})
def get_revision(path: q.RulebookRevisionPath) -> Reply:
    """One of them as it was written."""
    revision = _revision(job_for(path.job), path.number)
    return kept.as_dict(revision) | {"text": revision.text, "files": revision.files}


@api.get("/jobs/<string:job>/rulebook/compare", responses={200: r.DifferingRulebooks})
@long()
def compare(path: s.JobPath, query: s.TwoRevisions) -> Reply:
    """What two revisions of the rulebook say differently; the last two unless they are named."""
    job = job_for(path.job)
    new = query.new or job.rulebook_version
    old = query.old or new - 1
    return _differing(_revision(job, old), _revision(job, new), system_of(job))


AGAIN = "as revision "


@api.post("/jobs/<string:job>/rulebook/back", responses={200: r.Rulebook, 409: a.Problem})
@long(keeps=False)
def go_back(path: s.JobPath, body: q.RulebookBack) -> Reply:
    """Adopt an earlier revision again, as the next one; the one before unless it is named."""
    job = job_for(path.job, "engineer")
    revision = _revision(job, body.number or job.rulebook_version - 1)
    again = revision.name.startswith(AGAIN)  # itself an earlier one: it is called as that was
    name = revision.name if again else f"{AGAIN}{revision.number}{f' ({revision.name})' if revision.name else ''}"
    rulebooks.adopt(job, Text(revision.text, revision.files), body.name or name, caller().name)
    return _answer(job_for(path.job, "engineer"))


def _revision(job: Job, number: int) -> RulebookRevision:
    entry = kept.find(job, number)
    if entry is None:
        raise Refused(
            404,
            f"the rulebook of '{job.name}' has no revision {number}"
            + ("; there is none before the first" if number == 0 else ""),
        )
    return entry


def _differing(old: RulebookRevision, new: RulebookRevision, system: str) -> dict[str, Any]:
    names = (f"revision {old.number}", f"revision {new.number}")
    texts = Text(old.text, old.files), Text(new.text, new.files)
    old_book, new_book = (rulebooks.read(text) for text in texts)
    return {
        "old": names[0],
        "new": names[1],
        "differences": [asdict(d) for d in differences(old_book, new_book, system)],
        "lines": line_by_line(*texts, names),
    }
