"""How the house prints: profiles above the jobs."""

from __future__ import annotations

import base64
import binascii
from typing import Any

from flask import Response
from pydantic import BaseModel, Field

from handrail.core.errors import InputError
from handrail.interchange.printed.calculation import LINES, SECTIONS
from handrail.interchange.printed.emblem import KINDS, kind_of
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import administrator, caller
from handrail.service.application.refused import Refused
from handrail.store import profiles
from handrail.store.models import Profile

api = blueprint("profiles", "how the house prints")


class ProfilePath(BaseModel):
    profile: str


class PrintingProfile(s.Body):
    firm: list[str] = Field([], max_length=6, description="its name, address ..., a line each; where a job has none")
    registration: str = Field("", max_length=200, description="the line under it, like a licence's number")
    emblem: str | None = Field(
        "", max_length=400_000, description="a PNG or SVG in base64; empty for none, null keeps the one that is there"
    )
    sections: list[str] = Field(
        [], max_length=20, description=f"of calculations, of {', '.join(SECTIONS)}; none: all of them"
    )
    lines: str = Field("", max_length=20, description="whose worked lines: governing, all, none; empty: governing")


class KeptProfile(BaseModel):
    name: str = Field(description="'usual' holds where none is named")
    firm: list[str]
    registration: str
    emblem: str = Field(description="png or svg; empty where there is none")
    sections: list[str]
    lines: str
    author: str
    made: str


def _answer(kept: Profile) -> dict[str, Any]:
    firm = [line for line in kept.firm.splitlines() if line.strip()]
    own = {name: getattr(kept, name) for name in ("name", "registration", "sections", "lines", "author", "made")}
    return own | {"firm": firm, "emblem": kept.kind}


def _found(name: str) -> Profile:
    kept = profiles.find(name)
    if kept is None:
        raise Refused(404, f"the house has no profile '{name[:60]}'")
    return kept


@api.get("/profiles", responses={200: a.Page[KeptProfile]})
def list_profiles() -> Reply:
    """Every profile of the house."""
    caller()
    listed = [_answer(kept) for kept in profiles.listed()]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/profiles/<string:profile>/emblem", responses={200: None})
def get_emblem(path: ProfilePath) -> Response:
    """The emblem as it was sent."""
    caller()
    kept = _found(path.profile)
    if not kept.kind:
        raise Refused(404, f"the profile '{kept.name}' has no emblem")
    safe = {"Content-Security-Policy": "default-src 'none'; sandbox", "X-Content-Type-Options": "nosniff"}
    return Response(bytes(kept.emblem), mimetype=KINDS[kept.kind], headers=safe)


@api.put("/profiles/<string:profile>", responses={200: KeptProfile})
def put_profile(path: ProfilePath, body: PrintingProfile) -> Reply:
    """Keep a profile: an administrator's word. What is printed from then on has it."""
    user = administrator()
    if wrong := [name for name in body.sections if name not in SECTIONS]:
        raise InputError(f"'{wrong[0]}' is no section; there are {', '.join(SECTIONS)}")
    if body.lines and body.lines not in LINES:
        raise InputError(f"lines are of {', '.join(LINES)}, not of '{body.lines}'")
    emblem, kind = _emblem(path.profile, body.emblem)
    firm = tuple(" ".join(line.split()) for line in body.firm if line.strip())
    registration = " ".join(body.registration.split())
    own = profiles.Printing(firm, registration, emblem, kind, tuple(dict.fromkeys(body.sections)), body.lines)
    return _answer(profiles.put(path.profile, own, user.name))


def _emblem(profile: str, sent: str | None) -> tuple[bytes, str]:
    if sent is None:
        kept = profiles.find(profile)
        return (bytes(kept.emblem), kept.kind) if kept else (b"", "")
    try:
        emblem = base64.b64decode(sent, validate=True)
    except (binascii.Error, ValueError) as exc:
        raise InputError("emblem: it is not base64") from exc
    return emblem, kind_of(emblem) if emblem else ""


@api.delete("/profiles/<string:profile>", responses={204: None})
def remove_profile(path: ProfilePath) -> Response:
    """Take one away: an administrator's word."""
    administrator()
    if not profiles.remove(path.profile):
        raise Refused(404, f"the house has no profile '{path.profile[:60]}'")
    return Response(status=204)
