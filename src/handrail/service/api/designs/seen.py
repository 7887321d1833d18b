"""Designs as a caller sees them: found by who may, written as answers."""

from __future__ import annotations

from typing import Any

from handrail.core.quantities.units import show
from handrail.core.quantities.words import said
from handrail.core.rulebook.design import read_design
from handrail.service.api.auth import caller, house_user
from handrail.service.api.designs import requests as q
from handrail.service.application import designing
from handrail.service.application.refused import Refused
from handrail.store import accounts, design_files, designs
from handrail.store.designs import Reader
from handrail.store.models import HouseDesign


def reader_now() -> Reader:
    user = caller()
    roles = accounts.roles_of(user)
    return Reader(user.name, bool(user.admin), tuple(roles), tuple(dict.fromkeys(roles.values())))


def one_seen(path: q.DesignRevisionPath, reader: Reader) -> HouseDesign:
    kept = HouseDesign.get_or_none((HouseDesign.name == path.name) & (HouseDesign.number == path.number))
    if kept is None or not designs.sees(kept, reader):
        raise Refused(404, f"there is no design '{path.name} R{path.number}' that you can see")
    return kept


def as_row(kept: HouseDesign, units: str) -> dict[str, Any]:
    plain = ("name", "number", "state", "title", "note", "tags", "seen_by", "author", "made", "signer", "signed")
    more = ("source", "job", "standard", "framing", "section", "support", "bolt", "steel", "bolts")
    own = {name: getattr(kept, name) for name in (*plain, *more, "checked")}
    own |= {name: said(getattr(kept, name), units) for name in ("differs", "why")}
    own["summary"] = (kept.summary_si if units == "si" else "") or kept.summary
    return own | {"called": designs.called(kept), "holds": [_held(n, v, units) for n, v in kept.holds.items()]}


def _held(action: str, held: list[Any], units: str) -> dict[str, Any]:
    amount, check = held
    scale, kind = designing.SCALES["M" if action.startswith("M") else "N"]
    return {
        "action": action,
        "words": designing.WORDS.get(action, action),
        "amount": round(amount * scale, 3),
        "text": show(amount, kind, units),
        "check": check,
    }


def as_written(kept: HouseDesign, reader: Reader, units: str) -> dict[str, Any]:
    design = read_design(kept.text)
    jobs = set(reader.jobs)
    used = [one for one in designs.used(kept.name) if reader.admin or one["job"] in jobs]
    return as_row(kept, units) | {
        "text": kept.text,
        "fits": [str(part) for part in design.when.parts],
        "fields": [
            {n: getattr(of, n) for n in ("name", "kind", "label", "help", "usual", "low", "high")}
            | {"choices": list(of.choices)}
            for of in design.fields
        ],
        "parameters": dict(design.parameters),
        "trial": designing.as_trial(design) if design.on else None,
        "revisions": [as_row(one, units) for one in designs.revisions(kept.name) if designs.sees(one, reader)],
        "used": used,
        "files": design_files.of(kept),
    }


def own_or_engineers(path: q.DesignRevisionPath) -> HouseDesign:
    """One that the caller may say something about: its author, or an engineer."""
    reader = reader_now()
    kept = one_seen(path, reader)
    if kept.author != reader.name:
        house_user(writes=True)
    return kept


def tags_of(given: list[str]) -> list[str]:
    return list(dict.fromkeys(" ".join(tag.split())[:60] for tag in given if tag.strip()))
