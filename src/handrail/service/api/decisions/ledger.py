"""The ledger: every decision and what became of it, in order, chained; handed over whole, and verified."""

from __future__ import annotations

import json
from pathlib import Path

from flask import Response

from handrail.core import ledger as chain
from handrail.interchange import sheet
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import administrator, job_for
from handrail.service.api.decisions import answers as d
from handrail.service.api.decisions import requests as q
from handrail.store import attachments, heads, ledger, proving
from handrail.store.database import proxy, reading
from handrail.store.models import Closed

api = blueprint("ledger", "the record of decisions")


@api.get("/jobs/<string:job>/ledger", responses={200: d.LedgerPage})
def get_ledger(path: s.JobPath, query: q.LedgerQuery) -> Reply:
    """Entries in order, from the first."""
    job = job_for(path.job)
    with reading():
        entries, total = ledger.entries(job, query.after, query.limit), ledger.count(job)
        last = ledger.entries(job, total - 1) if total else []
    more = entries[-1]["number"] if entries and entries[-1]["number"] < total else None
    return {"items": entries, "total": total, "next": more, "head": chain.head(last)}


@api.get("/jobs/<string:job>/ledger.csv", responses={200: None})
def get_ledger_csv(path: s.JobPath) -> Response:
    """The whole ledger as CSV; `data` as JSON in its column. It can be verified like the JSON."""
    job = job_for(path.job)
    return Response(
        as_csv(ledger.entries(job)),
        mimetype="text/csv",
        headers={"Content-Disposition": f'attachment; filename="{job.name}-ledger.csv"'},
    )


def as_csv(entries: list[dict[str, object]]) -> str:
    """Entries as CSV, a column a field; a text that a spreadsheet would work out stands behind an apostrophe."""
    rows = []
    for entry in entries:
        number = "" if entry["override"] is None else entry["override"]
        told = entry | {"data": json.dumps(entry["data"], sort_keys=True, ensure_ascii=False), "override": number}
        rows.append([told[name] for name in chain.FIELDS])
    return sheet.as_csv(chain.FIELDS, rows)


@api.get("/jobs/<string:job>/ledger/verify", responses={200: d.Verified})
def verify(path: s.JobPath) -> Reply:
    """Whether every entry follows from the one before, the records say what the ledger says, and it has what was signed
    of it."""
    job = job_for(path.job)
    with reading():
        entries = ledger.entries(job)
        faults = [*chain.faults(entries), *ledger.disagreements(job), *attachments.changed(job), *proving.faults(job)]
        notes = proving.notes(job)
    records = Path(proxy.database)
    signed = heads.faults(records.parent, records)
    faults += [*signed.get(job.name, []), *signed.get("", [])]
    return {
        "entries": len(entries),
        "head": chain.head(entries),
        "sound": not faults,
        "faults": faults,
        "notes": [*notes, *heads.restored(records.parent)],
    }


@api.get("/closed", responses={200: a.Page[d.Closed]})
def closed() -> Reply:
    """The ledgers of jobs that were deleted: how many entries each had, its first one's digest and its last one's. For
    administrators."""
    administrator()
    ended = list(
        Closed.select(Closed.job, Closed.entries, Closed.first, Closed.head, Closed.author, Closed.made)
        .order_by(Closed.id.desc())
        .dicts()
    )
    return {"items": ended, "total": len(ended), "next": None}
