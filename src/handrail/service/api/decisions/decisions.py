"""Decisions taken together: one for many connections, reviews, the shop's list of reasons, files that belong to
them."""

from __future__ import annotations

from collections import Counter

from flask import Response

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import administrator, caller, is_engineer, job_for
from handrail.service.api.choosing import chosen
from handrail.service.api.decisions import answers as d
from handrail.service.api.decisions import requests as q
from handrail.service.api.decisions.overrides import of_job
from handrail.service.api.handing import handed
from handrail.service.api.long import long
from handrail.service.application import deciding, looking, present, reframing
from handrail.service.application.deciding import Proposed
from handrail.service.application.keeping import Said, ToKeep, keep
from handrail.service.application.reframing import Reframing
from handrail.service.application.refused import Refused
from handrail.service.application.reviewing import Act, act_on
from handrail.store import attachments, causes, overrides
from handrail.store.models import Attachment

api = blueprint("decisions", "decisions for many, reviews, reasons, files")
SHOWN = 200
WORST = ("fail", "unchecked", "unassigned", "elsewhere", "pass")


@api.post("/jobs/<string:job>/changes", responses={200: d.DecidedForMany, 201: d.DecidedForMany, 409: a.Problem})
@long(keeps=False)
def decide_for_many(path: s.JobPath, body: q.DecisionForMany) -> Reply:
    """One decision for many connections with one reason: worked out together, shown before and after, kept all in one
    go or not at all."""
    job = job_for(path.job, "detailer")
    cause, reason = ("", "") if body.preview else causes.check(body.cause, body.reason)
    framed = sorted(set(body.changes) & set(overrides.FRAMED))
    if framed and len(body.changes) > 1:
        raise Refused(422, f"changes: {framed[0]} is corrected by itself: other sizes go with the next decision")
    keys, said = chosen(job, body), Said(caller().name, reason, cause, body.both)

    def proposed() -> Proposed | Reframing:
        if framed:
            return reframing.propose(job, keys, framed[0], str(body.changes[framed[0]]).strip(), said)
        return deciding.propose(job, keys, body.changes, body.both)

    if body.preview:
        looking.up_to_date(job)
        return _told(proposed(), []), 200
    for_many, made = keep(job, proposed, lambda for_many: _to_keep(for_many, body.skip, said), "what it is about")
    return _told(for_many, [o.id for o in made]), 201


def _to_keep(proposed: Proposed | Reframing, skip: bool, said: Said) -> ToKeep:
    """Raises Refused where it cannot be made of some that are not to be skipped, or of none."""
    if proposed.refused and not skip:
        key, why = next(iter(proposed.refused.items()))
        more = f" (and {len(proposed.refused) - 1} more)" if len(proposed.refused) > 1 else ""
        raise Refused(409, f"{key}: {why}{more}; nothing was changed: leave them out, or say skip")
    if not proposed.after:
        raise Refused(409, "of none of them can it be made; nothing was changed")
    return reframing.to_keep(proposed, said) if isinstance(proposed, Reframing) else deciding.to_keep(proposed, said)


def _told(proposed: Proposed | Reframing, made: list[int]) -> dict[str, object]:
    stood = {key: proposed.was(key) for key in proposed.after}
    worst = sorted(
        proposed.after, key=lambda k: (WORST.index(proposed.after[k]["status"]), -proposed.after[k]["utilisation"])
    )[:SHOWN]
    return {
        "connections": len(proposed.after),
        "kept": bool(made),
        "overrides": made,
        "stood": proposed.stood(),
        "counts": {
            "before": dict(Counter(s["status"] for s in stood.values())),
            "after": dict(Counter(s["status"] for s in proposed.after.values())),
        },
        "worst": [
            {"connection": k, "before": stood[k], "after": proposed.after[k] | {"value": proposed.shown(k)}}
            for k in worst
        ],
        "refused": [{"connection": k, "why": why} for k, why in proposed.refused.items()],
    }


@api.post("/jobs/<string:job>/overrides/review", responses={200: d.Reviewed, 409: a.Problem})
@long(keeps=False)
def review(path: s.JobPath, body: q.Review) -> Reply:
    """Accept, return, confirm or clear decisions, one or many in one go. An engineer accepts and returns, with a word;
    whoever may change them confirms or clears."""
    job = job_for(path.job, "detailer")
    ids = list(dict.fromkeys(body.overrides))
    by_id = {o.id: o for o in overrides.of_ids(ids) if o.job_id == job.id}
    if missing := [k for k in ids if k not in by_id]:
        raise Refused(404, f"there is no override {missing[0]} in '{job.name}'")
    act_on(job, Act(body.act, body.word, caller().name, is_engineer(job)), ids)
    return {"overrides": [present.override(o) for o in overrides.of_ids(ids)]}


@api.get("/causes", responses={200: d.Causes})
def get_causes() -> Reply:
    """The shop's list of reasons for deciding against a rule."""
    caller()
    return {"causes": causes.listed()}


@api.put("/causes", responses={200: d.Causes})
def put_causes(body: q.NewCauses) -> Reply:
    """Another list of reasons, for administrators; decisions keep the words that they were made with."""
    administrator()
    return {"causes": causes.put(body.causes)}


@api.get("/jobs/<string:job>/overrides/<int:override>/attachments", responses={200: a.Page[d.Attachment]})
def list_attachments(path: q.OverridePath) -> Reply:
    """The files of a decision."""
    files = attachments.of_override(of_job(job_for(path.job), path.override).id)
    return {"items": files, "total": len(files), "next": None}


@api.post("/jobs/<string:job>/overrides/<int:override>/attachments", responses={201: d.Attachment})
def attach(path: q.OverridePath, form: q.AttachedFile) -> Reply:
    """Attach a file to a decision; its digest goes into the ledger."""
    job = job_for(path.job, "detailer")
    sent = form.file
    made = attachments.add(
        job,
        of_job(job, path.override),
        sent.filename or "",
        sent.mimetype or "application/octet-stream",
        sent.read(),
        caller().name,
    )
    return next(row for row in attachments.of_override(path.override) if row["id"] == made.id), 201


@api.get("/jobs/<string:job>/overrides/<int:override>/attachments/<int:attachment>", responses={200: None})
def get_attachment(path: q.AttachmentPath) -> Response:
    """One file, as it was sent."""
    override = of_job(job_for(path.job), path.override)
    attachment = Attachment.get_or_none((Attachment.id == path.attachment) & (Attachment.override == override))
    if attachment is None:
        raise Refused(404, f"override {override.id} has no file {path.attachment}")
    return handed(attachment.name, attachment.media, bytes(attachment.data))
