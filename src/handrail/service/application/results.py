"""Results as they go back to whoever made the model: a row a member end; the building coloured by how far its ends are
used."""

from __future__ import annotations

import numpy as np

from handrail.core.checking.lists import Table
from handrail.core.checking.result import CEILING
from handrail.core.checking.results import Came, results
from handrail.core.quantities.words import said
from handrail.interchange.printed.coloured import coloured
from handrail.interchange.sheet import as_csv, as_workbook
from handrail.service.application.loud import wrong
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.refused import Refused
from handrail.store import connections
from handrail.store.database import reading, rows
from handrail.store.models import Job

KINDS = {
    "csv": "text/csv",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "png": "image/png",
    "svg": "image/svg+xml",
}
TELL = "tell the analyst"


def table(job: Job) -> Table:
    """A row a member end."""
    standing = Standing(job)
    return results(standing.plan, _came(standing))


def as_file(job: Job, kind: str) -> bytes | str:
    """The table as csv or xlsx, or the coloured building as png or svg. Raises Refused, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"results are {', '.join(KINDS)}, not {kind}")
    standing = Standing(job)
    came = _came(standing)
    if kind in ("png", "svg"):
        return coloured(standing.plan.building, _shares(standing, came), _title(standing), kind)
    head, body = results(standing.plan, came)
    return as_csv(head, body) if kind == "csv" else as_workbook("results", head, body)


def _title(standing: Standing) -> str:
    seen = standing.seen
    label = f" ({seen.revision.label})" if seen.revision.label else ""
    return f"{seen.job.title or seen.job.name}, model R{seen.revision.number}{label}: utilisation of connections"


def _came(standing: Standing) -> dict[str, Came]:
    """connection -> what came of it."""
    job, system = standing.seen.job, standing.plan.building.system
    with reading():
        keys = [key for (key,) in rows("SELECT key FROM connection WHERE job_id = ?", job.id)]
        records = connections.of_keys(job, keys)
    found = {}
    for key, r in records.items():
        stale = bool(r.stale)
        told = [note for note in map(str, r.notes) if note.startswith(TELL)]
        remarks = [*wrong(r.status, r.stale, r.overridden, r.released), *([said(r.reason, system)] if r.reason else [])]
        remarks += [said(one, system) for one in (*r.remarks, *told)]
        mark = standing.names[standing.mark_of[key]] if key in standing.mark_of else ""
        found[key] = Came(
            mark, r.standard, r.summary, "unchecked" if stale else r.status, min(float(r.utilisation), CEILING),
            r.check_name.replace("_", " "), r.clause, r.action, r.released, tuple(dict.fromkeys(remarks)),
        )  # fmt: skip
    return found


def _shares(standing: Standing, came: dict[str, Came]) -> np.ndarray:
    """(members, 2) utilisation at each end; NaN where nothing is judged."""
    building = standing.plan.building
    shares = np.full((len(building.members), 2), np.nan)
    for c in standing.plan.framing.connections:
        own = came.get(c.id)
        if own is not None and own.status in ("pass", "fail"):
            for member, end in c.supported.ends:
                shares[member, end] = max(own.utilisation, 1.01) if own.status == "fail" else own.utilisation
    return shares
