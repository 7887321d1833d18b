"""Designs of the house: kept above the jobs, found, signed, used by rules and decisions, sent and taken in."""

from __future__ import annotations

import base64
from typing import Any

from flask import Response

from handrail.core.errors import InputError
from handrail.core.quantities.units import parse
from handrail.core.quantities.words import said
from handrail.core.rulebook import Text
from handrail.interchange.design_table import read_designs
from handrail.interchange.drawings.files import KINDS
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import caller, house_user, job_for
from handrail.service.api.designs import answers as d
from handrail.service.api.designs import requests as q
from handrail.service.api.designs.seen import as_row, as_written, one_seen, own_or_engineers, reader_now, tags_of
from handrail.service.api.long import long
from handrail.service.api.rulebooks import answers as r
from handrail.service.application import designing, rulebooks, trying
from handrail.service.application.refused import Refused
from handrail.store import connections, designs
from handrail.store.designs import Wanted

api = blueprint("designs", "designs of the house, above its jobs")
CHECKED_AT_ONCE = 20_000


def _wanted(query: q.DesignQuery) -> Wanted:
    states = tuple(s.strip() for s in query.state.split(",") if s.strip()) or Wanted.states
    if wrong := [s for s in states if s not in designs.STATES]:
        raise Refused(422, f"state: '{wrong[0][:30]}' is none of {', '.join(designs.STATES)}")
    try:
        forces: dict[str, Any] = {
            n: parse(v, "force") if v else 0.0 for n, v in (("shear", query.V), ("pull", query.pull))
        }
        forces |= {"push": parse(query.push, "force") if query.push else 0.0}
        forces |= {"moment": parse(query.M, "moment") if query.M else 0.0}
    except InputError as exc:
        raise Refused(422, exc.said(query.units)) from exc
    same = ("text", "standard", "framing", "tag", "bolt", "job", "author", "checked", "sort")
    asked: dict[str, Any] = {name: getattr(query, name) for name in same}
    return Wanted(states=states, **asked, **forces)


@api.get("/designs", responses={200: d.PageDesigns})
def list_designs(query: q.DesignQuery) -> Reply:
    """Designs that the caller sees: the house's, those shipped with the service, and their own drafts; by words, tags,
    what they are made of and what they hold alone."""
    reader = reader_now()
    wanted = _wanted(query)
    listed, total = designs.found(wanted, reader, query.cursor, query.limit)
    after = query.cursor + len(listed)
    return {
        "items": [as_row(kept, query.units) for kept in listed],
        "total": total,
        "next": after if after < total else None,
        "tags": designs.tags(reader),
        "unchecked": designs.left_unchecked(),
    }


@api.post("/designs/find", responses={200: d.FoundDesigns, 422: a.Problem})
@long(keeps=False)  # by whom, and which there are then
def find_designs(body: q.FindDesigns) -> Reply:
    """Something like this: designs for a framing, between members about as deep and at about those angles, tried under
    the actions given by our own code; those that pass first, the lightest first; the nearest 60 are tried."""
    framing = str(body.trial.get("framing", ""))
    reader, wanted = reader_now(), Wanted(standard=body.standard, tag=body.tag, framing=framing)
    try:
        found, like = designing.find(reader, wanted, body.trial, body.share, body.degrees, body.units)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc
    items = [one | {"design": as_row(one["design"], body.units)} for one in found[: body.limit]]
    return {"items": items, "tried": len(found), "like": like}


@api.put("/designs/<string:name>", responses={201: d.WrittenDesign, 409: a.Problem, 422: a.Problem})
@long(keeps=False)
def put_design(path: q.DesignPath, body: q.NewDesign) -> Reply:
    """A new design, or the next revision of one, as a draft of the caller: as it is written, from a trial of the Bench,
    or from a connection of a job as it stands. Our own code says at once what it holds."""
    reader, trial, source, job = reader_now(), body.trial, "the Bench", ""
    try:
        if body.connection:
            of = job_for(body.job)
            found = trying.of_connection(of, body.connection)
            trial, source, job = found["trial"], f"{found['connection']} of {of.name}", of.name
        if body.text:
            text, source = body.text, "as written"
        elif trial is None:
            raise Refused(422, "give a trial, a connection of a job, or a design as it is written")
        else:
            text = designing.text_of(trial, body.fits, body.fields, body.parameters, body.units)
        about = {"title": body.title.strip(), "note": body.note.strip(), "tags": tags_of(body.tags)}
        kept = designing.put(reader, path.name, text, source=source, job=job, seen_by=body.seen_by, **about)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc
    return as_written(kept, reader, body.units), 201


@api.get("/designs/<string:name>/<int:number>", responses={200: d.WrittenDesign, 404: a.Problem})
def get_design(path: q.DesignRevisionPath, query: q.DesignUnits) -> Reply:
    """One revision: what it says, fits, asks and holds, its other revisions, and where it stands."""
    reader = reader_now()
    return as_written(one_seen(path, reader), reader, query.units)


@api.post("/designs/<string:name>/<int:number>/state", responses={200: d.WrittenDesign, 409: a.Problem})
def state_of_design(path: q.DesignRevisionPath, body: q.DesignState) -> Reply:
    """Sign a draft, so that it is the house's and rules may use it, as an engineer; or withdraw one: what stands on it
    goes on standing, nothing new begins with it."""
    reader = reader_now()
    kept = one_seen(path, reader)
    user = caller()
    if body.state == designs.HOUSE:
        house_user(writes=True)
        if kept.why or not kept.checked:
            raise Refused(
                409,
                f"{designs.called(kept)} cannot be signed: {said(kept.why, 'us') or 'our code has not looked at it'}",
            )
        done = designs.sign(kept, user.name)
    else:
        if kept.author != user.name:
            house_user(writes=True)
        done = designs.withdraw(kept, user.name)
    if not done:
        raise Refused(409, f"{designs.called(kept)} is {kept.state}")
    return as_written(one_seen(path, reader), reader, "us")


@api.post("/designs/<string:name>/<int:number>/about", responses={200: d.WrittenDesign, 409: a.Problem})
def about_design(path: q.DesignRevisionPath, body: q.DesignAbout) -> Reply:
    """What is said about a design: its title, note, tags, and who sees it; not what it is."""
    reader, kept = reader_now(), own_or_engineers(path)
    values: dict[str, Any] = {n: v for n in ("title", "note", "seen_by") if (v := getattr(body, n)) is not None}
    if body.tags is not None:
        values["tags"] = tags_of(body.tags)
    values |= designing.words_of(kept, values)
    if not designs.change(kept, (designs.DRAFT, designs.HOUSE), **values):
        raise Refused(409, f"{designs.called(kept)} is {kept.state}: nothing about it changes")
    return as_written(one_seen(path, reader), reader, "us")


@api.get("/designs/<string:name>/<int:number>/picture", responses={200: None, 404: a.Problem})
def design_picture(path: q.DesignRevisionPath, query: q.DesignPicture) -> Response:
    """Its drawing as SVG, on the members that it was made on."""
    kept = one_seen(path, reader_now())
    try:
        content = designing.picture(kept.text, designs.called(kept), query.units, query.bare)
    except InputError as exc:
        raise Refused(422, exc.said(query.units)) from exc
    return Response(content, mimetype="image/svg+xml", headers={"Cache-Control": "private, max-age=86400"})


@api.get("/designs/<string:name>/<int:number>/paper/<string:kind>", responses={200: None, 404: a.Problem})
@long(keeps=False)  # who may see a design is asked each time
def design_on_paper(path: q.DesignPaperPath, query: q.DesignPaper) -> Response:
    """Its drawing as PDF, DXF or SVG; or a page of PDF with its calculation under what it holds, each action alone, on
    the members that it was made on."""
    kept = one_seen(path, reader_now())
    if path.kind not in (*KINDS, "page"):
        raise Refused(404, f"a design is written as {', '.join(KINDS)} or page, not {path.kind}")
    try:
        content = designing.paper(kept, path.kind, query.units, query.address)
    except InputError as exc:
        raise Refused(422, exc.said(query.units)) from exc
    kind = "pdf" if path.kind == "page" else path.kind
    name = f"{kept.name}-R{kept.number}{'-calculation' if path.kind == 'page' else ''}.{kind}"
    return Response(content, mimetype=KINDS[kind], headers={"Content-Disposition": f'attachment; filename="{name}"'})


@api.post("/designs/<string:name>/<int:number>/in-job", responses={200: d.DesignInJob, 422: a.Problem})
@long(keeps=False)
def design_in_job(path: q.DesignRevisionPath, body: q.DesignAsked) -> Reply:
    """Which connections of a job it would hold, at what utilisation, and how many kinds of pieces fewer there would
    be."""
    job, kept = job_for(body.job), one_seen(path, reader_now())
    try:
        return designing.in_job(job, kept, body.fields, body.fits)
    except InputError as exc:
        raise Refused(422, exc.words) from exc


@api.post("/designs/<string:name>/<int:number>/changes", responses={200: d.DesignChanges, 404: a.Problem})
def design_changes(path: q.DesignRevisionPath, body: q.DesignDecided) -> Reply:
    """What a decision for it would change on a connection: to be tried and kept as any decision is."""
    job, kept = job_for(body.job), one_seen(path, reader_now())
    record = connections.find(job, body.connection)
    if record is None:
        raise Refused(404, f"job {job.name} has no connection '{body.connection}'")
    if kept.state == designs.WITHDRAWN:
        raise Refused(409, f"{designs.called(kept)} is withdrawn: nothing new begins with it")
    try:
        changes = designing.changes(kept, body.fields, record)
    except InputError as exc:
        raise Refused(422, exc.words) from exc
    return {"changes": changes, "reason": f"design {designs.called(kept)}"}


@api.post("/designs/<string:name>/<int:number>/would-change", responses={200: r.RulebookTried, 409: a.Problem})
@long(keeps=False)
def would_change(path: q.DesignRevisionPath, body: q.DesignWouldChange) -> Reply:
    """What a revision would change in a job whose rules use another one of it: nothing is changed."""
    job, kept = job_for(body.job), one_seen(path, reader_now())
    text = designing.with_revision(job.rulebook, kept.name, kept.number)
    if text == job.rulebook:
        raise Refused(409, f"no rule of {job.name} uses another revision of {kept.name}")
    return rulebooks.tried(job, Text(text, dict(job.rulebook_files)), True)


@api.post("/designs/table", responses={201: d.DesignsIn, 422: a.Problem})
@long(keeps=False)
def take_table(body: q.DesignTable) -> Reply:
    """Published designs from a table, a row each, as drafts of the caller; then our own code looks at each and says
    where it differs."""
    reader = reader_now()
    try:
        content = base64.b64decode(body.content, validate=True)
        names = designing.take(read_designs(content, body.file), reader.name, body.file, tags_of(body.tags))
    except InputError as exc:
        raise Refused(422, exc.words) from exc
    except ValueError as exc:  # binascii's own, or letters that are not ASCII
        raise Refused(422, "content is not base64") from exc
    done = designing.check_some(CHECKED_AT_ONCE)
    return {"names": names[:500], "checked": done, "left": designs.left_unchecked()}, 201


@api.post("/designs/check", responses={200: d.DesignsIn})
@long(keeps=False)
def check_designs(body: q.DesignsChecked) -> Reply:
    """Let our own code look at designs that it has not looked at yet."""
    caller()
    done = designing.check_some(body.most)
    return {"names": [], "checked": done, "left": designs.left_unchecked()}


@api.delete("/designs/<string:name>/<int:number>", responses={204: None, 409: a.Problem})
def leave_draft(path: q.DesignRevisionPath) -> Reply:
    """Take a draft of one's own away."""
    reader = reader_now()
    kept = one_seen(path, reader)
    if kept.state != designs.DRAFT or (kept.author != reader.name and not reader.admin):
        raise Refused(409, f"{designs.called(kept)} is {kept.state}: a draft of one's own can be taken away")
    designs.remove(kept)
    return "", 204
