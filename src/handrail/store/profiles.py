"""How the house prints, by name: the firm's own lines and emblem, which sections calculations have. The one called
USUAL holds where none is named."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from handrail.core.errors import InputError
from handrail.store.database import rows, writing
from handrail.store.models import Profile, now

USUAL = "usual"
_NAME = re.compile(r"[a-z0-9][a-z0-9-]{0,63}")
MOST = 50


@dataclass(frozen=True)
class Printing:
    """What a profile says. `sections` and `lines` empty: what is usual."""

    firm: tuple[str, ...] = ()
    registration: str = ""
    emblem: bytes = b""
    kind: str = ""  # of the emblem: png or svg
    sections: tuple[str, ...] = ()
    lines: str = ""


def listed() -> list[Profile]:
    """All of them, by name."""
    return list(Profile.select().order_by(Profile.name))


def find(name: str) -> Profile | None:
    """The one called so."""
    found: Profile | None = Profile.get_or_none(Profile.name == name)
    return found


def said(name: str = "") -> Printing:
    """What the one called `name` says, or the usual one; nothing where that is not there. Raises InputError."""
    kept = find(name or USUAL)
    if kept is None:
        if not name:
            return Printing()
        there = ", ".join(p.name for p in listed()) or "none"
        raise InputError(f"the house has no profile '{name[:60]}'; there are {there}")
    firm = tuple(line.strip() for line in kept.firm.splitlines() if line.strip())
    return Printing(firm, kept.registration, bytes(kept.emblem), kept.kind, tuple(kept.sections), kept.lines)


def stamp() -> str:
    """Another one whenever one of them changes: what is printed rests on them."""
    return repr(rows("SELECT name, made FROM profile ORDER BY name"))


def put(name: str, printing: Printing, author: str) -> Profile:
    """Keep one, in place of what was called so. Raises InputError."""
    if not _NAME.fullmatch(name):
        raise InputError(f"'{name[:60]}' is no name of a profile: small letters, figures and -, like letter-size")
    with writing():
        if find(name) is None and Profile.select().count() >= MOST:
            raise InputError(f"the house has {MOST} profiles, which is as many as there may be: take one away")
        Profile.delete().where(Profile.name == name).execute()
        return Profile.create(
            name=name,
            firm="\n".join(printing.firm),
            registration=printing.registration,
            emblem=printing.emblem,
            kind=printing.kind,
            sections=list(printing.sections),
            lines=printing.lines,
            author=author,
            made=now(),
        )


def remove(name: str) -> bool:
    """Take one away; whether it was there."""
    with writing():
        return bool(Profile.delete().where(Profile.name == name).execute())


def firm_of(lines: Sequence[str], printing: Printing) -> tuple[str, ...]:
    """What is printed of the firm: the job's own lines where it has some, and the registration under them."""
    own = tuple(lines) or printing.firm
    return (*own, printing.registration) if printing.registration else own
