"""The members of a trial's connection by role: listed under `pieces`, or in the short form of one member at another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from handrail.core.catalogue import Steel, grade, grades_fit, section
from handrail.core.checking.trial.entries import amount, known, mapping, need, truth
from handrail.core.errors import InputError
from handrail.core.joint.situation import SUPPORT, SUPPORTED, Piece, faces_of

STEEL = {"section", "grade"}
MEETS = {"skew": "angle", "slope": "angle", "offset": "length"}  # of the member whose end it is
# what the short form calls each under `geometry`: (role, what it is of the piece)
SHORT = {"skew": (SUPPORTED, "skew"), "slope": (SUPPORTED, "slope"), "top_offset": (SUPPORTED, "offset"),
         "face": (SUPPORTED, "face"), "support_end": (SUPPORT, "ends_here")}  # fmt: skip


def read_pieces(
    data: Mapping[str, Any], geometry: Mapping[str, Any], roles: Sequence[str], bent: bool
) -> tuple[Piece, ...]:
    """The pieces in these `roles`, which each stand once; `bent` says that they may meet at an angle. Raises InputError
    that names the entry."""
    entries, where = _listed(data, geometry, roles) if "pieces" in data else _short(data, geometry, roles)
    steels = {role: _steel(entries[role], where[role][""]) for role in roles}
    carrier = steels.get(SUPPORT)
    return tuple(_piece(role, steels[role], entries[role], where[role], carrier, bent) for role in roles)


Entries = tuple[dict[str, Mapping[str, Any]], dict[str, dict[str, str]]]  # by role; and where each of it stands


def _short(data: Mapping[str, Any], geometry: Mapping[str, Any], roles: Sequence[str]) -> Entries:
    """`supported`, `support` and `geometry` as entries of pieces."""
    entries: dict[str, Mapping[str, Any]] = {}
    where = {role: {"": role} for role in roles}
    for role in roles:
        own = mapping(need(data, role, "{section: W18X40, grade: A992}"), role)
        known(own, STEEL, role)
        met = {name: geometry[short] for short, (of, name) in SHORT.items() if of == role and short in geometry}
        where[role] |= {name: f"geometry.{short}" for short, (of, name) in SHORT.items() if of == role}
        entries[role] = dict(own) | met
    return entries, where


def _listed(data: Mapping[str, Any], geometry: Mapping[str, Any], roles: Sequence[str]) -> Entries:
    """The list of `pieces`."""
    if twice := [role for role in (SUPPORTED, SUPPORT) if role in data]:
        raise InputError(f"{twice[0]}: it is short for a piece; give it there or in pieces, not both")
    if twice := [short for short in SHORT if short in geometry]:
        raise InputError(
            f"geometry.{twice[0]}: with pieces, it is said of one: {{role: {SHORT[twice[0]][0]}, {SHORT[twice[0]][1]}:"
            " ...}"
        )
    if not isinstance(data["pieces"], list):
        raise InputError("pieces: give a list, like - {role: supported, section: W18X40, grade: A992}")
    entries: dict[str, Mapping[str, Any]] = {}
    where: dict[str, dict[str, str]] = {}
    for k, raw in enumerate(data["pieces"], 1):
        at = f"pieces[{k}]"
        entry = mapping(raw, at)
        role = str(need(entry, "role", f"{at} one of {', '.join(roles)}")) if "role" in entry else ""
        if role not in roles:
            raise InputError(f"{at}.role: '{role}' is none of {', '.join(roles)}, which this framing has")
        if role in entries:
            raise InputError(f"{at}.role: there is a piece in the role {role} already; this framing has one")
        known(entry, {"role"} | STEEL | _of_role(role), at)
        entries[role], where[role] = entry, {name: f"{at}.{name}" for name in _of_role(role)} | {"": at}
    if missing := [role for role in roles if role not in entries]:
        raise InputError(f"pieces: none is {missing[0]}; add {{role: {missing[0]}, section: W18X40, grade: A992}}")
    return entries, where


def _of_role(role: str) -> set[str]:
    """What can be said of a piece beside its steel."""
    return {name for of, name in SHORT.values() if of == role}


def _piece(
    role: str, steel: Steel, entry: Mapping[str, Any], where: Mapping[str, str], carrier: Steel | None, bent: bool
) -> Piece:
    given = {name for name in _of_role(role) if name in entry}
    if given and not bent:
        name = min(given)
        raise InputError(f"{where[name]}: the pieces of this framing are in one line; leave it out")
    met: dict[str, Any] = {n: amount(entry[n], kind, where[n]) for n, kind in MEETS.items() if n in given}
    if "face" in given:
        met["face"] = _face(entry["face"], carrier, where["face"])
    if "ends_here" in given:
        met["ends_here"] = truth(entry["ends_here"], where["ends_here"])
    return Piece(role, steel, **met)


def _steel(entry: Mapping[str, Any], where: str) -> Steel:
    try:
        steel = (
            section(str(need(entry, "section", "a section's name"))),
            grade(str(need(entry, "grade", "a grade's name"))),
        )
    except InputError as exc:
        raise InputError(f"{where}: {exc.words}") from exc
    if problem := grades_fit(*steel):
        raise InputError(f"{where}: {problem}")
    return Steel.of(*steel)


def _face(said: Any, support: Steel | None, where: str) -> str:
    name, faces = str(said).strip().lower(), faces_of(support)
    if name not in faces:
        what = support.section.name if support else "a foundation"
        raise InputError(
            f"{where}: '{said}' is none of {', '.join(faces)}"
            if faces
            else f"{where}: {what} has no faces to tell apart; leave it out"
        )
    return name
