"""A situation with its sizes and actions in a trial's form: read in again, it is the same connection."""

from __future__ import annotations

import math
from dataclasses import fields
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.catalogue import INCHES, STOCKS
from handrail.core.checking.trial.acting import BESIDE, KIND
from handrail.core.checking.trial.trial import read_trial
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import SUPPORT, SUPPORTED, Foundation, Piece, Situation
from handrail.core.quantities.units import FOOT, KIP, SHOWN
from handrail.core.standards import Standard
from handrail.core.standards.sizes import NOT_CHOSEN, Parameter, Sizes, Value

DIGITS = 8  # significant, of an amount
Form = dict[str, Any]


def form(
    code: Code, standard: Standard, situation: Situation, sizes: Sizes, actions: Actions, system: str = "us"
) -> Form:
    """The trial, amounts with their units in `system`. `actions` are of one connection, (combinations,)."""
    found: Form = {"code": code.name, "method": code.method, "framing": situation.framing, "standard": standard.name}
    if situation.shop != INCHES:
        found["stock"] = next(name for name, shop in STOCKS.items() if shop == situation.shop)
    found["pieces"] = [_piece(piece, system) for piece in situation.pieces if piece.role in (SUPPORTED, SUPPORT)]
    if situation.foundation is not None:
        found["foundation"] = _foundation(situation.foundation, system)
    geometry = _geometry(situation, system)
    if geometry:
        found["geometry"] = geometry
    found["parameters"] = {
        p.name: typed(p, size.formula or size.value, system)
        for p in standard.parameters
        if (size := sizes.get(p.name)) is not None and size.source not in NOT_CHOSEN
    }
    return found | {"actions": _actions(actions, system, situation.opposed)}


def left_out(written: Form, situation: Situation) -> list[str]:
    """What of a situation a trial's form does not say, by its names; the words of the refusal where it cannot be
    read."""
    try:
        read = read_trial(written).situation
    except InputError as exc:
        return [str(exc)]
    return [
        _told(of.name) for of in fields(Situation) if not _same(getattr(read, of.name), getattr(situation, of.name))
    ]


def _told(name: str) -> str:
    words = {"shop": "the shop's own steps", "quaking": "how much of it an earthquake is"}
    return words.get(name, name.replace("_", " "))


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, tuple) and isinstance(other, tuple) and len(one) == len(other):
        return all(_same(a, b) for a, b in zip(one, other, strict=True))
    if isinstance(one, Piece) and isinstance(other, Piece):
        pairs = ((one.skew, other.skew), (one.slope, other.slope), (one.offset, other.offset))
        return (one.role, one.steel, one.face, one.ends_here) == (
            other.role, other.steel, other.face, other.ends_here
        ) and all(math.isclose(a, b, rel_tol=1e-6, abs_tol=1e-6) for a, b in pairs)  # fmt: skip
    if isinstance(one, Foundation) and isinstance(other, Foundation):
        return all(_same(getattr(one, of.name), getattr(other, of.name)) for of in fields(Foundation))
    if isinstance(one, float) and isinstance(other, float):
        return math.isclose(one, other, rel_tol=1e-6)
    return bool(one == other)


def _amount(value: float, kind: str, system: str) -> str:
    unit, scale = SHOWN[system][kind]
    if kind == "moment" and system == "us":
        unit, scale = "kip*ft", 1 / (KIP * FOOT)
    text = np.format_float_positional(float(f"{value * scale:.{DIGITS}g}"), trim="-")
    return f"{text} {unit}"


def _piece(piece: Piece, system: str) -> Form:
    found: Form = {"role": piece.role, "section": piece.steel.section.name, "grade": piece.steel.grade.name}
    for name, value, kind in (("skew", piece.skew, "angle"), ("slope", piece.slope, "angle"),
                              ("offset", piece.offset, "length")):  # fmt: skip
        if value:
            found[name] = _amount(value, kind, system)
    if piece.face:
        found["face"] = piece.face
    if piece.ends_here:
        found["ends_here"] = True
    return found


def _foundation(of: Foundation, system: str) -> Form:
    edges = {
        name: [None if math.isinf(v) else _amount(v, "length", system) for v in pair]
        for name, pair in (("along", of.along), ("across", of.across))
        if not all(map(math.isinf, pair))
    }
    found: Form = {"kind": of.kind, "fc": _amount(of.fc, "stress", system)}
    found["thickness"] = _amount(of.thickness, "length", system)
    return found | ({"edges": edges} if edges else {}) | ({} if of.cracked else {"cracked": False})


def _geometry(situation: Situation, system: str) -> Form:
    found: Form = {"opposed": True} if situation.opposed else {}
    if situation.lateral:
        found["lateral"] = situation.lateral
    elif situation.detailed:
        found["seismic"] = True
    if situation.category:
        found["category"] = situation.category.lower()
    if situation.fixity:
        found["fixity"] = situation.fixity
    if situation.braced:
        found["braced"] = True
    for name in ("above_floor", "storey", "clear"):
        if (value := getattr(situation, name)) is not None:
            found[name] = _amount(value, "length", system)
    return found


def typed(parameter: Parameter, value: Value, system: str) -> str | int:
    """As a person would type it, where that is the same size again; else with all its digits."""
    if isinstance(value, int) or (isinstance(value, str) and value.startswith("=")):
        return value
    shown = parameter.show(value, system)
    try:
        read = parameter.read(shown)
    except InputError:
        return parameter.given(value)
    return shown if _same(read, value) else parameter.given(value)


def _actions(actions: Actions, system: str, opposed: bool) -> list[Form]:
    """A line a combination: what acts, of the other side what is known, and by what it is judged."""
    rows = []
    for k, name in enumerate(actions.names):
        row: Form = {"name": name}
        if actions.sets:
            method, of = actions.sets[k]
            row |= {"method": method} | ({"set": of} if of != "strength" else {})
        if actions.seismic and actions.seismic[k]:
            row["seismic"] = True
        for component in COMPONENTS:
            value = float(getattr(actions, component)[k])
            if value or component == "V":
                row[component] = _amount(value, KIND[component], system)
        for short, (role, component) in BESIDE.items():
            forces = actions.of_role(role)
            if forces is None or (role == "opposite" and not opposed):
                continue
            own = np.broadcast_to(getattr(forces, component), actions.V.shape)[k]
            if not np.isnan(own):
                row[short] = _amount(float(own), "force", system)
        rows.append(row)
    return rows
