"""Imports: send a bundle, watch it being read, stop it."""

from __future__ import annotations

import os
import secrets
from pathlib import Path
from typing import Any

from flask import current_app
from werkzeug.datastructures import FileStorage

from handrail.service import answers as a
from handrail.service import schemas as s
from handrail.service.auth import HOME, caller, job_for
from handrail.service.importing import UPLOADS
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store import runs, works
from handrail.store.models import Import, Job

MOST_NAME = 200
api = blueprint("imports", "model revisions on their way in")


@api.post("/jobs/<string:job>/imports", responses={202: a.Import})
def start_import(path: s.JobPath, form: s.Upload):
    """Send a zipped bundle: it is kept whole, then read in the background. Nothing is kept of one with errors."""
    job = job_for(path.job, "detailer")
    if not isinstance(form.bundle, FileStorage):
        raise Refused(422, "bundle: send it as a file with a name, not as a text")
    name = _name(form.bundle.filename)
    file = secrets.token_hex(12) + (Path(name).suffix.lower() if Path(name).suffix.lower() in (".xlsx", ".xlsm", ".xls") else ".zip")
    target = Path(current_app.config[HOME]) / UPLOADS / file
    try:
        _keep(form.bundle, target)
        return runs.import_as_dict(runs.add_import(job, file, name, caller().name)), 202
    except BaseException:
        target.unlink(missing_ok=True)
        raise


def _name(sent: str | None) -> str:
    """The file's name as the sender knows it: no folders, nothing that cannot be seen."""
    last = (sent or "").replace("\\", "/").rsplit("/", 1)[-1]
    return "".join(c for c in last if c.isprintable()).strip(" .")[-MOST_NAME:] or "bundle.zip"


def _keep(sent: Any, target: Path) -> None:
    """What was sent, on the disk for good before it is acknowledged."""
    target.parent.mkdir(mode=0o700, exist_ok=True)
    with target.open("wb") as stream:
        sent.save(stream)
        stream.flush()
        os.fsync(stream.fileno())


def _found(job: Job, number: int) -> Import:
    found = Import.get_or_none((Import.id == number) & (Import.job == job))
    if found is None:
        raise Refused(404, f"there is no import {number} in '{job.name}'")
    return found


@api.get("/jobs/<string:job>/imports", responses={200: a.Page[a.Import]})
def list_imports(path: s.JobPath):
    """The job's imports, newest first."""
    found = Import.select().where(Import.job == job_for(path.job)).order_by(Import.id.desc()).limit(100)
    items = [runs.import_as_dict(i) for i in found]
    return {"items": items, "total": len(items), "next": None}


@api.get("/jobs/<string:job>/imports/<int:number>", responses={200: a.Import})
def get_import(path: s.ImportPath):
    """One import: how far it is, what is wrong, or the revision that came of it."""
    return runs.import_as_dict(_found(job_for(path.job), path.number))


@api.post("/jobs/<string:job>/imports/<int:number>/cancel", responses={202: a.Import})
def cancel_import(path: s.ImportPath):
    """End an import that waits or is under way; nothing of it is kept."""
    job = job_for(path.job, "detailer")
    works.cancel(_found(job, path.number))
    ended = _found(job, path.number)
    if ended.state not in works.OPEN:  # whoever still reads it has it open
        (Path(current_app.config[HOME]) / UPLOADS / ended.file).unlink(missing_ok=True)
    return runs.import_as_dict(ended), 202
