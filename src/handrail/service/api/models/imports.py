"""Imports: send a bundle, watch it being read, stop it."""

from __future__ import annotations

import os
import secrets
import shutil
import zipfile
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from flask import current_app, request
from werkzeug.datastructures import FileStorage

from handrail.interchange.columnmap.folder import GRIDS
from handrail.interchange.columnmap.pointing import changed
from handrail.interchange.columnmap.text import TEXTS
from handrail.interchange.incoming import map_in, needs_map, opened
from handrail.interchange.understood import understand
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import HOME, caller, job_for
from handrail.service.api.long import long
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application.importing import UPLOADS, map_for
from handrail.service.application.pointing import house_maps, pointing_at, proposed_for, sources_of
from handrail.service.application.refused import Refused
from handrail.store import maps, runs, works
from handrail.store.models import Import, Job

MOST_NAME = 200
SUFFIXES = (*TEXTS, *GRIDS)
api = blueprint("imports", "model revisions on their way in")


@api.post("/jobs/<string:job>/imports", responses={202: m.Import})
def start_import(path: s.JobPath, form: q.Upload) -> Reply:
    """Send a zipped bundle: it is kept whole, then read in the background. Nothing is kept of one with errors."""
    job = job_for(path.job, "detailer")
    if not isinstance(form.bundle, FileStorage):
        raise Refused(422, "bundle: send it as a file with a name, not as a text")
    sent = request.files.getlist("bundle")
    name = _name(form.bundle.filename) if len(sent) == 1 else f"{len(sent)} files"
    file = secrets.token_hex(12) + (
        Path(name).suffix.lower() if len(sent) == 1 and Path(name).suffix.lower() in SUFFIXES else ".zip"
    )
    target = Path(current_app.config[HOME]) / UPLOADS / file
    try:
        _keep(form.bundle, target) if len(sent) == 1 else _pack(sent, target)
        return (
            runs.import_as_dict(runs.add_import(job, file, name, caller().name, form.map or "", bool(form.hold))),
            202,
        )
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


def _pack(sent: list[FileStorage], target: Path) -> None:
    """Several files as one zip; names that are alike are refused."""
    names = [_name(one.filename) for one in sent]
    if again := [n for n in names if names.count(n) > 1]:
        raise Refused(422, f"bundle: two files are called {again[0]}; give them names of their own, or send a zip")
    target.parent.mkdir(mode=0o700, exist_ok=True)
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
        for name, one in zip(names, sent, strict=True):
            with archive.open(name, "w") as sink:
                shutil.copyfileobj(one.stream, sink)
    with target.open("rb+") as stream:
        os.fsync(stream.fileno())


def _held(job: Job, number: int) -> tuple[Import, Path]:
    one = _found(job, number)
    if one.state != works.HELD:
        raise Refused(409, f"import {number} is {one.state}, not held: send the model again to look at it")
    return one, Path(current_app.config[HOME]) / UPLOADS / one.file


@api.get("/jobs/<string:job>/imports/<int:number>/understood", responses={200: m.Understood, 409: a.Problem})
@long(keeps=False)
def understood(path: q.ImportPath) -> Reply:
    """What was understood of an import that is held: each table with its units and first rows, what is wrong, and the
    column map: its own, else the job's last, else one proposed from the files."""
    job = job_for(path.job, "detailer")
    one, sent = _held(job, path.number)
    return _understood(job, one, sent)


def _understood(job: Job, one: Import, sent: Path) -> dict[str, Any]:
    text, source = one.column_map, "given" if one.column_map else ""
    if not text and needs_map(sent, one.name):
        text, source = _offered(job, one, sent)
    seen = understand(sent, text, one.name)
    problems = [replace(p, file=one.name if p.file == sent.name else p.file).as_dict() for p in seen.problems]
    pointing = pointing_at(sent, one.name, text) if seen.kind == "tables" else None
    return asdict(seen) | {"problems": problems, "map": text, "map_from": source, "pointing": pointing}


def _offered(job: Job, one: Import, sent: Path) -> tuple[str, str]:
    """The map that nobody chose: the one beside the tables, the job's last, one of the house's that fits, else one
    proposed."""
    for text, source in ((map_in(sent, one.name), "sent"), (job.column_map, "saved")):
        if text:
            return text, source
    fitting = next((own for own in house_maps(sent, one.name) if not own["misfits"]), None)
    kept = maps.find(fitting["name"]) if fitting else None
    return (kept.text, "house") if kept else (proposed_for(sent, one.name), "proposed")


@api.put("/jobs/<string:job>/imports/<int:number>/map", responses={200: m.Understood, 409: a.Problem})
@long(keeps=False)
def set_map(path: q.ImportPath, body: q.MapText) -> Reply:
    """Another column map for an import that is held, and what is understood through it."""
    job = job_for(path.job, "detailer")
    one, sent = _held(job, path.number)
    return _put_map(job, one, sent, body.map)


@api.post("/jobs/<string:job>/imports/<int:number>/map", responses={200: m.Understood, 404: a.Problem, 409: a.Problem})
@long(keeps=False)
def choose_map(path: q.ImportPath, body: q.MapChoice) -> Reply:
    """Another map for an import that is held, by where it comes from: proposed anew from the files, the job's last, the
    one sent beside the tables, or one of the house's."""
    job = job_for(path.job, "detailer")
    one, sent = _held(job, path.number)
    kept = maps.find(body.name) if body.take == "house" else None
    if body.take == "house" and (kept is None or kept.way != maps.IN):
        raise Refused(404, f"the house has no map '{body.name[:60]}'")
    if body.take == "proposed":
        text = proposed_for(sent, one.name)
    elif body.take == "sent":
        text = map_in(sent, one.name)
    else:
        text = kept.text if kept else job.column_map
    if not text:
        raise Refused(404, "this job has no map yet" if body.take == "saved" else "no map lies beside these tables")
    return _put_map(job, one, sent, text)


@api.patch("/jobs/<string:job>/imports/<int:number>/map", responses={200: m.Understood, 409: a.Problem, 422: a.Problem})
@long(keeps=False)
def change_map(path: q.ImportPath, body: q.MapChange) -> Reply:
    """One change to the map of an import that is held, made by pointing; the answer is what is understood with it, and
    the map's text."""
    job = job_for(path.job, "detailer")
    one, sent = _held(job, path.number)
    text = one.column_map or (_offered(job, one, sent)[0] if needs_map(sent, one.name) else "")
    with opened(sent, one.name) as folder:
        text = changed(text, body.model_dump(), folder, sources_of(sent, one.name))
    return _put_map(job, one, sent, text)


def _put_map(job: Job, one: Import, sent: Path, text: str) -> dict[str, Any]:
    if not runs.set_map(one, text):
        raise Refused(409, f"import {one.id} is not held any more")
    return _understood(job, _found(job, one.id), sent)


@api.post("/jobs/<string:job>/imports/<int:number>/confirm", responses={202: m.Import, 409: a.Problem})
def confirm(path: q.ImportPath) -> Reply:
    """Take in an import that was held, through the map that was shown."""
    job = job_for(path.job, "detailer")
    one, sent = _held(job, path.number)
    if needs_map(sent, one.name) and not map_for(one, sent):
        raise Refused(409, "these are another program's tables: put their column map first (PUT .../map)")
    if not runs.confirm(one):
        raise Refused(409, f"import {one.id} is not held any more")
    return runs.import_as_dict(_found(job, path.number)), 202


def _found(job: Job, number: int) -> Import:
    one = Import.get_or_none((Import.id == number) & (Import.job == job))
    if one is None:
        raise Refused(404, f"there is no import {number} in '{job.name}'")
    return one


@api.get("/jobs/<string:job>/imports", responses={200: a.Page[m.Import]})
def list_imports(path: s.JobPath) -> Reply:
    """The job's imports, newest first."""
    listed = Import.select().where(Import.job == job_for(path.job)).order_by(Import.id.desc()).limit(100)
    items = [runs.import_as_dict(i) for i in listed]
    return {"items": items, "total": len(items), "next": None}


@api.get("/jobs/<string:job>/imports/<int:number>", responses={200: m.Import})
def get_import(path: q.ImportPath) -> Reply:
    """One import: how far it is, what is wrong, or the revision that came of it."""
    return runs.import_as_dict(_found(job_for(path.job), path.number))


@api.post("/jobs/<string:job>/imports/<int:number>/cancel", responses={202: m.Import})
def cancel_import(path: q.ImportPath) -> Reply:
    """End an import that waits or is under way; nothing of it is kept."""
    job = job_for(path.job, "detailer")
    works.cancel(_found(job, path.number))
    ended = _found(job, path.number)
    if ended.state not in works.OPEN:  # whoever still reads it has it open
        (Path(current_app.config[HOME]) / UPLOADS / ended.file).unlink(missing_ok=True)
    return runs.import_as_dict(ended), 202
