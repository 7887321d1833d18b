"""Working together: labels, comments, releases, views of the table, and the table as a file."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from flask import Response

from handrail.core.errors import InputError
from handrail.core.quantities.units import LONG, SHOWN
from handrail.core.rulebook.practice import OVER_CHOICES
from handrail.core.standards import STANDARDS
from handrail.interchange.sheet import WORKBOOK, as_csv, as_workbook
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.choosing import chosen
from handrail.service.api.long import long
from handrail.service.api.team import answers as t
from handrail.service.api.team import requests as q
from handrail.service.application import releasing, standing
from handrail.service.application.plans import rulebook_of
from handrail.service.application.refused import Refused
from handrail.store import jobs, listing, team, views

api = blueprint("team", "labels, comments, releases, views")
COLUMNS = (
    "connection",
    "joint",
    "place",
    "level",
    "framing",
    "section",
    "support_section",
    "standard",
    "summary",
    "sizes",
    "rule",
    "status",
    "stale",
    "over_target",
    "utilisation",
    "check",
    "broken",
    "remarks",
    "action",
    "reason",
    "overridden",
    "released",
    "fell",
    "sequence",
    "person",
    "tags",
    "elevation",
    "member",
    "support",
    "skew",
    "slope",
    "cope",
    "clause",
    "pieces",
    "beside",
)
MOST = 200_000


@api.post("/jobs/<string:job>/labels", responses={200: t.Labelled})
@long(keeps=False)
def label(path: s.JobPath, body: q.Labels) -> Reply:
    """Tag connections, say who works on them, in which sequence they are erected; what is null stays."""
    job = job_for(path.job, "detailer")
    keys = chosen(job, body)
    if not (body.add or body.remove or body.person is not None or body.sequence is not None):
        raise Refused(422, "say a tag to add or remove, a person, or a sequence")

    def put() -> int:
        changed = team.label(job, keys, body.add, body.remove, body.person, body.sequence, caller().name)
        standing.settle(job, ("tag", "sequence"), "its tags or its sequence were changed, which rules ask for")
        return changed

    return {"connections": len(keys), "changed": standing.settled(put)}


@api.post("/jobs/<string:job>/connections/<path:connection>/comments", responses={201: t.Said})
def comment(path: s.ConnectionPath, body: q.Comment) -> Reply:
    """Say something about a connection; it stands in its history."""
    job = job_for(path.job, "detailer")
    team.comment(job, path.connection, body.words, caller().name)
    return {"connection": path.connection, "words": body.words.strip()}, 201


@api.post("/jobs/<string:job>/shop-notes", responses={200: t.Labelled})
def note_to_shop(path: s.JobPath, body: q.ShopNote) -> Reply:
    """An engineer's note to the shop on connections: what may be altered, and how. It stands on their drawings and in
    their calculations, and follows them from revision to revision."""
    job = job_for(path.job, "engineer")
    keys = chosen(job, body)
    return {"connections": len(keys), "changed": team.note(job, keys, body.words, caller().name)}


@api.post("/jobs/<string:job>/releases", responses={200: t.Released})
@long(keeps=False)
def release(path: s.JobPath, body: q.Release) -> Reply:
    """An engineer's word that connections may be drawn, or that it is withdrawn. It falls by itself when what a
    connection rests on changes."""
    job = job_for(path.job, "engineer")
    keys = chosen(job, body)
    if body.withdraw:
        return {"connections": team.withdraw(job, keys, caller().name, body.word), "refused": []}
    number, why = releasing.release(
        job, keys, caller().name, body.word, body.skip, rulebook_of(job).over_target != OVER_CHOICES[0]
    )
    return {"connections": number, "refused": [{"connection": key, "why": words} for key, words in why.items()]}


@api.get("/jobs/<string:job>/views", responses={200: a.Page[t.KeptView]})
def list_views(path: s.JobPath) -> Reply:
    """The kept views of the table of connections."""
    listed = views.listed(job_for(path.job))
    return {"items": listed, "total": len(listed), "next": None}


@api.put("/jobs/<string:job>/views/<path:view>", responses={200: a.Page[t.KeptView]})
def put_view(path: q.ViewPath, body: q.ViewOf) -> Reply:
    """Keep a view, in place of one of the same name."""
    job = job_for(path.job, "detailer")
    listing.conditions(body.where)
    _known(body.columns)
    views.put(job, path.view, body.model_dump(), caller().name)
    return list_views(path)


@api.delete("/jobs/<string:job>/views/<path:view>", responses={204: None})
def drop_view(path: q.ViewPath) -> Reply:
    """Take a view away."""
    if not views.drop(job_for(path.job, "detailer"), path.view):
        raise Refused(404, f"there is no view '{path.view}' in '{path.job}'")
    return "", 204


@api.get("/jobs/<string:job>/table.<string:kind>", responses={200: None})
@long()
def table(path: s.TablePath, query: q.TableQuery) -> Response:
    """The connections that a filter leaves, as `csv` or `xlsx`, with the columns that are asked for."""
    job = job_for(path.job)
    columns = _known([c.strip() for c in query.columns.split(",") if c.strip()]) or list(COLUMNS)
    lines, _ = listing.page(job, query.where, query.sort, MOST)
    system = jobs.system_of(job)
    matching = [line for line in map(json.loads, lines) if _has(line, query.find.strip().lower())]
    shown = list(_shown(columns, matching, system))
    rows, head = [[value(line) for _, value in shown] for line in matching], [title for title, _ in shown]
    name = f"{job.name}-connections.{path.kind}"
    if path.kind == "csv":
        body: Any = as_csv(head, rows)
    elif path.kind == "xlsx":
        body = as_workbook("connections", head, rows)
    else:
        raise Refused(404, f"a table is csv or xlsx, not {path.kind}")
    media = "text/csv" if path.kind == "csv" else WORKBOOK
    return Response(body, mimetype=media, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _has(line: dict[str, Any], words: str) -> bool:
    """Whether some text of a connection has these words."""
    return not words or any(words in str(value).lower() for value in line.values() if isinstance(value, (str, list)))


_UNITS = {"skew": "deg", "slope": "deg"}
_KINDS = {p.name: p.kind for standard in STANDARDS.values() for p in standard.parameters}
_Shown = tuple[str, Callable[[dict[str, Any]], Any]]


def _elevation(scale: float, line: dict[str, Any]) -> float:
    return float(round(line["elevation"] * scale, 4))


def _shown(columns: list[str], lines: list[dict[str, Any]], system: str) -> Iterator[_Shown]:
    """Each column's head, its unit in it, and what stands there of a line; `sizes` is a column for each size that lists
    show."""
    for name in columns:
        if name == "sizes":
            yield from (_of_size(size, system) for size in sorted({size for line in lines for size in line["sizes"]}))
        elif name == "elevation":
            unit, scale = LONG[system]
            yield f"elevation ({unit})", partial(_elevation, scale)
        else:
            yield f"{name} ({_UNITS[name]})" if name in _UNITS else name, partial(_cell, name)


def _of_size(size: str, system: str) -> _Shown:
    unit, scale = SHOWN[system].get(_KINDS.get(size, ""), ("", 1.0))

    def value(line: dict[str, Any]) -> Any:
        size_of = line["sizes"].get(size, "")
        return size_of if isinstance(size_of, str) or not unit else round(size_of * scale, 4)

    return f"{size} ({unit})" if unit else size, value


def _cell(name: str, line: dict[str, Any]) -> Any:
    if name == "pieces":
        return "; ".join(f"{p['role']} {p['section']} {p['member']}" for p in line["pieces"])
    if name == "beside":
        return ", ".join(dict.fromkeys(r["other"] for r in line["relations"]))
    value = line[name]
    if name in ("tags", "remarks"):
        return (", " if name == "tags" else "; ").join(value)
    if name in ("stale", "over_target"):
        return name.replace("_", " ") if value else ""
    return float(value) if isinstance(value, float) else value


def _known(columns: list[str]) -> list[str]:
    if unknown := [name for name in columns if name not in COLUMNS]:
        raise InputError(f"columns: there is no column '{unknown[0]}'; there is {', '.join(COLUMNS)}")
    return columns
