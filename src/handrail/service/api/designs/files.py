"""Files of designs: those that people put to them, and a design as a file from one service to another."""

from __future__ import annotations

import base64
import hashlib
import json
from typing import Any

from flask import Response

from handrail.core.errors import InputError
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import caller
from handrail.service.api.designs import answers as d
from handrail.service.api.designs import requests as q
from handrail.service.api.designs.seen import as_written, one_seen, own_or_engineers, reader_now, tags_of
from handrail.service.api.handing import handed
from handrail.service.api.long import long
from handrail.service.application import designing
from handrail.service.application.refused import Refused
from handrail.store import design_files, designs
from handrail.store.attachments import MOST, checked
from handrail.store.models import DesignFile, HouseDesign

api = blueprint("design-files", "files of house designs, and designs as files")
FORM = "handrail design 1"
MOST_SENT = 7 * 1024**2  # bytes of files that go along with one


@api.get("/designs/<string:name>/<int:number>/file", responses={200: d.DesignFile, 404: a.Problem})
def design_file(path: q.DesignRevisionPath, query: q.DesignFileQuery) -> Reply:
    """It as a file for another service, with a digest of what it says. No job, people, notes, tags or files go along
    unless they are asked for; forces never do."""
    kept = one_seen(path, reader_now())
    own: dict[str, Any] = {"form": FORM, "name": kept.name, "revision": kept.number, "title": kept.title}
    own["state"] = kept.state
    own["design"] = designing.loaded(kept.text)
    if query.people:
        own |= {"author": kept.author, "signer": kept.signer, "signed": kept.signed}
    if query.origin:
        own |= {"job": kept.job, "source": kept.source}
    if query.notes:
        own |= {"note": kept.note, "tags": kept.tags}
    if query.files:
        own["files"] = _sent(kept)
    own["digest"] = _digest(own)
    return {"file": f"{kept.name}-R{kept.number}.json", "text": json.dumps(own, indent=1, ensure_ascii=False)}


def _sent(kept: HouseDesign) -> list[dict[str, str]]:
    if (size := sum(file["size"] for file in design_files.of(kept))) > MOST_SENT:
        raise Refused(
            409, f"its files are {size / 1024**2:.1f} MB; {MOST_SENT // 1024**2} MB can go along: send it without"
        )
    return [
        {"name": file.name, "media": file.media, "content": base64.b64encode(bytes(file.data)).decode()}
        for file in design_files.all_of(kept)
    ]


def _digest(own: dict[str, Any]) -> str:
    said = {key: value for key, value in own.items() if key != "digest"}
    return hashlib.sha256(json.dumps(said, sort_keys=True, ensure_ascii=False).encode()).hexdigest()


@api.post("/designs/file", responses={201: d.WrittenDesign, 422: a.Problem})
@long(keeps=False)
def take_file(body: q.DesignFileBody) -> Reply:
    """A design from another service's file: a draft here, whoever signed it there; our own code looks at it."""
    reader = reader_now()
    try:
        own = _read(body.text)
        if own.get("form") != FORM or not isinstance(own.get("design"), dict):
            raise InputError(f"it is no design's file: form is not '{FORM}'")
        if own.get("digest") != _digest(own):
            raise InputError("the file was changed since it was written: its digest is another")
        called = body.name or str(own.get("name", ""))
        signed = f", signed there by {own['signer']}" if own.get("signer") else ""
        about = {name: str(own.get(name, "")) for name in ("title", "note")}
        text = json.dumps(own["design"], indent=1, ensure_ascii=False)
        tags = tags_of([str(tag) for tag in own.get("tags", [])])
        files = _read_files(own.get("files", []))
        kept = designing.put(reader, called, text, source=f"a file{signed}", tags=tags, **about)
        try:
            for name, media, data in files:
                design_files.add(kept, name, media, data, reader.name)
        except InputError:
            designs.remove(kept)  # all of it comes in, or nothing
            raise
    except InputError as exc:
        raise Refused(422, exc.words) from exc
    return as_written(kept, reader, "us"), 201


def _read(text: str) -> dict[str, Any]:
    """What a design's file says: JSON as it is sent, files and all; YAML too where it is short."""
    try:
        data = json.loads(text)
    except RecursionError as exc:
        raise InputError("it is nested deeper than any design") from exc
    except ValueError:
        return designing.loaded(text)
    if not isinstance(data, dict):
        raise InputError("a file of a design is a mapping")
    return data


def _read_files(given: Any) -> list[tuple[str, str, bytes]]:
    """Those that go along with a design: all can be kept, or none is."""
    if not isinstance(given, list) or not all(isinstance(one, dict) for one in given):
        raise InputError("files: give each with name, media and content")
    if len(given) > MOST:
        raise InputError(f"files: there are {len(given)}; {MOST} at most")
    files = []
    for one in given:
        try:
            data = base64.b64decode(str(one.get("content", "")), validate=True)
        except ValueError as exc:
            raise InputError(f"files: {str(one.get('name', ''))[:60]}: its content is not base64") from exc
        files.append((checked(str(one.get("name", "")), data), str(one.get("media", "")), data))
    return list({(name, data): (name, media, data) for name, media, data in files}.values())


@api.post("/designs/<string:name>/<int:number>/files", responses={201: a.PutFile, 409: a.Problem})
def put_file(path: q.DesignRevisionPath, form: q.PutDesignFile) -> Reply:
    """Put a file to a revision: its author, or an engineer."""
    kept = own_or_engineers(path)
    if kept.state not in (designs.DRAFT, designs.HOUSE):
        raise Refused(409, f"{designs.called(kept)} is {kept.state}: nothing about it changes")
    sent = form.file
    media = sent.mimetype or "application/octet-stream"
    made = design_files.add(kept, sent.filename or "", media, sent.read(), caller().name)
    return next(file for file in design_files.of(kept) if file["id"] == made.id), 201


@api.get("/designs/<string:name>/<int:number>/files/<int:file>", responses={200: None, 404: a.Problem})
def get_file(path: q.DesignFilePath) -> Response:
    """A file of a revision, as it was sent."""
    file = _file(one_seen(path, reader_now()), path.file)
    return handed(file.name, file.media, bytes(file.data))


@api.delete("/designs/<string:name>/<int:number>/files/<int:file>", responses={204: None, 409: a.Problem})
def leave_file(path: q.DesignFilePath) -> Reply:
    """Take a file of a draft away; those of a signed one stay with it."""
    kept = own_or_engineers(path)
    file = _file(kept, path.file)
    if not design_files.remove(file):
        raise Refused(409, f"{designs.called(kept)} is {one_seen(path, reader_now()).state}: its files stay with it")
    return "", 204


def _file(kept: HouseDesign, number: int) -> DesignFile:
    file = design_files.find(kept, number)
    if file is None:
        raise Refused(404, f"{designs.called(kept)} has no file {number}")
    return file
